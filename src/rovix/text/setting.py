"""How each character of a text layer is set: the layer's own type, and what dresses a part otherwise."""

from __future__ import annotations

from dataclasses import dataclass

from rovix.model import Text
from rovix.model.text import OwnStyle
from rovix.text.catalogue import match_face
from rovix.text.face import Face

Features = tuple[tuple[str, int], ...]


@dataclass(frozen=True, slots=True)
class Setting:
    """What shaping needs to know beside the words; `size` in px of the em, `tracking` in em."""

    face: Face
    weight: int
    italic: bool
    size: float
    tracking: float
    ligatures: bool
    features: Features = ()
    fixed_figures: bool = False


def settings_of(words: Text, ligatures: bool) -> list[Setting]:
    """One setting per character, and the layer's own behind the last."""
    own = _setting(words, None, ligatures)
    found = [own] * (len(words.content) + 1)
    for style in words.styles:
        part = _setting(words, style, ligatures)
        for at in range(style.start, min(style.end, len(words.content))):
            found[at] = part
    return found


def colours_of(words: Text) -> list[str | None]:
    """One colour per character; None where it is the look's fill."""
    found: list[str | None] = [None] * len(words.content)
    for style in words.styles:
        for at in range(style.start, min(style.end, len(words.content))):
            found[at] = style.colour
    return found


def _setting(words: Text, style: OwnStyle | None, ligatures: bool) -> Setting:
    family = _or(style and style.family, words.family)
    weight = _or(style and style.weight, words.weight)
    italic = _or(style and style.italic, words.italic)
    share = _or(style and style.size, 1.0)
    axes = tuple((axis.tag, axis.value) for axis in words.axes)
    return Setting(
        match_face(family, weight, italic, axes).face,
        weight,
        italic,
        words.size * share,
        words.tracking,
        ligatures,
        tuple((feature.tag, feature.value) for feature in words.features),
        words.fixed_figures,
    )


def _or(value, otherwise):  # type: ignore[no-untyped-def]
    return otherwise if value is None else value
