"""The style that new words begin with: the plain one, or that of words the user chose."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QSettings

from rovix.edit.attributes import give_attributes
from rovix.edit.tree import clip_of
from rovix.errors import RovixError
from rovix.formats import parse_project, project_bytes
from rovix.model import Project, Sequence, TextClip, Track

_KEY = "text/new_style"
_HEADS = ("Text", "Look")


def keep_style(settings: QSettings, clip: TextClip) -> None:
    """Let new words begin with the style of a layer's: its type and look, not its words, place or moves."""
    plain = TextClip(id="style", name=clip.name, length=1)
    styled = clip_of(give_attributes(_around(plain), "style", clip, _HEADS), "style")
    assert isinstance(styled, TextClip)
    settings.setValue(_KEY, project_bytes(_around(styled)).decode())


def forget_style(settings: QSettings) -> None:
    """Let new words begin plain again."""
    settings.remove(_KEY)


def has_style(settings: QSettings) -> bool:
    """Whether new words begin with a style that was chosen."""
    return settings.contains(_KEY)


def styled(settings: QSettings, clip: TextClip) -> TextClip:
    """New words in the style that was chosen; as they are where none was, or it cannot be read."""
    if not has_style(settings):
        return clip
    try:
        kept = parse_project(Path("The style of new text"), str(settings.value(_KEY)).encode())
        made = clip_of(give_attributes(_around(clip), clip.id, clip_of(kept, "style"), _HEADS), clip.id)
    except RovixError:
        return clip
    assert isinstance(made, TextClip)
    return made


def _around(clip: TextClip) -> Project:
    track = Track(id="style-track", clips=(clip,))
    return Project(id="style-project", sequences=(Sequence(id="style-sequence", tracks=(track,)),))
