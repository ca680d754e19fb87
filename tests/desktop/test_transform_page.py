"""Placing layers by hand and by keys: handles, what they are caught on, guides, aligning, following."""

import numpy as np
import pytest
from gestures import CTRL, LEFT, NONE, drag
from PySide6.QtCore import QPoint, QPointF
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QToolButton
from test_text_page import type_into

from builders import project_of, title
from rovix.desktop.viewer.geometry import stalk_handles
from rovix.edit import clip_by_id
from rovix.model import Plain, ShapeClip, Transform


def shape(identity, x, y, width=100.0, height=40.0):
    return ShapeClip(
        id=identity,
        name=identity,
        length=60,
        width=width,
        height=height,
        transform=Transform(x=x, y=y),
        fill=Plain(colour="#806040"),
    )


@pytest.fixture
def window(make_test_window):
    made = make_test_window(
        project_of(shape("a", -150.0, -60.0), shape("b", 60.0, 40.0), shape("c", 180.0, 110.0, 60.0))
    )
    QTest.qWait(20)
    return made


def place(window, identity):
    return clip_by_id(window.document.project, identity).transform


def spot(window, identity):
    """The middle of a layer in the viewer."""
    quads = window.viewer._quads_of(identity)
    return window.viewer.view.to_view(*quads.rest.mean(axis=0).tolist()).toPoint()


def by(window, dx, dy):
    scale = window.viewer.view.scale
    return QPoint(round(dx * scale), round(dy * scale))


def test_a_dragged_layer_is_caught_on_the_frames_middle_and_the_lines_show(window):
    start = spot(window, "a")
    QTest.mousePress(window.viewer, LEFT, NONE, start)
    for share in (0.5, 1.0):
        QTest.mouseMove(window.viewer, start + by(window, 147 * share, 33 * share))
    lines = window.viewer._drag.caught.lines
    assert (0, 320.0) in [(axis, line.at) for axis, line in lines]
    QTest.mouseRelease(window.viewer, LEFT, NONE, start + by(window, 147, 33))
    assert place(window, "a").x == pytest.approx(0, abs=1e-3), "caught in the middle"
    assert window.document.history.undo_title == "Move a"


def test_ctrl_catches_on_nothing_and_snapping_can_be_off(window):
    start = spot(window, "a")
    window.document.select("a")
    drag(window.viewer, start, start + by(window, 147, 33), NONE)
    assert place(window, "a").x == 0
    window.run("undo")
    QTest.qWait(10)
    window.run("snap")
    drag(window.viewer, start, start + by(window, 147, 33))
    assert place(window, "a").x == pytest.approx(-3, abs=1.5)
    assert place(window, "a").x != 0


def test_a_layer_is_caught_on_another_layers_edge(window):
    start = spot(window, "a")
    drag(window.viewer, start, start + by(window, 213, 80))
    # Its left edge, at -200 before, goes to b's, at 10.
    assert place(window, "a").x == pytest.approx(60, abs=1e-3)


def test_several_layers_are_dragged_together(window):
    window.document.select("a", "b")
    window.run("snap")
    before = {i: place(window, i) for i in "abc"}
    start = spot(window, "b")
    drag(window.viewer, start, start + by(window, 30, 12))
    ways = [(place(window, i).x - before[i].x, place(window, i).y - before[i].y) for i in "ab"]
    assert ways[0] == pytest.approx(ways[1])
    assert ways[0] == pytest.approx((30, 12), abs=2)
    assert place(window, "c") == before["c"]
    QTest.mouseClick(window.viewer, LEFT, CTRL, spot(window, "c"))
    assert window.document.selection == ("a", "b", "c")


def test_tip_and_swing_have_handles_of_their_own(window):
    window.document.select("b")
    QTest.qWait(10)
    for kind, way in (("rotation_x", QPoint(0, 60)), ("rotation_y", QPoint(-40, 0))):
        _, handle = stalk_handles(window.viewer.view, window.viewer._quads())[kind]
        drag(window.viewer, handle.toPoint(), handle.toPoint() + way)
        assert getattr(place(window, "b"), kind) == pytest.approx(30 if kind == "rotation_x" else 20, abs=1)
        assert window.document.history.undo_title == "Rotate b"
        window.run("undo")
        QTest.qWait(10)


def test_the_pivot_is_dragged_with_ctrl_and_the_picture_stands_still(window):
    window.document.select("b")
    QTest.qWait(10)
    before = window.viewer._quads().rest.copy()
    pivot = window.viewer.view.to_view(*window.viewer._quads().pivot.tolist()).toPoint()
    corner = window.viewer.view.to_view(*before[0].tolist()).toPoint()
    drag(window.viewer, pivot, corner, CTRL)
    now = place(window, "b")
    assert (now.pivot_x, now.pivot_y) == (pytest.approx(0, abs=0.03), pytest.approx(0, abs=0.06))
    QTest.qWait(10)
    np.testing.assert_allclose(window.viewer._quads().rest, before, atol=0.01)
    _, handle = stalk_handles(window.viewer.view, window.viewer._quads())["rotation_z"]
    centre = window.viewer.view.to_view(*window.viewer._quads().pivot.tolist())
    way = handle - centre
    drag(window.viewer, handle.toPoint(), (centre + QPointF(-way.y(), way.x())).toPoint())
    QTest.qWait(10)
    np.testing.assert_allclose(window.viewer._quads().rest[0], before[0], atol=1.5)


