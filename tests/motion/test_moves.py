"""Recipes and laws of motion, read from `describe`."""

import msgspec
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import look_of, project_of, title
from rovix.model import (
    Amount,
    BackgroundClip,
    Departure,
    GroupClip,
    Key,
    Keys,
    Move,
    Outline,
    Track,
    Transform,
)
from rovix.motion import Scene, clip_spans, describe, distance, picture_plan, plan_key
from rovix.motion.layer import LayerMotion
from rovix.motion.order import move_ranks
from rovix.motion.ready_moves import READY_MOVES, pop, ready_moves, rise_and_fade, wave, word_slides
from rovix.motion.reversal import reversed_move
from rovix.time import Rate

replace = msgspec.structs.replace


def pieces(project, frame):
    return describe(project, frame)["layers"][0]["pieces"]


def first(project, frame, name):
    return pieces(project, frame)[0][name]


@pytest.mark.parametrize(("rate", "over", "rest"), [("50", 6.6, 12), ("25", 3.3, 6)])
def test_pop(rate, over, rest):
    # The same moments at both rates: 7 % over at 0.55 of the way, at rest at 0.24 s.
    project = project_of(title(moves=[pop()]), rate=rate)
    assert first(project, 0, "scale_x") == pytest.approx(0.4)
    assert first(project, over, "scale_x") == pytest.approx(1.07)
    assert first(project, rest - 1, "scale_x") != 1.0
    assert first(project, rest, "scale_x") == 1.0
    assert first(project, rest, "scale_y") == 1.0
    assert first(project, rest, "opacity") == 1.0


def test_rise_and_fade_comes_up_from_below_and_only_fades_out():
    project = project_of(
        title(length=90, text={"size": 100.0}, moves=[rise_and_fade(), rise_and_fade("exit")])
    )
    assert first(project, 0, "y") == pytest.approx(110)
    assert first(project, 0, "opacity") == 0
    assert [first(project, frame, "y") for frame in (18, 71, 80, 89)] == [0, 0, 0, 0]
    fading = [first(project, frame, "opacity") for frame in range(71, 90)]
    assert fading[0] == 1.0
    assert fading[-1] == 0.0
    assert all(np.diff(fading) < 0)


def test_wave_has_many_letters_in_motion_at_once():
    project = project_of(title("Larkmoor Kite Day", moves=[wave()]))
    moving = [sum(0 < piece["scale_x"] != 1.0 for piece in pieces(project, frame)) for frame in range(31)]
    assert max(moving) >= 5
    assert moving[30] == 0
    assert all(piece["scale_x"] == 0 and piece["rotation_z"] == -50 for piece in pieces(project, 0))


def test_words_slide_in_from_just_off_the_right_edge_one_after_another():
    clip = title("Wind from the\nwest", moves=[replace(word_slides(), at_once=1.0, length=1.0)])
    project = project_of(clip)
    at_start = describe(project, 0)["layers"][0]
    assert at_start["bounds"][0] == pytest.approx(640 / 2 + 1, abs=1e-6)
    assert [piece["text"] for piece in at_start["pieces"]] == ["Wind ", "from ", "the\n", "west"]
    landed = [[piece["x"] == 0 for piece in pieces(project, frame)] for frame in (7, 8, 15, 30)]
    assert landed == [[False] * 4, [True] + [False] * 3, [True, True, False, False], [True] * 4]


def test_a_fly_in_of_a_quarter_second_takes_fifteen_frames_at_sixty():
    # Common practice, no source.
    fly = Move(
        id="m",
        role="entrance",
        length=0.25,
        channels=(Departure(channel="y", amount=Amount(value=1, unit="off-frame")),),
    )
    project = project_of(title(moves=[fly]), rate="60")
    assert first(project, 14, "y") > 0
    assert first(project, 15, "y") == 0


def test_depth_keys_hold_their_values_at_their_frames():
    # Common practice, no source: depth -350, +100, -75, 0 at frames 0, 10, 20, 30.
    depth = Keys(
        id="k",
        keys=tuple(
            Key(frame=f, value=v, curve="sine-in-out") for f, v in ((0, -350), (10, 100), (20, -75), (30, 0))
        ),
    )
    project = project_of(title(transform=Transform(z=depth)))
    assert [first(project, frame, "z") for frame in (0, 10, 20, 30, 59)] == [-350, 100, -75, 0, 0]
    between = first(project, 5, "z")
    assert between == pytest.approx((-350 + 100) / 2)


