"""Words of which only some move while they are exposed: what rests is drawn once, and nothing is lost."""

from dataclasses import fields, replace
from typing import get_args

import numpy as np
import pytest
from msgspec import structs

from builders import project_of, title
from rovix.model import (
    Box,
    Fill,
    Glow,
    Key,
    Keys,
    Linear,
    LongShadow,
    Look,
    Outline,
    Plain,
    Shadow,
    Shutter,
    Transform,
)
from rovix.motion import ExposurePlan, PicturePlan, picture_plan
from rovix.motion.plan import FillPart, GlyphsPart, Mixed
from rovix.motion.ready_moves import pop
from rovix.paint.exposed_words import exposed_words, resting_pieces
from rovix.paint.painter import Painter

SIZE = (480, 200)
PLAIN = (Fill(paint=Plain(colour="#fff8ea")),)
EDGED = (Outline(width=4.0, colour="#1d3340"), Fill(paint=Linear()))
LOOKS = {
    "plain": PLAIN,
    "edged": EDGED,
    "see-through": (Outline(width=4.0, colour="#1d334080"), Fill(paint=Plain(colour="#fff8ea90"))),
    "on a box": (Box(id="b", paint=Plain(colour="#506a5a")), *EDGED),
    "long": (LongShadow(id="l", angle=70.0), *EDGED),
}
SOFT = {
    "shadow": (Shadow(id="s", x=4.0, y=9.0, blur=5.0), *EDGED),
    "glow": (Glow(id="g", size=9.0, strength=1.6), *EDGED),
    "both, over a box": (
        Box(id="b", paint=Plain(colour="#506a5a")), Glow(id="g", size=6.0), Shadow(id="s", blur=3.0), *EDGED,
    ),
}  # fmt: skip


def exposure(look, frame, **fields):
    """Eleven letters that come in one after the other, at a frame with motion blur."""
    clip = title(
        "BRIGHT WATER", text={"size": 60.0}, length=60, look=Look(parts=look),
        moves=[structs.replace(pop(), pieces="letters", length=1.5, at_once=3)], **fields,
    )  # fmt: skip
    project = project_of(clip, size=SIZE, background="#00000000", shutter=Shutter(on=True))
    (plan,) = picture_plan(project, frame).layers
    assert isinstance(plan, ExposurePlan)
    return plan


def one_by_one(plan, size=SIZE):
    """The mean of the moments, each painted whole and by itself."""
    moments = [
        np.zeros((size[1], size[0], 4)) if moment is None
        else Painter(None).paint(PicturePlan(SIZE, (0, 0, 0, 0), (moment,)), size).astype(float)
        for moment in plan.moments
    ]  # fmt: skip
    return np.mean(moments, axis=0)


def at_once(plan, size=SIZE):
    return Painter(None).paint(PicturePlan(SIZE, (0, 0, 0, 0), (plan,)), size)


@pytest.mark.parametrize("frame", [16, 25, 33])
@pytest.mark.parametrize("look", LOOKS)
def test_hard_edges_are_those_of_the_moments_one_by_one(look, frame):
    plan = exposure(LOOKS[look], frame)
    plan = replace(plan, moments=plan.moments * 3)  # enough of them for it to be worth parting
    for size in (SIZE, (313, 131)):
        error = np.abs(at_once(plan, size) - one_by_one(plan, size))
        # Where a canvas begins decides the last bits of where a letter lies on it.
        assert error.max() <= 4, size
        assert (error > 1).mean() < 1e-4, size


@pytest.mark.parametrize("frame", [16, 25, 33])
@pytest.mark.parametrize("look", SOFT)
def test_soft_parts_are_near_those_of_the_moments_one_by_one(look, frame):
    plan = exposure(SOFT[look], frame)
    plan = replace(plan, moments=plan.moments * 3)
    for size in (SIZE, (313, 131)):
        error = np.abs(at_once(plan, size) - one_by_one(plan, size))
        assert error.max() <= 6
        assert error.mean() <= 0.2


def test_what_moves_alone_is_drawn_at_each_moment():
    plan = exposure(SOFT["shadow"], 25)
    plan = replace(plan, moments=plan.moments * 3)
    words = exposed_words(plan.moments, np.eye(3), SIZE)
    assert words.resting is not None
    resting = int((words.resting.opacities > 0).sum())
    seen = int((plan.moments[0].opacities > 0).sum())
    assert 3 <= resting < seen
    assert all(len(body.pieces) < seen for body, _ in words.moments)
    assert words.within.width < SIZE[0] / 1.5
    assert words.times == len(plan.moments)


