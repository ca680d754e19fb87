"""An offset that wraps round the frame."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

from rovix.model.channel import keyed
from rovix.model.effects.effect import Effect
from rovix.model.effects.rows import Choice, Facts, Numbers

if TYPE_CHECKING:
    Far = float
else:
    Far = keyed(-2_000_000, 2_000_000)


class WrapAround(Effect, frozen=True, kw_only=True, tag="wrap-around"):
    """A shift that wraps round the frame, in px or in widths and heights of the frame."""

    facts = Facts(
        "Wrap-around",
        110,
        (
            Choice("unit", "Counted in", {"px": "px", "frame": "Frame sizes"}),
            Numbers(
                ("x", "y"), "X, Y", ("offset X", "offset Y"), lambda e: "×" if e.unit == "frame" else "px",
                step=0.05, decimals=3,
            ),
        ),
        {"x": 0.25, "unit": "frame"},
        lambda wrap: f"{wrap.x:.4g}, {wrap.y:.4g} {'×' if wrap.unit == 'frame' else 'px'}",
    )  # fmt: skip

    x: Far = 0.0
    y: Far = 0.0
    unit: Literal["px", "frame"] = "px"