def test_guides_are_added_dragged_caught_on_and_dropped_outside(window):
    window.ask_number = lambda *_: 400.0
    window.run("guide-upright")
    (guide,) = window.document.project.sequence.guides
    assert (guide.upright, guide.at) == (True, 80.0)
    start = spot(window, "a")
    drag(window.viewer, start, start + by(window, 228, 60))
    assert place(window, "a").x == pytest.approx(80, abs=1e-3), "its middle is caught on the guide"
    line = window.viewer.view.to_view(400, 20).toPoint()
    drag(window.viewer, line, line + by(window, 50, 0))
    assert window.document.project.sequence.guides[0].at == pytest.approx(130, abs=2)
    line = window.viewer.view.to_view(320 + window.document.project.sequence.guides[0].at, 20).toPoint()
    drag(window.viewer, line, QPoint(2, line.y()))
    assert window.document.project.sequence.guides == ()
    window.run("undo")
    window.run("guides-clear")
    assert window.document.project.sequence.guides == ()


def test_aligning_and_spacing_are_steps_from_menu_and_sheet(window):
    window.document.select("a")
    window.run("align-right")
    assert place(window, "a").x == pytest.approx(270)
    window.run("undo")
    window.document.select("a", "b", "c")
    window.run("align-top")
    assert {round(place(window, i).y, 3) for i in "abc"} == {-60.0}
    window.run("space-across")
    assert window.document.history.undo_title == "Space 3 clips"
    window.sheet.open_page("Transform")
    (bottom,) = [
        b
        for b in window.sheet.page("Transform").findChildren(QToolButton)
        if b.accessibleName() == "Align bottom"
    ]
    bottom.click()
    assert len({round(place(window, i).y, 3) for i in "abc"}) == 1


def test_a_layer_follows_another_and_stands_still_when_it_begins(window):
    window.document.select("b")
    window.sheet.open_page("Transform")
    page = window.sheet.page("Transform")
    before = window.viewer._quads_of("b").rest.copy()
    names = [page._follows.itemText(n) for n in range(page._follows.count())]
    assert names == ["Nothing", "a", "c"]
    page._follows.setCurrentIndex(1)
    page._follows.activated.emit(1)
    assert clip_by_id(window.document.project, "b").parent == "a"
    QTest.qWait(10)
    np.testing.assert_allclose(window.viewer._quads_of("b").rest, before, atol=0.01)
    window.document.select("a")
    type_into(page._fields["x"], "-150+40")
    QTest.qWait(10)
    np.testing.assert_allclose(window.viewer._quads_of("b").rest - before, [[40, 0]] * 4, atol=0.01)
    window.document.select("b", "c", "a")
    window.run("follow-leader")
    assert clip_by_id(window.document.project, "c").parent == "a"


def test_pivot_blur_and_place_take_numbers_with_sums(window):
    window.document.select("b")
    window.sheet.open_page("Transform")
    page = window.sheet.page("Transform")
    type_into(page._fields["x"], "1920/2 - 900")
    type_into(page._fields["blur_x"], "4*2")
    type_into(page._pivot[0], "0")
    now = place(window, "b")
    assert (now.x, now.blur_x, now.pivot_x) == (pytest.approx(60.0), 8.0, 0.0)


def test_locked_and_hidden_layers_cannot_be_taken(window):
    for command in ("lock-track", "hide-track"):
        window.document.select("a")
        window.run(command)
        QTest.qWait(10)
        start = (
            spot(window, "a") if command == "lock-track" else window.viewer.view.to_view(170, 120).toPoint()
        )
        drag(window.viewer, start, start + QPoint(30, 0))
        assert place(window, "a").x == -150.0
        window.run("undo")
        QTest.qWait(10)


def test_words_that_are_emptied_stay_as_a_mark_that_can_be_taken(make_test_window):
    window = make_test_window(project_of(title("", name="Caption", transform=Transform(x=-100.0))))
    QTest.qWait(20)
    at = window.viewer.view.to_view(220, 180).toPoint()
    QTest.mouseClick(window.viewer, LEFT, NONE, at)
    assert window.document.selected == "title"
    QTest.mouseDClick(window.viewer, LEFT, NONE, at)
    assert window.viewer.editor is not None
    QTest.keyClicks(window.viewer, "Hi")
    assert clip_by_id(window.document.project, "title").text.content == "Hi"
