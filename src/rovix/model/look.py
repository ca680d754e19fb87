"""How words look: parts over each other, the first on top."""

from __future__ import annotations

from typing import Annotated, Literal

import msgspec

from rovix.model.colour import Colour
from rovix.model.ground import Plain, ShapeFill
from rovix.model.node import Id, Node, new_id

Share = Annotated[float, msgspec.Meta(ge=0, le=1)]
Offset = Annotated[float, msgspec.Meta(ge=-20_000, le=20_000)]
Sigma = Annotated[float, msgspec.Meta(ge=0, le=1000)]
CREAM = Plain(colour="#fff8ea")
DARK = Plain(colour="#1c2a33")


class _Part(Node, frozen=True, kw_only=True, tag_field="part"):
    """A part that is not `shown` keeps its settings and draws nothing."""

    id: Id = msgspec.field(default_factory=new_id)
    shown: bool = True
    opacity: Share = 1.0


class Fill(_Part, frozen=True, kw_only=True, tag="fill"):
    """The letters' faces. A gradient runs over the whole `block` or over each `letter` anew.

    Letters with a colour of their own have that.
    """

    paint: ShapeFill = CREAM
    over: Literal["block", "letter"] = "block"


class Outline(_Part, frozen=True, kw_only=True, tag="outline"):
    """A line along the letters' edges; `width` in px of the sequence.

    Outside and on the edge it is the ring that it adds to the outlines above it.
    """

    width: Annotated[float, msgspec.Meta(gt=0, le=2000)] = 6.0
    colour: Colour = "#1c2a33"
    side: Literal["outside", "centre", "inside"] = "outside"
    join: Literal["round", "miter", "bevel"] = "round"


class Shadow(_Part, frozen=True, kw_only=True, tag="shadow"):
    """A soft shadow: offset in px right and down, `blur` in px of sigma, `spread` px wider.

    Sizes go with the words' scale; the light does not turn with them.
    """

    x: Offset = 6.0
    y: Offset = 8.0
    blur: Sigma = 6.0
    spread: Annotated[float, msgspec.Meta(ge=-2000, le=2000)] = 0.0
    colour: Colour = "#0b1014"


class LongShadow(_Part, frozen=True, kw_only=True, tag="long-shadow"):
    """A solid shadow to the frame's edge; `angle` in degrees clockwise from rightwards."""

    angle: float = 45.0
    colour: Colour = "#16222a"


class Glow(_Part, frozen=True, kw_only=True, tag="glow"):
    """Light around the letters: `size` in px of sigma; a `strength` above 1 makes its middle solid."""

    size: Sigma = 24.0
    strength: Annotated[float, msgspec.Meta(ge=0, le=20)] = 1.5
    colour: Colour = "#ffd9a0"


class Box(_Part, frozen=True, kw_only=True, tag="box"):
    """A box behind the words: capitals to baseline and the widest line, plus padding, px.

    Over the whole `block`, or one for each `line` as wide as that line.
    """

    paint: ShapeFill = DARK
    padding_x: Annotated[float, msgspec.Meta(ge=-10_000, le=10_000)] = 40.0
    padding_y: Annotated[float, msgspec.Meta(ge=-10_000, le=10_000)] = 32.0
    radius: Annotated[float, msgspec.Meta(ge=0, le=10_000)] = 14.0
    over: Literal["block", "line"] = "block"


LookPart = Fill | Outline | Shadow | LongShadow | Glow | Box


class Look(Node, frozen=True, kw_only=True):
    """The parts, the first on top."""

    parts: tuple[LookPart, ...] = msgspec.field(default_factory=lambda: (Fill(),))

    @property
    def fill(self) -> Fill | None:
        """The topmost fill that is shown."""
        return next((part for part in self.parts if isinstance(part, Fill) and part.shown), None)

    @property
    def outlines(self) -> tuple[Outline, ...]:
        """The outlines that are shown, the uppermost first."""
        return tuple(part for part in self.parts if isinstance(part, Outline) and part.shown)
