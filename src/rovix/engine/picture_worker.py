"""The process that draws pictures for the window."""

from __future__ import annotations

import os
import time
from dataclasses import dataclass
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Any

from rovix.engine.delta import Delta, Known, apply_delta
from rovix.engine.ring import Ring, one_thread_each
from rovix.errors import RovixError
from rovix.media import MediaLibrary
from rovix.model import Project
from rovix.motion import picture_plan
from rovix.motion.quads import LayerQuads, picture_quads
from rovix.paint import LayerCache, Painter

_LAYER_CACHE = 96 << 20


@dataclass(frozen=True, slots=True)
class Order:
    """Draw a frame into a slot; `project` comes when it changed, `ring` when the size changed."""

    ticket: int
    frame: int
    slot: int
    base: Path
    project: Delta | None
    ring: tuple[int, tuple[int, int], str] | None


@dataclass(frozen=True, slots=True, eq=False)
class Answer:
    """A drawn picture; `cost` in ms; `error` says why there is none."""

    ticket: int
    quads: tuple[LayerQuads, ...]
    cost: float
    error: str | None = None


class Drawer:
    """Holds what drawing needs from one order to the next."""

    def __init__(self) -> None:
        self._known = Known()
        self._project: Project | None = None
        self._library: MediaLibrary | None = None
        self._painter: Painter | None = None
        self._base: Path | None = None
        self._cache = LayerCache(_LAYER_CACHE)

    def adopt(self, delta: Delta, base: Path) -> None:
        """Take over a changed project; files stay open while the media stay the same."""
        before, self._project = self._project, apply_delta(delta, self._known)
        if (
            self._library is None
            or before is None
            or before.media != self._project.media
            or base != self._base
        ):
            self.close()
            self._base = base
            self._library = MediaLibrary(self._project, base)
            self._painter = Painter(self._library, self._cache)

    def draw(self, ticket: int, frame: int, into: Any, size: tuple[int, int]) -> Answer:
        """Draw a frame into pixels of that size."""
        start = time.perf_counter()
        try:
            assert self._project is not None
            assert self._painter is not None
            into[:] = self._painter.paint(picture_plan(self._project, frame, editing=True), size)
            quads = picture_quads(self._project, frame)
        except RovixError as wrong:
            return Answer(ticket, (), 0.0, str(wrong))
        except Exception as wrong:  # the window tells the user; this process has no one to tell
            return Answer(ticket, (), 0.0, f"{type(wrong).__name__}: {wrong}")
        return Answer(ticket, quads, (time.perf_counter() - start) * 1000)

    def close(self) -> None:
        if self._library is not None:
            self._library.close()
            self._library = None


def work(connection: Connection) -> None:
    """Draw what is ordered until the pipe closes."""
    one_thread_each()
    # The window's own hands come first when cores are few.
    os.nice(5)
    drawer, ring = Drawer(), None
    try:
        while True:
            order = connection.recv()
            if order.ring is not None:
                if ring is not None:
                    ring.close()
                ring = Ring(*order.ring)
            if order.project is not None:
                drawer.adopt(order.project, order.base)
            assert ring is not None, "the first order brings the ring"
            connection.send(drawer.draw(order.ticket, order.frame, ring.slot(order.slot), ring.size))
    except (EOFError, OSError):
        pass
    finally:
        drawer.close()
        if ring is not None:
            ring.close()
