"""Pictures for the window, drawn by other processes into shared memory.

The window asks for the frame under the playhead; what is asked last is drawn first. With nothing
asked for, the service fills its cache ahead of the playhead. A process that dies is replaced, and
its frame drawn again once; if that fails too, the picture is an error with its reason. Each slot is
free, keeps a picture or is being drawn into, whatever happens.
"""

from __future__ import annotations

import os
import select
from collections import Counter
from collections.abc import Callable, Iterable, Mapping
from contextlib import suppress
from dataclasses import dataclass, field, replace
from itertools import islice
from multiprocessing.connection import Connection
from multiprocessing.process import BaseProcess
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from rovix.engine.delta import Known, make_delta
from rovix.engine.orders import LAYERS, Answer, Order
from rovix.engine.picture_cache import Kept, PictureCache, PictureIndex, PictureKey
from rovix.engine.quality import FULL, Cost, Quality
from rovix.engine.ring import NoRoom, Ring
from rovix.engine.shared_footage import Drop, Manner
from rovix.engine.sharing_out import STRETCH, SharingOut
from rovix.model import Project
from rovix.motion.quads import LayerQuads
from rovix.processes import Behind, started
from rovix.text.font_changes import fonts_turn

Pixels = NDArray[np.uint8]
_MEMORY = 320 << 20
_SPARE = 4  # slots for what is on screen and what is being drawn


@dataclass(frozen=True, slots=True, eq=False)
class Picture:
    """A picture for a frame: premultiplied BGRA pixels, not copied; None with an `error`."""

    frame: int
    pixels: Pixels | None
    quads: tuple[LayerQuads, ...]
    cost: float
    error: str | None = None
    quality: Quality = FULL
    stands_in: bool = False
    """Whether it is what was wanted a moment ago, or its footage is of a time nearby; its own comes next."""


class Pictures(Protocol):
    """What the window needs of a picture service."""

    on_watch: Callable[[Connection, bool], None] | None
    on_note: Callable[[str], None] | None
    on_cost: Callable[[int, Quality, Cost], None] | None

    def show(self, project: Project, base: Path) -> None: ...
    def use_proxies(self, proxies: Mapping[str, Path]) -> None: ...
    def resize(self, size: tuple[int, int]) -> None: ...
    def want(self, frame: int, hurried: bool = False) -> Picture | None: ...
    def hope(self, frame: int, before: Iterable[int] = ()) -> Picture | None: ...
    def fill(self, frames: Iterable[int]) -> None: ...
    def improve(self, frames: Iterable[int]) -> None: ...
    def draw_at(self, quality: Quality, least: Quality | None = None) -> None: ...
    def ahead(self, frames: Iterable[int]) -> int: ...
    def receive(self, connection: Connection) -> Picture | None: ...
    def ready(self) -> list[int]: ...
    def has(self, frames: range) -> bool: ...
    def close(self) -> None: ...
    @property
    def drawing(self) -> int: ...


@dataclass(eq=False)
class _Worker:
    process: BaseProcess
    connection: Connection
    known: Known = field(default_factory=Known)
    packs: bool = True
    project: Project | None = None
    proxies: Mapping[str, Path] | None = None
    ring: Ring | None = None
    job: _Job | None = None


@dataclass(eq=False)
class _Decoder:
    folder: TemporaryDirectory[str]
    address: str
    process: BaseProcess
    connection: Connection


@dataclass(eq=False)
class _Job:
    ticket: int
    frame: int
    key: PictureKey
    slot: int
    ring: Ring
    quality: Quality
    manner: Manner


