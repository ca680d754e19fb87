"""The kinds of clip, and the tracks that hold them. A layer is a clip on a picture track."""

from __future__ import annotations

from typing import Annotated, Literal

import msgspec

from rovix.model.background import Background, Plain, ShapeFill
from rovix.model.blend import BlendMode
from rovix.model.channel import Share
from rovix.model.crossing import Crossing
from rovix.model.cut import Cut
from rovix.model.effects import AnyEffect
from rovix.model.limits import Name
from rovix.model.look import Look, Outline
from rovix.model.move import Move
from rovix.model.node import Id, Node, new_id
from rovix.model.playing import Playing
from rovix.model.reference import refers
from rovix.model.shape import Extent, Fits, Form, Radius
from rovix.model.shutter import Shutter
from rovix.model.sound import Sound
from rovix.model.text import Text
from rovix.model.title_use import TitleUse
from rovix.model.transform import Transform
from rovix.model.transition import Transition
from rovix.time import Span

Fit = Literal["fit", "fill", "as-is"]
FollowedId = Annotated[str, refers("layer", "follow", places=True)]
SeenId = Annotated[str, refers("layer", "be followed in")]
FootageId = Annotated[str, refers("media", "play", files=("footage",))]
StillId = Annotated[str, refers("media", "show", files=("still",))]
SoundId = Annotated[str, refers("media", "play", files=("sound", "footage"))]
ShownId = Annotated[str, refers("sequence", "show")]
HomeId = Annotated[str, refers("track", "return to", loose=True)]
Whole = Annotated[int, msgspec.Meta(ge=0, le=100_000_000)]


_TITLE = 28
"""Letters of its words that a text layer is called by."""


class _Clip(Node, frozen=True, kw_only=True):
    """On a track from frame `start` for `length` frames; in a group, counted from the group's start."""

    id: Id = msgspec.field(default_factory=new_id)
    name: Name = ""
    start: Whole = 0
    length: Annotated[int, msgspec.Meta(ge=1, le=100_000_000)] = 1

    @property
    def title(self) -> str:
        """What to call it: its name, or what stands for one."""
        return self.name or self.id

    @property
    def end(self) -> int:
        """The first frame after it."""
        return self.start + self.length

    @property
    def span(self) -> Span:
        return Span(self.start, self.end)


class _Layer(_Clip, frozen=True, kw_only=True):
    """A clip with a picture. `parent` is the id of a layer of the same tracks whose place it follows;
    `join` is how the clip that ends where this one starts gives way to it (None: a cut); `blend` is
    how it is laid over what is below, its opacity being the strength; `shutter` is its motion blur (None:
    as the sequence has it); `effects` are done to it one after the other; by a `crossing` it crawls or rolls
    through the frame."""

    transform: Transform = Transform()
    moves: tuple[Move, ...] = ()
    parent: FollowedId | None = None
    transition: Transition | None = None
    blend: BlendMode = "normal"
    shutter: Shutter | None = None
    effects: tuple[AnyEffect, ...] = ()
    crossing: Crossing | None = None

    @property
    def outlines(self) -> tuple[Outline, ...]:
        """The outlines around what it shows."""
        return ()


class TextClip(_Layer, frozen=True, kw_only=True, tag="text", tag_field="kind"):
    text: Text = Text()
    look: Look = msgspec.field(default_factory=Look)

    @property
    def title(self) -> str:
        """Its name; until it has one, how its words begin."""
        words = " ".join(self.text.content.split())
        said = words if len(words) <= _TITLE else f"{words[: _TITLE - 1].rstrip()}…"
        return self.name or said or self.id

    @property
    def outlines(self) -> tuple[Outline, ...]:
        return self.look.outlines


class FootageClip(_Layer, frozen=True, kw_only=True, tag="footage", tag_field="kind"):
    """Plays a video `media` from `offset`, in frames of the sequence, with its own sound; `cut` to a form."""

    media: FootageId
    offset: Whole = 0
    playing: Playing = Playing()
    fit: Fit = "fit"
    cut: Cut | None = None
    sound: Sound = Sound()


