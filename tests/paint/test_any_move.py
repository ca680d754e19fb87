"""Any move that a file may hold is described, drawn, profiled and heard without a hitch."""

from typing import get_args

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import project_of, title
from rovix.media import Mixer
from rovix.model import (
    Amount,
    Beats,
    Box,
    Caret,
    Chance,
    Departure,
    Echoes,
    Fill,
    Glow,
    InnerKey,
    LongShadow,
    Look,
    Move,
    Outline,
    PieceSound,
    Shadow,
    SpeedSound,
    Typing,
)
from rovix.model.consistency import inconsistencies
from rovix.model.move import MovedChannel, Order, Pieces, Pivot
from rovix.motion import Scene, describe, picture_plan
from rovix.motion.profile import motion_profile, setting_off
from rovix.paint import Painter
from rovix.time import Span

LOOK = Look(parts=(Fill(), Outline(width=3.0), Shadow(), Glow(size=6.0), LongShadow(), Box()))
TEXTS = st.sampled_from(
    ["Kite 1,250", "two\nlines here", "שלום עולם", "🇸🇪👩‍👩‍👧‍👦", "كايت", "e\u0301a", "", " ", "−7 and 3.5"]
)
AMOUNTS = st.floats(-3, 3) | st.sampled_from([0.0, 1.0, -1.0, 400.0, -2000.0])
CURVES = st.sampled_from(
    ["linear", "back-out", "elastic-out", "steps(3)", "hold", "spring(mass 1 stiffness 170 damping 12)"]
)


@st.composite
def departures(draw):
    channel = draw(st.sampled_from(get_args(MovedChannel)))
    units = ["px", "frame", "block", "em", "piece"]
    units += ["off-frame"] if channel in ("x", "y") else []
    units += ["number"] if channel == "figures" else []
    unit = draw(st.sampled_from(units))
    places = sorted(draw(st.sets(st.integers(0, 20), max_size=4)))
    keys = tuple(
        InnerKey(at=place / 20, amount=Amount(value=draw(AMOUNTS), unit=unit), curve=draw(CURVES))
        for place in places
    )
    return Departure(
        channel=channel,
        amount=Amount(value=draw(AMOUNTS), unit=unit),
        curve=draw(st.none() | CURVES),
        keys=keys,
        chance=draw(st.none() | st.builds(Chance, rate=st.floats(0.5, 60), smooth=st.booleans())),
        angle=draw(st.floats(-360, 360)),
        echoes=draw(st.builds(Echoes, copies=st.integers(1, 3), gap=st.floats(0.01, 0.2))),
    )


TYPED = st.none() | st.builds(
    Typing,
    rhythm=st.sampled_from(["even", "uneven", "tapped"]),
    taps=st.sampled_from([(), (0.0,), (0.0, 0.2, 0.9)]),
    caret=st.none()
    | st.builds(Caret, shape=st.sampled_from(["bar", "block", "underline"]), stays=st.floats(0, 2)),
    one_height=st.booleans(),
)
MOVES = st.builds(
    Move,
    role=st.sampled_from(["entrance", "loop", "exit"]),
    length=st.floats(0, 3),
    pieces=st.sampled_from(get_args(Pieces)),
    order=st.sampled_from(get_args(Order)),
    pivot=st.sampled_from(get_args(Pivot)),
    at_once=st.floats(0, 20),
    stagger=st.none() | st.floats(0, 1),
    piece_curve=CURVES,
    before=st.sampled_from(["away", "hidden"]),
    beats=st.builds(Beats, count=st.integers(0, 3), fitted=st.booleans(), phase=st.floats(0, 2)),
    typing=TYPED,
    piece_sound=st.none() | st.builds(PieceSound, at=st.sampled_from(["start", "landing"])),
    speed_sound=st.none() | st.just(SpeedSound()),
    channels=st.lists(departures(), max_size=3).map(tuple),
)


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
    assert all(np.isfinite(frames).all() for _, frames in setting_off(motion))
    sound = Mixer(project.sequence, lambda _: None).mix(Span(0, 40))
    assert sound.shape == (64_000, 2)
    assert np.isfinite(sound).all()