def test_a_layer_that_only_fades_is_drawn_once():
    fade = Transform(opacity=Keys(id="k", keys=(Key(frame=0, value=0.1), Key(frame=9, value=1.0))))
    clip = title("STILL", length=60, look=Look(parts=SOFT["shadow"]), transform=fade)
    project = project_of(clip, size=SIZE, background="#00000000", shutter=Shutter(on=True))
    moment = picture_plan(project, 30).layers[0]
    plan = ExposurePlan("x", tuple(replace(moment, opacity=share) for share in (0.2, 0.5, 0.8)))
    assert exposed_words(plan.moments, np.eye(3), SIZE).within.width == 0
    assert np.abs(at_once(plan) - one_by_one(plan)).max() <= 1


def test_nothing_is_parted_where_all_moves_or_lies_behind_the_viewer():
    turning = Transform(rotation_y=Keys(id="k", keys=(Key(frame=0, value=0.0), Key(frame=59, value=720.0))))
    plan = exposure(EDGED, 25, transform=turning)
    assert exposed_words(plan.moments, np.eye(3), SIZE).resting is None
    error = np.abs(at_once(plan) - one_by_one(plan))
    assert error.max() <= 1
    near = exposure(SOFT["glow"], 25, transform=Transform(z=150.0, rotation_y=75.0))
    bodies = [body for body, _ in exposed_words(near.moments, np.eye(3), SIZE).moments]
    assert not all(np.isfinite(body.touched()).all() for body in bodies), "some lie behind the viewer"
    error = np.abs(at_once(near) - one_by_one(near))
    assert error.max() <= 6


def test_moments_that_show_nothing_are_counted():
    plan = exposure(SOFT["shadow"], 25)
    plan = replace(plan, moments=(None, *plan.moments[:3], None))
    error = np.abs(at_once(plan) - one_by_one(plan))
    assert error.max() <= 6


def words_plan():
    plan = exposure((*SOFT["both, over a box"], LOOKS["long"][0]), 25).moments[0]
    fill = next(part for part in plan.parts if isinstance(part, FillPart))
    shares = np.zeros(len(plan.opacities))
    mixed = replace(fill, mixes=(Mixed((1, 2, 3, 255), shares, False),))
    parts = tuple(mixed if part is fill else part for part in plan.parts)
    return replace(plan, parts=parts, windows=((),) * len(plan.opacities))


def changed(value):
    """Another value of the same kind."""
    if isinstance(value, np.ndarray):
        return value + 0.25
    if isinstance(value, bool):
        return not value
    if isinstance(value, int | float):
        return value + 1
    if isinstance(value, str):
        return value + "x"
    if isinstance(value, tuple) and value and isinstance(value[0], int):
        return (value[0] ^ 1, *value[1:])
    return structs.replace(value, angle=value.angle + 1) if isinstance(value, Linear) else replace(
        value, width=value.width + 1
    )  # fmt: skip


def others_of(value):
    """Values that differ from one in one thing each."""
    if isinstance(value, tuple) and value and isinstance(value[0], Mixed):
        others = [replace(value[0], **{f.name: changed(getattr(value[0], f.name))}) for f in fields(Mixed)]
        return [(), *((other,) for other in others)]
    return [changed(value)]


def test_every_field_of_every_part_counts():
    plan = words_plan()
    assert resting_pieces([plan, plan]).all()
    for number, part in enumerate(plan.parts):
        for field in fields(part):
            for other in others_of(getattr(part, field.name)):
                parts = list(plan.parts)
                parts[number] = replace(part, **{field.name: other})
                found = resting_pieces([plan, replace(plan, parts=tuple(parts))])
                assert not found.any(), (type(part), field.name)
    assert {type(part) for part in plan.parts} == set(get_args(GlyphsPart)), "each kind of part there is"


def test_a_piece_that_is_moved_faded_or_cut_alone_is_the_only_one_that_does_not_rest():
    plan = words_plan()
    alone = np.arange(len(plan.opacities)) == 4
    for name, other in {
        "matrices": plan.matrices + alone[:, None, None] * 0.01,
        "opacities": plan.opacities - alone * 0.1,
        "windows": tuple((np.eye(2),) if own else () for own in alone.tolist()),
        "parts": tuple(
            replace(part, shares=part.shares - alone * 0.1) if isinstance(part, FillPart) else part
            for part in plan.parts
        ),
    }.items():
        assert np.array_equal(resting_pieces([plan, replace(plan, **{name: other})]), ~alone), name
    assert not resting_pieces([plan, replace(plan, parts=plan.parts[1:])]).any()
    assert not resting_pieces([plan, replace(plan, windows=())]).any()
