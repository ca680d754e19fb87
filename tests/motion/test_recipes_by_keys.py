"""Recipes of the job made with keys alone, read back by `describe` at named frames.

Values marked so are common practice with no source; the rest follows from the keys themselves.
"""

from math import radians, tan

import pytest

from builders import look_of, project_of, title
from rovix.edit.address import held_at, put_held
from rovix.edit.key_clips import copied_keys, paste_keys, reversed_keys
from rovix.edit.tree import clip_of
from rovix.model import Key, Keys, Outline, StillClip, Transform
from rovix.motion import describe


def keys(*triples):
    return Keys(keys=tuple(Key(frame=f, value=float(v), curve=c) for f, v, c in triples))


def piece(project, frame, number=0):
    return describe(project, frame)["layers"][-1]["pieces"][number]


def bounds(project, frame):
    return describe(project, frame)["layers"][-1]["bounds"]


def test_pop():
    """Recipe 1 at 50 fps: from 40 %, 7 % over, at rest at 0.24 s, which are 12 frames."""
    swell = keys((0, 0.4, "quad-out"), (7, 1.07, "sine-in-out"), (12, 1.0, "linear"))
    project = project_of(title(transform=Transform(scale_x=swell, scale_y=swell)), rate="50")
    assert piece(project, 0)["scale_x"] == 0.4
    assert piece(project, 7)["scale_x"] == 1.07
    assert 1.0 < piece(project, 9)["scale_x"] < 1.07
    assert piece(project, 12)["scale_x"] == piece(project, 50)["scale_x"] == 1.0


def test_fly_through():
    """Recipe 2: from below the frame to rest in 0.3 s, 15 frames at 50 fps, drift, out."""
    way = keys(
        (0, 260, "cubic-out"),
        (15, 0, "linear"),
        (100, -12, "sine-in-out"),
        (106, -6, "cubic-in"),
        (119, -280, "linear"),
    )
    project = project_of(title(length=120, transform=Transform(y=way)), rate="50")
    assert bounds(project, 0)[1] > 180
    assert piece(project, 15)["y"] == 0.0
    assert piece(project, 57)["y"] - piece(project, 58)["y"] == pytest.approx(12 / 85)
    # Pulled back before it leaves over the top.
    assert piece(project, 106)["y"] > piece(project, 100)["y"]
    assert bounds(project, 119)[3] < -180


def test_slant_unfold():
    """Recipe 10: words open from a slanted sliver, grow evenly, then rush past."""
    squeeze = keys((0, 0.001, "cubic-out"), (20, 1.0, "linear"))
    slant = keys((0, 60.0, "cubic-out"), (20, 0.0, "linear"))
    grow = keys((20, 1.0, "linear"), (60, 1.2, "expo-in"), (80, 60.0, "linear"))
    sliver = project_of(title(length=90, transform=Transform(scale_x=squeeze, slant=slant)))
    low, _, high, _ = bounds(sliver, 0)
    upright = bounds(sliver, 20)
    assert piece(sliver, 20)["slant"] == 0.0
    assert high - low < 2 * (upright[3] - upright[1]) * tan(radians(60))
    past = project_of(
        title("I", length=90, text={"size": 200.0}, transform=Transform(scale_x=grow, scale_y=grow))
    )
    steps = [piece(past, f + 1)["scale_x"] - piece(past, f)["scale_x"] for f in (25, 40, 55)]
    assert steps == pytest.approx([0.005] * 3)


def test_depth_spring():
    """Recipe 14: -600, +140, -50, 0 px at 0, 0.42, 0.71 and 1 of the way; a short fade first."""
    depth = keys(
        (0, -600, "sine-in-out"), (21, 140, "sine-in-out"), (35.5, -50, "sine-in-out"), (50, 0, "linear")
    )
    project = project_of(
        title(transform=Transform(z=depth, opacity=keys((0, 0, "linear"), (6, 1, "linear"))))
    )
    assert [piece(project, f)["z"] for f in (0, 21, 35.5, 50, 55)] == [-600, 140, -50, 0, 0]
    assert [piece(project, f)["opacity"] for f in (0, 3, 6)] == [0.0, 0.5, 1.0]


