"""The process that checks: asked anew it leaves what it is at, killed it comes back, closed nothing is left."""

import os
import time
from pathlib import Path

import pytest

from builders import project_of, title
from rovix.check.asked import Asked
from rovix.edit import change_transform
from rovix.engine.checker import Checker
from rovix.engine.checking import checked
from rovix.model import BackgroundClip, Media, Plain, StillClip


@pytest.fixture
def checker():
    made = Checker()
    yield made
    made.close()


def long_one(length=900):
    ground = BackgroundClip(id="g", length=length, background=Plain(colour="#101418"))
    return project_of(ground, title("Kites", length, id="w", text={"size": 40.0}))


def answered(checker, seconds=20.0):
    steps, end = [], time.monotonic() + seconds
    while checker.is_at_work:
        steps += checker.look()
        assert time.monotonic() < end
        time.sleep(0.01)
    return steps


def kinds(steps):
    return {one.kind for step in steps for one in step.found}


def test_it_finds_what_checking_here_finds(checker, tmp_path):
    off = change_transform(long_one(60), "w", 0, x=310.0)
    checker.ask(off, tmp_path, Asked())
    steps = answered(checker)
    assert [one for step in steps for one in step.found] == checked(off, tmp_path)
    assert checker.refused == ""
    assert checker.done == checker.total


def test_what_is_asked_last_is_answered_alone(checker, tmp_path):
    project = long_one()
    checker.ask(change_transform(project, "w", 0, x=310.0), tmp_path, Asked())
    while checker.done < 20:
        checker.look()
        time.sleep(0.01)
    checker.ask(project, tmp_path, Asked(flashes=False))
    assert kinds(answered(checker)) == set()
    checker.ask(change_transform(project, "w", 0, x=310.0), tmp_path, Asked(flashes=False))
    assert kinds(answered(checker)) == {"cut"}


def spent(number):
    """Seconds of the processor that a process has taken."""
    facts = Path(f"/proc/{number}/stat").read_text().rpartition(")")[2].split()
    return (int(facts[11]) + int(facts[12])) / os.sysconf("SC_CLK_TCK")


def test_told_to_rest_it_rests_and_says_nothing_more(checker, tmp_path):
    checker.ask(long_one(), tmp_path, Asked())
    while checker.done < 5:
        checker.look()
        time.sleep(0.01)
    checker.stop()
    assert not checker.is_at_work
    time.sleep(0.2)
    assert checker.look() == []
    before = spent(checker._process.pid)
    time.sleep(0.3)
    assert spent(checker._process.pid) - before < 0.1


def is_alive(number):
    """Whether a process is there, and not only to be asked how it ended."""
    try:
        return Path(f"/proc/{number}/stat").read_text().rpartition(") ")[2][0] != "Z"
    except FileNotFoundError:
        return False


def test_left_it_goes_and_what_is_asked_next_is_answered_by_another(checker, tmp_path):
    checker.ask(long_one(), tmp_path, Asked())
    number = checker._process.pid
    checker.leave()
    assert checker.is_at_work, "what is at work is not left"
    before = kinds(answered(checker))
    checker.leave()
    checker.leave()
    ends = time.monotonic() + 20
    while is_alive(number):
        assert time.monotonic() < ends
        time.sleep(0.01)
    assert checker.look() == []
    assert checker.refused == ""
    checker.ask(long_one(), tmp_path, Asked())
    assert kinds(answered(checker)) == before
    assert checker._process.pid != number


def test_killed_it_says_so_and_comes_back_when_asked(checker, tmp_path):
    project = change_transform(long_one(), "w", 0, x=310.0)
    checker.ask(project, tmp_path, Asked())
    while checker.done < 5:
        checker.look()
        time.sleep(0.01)
    checker._process.kill()
    answered(checker)
    assert "ended before its time" in checker.refused
    checker.ask(project, tmp_path, Asked(flashes=False))
    assert kinds(answered(checker)) == {"cut"}
    assert checker.refused == ""


def test_what_cannot_be_looked_at_is_said(checker, tmp_path):
    (tmp_path / "a.png").write_bytes(b"no picture")
    still = StillClip(id="s", media="m", length=30)
    media = (Media(id="m", path="a.png", kind="still", digest="blake2b:0", width=8, height=8),)
    project = project_of(still, title("Kites", 60, id="w"), media=media)
    checker.ask(project, tmp_path, Asked())
    answered(checker)
    assert "a.png" in checker.refused


def test_closed_nothing_is_left(tmp_path):
    made = Checker()
    made.ask(long_one(), tmp_path, Asked())
    number = made._process.pid
    made.close()
    made.close()
    with pytest.raises(ProcessLookupError):
        os.kill(number, 0)
    assert made.look() == []
