"""A second paint that runs over a layer."""

from __future__ import annotations

from typing import Literal

from rovix.model.background import Plain, ShapeFill
from rovix.model.channel import Number, Share, Sigma
from rovix.model.effects.effect import Effect
from rovix.model.effects.rows import FEATHER, Facts, Menu, Paint, Whole, degrees, percent
from rovix.model.effects.wipe import WAYS, Strips

SWEEP = Plain(colour="#f2b13c")


class FillSweep(Effect, frozen=True, kw_only=True, tag="fill-sweep"):
    """A second paint that has run over a `share` of the layer: by a wipe's ways, or in `blocks` that
    travel in one after another, the far end filled first."""

    facts = Facts(
        "Fill sweep",
        20,
        (
            Paint(),
            Menu("way", "Way", WAYS | {"blocks": "In blocks"}, "How the colour runs over."),
            percent("share", "Share", "share covered"),
            degrees("angle"),
            FEATHER,
            Whole("count", "Strips", when=lambda sweep: sweep.way in ("blinds", "blocks")),
        ),
        summary=lambda sweep: f"{sweep.share * 100:.0f} %",
    )

    paint: ShapeFill = SWEEP
    way: Literal["straight", "round", "middle", "blinds", "pieces", "blocks"] = "straight"
    share: Share = 0.5
    angle: Number = 0.0
    feather: Sigma = 0.0
    count: Strips = 6
