"""How words look: parts over each other, the first on top."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

import msgspec

from rovix.model.background import Plain, ShapeFill
from rovix.model.channel import KeyedColour, Number, Offset, Share, Sigma, keyed
from rovix.model.node import Id, Node, new_id

if TYPE_CHECKING:
    Width = float
    Spread = float
    Strength = float
    Padding = float
    Radius = float
else:
    Width = keyed(0, 2000, above=True)
    Spread = keyed(-2000, 2000)
    Strength = keyed(0, 20)
    Padding = keyed(-10_000, 10_000)
    Radius = keyed(0, 10_000)
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

    width: Width = 6.0
    colour: KeyedColour = "#1c2a33"
    side: Literal["outside", "centre", "inside"] = "outside"
    join: Literal["round", "miter", "bevel"] = "round"


class Shadow(_Part, frozen=True, kw_only=True, tag="shadow"):
    """A soft shadow: offset in px right and down, `blur` in px of sigma, `spread` px wider.

    Sizes go with the words' scale; the light does not turn with them.
    """

    x: Offset = 6.0
    y: Offset = 8.0
    blur: Sigma = 6.0
    spread: Spread = 0.0
    colour: KeyedColour = "#0b1014"


class LongShadow(_Part, frozen=True, kw_only=True, tag="long-shadow"):
    """A solid shadow to the frame's edge; `angle` in degrees clockwise from rightwards."""

    angle: Number = 45.0
    colour: KeyedColour = "#16222a"


class Glow(_Part, frozen=True, kw_only=True, tag="glow"):
    """Light around the letters: `size` in px of sigma; a `strength` above 1 makes its middle solid."""

    size: Sigma = 24.0
    strength: Strength = 1.5
    colour: KeyedColour = "#ffd9a0"


class Box(_Part, frozen=True, kw_only=True, tag="box"):
    """A box behind the words: capitals to baseline and the widest line, plus padding, px.

    Over the whole `block`, or one for each `line` as wide as that line.
    """

    paint: ShapeFill = DARK
    padding_x: Padding = 40.0
    padding_y: Padding = 32.0
    radius: Radius = 14.0
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