ALL_MOVES = [move for role in ("entrance", "exit") for move in ready_moves(role)]


def test_there_are_moves_enough_of_different_names_and_motions():
    # The brief asks for at least 24 entrances and 18 exits.
    for role, least in (("entrance", 24), ("exit", 18)):
        found = [move for move in ALL_MOVES if move.role == role]
        assert len({move.name for move in found}) == len(found) >= least
        frames = range(0, 36, 5) if role == "entrance" else range(89, 53, -5)
        seen = {
            str([[*piece.values()] for frame in frames for piece in pieces(project, frame)])
            for project in (project_of(title("Kite Day\nnow", length=90, moves=[move])) for move in found)
        }
        assert len(seen) == len(found)


@pytest.mark.parametrize("move", ALL_MOVES, ids=lambda move: f"{move.name} {move.role}")
def test_a_move_is_away_at_the_clips_end(move):
    project = project_of(title("Kite Day 7", length=90, moves=[move]))
    away = pieces(project, 0 if move.role == "entrance" else 89)
    layer = describe(project, 0 if move.role == "entrance" else 89)["layers"][0]
    gone = layer["bounds"] is None or any(
        abs(edge) > limit for edge, limit in zip(layer["bounds"], (320, 180, 320, 180), strict=True)
    )
    unseen = all(not piece["shown"] or piece["opacity"] < 0.01 for piece in away)
    small = all(min(piece["scale_x"], piece["scale_y"]) < 0.5 for piece in away)
    # A letter or word that cuts on may stand on the very first frame.
    cut = move.before == "hidden" and sum(piece["shown"] for piece in away) <= 1
    said = "".join(piece["text"] for piece in away) != "Kite Day 7"
    unlit = all(piece["fill_opacity"] == piece["outline_opacity"] == 0 for piece in away)
    assert gone or unseen or small or cut or said or unlit or any(layer.get("offset", ()))


@pytest.mark.parametrize("move", ALL_MOVES, ids=lambda move: f"{move.name} {move.role}")
def test_moves_end_and_start_exactly_at_rest(move):
    rest = project_of(title("Larkmoor Kite", moves=[]))
    project = project_of(title("Larkmoor Kite", length=150, moves=[move]))
    spans = clip_spans(project.sequence.tracks[0].clips[0], Scene.of(project).rate)
    span = spans.entrance or spans.exit
    at_rest = range(span, 150) if move.role == "entrance" else range(150 - span)
    bounds = describe(rest, 0)["layers"][0]["bounds"]
    for frame in at_rest:
        layer = describe(project, frame)["layers"][0]
        for piece in layer["pieces"]:
            assert (piece["x"], piece["y"], piece["scale_x"], piece["rotation_z"], piece["opacity"]) == (
                0,
                0,
                1,
                0,
                1,
            )
    if move.pieces != "letters":  # parted letters are set without ligatures
        assert layer["bounds"] == bounds or move.role == "exit"


@pytest.mark.parametrize("name", READY_MOVES)
@pytest.mark.parametrize("order", ["reading", "centre-out", "shuffled", "from-point"])
def test_a_reversed_entrance_shows_its_pictures_backwards(name, order):
    entrance = replace(READY_MOVES[name]("entrance"), order=order, order_curve="ease-in")
    length = 90
    forward = project_of(title("Kite Day now", length=length, moves=[entrance]))
    backward = project_of(title("Kite Day now", length=length, moves=[reversed_move(entrance)]))
    for frame in range(0, length, 3):
        one, other = pieces(forward, frame), pieces(backward, length - 1 - frame)
        for a, b in zip(one, other, strict=True):
            for channel in ("x", "y", "scale_x", "rotation_z", "opacity"):
                assert a[channel] == pytest.approx(b[channel], abs=1e-6)


