"""Any words and moves that a file may hold, drawn by chance."""

from typing import get_args

from hypothesis import strategies as st

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
from rovix.model.move import MovedChannel, Order, Pieces, Pivot

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
    centred=st.booleans(),
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
