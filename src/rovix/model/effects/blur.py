"""Blurs of a layer's picture."""

from __future__ import annotations

from rovix.model.channel import Number, Share, Sigma
from rovix.model.effects.effect import Effect, Sides
from rovix.model.effects.rows import Facts, Numbers, degrees, percent


class Blur(Effect, frozen=True, kw_only=True, tag="blur"):
    """Sigmas `x` and `y` in px, `along` the layer's motion at that moment, and round a point, a share
    of the frame: `spin` in degrees, `zoom` as a share of the distance from it."""

    facts = Facts(
        "Blur",
        130,
        (
            Numbers(("x", "y"), "X, Y", ("X", "Y"), "px", step=0.5),
            Numbers(("along",), "Along", ("along the motion",), "px", step=0.5),
            degrees("spin", "Round", "round the point"),
            percent("zoom", "Zoom", "to and from the point"),
            Numbers(("point_x", "point_y"), "Point", ("point X", "point Y"), "%"),
        ),
        {"x": 8.0, "y": 8.0},
        lambda blur: f"{max(blur.x, blur.y, blur.along):.3g} px",
    )

    x: Sigma = 0.0
    y: Sigma = 0.0
    along: Sigma = 0.0
    spin: Number = 0.0
    zoom: Share = 0.0
    point_x: Number = 0.5
    point_y: Number = 0.5

    def beyond(self, sigmas: float) -> Sides:
        across, down = sigmas * max(self.x, self.along), sigmas * max(self.y, self.along)
        return across, down, across, down
