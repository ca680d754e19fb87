"""The queue of exports: its order, what becomes of each, and that nothing of it is lost with a process."""

import os
import signal
import time

import pytest

from builders import project_of, title
from rovix.engine.export import export
from rovix.engine.export_job import ExportJob
from rovix.engine.export_queue import ExportQueue
from rovix.engine.export_worker import work
from rovix.errors import RovixError
from rovix.model.delivery import Delivery
from rovix.motion.ready_moves import wave
from rovix.processes import started
from rovix.time import Span

SIZE = (160, 90)
PROJECT = project_of(
    title("Larkmoor", length=1500, moves=[wave()]), background="#203040", size=SIZE, rate="5"
)


@pytest.fixture
def queue(tmp_path):
    return ExportQueue(tmp_path / "queue")


def job(folder, name="a.mp4", length=30, **how):
    return ExportJob(PROJECT, folder, folder / name, Span(0, length), Delivery(**how))


def added(queue, folder, count=3, length=30):
    return [queue.add(job(folder, f"{number}.mp4", length), "Larkmoor").id for number in range(count)]


def wait_until(found, seconds=120):
    end = time.monotonic() + seconds
    while not found():
        assert time.monotonic() < end
        time.sleep(0.02)


def states(queue):
    return [item.state for item in queue.items()]


@pytest.fixture
def worked(queue):
    """Starts the process that does what waits; ends it."""
    made = []

    def start():
        process, connection = started(work, queue.folder, 1)
        made.append((process, connection))
        return process

    yield start
    for process, connection in made:
        connection.close()
        process.join(20)
        assert not process.is_alive()


def ids(queue):
    return [item.id for item in queue.items()]


def test_they_wait_in_order_and_are_moved_and_removed(queue, tmp_path):
    one, two, three = added(queue, tmp_path)
    assert ids(queue) == [one, two, three]
    queue.move(three, -2)
    assert ids(queue) == [three, one, two]
    queue.move(three, -5)
    queue.move(two, 5)
    assert ids(queue) == [three, one, two]
    queue.remove(one)
    assert ids(queue) == [three, two]
    assert len(list(queue.folder.glob("*.rovix"))) == 2
    queue.remove("gone")
    queue.move("gone", 1)
    assert ids(queue) == [three, two]


def test_a_job_comes_back_as_it_was(queue, tmp_path):
    asked = job(tmp_path, "a.webm", size=(320, 180), codec="av1", quality="small")
    assert queue.job(queue.add(asked, "Kites")) == asked


def test_one_file_is_not_written_by_two(queue, tmp_path):
    queue.add(job(tmp_path), "Kites")
    with pytest.raises(RovixError, match=r"a\.mp4 waits to be exported already"):
        queue.add(job(tmp_path), "Kites")
    queue.change(ids(queue)[0], state="done")
    queue.add(job(tmp_path), "Kites")


def test_they_are_done_one_after_another_and_what_was_written_is_said(queue, tmp_path, worked):
    added(queue, tmp_path, 2)
    queue.add(job(tmp_path / "none", "b.mp4"), "Kites")
    process = worked()
    wait_until(lambda: "waiting" not in states(queue))
    process.join(20)
    assert states(queue) == ["done", "done", "failed"]
    first, _, failed = queue.items()
    assert first.weight == first.path.stat().st_size
    assert first.seconds > 0
    assert "does not exist" in failed.said
    assert not queue.is_worked_on
    assert queue.at_work() is None
    assert sorted(path.name for path in tmp_path.iterdir()) == ["0.mp4", "1.mp4", "queue"]


def test_how_far_it_is_is_told_and_a_pause_keeps_what_is_written(queue, tmp_path, worked):
    added(queue, tmp_path, 1, length=1500)  # longer than it takes to be paused
    process = worked()
    wait_until(lambda: (at := queue.at_work()) is not None and at.done > 0)
    item = queue.items()[0]
    wait_until(lambda: item.ranges.is_dir() and any(item.ranges.glob("0*.mp4")))
    queue.change(item.id, state="paused")
    process.join(20)
    assert not process.is_alive()
    assert not item.path.exists()
    assert any(item.ranges.glob("0*.mp4"))
    queue.change(item.id, state="waiting")
    worked()
    at = []
    wait_until(lambda: at.append(queue.at_work()) or states(queue) == ["done"])
    assert min(one.done for one in at if one is not None and one.done) >= 50
    assert not item.ranges.exists()


def test_one_that_is_removed_at_work_leaves_nothing_and_the_next_goes_on(queue, tmp_path, worked):
    first, _ = added(queue, tmp_path, 2, length=150)
    worked()
    wait_until(lambda: (at := queue.at_work()) is not None and at.done > 0)
    queue.remove(first)
    wait_until(lambda: states(queue) == ["done"])
    assert sorted(path.name for path in tmp_path.iterdir()) == ["1.mp4", "queue"]


def test_only_one_process_works_and_it_ends_with_whom_it_works_for(queue, tmp_path, worked):
    added(queue, tmp_path, 1, length=150)
    first = worked()
    wait_until(lambda: queue.is_worked_on)
    second = worked()
    second.join(20)
    assert not second.is_alive()
    assert first.is_alive()


def test_five_survive_a_kill_and_are_done_as_if_nothing_had_been(queue, tmp_path, worked):
    whole = tmp_path / "whole.mp4"
    export(ExportJob(PROJECT, tmp_path, whole, Span(0, 150)), 1)
    added(queue, tmp_path, 5, length=150)
    process = worked()
    wait_until(lambda: states(queue)[0] == "done")
    ranges = queue.items()[1].ranges
    wait_until(lambda: ranges.is_dir() and any(ranges.glob("0*.mp4")))
    os.kill(process.pid, signal.SIGKILL)
    process.join()
    assert not queue.is_worked_on
    again = ExportQueue(queue.folder)
    assert states(again) == ["done", *["waiting"] * 4]
    worked()
    wait_until(lambda: states(again) == ["done"] * 5)
    assert {path.read_bytes() for path in tmp_path.glob("?.mp4")} == {whole.read_bytes()}
    assert not list(tmp_path.glob(".*.ranges"))


@pytest.mark.parametrize("content", [b"{", b"[1]", b'[{"id": 3}]', b"\xff"])
def test_a_damaged_list_is_put_aside_and_said(queue, content):
    queue.folder.mkdir()
    (queue.folder / "exports.json").write_bytes(content)
    with pytest.raises(RovixError, match="put aside as"):
        queue.items()
    assert (queue.folder / "exports.damaged").read_bytes() == content
    assert queue.items() == []


def test_a_damaged_project_fails_by_itself(queue, tmp_path, worked):
    first, _ = added(queue, tmp_path, 2)
    (queue.folder / f"{first}.rovix").write_text("no project")
    worked()
    wait_until(lambda: states(queue) == ["failed", "done"])
    assert f"{first}.rovix" in queue.items()[0].said