class StillClip(_Layer, frozen=True, kw_only=True, tag="still", tag_field="kind"):
    """An image; `crop` round is a logo; or it is `cut` to a form."""

    media: StillId
    fit: Fit = "as-is"
    crop: Literal["none", "square", "round"] = "none"
    cut: Cut | None = None


class BackgroundClip(_Layer, frozen=True, kw_only=True, tag="background", tag_field="kind"):
    background: Background = Plain()


class ShapeClip(_Layer, frozen=True, kw_only=True, tag="shape", tag_field="kind"):
    """A drawn form, `width` by `height` px around its middle; a line is `width` long, `height` thick.

    `radius` rounds the corners of a box and the ends of a line, in px. With `fits` the size and the
    resting place are those of another layer.
    """

    form: Form = "box"
    width: Extent = 600.0
    height: Extent = 240.0
    radius: Radius = 0.0
    fill: ShapeFill | None = Plain(colour="#2c4a52")
    fill_opacity: Share = 1.0
    outline: Outline | None = None
    fits: Fits | None = None

    @property
    def outlines(self) -> tuple[Outline, ...]:
        return () if self.outline is None else (self.outline,)


class AreaClip(_Layer, frozen=True, kw_only=True, tag="area", tag_field="kind"):
    """Where something in footage is over time, `width` by `height` px: a layer that shows nothing itself and
    that layers, masks and wipes may follow.

    `confidence` is how sure each frame of it is; it was followed in a layer, where it might grow or turn as
    `grows` and `turns` say.
    """

    width: Extent = 200.0
    height: Extent = 200.0
    confidence: Share = 1.0
    seen_in: SeenId | None = None
    grows: bool = False
    turns: bool = False


class SoundClip(_Clip, frozen=True, kw_only=True, tag="sound", tag_field="kind"):
    """Plays a sound file, or a video's sound, from `offset`, in frames of the sequence."""

    media: SoundId
    offset: Whole = 0
    playing: Playing = Playing()
    sound: Sound = Sound()


class GroupClip(_Layer, frozen=True, kw_only=True, tag="group", tag_field="kind"):
    """Tracks of its own, treated as one layer, played from frame `offset` of them; `made_of` a title."""

    offset: Whole = 0
    playing: Playing = Playing()
    tracks: tuple[Track, ...] = ()
    made_of: TitleUse | None = None

    @property
    def inner_length(self) -> int:
        """Frames up to the end of the last clip inside."""
        return max((track.length for track in self.tracks), default=0)


class SequenceClip(_Layer, frozen=True, kw_only=True, tag="sequence", tag_field="kind"):
    """Another sequence of the project as one layer, cut to its own frame.

    `offset` and `playing` count in frames of the sequence that this clip stands in.
    """

    sequence: ShownId
    offset: Whole = 0
    playing: Playing = Playing()
    fit: Fit = "fit"


PictureClip = (
    TextClip | FootageClip | StillClip | BackgroundClip | ShapeClip | AreaClip | GroupClip | SequenceClip
)
Clip = PictureClip | SoundClip
TimedClip = FootageClip | SoundClip | GroupClip | SequenceClip
HeardClip = FootageClip | SoundClip
FittedClip = FootageClip | StillClip | SequenceClip
FilledClip = BackgroundClip | ShapeClip
NestingClip = GroupClip | SequenceClip


class Track(Node, frozen=True, kw_only=True):
    """Clips in order of their start, none overlapping another.

    While any track is `solo`, only those are heard. `height` is px in the timeline at 100 %, where
    it was changed. `home` is the track that a group's clips were taken from.
    """

    id: Id = msgspec.field(default_factory=new_id)
    name: Name = ""
    kind: Literal["picture", "sound"] = "picture"
    clips: tuple[Clip, ...] = ()
    hidden: bool = False
    muted: bool = False
    solo: bool = False
    locked: bool = False
    height: Annotated[int, msgspec.Meta(ge=16, le=600)] | None = None
    home: HomeId | None = None

    @property
    def length(self) -> int:
        """Frames up to the end of the last clip."""
        return self.clips[-1].end if self.clips else 0  # they stand in order and do not overlap
