"""Laws of moves over words in many scripts, and over all ready moves."""

import msgspec
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import project_of, title
from rovix.model import Move
from rovix.motion import Scene, clip_spans, describe, picture_plan, plan_key
from rovix.motion.ready_moves import ready_moves
from rovix.motion.reversal import reversed_move
from rovix.paint.painter import Painter
from rovix.text import graphemes, lay_out, pieces_of
from rovix.time import Rate

replace = msgspec.structs.replace
LENGTH = 240
RATE = Rate(30)
TEXTS = (
    "Larkmoor Kite Day, 1,250 kites", "Γιορτή των αετών", "Праздник змеев", "مهرجان الطائرات", "יום העפיפונים",
    "पतंग उत्सव का दिन", "วันแห่งว่าว", "연날리기 축제 날", "凧あげの日、丘で", "风筝节 2026", "პარაპლანი ქარში", "பட்டம் திருவிழா",
    "👩‍👩‍👧‍👦 🇸🇪🇯🇵 👍🏽", "e\u0301a\u0323\u0302 Z\u0351\u036b\u0343", "one\n\ntwo  \nthree", " ", "",
)  # fmt: skip
ENTRANCES, EXITS = ready_moves("entrance"), ready_moves("exit")
pieces = st.sampled_from(["whole", "lines", "words", "letters"])
orders = st.sampled_from(
    ["reading", "reversed", "centre-out", "ends-in", "shuffled", "from-point", "to-point"]
)


def clip_of(text, *moves):
    return title(text, length=LENGTH, moves=moves, text={"size": 40.0})


def still(move):
    """The move without anything that it does: its pieces are dealt out all the same."""
    letters = any(d.channel in ("tracking", "typed", "letters", "figures") for d in move.channels)
    kind = "letters" if letters else move.pieces
    return replace(move, channels=(), typing=None, before="away", pieces=kind)


def key_at(clip, frame):
    return plan_key(picture_plan(project_of(clip), frame))


@pytest.mark.parametrize("kind", ["whole", "lines", "words", "letters"])
@pytest.mark.parametrize("text", TEXTS)
def test_pieces_cover_the_text_exactly_once(text, kind):
    subject = (
        Scene.of(project_of(clip_of(text))).motion(clip_of(text, Move(role="entrance", pieces=kind))).subject
    )
    assert "".join(subject.texts) == text
    assert subject.starts.tolist() == sorted(set(subject.starts.tolist()))
    if kind == "letters":
        # No piece begins inside a user-perceived character (UAX 29, tested by itself in tests/text).
        edges = np.cumsum([0, *map(len, graphemes(text))])
        assert set(subject.starts.tolist()) <= set(edges.tolist())


def test_five_thousand_letters_are_dealt_out_and_drawn():
    text = ("wind over the hill " * 264)[:5000]
    layout = lay_out(clip_of(text).text)
    assert "".join(pieces_of(layout, "letters").texts) == text
    words = {"size": 12.0, "wrap": 620.0}
    wave = next(move for move in ENTRANCES if move.name == "Wave")
    project = project_of(title(text, length=LENGTH, moves=[wave], text=words))
    found = describe(project, LENGTH // 2)["layers"][0]["pieces"]
    assert "".join(piece["text"] for piece in found) == text
    assert Painter(None).paint(picture_plan(project, LENGTH // 2))[..., :3].any()


@settings(max_examples=80, deadline=None)
@given(st.sampled_from(TEXTS), st.sampled_from(ENTRANCES), pieces, orders, st.integers(0, 99))
def test_an_entrance_ends_exactly_at_rest_to_the_bit(text, move, kind, order, seed):
    move = replace(move, pieces=kind, order=order, seed=seed)
    span = clip_spans(clip_of(text, move), RATE).entrance
    for frame in (span, span + 1, LENGTH - 1):
        assert key_at(clip_of(text, move), frame) == key_at(clip_of(text, still(move)), frame)


@settings(max_examples=80, deadline=None)
@given(st.sampled_from(TEXTS), st.sampled_from(EXITS), pieces, orders, st.integers(0, 99))
def test_an_exit_starts_exactly_at_rest_to_the_bit(text, move, kind, order, seed):
    move = replace(move, pieces=kind, order=order, seed=seed)
    span = clip_spans(clip_of(text, move), RATE).exit
    for frame in (0, LENGTH - 2 - span, LENGTH - 1 - span):
        assert key_at(clip_of(text, move), frame) == key_at(clip_of(text, still(move)), frame)


OFF = [m for m in ENTRANCES if any(d.amount.unit == "off-frame" for d in m.channels)]


@settings(max_examples=40, deadline=None)
@given(st.sampled_from([text for text in TEXTS if text.strip()]), st.sampled_from(OFF), pieces, orders)
def test_frame_0_of_an_off_frame_entrance_has_no_pixel_in_the_picture(text, move, kind, order):
    # The opacity is left out: what is off the frame needs no fade to be unseen.
    channels = tuple(d for d in move.channels if d.channel != "opacity")
    project = project_of(clip_of(text, replace(move, channels=channels, pieces=kind, order=order)))
    assert not Painter(None).paint(picture_plan(project, 0))[..., :3].any()


def numbers(project, frame):
    layer = describe(project, frame)["layers"][0]
    found = [[v for v in piece.values() if not isinstance(v, str)] for piece in layer["pieces"]]
    return np.array(found, dtype=float), [piece["text"] for piece in layer["pieces"]], layer.get("offset")


@settings(max_examples=80, deadline=None)
@given(
    st.sampled_from(TEXTS),
    # Echoes look back in time, which has no mirror (motion.md leaves them out too).
    st.sampled_from([m for m in ENTRANCES if all(d.channel != "echo" for d in m.channels)]),
    pieces,
    orders,
    st.integers(1, 119),
)
def test_an_entrance_and_its_reversed_exit_show_the_same_pictures(text, move, kind, order, frame):
    move = replace(move, pieces=kind, order=order)
    forward, backward = project_of(clip_of(text, move)), project_of(clip_of(text, reversed_move(move)))
    one, words, offset = numbers(forward, frame)
    other, same, turned = numbers(backward, LENGTH - 1 - frame)
    assert words == same
    assert one == pytest.approx(other, abs=1e-6)
    assert (offset or [0, 0]) == pytest.approx(turned or [0, 0], abs=1e-4)


@pytest.mark.parametrize(
    "name", ["Out of the slot", "Blown in", "Typed", "Letters settle", "Gather", "Uncover"]
)
def test_the_reversed_pictures_are_the_same_px_by_px(name):
    move = next(m for m in ENTRANCES if m.name == name)
    forward, backward = (project_of(clip_of("Kite Day", m)) for m in (move, reversed_move(move)))
    for frame in (5, 7, 12, 20):
        one, other = (
            Painter(None).paint(picture_plan(p, f))
            for p, f in ((forward, frame), (backward, LENGTH - 1 - frame))
        )
        assert np.abs(one.astype(int) - other).max() <= 1
        assert one[..., :3].any()
