"""How each kind of clip is shown: the role of its colour in the timeline, and its pages of the sheet."""

from __future__ import annotations

from dataclasses import dataclass

from rovix.model import (
    AreaClip,
    BackgroundClip,
    Clip,
    FootageClip,
    GroupClip,
    SequenceClip,
    ShapeClip,
    SoundClip,
    StillClip,
    TextClip,
)


@dataclass(frozen=True, slots=True)
class ClipView:
    """A `role` of the theme, and the `pages` of the sheet, the one to open first last."""

    role: str
    pages: tuple[str, ...] = ("Clip", "Effects", "Motion", "Transform")


CLIP_VIEWS: dict[type[Clip], ClipView] = {
    TextClip: ClipView("words", ("Look", "Clip", "Effects", "Transform", "Motion", "Text")),
    FootageClip: ClipView("footage", ("Sound", "Clip", "Effects", "Motion", "Transform")),
    StillClip: ClipView("still"),
    BackgroundClip: ClipView("still", ("Transform", "Clip", "Effects", "Motion", "Shape")),
    ShapeClip: ClipView("shape", ("Transform", "Clip", "Effects", "Motion", "Shape")),
    AreaClip: ClipView("area", ("Clip", "Transform")),
    SoundClip: ClipView("sound", ("Clip", "Sound")),
    GroupClip: ClipView("shape"),
    SequenceClip: ClipView("shape"),
}


def clip_role(clip: Clip) -> str:
    """The role of the colour that a clip has in the timeline."""
    return CLIP_VIEWS[type(clip)].role


def pages_of(clip: Clip | None) -> tuple[str, ...]:
    """The pages of the sheet that a clip has, the one to open first last."""
    return () if clip is None else CLIP_VIEWS[type(clip)].pages
