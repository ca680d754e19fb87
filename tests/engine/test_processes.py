"""The server that all other processes are forked from, and slots of shared memory whatever happens."""

import errno
import os
import random
import signal
import sys
import time
from contextlib import suppress
from multiprocessing.connection import wait
from pathlib import Path

import numpy as np
import pytest

from builders import project_of, title
from rovix.edit import change_text
from rovix.engine.export_job import ExportJob
from rovix.engine.picture_service import PictureService
from rovix.engine.ranges import CrewDrawing
from rovix.engine.ring import NoRoom, Ring
from rovix.errors import RovixError
from rovix.media.encoders import ENCODERS
from rovix.model import Sequence
from rovix.processes import Behind, Limits, give_way, started
from rovix.time import Span

SIZE = (64, 36)


def tell_of_the_server(connection):
    parent = os.getppid()
    maps = Path(f"/proc/{parent}/maps").read_text()
    threads = len(list(Path(f"/proc/{parent}/task").iterdir()))
    loaded = "skia" in sys.modules and "av" in sys.modules and "cv2" in sys.modules
    connection.send((parent, threads, "Qt6" in maps or "PySide6" in maps, loaded))


def use_memory(connection, size):
    try:
        block = bytearray(size)
        connection.send(len(block))
    except MemoryError:
        connection.send("MemoryError")


def use_the_processor(connection):
    while True:
        pass


def tell_how_it_stands(connection):
    connection.send((os.getpriority(os.PRIO_PROCESS, 0), os.sched_getscheduler(0)))


def give_way_and_start_another(connection):
    give_way(Behind.FILES)
    connection.send(answer_of(tell_how_it_stands))


def encode_and_tell_how_all_threads_stand(connection, codec, folder):
    """As many pictures as make every thread of an encoder begin."""
    give_way(Behind.JOBS)
    kind = next(kind for kind in ENCODERS if kind.codec == codec)
    path = folder / f"a{kind.suffix}"
    begin = kind.quality(kind.qualities[0].name).begin
    writer = begin(path, (160, 90), Sequence(rate="30").frame_rate, False)
    for _ in range(20):
        writer.add_picture(np.full((90, 160, 4), 255, np.uint8))
    threads = [int(name) for name in os.listdir("/proc/self/task")]
    standing = {(os.getpriority(os.PRIO_PROCESS, one), os.sched_getscheduler(one)) for one in threads}
    writer.close()
    connection.send(standing)


def answer_of(work, *arguments, limits=None):
    process, connection = started(work, *arguments, limits=limits)
    try:
        return connection.recv()
    finally:
        connection.close()
        process.join(20)
        process.close()


def test_all_processes_come_from_one_server_that_has_the_core_no_qt_and_no_thread():
    one, other = answer_of(tell_of_the_server), answer_of(tell_of_the_server)
    assert one == other
    server, threads, has_qt, has_the_core = one
    assert server != os.getpid()
    assert threads == 1
    assert not has_qt
    assert has_the_core


def test_limits_are_the_systems_own():
    assert answer_of(use_memory, 64 << 20, limits=Limits(memory=256 << 20)) == 64 << 20
    assert answer_of(use_memory, 512 << 20, limits=Limits(memory=256 << 20)) == "MemoryError"
    process, connection = started(use_the_processor, limits=Limits(seconds=1))
    with pytest.raises(EOFError):
        connection.recv()
    process.join(10)
    assert process.exitcode == -signal.SIGKILL
    process.close()
    connection.close()


@pytest.fixture
def service():
    made = PictureService(workers=2, memory=8 * SIZE[0] * SIZE[1] * 4)
    made.resize(SIZE)
    yield made
    made.close()


def kill(process: int) -> None:
    with suppress(ProcessLookupError):  # gone already, but not heard of yet
        os.kill(process, signal.SIGKILL)


def slots_of(service) -> list[int]:
    """Every slot, by where it is: free, kept, being drawn, or held only by the screen."""
    cache = service._cache
    drawn = [w.job.slot for w in service._workers if w.job is not None and w.job.ring is service._ring]
    return [*cache._free, *(kept.slot for kept in cache._kept.values()), *drawn, *cache._loose]


