"""Recipes of the job made with moves, read back by `describe` at named frames; 9, 16 and 26 are typed,
see test_typing. Numbers are the recipes' own where no other origin is named."""

import msgspec
import numpy as np
import pytest

from builders import project_of, title
from rovix.model import (
    Amount,
    Beats,
    Departure,
    Fill,
    Glow,
    InnerKey,
    Key,
    Keys,
    Linear,
    Look,
    Move,
    Outline,
    Shadow,
    ShapeClip,
    Transform,
    Typing,
)
from rovix.motion import Scene, describe
from rovix.motion.order import ranks
from rovix.motion.ready_moves import ready_moves
from rovix.motion.reversal import reversed_move

replace = msgspec.structs.replace
HD = (1920, 1080)


def ready(role, name, **changes):
    move = next(move for move in ready_moves(role) if move.name == name)
    # The recipes say how long the whole is.
    return replace(move, pace=None, **changes)


def away(channel, value, unit="px", **fields):
    return Departure(channel=channel, amount=Amount(value=value, unit=unit), **fields)


def layer(project, frame, number=0):
    return describe(project, frame)["layers"][number]


def read(project, name, frames, piece=0):
    return [layer(project, frame)["pieces"][piece][name] for frame in frames]


def moving(project, frame, name="x"):
    """How many pieces are on their way at a frame, fully away and at rest not counted."""
    start = [piece[name] for piece in layer(project, 0)["pieces"]]
    now = [piece[name] for piece in layer(project, frame)["pieces"]]
    return sum(abs(value) > 1e-9 and value != first for value, first in zip(now, start, strict=True))


def test_recipe_1_pop():
    project = project_of(title(moves=[ready("entrance", "Pop")]), rate="50")
    # 0.24 s are 12 frames; 7 % over at 0.55 of them.
    assert read(project, "scale_x", (0, 6.6, 12, 13)) == pytest.approx([0.4, 1.07, 1.0, 1.0])
    assert read(project, "scale_x", (12,)) == [1.0]


def test_recipe_2_fly_through():
    fly = Move(role="entrance", length=0.3, piece_curve="cubic-out", channels=(away("y", 1.0, "off-frame"),))
    drift = Transform(y=Keys(keys=(Key(frame=9, value=0.0), Key(frame=75, value=-30.0))))
    out = ready("exit", "Up and away", length=0.5)
    project = project_of(title("Kite day", length=91, transform=drift, moves=[fly, out]), size=HD)
    assert layer(project, 0)["bounds"][1] == pytest.approx(541)  # just below the frame, by 1 px
    assert read(project, "y", (9,)) == [0.0]
    steps = np.diff(read(project, "y", range(9, 76)))
    assert steps == pytest.approx([-30 / 66] * 66)  # upwards, slow and even
    back = read(project, "y", range(75, 91))
    assert max(back) > back[0]  # a small pull back
    assert layer(project, 90)["bounds"][3] == pytest.approx(-541)  # out over the top


def test_recipe_3_slot():
    up = ready("entrance", "Out of the slot", stagger=0.1)  # 3 frames (common practice, no source)
    down = ready("exit", "Back into the slot", stagger=0.1)
    project = project_of(title("Kites", length=120, moves=[up, down], text={"size": 100.0}))
    assert layer(project, 0)["bounds"] is None
    first = [next(f for f in range(60) if read(project, "y", (f,), n)[0] != read(project, "y", (0,), n)[0])
             for n in range(5)]  # fmt: skip
    assert np.diff(first).tolist() == [3, 3, 3, 3]
    assert all(piece["y"] == 0 for piece in layer(project, 27)["pieces"])  # 0.9 s
    sinking = [next(f for f in range(94, 120) if read(project, "y", (f,), n)[0] != 0) for n in range(5)]
    assert np.diff(sinking).tolist() == [3, 3, 3, 3]  # the first letter first
    assert layer(project, 119)["bounds"] is None