class PictureService:
    """Draws with `workers` processes, which stand so `far` behind; `memory` bounds the bytes of kept
    pictures, `layers` those of layers that each process keeps."""

    def __init__(
        self, workers: int = 2, memory: int = _MEMORY, layers: int = LAYERS, far: int = Behind.PICTURES
    ) -> None:
        self._layers, self._far = layers, far
        self.on_watch: Callable[[Connection, bool], None] | None = None
        self.on_note: Callable[[str], None] | None = None
        self.on_cost: Callable[[int, Quality, Cost], None] | None = None
        self._quality = self._least = FULL
        self._memory = memory
        self._count = workers
        self._workers: list[_Worker] = []
        self._decoder: _Decoder | None = None
        self._project: Project | None = None
        self._index = PictureIndex(Project(id="none"))
        self._sharing = SharingOut(Project(id="none"), workers)
        self._proxies: Mapping[str, Path] = {}
        self._proxies_before: list[Mapping[str, Path]] = [self._proxies]
        self._base = Path()
        self._ring: Ring | None = None
        self._old_rings: list[Ring] = []
        self._cache = PictureCache(0)
        self._wanted: int | None = None
        self._hoped: int | None = None
        self._hurried = self._first = False
        self._newest = 0
        """The order after which none is late: what it drew, or something newer, is on screen."""
        self._to_fill: list[int] = []
        self._to_improve: list[int] = []
        self._ticket = 0
        self._deaths: Counter[PictureKey] = Counter()
        self._trouble: str | None = None

    @property
    def drawing(self) -> int:
        """How many pictures can be drawn at a time."""
        return min(self._count, os.cpu_count() or 1)

    @property
    def processes(self) -> list[BaseProcess]:
        return [worker.process for worker in self._workers]

    def show(self, project: Project, base: Path) -> None:
        """From now on draw this project; pictures whose layers did not change stay."""
        if project is not self._project:
            self._index = PictureIndex(project, self._proxies_before.index(self._proxies))
            self._sharing = SharingOut(project, self._count)
        self._project, self._base = project, base
        self._start_workers()

    def use_proxies(self, proxies: Mapping[str, Path]) -> None:
        """From now on these files are shown in place of footage, by the ids of media. Pictures from before
        are found again when it is as it was before."""
        if proxies not in self._proxies_before:
            self._proxies_before.append(proxies)
        number = self._proxies_before.index(proxies)
        self._proxies = self._proxies_before[number]
        if self._project is not None:
            self._index = PictureIndex(self._project, number)

    def resize(self, size: tuple[int, int]) -> None:
        """Draw at a size in px from now on; kept pictures of another size are given up."""
        if self._ring is not None:
            if self._ring.size == size:
                return
            self._old_rings.append(self._ring)
        slots = max(4, min(2000, self._memory // (size[0] * size[1] * 4)))
        self._ring, self._cache = Ring(slots, size), PictureCache(slots)
        self._trouble = None
        self._deaths.clear()
        self._close_old_rings()

    def want(self, frame: int, hurried: bool = False) -> Picture | None:
        """The picture of a frame if it is there; else it is drawn next and comes by `receive`.

        `hurried`, what else waits for footage is dropped, and where that of this frame takes long, one with
        footage of a time nearby comes first.
        """
        if self._project is None or self._ring is None:
            return None
        kept = self._cache.get(self._index.key(frame))
        enough = kept is not None and kept.quality.covers(self._least)
        self._wanted, self._hoped = (None if enough else frame), None
        self._hurried = self._first = hurried
        if hurried:
            self._drop_others()
        self._dispatch()
        return self._there(frame, kept)

    def _drop_others(self) -> None:
        """Nobody waits for the footage of what is drawn now but is not wanted."""
        if self._decoder is None or self._project is None:
            return
        wanted = None if self._wanted is None else self._index.key(self._wanted)
        jobs = [worker.job for worker in self._workers if worker.job is not None]
        if any(job.key != wanted for job in jobs):
            kept = next((job.ticket for job in jobs if job.key == wanted), None)
            self._tell_decoder(Drop(self._ticket, kept))

    def _tell_decoder(self, drop: Drop) -> None:
        assert self._decoder is not None
        pipe, room = self._decoder.connection, select.poll()
        with suppress(OSError):  # it died; whoever waits for it goes on by itself
            room.register(pipe, select.POLLOUT)
            # Where it does not listen, the next one says this, too.
            if room.poll(0):
                pipe.send(drop)

    def hope(self, frame: int, before: Iterable[int] = ()) -> Picture | None:
        """The picture of a frame if it is there, else of the first of those `before` it that is.

        If it is being drawn it comes by `receive`; it is not begun any more, as what is due now would come
        too late.
        """
        if self._project is None or self._ring is None:
            return None
        self._wanted, self._hoped, self._hurried, self._first = None, frame, False, False
        for other in (frame, *before):
            kept = self._cache.get(self._index.key(other))
            if kept is not None:
                return self._picture(other, kept)
        return self._there(frame, None)

    def _there(self, frame: int, kept: Kept | None) -> Picture | None:
        if kept is not None:
            # One that was drawn smaller stands in until the better one comes.
            self._newest = self._ticket
            return self._picture(frame, kept)
        if self._trouble is not None:
            return Picture(frame, None, (), 0.0, self._trouble)
        return None

    def draw_at(self, quality: Quality, least: Quality | None = None) -> None:
        """From now on draw so well; pictures that were drawn at `least` so well, or as well, do too."""
        self._quality, self._least = quality, least or quality
        self._dispatch()

    def ahead(self, frames: Iterable[int]) -> int:
        """How many of these frames are there."""
        return sum(map(self.is_cached, frames))

    def fill(self, frames: Iterable[int]) -> None:
        """Frames to draw, in this order, whenever nothing is wanted; replaces the list before. Those farther
        off than pictures can be kept are left out."""
        self._to_fill = list(islice(frames, max(1, self._cache.slots - _SPARE)))
        self._to_fill.reverse()
        if self._project is not None:
            # What is due later may go before what is due next; pictures of other times go first.
            self._cache.touch(map(self._index.key, self._to_fill))
        self._dispatch()

    def improve(self, frames: Iterable[int]) -> None:
        """Frames to draw in full, in this order, whenever there is nothing else to draw, if all of them can
        be kept at a time; replaces the list before."""
        asked = list(frames)
        self._to_improve = asked[::-1] if len(asked) <= self._cache.slots - _SPARE else []
        self._dispatch()

    def is_cached(self, frame: int) -> bool:
        return self._project is not None and self._cache.has(self._index.key(frame), self._least)

    def has(self, frames: range) -> bool:
        """Whether the pictures of all these frames are kept."""
        return all(self.is_cached(frame) for frame in frames)

    def ready(self) -> list[int]:
        """The frames whose pictures are kept, in order."""
        return self._cache.ready(self._index) if self._project is not None else []

    def receive(self, connection: Connection) -> Picture | None:
        """Take one answer from a worker; gives the wanted picture when it is that one."""
        worker = next((w for w in self._workers if w.connection is connection), None)
        if worker is None:
            return None
        try:
            if not connection.poll():
                return None
            answer = connection.recv()
        except (EOFError, OSError):
            return self._replace_dead(worker)
        job, worker.job = worker.job, None
        if answer.unreadable:
            worker.known, worker.project, worker.packs = Known(), None, False
        return self._answered(job, answer)

    def close(self) -> None:
        """End every process and free the memory."""
        for worker in self._workers:
            self._unwatch(worker)
            worker.connection.close()
        for worker in self._workers:
            worker.process.join(2)
            if worker.process.is_alive():
                worker.process.kill()
                worker.process.join()
            worker.process.close()
        self._workers.clear()
        self._end_decoder()
        for ring in [*self._old_rings, *([self._ring] if self._ring else [])]:
            ring.close()
        self._old_rings, self._ring = [], None
        self._cache = PictureCache(0)

    def _picture(self, frame: int, kept: Kept) -> Picture:
        assert self._ring is not None
        self._cache.pinned = kept.slot
        pixels = self._ring.part(kept.slot, kept.quality.size(self._ring.size))
        return Picture(frame, pixels, kept.quads, kept.cost, quality=kept.quality)

    def _start_workers(self) -> None:
        self._start_decoder()
        while len(self._workers) < self._count:
            self._workers.append(self._started())

    def _start_decoder(self) -> None:
        """One process decodes for all; where one draws alone it does so itself."""
        if self._count < 2 or (self._decoder is not None and self._decoder.process.is_alive()):
            return
        self._end_decoder()
        folder = TemporaryDirectory(prefix="rovix-")  # that nobody else may look into
        address = str(Path(folder.name) / "decoder")
        self._decoder = _Decoder(folder, address, *started("rovix.engine.decoding:work", address))

    def _end_decoder(self) -> None:
        if self._decoder is not None:
            self._decoder.connection.close()
            self._decoder.process.join(2)
            if self._decoder.process.is_alive():
                self._decoder.process.kill()
                self._decoder.process.join()
            self._decoder.process.close()
            self._decoder.folder.cleanup()
            self._decoder = None

    def _started(self) -> _Worker:
        decoder = None if self._decoder is None else self._decoder.address
        process, ours = started("rovix.engine.picture_worker:work", decoder, self._far, self._layers)
        if self.on_watch is not None:
            self.on_watch(ours, True)
        return _Worker(process, ours)

    def _unwatch(self, worker: _Worker) -> None:
        if self.on_watch is not None:
            self.on_watch(worker.connection, False)

    def _dispatch(self) -> None:
        for worker in self._workers:
            if worker.job is None and not self._give(worker):
                return

    def _give(self, worker: _Worker) -> bool:
        """Give an idle worker its next job; False when there is none."""
        job = self._next_job(self._workers.index(worker))
        if job is None:
            return False
        assert self._project is not None
        fresh = worker.project is not self._project
        delta = make_delta(self._project, worker.known, worker.packs) if fresh else None
        ring = None if worker.ring is job.ring else job.ring.key
        proxies = None if worker.proxies is self._proxies else self._proxies
        worker.project, worker.ring, worker.job = self._project, job.ring, job
        worker.proxies = self._proxies
        with suppress(OSError):  # it died; its pipe tells so next, and the job goes to another
            worker.connection.send(
                Order(
                    job.ticket, job.frame, job.slot, self._base, delta, ring, job.quality, job.manner,
                    proxies, fonts_turn(),
                )
            )  # fmt: skip
        return True

    def _next_job(self, number: int) -> _Job | None:
        """The job of the worker of a number: what is wanted, else the next to fill."""
        if self._project is None or self._ring is None:
            return None
        under_way = {worker.job.key for worker in self._workers if worker.job}
        job = None if self._wanted is None else self._job_of_wanted(self._wanted, under_way)
        if job is not None:
            return job
        while self._to_fill:
            frame = self._to_fill.pop(self._place_of_next(number))
            key = self._index.key(frame)
            if key not in under_way and not self._cache.has(key, self._least):
                return self._job(frame, key, self._quality)
        while self._to_improve:
            frame = self._to_improve.pop()
            key = self._index.key(frame)
            if key not in under_way and not self._cache.has(key, FULL):
                return self._job(frame, key, FULL)
        return None

    def _job_of_wanted(self, frame: int, under_way: set[PictureKey]) -> _Job | None:
        """The wanted picture's; None where it is being drawn: others go on with what comes after."""
        key = self._index.key(frame)
        if self._cache.has(key, self._least):
            return None
        if self._first:
            self._first = False
            return self._job(frame, key, self._quality, "at once")
        if key in under_way:
            return None
        return self._job(frame, key, self._quality, "exact" if self._hurried else "ahead")

    def _place_of_next(self, number: int) -> int:
        """Where in the list stands what a worker best draws next: the first of the next few that are its
        own."""
        end = len(self._to_fill)
        for place in range(end - 1, max(-1, end - 1 - STRETCH * self._count), -1):
            if self._sharing.drawer_of(self._to_fill[place]) == number:
                return place
        return end - 1

    def _job(self, frame: int, key: PictureKey, quality: Quality, manner: Manner = "ahead") -> _Job | None:
        assert self._ring is not None
        slot = self._reserved_slot(self._ring)
        if slot is None:
            return None
        self._ticket += 1
        return _Job(self._ticket, frame, key, slot, self._ring, quality, manner)

    def _reserved_slot(self, ring: Ring) -> int | None:
        """A slot that has memory; None when all are in use, or where there is none for any."""
        slot = self._cache.take_slot()
        if slot is None:
            return None
        try:
            ring.reserve(slot)
        except NoRoom as wrong:
            self._cache.give_back(slot)
            before, left = self._cache.slots, self._cache.keep_only(ring.reserved)
            self._say_short(before, left, str(wrong))
            slot = self._cache.take_slot()
        return slot

    def _say_short(self, before: int, left: int, reason: str) -> None:
        if left == 0:
            self._trouble = reason
        elif left < before and self.on_note is not None:
            self.on_note(
                f"Shared memory is short: {left} pictures are kept ready instead of {before}, so playing may "
                "stutter. Free some of /dev/shm."
            )

    def _answered(self, job: _Job | None, answer: Answer) -> Picture | None:
        picture = None
        if job is not None and job.ring is self._ring:
            if answer.dropped or answer.unreadable:
                self._cache.give_back(job.slot)
            elif answer.near:
                kept = Kept(job.slot, answer.quads, answer.cost.whole, job.quality)
                picture = self._stand_in(job, kept)
                self._cache.give_back(job.slot)  # it is not what its key says
            elif answer.error is not None:
                self._cache.give_back(job.slot)
                picture = self._for_the_screen(job, Picture(job.frame, None, (), 0.0, answer.error))
            else:
                self._keep(job, answer)
                picture = self._for_the_screen(job, None)
        self._close_old_rings()
        self._dispatch()
        return picture

    def _stand_in(self, job: _Job, kept: Kept) -> Picture | None:
        """What was wanted at once, while something else is wanted by now, or this is not quite it: a hand
        that goes on shall see where it is, even where drawing lags behind it."""
        if job.manner != "at once" or self._wanted is None or job.ticket <= self._newest:
            return None
        self._newest = job.ticket
        return replace(self._picture(job.frame, kept), stands_in=True)

    def _keep(self, job: _Job, answer: Answer) -> None:
        if self.on_cost is not None:
            self.on_cost(job.frame, job.quality, answer.cost)
        before = self._cache.get(job.key)
        if before is not None and before.quality.covers(job.quality):
            self._cache.give_back(job.slot)  # a better one is there by now
        else:
            self._cache.put(job.key, Kept(job.slot, answer.quads, answer.cost.whole, job.quality))

    def _for_the_screen(self, job: _Job, failed: Picture | None) -> Picture | None:
        kept = self._cache.get(job.key)
        wanted = job.frame in (self._wanted, self._hoped) and job.key == self._index.key(job.frame)
        if not wanted:
            return self._stand_in(job, kept) if kept is not None and failed is None else None
        self._newest = max(self._newest, job.ticket)
        if failed is not None or job.quality.covers(self._least):
            self._wanted = None  # else it stands in until the better one comes
        if failed is not None:
            return failed
        return self._picture(job.frame, kept) if kept else None

    def _replace_dead(self, dead: _Worker) -> Picture | None:
        self._unwatch(dead)
        dead.connection.close()
        dead.process.join()
        dead.process.close()
        self._workers[self._workers.index(dead)] = self._started()
        job = dead.job
        if job is not None and job.ring is self._ring:
            self._deaths[job.key] += 1
            if self._deaths[job.key] > 1:
                del self._deaths[job.key]
                lost = "The drawing process ended twice at this picture. Change the layer, or reopen."
                return self._answered(job, Answer(job.ticket, (), Cost(0.0), lost))
            self._cache.give_back(job.slot)
            if job.frame != self._wanted:
                self._to_fill.append(job.frame)
        self._close_old_rings()
        self._dispatch()
        return None

    def _close_old_rings(self) -> None:
        """Free rings that no process writes to any more."""
        busy = {id(worker.job.ring) for worker in self._workers if worker.job}
        still = []
        for ring in self._old_rings:
            if id(ring) in busy:
                still.append(ring)
            else:
                ring.close()
        self._old_rings = still
