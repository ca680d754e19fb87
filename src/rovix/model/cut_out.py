"""How a matte was made: of which footage, from what was drawn over it. With it the matte can be made
again."""

from __future__ import annotations

from typing import Annotated

import msgspec

from rovix.model.limits import Far, Name
from rovix.model.node import Node
from rovix.model.reference import refers

Numbered = Annotated[int, msgspec.Meta(ge=0, le=100_000_000)]


class Stroke(Node, frozen=True, kw_only=True):
    """A line drawn over a frame of the file, `width` of its px wide: what is under it `belongs` to the
    thing, or does not. Points are px from the left top corner."""

    frame: Numbered
    points: Annotated[tuple[tuple[Far, Far], ...], msgspec.Meta(min_length=1, max_length=10_000)]
    width: Annotated[float, msgspec.Meta(gt=0, le=10_000)] = 12.0
    belongs: bool = True


class CutOut(Node, frozen=True, kw_only=True):
    """A thing cut out of `footage` whose content was `digest`: what is in a `box` (x, y, width, height in
    px) of a frame of the file, or under the strokes in it where there is none; looked for from frame
    `first` to `last` of the file."""

    footage: Annotated[str, refers("media", "be cut out of", files=("footage",))]
    digest: Name = ""
    frame: Numbered = 0
    box: tuple[Far, Far, Far, Far] | None = None
    strokes: Annotated[tuple[Stroke, ...], msgspec.Meta(max_length=10_000)] = ()
    first: Numbered = 0
    last: Numbered = 100_000_000
