"""Ranges on a Dask cluster of two workers on this machine: the same file, whoever is lost on the way."""

import os
import signal

import pytest
from distributed import LocalCluster
from PIL import Image

from builders import project_of, title
from rovix.engine import cluster
from rovix.engine.cluster import on_cluster
from rovix.engine.export import export
from rovix.engine.export_job import ExportJob
from rovix.errors import RovixError
from rovix.model import Media, StillClip
from rovix.model.delivery import Delivery
from rovix.motion.ready_moves import wave
from rovix.time import Span

SIZE = (160, 90)
LENGTH = 75
"""Fifteen seconds at five pictures a second: three ranges."""


@pytest.fixture(scope="module")
def two_workers():
    with LocalCluster(n_workers=2, threads_per_worker=1, dashboard_address=None, silence_logs=50) as made:
        yield made


@pytest.fixture
def job(tmp_path):
    """Words over a still, which other processes open by a process of their own."""
    Image.new("RGB", SIZE, "#203040").save(tmp_path / "ground.png")
    media = Media(id="ground", path="ground.png", kind="still", width=160, height=90)
    ground = StillClip(id="g", media="ground", length=LENGTH)
    words = title("Larkmoor", length=LENGTH, moves=[wave()])
    project = project_of(ground, words, media=(media,), size=SIZE, rate="5")

    def make(name, **how):
        return ExportJob(project, tmp_path, tmp_path / name, Span(0, LENGTH), Delivery(**how))

    return make


@pytest.mark.parametrize(("suffix", "codec"), [(".mp4", "h264"), (".mov", "prores-4444"), (".webm", "vp9")])
def test_a_cluster_writes_the_same_file(job, two_workers, suffix, codec):
    here, there = (job(f"{name}{suffix}", codec=codec) for name in ("here", "there"))
    export(here, 2)
    told = []
    export(
        there, progress=lambda done, total: told.append(done), write=on_cluster(two_workers.scheduler_address)
    )
    assert there.out.read_bytes() == here.out.read_bytes()
    assert sorted(set(told))[-1] == LENGTH


def test_a_worker_that_is_killed_costs_its_range_alone(job, two_workers):
    whole, again = job("whole.mp4"), job("again.mp4")
    export(whole, 2)
    killed = []

    def kill(done, total):
        if done and not killed:
            pid = next(iter(two_workers.workers.values())).pid
            killed.append(pid)
            os.kill(pid, signal.SIGKILL)

    export(again, progress=kill, write=on_cluster(two_workers.scheduler_address))
    assert killed
    assert again.out.read_bytes() == whole.out.read_bytes()


def test_stopping_leaves_nothing(job, two_workers, tmp_path):
    def stop(done, total):
        if done:
            raise KeyboardInterrupt

    with pytest.raises(KeyboardInterrupt):
        export(job("a.mp4"), progress=stop, write=on_cluster(two_workers.scheduler_address))
    assert sorted(path.name for path in tmp_path.iterdir()) == ["ground.png"]


def test_other_versions_are_refused_by_name(job, two_workers, monkeypatch):
    ours = cluster.versions_here()
    # The cluster's processes have their own module, and answer by what is installed.
    monkeypatch.setattr(cluster, "versions_here", Answer(ours | {"numpy": "1.0"}))
    with pytest.raises(RovixError, match=r"other versions than this machine.*numpy .*, here 1\.0"):
        export(job("a.mp4"), write=on_cluster(two_workers.scheduler_address))


class Answer:
    """Answers otherwise here than where it is sent."""

    def __init__(self, here):
        self._here = here

    def __call__(self):
        return self._here

    def __reduce__(self):
        return getattr, (cluster, "versions_here")


def test_folders_that_are_not_shared_are_said(job, two_workers, monkeypatch):
    monkeypatch.setattr(cluster, "_not_seen", see_nothing)
    with pytest.raises(RovixError, match=r"does not see .*seen-.*share"):
        export(job("a.mp4"), write=on_cluster(two_workers.scheduler_address))


def see_nothing(files):
    return files


def test_what_cannot_be_drawn_is_said_with_its_frames(job, two_workers, tmp_path):
    asked = job("a.mp4")
    (tmp_path / "ground.png").write_bytes(b"no picture")
    # Either half of the frames may fail first.
    said = r"Frames (\d+) to \d+ could not be written\. Frame \1 .*ground\.png"
    with pytest.raises(RovixError, match=said):
        export(asked, write=on_cluster(two_workers.scheduler_address))


def test_no_scheduler_is_a_sentence(job, monkeypatch):
    monkeypatch.setattr(cluster, "_SECONDS", 1)
    with pytest.raises(RovixError, match=r"No scheduler answers at tcp://127\.0\.0\.1:9"):
        export(job("a.mp4"), write=on_cluster("tcp://127.0.0.1:9"))