def test_pieces_set_off_by_their_distance_from_a_point():
    clip = title("HHH\nHHH\nHHH", text={"align": "centre"})
    drop = Move(
        id="m", role="entrance", length=1.0, pieces="letters", order="from-point", at_once=1.0,
        channels=(Departure(channel="opacity", amount=Amount(value=0.0)),),
    )  # fmt: skip

    def waves(**fields):
        motion = LayerMotion(replace(clip, moves=(replace(drop, **fields),)), (640, 360), Rate(30))
        return np.unique(motion.timings[0].times.starts, return_inverse=True)[1].tolist()

    # Nine alike letters about the middle one: it, then those beside it, those above and below, the corners.
    middle = waves()
    assert middle[4] == 0
    assert {middle[3], middle[5]} | {middle[1], middle[7]} == {1, 2}
    assert [middle[n] for n in (0, 2, 6, 8)] == [3] * 4
    # From the left edge column after column sets off first, whichever row is nearest leading.
    left = waves(point=(-40.0, 0.5))
    assert max(left[n] for n in (0, 3, 6)) < min(left[n] for n in (1, 4, 7)) < min(left[n] for n in (2, 5, 8))
    towards = waves(order="to-point")
    assert [max(middle) - rank for rank in middle] == towards
    with pytest.raises(ValueError, match="needs to know where"):
        move_ranks(drop, 9)


def test_two_moves_add_places_and_multiply_scales():
    shift = Move(id="a", role="entrance", length=1.0, piece_curve="linear", channels=(
        Departure(channel="x", amount=Amount(value=100)), Departure(channel="scale", amount=Amount(value=0.5)),
    ))  # fmt: skip
    project = project_of(
        title(moves=[shift, replace(shift, id="b")], transform=Transform(scale_x=3.0, x=7.0))
    )
    assert first(project, 15, "x") == pytest.approx(7 + 100)
    assert first(project, 15, "scale_x") == pytest.approx(3 * 0.75 * 0.75)


@pytest.mark.parametrize(
    ("amount", "expected"),
    [
        (Amount(value=0.5, unit="frame"), 320.0),
        (Amount(value=2.0, unit="em"), 240.0),
        (Amount(value=-30.0), -30.0),
    ],
)
def test_distances_have_units(amount, expected):
    move = Move(id="m", role="entrance", channels=(Departure(channel="x", amount=amount),))
    assert first(project_of(title(moves=[move])), 0, "x") == pytest.approx(expected)


@settings(max_examples=25, deadline=None)
@given(
    st.sampled_from(["x", "y"]), st.sampled_from([1.0, -1.0]), st.floats(-200, 200), st.floats(0.3, 2),
    st.floats(-180, 180), st.floats(-60, 60),
)  # fmt: skip
def test_off_frame_has_no_ink_in_the_picture_and_just_so(channel, side, x, scale, turn, tip):
    move = Move(id="m", role="entrance", channels=(
        Departure(channel=channel, amount=Amount(value=side, unit="off-frame")), Departure(channel="rotation_z", amount=Amount(value=20)),
    ))  # fmt: skip
    place = Transform(x=x, scale_x=scale, scale_y=scale, rotation_z=turn, rotation_x=tip)
    look = look_of("#fff8ea", Outline(id="o", width=8.0))
    bounds = describe(project_of(title(moves=[move], transform=place, look=look)), 0)["layers"][0]["bounds"]
    if bounds is None:
        return  # it went past the viewer
    left, top, right, bottom = bounds
    out = left >= 320 + 0.99 or right <= -320 - 0.99 or top >= 180 + 0.99 or bottom <= -180 - 0.99
    # Moved away along a tipped plane whose vanishing point is in the frame, words only grow small.
    assert out or (right - left < 2 and bottom - top < 2)


@settings(max_examples=15, deadline=None)
@given(
    st.sampled_from(["x", "y"]),
    st.floats(-180, 180),
    st.floats(-80, 80),
    st.sampled_from(["Kite", "a b", "Up\ndown"]),
)
def test_halving_four_times_at_once_finds_what_halving_one_by_one_does(channel, turn, tip, text):
    move = Move(id="m", role="entrance", pieces="letters", channels=(
        Departure(channel=channel, amount=Amount(value=-1.0, unit="off-frame")),
    ))  # fmt: skip
    place = Transform(rotation_z=turn, rotation_x=tip)

    def found():
        motion = LayerMotion(title(text, moves=[move], transform=place), (640, 360), Rate(30))
        return motion._stages[0].off_frame(channel, -1.0)

    together = found()
    with pytest.MonkeyPatch.context() as patched:
        patched.setattr(distance, "_FEW", 0)
        assert np.array_equal(together, found())


