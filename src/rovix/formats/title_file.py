"""Titles as open JSON files, their media beside them."""

from __future__ import annotations

from dataclasses import dataclass

from rovix.formats.kept_file import Kind
from rovix.model.consistency import inconsistencies
from rovix.model.on_track import every_clip
from rovix.model.title import Title


@dataclass(frozen=True, slots=True)
class SavedTitle:
    """A title by name."""

    name: str
    title: Title


def _wrong(saved: SavedTitle) -> list[str]:
    title = saved.title
    found = [str(problem) for problem in inconsistencies(title.project)]
    known = {clip.id for clip in every_clip(title.sequence.tracks)}
    names = [setting.name for setting in title.settings]
    for number, setting in enumerate(title.settings):
        if names.index(setting.name) != number:
            found.append(f"settings[{number}].name: '{setting.name}' is also that of another setting")
        found += [
            f"settings[{number}].layers: there is no layer with the id '{layer}'"
            for layer in setting.layers if layer not in known
        ]  # fmt: skip
    known_bends = {bend.layer: bend.under for bend in title.bends}
    for number, bend in enumerate(title.bends):
        found += [
            f"bends[{number}]: there is no layer with the id '{layer}'"
            for layer in (bend.layer, bend.under) if layer and layer not in known
        ]  # fmt: skip
        if _is_round(known_bends, bend.layer):
            found.append(f"bends[{number}].under: '{bend.layer}' would stand under itself")
    return found


def _is_round(under: dict[str, str], layer: str) -> bool:
    """Whether going up from a layer comes round to one that was passed."""
    passed = set()
    while layer and layer not in passed:
        passed.add(layer)
        layer = under.get(layer, "")
    return bool(layer)


TITLES: Kind[SavedTitle] = Kind(
    noun="title", struct=Title, made=SavedTitle, content=lambda saved: (saved.title, {}), wrong=_wrong
)
