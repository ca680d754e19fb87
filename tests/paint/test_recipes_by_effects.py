"""Recipes of the job made with keys and effects, read back by `describe` and in the picture."""

import numpy as np
import pytest
from msgspec.structs import replace
from test_effects import MEDIA, Pictures

from builders import project_of, title
from rovix.model import (
    Fill,
    Key,
    Keys,
    Look,
    Move,
    Plain,
    ShapeClip,
    Shutter,
    StillClip,
    Transform,
)
from rovix.model import (
    Glow as GlowPart,
)
from rovix.model import (
    Outline as OutlinePart,
)
from rovix.model.effects.blur import Blur
from rovix.model.effects.echo_trail import EchoTrail
from rovix.model.effects.fill_sweep import FillSweep
from rovix.model.effects.glow import Glow
from rovix.model.effects.outline import Outline
from rovix.model.effects.reveal_box import RevealBox
from rovix.model.effects.tone import Tone
from rovix.model.effects.wipe import Follow, Wipe
from rovix.model.effects.wrap_around import WrapAround
from rovix.model.move import Amount, Departure
from rovix.motion import describe, picture_plan
from rovix.paint.painter import Painter

SIZE = (480, 270)


def keys(*triples):
    return Keys(keys=tuple(Key(frame=f, value=float(v), curve=c) for f, v, c in triples))


def shot(*clips, rate="30", **fields):
    return project_of(*clips, size=SIZE, rate=rate, background="#00000000", media=MEDIA, **fields)


def picture(project, frame):
    return Painter(Pictures()).paint(picture_plan(project, frame))


def alpha(project, frame):
    return picture(project, frame)[..., 3]


def words(text="KITE", size=80.0, **fields):
    return title(text, length=fields.pop("length", 120), text={"size": size}, **fields)


def test_slot():
    """Recipe 3: letters rise out of an unseen edge under them, 3 frames apart (common practice, no source)."""
    rise = Departure(channel="y", amount=Amount(value=1.2, unit="em"))
    come = Move(role="entrance", length=1.0, pieces="letters", stagger=0.1, channels=(rise,))
    go = Move(
        role="exit", length=1.0, pieces="letters", stagger=0.1, channels=(rise,), piece_curve="cubic-in"
    )
    slot = words(moves=(come, go), effects=(RevealBox(bottom=0.0),))
    project = shot(slot, shutter=Shutter(on=True))
    rest = np.flatnonzero(alpha(project, 60).any(axis=1))
    for frame in (0, 4, 9, 15, 60, 95, 104, 119):
        rows = np.flatnonzero(alpha(project, frame).any(axis=1))
        # Nothing ever shows below the edge, which is where the letters stand.
        assert not len(rows) or rows.max() <= rest.max(), frame
    assert not alpha(project, 0).any()
    starts = [describe(project, 3)["layers"][0]["pieces"][n]["y"] for n in range(4)]
    assert starts[0] < starts[1] == starts[2]
    # They sink back, the first letter first.
    sinking = [piece["y"] for piece in describe(project, 96)["layers"][0]["pieces"]]
    assert sinking[0] > sinking[1] > sinking[3]


@pytest.mark.parametrize("axis", ["x", "y"])
def test_run_round(axis):
    """Recipe 5: round the frame a dozen widths, at rest in 1.6 s, the blur gone on the same frame."""
    land = 48
    run = keys((0, -12, "expo-out"), (land, 0, "linear"), (72, 0, "expo-in"), (119, 12, "linear"))
    soft = keys((0, 60, "expo-out"), (land, 0, "linear"), (72, 0, "expo-in"), (119, 60, "linear"))
    clip = words(effects=(WrapAround(**{axis: run}, unit="frame"), Blur(along=soft)))
    project = shot(clip)
    side = SIZE[0 if axis == "x" else 1]
    offsets = [describe(project, f)["layers"][0]["offset"]["xy".index(axis)] for f in (0, land, 119)]
    assert offsets == [-12 * side, 0.0, 12 * side]
    still = picture(shot(words()), land)
    assert np.array_equal(picture(project, land), still)
    assert np.array_equal(picture(project, 72), still)
    assert not np.array_equal(picture(project, land - 1), still)
    # However far it has run, no part of the words is lost at the frame's edge.
    for frame in (11, 23):
        whole = shot(words(effects=(WrapAround(**{axis: run}, unit="frame"),)))
        assert alpha(whole, frame).mean() == pytest.approx(still[..., 3].mean(), rel=0.002)


