"""Exports cut into ranges: the same file on however many workers, whoever dies on the way."""

import hashlib
import multiprocessing
import os
import signal
from collections import deque
from functools import lru_cache
from itertools import pairwise
from pathlib import Path

import av
import pytest

from builders import project_of, title
from rovix.engine import lanes
from rovix.engine.export import export, folder_of
from rovix.engine.export_job import ExportJob
from rovix.engine.ranges import RANGE, job_key, ranges_of
from rovix.engine.standing_still import Stillness
from rovix.errors import RovixError
from rovix.media.encoders import ENCODERS
from rovix.model import BackgroundClip, Plain
from rovix.model.delivery import Delivery
from rovix.motion.ready_moves import wave
from rovix.time import Span

SIZE = (160, 90)
JOINED = [kind for kind in ENCODERS if kind.join]


@lru_cache
def project_for(length, rate):
    words = title("Larkmoor", length=length, moves=[wave()])
    return project_of(words, background="#203040", size=SIZE, rate=rate)


def job(folder, kind=None, length=40, rate="5", name="a"):
    """Eight seconds at five pictures a second, cut once."""
    project = project_for(length, rate)
    suffix = kind.suffix if kind else ".mp4"
    return ExportJob(
        project, folder, folder / f"{name}{suffix}", Span(0, length), Delivery(codec=kind and kind.codec)
    )


def digest(path):
    files = sorted(path.iterdir()) if path.is_dir() else [path]
    return [hashlib.blake2b(file.read_bytes()).hexdigest() for file in files]


def made(asked, **how):
    export(asked, **how)
    return folder_of(asked.out) if asked.out.suffix in (".png", ".jpg") else asked.out


@pytest.mark.parametrize("seconds", [1, 4, 7, 8, 9, 14, 15, 16, 25, 60, 601])
def test_ranges_are_equal_parts_that_depend_on_the_job_alone(tmp_path, seconds):
    found = ranges_of(job(tmp_path, length=seconds * 5), tmp_path)
    assert [found[0].span.start, found[-1].span.end] == [0, seconds * 5]
    assert all(one.span.end == other.span.start for one, other in pairwise(found))
    lengths = [one.span.length for one in found]
    assert max(lengths) - min(lengths) <= 1
    assert max(lengths) <= 1.5 * RANGE * 5
    assert len(found) == 1 or min(lengths) >= 2 / 3 * RANGE * 5 - 1


@pytest.mark.parametrize("kind", JOINED, ids=lambda kind: kind.codec)
def test_one_two_and_four_workers_write_the_same_file(tmp_path, kind):
    files = [made(job(tmp_path, kind, name=f"w{workers}"), workers=workers) for workers in (1, 2, 4)]
    assert len(ranges_of(job(tmp_path, kind), tmp_path)) == 2
    assert len({tuple(digest(file)) for file in files}) == 1


@pytest.mark.parametrize("kind", [kind for kind in JOINED if not kind.folder], ids=lambda kind: kind.codec)
def test_pictures_of_all_ranges_are_there_each_at_its_time(tmp_path, kind):
    """Times to half a tick, over the seam too, and each range begins with a picture that stands for itself."""
    asked = job(tmp_path, kind, rate="24000/1001", length=480)
    out = made(asked, workers=2)
    with av.open(str(out)) as container:
        stream = container.streams.video[0]
        packets = [packet for packet in container.demux(stream) if packet.size]
        tick, fps = stream.time_base, asked.project.sequence.frame_rate.fraction
    shown = sorted(packet.pts for packet in packets)
    assert len(shown) == 480
    assert all(abs((pts - shown[0]) * tick - n / fps) <= tick / 2 for n, pts in enumerate(shown))
    assert all(one.dts < other.dts for one, other in pairwise(packets))
    begins = {round((packet.pts - shown[0]) * tick * fps) for packet in packets if packet.is_keyframe}
    assert {wanted.span.start for wanted in ranges_of(asked, tmp_path)} <= begins


def test_killed_workers_change_nothing(tmp_path, monkeypatch):
    whole = made(job(tmp_path, name="whole"), workers=2)
    begun, killed = [], []
    monkeypatch.setattr(lanes, "started", noting(lanes.started, begun))

    def kill(done, total):
        if done >= 10 and not killed:
            killed.extend(process.pid for process in begun)
            for pid in killed:
                os.kill(pid, signal.SIGKILL)

    again = made(job(tmp_path, name="again"), workers=2, progress=kill)
    assert len(killed) == 2
    assert len(begun) == 4
    assert digest(again) == digest(whole)
    assert sorted(path.name for path in tmp_path.iterdir()) == ["again.mp4", "whole.mp4"]


def noting(start, begun):
    def started(work, *arguments):
        process, connection = start(work, *arguments)
        begun.append(process)
        return process, connection

    return started