def test_recipe_5_run_round():
    run = ready("entrance", "Run round")
    project = project_of(title("Kite day", length=120, moves=[run]), size=HD)
    assert layer(project, 0)["offset"] == [12 * 1920, 0]
    assert read(project, "blur_x", (0,)) == [90.0]
    assert layer(project, 47)["offset"][0] > 0
    assert read(project, "blur_x", (47,))[0] > 0
    # 1.6 s are 48 frames: the offset and the blur are gone on the same one.
    assert "offset" not in layer(project, 48)
    assert read(project, "blur_x", (48,)) == [0.0]
    leaving = project_of(title("Kite day", length=120, moves=[reversed_move(run)]), size=HD)
    for frame in (0, 20, 47):
        assert layer(leaving, 119 - frame)["offset"] == pytest.approx(layer(project, frame)["offset"])
    upright = project_of(title("Kite day", length=120, moves=[ready("entrance", "Reel")]), size=HD)
    assert layer(upright, 0)["offset"] == [0, -5 * 1080]


def test_recipe_6_soft_slide():
    look = Look(parts=(Fill(), Outline(width=4.0), Glow(size=20.0), Shadow()))
    slide = ready("entrance", "From the left", piece_curve="back-out", length=0.8)
    project = project_of(title("Kite day", length=90, moves=[slide], look=look), size=HD)
    ways = read(project, "x", range(25))
    assert layer(project, 0)["bounds"][2] <= -961  # with its glow off the frame
    assert 0 < max(ways) < 0.12 * abs(ways[0])  # a small bounce: back-out goes a tenth beyond
    assert ways[24] == 0.0
    assert read(project, "glow_opacity", (0, 12, 24)) == [1.0, 1.0, 1.0]


def test_recipe_8_turn_and_open():
    turn = Move(
        role="entrance",
        length=1.0,
        piece_curve="sine-in-out",
        pivot="block",
        channels=(away("rotation_z", -360.0),),
    )
    opening = ready("loop", "Part and close", length=1.0, beats=Beats(count=1))
    look = Look(parts=(Fill(paint=Linear()),))
    project = project_of(title("Kite day", length=91, moves=[turn, opening], look=look))
    assert read(project, "rotation_z", (0, 15, 30)) == pytest.approx([-360, -180, 0])
    assert read(project, "tracking", (30, 45, 60)) == pytest.approx([0, 0.12, 0])
    open_, shut = layer(project, 45)["bounds"], layer(project, 60)["bounds"]
    assert open_[2] - open_[0] > shut[2] - shut[0] + 20
    assert read(project, "tracking", range(60, 91)) == [0.0] * 31


@pytest.mark.parametrize("at_once", [1, 2, 4])
def test_recipe_11_word_slides(at_once):
    words = "Wind from the\nwest over the\nhill all day"
    slides = ready("entrance", "Blown in", at_once=float(at_once), length=2.0, order_curve="linear")
    project = project_of(title(words, length=120, moves=[slides], text={"size": 60.0}), size=HD)
    counts = [moving(project, frame) for frame in range(61)]
    assert max(counts) == at_once
    for frame in range(61):
        for piece in layer(project, frame)["pieces"]:
            assert (piece["x"] == 0) == (piece["blur_x"] == 0)  # both end on one frame
    landed = [next(f for f in range(61) if read(project, "x", (f,), n) == [0]) for n in range(9)]
    assert landed == sorted(landed)
    assert landed[-1] == 60


def test_recipe_12_wave():
    project = project_of(title("Larkmoor Kite Day", moves=[ready("entrance", "Wave")]))
    start = layer(project, 0)["pieces"]
    assert {(p["scale_x"], p["rotation_z"], p["opacity"]) for p in start} == {(0.0, -50.0, 0.0)}
    assert moving(project, 15, "rotation_z") >= 5
    assert {(p["scale_x"], p["rotation_z"], p["opacity"]) for p in layer(project, 30)["pieces"]} == {
        (1.0, 0.0, 1.0)
    }


