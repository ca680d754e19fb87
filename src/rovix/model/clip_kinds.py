"""What the kinds of clip have, asked by the fields of their structs, so that a new kind answers by itself."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal, get_args

from rovix.model.node import Node
from rovix.model.track import (
    Clip,
    FilledClip,
    FittedClip,
    GroupClip,
    HeardClip,
    NestingClip,
    PictureClip,
    TextClip,
    TimedClip,
)

if TYPE_CHECKING:
    from typing_extensions import TypeIs

CLIP_KINDS: tuple[type[Clip], ...] = get_args(Clip)


def _having(*fields: str) -> frozenset[type[Node]]:
    """The kinds of clip that have one of some fields."""
    return frozenset(kind for kind in CLIP_KINDS if set(fields) & set(kind.__struct_fields__))


_PLACED = _having("transform")
_WORDED = _having("text")
_PLAYED = _having("playing")
_HEARD = _having("sound")
_FITTED = _having("fit")
_FILLED = _having("fill", "background")
_TRACKED = _having("tracks")
_NESTING = _having("tracks", "sequence")


def is_layer(clip: Clip | None) -> TypeIs[PictureClip]:
    """Whether a clip has a picture, so a place, moves and effects."""
    return type(clip) in _PLACED


def track_kind(clip: Clip) -> Literal["picture", "sound"]:
    """The kind of track that a clip stands on."""
    return "picture" if is_layer(clip) else "sound"


def has_words(clip: Clip | None) -> TypeIs[TextClip]:
    """Whether a clip has words and their look."""
    return type(clip) in _WORDED


def is_played(clip: Clip | None) -> TypeIs[TimedClip]:
    """Whether a clip plays material that has a time of its own."""
    return type(clip) in _PLAYED


def is_heard(clip: Clip | None) -> TypeIs[HeardClip]:
    """Whether a clip has sound of its own with a level and fades."""
    return type(clip) in _HEARD


def is_fitted(clip: Clip | None) -> TypeIs[FittedClip]:
    """Whether a clip shows something that has a size of its own."""
    return type(clip) in _FITTED


def is_filled(clip: Clip | None) -> TypeIs[FilledClip]:
    """Whether a clip is an area with a fill."""
    return type(clip) in _FILLED


def holds_tracks(clip: Clip | None) -> TypeIs[GroupClip]:
    """Whether a clip has tracks of its own."""
    return type(clip) in _TRACKED


def is_nesting(clip: Clip | None) -> TypeIs[NestingClip]:
    """Whether a clip shows layers of its own or of another sequence."""
    return type(clip) in _NESTING
