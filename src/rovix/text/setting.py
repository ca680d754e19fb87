"""How each character of a text layer is set: the layer's own type, and what dresses a part otherwise."""

from __future__ import annotations

from dataclasses import dataclass

from rovix.model import Words
from rovix.model.words import Dressing
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


def settings_of(words: Words, ligatures: bool) -> list[Setting]:
    """One setting per character, and the layer's own behind the last."""
    own = _setting(words, None, ligatures)
    found = [own] * (len(words.text) + 1)
    for dressing in words.dressings:
        part = _setting(words, dressing, ligatures)
        for at in range(dressing.start, min(dressing.end, len(words.text))):
            found[at] = part
    return found


def colours_of(words: Words) -> list[str | None]:
    """One colour per character; None where it is the look's fill."""
    found: list[str | None] = [None] * len(words.text)
    for dressing in words.dressings:
        for at in range(dressing.start, min(dressing.end, len(words.text))):
            found[at] = dressing.colour
    return found


def _setting(words: Words, dressing: Dressing | None, ligatures: bool) -> Setting:
    family = _or(dressing and dressing.family, words.family)
    weight = _or(dressing and dressing.weight, words.weight)
    italic = _or(dressing and dressing.italic, words.italic)
    share = _or(dressing and dressing.size, 1.0)
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
