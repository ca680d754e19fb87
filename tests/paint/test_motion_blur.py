"""Motion blur against the exact integral of what moves, and its moments."""

import numpy as np
import pytest
from msgspec.structs import replace
from scipy.integrate import quad

from builders import look_of, project_of, title
from rovix.edit.tree import with_sequence
from rovix.model import GroupClip, Key, Keys, MotionPath, PathKey, Plain, ShapeClip, Shutter, Track, Transform
from rovix.motion import ExposurePlan, GlyphsPlan, GroupPlan, ShapePlan, picture_plan
from rovix.motion.ready_moves import pop
from rovix.paint.painter import Painter


def line(*pairs, curve="linear"):
    return Keys(id="k", keys=tuple(Key(frame=f, value=v, curve=curve) for f, v in pairs))


def shot(*clips, shutter=Shutter(on=True), size=(320, 80), **fields):  # noqa: B008
    return project_of(*clips, size=size, background="#00000000", shutter=shutter, **fields)


def box(speed, **fields):
    """A white box, 40 px wide, that goes so many px a frame."""
    place = Transform(x=line((0, -100.0), (20, -100.0 + 20 * speed)), **fields)
    return ShapeClip(
        id="b", length=21, width=40.0, height=40.0, fill=Plain(colour="#ffffff"), transform=place
    )


def row(project, frame):
    """Alpha 0 to 1 along the middle of the picture."""
    return Painter(None).paint(picture_plan(project, frame))[40, :, 3] / 255


def box_integral(left, width, way, cells=320):
    """The mean of :func:`covered` while the box goes `way` px: the exact integral over the exposure.

    How long an edge at e has passed x is the mean of min(max(x - e, 0), 1) over a px, whose integral
    is a quadratic in pieces; SciPy integrates it px by px.
    """

    def passed(px, start):
        return quad(
            lambda s: np.clip(px + 1 - (start + s * way), 0, 1), 0, 1, points=[0.1, 0.5, 0.9], limit=200
        )[0]

    return np.array([passed(px, left) - passed(px, left + width) for px in range(cells)])


@pytest.mark.parametrize("speed", [4, 12, 20])
@pytest.mark.parametrize("angle", [90.0, 180.0, 360.0])
def test_a_box_is_smeared_as_the_integral_says(speed, angle):
    project = shot(box(speed), shutter=Shutter(on=True, angle=angle, samples=256))
    left = 160 - 100 + 5 * speed - 20
    exact = box_integral(left, 40, speed * angle / 360)
    found = row(project, 5)
    # A smear shares each of its points among four px, which softens an edge by less than a px.
    assert np.abs(found - exact).mean() < 0.002
    assert np.abs(found - exact).max() < 0.07
    assert found.sum() == pytest.approx(40, rel=0.01)


def test_phase_shifts_the_exposure():
    ahead = row(shot(box(20), shutter=Shutter(on=True, phase=0.0)), 5)
    middle = row(shot(box(20), shutter=Shutter(on=True, phase=-90.0)), 5)
    # A quarter of a frame is 5 px.
    np.testing.assert_allclose(middle[:-5], ahead[5:], atol=1 / 255)


def test_moments_are_two_px_apart_up_to_the_most():
    def moments(speed, **shutter):
        plan = picture_plan(shot(box(speed), shutter=Shutter(on=True, **shutter)), 5).layers[0]
        return len(plan.moments) if isinstance(plan, ExposurePlan) else 0

    assert [moments(speed) for speed in (0, 1, 4, 8, 20)] == [0, 1, 1, 2, 5]
    assert moments(20, angle=360.0) == 10
    assert moments(20, angle=360.0, samples=4) == 4


def test_what_rests_is_drawn_as_if_there_were_no_shutter():
    clip = title(length=60, moves=[pop()])
    on, off = shot(clip, size=(640, 360)), shot(clip, size=(640, 360), shutter=Shutter())
    moving = Painter(None).paint(picture_plan(on, 4))
    assert not np.array_equal(moving, Painter(None).paint(picture_plan(off, 4)))
    for frame in (30, 59):
        assert isinstance(picture_plan(on, frame).layers[0], GlyphsPlan)
        still = Painter(None).paint(picture_plan(on, frame))
        assert np.array_equal(still, Painter(None).paint(picture_plan(off, frame)))