def test_hidden_pieces_wait_for_their_turn():
    move = Move(id="m", role="entrance", length=1.0, pieces="words", before="hidden", at_once=1.0, channels=(
        Departure(channel="y", amount=Amount(value=20)),
    ))  # fmt: skip
    project = project_of(title("one two three", moves=[move]))
    shown = [[piece["shown"] for piece in pieces(project, frame)] for frame in (0, 9, 10, 20)]
    assert shown == [[True, False, False], [True, False, False], [True, True, False], [True, True, True]]


def test_pieces_cut_on_and_off():
    cut = Move(id="m", role="entrance", length=0.4, pieces="words", at_once=0.0, before="hidden")
    gone = replace(cut, id="x", role="exit")
    project = project_of(title("one two three", length=40, moves=[cut, gone]))
    counts = [sum(piece["shown"] for piece in pieces(project, frame)) for frame in range(40)]
    assert counts[0] == 1
    assert counts[6] == 2
    assert counts[12:28] == [3] * 16
    assert counts[28] < 3, "at the exit's first moment nothing is gone; right after, the first piece"
    assert counts[39] == 0


def test_describe_has_the_fields_it_promises():
    layer = describe(project_of(title("Kite Day", moves=[wave()])), 10)["layers"][0]
    assert {"id", "name", "kind", "frame", "bounds", "opacity", "blend", "pieces"} <= set(layer)
    assert {
        "text", "x", "y", "z", "scale_x", "scale_y", "rotation_z", "rotation_x", "rotation_y", "slant", "opacity",
        "fill_opacity", "outline_opacity", "tracking", "shown",
    } <= set(layer["pieces"][0])  # fmt: skip


def test_nothing_to_see_has_no_bounds():
    assert describe(project_of(title("")), 0)["layers"][0]["bounds"] is None
    assert describe(project_of(title(transform=Transform(opacity=0.0))), 0)["layers"][0]["bounds"] is None


def test_layers_outside_their_clip_and_on_hidden_tracks_are_absent():
    project = project_of(title(start=10, length=5))
    assert [len(describe(project, frame)["layers"]) for frame in (9, 10, 14, 15)] == [0, 1, 1, 0]
    track = replace(project.sequence.tracks[0], hidden=True)
    hidden = replace(project, sequences=(replace(project.sequence, tracks=(track,)),))
    assert describe(hidden, 10)["layers"] == []


def test_a_child_follows_its_parent_and_a_group_moves_its_layers():
    plain = describe(project_of(title(transform=Transform(x=10.0))), 0)["layers"][0]["bounds"]
    parent = BackgroundClip(id="mother", length=60, transform=Transform(x=100.0))
    child = describe(project_of(parent, title(transform=Transform(x=10.0), parent="mother")), 0)["layers"][1][
        "bounds"
    ]
    group = GroupClip(
        id="g",
        length=60,
        transform=Transform(x=100.0),
        tracks=(Track(id="i", clips=(title(transform=Transform(x=10.0)),)),),
    )
    grouped = describe(project_of(group), 0)["layers"][0]["layers"][0]["bounds"]
    for moved in (child, grouped):
        assert moved == pytest.approx([plain[0] + 100, plain[1], plain[2] + 100, plain[3]])


def test_evaluating_many_times_at_once_is_evaluating_each():
    project = project_of(title("Larkmoor", moves=[wave(), wave("exit")]))
    clip, scene = project.sequence.tracks[0].clips[0], Scene.of(project)
    together = scene.state(clip, np.arange(0, 60, 0.5))
    for index in (0, 7, 40, 119):
        alone = scene.state(clip, np.array([index / 2]))
        assert np.array_equal(together.local[index], alone.local[0])


def test_equal_plans_have_equal_keys_and_others_not():
    still = project_of(title(moves=[pop()]))
    assert plan_key(picture_plan(still, 20)) == plan_key(picture_plan(still, 50))
    assert plan_key(picture_plan(still, 2)) != plan_key(picture_plan(still, 3))
    renamed = project_of(title(id="other", moves=[pop()]))
    assert plan_key(picture_plan(still, 2)) == plan_key(picture_plan(renamed, 2))