def test_echo_pair():
    """Recipe 7: two outlined copies part to the edges, wrap round and come back, each with 4 echoes."""
    outlined = Look(parts=(OutlinePart(id="o", width=2.0, colour="#ffffff"),))
    ways = {"up": -1, "down": 1}
    clips = [
        words(id=name, look=outlined, effects=(
            WrapAround(y=keys((0, 0, "cubic-in-out"), (40, sign, "linear"), (60, sign, "cubic-in-out"), (100, 0, "linear")), unit="frame"),
            EchoTrail(copies=4, gap=0.08, unit="seconds", strength=0.6),
        ))
        for name, sign in ways.items()
    ]  # fmt: skip
    project = shot(*clips)
    up, down = describe(project, 20)["layers"]
    assert up["offset"][1] == -down["offset"][1] == pytest.approx(-SIZE[1] / 2)
    assert [round(echo["strength"], 4) for echo in up["echoes"]] == [0.6, 0.36, 0.216, 0.1296]
    assert [round(20 - echo["frame"], 3) for echo in up["echoes"]] == [2.4, 4.8, 7.2, 9.6]
    # Round the frame once is where it started.
    assert np.array_equal(alpha(project, 55) > 0, alpha(shot(*clips), 55) > 0)
    assert describe(project, 50)["layers"][0]["offset"][1] == -SIZE[1]


def test_lit_logo():
    """Recipe 19: a glowing outline, no colour, linear burn at a chosen strength."""
    ground = ShapeClip(id="g", length=60, width=480.0, height=270.0, fill=Plain(colour="#9a8060"))
    logo = StillClip(
        id="logo", length=60, media="m", blend="linear-burn", transform=Transform(opacity=0.6),
        effects=(Tone(saturation=0.0), Outline(width=4.0, colour="#ffffff"), Glow(size=6.0, colour="#ffffff")),
    )  # fmt: skip
    project = shot(ground, logo)
    grey = picture(shot(replace(logo, blend="normal", transform=Transform(), effects=logo.effects[:1])), 5)
    assert (np.ptp(grey[..., :3].astype(int), axis=2) <= 1).all()
    burnt, plain = picture(project, 5).astype(int), picture(shot(ground), 5).astype(int)
    assert (burnt[..., :3] <= plain[..., :3] + 1).all()
    assert (burnt != plain).any()


def test_carried_reveal():
    """Recipe 20: a logo rolls over the words and back; they appear behind it, the edge on the logo."""
    x = keys((0, 0, "linear"), (20, 0, "cubic-in-out"), (50, 150, "cubic-in-out"), (90, -150, "linear"))
    size = keys((0, 4, "back-out"), (20, 1, "linear"))
    logo = ShapeClip(
        id="logo", length=120, form="ellipse", width=30.0, height=30.0,
        transform=Transform(x=x, y=-70.0, scale_x=size, scale_y=size, rotation_z=keys((20, 0, "linear"), (90, 720, "linear"))),
    )  # fmt: skip
    bar = ShapeClip(id="words", length=120, width=260.0, height=40.0, fill=Plain(colour="#ffffff"),
                    effects=(Wipe(follows=Follow(layer="logo"), angle=180.0),))  # fmt: skip
    project = shot(bar, logo)
    for frame in range(120):
        row = alpha(project, frame)[135] / 255
        low, _, high, _ = describe(project, frame)["layers"][1]["bounds"]
        edge = min(max(240 + (low + high) / 2, 110), 370)
        # Within half a px of its rider at every frame.
        assert 370 - row.sum() == pytest.approx(edge, abs=0.5), frame


