"""The kinds of clip, and the tracks that hold them. A layer is a clip on a picture track."""

from __future__ import annotations

from typing import Annotated, Literal, get_args

import msgspec

from rovix.model.ground import Ground, Plain
from rovix.model.look import Look
from rovix.model.move import Move
from rovix.model.node import Id, Node, new_id
from rovix.model.place import Place
from rovix.model.words import Words
from rovix.time import Span

Fit = Literal["fit", "fill", "as-is"]
Whole = Annotated[int, msgspec.Meta(ge=0, le=100_000_000)]


class _Clip(Node, frozen=True, kw_only=True):
    """On a track from frame `start` for `length` frames; in a group, counted from the group's start."""

    id: Id = msgspec.field(default_factory=new_id)
    name: str = ""
    start: Whole = 0
    length: Annotated[int, msgspec.Meta(ge=1, le=100_000_000)] = 1

    @property
    def span(self) -> Span:
        return Span(self.start, self.start + self.length)


class _Layer(_Clip, frozen=True, kw_only=True):
    """A clip with a picture. `parent` is the id of a layer of the same tracks whose place it follows."""

    place: Place = Place()
    moves: tuple[Move, ...] = ()
    parent: Id | None = None


class TextClip(_Layer, frozen=True, kw_only=True, tag="text", tag_field="kind"):
    words: Words = Words()
    look: Look = Look()


class FootageClip(_Layer, frozen=True, kw_only=True, tag="footage", tag_field="kind"):
    """Plays `media` from `offset`, in frames of the sequence. `gain` in dB is its own sound's."""

    media: Id
    offset: Whole = 0
    fit: Fit = "fit"
    gain: Annotated[float, msgspec.Meta(ge=-120, le=60)] = 0.0


class StillClip(_Layer, frozen=True, kw_only=True, tag="still", tag_field="kind"):
    """An image; `crop` round is a badge."""

    media: Id
    fit: Fit = "as-is"
    crop: Literal["none", "square", "round"] = "none"


class GroundClip(_Layer, frozen=True, kw_only=True, tag="ground", tag_field="kind"):
    ground: Ground = Plain()


class SoundClip(_Clip, frozen=True, kw_only=True, tag="sound", tag_field="kind"):
    """Plays `media` from `offset` frames; `gain` in dB; fades in frames, linear in amplitude."""

    media: Id
    offset: Whole = 0
    gain: Annotated[float, msgspec.Meta(ge=-120, le=60)] = 0.0
    fade_in: Whole = 0
    fade_out: Whole = 0


class GroupClip(_Layer, frozen=True, kw_only=True, tag="group", tag_field="kind"):
    """Tracks of its own, treated as one layer."""

    tracks: tuple[Track, ...] = ()


PictureClip = TextClip | FootageClip | StillClip | GroundClip | GroupClip
Clip = TextClip | FootageClip | StillClip | GroundClip | SoundClip | GroupClip
PICTURE_CLIPS = get_args(PictureClip)


class Track(Node, frozen=True, kw_only=True):
    """Clips in order of their start, none overlapping another."""

    id: Id = msgspec.field(default_factory=new_id)
    name: str = ""
    kind: Literal["picture", "sound"] = "picture"
    clips: tuple[Clip, ...] = ()
    hidden: bool = False
    muted: bool = False
    locked: bool = False

    @property
    def length(self) -> int:
        """Frames up to the end of the last clip."""
        return max((clip.start + clip.length for clip in self.clips), default=0)
