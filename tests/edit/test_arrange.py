"""Placing layers: what a drag is caught on, alignment, spacing, pivots, following, guides."""

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from builders import project_of, title
from rovix.edit import clip_by_id
from rovix.edit.alignment import alignments, caught, distributions, targets
from rovix.edit.arrange import align_layers, distribute_layers, layer_box, move_in_frame, move_pivot
from rovix.edit.following import follow, followable
from rovix.edit.guides import add_guide, clear_guides, move_guide
from rovix.errors import RovixError
from rovix.model import Key, Keys, ShapeClip, Sound, SoundClip, Transform
from rovix.model.limits import DEEPEST
from rovix.motion import picture_plan
from rovix.motion.quads import picture_quads
from rovix.paint.painter import Painter

SIZE = (640, 360)


def box(identity, x=0.0, y=0.0, width=100.0, height=40.0, **place):
    return ShapeClip(
        id=identity,
        name=identity,
        length=60,
        width=width,
        height=height,
        transform=Transform(x=x, y=y, **place),
    )


def three():
    return project_of(box("a", x=-200, y=-50), box("b", x=10, y=20, width=60), box("c", x=180, y=90))


def quads(project, identity, frame=0):
    return next(q for q in picture_quads(project, frame) if q.id == identity).rest


def lines(around=(), guides=((), ())):
    return targets(SIZE, [(32.0, 18.0, 608.0, 342.0)], guides, around)


@pytest.mark.parametrize(
    ("moved", "to", "kinds"),
    [
        ((268, 100, 368, 140), (270, 100), {"middle"}),
        ((4, 100, 104, 140), (0, 100), {"edge"}),
        ((29, 100, 129, 140), (32, 100), {"safe area"}),
        ((161, 100, 261, 140), (213.333 - 50, 100), {"third"}),
        ((403, 100, 503, 140), (400, 100), {"guide"}),
        ((150, 200, 250, 240), (150, 200), set()),
    ],
)
def test_a_dragged_box_is_caught_on_the_frames_lines(moved, to, kinds):
    found = caught(moved, lines(guides=((400.0,), ())), 5.0)
    assert (moved[0] + found.dx, moved[1] + found.dy) == (
        pytest.approx(to[0], abs=1e-3),
        pytest.approx(to[1]),
    )
    assert {line.kind for axis, line in found.lines if axis == 0} == kinds


def test_it_is_caught_on_other_layers_edges_and_middles():
    other = (100.0, 50.0, 160.0, 90.0)
    found = caught((103.0, 200.0, 183.0, 240.0), lines([other]), 5.0)
    assert found.dx == -3
    assert ("layer", 100.0) in [(line.kind, line.at) for _, line in found.lines]


def test_equal_gaps_catch_it_between_and_beyond():
    row = [(10.0, 100.0, 50.0, 140.0), (70.0, 100.0, 110.0, 140.0)]
    beyond = caught((133.0, 102.0, 163.0, 138.0), targets((10_000, 10_000), [], ((), ()), row), 5.0)
    assert beyond.dx == pytest.approx(-3), "as far from its neighbour as that one is from the next"
    assert {round(gap.end - gap.start, 6) for gap in beyond.gaps if gap.axis == 0} == {20.0}
    apart = [(10.0, 100.0, 50.0, 140.0), (170.0, 100.0, 210.0, 140.0)]
    between = caught((92.0, 101.0, 132.0, 139.0), targets((10_000, 10_000), [], ((), ()), apart), 5.0)
    assert between.dx == pytest.approx(-2)
    assert [gap.end - gap.start for gap in between.gaps if gap.axis == 0] == [40.0, 40.0]
    below = caught((92.0, 300.0, 132.0, 340.0), targets((10_000, 10_000), [], ((), ()), apart), 5.0)
    assert below.gaps == (), "only what stands beside it counts"


@given(st.floats(0, 500), st.floats(0, 300), st.floats(0, 12))
def test_nothing_is_moved_farther_than_it_may_be(left, top, within):
    found = caught((left, top, left + 80, top + 30), lines([(100.0, 50.0, 160.0, 90.0)]), within)
    assert abs(found.dx) <= within + 1e-9
    assert abs(found.dy) <= within + 1e-9


def test_alignment_and_spacing_of_boxes():
    boxes = [(0.0, 0.0, 10.0, 10.0), (30.0, 5.0, 50.0, 25.0), (90.0, 40.0, 100.0, 50.0)]
    assert alignments(boxes, "right", (0, 0, 100, 50)) == [(90.0, 0.0), (50.0, 0.0), (0.0, 0.0)]
    assert alignments(boxes, "middle", (0, 0, 100, 50)) == [(0.0, 20.0), (0.0, 10.0), (0.0, -20.0)]
    assert distributions(boxes, 0, "gaps") == [(0.0, 0.0), (10.0, 0.0), (0.0, 0.0)]
    assert distributions(boxes, 0, "middles") == [(0.0, 0.0), (10.0, 0.0), (0.0, 0.0)]
    assert distributions(boxes[:2], 0, "gaps") == [(0.0, 0.0)] * 2