def test_a_range_whose_workers_die_again_and_again_is_given_up_by_name(tmp_path, monkeypatch):
    begun = []
    monkeypatch.setattr(lanes, "started", noting(lanes.started, begun))

    def kill(done, total):
        for process in begun:
            if process.is_alive():
                os.kill(process.pid, signal.SIGKILL)

    with pytest.raises(RovixError, match="3 times at frames 0 to 29"):
        export(job(tmp_path, length=30), workers=1, progress=kill)
    assert list(tmp_path.iterdir()) == []


def test_a_drawing_process_that_dies_costs_its_range_alone(tmp_path, monkeypatch):
    """One range on three workers: one process encodes what others draw."""
    whole = made(job(tmp_path, length=30, name="whole"), workers=1)
    begun, killed = [], []
    monkeypatch.setattr(lanes, "started", noting(lanes.started, begun))

    def kill(done, total):
        if done == 5 and not killed:
            drawers = younger_than(begun[0].pid)
            killed.extend(drawers)
            for pid in drawers:
                os.kill(pid, signal.SIGKILL)

    again = made(job(tmp_path, length=30, name="again"), workers=3, progress=kill)
    assert len(killed) == 3
    assert len(begun) == 2
    assert digest(again) == digest(whole)


def younger_than(pid):
    """Processes that have the same parent as one, and began after it (proc(5), fields 4 and 22)."""
    fields = {}
    for path in Path("/proc").glob("[0-9]*/stat"):
        try:
            fields[int(path.parent.name)] = path.read_text().rpartition(")")[2].split()
        except OSError:
            continue  # it has just ended
    parent, since = fields[pid][1], int(fields[pid][19])
    return [
        other for other, one in fields.items() if one[1] == parent and one[0] != "Z" and int(one[19]) > since
    ]


def test_ranges_that_are_kept_are_not_written_again(tmp_path):
    whole = made(job(tmp_path, name="whole"), workers=2)
    keep, told = tmp_path / "kept", []

    def stop(done, total):
        if any(wanted.is_there for wanted in ranges_of(job(tmp_path), keep)):
            raise KeyboardInterrupt

    with pytest.raises(KeyboardInterrupt):
        export(job(tmp_path), workers=1, keep=keep, progress=stop)
    first = next(wanted for wanted in ranges_of(job(tmp_path), keep) if wanted.is_there)
    out = made(job(tmp_path), workers=1, keep=keep, progress=lambda done, total: told.append(done))
    assert told[0] == first.span.length
    assert digest(out) == digest(whole)
    assert not keep.exists()


def test_ranges_of_another_job_are_not_taken(tmp_path):
    keep = tmp_path / "kept"
    with pytest.raises(KeyboardInterrupt):
        export(job(tmp_path, rate="6", length=90), workers=1, keep=keep, progress=stopping_at(60))
    told = []
    export(job(tmp_path), workers=1, keep=keep, progress=lambda done, total: told.append(done))
    assert told[0] == 0


def stopping_at(count):
    def stop(done, total):
        if done >= count:
            raise KeyboardInterrupt

    return stop


def test_a_job_is_known_by_all_that_changes_its_ranges(tmp_path):
    asked = job(tmp_path)
    background = BackgroundClip(id="b", length=75, background=Plain(colour="#ffffff"))
    others = [
        job(tmp_path, JOINED[1]),
        job(tmp_path, rate="6"),
        ExportJob(asked.project, tmp_path, asked.out, Span(0, 74)),
        ExportJob(asked.project, tmp_path, asked.out, asked.span, Delivery((320, 180))),
        ExportJob(asked.project, tmp_path, asked.out, asked.span, Delivery(quality="small")),
        ExportJob(project_of(background, size=SIZE, rate="5"), tmp_path, asked.out, asked.span),
    ]
    keys = [job_key(one) for one in (asked, *others)]
    assert len(set(keys)) == len(keys)
    assert job_key(job(tmp_path, name="elsewhere")) == keys[0]


def test_a_dead_writer_is_noticed_though_its_pipe_is_held_open(monkeypatch, tmp_path):
    ours, theirs = multiprocessing.Pipe()
    writer = multiprocessing.get_context("spawn").Process(target=int)
    writer.start()
    writer.join()
    asked = job(tmp_path)
    waiting = lanes.Lanes(asked, 1, lambda done: None)
    again = []
    monkeypatch.setattr(lanes.Lanes, "_begin", lambda self, drawers: again.append(drawers))
    wanted = ranges_of(asked, tmp_path)[0]
    waiting._lanes.append(lanes._Lane(writer, ours, Stillness([writer.pid]), wanted))
    todo = deque()
    waiting._hear(todo)  # the other end, `theirs`, is open: the pipe says nothing
    assert (list(todo), again) == ([wanted], [1])
    theirs.close()