def test_recipe_13_out_of_depth_and_past_the_viewer():
    come, go = ready("entrance", "Out of depth"), ready("exit", "Past the viewer")
    project = project_of(title("one two three", length=120, moves=[come, go]), size=HD)
    assert read(project, "z", (0,)) == [-5000.0]
    landed = [next(f for f in range(60) if read(project, "z", (f,), n) == [0]) for n in range(3)]
    assert landed[0] < landed[1] < landed[2] == 36  # 1.2 s
    last = [piece["z"] for piece in layer(project, 119)["pieces"]]
    # As a whole; 1.5 frames high lie behind the viewer, who is H / 2 / tan 20° away (motion's camera).
    assert last == [1.5 * 1080] * 3
    assert last[0] > 540 / np.tan(np.radians(20))
    assert layer(project, 119)["bounds"] is None


def test_recipe_14_depth_spring():
    spring = ready("entrance", "Depth spring", at_once=0.5, length=2.0)
    project = project_of(title("one two", length=90, moves=[spring]))
    # Two words, half at once: g = 60 / 1.5 = 40 frames, each word 20.
    shares = (0, 0.42 * 20, 0.71 * 20, 20)
    assert Scene.of(project).motion(project.sequence.tracks[0].clips[0]).timings[0].times.ends[0] == 20
    clip = project.sequence.tracks[0].clips[0]
    depth = Scene.of(project).motion(clip).at(np.array(shares)).pieces["z"][:, 0]
    assert depth == pytest.approx([-600, 140, -50, 0])
    assert read(project, "z", (0, 20, 40), 1)[:2] == [-600, -600]
    assert read(project, "opacity", (0, 4, 20)) == [0.0, 1.0, 1.0]


def test_recipe_22_gather():
    gather = ready("entrance", "Gather", length=1.5)
    project = project_of(title("Kite day", length=90, moves=[gather]), rate="24")
    first = layer(project, 0)["pieces"][0]
    assert (first["scale_x"], first["tracking"], first["blur_x"], first["opacity"]) == (
        1.45,
        0.35,
        16.0,
        0.0,
    )
    # 1.5 s at 24 fps are 36 frames (common practice, no source), the opacity full at 0.35 of them.
    assert read(project, "opacity", (12, 13, 14))[1:] == [1.0, 1.0]
    assert read(project, "opacity", (12,))[0] < 1
    end = layer(project, 36)["pieces"][0]
    assert (end["scale_x"], end["tracking"], end["blur_x"]) == (1.0, 0.0, 0.0)
    assert layer(project, 36)["bounds"] == layer(project, 89)["bounds"]
    assert ready("entrance", "Gather").length == 1.8


@pytest.mark.parametrize("loop", ["Sway", "Swell", "Wink", "Bob", "Restless"])
def test_recipe_23_enter_loop_leave_with_own_keys_on_top(loop):
    growth = Keys(
        keys=(
            Key(frame=0, value=0.0),
            Key(frame=20, value=1.0),
            Key(frame=130, value=1.0),
            Key(frame=150, value=3.5),
        )
    )
    place = Transform(scale_x=growth, scale_y=growth)
    moves = [
        ready("entrance", "Pop", length=1.0),
        ready("loop", loop),
        ready("exit", "Blur away", length=0.5),
    ]
    grown = project_of(title("Kite day", length=151, transform=place, moves=moves))
    plain = project_of(title("Kite day", length=151, moves=moves))
    for frame, factor in ((0, 0.0), (10, 0.5), (75, 1.0), (140, 2.25), (150, 3.5)):
        assert read(grown, "scale_x", (frame,)) == pytest.approx(
            [factor * read(plain, "scale_x", (frame,))[0]]
        )
    assert read(plain, "blur_x", (135, 150)) == [0.0, 24.0]
    stay = [
        tuple(p[n] for n in ("y", "rotation_z", "scale_y", "opacity"))
        for p in (layer(plain, f)["pieces"][0] for f in range(31, 135))
    ]
    assert len(set(stay)) > 1  # the middle is not dead