def test_one_layer_aligns_to_the_frame_and_several_to_each_other():
    project = align_layers(three(), ("a",), 0, "right")
    assert layer_box(project, "a", 0)[2] == pytest.approx(640)
    project = align_layers(three(), ("a", "b", "c"), 0, "top")
    assert {round(layer_box(project, i, 0)[1], 3) for i in "abc"} == {layer_box(three(), "a", 0)[1]}
    project = distribute_layers(three(), ("a", "b", "c"), 0, 0, "gaps")
    a, b, c = (layer_box(project, i, 0) for i in "abc")
    assert b[0] - a[2] == pytest.approx(c[0] - b[2])
    with pytest.raises(RovixError, match="three layers"):
        distribute_layers(three(), ("a", "b"), 0, 0, "gaps")


@pytest.mark.parametrize(
    "place",
    [
        {},
        {"rotation_z": 33.0, "scale_x": 2.0, "scale_y": 0.5},
        {"z": 200.0},
        {"rotation_z": 90.0, "rotation_x": 30.0},
    ],
)
def test_a_layer_moves_by_px_of_the_frame_whatever_it_follows(place):
    leader = box("a", x=40.0, y=10.0, **place)
    child = box("b", x=30.0, y=5.0)
    project = project_of(
        leader, type(child)(**{f: getattr(child, f) for f in child.__struct_fields__} | {"parent": "a"})
    )
    moved = move_in_frame(project, "b", 0, 12.0, -7.0)
    way = (quads(moved, "b") - quads(project, "b")).mean(axis=0)
    np.testing.assert_allclose(way, [12.0, -7.0], atol=0.4 if "rotation_x" in place else 0.01)


def test_an_animated_place_gets_a_key():
    keys = Keys(id="k", keys=(Key(frame=0, value=0.0), Key(frame=30, value=100.0)))
    project = move_in_frame(project_of(box("a", x=keys)), "a", 15, 10.0, 0.0)
    assert [(key.frame, key.value) for key in clip_by_id(project, "a").transform.x.keys] == [
        (0, 0.0),
        (15, 60.0),
        (30, 100.0),
    ]


@pytest.mark.parametrize(
    "place",
    [
        {},
        {"rotation_z": 40.0, "scale_x": 1.7, "slant": 20.0},
        {"rotation_x": 50.0, "rotation_y": -20.0, "rotation_z": 10.0},
    ],
)
def test_moving_the_pivot_leaves_the_picture(place):
    project = project_of(title("Kite", transform=Transform(x=20.0, **place)))
    moved = move_pivot(project, "title", 0, 0.0, 1.0)
    assert (clip_by_id(moved, "title").transform.pivot_x, clip_by_id(moved, "title").transform.pivot_y) == (
        0.0,
        1.0,
    )
    one, other = (Painter(None).paint(picture_plan(p, 0)).astype(int) for p in (project, moved))
    assert np.abs(one - other).max() <= 8
    assert np.abs(quads(project, "title") - quads(moved, "title")).max() < 1e-3


def test_a_layer_that_begins_or_ends_to_follow_stands_still():
    project = project_of(
        box("a", x=40.0, y=10.0, rotation_z=30.0, scale_x=2.0, scale_y=2.0),
        box("b", x=-60.0, y=25.0, rotation_z=5.0),
    )
    tied = follow(project, "b", "a", 0)
    assert clip_by_id(tied, "b").parent == "a"
    np.testing.assert_allclose(quads(tied, "b"), quads(project, "b"), atol=1e-3)
    np.testing.assert_allclose(quads(follow(tied, "b", None, 0), "b"), quads(project, "b"), atol=1e-3)
    turned = move_in_frame(tied, "a", 0, 50.0, 0.0)
    assert (quads(turned, "b") - quads(tied, "b")).mean(axis=0)[0] == pytest.approx(50, abs=1e-3), (
        "and then it follows"
    )


def test_no_layer_is_offered_that_hangs_on_this_one():
    project = follow(follow(three(), "b", "a", 0), "c", "b", 0)
    assert [clip.id for clip in followable(project, "a")] == []
    assert [clip.id for clip in followable(project, "c")] == ["a", "b"]


def test_guides_are_put_moved_and_taken_away():
    project = add_guide(add_guide(three(), True, 100.0), False, -20.0)
    upright, level = project.sequence.guides
    assert (upright.upright, upright.at, level.upright, level.at) == (True, 100.0, False, -20.0)
    assert move_guide(project, level.id, 5.0).sequence.guides[1].at == 5.0
    assert move_guide(project, level.id, None).sequence.guides == (upright,)
    assert clear_guides(project).sequence.guides == ()


def test_a_sound_has_no_place():
    project = project_of(SoundClip(id="s", media="m", length=9, sound=Sound()))
    with pytest.raises(RovixError, match="Only layers"):
        align_layers(project, ("s",), 0, "left")


def test_a_layer_does_not_follow_one_that_hangs_on_it():
    project = follow(follow(three(), "b", "a", 0), "c", "b", 0)
    for leader in ("a", "b", "c"):
        with pytest.raises(
            RovixError, match=r"hangs on 'a' itself, so 'a' cannot follow it; free '[abc]' first"
        ):
            follow(project, "a", leader, 0)


def test_a_chain_of_layers_has_an_end():
    names = [f"l{number}" for number in range(DEEPEST + 2)]
    project = project_of(*(title(id=name, length=30) for name in names))
    for before, name in pairwise(names[:-1]):
        project = follow(project, name, before, 0)
    with pytest.raises(RovixError, match=r"'Kite' cannot follow 'Kite': layers follow through at most 64"):
        follow(project, names[-1], names[-2], 0)
