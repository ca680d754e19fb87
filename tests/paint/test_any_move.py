"""Any move that a file may hold is described, drawn, profiled and heard without a hitch."""

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec import structs

from any_moves import LOOK, MOVES, TEXTS
from builders import project_of, title
from rovix.media.mix import Mixer
from rovix.model.consistency import inconsistencies
from rovix.motion import Scene, describe, picture_plan
from rovix.motion.profile import motion_profile, setting_off
from rovix.paint.painter import Painter
from rovix.time import Span


@settings(max_examples=120, deadline=None)
@given(TEXTS, st.lists(MOVES, min_size=1, max_size=3), st.floats(0, 39))
def test_any_moves_are_described_drawn_profiled_and_heard(text, moves, frame):
    project = project_of(title(text, length=40, moves=moves, text={"size": 40.0}, look=LOOK), size=(160, 90))
    assert not inconsistencies(project)
    plan = picture_plan(project, frame)
    picture = Painter(None).paint(plan)
    assert picture.shape == (90, 160, 4)
    for piece in describe(project, int(frame))["layers"][0]["pieces"]:
        assert all(np.isfinite(value) for value in piece.values() if not isinstance(value, str))
    motion = Scene.of(project).motion(project.sequence.tracks[0].clips[0])
    assert np.isfinite(motion_profile(motion, 20)).all()
    assert all(np.isfinite(found.frames).all() for found in setting_off(motion))
    sound = Mixer(project.sequence, lambda _: None).mix(Span(0, 40))
    assert sound.shape == (64_000, 2)
    assert np.isfinite(sound).all()


@given(
    text=TEXTS,
    moves=st.lists(MOVES, min_size=1, max_size=3),
    frames=st.lists(st.floats(-3, 45), min_size=2, max_size=9, unique=True),
)
@settings(max_examples=60, deadline=None)
def test_many_moments_at_once_are_each_as_if_alone_to_the_bit(text, moves, frames):
    moves = [structs.replace(move, id=f"m{number}") for number, move in enumerate(moves)]
    clip = title(text, length=40, moves=moves, text={"size": 40.0}, look=LOOK)
    motion = Scene.of(project_of(clip, size=(160, 90))).motion(clip)
    whole = motion.at(np.array(frames))
    for number, frame in enumerate(frames):
        one, alone = whole.part(slice(number, number + 1)), motion.at(np.array([frame]))
        for name in ("layer", "local", "shown", "parted"):
            assert np.array_equal(getattr(one, name), getattr(alone, name), equal_nan=True), name
        for name in alone.pieces | one.pieces:
            assert np.array_equal(one.pieces[name], alone.pieces[name], equal_nan=True), name
        assert all(np.array_equal(one.rest[name], alone.rest[name]) for name in alone.rest)
        assert [mix.colour for mix in one.mixes] == [mix.colour for mix in alone.mixes]
        for ours, theirs in zip(one.windows, alone.windows, strict=True):
            for piece in range(len(alone.subject)):
                cut, other = ours.polygon(0, piece), theirs.polygon(0, piece)
                assert (cut is None) == (other is None)
                assert cut is None or np.array_equal(cut, other, equal_nan=True)