def test_recipe_24_rise_and_fade():
    moves = [ready("entrance", "Rise and fade"), ready("exit", "Rise and fade")]
    project = project_of(title("Kite day", length=90, moves=moves, text={"size": 100.0}))
    assert read(project, "y", (0, 18, 89)) == pytest.approx([110, 0, 0])
    assert read(project, "opacity", (0, 18, 71, 89)) == [0.0, 1.0, 1.0, 0.0]


def flicker(channel, late):
    """Off and on every 6 frames of a way of 30, so many frames late, and on for good."""
    shares = [(0, 0.0), (6 + late, 1.0), (12 + late, 0.0), (18 + late, 1.0)]
    keys = [InnerKey(at=frame / 30, amount=Amount(value=on), curve="hold") for frame, on in shares]
    return Departure(channel=channel, keys=(*keys, InnerKey(at=1.0, amount=Amount(value=1.0))))


def test_recipe_28_flicker():
    text, fps = "LARKMOOR", 30
    lights = Move(
        role="entrance", pieces="letters", order="shuffled", seed=4, stagger=3 / fps, length=(30 + 3 * 7) / fps,
        channels=(flicker("outline_opacity", 0), flicker("fill_opacity", 2)),
    )  # fmt: skip
    glows = tuple(Glow(size=size, colour="#8fd0ff") for size in (4.0, 14.0, 40.0))
    look = Look(parts=(Fill(), Outline(width=3.0), *glows))
    project = project_of(title(text, length=90, moves=[lights], look=look), background="#0a1433")
    order = ranks("shuffled", len(text), 4)
    assert sorted(order.tolist()) == list(range(8))
    assert order.tolist() != list(range(8))
    for letter, rank in enumerate(order.tolist()):
        start = 3 * rank
        edge = read(project, "outline_opacity", range(start, start + 31), letter)
        assert edge == [0.0] * 6 + [1.0] * 6 + [0.0] * 6 + [1.0] * 13
        face = read(project, "fill_opacity", range(start, start + 31), letter)
        assert face == [0.0] * 8 + [1.0] * 6 + [0.0] * 6 + [1.0] * 11  # 2 frames after the outline
    # WCAG 2.2, 2.3.1: no more than three flashes in any second; a cycle of 12 frames is 2.5.
    ways = np.abs(np.diff(read(project, "outline_opacity", range(61))))
    assert max(int(ways[at : at + 30].sum()) for at in range(31)) // 2 <= 3


def test_recipe_29_loading_bar():
    bars = title("▮" * 18, length=120, id="bars", moves=[
        Move(role="entrance", length=3.4, pieces="letters", typing=Typing(), at_once=0.0)])  # fmt: skip
    frame_ = ShapeClip(
        id="frame", length=120, width=600.0, height=60.0, fill=None, outline=Outline(width=4.0)
    )
    wink = ready("loop", "Wink", length=1.0, beats=Beats(over="clip"))
    caption = title("LOADING", length=121, id="caption", transform=Transform(y=80.0), moves=[wink])
    project = project_of(frame_, bars, caption)

    def filled(frame):
        return sum(piece["shown"] for piece in layer(project, frame, 1)["pieces"])

    # 18 bars over 102 frames: one every 6.
    assert [filled(frame) for frame in (0, 5, 6, 51, 101, 102)] == [1, 1, 2, 9, 17, 18]
    winks = [layer(project, frame, 2)["pieces"][0]["opacity"] for frame in range(120)]
    assert set(winks) == {0.0, 1.0}
    assert winks[:30] == winks[30:60] == winks[60:90]
    assert sum(winks[:30]) == 24  # off for the last fifth of each second
