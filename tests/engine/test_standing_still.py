"""Processes whose threads wait for one another for good are ended, and what they were at is done again."""

import os
import signal
import threading
import time
from contextlib import contextmanager

import pytest

from builders import project_of, title
from rovix.edit.titles import made_title
from rovix.engine import lanes, row_lanes, standing_still
from rovix.engine.bulk import make_rows
from rovix.engine.export import export
from rovix.engine.export_job import ExportJob
from rovix.engine.row_lanes import Row
from rovix.engine.standing_still import Stillness
from rovix.errors import RovixError
from rovix.model.delivery import Delivery
from rovix.processes import started
from rovix.time import Span

SIZE = (160, 90)


@pytest.fixture(autouse=True)
def soon(monkeypatch):
    monkeypatch.setattr(standing_still, "LOOK", 0.05)
    monkeypatch.setattr(lanes, "LOOK", 0.05)
    monkeypatch.setattr(standing_still, "LONG", 0.6)


def stand_still(connection, *_):
    """Two threads, of which each waits for what the other holds."""
    held = threading.Lock(), threading.Lock()
    both = threading.Barrier(2)

    def wait(mine, other):
        with mine:
            both.wait()
            other.acquire()

    threading.Thread(target=wait, args=held, daemon=True).start()
    wait(*reversed(held))


def work_beside_one_that_waits(connection, *_):
    """The first thread waits for another, which works."""
    other = threading.Thread(target=work)
    other.start()
    other.join()


def work(*_):
    while True:
        pass


def wait_to_be_asked(connection, *_):
    connection.recv()


def rest_now_and_then(connection, *_):
    """Waits for a lock for some time, then works for a moment."""
    lock = threading.Lock()
    lock.acquire()
    while True:
        lock.acquire(timeout=0.2)
        until = time.process_time() + 0.03
        while time.process_time() < until:
            pass


@contextmanager
def at(*works):
    begun = [started(each) for each in works]
    try:
        yield [process for process, _ in begun]
    finally:
        for process, connection in begun:
            process.kill()
            process.join()
            connection.close()


def seen(processes, seconds):
    """Whether they were found to stand still within so many seconds."""
    still = Stillness([process.pid for process in processes])
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        if still.for_good():
            return True
        time.sleep(0.02)
    return False


def test_threads_that_wait_for_one_another_are_noticed():
    with at(stand_still) as processes:
        assert seen(processes, 30)
        assert processes[0].is_alive()
        Stillness([process.pid for process in processes]).end()
        processes[0].join(30)
        assert processes[0].exitcode == -signal.SIGKILL


def test_one_that_others_wait_for_is_noticed():
    """As where a process that draws stands still, and the one that encodes waits for its picture."""
    with at(wait_to_be_asked, stand_still, wait_to_be_asked) as processes:
        assert seen(processes, 30)


@pytest.mark.parametrize("work", [work, work_beside_one_that_waits, wait_to_be_asked, rest_now_and_then])
def test_who_works_or_waits_for_someone_else_does_not_stand_still(work):
    with at(work) as processes:
        assert not seen(processes, 2)


def test_one_that_works_is_enough():
    with at(stand_still, work) as processes:
        assert not seen(processes, 2)


def test_one_that_was_stopped_by_hand_is_left_alone():
    with at(stand_still) as processes:
        os.kill(processes[0].pid, signal.SIGSTOP)
        assert not seen(processes, 2)


def test_one_that_has_ended_is_not_asked_for():
    with at(stand_still) as processes:
        processes[0].kill()
        processes[0].join()
        assert not seen(processes, 1)
        Stillness([process.pid for process in processes]).end()


def instead(monkeypatch, module, times):
    """The first so many processes of a module stand still as soon as they have something to do."""
    own, begun = module.started, []

    def start(work, *arguments):
        begun.append(None)
        return own(stand_still if len(begun) <= times else work, *arguments)

    monkeypatch.setattr(module, "started", start)
    return begun


def job(folder, name="a.mp4"):
    project = project_of(title("Larkmoor", length=10), background="#203040", size=SIZE, rate="5")
    return ExportJob(project, folder, folder / name, Span(0, 10))


def test_an_export_goes_on_where_a_process_stood_still(tmp_path, monkeypatch):
    whole = job(tmp_path, "whole.mp4")
    export(whole, workers=1)
    begun = instead(monkeypatch, lanes, 2)
    export(job(tmp_path), workers=1)
    assert len(begun) == 3
    assert (tmp_path / "a.mp4").read_bytes() == whole.out.read_bytes()


def test_an_export_that_always_stands_still_says_so(tmp_path, monkeypatch):
    instead(monkeypatch, lanes, 3)
    with pytest.raises(RovixError, match="stood still, 3 times at frames 0 to 9"):
        export(job(tmp_path), workers=1)
    assert list(tmp_path.iterdir()) == []


def test_an_export_can_be_stopped_while_a_process_stands_still(tmp_path, monkeypatch):
    monkeypatch.setattr(standing_still, "LONG", 600)
    instead(monkeypatch, lanes, 1)
    began = time.monotonic()

    def stop(done, total):
        if time.monotonic() - began > 0.5:
            raise KeyboardInterrupt

    monkeypatch.setattr(lanes, "_PATIENCE", 0.1)
    with pytest.raises(KeyboardInterrupt):
        export(job(tmp_path), workers=1, progress=stop)
    assert list(tmp_path.iterdir()) == []


def test_a_row_is_made_by_another_process(tmp_path, monkeypatch):
    begun = instead(monkeypatch, row_lanes, 1)
    project = project_of(title("Larkmoor", length=10, id="w"), size=SIZE, rate="5")
    made = make_rows(
        made_title(project, ("w",), tmp_path, "Names"), "Names", [Row(2, {}), Row(3, {})], tmp_path / "out",
        ".png", Delivery(codec="picture"), workers=1,
    )  # fmt: skip
    assert [one.problem for one in made] == ["", ""]
    assert len(begun) == 2