@pytest.mark.parametrize("seed", range(4))
def test_no_slot_is_lost_or_used_twice_whatever_happens(service, tmp_path, seed):
    drawn = random.Random(seed)
    project = project_of(title("Larkmoor", length=200), size=SIZE)
    service.show(project, tmp_path)

    def hear():
        for connection in wait([worker.connection for worker in service._workers], 0.05):
            service.receive(connection)

    def edit():
        nonlocal project
        project = change_text(project, "title", content=f"Edit {drawn.random()}")
        service.show(project, tmp_path)

    deeds = [
        edit,
        hear,
        hear,
        lambda: service.want(drawn.randrange(200)),
        lambda: service.fill([drawn.randrange(200) for _ in range(6)]),
        lambda: kill(drawn.choice(service.processes).pid),
        lambda: service.resize((SIZE[0] + 2 * drawn.randrange(2), SIZE[1])),
    ]
    for _ in range(60):
        drawn.choice(deeds)()
        assert sorted(slots_of(service)) == sorted(service._cache._all)
    end = time.monotonic() + 60
    while service.want(7) is None and time.monotonic() < end:
        hear()
    assert service.want(7).pixels is not None, "and pictures still come"


@pytest.fixture
def little_memory(monkeypatch):
    """Shared memory that is full after so many slots."""
    real, left = os.posix_fallocate, [0]

    def fallocate(handle, start, length):
        if left[0] <= 0:
            raise OSError(errno.ENOSPC, os.strerror(errno.ENOSPC))
        left[0] -= 1
        real(handle, start, length)

    monkeypatch.setattr("rovix.engine.ring.os.posix_fallocate", fallocate)
    return left


def test_a_ring_reserves_what_is_written_to(little_memory):
    little_memory[0] = 1
    ring = Ring(3, SIZE)
    try:
        ring.reserve(0)
        ring.reserve(0)
        assert ring.reserved == {0}
        blocks = Path(f"/dev/shm/{ring.name}").stat().st_blocks * 512
        assert blocks >= SIZE[0] * SIZE[1] * 4
        with pytest.raises(NoRoom, match=r"/dev/shm has \d+ MB free"):
            ring.reserve(1)
    finally:
        ring.close()


def test_with_too_little_memory_fewer_pictures_are_kept_and_it_is_said_once(service, tmp_path, little_memory):
    little_memory[0] = 3
    said = []
    service.on_note = said.append
    service.show(project_of(title("Larkmoor"), size=SIZE), tmp_path)
    end = time.monotonic() + 60
    for frame in range(12):
        while service.want(frame) is None and time.monotonic() < end:
            for connection in wait([worker.connection for worker in service._workers], 0.05):
                service.receive(connection)
    assert len(said) == 1
    assert said[0].startswith("Shared memory is short: 3 pictures are kept ready instead of 8")
    assert len(service.ready()) == 3
    assert all(process.is_alive() for process in service.processes)


def test_with_none_at_all_the_picture_says_why(service, tmp_path, little_memory):
    service.show(project_of(title("Larkmoor"), size=SIZE), tmp_path)
    assert "too little shared memory" in service.want(0).error


def test_drawing_for_an_export_without_memory_says_so(tmp_path, little_memory):
    project = project_of(title("Larkmoor"), size=SIZE)
    with pytest.raises(RovixError, match="too little shared memory"):
        CrewDrawing(ExportJob(project, tmp_path, tmp_path / "a.mp4", Span(0, 60)), 2)


def tell_of_ones_own(connection):
    connection.send((os.getppid(), answer_of(tell_of_the_server)[0]))


def test_processes_of_processes_come_from_the_same_server():
    one, other = answer_of(tell_of_ones_own)
    assert one == other == answer_of(tell_of_the_server)[0]


def test_processes_stand_behind_the_window_and_never_stop_it_in_the_midst():
    here = os.getpriority(os.PRIO_PROCESS, 0)
    assert answer_of(tell_how_it_stands) == (here, os.SCHED_OTHER)
    # What such a process starts for its own work stands no nearer, though it is forked from the server.
    assert answer_of(give_way_and_start_another) == (here + Behind.FILES, os.SCHED_BATCH)
    assert min(Behind) > 0
    assert sorted(Behind) == list(Behind)


def test_what_draws_the_viewers_pictures_gives_way_too(service, tmp_path):
    service.show(project_of(title("Kite")), tmp_path)
    service.want(0)
    assert wait([worker.connection for worker in service._workers], 20)
    here = os.getpriority(os.PRIO_PROCESS, 0)
    stand = [os.getpriority(os.PRIO_PROCESS, process.pid) - here for process in service.processes]
    assert Behind.PICTURES in stand  # who has drawn one; others are to draw their first


@pytest.mark.parametrize("codec", [kind.codec for kind in ENCODERS if kind.pictures])
def test_no_encoder_takes_the_machine_for_itself(codec, tmp_path):
    """With the rights of root one makes itself real-time, at the highest priority (what SVT-AV1 was seen to
    do; no source)."""
    here = os.getpriority(os.PRIO_PROCESS, 0)
    standing = answer_of(encode_and_tell_how_all_threads_stand, codec, tmp_path)
    assert standing == {(here + Behind.JOBS, os.SCHED_BATCH)}
