"""Treatments: what is done to a layer's edges and pixels, one after the other.

Lengths are px of the sequence, angles degrees clockwise from rightwards, shares 0 to 1. One that is
not `shown` keeps its settings and does nothing.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

import msgspec

from rovix.model.blend import BlendMode
from rovix.model.channel import KeyedColour, Number, Offset, Share, Sigma, keyed
from rovix.model.ground import Plain, ShapeFill
from rovix.model.node import Id, Node, new_id
from rovix.model.reference import refers

if TYPE_CHECKING:
    Far = float
    Inset = float
    Edge = float | None
    Radius = float
    Strength = float
    Gap = float
    Width = float
    Gamma = float
else:
    Far = keyed(-2_000_000, 2_000_000)
    Inset = keyed(0, 100_000)
    Edge = keyed(-100_000, 100_000) | None
    Radius = keyed(0, 10_000)
    Strength = keyed(0, 20)
    Gap = keyed(0, 10_000)
    Width = keyed(0, 500)
    Gamma = keyed(0.05, 20)

RiddenId = Annotated[str, refers("layer", "ride")]
Pin = Literal["words", "frame"]
Seed = Annotated[int, msgspec.Meta(ge=0, le=2**53)]
SWEEP = Plain(colour="#f2b13c")


class _Treatment(Node, frozen=True, kw_only=True, tag_field="treatment"):
    id: Id = msgspec.field(default_factory=new_id)
    shown: bool = True


class Opening(_Treatment, frozen=True, kw_only=True, tag="opening"):
    """Straight edges that the layer shows through, each so far in from that side of its block, or of
    the frame where it is pinned there; below 0 it lies outside. None is no edge on that side."""

    pin: Pin = "words"
    left: Edge = None
    top: Edge = None
    right: Edge = None
    bottom: Edge = None
    feather: Sigma = 0.0
    radius: Radius = 0.0


class Crop(_Treatment, frozen=True, kw_only=True, tag="crop"):
    """So many px cut off each side of what the layer shows; 0 cuts nothing."""

    left: Inset = 0.0
    top: Inset = 0.0
    right: Inset = 0.0
    bottom: Inset = 0.0


class Ride(Node, frozen=True, kw_only=True):
    """A layer whose `at` a wipe's edge stays on: its middle, or one of its sides."""

    layer: RiddenId
    at: Literal["middle", "left", "right", "top", "bottom"] = "middle"


class Wipe(_Treatment, frozen=True, kw_only=True, tag="wipe"):
    """Shows a `share` of the layer, 1 all of it.

    `straight` goes at an angle; `round` clockwise about the middle from there; `middle` out from the
    middle line across the angle; `blinds` at an angle in `count` strips; `pieces` one letter after
    the other. `hides` turns round what is shown. With a `ride` the edge goes through that layer, and
    the share counts for nothing.
    """

    way: Literal["straight", "round", "middle", "blinds", "pieces"] = "straight"
    share: Share = 1.0
    angle: Number = 0.0
    feather: Sigma = 0.0
    count: Annotated[int, msgspec.Meta(ge=1, le=200)] = 6
    hides: bool = False
    pin: Pin = "words"
    ride: Ride | None = None


class Sweep(_Treatment, frozen=True, kw_only=True, tag="sweep"):
    """A second paint that has run over a `share` of the layer: by a wipe's ways, or in `blocks` that
    travel in one after another, the far end filled first."""

    paint: ShapeFill = SWEEP
    way: Literal["straight", "round", "middle", "blinds", "pieces", "blocks"] = "straight"
    share: Share = 0.5
    angle: Number = 0.0
    feather: Sigma = 0.0
    count: Annotated[int, msgspec.Meta(ge=1, le=200)] = 6


class Wrap(_Treatment, frozen=True, kw_only=True, tag="offset"):
    """A shift that wraps round the frame, in px or in widths and heights of the frame."""

    x: Far = 0.0
    y: Far = 0.0
    unit: Literal["px", "frame"] = "px"


class Echo(_Treatment, frozen=True, kw_only=True, tag="echo"):
    """Copies of the layer as it was a little earlier, each keeping `kept` of the strength of the one
    before, each `shift` degrees of hue further. The gap is frames, seconds, or px along its way."""

    copies: Annotated[int, msgspec.Meta(ge=0, le=60)] = 4
    gap: Gap = 2.0
    unit: Literal["frames", "seconds", "px"] = "frames"
    kept: Share = 0.6
    blend: BlendMode = "normal"
    front: bool = False
    shift: Number = 0.0


class Blur(_Treatment, frozen=True, kw_only=True, tag="blur"):
    """Sigmas across and down in px, `along` the layer's motion at that moment, and round a point, a
    share of the frame: `spin` in degrees, `zoom` as a share of the distance from it."""

    across: Sigma = 0.0
    down: Sigma = 0.0
    along: Sigma = 0.0
    spin: Number = 0.0
    zoom: Share = 0.0
    x: Number = 0.5
    y: Number = 0.5


class Halo(_Treatment, frozen=True, kw_only=True, tag="glow"):
    """Light around what the layer shows."""

    size: Sigma = 24.0
    strength: Strength = 1.5
    colour: KeyedColour = "#ffd9a0"
    opacity: Share = 1.0


class Cast(_Treatment, frozen=True, kw_only=True, tag="shadow"):
    """A soft shadow of what the layer shows."""

    x: Offset = 6.0
    y: Offset = 8.0
    blur: Sigma = 6.0
    colour: KeyedColour = "#0b1014"
    opacity: Share = 0.7


class LongCast(_Treatment, frozen=True, kw_only=True, tag="long-shadow"):
    """A solid shadow of what the layer shows, to the frame's edge."""

    angle: Number = 45.0
    colour: KeyedColour = "#16222a"
    opacity: Share = 1.0


class Rim(_Treatment, frozen=True, kw_only=True, tag="edge"):
    """An outline round what the layer shows, from how opaque it is."""

    width: Width = 6.0
    colour: KeyedColour = "#fff8ea"
    opacity: Share = 1.0


class Tone(_Treatment, frozen=True, kw_only=True, tag="tone"):
    """Saturation, 1 as it is; levels: what becomes black and white, and the middle's gamma; a tint
    that takes the place of the colours by a share, light and dark staying."""

    saturation: Strength = 1.0
    black: Share = 0.0
    white: Share = 1.0
    gamma: Gamma = 1.0
    tint: Share = 0.0
    colour: KeyedColour = "#f2b13c"


class Tear(_Treatment, frozen=True, kw_only=True, tag="tear"):
    """Bands pushed aside by up to `shift` px, and red and blue apart by `split` px; drawn anew every
    `every` frames, 0 for once and for all."""

    bands: Annotated[int, msgspec.Meta(ge=1, le=500)] = 12
    shift: Offset = 40.0
    split: Offset = 6.0
    seed: Seed = 1
    every: Annotated[int, msgspec.Meta(ge=0, le=10_000)] = 2


class Grain(_Treatment, frozen=True, kw_only=True, tag="grain"):
    """Noise of up to `amount` of full scale in grains of `size` px; anew every `every` frames."""

    amount: Share = 0.12
    size: Annotated[float, msgspec.Meta(ge=0.5, le=100)] = 2.0
    seed: Seed = 1
    every: Annotated[int, msgspec.Meta(ge=0, le=10_000)] = 1


Treatment = (
    Opening | Crop | Wipe | Sweep | Wrap | Echo | Blur | Halo | Cast | LongCast | Rim | Tone | Tear | Grain
)
