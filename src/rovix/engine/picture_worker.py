"""The process that draws pictures for the window."""

from __future__ import annotations

import time
from collections.abc import Mapping
from fractions import Fraction
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from rovix.engine.delta import Delta, Known, Unreadable, apply_delta
from rovix.engine.orders import LAYERS, Answer, Order
from rovix.engine.quality import Cost
from rovix.engine.ring import Ring, one_thread_each
from rovix.engine.shared_footage import Dropped, Manner, SharedFootage
from rovix.errors import RovixError
from rovix.media.library import MediaLibrary
from rovix.model import Project
from rovix.model.identity import without_collecting
from rovix.motion import picture_plan
from rovix.motion.plan import most_moments
from rovix.motion.quads import picture_quads
from rovix.paint.cache import LayerCache
from rovix.paint.painter import Painter
from rovix.processes import Behind, give_back_memory, give_way
from rovix.text.catalogue import look_for_fonts_again, use_project_fonts

_SURELY = 4  # answers in a row after which nothing is decoded here
_REST = 10.0  # seconds without an order, after which it is not either
_RUN = 24  # frames that are evaluated together
_SHARED_OUT = 32  # frames between two that one process gets, while others have those between


class _Timed:
    """A media library whose footage is timed: `spent` seconds of work since it was last set, without those
    in which somebody else is waited for. What is `shared` need not be decoded here."""

    def __init__(self, library: MediaLibrary, shared: SharedFootage | None) -> None:
        self._library, self._shared, self.spent = library, shared, 0.0
        self._found = 0

    def picture(
        self, source: str, time_: Fraction | None, shrunk: tuple[int, int] | None = None, about: bool = False
    ) -> NDArray[np.uint8]:
        start = time.thread_time()
        try:
            if time_ is not None and self._shared is not None:
                path, deinterlace = self._library.footage(source)
                found = self._shared.picture(path, time_, shrunk, about, deinterlace)
                if found is not None:
                    self._note_found()
                    return found
                self._found = 0
            return self._library.picture(source, time_, shrunk, about)
        finally:
            self.spent += time.thread_time() - start

    def _note_found(self) -> None:
        """Videos that were opened here, for want of an answer, close when none is wanting any more."""
        self._found += 1
        if self._found == _SURELY:
            self.rest()

    def rest(self) -> None:
        """Close videos that were opened here, if somebody else can be asked."""
        if self._shared is not None and self._library.close_videos():
            give_back_memory()


class Run:
    """Whether frames are asked for in a row, as several processes share them out."""

    def __init__(self) -> None:
        self._last: int | None = None
        self._step = 1

    def frames(self, frame: int) -> range:
        """The frames from this one on that are likely to be asked for."""
        step, before = frame - (frame if self._last is None else self._last), self._step
        self._last, self._step = frame, step
        if not 0 < step <= _SHARED_OUT:
            return range(frame, frame + 1)
        # One process may get each second frame, or eight of each sixteen.
        step = step if step == before else 1
        return range(frame, frame + _RUN * step, step)


