"""Frames asked for in a row are evaluated together, and give the very plans that each alone gives."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec import structs

from any_moves import MOVES, TEXTS
from builders import look_of, project_of, title
from rovix.demo import DEMO_PROJECT
from rovix.formats import read_project
from rovix.model import GroupClip, Key, Keys, Shutter, Track, Transform
from rovix.model.effects.echo_trail import EchoTrail
from rovix.model.effects.matte import Matte, Through
from rovix.model.effects.wrap_around import WrapAround
from rovix.motion import evaluate, foresight, picture_plan, plan_key
from rovix.motion.effects import kept_plans
from rovix.motion.layer import LayerMotion
from rovix.motion.ready_moves import pop, rise_and_fade
from tied_project import tied_project

DEMO = read_project(DEMO_PROJECT)
GLIDE = Transform(x=Keys(id="x", keys=(Key(frame=0, value=-200.0), Key(frame=25, value=150.0))))
BLURRED = Shutter(on=True)


def keys_of(project, frames, **options):
    return [plan_key(picture_plan(project, frame, **options)) for frame in frames]


def glide(**fields):
    moves = [pop(), rise_and_fade("exit")]
    return title("Larkmoor Kites", length=50, transform=GLIDE, moves=moves, look=look_of(), **fields)


@pytest.mark.parametrize(
    ("name", "project"),
    [
        ("demo", DEMO),
        ("tied together", tied_project()),
        ("blurred", project_of(glide(), shutter=BLURRED)),
        ("echoes", project_of(glide(effects=(EchoTrail(id="e", copies=4),)), shutter=BLURRED)),
        ("echoes of echoes", project_of(glide(effects=(
            EchoTrail(id="e", copies=2, hue=30.0), EchoTrail(id="f", copies=2, gap=3.0, front=True)
        )))),
        ("echoes of a follower", project_of(
            glide(id="a"), title("Day", id="b", length=50, parent="a", effects=(EchoTrail(id="e"),))
        )),
        ("an echoing matte", project_of(
            glide(id="a", effects=(EchoTrail(id="e"),)),
            title("Day", id="b", length=50, effects=(Matte(id="m", through=Through(layer="a")),)),
        )),
        ("wrapped round", project_of(glide(effects=(WrapAround(id="w", x=0.3),)), shutter=BLURRED)),
        ("in a group", project_of(
            GroupClip(id="g", length=50, tracks=(Track(id="t", clips=(glide(id="in"),)),)), shutter=BLURRED
        )),
        ("echoes in a moved group", project_of(
            GroupClip(id="g", length=50, transform=GLIDE, tracks=(
                Track(id="t", clips=(glide(id="in", effects=(EchoTrail(id="e"),)),)),
            )), shutter=BLURRED
        )),
        ("followed", project_of(glide(id="a"), title("Day", id="b", length=50, parent="a"), shutter=BLURRED)),
    ],
)  # fmt: skip
def test_a_run_gives_the_plans_that_each_frame_gives_alone(name, project):
    length = project.sequence.length
    # Every one, as two processes share them out, backwards, and between frames.
    for frames in (range(min(60, length)), range(1, min(70, length), 3), range(40, 8, -1), (4.5, 5.5, 6.25)):
        assert keys_of(project, frames, run=24) == keys_of(project, frames), frames
    # As one process gets each second of them.
    frames = range(0, min(60, length), 2)
    assert keys_of(project, frames, run=24, step=2) == keys_of(project, frames)


@settings(max_examples=40, deadline=None)
@given(TEXTS, st.lists(MOVES, min_size=1, max_size=2), st.booleans(), st.integers(2, 30))
def test_so_it_is_for_any_moves(text, moves, blurred, run):
    clip = title(text, length=40, moves=moves, text={"size": 40.0}, transform=GLIDE)
    project = project_of(clip, size=(160, 90), shutter=Shutter(on=blurred))
    frames = range(0, 40, 3)
    assert keys_of(project, frames, run=run) == keys_of(project, frames)


def test_what_is_foreseen_follows_a_changed_shutter_and_a_cap_on_its_samples():
    project = project_of(glide(), shutter=BLURRED)
    keys_of(project, range(10), run=24)
    for other in (Shutter(on=True, angle=90.0), Shutter(on=True, phase=30.0), Shutter(on=True, samples=5)):
        changed = project_of(project.sequence.tracks[0].clips[0], shutter=other)
        assert keys_of(changed, range(10), run=24) == keys_of(changed, range(10))
    assert keys_of(project, range(10), run=24, samples=2) == keys_of(project, range(10), samples=2)


def test_copies_follow_what_their_layer_is_tied_to():
    """The very same layer, while another that it follows has changed."""
    day = title("Day", id="b", length=50, parent="a", effects=(EchoTrail(id="e"),))
    for change in ({}, {"transform": Transform(x=70.0)}, {"moves": ()}):
        project = project_of(structs.replace(glide(id="a"), **change), day)
        assert keys_of(project, range(20, 40), run=24) == keys_of(project, range(20, 40))


def test_copies_are_told_apart_by_the_sequence_that_holds_them():
    """Sequences that have the very same tracks, but another size, rate or shutter."""
    group = GroupClip(id="g", length=50, effects=(EchoTrail(id="e", gap=0.2, unit="seconds"),), tracks=(
        Track(id="t", clips=(glide(id="in"),)),
    ))  # fmt: skip
    project = project_of(group)
    other = structs.replace(project.sequence, id="s2", size=(320, 360), rate="25", shutter=BLURRED)
    project = structs.replace(project, sequences=(project.sequence, other))
    assert other.tracks is project.sequence.tracks
    for sequence in project.sequences:
        keys = keys_of(project, range(20, 40), sequence=sequence, run=24)
        assert keys == keys_of(project, range(20, 40), sequence=sequence)


def test_copies_are_planned_once_and_bounded(monkeypatch):
    planned = []
    real = evaluate._unaffected
    monkeypatch.setattr(
        evaluate,
        "_unaffected",
        lambda scene, clip, at, world: planned.append(at) or real(scene, clip, at, world),
    )
    echo = EchoTrail(id="e", copies=5)
    project = project_of(glide(effects=(echo,)))
    keys_of(project, range(10, 50, 2), run=24, step=2)
    assert sorted(planned) == list(range(0, 50, 2))
    long = title("kite " * 800, length=200, moves=[pop()], transform=GLIDE, effects=(echo,))
    keys_of(project_of(long), range(0, 60, 7), run=24)
    assert kept_plans._plans.held <= kept_plans._MOST


def test_a_run_is_evaluated_once_and_bounded(monkeypatch):
    project = project_of(glide(), shutter=BLURRED)
    asked = []
    real = LayerMotion._at
    monkeypatch.setattr(
        LayerMotion, "_at", lambda self, frames: asked.append(len(frames)) or real(self, frames)
    )
    keys_of(project, range(20), run=20)
    assert len(asked) <= 2, "states with probes, and the moments of their exposures"
    asked.clear()
    keys_of(project, range(20))
    assert len(asked) >= 20
    for number in range(60):
        keys_of(project_of(glide(id=f"t{number}")), range(2), run=24)
    assert len(foresight._runs) <= foresight._LAYERS
    by_letter = structs.replace(pop(), pieces="letters")
    long = project_of(title("kite " * 1200, length=50, moves=[by_letter]))
    asked.clear()
    picture_plan(long, 5, run=24)
    assert sum(asked) <= 4, "of thousands of letters only few frames are evaluated ahead"


def test_words_at_rest_have_one_plan_for_their_whole_stay():
    project = project_of(title("Larkmoor", length=90, moves=[pop()]))
    at_rest = [picture_plan(project, frame, run=24).layers[0] for frame in range(50, 80)]
    assert len({id(plan) for plan in at_rest}) == 1
    moving = [picture_plan(project, frame, run=24).layers[0] for frame in range(1, 5)]
    assert len({id(plan) for plan in moving}) == 4
    assert not np.array_equal(moving[0].matrices, at_rest[0].matrices)
