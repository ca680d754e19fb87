import time

import pytest

from builders import project_of, title
from rovix.engine.export_job import ExportJob
from rovix.engine.export_process import ExportProcess
from rovix.model.delivery import Delivery
from rovix.motion.ready_moves import wave
from rovix.time import Span


def job(folder, length=6, name="a.mp4"):
    project = project_of(title("Larkmoor", length=length, moves=[wave()]))
    return ExportJob(project, folder, folder / name, Span(0, length), Delivery((160, 90)))


def finished(process, seconds=180):
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        progress = process.progress()
        if progress.finished:
            return progress
        time.sleep(0.02)
    raise AssertionError("the export did not end")


def test_it_exports_and_says_how_far_it_is(tmp_path):
    process = ExportProcess(job(tmp_path), workers=1)
    last = finished(process)
    process.close()
    assert (last.done, last.total, last.error) == (6, 6, None)
    assert (tmp_path / "a.mp4").stat().st_size > 0


def test_cancelling_leaves_what_was_there(tmp_path):
    (tmp_path / "a.mp4").write_bytes(b"before")
    process = ExportProcess(job(tmp_path, length=4000), workers=1)
    while process.progress().done == 0:
        time.sleep(0.02)
    process.cancel()
    last = finished(process)
    process.close()
    assert last.error == "Stopped; nothing was written."
    assert (tmp_path / "a.mp4").read_bytes() == b"before"
    assert [path.name for path in tmp_path.iterdir()] == ["a.mp4"]


@pytest.mark.parametrize("name", ["a.avi", "none/a.mp4"])
def test_what_is_wrong_comes_back_as_a_sentence(tmp_path, name):
    process = ExportProcess(job(tmp_path, name=name), workers=1)
    last = finished(process)
    process.close()
    assert last.error.endswith(".")


def test_a_killed_export_is_told(tmp_path):
    process = ExportProcess(job(tmp_path, length=4000), workers=1)
    while process.progress().done == 0:
        time.sleep(0.02)
    process._process.kill()
    assert "ended unexpectedly" in finished(process).error
    process.close()
    assert not (tmp_path / "a.mp4").exists()