class Drawer:
    """Holds what drawing needs from one order to the next; footage is decoded here, or at an `address`."""

    def __init__(self, address: str | None = None, layers: int = LAYERS) -> None:
        self._shared = None if address is None else SharedFootage(address)
        self._known = Known()
        self._project: Project | None = None
        self._library: MediaLibrary | None = None
        self._painter: Painter | None = None
        self._decoding: _Timed | None = None
        self._base: Path | None = None
        self._proxies: Mapping[str, Path] = {}
        self._cache = LayerCache(layers)
        self._run = Run()
        self._fonts: int | None = None

    def look_at_fonts(self, turn: int) -> None:
        """Fonts may have changed since the turn before; layers are then drawn anew."""
        before, self._fonts = self._fonts, turn
        if before is not None and before != turn:
            look_for_fonts_again()
            self._cache.clear()

    def adopt(self, delta: Delta, base: Path) -> None:
        """Take over a changed project; files stay open while the media stay the same."""
        before, self._project = self._project, apply_delta(delta, self._known)
        use_project_fonts(base)
        if (
            self._library is None
            or before is None
            or before.media != self._project.media
            or base != self._base
        ):
            self._base = base
            self._open_files()

    def take_proxies(self, proxies: Mapping[str, Path]) -> None:
        """From now on these files are shown in place of the footage of these ids."""
        self._proxies = proxies
        self._cache.clear()
        if self._project is not None:
            self._open_files()

    def draw(
        self,
        ticket: int,
        frame: int,
        into: Any,
        size: tuple[int, int],
        samples: int | None = None,
        manner: Manner = "exact",
    ) -> Answer:
        """Draw a frame into pixels of that size, its motion blur of at most so many samples."""
        start, begun, near = time.perf_counter(), time.thread_time(), False
        if self._shared is not None:
            self._shared.begin(ticket, manner)
        try:
            assert self._project is not None
            assert self._painter is not None
            assert self._decoding is not None
            asked = self._run.frames(frame)
            plan = picture_plan(
                self._project, frame, editing=True, samples=samples, run=len(asked), step=asked.step
            )
            planned, self._decoding.spent = time.thread_time() - begun, 0.0
            into[:] = self._painter.paint(plan, size)
            fixed, moments = planned + self._decoding.spent, most_moments(plan)
            quads = picture_quads(self._project, frame)
            near = self._shared is not None and self._shared.near
            if near:
                self._cache.clear()  # what was made of it would be taken for what it stands for
        except Dropped:
            return Answer(ticket, (), Cost(0.0), dropped=True)
        except RovixError as wrong:
            return Answer(ticket, (), Cost(0.0), str(wrong))
        except Exception as wrong:  # the window tells the user; this process has no one to tell
            return Answer(ticket, (), Cost(0.0), f"{type(wrong).__name__}: {wrong}")
        whole, busy = time.perf_counter() - start, time.thread_time() - begun
        cost = Cost(whole * 1000, busy * 1000, fixed * 1000, moments)
        return Answer(ticket, quads, cost, near=near)

    def rest(self) -> None:
        """Let go of what somebody else has as well: nothing is asked for at present."""
        if self._decoding is not None:
            self._decoding.rest()

    def close(self) -> None:
        self._close_files()
        if self._shared is not None:
            self._shared.close()

    def _open_files(self) -> None:
        assert self._project is not None
        assert self._base is not None
        self._close_files()
        self._library = MediaLibrary(self._project, self._base, self._proxies)
        self._decoding = _Timed(self._library, self._shared)
        self._painter = Painter(self._decoding, self._cache)

    def _close_files(self) -> None:
        if self._shared is not None:
            self._shared.forget()
        if self._library is not None:
            self._library.close()
            self._library = None


def work(connection: Connection, decoder: str | None, far: int, layers: int = LAYERS) -> None:
    """Draw what is ordered until the pipe closes; footage is asked for at the address of a decoder, and
    drawn layers are kept up to so many bytes. From its first picture on it stands `far` behind the window."""
    one_thread_each()
    give_way(Behind.FIRST)
    drawer, ring, first = Drawer(decoder, layers), None, True
    try:
        while True:
            order = _ordered(connection, drawer)
            if order.ring is not None:
                if ring is not None:
                    ring.close()
                ring = Ring(*order.ring)
            drawer.look_at_fonts(order.fonts)
            if order.proxies is not None:
                drawer.take_proxies(order.proxies)
            try:
                if order.project is not None:
                    drawer.adopt(order.project, order.base)
            except Unreadable:
                connection.send(Answer(order.ticket, (), Cost(0.0), unreadable=True))
                continue
            assert ring is not None, "the first order brings the ring"
            size = order.quality.size(ring.size)
            into = ring.part(order.slot, size)
            answer = drawer.draw(order.ticket, order.frame, into, size, order.quality.samples, order.manner)
            if first:
                give_way(far - Behind.FIRST)  # not before the first picture, which is what a start waits for
                first = False
            connection.send(answer)
    except (EOFError, OSError):
        pass
    finally:
        drawer.close()
        if ring is not None:
            ring.close()


def _ordered(connection: Connection, drawer: Drawer) -> Order:
    """The next order; who draws rests while it does not come."""
    if not connection.poll(_REST):
        drawer.rest()
    with without_collecting():  # what comes stays
        order = connection.recv()
    assert isinstance(order, Order)
    return order