def test_bouncing_logo():
    """Recipe 18: from edge to edge with a whole turn a leg, then the same backwards, so that the loop joins."""
    x = keys((0, -220, "linear"), (30, 220, "linear"), (60, -60, "linear"))
    y = keys((0, 0, "linear"), (30, 80, "linear"), (60, -80, "linear"))
    turn = keys((0, 0, "linear"), (30, 360, "linear"), (60, 0, "linear"))
    logo = StillClip(
        id="logo", length=121, media="none", crop="round", transform=Transform(x=x, y=y, rotation_z=turn)
    )
    project = project_of(logo)
    chosen = {f"transform.{name}": (0, 30, 60) for name in ("x", "y", "rotation_z")}
    back = reversed_keys(copied_keys(clip_of(project, "logo"), chosen))
    there, _ = paste_keys(project, "logo", back, 60)
    assert [k.frame for k in held_at(clip_of(there, "logo"), "transform.x").keys] == [0, 30, 60, 90, 120]
    for frame in range(61):
        one, other = piece(there, frame), piece(there, 120 - frame)
        for name in ("x", "y", "rotation_z"):
            assert one[name] == pytest.approx(other[name])
    assert piece(there, 15)["rotation_z"] == 180


def test_gather():
    """Recipe 22, of 1.5 s: 36 frames at 24 fps (common practice, no source), the opacity full at 0.35 of them."""
    size = keys((0, 1.45, "cubic-out"), (36, 1.0, "linear"))
    clip = title(length=90, text={"tracking": keys((0, 0.35, "cubic-out"), (36, 0, "linear"))}, transform=Transform(
        scale_x=size, scale_y=size, blur_x=keys((0, 16, "cubic-out"), (36, 0, "linear")),
        opacity=keys((0, 0, "linear"), (12.6, 1, "linear")),
    ))  # fmt: skip
    project = project_of(clip, rate="24")
    first, full, landed = (piece(project, frame) for frame in (0, 13, 36))
    assert (first["tracking"], first["scale_x"], first["blur_x"], first["opacity"]) == (
        0.35,
        1.45,
        16.0,
        0.0,
    )
    assert full["opacity"] == 1.0
    # Blur, tracking and growth reach rest on one frame, not before.
    before = piece(project, 35)
    assert before["blur_x"] > 0
    assert before["tracking"] > 0
    assert (landed["tracking"], landed["scale_x"], landed["blur_x"]) == (0.0, 1.0, 0.0)
    wide, narrow = bounds(project, 1), bounds(project, 36)
    assert wide[2] - wide[0] > 1.4 * (narrow[2] - narrow[0])


def test_rise_and_fade():
    """Recipe 24: up from below into place, then a fade."""
    place = Transform(
        y=keys((0, 90, "quint-out"), (18, 0, "linear")),
        opacity=keys((60, 1, "sine-in-out"), (78, 0, "linear")),
    )
    project = project_of(title(length=79, look=look_of("#ffffff", Outline(id="o")), transform=place))
    assert [piece(project, f)["y"] for f in (0, 18)] == [90, 0]
    assert piece(project, 60)["opacity"] == 1.0
    assert piece(project, 69)["opacity"] == pytest.approx(0.5)
    assert bounds(project, 78) is None


def test_crawl():
    """Recipe 25: from just beyond the right edge to just beyond the left, as fast all the way."""
    clip = title("Kites at ten, wind at eleven, tea all day", length=301, text={"size": 40.0})
    left, _, right, _ = bounds(project_of(clip), 0)
    start, end = 320 - left + 1, -320 - right - 1
    project = put_held(
        project_of(clip), "title", {"transform.x": keys((0, start, "linear"), (300, end, "linear"))}
    )
    assert bounds(project, 0)[0] == pytest.approx(321)
    assert bounds(project, 300)[2] == pytest.approx(-321)
    steps = {round(piece(project, f + 1)["x"] - piece(project, f)["x"], 6) for f in range(300)}
    assert steps == {round((end - start) / 300, 6)}
