"""Strips, waveforms and levels, and the process that works them out."""

import os
import signal
import time
from multiprocessing.connection import wait

import numpy as np
import pytest

from builders import loud_project
from made_files import square_wave
from rovix.engine.file_views import levels, strip, waveform
from rovix.engine.thumbnails import LocalThumbnailMaker, ThumbnailProcess


def test_a_strip_is_spread_over_the_film(demo_data):
    pictures = strip(demo_data / "hill-morning.mp4", "footage", 9.0)
    assert pictures.shape == (9, 72, 128, 4)
    assert np.abs(pictures[0].astype(int) - pictures[8]).max() > 40, "the kites move"
    logo = strip(demo_data / "logo.png", "still", 0.0)
    assert logo.shape == (1, 72, 72, 4)
    assert logo[0, 0, 0, 3] == 0, "its corners are clear"


def test_a_waveform_is_the_lowest_and_highest_of_each_hundredth(tmp_path):
    peaks = waveform(square_wave(tmp_path / "a.wav", 1.25, loud=0.4))
    assert peaks.shape == (125, 2)
    assert peaks[:, 1] == pytest.approx(0.4, abs=1e-3)
    assert peaks[:, 0] == pytest.approx(-0.4, abs=1e-3)


def test_levels_are_the_peaks_of_the_mix_frame_by_frame(tmp_path):
    square_wave(tmp_path / "a.wav", 1.0)
    found = levels(loud_project(0.0), tmp_path)
    assert found.shape == (30, 2)
    assert not found[:10].any()
    assert found[10:, 0] == pytest.approx(0.5 * np.sqrt(2), abs=1e-3)
    assert not found[10:, 1].round(6).any()
    assert (levels(loud_project(12.0), tmp_path)[10:, 0] > 1).all(), "clipping is not cut off here"
    assert not levels(loud_project(0.0), tmp_path / "elsewhere").any(), "a missing file is silent"


def answers_of(service, count, seconds=60):
    """Wait until so many answers have come; gives them by key."""
    heard = {}
    service.on_answer = heard.__setitem__
    end = time.monotonic() + seconds
    while len(heard) < count and time.monotonic() < end:
        wait([service._worker.connection], 0.2)
        service.receive()
    return heard


def test_jobs_are_done_by_another_process_one_after_the_other(tmp_path):
    service = ThumbnailProcess()
    watched = []
    service.on_watch = lambda connection, on: watched.append(on)
    paths = [square_wave(tmp_path / f"{n}.wav", 0.1 * (n + 1)) for n in range(3)]
    try:
        for path in paths:
            service.ask(path.name, ("waveform", (path,)))
        service.ask("gone", ("waveform", (tmp_path / "gone.wav",)))
        found = answers_of(service, 4)
        assert [len(found[path.name]) for path in paths] == [10, 20, 30]
        assert "gone.wav" in found["gone"], "a reason, not a crash"
        pid = service.process.pid
        assert pid != os.getpid()
        os.kill(pid, signal.SIGKILL)
        service.ask("after", ("waveform", (paths[0],)))
        assert isinstance(answers_of(service, 1)["after"], str), "the job that died with it says so"
        service.ask("again", ("waveform", (paths[0],)))
        assert len(answers_of(service, 1)["again"]) == 10
        service.ask("busy", ("waveform", (paths[0],)))
        service.rest()
        assert service.process is not None, "it has something to do"
        assert len(answers_of(service, 1)["busy"]) == 10
        service.rest()
        assert service.process is None
        service.ask("later", ("waveform", (paths[1],)))
        assert len(answers_of(service, 1)["later"]) == 20
    finally:
        service.close()
    assert service.process is None
    assert watched[0]
    assert not watched[-1]


def test_the_stand_in_gives_the_same(tmp_path):
    path, heard = square_wave(tmp_path / "a.wav", 0.2), {}
    service = LocalThumbnailMaker()
    service.on_answer = heard.__setitem__
    service.ask("a", ("waveform", (path,)))
    assert np.array_equal(heard["a"], waveform(path))
