"""Pictures drawn in this process, one at a time: what stands in for the picture service."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Iterable, Mapping
from multiprocessing.connection import Connection
from pathlib import Path

import numpy as np

from rovix.engine.delta import Known, make_delta
from rovix.engine.picture_cache import PictureIndex, PictureKey
from rovix.engine.picture_service import Picture
from rovix.engine.picture_worker import Drawer
from rovix.engine.quality import Cost, Quality
from rovix.model import Project

_LOCAL = 24  # pictures that are kept


class LocalPictures:
    """The same face without processes: each picture is drawn when it is wanted, and kept, as the
    service keeps it, until what it depends on changes. For tests and tools."""

    drawing = 1

    def __init__(self) -> None:
        self.on_watch: Callable[[Connection, bool], None] | None = None
        self.on_note: Callable[[str], None] | None = None
        self.on_cost: Callable[[int, Quality, Cost], None] | None = None
        self._drawer = Drawer()
        self._known = Known()
        self._index = PictureIndex(Project(id="none"))
        self._project: Project | None = None
        self._size = (16, 16)
        self._kept: OrderedDict[PictureKey, Picture] = OrderedDict()

    def show(self, project: Project, base: Path) -> None:
        if project is not self._project:
            self._index = PictureIndex(project)
        self._project = project
        self._drawer.adopt(make_delta(project, self._known), base)

    def use_proxies(self, proxies: Mapping[str, Path]) -> None:
        self._drawer.take_proxies(proxies)
        self._kept.clear()

    def resize(self, size: tuple[int, int]) -> None:
        if size != self._size:
            self._size = size
            self._kept.clear()

    def want(self, frame: int, hurried: bool = False) -> Picture | None:
        if self._project is None:
            return None
        key = self._index.key(frame)
        if key not in self._kept:
            picture = self._drawn(frame)
            if picture.error is not None:
                return picture
            self._kept[key] = picture
            while len(self._kept) > _LOCAL:
                self._kept.popitem(last=False)
        self._kept.move_to_end(key)
        return self._kept[key]

    def hope(self, frame: int, before: Iterable[int] = ()) -> Picture | None:
        """Whatever is wanted is drawn at once."""
        return self.want(frame)

    def _drawn(self, frame: int) -> Picture:
        pixels = np.zeros((self._size[1], self._size[0], 4), dtype=np.uint8)
        answer = self._drawer.draw(0, frame, pixels, self._size)
        return Picture(frame, None if answer.error else pixels, answer.quads, answer.cost.whole, answer.error)

    def fill(self, frames: Iterable[int]) -> None:
        """Whatever is wanted is drawn at once, so nothing is drawn ahead."""

    def draw_at(self, quality: Quality, least: Quality | None = None) -> None:
        """Whatever is wanted is drawn at its best."""

    def ahead(self, frames: Iterable[int]) -> int:
        """Whatever is wanted is there at once."""
        return sum(1 for _ in frames)

    def improve(self, frames: Iterable[int]) -> None:
        """Whatever is wanted is drawn at its best."""

    def ready(self) -> list[int]:
        return sorted(key[0] for key in self._kept if self._index.key(key[0]) == key)

    def has(self, frames: range) -> bool:
        """Whatever is wanted is there at once."""
        return True

    def receive(self, connection: Connection) -> Picture | None:
        return None

    def close(self) -> None:
        self._drawer.close()
