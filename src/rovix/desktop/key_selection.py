"""Which keys are selected: frames, by channel, by clip; or inner keys of moves, by their numbers."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from typing import Generic, TypeVar

from PySide6.QtCore import QObject, Signal

from rovix.edit.address import animated_of
from rovix.edit.inner_keys import all_inner_keys
from rovix.edit.tree import clip_by_id
from rovix.model import Project

Spot = tuple[str, str, int]
"""A key: the clip's id, the channel's address, the frame of the clip."""
InnerSpot = tuple[str, str, int, int]
"""An inner key: the clip's id, the move's, the number of the channel, its number in the channel."""
AnySpot = TypeVar("AnySpot", Spot, InnerSpot)


class _Selected(QObject, Generic[AnySpot]):
    """What is selected, as long as it is there."""

    changed = Signal()

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._spots: frozenset[AnySpot] = frozenset()

    def __bool__(self) -> bool:
        return bool(self._spots)

    def __len__(self) -> int:
        return len(self._spots)

    def __contains__(self, spot: AnySpot) -> bool:
        return spot in self._spots

    def __iter__(self) -> Iterator[AnySpot]:
        return iter(sorted(self._spots))

    def set(self, spots: Iterable[AnySpot]) -> None:
        """Select these keys and no others."""
        wanted = frozenset(spots)
        if wanted != self._spots:
            self._spots = wanted
            self.changed.emit()

    def turn(self, spot: AnySpot) -> None:
        """Add a key, or take it out again."""
        self.set(self._spots ^ {spot})

    def clear(self) -> None:
        self.set(())

    def clips(self) -> list[str]:
        """The ids of the clips that have selected keys."""
        return sorted({spot[0] for spot in self._spots})


class KeySelection(_Selected[Spot]):
    """The selected keys of clips."""

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


class InnerKeySelection(_Selected[InnerSpot]):
    """The selected inner keys of moves."""

    def of(self, clip: str) -> dict[tuple[str, int], tuple[int, ...]]:
        """The numbers of one clip's selected keys, by the move's id and the channel's number."""
        found: dict[tuple[str, int], list[int]] = {}
        for _, move, channel, number in sorted(spot for spot in self._spots if spot[0] == clip):
            found.setdefault((move, channel), []).append(number)
        return {spot: tuple(numbers) for spot, numbers in found.items()}

    def keep_known(self, project: Project) -> None:
        """Forget keys that are no longer there."""
        known: set[InnerSpot] = set()
        for clip in self.clips():
            known.update(inner_spots(clip, all_inner_keys(clip_by_id(project, clip))))
        self.set(self._spots & known)


def inner_spots(clip: str, numbers: Mapping[tuple[str, int], Iterable[int]]) -> list[InnerSpot]:
    """Inner keys of one clip by their moves, channels and numbers."""
    return [(clip, move, channel, n) for (move, channel), own in numbers.items() for n in own]


def spots_of(clip: str, frames: Mapping[str, Iterable[int]]) -> list[Spot]:
    """Keys of one clip by their addresses and frames."""
    return [(clip, address, frame) for address, own in frames.items() for frame in own]