def test_line_reveal():
    """Recipe 21: a line grows to full width, words rise out of it, sink back, the line closes."""
    grow = keys((0, 1, "cubic-out"), (15, 300, "linear"), (100, 300, "cubic-in"), (119, 1, "linear"))
    line = ShapeClip(id="line", length=120, form="line", width=grow, height=3.0, transform=Transform(y=40.0))
    rise = keys((12, 100, "cubic-out"), (30, 0, "linear"), (85, 0, "cubic-in"), (104, 100, "linear"))
    clip = words(transform=Transform(y=rise), effects=(RevealBox(pin="frame", bottom=SIZE[1] / 2 - 40),))
    project = shot(clip, line)
    widths = [(lambda b: b[2] - b[0])(describe(project, f)["layers"][1]["bounds"]) for f in (0, 15, 119)]
    assert widths == pytest.approx([1, 300, 1])
    only = shot(clip)
    for frame in (0, 14, 20, 60, 95, 110):
        rows = np.flatnonzero(alpha(only, frame).any(axis=1))
        assert not len(rows) or rows.max() < 135 + 40, frame
    assert not alpha(only, 10).any()
    assert np.array_equal(alpha(only, 60), alpha(shot(words()), 60))


def test_flicker():
    """Recipe 28: letters in shuffled order, 3 frames apart, off and on every 6 frames at 30 fps, stepped."""
    blink = tuple(Key(frame=30 + 6 * n, value=float(n % 2), curve="hold") for n in range(8))
    fill = Fill(id="f", paint=Plain(colour="#ffffff"), opacity=keys((0, 0, "hold"), (2, 1, "linear")))
    glows = tuple(GlowPart(id=f"g{n}", size=float(4 * 3**n)) for n in range(3))
    look = Look(parts=(fill, OutlinePart(id="o", width=2.0), *glows))
    appear = Move(
        role="entrance", length=0.3, pieces="letters", order="shuffled", seed=6, at_once=0.0, before="hidden"
    )
    clip = title(
        "KITE", length=120, look=look, moves=(appear,), transform=Transform(opacity=Keys(keys=blink))
    )
    project = shot(replace(clip, transform=Transform()))
    shown = [[p["shown"] for p in describe(project, f)["layers"][0]["pieces"]] for f in range(10)]
    counts = [sum(row) for row in shown]
    assert counts == [1, 1, 1, 2, 2, 2, 3, 3, 3, 4]
    assert shown[0] != [True, False, False, False]
    blinking = shot(clip)
    states = [describe(blinking, f)["layers"][0]["opacity"] for f in range(30, 54)]
    assert states == [0.0] * 6 + [1.0] * 6 + [0.0] * 6 + [1.0] * 6
    # 5 frames on and 5 off would be 3 flashes a second at 30 fps, the limit of WCAG 2.3.1; 6 are fewer.
    assert 30 / 12 <= 3
    first = describe(shot(replace(clip, moves=(), transform=Transform())), 1)["layers"][0]["pieces"][0]
    assert (first["fill_opacity"], first["outline_opacity"]) == (0.0, 1.0)


def test_filling_blocks():
    """Recipe 30: blocks travel in one after another, the far end first, 16 frames each; then out by a wipe."""
    count = 4
    fill = FillSweep(
        way="blocks",
        count=count,
        paint=Plain(colour="#00ff00"),
        share=keys((0, 0, "linear"), (64, 1, "linear")),
    )
    out = FillSweep(paint=Plain(colour="#ffffff"), share=keys((80, 0, "linear"), (100, 1, "linear")))
    bar = ShapeClip(
        id="bar", length=120, width=320.0, height=40.0, fill=Plain(colour="#ffffff"), effects=(fill, out)
    )
    project = shot(bar)

    def green(frame):
        row = picture(project, frame)[135, 80:400]
        return (row == [0, 255, 0, 255]).all(axis=1)

    assert not green(0).any()
    at_16 = np.flatnonzero(green(16))
    assert (at_16.min(), at_16.max()) == (240, 319)
    at_24 = green(24)
    assert at_24[240:].all()
    assert at_24.sum() > 80
    assert green(64).all()
    half_out = green(90)
    assert not half_out[:150].any()
    assert half_out[170:].all()
    assert not green(100).any()
