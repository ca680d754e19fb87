"""What was set of pace, stages and crossings holds through other words, faces, rates and lengths."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from test_pace import SCRIPTS

from builders import project_of, title
from rovix.edit import change_text, trim_end, trim_start
from rovix.edit.sequences import change_rate
from rovix.edit.tree import clip_of
from rovix.model import Amount, Crossing, Departure, Move, Pace
from rovix.motion import Scene, clip_spans, picture_plan
from rovix.paint.painter import Painter

SIZE = (320, 180)
FACES = ("Outfit", "Oswald", "Courier Prime", "Playfair Display")
RATES = ("24", "25", "30000/1001", "50", "60")
PACE = Pace(piece=0.3, stagger=0.05)
WORDS = st.builds(lambda script, count: (script * 120)[:count], st.sampled_from(SCRIPTS), st.integers(1, 120))


def retyped(project, draw):
    return change_text(project, "title", content=draw(WORDS))


def in_a_face(project, draw):
    return change_text(project, "title", family=draw(st.sampled_from(FACES)), size=draw(st.floats(10, 60)))


def at_a_rate(project, draw):
    return change_rate(project, draw(st.sampled_from(RATES)))


def shorter(project, draw):
    clip = clip_of(project, "title")
    return trim_end(project, "title", clip.start + draw(st.integers(min(2, clip.length), clip.length)))


def later(project, draw):
    clip = clip_of(project, "title")
    return trim_start(project, "title", clip.start + draw(st.integers(0, max(0, clip.length - 2))))


def longer(project, draw):
    clip = clip_of(project, "title")
    return trim_end(project, "title", clip.span.end + draw(st.integers(0, 900)))


CHANGES = (retyped, in_a_face, at_a_rate, shorter, later, longer)


def changed(project, data):
    """A project after up to four changes."""
    for change in data.draw(st.lists(st.sampled_from(CHANGES), max_size=4)):
        project = change(project, data.draw)
    return project


def moved(role, identity, **fields):
    way = Departure(channel="y", amount=Amount(value=1.0, unit="em"))
    return Move(id=identity, role=role, channels=(way,), **fields)


@settings(max_examples=60, deadline=None)
@given(st.data())
def test_pace_stages_and_rest_stay(data):
    wait = data.draw(st.floats(0, 0.5))
    moves = (
        moved("entrance", "in", pieces="letters", pace=PACE),
        moved("entrance", "more", length=0.4, after=True, wait=wait),
        moved("exit", "out", pieces="letters", pace=PACE, wait=0.2),
    )
    project = changed(project_of(title("Larkmoor", 900, moves, text={"size": 30.0}), size=SIZE), data)
    clip, rate = clip_of(project, "title"), project.sequence.frame_rate
    assert [move.pace for move in clip.moves] == [PACE, None, PACE]
    spans, motion = clip_spans(clip, rate), Scene.of(project).motion(clip)
    fps = float(rate.fraction)
    lengths = [t.times.ends - t.times.starts for t in (motion.timings[0], motion.timings[2])]
    for own in lengths:
        assert np.ptp(own) <= 1.0, "all pieces alike, within a frame"
        # Where the clip has room as long as was set; else all are faster.
        assert spans.shrunk or own == pytest.approx(np.full(len(own), 0.3 * fps), abs=1.0)
        assert (own <= 0.3 * fps + 1.0).all()
    first, second = (motion.timings[n] for n in (0, 1))
    if not spans.shrunk:
        assert second.start == first.start + first.span + rate.frames(wait)
        assert motion.timings[2].start + motion.timings[2].span == clip.length - 1 - rate.frames(0.2)
    state = motion.at(np.array([spans.entrance, clip.length - 1 - spans.exit], dtype=np.float64))
    assert not state.pieces["y"].any(), "at rest exactly"


@settings(max_examples=40, deadline=None)
@given(st.data())
def test_a_crossing_shows_nothing_on_its_first_frame_and_its_last(data):
    way = data.draw(st.sampled_from(["left", "right", "up", "down"]))
    counted = data.draw(
        st.sampled_from([{}, {"speed": 150.0, "counted": "words"}, {"speed": 6.0, "counted": "frame"}])
    )
    crossing = Crossing(way=way, whole_px=data.draw(st.booleans()), **counted)
    clip = title("Larkmoor", 900, crossing=crossing, text={"size": 30.0})
    project = changed(project_of(clip, size=SIZE), data)
    clip = clip_of(project, "title")
    assert clip.crossing == crossing
    for frame in (clip.start, clip.end - 1):
        picture = Painter(None).paint(picture_plan(project, frame))
        assert not picture[..., :3].any(), frame