def test_every_channel_that_moves_pixels_is_blurred():
    places = [
        Transform(y=line((0, 0.0), (20, 200.0))),
        Transform(rotation_z=line((0, 0.0), (20, 360.0))),
        Transform(scale_x=line((0, 1.0), (20, 4.0))),
        Transform(z=line((0, 0.0), (20, 200.0))),
        Transform(slant=line((0, 0.0), (20, 60.0))),
        Transform(rotation_x=line((0, 0.0), (20, 180.0))),
        Transform(pivot_x=line((0, 0.0), (20, 4.0)), rotation_z=90.0),
        Transform(
            path=MotionPath(id="p", keys=(PathKey(frame=0, x=0.0, y=0.0), PathKey(frame=20, x=200.0, y=0.0)))
        ),
    ]
    for place in places:
        plan = picture_plan(shot(title(length=30, transform=place)), 8).layers[0]
        assert isinstance(plan, ExposurePlan), place
    opening = title(length=30, text={"tracking": line((0, 0.0), (20, 2.0))})
    assert isinstance(picture_plan(shot(opening), 8).layers[0], ExposurePlan)
    fading = title(length=30, transform=Transform(opacity=line((0, 0.0), (20, 1.0))))
    assert isinstance(picture_plan(shot(fading), 8).layers[0], GlyphsPlan)


def test_a_layer_may_have_a_shutter_of_its_own():
    own = replace(box(20), shutter=Shutter(on=True, angle=360.0))
    assert isinstance(picture_plan(shot(own, shutter=Shutter()), 5).layers[0], ExposurePlan)
    without = replace(box(20), shutter=Shutter(on=False))
    assert isinstance(picture_plan(shot(without), 5).layers[0], ShapePlan)


def test_it_may_be_left_out_while_editing_never_in_an_export():
    project = shot(box(20))
    quiet = with_sequence(project, replace(project.sequence, blur_while_editing=False))
    assert isinstance(picture_plan(quiet, 5, editing=True).layers[0], ShapePlan)
    assert isinstance(picture_plan(quiet, 5).layers[0], ExposurePlan)
    assert isinstance(picture_plan(project, 5, editing=True).layers[0], ExposurePlan)


def test_moments_stay_within_the_clip():
    going = box(20)
    ended = picture_plan(shot(going, shutter=Shutter(on=True, phase=90.0, angle=360.0)), 20).layers[0]
    assert isinstance(ended, ShapePlan)
    begun = picture_plan(shot(going, shutter=Shutter(on=True, phase=-360.0, angle=360.0)), 0).layers[0]
    assert isinstance(begun, ShapePlan)


def test_a_group_is_exposed_as_one_and_what_it_follows_moves_it():
    group = GroupClip(
        id="g",
        length=21,
        tracks=(Track(id="t", clips=(replace(box(0), transform=Transform()),)),),
        transform=box(20).transform,
    )
    plan = picture_plan(shot(group), 5).layers[0]
    assert isinstance(plan, ExposurePlan)
    assert all(isinstance(moment, GroupPlan) for moment in plan.moments)
    assert not any(isinstance(inner, ExposurePlan) for inner in plan.moments[0].layers)
    np.testing.assert_allclose(
        row(shot(group), 5), row(shot(replace(box(20), transform=box(20).transform)), 5), atol=2 / 255
    )
    lead = replace(box(20), id="lead")
    following = replace(box(0), id="f", parent="lead", transform=Transform())
    assert isinstance(picture_plan(shot(lead, following), 5).layers[1], ExposurePlan)


def test_letters_that_cut_on_do_so_on_whole_frames():
    typed = replace(pop(), pieces="letters", at_once=0.0, before="hidden", length=0.55)
    clip = title("Kites fly", length=60, moves=[typed], transform=Transform(x=line((0, 0.0), (59, 590.0))))
    project = shot(clip, size=(640, 360))
    for frame in range(16):
        plan = picture_plan(project, frame).layers
        if plan:
            shown = {
                tuple((moment.opacities > 0).tolist()) for moment in plan[0].moments if moment is not None
            }
            assert len(shown) == 1, frame


def test_adaptive_blur_of_letters_is_near_that_of_many_moments():
    clip = title(
        "Thirty letters over the meadow", length=40, look=look_of("#ffffff"), text={"size": 70.0},
        transform=Transform(x=line((0, -400.0), (39, 380.0))),
    )  # fmt: skip
    few = shot(clip, size=(1920, 1080))
    many = shot(clip, size=(1920, 1080))
    project = with_sequence(many, replace(many.sequence, shutter=Shutter(on=True)))
    plan = picture_plan(project, 10).layers[0]
    assert len(plan.moments) == 5
    from rovix.motion import shutter as shutters

    adaptive = Painter(None).paint(picture_plan(few, 10)).astype(float)
    step = shutters.STEP
    try:
        shutters.STEP = 10 / 256
        exact_project = with_sequence(many, replace(many.sequence, shutter=Shutter(on=True, samples=256)))
        exact = Painter(None).paint(picture_plan(exact_project, 10)).astype(float)
    finally:
        shutters.STEP = step
    changed = (exact > 0).any(axis=2) | (adaptive > 0).any(axis=2)
    # The mean error over the px that the words touch.
    assert np.abs(adaptive - exact)[changed].mean() < 0.01 * 255
