"""Titles as open JSON files, their media beside them."""

from __future__ import annotations

from dataclasses import dataclass

from rovix.formats.kept_file import Kind
from rovix.model.consistency import inconsistencies
from rovix.model.title import Title


@dataclass(frozen=True, slots=True)
class SavedTitle:
    """A title by name."""

    name: str
    title: Title


def _wrong(saved: SavedTitle) -> list[str]:
    title = saved.title
    found = [str(problem) for problem in inconsistencies(title.project)]
    known = {clip.id for track in title.sequence.tracks for clip in track.clips}
    names = [setting.name for setting in title.settings]
    for number, setting in enumerate(title.settings):
        if names.index(setting.name) != number:
            found.append(f"settings[{number}].name: '{setting.name}' is also that of another setting")
        found += [
            f"settings[{number}].layers: there is no layer with the id '{layer}'"
            for layer in setting.layers if layer not in known
        ]  # fmt: skip
    return found


TITLES: Kind[SavedTitle] = Kind(
    noun="title", struct=Title, made=SavedTitle, content=lambda saved: (saved.title, {}), wrong=_wrong
)
