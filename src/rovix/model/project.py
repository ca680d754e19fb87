"""The root of the tree: project and sequence."""

from __future__ import annotations

from functools import lru_cache
from typing import Annotated

import msgspec

from rovix.model.accepted import Accepted, KeepFree
from rovix.model.colour import Colour
from rovix.model.limits import Name
from rovix.model.media import Media
from rovix.model.node import Id, Node, new_id
from rovix.model.shutter import Shutter
from rovix.model.track import Track, Whole
from rovix.time import Rate

Side = Annotated[int, msgspec.Meta(ge=16, le=16384)]


@lru_cache(maxsize=64)
def _rate(text: str) -> Rate:
    return Rate(text)


class Marker(Node, frozen=True, kw_only=True):
    """A named frame of a sequence."""

    id: Id = msgspec.field(default_factory=new_id)
    frame: Whole
    name: Name = ""


class Guide(Node, frozen=True, kw_only=True):
    """A line to place layers by: upright at x, or level at y, px from the frame's centre."""

    id: Id = msgspec.field(default_factory=new_id)
    upright: bool
    at: Annotated[float, msgspec.Meta(ge=-100_000, le=100_000)]


class Sequence(Node, frozen=True, kw_only=True):
    """Tracks from the lowest picture up; `size` is (width, height) in px; `rate` is exact text.

    `markers` stand in order of their frames. `shutter` is the motion blur of layers that have none of
    their own; it may be left out while editing, never in an export. Layers `by_depth` lie over each other as
    near as they are, where no footage or ground lies between them. What checks found is `accepted` as it is;
    words stay out of what is to be kept free.
    """

    id: Id = msgspec.field(default_factory=new_id)
    name: Name = "Sequence"
    size: tuple[Side, Side] = (1920, 1080)
    rate: Name = "30"
    background: Colour = "#000000"
    tracks: tuple[Track, ...] = ()
    markers: tuple[Marker, ...] = ()
    guides: tuple[Guide, ...] = ()
    shutter: Shutter = Shutter()
    blur_while_editing: bool = True
    by_depth: bool = False
    accepted: tuple[Accepted, ...] = ()
    keep_free: tuple[KeepFree, ...] = ()

    @property
    def frame_rate(self) -> Rate:
        return _rate(self.rate)

    @property
    def length(self) -> int:
        """Frames up to the end of the last clip; 0 when it is empty."""
        return max((track.length for track in self.tracks), default=0)


class Project(Node, frozen=True, kw_only=True):
    """Sequences, the first is the one rendered, and the media they draw on."""

    id: Id = msgspec.field(default_factory=new_id)
    name: Name = "Untitled"
    sequences: Annotated[tuple[Sequence, ...], msgspec.Meta(min_length=1)] = (Sequence(id="main"),)
    media: tuple[Media, ...] = ()

    @property
    def sequence(self) -> Sequence:
        return self.sequences[0]
