"""Work in a process of its own that is refused, or dies."""

import os
import signal
import time

import pytest

from made_shots import film_of, shot
from rovix.engine.following import Region
from rovix.engine.long_job import LongJob
from rovix.vision.alignment import similarity


@pytest.fixture
def job():
    """Begins work that a name says."""
    jobs = []

    def make(name, *arguments):
        jobs.append(LongJob(name, *arguments))
        return jobs[-1]

    yield make
    for one in jobs:
        one.close()


def ended(job, seconds=20):
    for _ in range(seconds * 50):
        if job.look():
            return True
        time.sleep(0.02)
    return False


def test_what_cannot_be_followed_is_refused_with_its_reason(job, tmp_path):
    made = job(
        "rovix.engine.following:follow_for_the_window", tmp_path / "gone.mp4", Region(0, (0, 0, 20, 20))
    )
    assert ended(made)
    assert "gone.mp4" in made.refused
    assert made.result is None


def test_a_process_that_dies_is_noticed_by_itself(job, tmp_path):
    film = film_of(tmp_path / "film.mkv", shot(lambda n: similarity(100 + 2 * n, 110)))
    made = job("rovix.engine.following:follow_for_the_window", film, Region(4, (78.0, 80.0, 60.0, 60.0)))
    os.kill(made._process.pid, signal.SIGKILL)
    assert ended(made)
    assert "ended before its time" in made.refused
