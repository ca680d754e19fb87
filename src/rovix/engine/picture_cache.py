"""Which picture stands in which slot."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Collection, Iterable
from dataclasses import dataclass

from rovix.engine.quality import FULL, Quality
from rovix.model import Project
from rovix.model.dependencies import Dependencies
from rovix.motion.dependencies import PictureDependencies
from rovix.motion.quads import LayerQuads
from rovix.text.font_changes import fonts_turn

PictureKey = tuple[int, int, int, Dependencies]


class PictureIndex:
    """The keys of a project's pictures; `proxies` is a number for those that stand for its footage."""

    def __init__(self, project: Project, proxies: int = 0) -> None:
        self._proxies = proxies
        self._dependencies = PictureDependencies(project)
        self._turn = fonts_turn()
        self._keys: dict[int, PictureKey] = {}

    def key(self, frame: int) -> PictureKey:
        """A frame, the turn of fonts, the proxies, and what its picture depends on besides."""
        if self._turn != fonts_turn():
            self._turn = fonts_turn()
            self._keys.clear()
        # Asked for dozens of frames at each that is due.
        found = self._keys.get(frame)
        if found is None:
            found = self._keys[frame] = frame, self._turn, self._proxies, self._dependencies.at(frame)
        return found


@dataclass(frozen=True, slots=True, eq=False)
class Kept:
    """A picture in a slot, with its quads, what it cost in ms, and how well it was drawn."""

    slot: int
    quads: tuple[LayerQuads, ...]
    cost: float
    quality: Quality = FULL


class PictureCache:
    """Slots by picture; the one used longest ago is given up first."""

    def __init__(self, slots: int) -> None:
        self._all = set(range(slots))
        self._free = list(range(slots))
        self._kept: OrderedDict[PictureKey, Kept] = OrderedDict()
        self._pinned: int | None = None
        self._loose: set[int] = set()

    @property
    def slots(self) -> int:
        """How many slots there are."""
        return len(self._all)

    @property
    def pinned(self) -> int | None:
        """The slot on screen: never given up."""
        return self._pinned

    @pinned.setter
    def pinned(self, slot: int | None) -> None:
        self._pinned = slot
        for freed in self._loose - {slot}:
            self._loose.discard(freed)
            self.give_back(freed)

    def get(self, key: PictureKey) -> Kept | None:
        kept = self._kept.get(key)
        if kept is not None:
            self._kept.move_to_end(key)
        return kept

    def touch(self, keys: Iterable[PictureKey]) -> None:
        """These are given up last, the last of them last of all."""
        for key in keys:
            if key in self._kept:
                self._kept.move_to_end(key)

    def has(self, key: PictureKey, quality: Quality = FULL) -> bool:
        """Whether a picture is kept that was drawn at least so well."""
        kept = self._kept.get(key)
        return kept is not None and kept.quality.covers(quality)

    def __len__(self) -> int:
        return len(self._kept)

    def ready(self, index: PictureIndex) -> list[int]:
        """The frames of a project whose pictures are kept at their best, in order."""
        kept = self._kept.items()
        return sorted(key[0] for key, own in kept if own.quality == FULL and index.key(key[0]) == key)

    def take_slot(self) -> int | None:
        """A slot to draw into, giving up the oldest picture if need be; None when all are in use."""
        if self._free:
            return self._free.pop()
        for key, kept in self._kept.items():
            if kept.slot != self.pinned:
                del self._kept[key]
                return kept.slot
        return None

    def put(self, key: PictureKey, kept: Kept) -> None:
        """A slot that was taken now holds a picture."""
        old = self._kept.pop(key, None)
        if old is not None:
            self.give_back(old.slot)
        self._kept[key] = kept

    def give_back(self, slot: int) -> None:
        """A slot that was taken is not needed after all; one on screen is free when it no longer is."""
        if slot == self._pinned:
            self._loose.add(slot)
        elif slot in self._all:
            self._free.append(slot)

    def keep_only(self, slots: Collection[int]) -> int:
        """Use no other slots from now on than those, and say how many that are; those taken come back."""
        self._all &= set(slots)
        self._free = [slot for slot in self._free if slot in self._all]
        return len(self._all)
