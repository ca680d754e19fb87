"""Frames are shared out so that no process draws again what another drew for it."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec import structs

from builders import project_of, title
from rovix.engine.delta import Known, make_delta
from rovix.engine.picture_worker import Drawer, Run
from rovix.engine.sharing_out import STRETCH, SharingOut, drawer_of, gap_at
from rovix.model import Key, Keys, Project, Sequence, Shutter, Track, Transform
from rovix.model.effects.echo_trail import EchoTrail
from rovix.motion.ready_moves import pop
from rovix.paint import painter

COUNTS = st.integers(1, 16)


def echoing(*echoes, **fields):
    return title("Larkmoor", length=60, moves=[pop()], effects=echoes, **fields)


def gap_of(*clips, frame=5, most=2 * STRETCH, **fields):
    return gap_at(project_of(*clips, **fields).sequence, frame, most)


@given(st.integers(0, 10**6), COUNTS, st.integers(1, 200))
def test_each_frame_has_a_process(frame, count, gap):
    assert 0 <= drawer_of(frame, count, gap) < count


@given(st.integers(0, 10**6), COUNTS)
def test_without_copies_frames_go_out_in_stretches(frame, count):
    stretch = range(frame - frame % STRETCH, frame - frame % STRETCH + STRETCH)
    assert len({drawer_of(each, count, 1) for each in stretch}) == 1
    around = {drawer_of(frame + STRETCH * n, count, 1) for n in range(count)}
    assert around == set(range(count))


@given(st.integers(0, 10**6), COUNTS, st.integers(1, 12))
def test_frames_as_far_apart_as_copies_go_to_one_process(frame, count, times):
    gap = count * times
    assert drawer_of(frame, count, gap) == drawer_of(frame + gap, count, gap)
    shares = [drawer_of(frame + n, count, gap) for n in range(gap)]
    assert {shares.count(number) for number in range(count)} == {times}


@given(st.integers(0, 10**6), st.integers(1, 4), st.integers(2, 4))
def test_with_more_processes_than_frames_between_copies_they_go_on_in_stretches(start, gap, several):
    count = gap * several
    first = start * gap * STRETCH
    stretch = [drawer_of(first + gap * n, count, gap) for n in range(STRETCH)]
    assert len(set(stretch)) == 1
    assert {drawer_of(frame, count, gap) for frame in range(first, first + STRETCH * count)} == set(
        range(count)
    )


@pytest.mark.parametrize(
    ("echo", "gap"),
    [
        ({"gap": 2.0}, 2),
        ({"gap": 3.0}, 3),
        ({"gap": 0.2, "unit": "seconds"}, 5),
        ({"gap": 40.0}, 10),
        ({"gap": 34.0}, 2),
        ({"gap": 37.0}, 1),
        ({"gap": 2.5}, 1),
        ({"gap": 0.0}, 1),
        ({"gap": 6.0, "unit": "px"}, 1),
        ({"gap": 2.0, "copies": 0}, 1),
        ({"gap": 2.0, "shown": False}, 1),
        ({"gap": Keys(id="k", keys=(Key(frame=0, value=2.0), Key(frame=9, value=4.0)))}, 1),
    ],
)
def test_how_far_apart_frames_belong_together(echo, gap):
    assert gap_of(echoing(EchoTrail(id="e", **echo)), rate="25") == gap


def test_several_layers_have_what_they_share():
    four, six, seven = (echoing(EchoTrail(id="e", gap=float(gap)), id=f"t{gap}") for gap in (4, 6, 7))
    assert gap_of(four, six) == 2
    assert gap_of(four, six, seven) == 1
    assert gap_of(four, four) == 4
    assert gap_of(four, title("Day")) == 4
    assert gap_of(four, frame=60) == 1
    assert gap_of() == 1


def test_layers_that_are_not_seen_do_not_count():
    track = Track(id="t", clips=(echoing(EchoTrail(id="e")),), hidden=True)
    project = Project(id="p", sequences=(Sequence(id="s", tracks=(track,)),))
    assert SharingOut(project, 2).drawer_of(1) == 0
    assert SharingOut(project_of(echoing(EchoTrail(id="e"))), 2).drawer_of(1) == 1


def test_a_layer_that_comes_or_goes_in_a_round_counts_throughout_it():
    echo = EchoTrail(id="e")
    coming, going = echoing(echo, start=24), structs.replace(echoing(echo), length=20)
    for clip, counts in ((coming, range(16, 96)), (going, range(32))):
        sharing = SharingOut(project_of(clip, title("Day", id="d", length=200)), 2)
        for frame in range(128):
            expected = frame % 2 if frame in counts else frame // STRETCH % 2
            assert sharing.drawer_of(frame) == expected, frame


def test_what_is_a_copy_now_was_drawn_as_the_layer_itself(tmp_path, monkeypatch):
    """Each of two processes draws the words once a moment for its own frames, and none for the other's."""
    drawn = []
    own = painter._painted_body
    monkeypatch.setattr(painter, "_painted_body", lambda *asked: drawn.append(1) or own(*asked))
    gliding = Keys(id="x", keys=(Key(frame=0, value=0.0), Key(frame=59, value=40.0)))
    clip = echoing(EchoTrail(id="e", copies=5), transform=Transform(x=gliding))
    project = project_of(clip, size=(160, 90))
    sharing = SharingOut(project, 2)
    into = np.zeros((90, 160, 4), np.uint8)
    for number in range(2):
        drawer = Drawer()
        drawer.adopt(make_delta(project, Known()), tmp_path)
        drawn.clear()
        frames = [frame for frame in range(20, 52) if sharing.drawer_of(frame) == number]
        for frame in frames:
            assert not drawer.draw(0, frame, into, (160, 90)).error
        drawer.close()
        assert len(frames) == 16
        assert len(drawn) == 16 + 5, "its frames, and the copies of the first"


@pytest.mark.parametrize(
    ("asked", "then", "expected"),
    [
        ((), 4, range(4, 5)),
        ((3,), 4, range(4, 28)),
        ((3, 4), 5, range(5, 29)),
        ((1, 3), 5, range(5, 53, 2)),
        ((1, 2, 3), 5, range(5, 29)),
        ((6, 7, 15), 16, range(16, 40)),
        ((9,), 4, range(4, 5)),
        ((4,), 4, range(4, 5)),
        ((4,), 400, range(400, 401)),
    ],
)
def test_a_process_sees_how_its_frames_follow_each_other(asked, then, expected):
    run = Run()
    for frame in asked:
        run.frames(frame)
    assert run.frames(then) == expected


def test_shutter_and_copies_together_are_drawn_as_alone(tmp_path):
    """The pictures of a process that gets each second frame are those of one that draws each by itself."""
    project = project_of(
        echoing(EchoTrail(id="e", copies=3)), size=(160, 90), shutter=Shutter(on=True, samples=4)
    )
    row, alone = np.zeros((2, 90, 160, 4), np.uint8)
    drawer = Drawer()
    drawer.adopt(make_delta(project, Known()), tmp_path)
    for frame in range(1, 21, 2):
        drawer.draw(0, frame, row, (160, 90))
        other = Drawer()
        other.adopt(make_delta(project, Known()), tmp_path)
        other.draw(0, frame, alone, (160, 90))
        other.close()
        assert np.array_equal(row, alone), frame
    drawer.close()
