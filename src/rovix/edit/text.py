"""Words of text layers."""

from __future__ import annotations

from typing import Any

from rovix.edit.own_style import retyped, styled
from rovix.edit.tree import replace, replace_clip
from rovix.errors import RovixError
from rovix.model import Clip, Project, TextClip
from rovix.model.clip_kinds import has_words


def change_text(project: Project, identity: str, **changes: Any) -> Project:
    """Change fields of a text layer's Text; its moves stay as they are, and own styles with
    their letters."""

    return replace_clip(project, identity, lambda clip: with_words(text_layer(clip), **changes))


def with_words(clip: Clip, **changes: Any) -> Clip:
    """A text layer with fields of its Text changed; another clip as it is."""
    if not has_words(clip):
        return clip
    text = retyped(clip.text, changes["content"]) if "content" in changes else clip.text
    return replace(clip, text=replace(text, **changes))


def set_style(project: Project, identity: str, start: int, end: int, **changes: Any) -> Project:
    """Set characters `start` to `end` (not included) otherwise than the layer: family, weight,
    italic, size (a share of the layer's) and colour; None takes one off again."""

    def change(clip: Clip) -> Clip:
        text = text_layer(clip)
        return replace(text, text=styled(text.text, start, end, **changes))

    return replace_clip(project, identity, change)


def text_layer(clip: Clip) -> TextClip:
    """The clip as a text layer; RovixError when it is none."""
    if not has_words(clip):
        raise RovixError(f"'{clip.title}' is no text layer.")
    return clip
