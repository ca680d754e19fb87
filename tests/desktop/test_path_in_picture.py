"""A path edited in the picture: points, tangents, new points; each undone again."""

import pytest
from gestures import CTRL, LEFT, NONE, SHIFT, pull
from PySide6.QtCore import QPointF
from PySide6.QtTest import QTest

from rovix.edit import clip_by_id
from rovix.edit.tree import replace, replace_clip
from waiting import wait_for


@pytest.fixture
def viewer(window):
    document = window.document
    document.do("Bare", lambda p: replace_clip(p, "big", lambda c: replace(c, moves=())))
    document.select("big")
    window.run("path-make")
    document.seek(0)
    QTest.qWait(10)
    assert window.viewer.show_path
    return window.viewer


def path(window):
    return clip_by_id(window.document.project, "big").transform.path


def spot(viewer, frame) -> QPointF:
    return viewer.view.to_view(*viewer._path.points()[frame].tolist())


def test_a_point_is_dragged_and_put_back(window, viewer):
    before = window.document.project
    assert [(key.x, key.y) for key in path(window).keys] == [(0, 0), (400, 0)]
    scale = viewer.view.scale
    pull(viewer, spot(viewer, 79), spot(viewer, 79) + QPointF(-20, 15))
    end = path(window).keys[1]
    assert (end.x, end.y) == pytest.approx((400 - 20 / scale, 15 / scale), abs=0.1)
    assert list(window.document.keys) == [("big", "transform.path", 79)]
    assert window.document.history.undo_title == "Move a point of the path"
    window.document.undo()
    assert window.document.project == before
    pull(viewer, spot(viewer, 79), spot(viewer, 79) + QPointF(-20, 9), SHIFT)
    assert path(window).keys[1].y == 0


def test_a_tangent_is_pulled_from_a_point_and_turns_its_other_side(window, viewer):
    before = window.document.project
    # Selecting a point shows short tangents to pull.
    QTest.mouseClick(viewer, LEFT, NONE, spot(viewer, 0).toPoint())
    clip = clip_by_id(window.document.project, "big")
    ((_, side, end),) = viewer._path._tangents(viewer.view, clip)
    assert side == "after"
    pull(viewer, end, end + QPointF(0, -40))
    way = path(window).keys[0].after
    assert way[1] == pytest.approx(-40 / viewer.view.scale, abs=0.1)
    assert window.document.history.undo_title == "Bend the path"
    middle = viewer._path.points()[40]
    assert middle[1] < 180
    window.document.undo()
    assert window.document.project == before


def test_a_double_click_puts_a_point_on_the_path(window, viewer):
    QTest.mouseDClick(viewer, LEFT, NONE, spot(viewer, 30).toPoint())
    frames = [key.frame for key in path(window).keys]
    assert len(frames) == 3
    assert abs(frames[1] - 30) <= 3
    window.run("path-bend")
    assert path(window).keys[1].joined
    key = path(window).keys[1]
    assert key.before[0] * key.after[1] == pytest.approx(key.before[1] * key.after[0])
    window.run("path-straighten")
    assert path(window).keys[1].before is None
    window.run("path-along")
    assert path(window).along
    window.run("path-keys")
    assert path(window) is None
    assert len(clip_by_id(window.document.project, "big").transform.x.keys) == 3
    window.document.undo()
    window.run("path-remove")
    assert path(window) is None


def test_keys_of_x_and_y_are_dragged_on_the_motion_path_too(window, viewer):
    window.run("path-keys")
    window.document.keys.clear()
    pull(viewer, spot(viewer, 79), spot(viewer, 79) + QPointF(0, 12))
    place = clip_by_id(window.document.project, "big").transform
    assert place.y.keys[1].value == pytest.approx(12 / viewer.view.scale, abs=0.1)
    assert {spot[1] for spot in window.document.keys} == {"transform.x", "transform.y"}


def test_path_and_ghosts_are_drawn_over_the_picture(window, viewer):
    wait_for(lambda: window.projector.picture is not None, 3000)
    window.document.keys.set([("big", "transform.path", 0)])
    with_path = viewer.grab().toImage()
    viewer.show_neighbours = True
    viewer.update()
    with_ghosts = viewer.grab().toImage()
    viewer.show_path = viewer.show_neighbours = False
    viewer.update()
    assert with_path != viewer.grab().toImage()
    assert with_ghosts != with_path
    # A group of points by Ctrl.
    viewer.show_path = True
    QTest.mouseClick(viewer, LEFT, CTRL, spot(viewer, 79).toPoint())
    assert len(window.document.keys) == 2
