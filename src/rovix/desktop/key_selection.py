"""Which keys are selected: frames, by channel, by clip."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping

from PySide6.QtCore import QObject, Signal

from rovix.edit.address import animated_of
from rovix.edit.tree import clip_by_id
from rovix.model import Project

Spot = tuple[str, str, int]
"""A key: the clip's id, the channel's address, the frame of the clip."""


class KeySelection(QObject):
    """The selected keys, as long as they are there."""

    changed = Signal()

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._spots: frozenset[Spot] = frozenset()

    def __bool__(self) -> bool:
        return bool(self._spots)

    def __len__(self) -> int:
        return len(self._spots)

    def __contains__(self, spot: Spot) -> bool:
        return spot in self._spots

    def __iter__(self) -> Iterator[Spot]:
        return iter(sorted(self._spots))

    def set(self, spots: Iterable[Spot]) -> None:
        """Select these keys and no others."""
        wanted = frozenset(spots)
        if wanted != self._spots:
            self._spots = wanted
            self.changed.emit()

    def turn(self, spot: Spot) -> None:
        """Add a key, or take it out again."""
        self.set(self._spots ^ {spot})

    def clear(self) -> None:
        self.set(())

    def clips(self) -> list[str]:
        """The ids of the clips that have selected keys."""
        return sorted({clip for clip, _, _ in self._spots})

    def of(self, clip: str) -> dict[str, tuple[int, ...]]:
        """The selected frames of one clip, by address."""
        found: dict[str, list[int]] = {}
        for _, address, frame in sorted(spot for spot in self._spots if spot[0] == clip):
            found.setdefault(address, []).append(frame)
        return {address: tuple(frames) for address, frames in found.items()}

    def keep_known(self, project: Project) -> None:
        """Forget keys that are no longer there."""
        known: set[Spot] = set()
        for clip in self.clips():
            found = animated_of(clip_by_id(project, clip))
            known |= {(clip, address, key.frame) for address, held in found.items() for key in held.keys}
        self.set(self._spots & known)


def spots_of(clip: str, frames: Mapping[str, Iterable[int]]) -> list[Spot]:
    """Keys of one clip by their addresses and frames."""
    return [(clip, address, frame) for address, own in frames.items() for frame in own]
