"""Inner keys of a move by mouse, keys and the sheet; each step undone again."""

import pytest
from gestures import CTRL, LEFT, NONE, pull
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from rovix.desktop.commands import command
from rovix.desktop.timeline.lanes.painter import header_boxes
from rovix.desktop.timeline.scale import HEADER, Scale
from rovix.edit import clip_by_id
from rovix.edit.tree import replace, replace_clip
from rovix.model import Amount, Departure, Move

K = Qt.Key
SLIDE = Move(
    id="m", role="entrance", length=1.0, piece_curve="linear",
    channels=(Departure(channel="x", amount=Amount(value=-90.0)), Departure(channel="opacity")),
)  # fmt: skip


@pytest.fixture
def lanes(window):
    window.document.do("Slide", lambda p: replace_clip(p, "big", lambda c: replace(c, moves=(SLIDE,))))
    window.document.select("big")
    canvas = window.timeline.canvas
    canvas.setFixedHeight(420)
    canvas.set_scale(Scale(8.0, 0.0))
    canvas.lanes.toggle("big")
    canvas.lanes.set_mode("moves")
    QTest.qWait(5)
    return canvas.lanes


def channels(window):
    return clip_by_id(window.document.project, "big").moves[0].channels


def places(window, number=0):
    return [round(key.at, 3) for key in channels(window)[number].keys]


def lane_of(lanes, number=0):
    return next(lane for lane in lanes.shown() if lane.address == f"moves.m.{number}")


def point(lanes, key, number=0) -> QPoint:
    curve = lanes.curve(lane_of(lanes, number))
    return curve.point(curve.keys[key]).toPoint()


def middle(lanes, frame, number=0) -> QPoint:
    curve = lanes.curve(lane_of(lanes, number))
    return QPoint(round(curve.x(frame)), lane_of(lanes, number).top + 30)


def double(window, lanes, frame, number=0):
    QTest.mouseDClick(window.timeline.canvas, LEFT, NONE, middle(lanes, frame, number))


def test_double_click_puts_a_key_where_the_curve_is_and_a_drag_shapes_it(window, lanes):
    before = window.document.project
    double(window, lanes, 10)
    assert places(window) == [0.0, 0.333, 1.0]
    assert channels(window)[0].keys[1].amount.value == pytest.approx(-60)
    assert list(window.document.inner) == [("big", "m", 0, 1)]
    start = point(lanes, 1)
    pull(window.timeline.canvas, start, start + QPoint(5 * 8, -10))
    assert places(window)[1] == 0.5
    assert channels(window)[0].keys[1].amount.value > -55
    assert window.document.playhead == 10
    window.document.undo()
    window.document.undo()
    assert window.document.project == before


def test_delete_takes_the_selected_keys_and_not_the_clip(window, lanes):
    double(window, lanes, 10)
    double(window, lanes, 20)
    assert places(window) == [0.0, 0.333, 0.667, 1.0]
    QTest.mouseClick(window.timeline.canvas, LEFT, NONE, point(lanes, 1))
    QTest.mouseClick(window.timeline.canvas, LEFT, CTRL, point(lanes, 2))
    assert len(window.document.inner) == 2
    window.run("remove")
    assert clip_by_id(window.document.project, "big") is not None
    assert (places(window), channels(window)[0].amount.value) == ([], -90.0)


def test_several_channels_together(window, lanes):
    """A key in each, selected by a double-click on one, moved together by a key, shaped, copied on."""
    window.document.seek(10)
    window.run("inner-add")
    assert (places(window, 0), places(window, 1)) == ([0.0, 0.333, 1.0], [0.0, 0.333, 1.0])
    window.document.inner.clear()
    QTest.mouseDClick(window.timeline.canvas, LEFT, NONE, point(lanes, 1))
    assert list(window.document.inner) == [("big", "m", 0, 1), ("big", "m", 1, 1)]
    window.run("keys-later")
    assert places(window, 0)[1] == places(window, 1)[1] == 0.367
    window.run("curve-smooth")
    assert [d.keys[1].curve for d in channels(window)] == ["smooth", "smooth"]
    window.run("copy")
    window.document.seek(20)
    window.run("paste")
    assert (places(window, 0), places(window, 1)) == ([0.0, 0.367, 0.667, 1.0],) * 2
    assert list(window.document.inner) == [("big", "m", 0, 2), ("big", "m", 1, 2)]
    start = point(lanes, 2)
    pull(window.timeline.canvas, start, start + QPoint(3 * 8, 0))
    assert places(window, 0)[2] == places(window, 1)[2] == 0.767
    window.run("cut")
    assert (places(window, 0), places(window, 1)) == ([0.0, 0.367, 1.0],) * 2


def test_the_pips_beside_the_row_and_in_the_lane_set_a_key_and_take_it_away(window, lanes):
    window.sheet.open_page("Motion")
    page = window.sheet.page("Motion")
    page.moving.open()
    window.document.seek(15)
    row = page.channels.rows[0]
    QTest.mouseClick(row.pip, LEFT)
    assert places(window) == [0.0, 0.5, 1.0]
    row = page.channels.rows[0]
    assert row.pip.accessibleDescription() == "A key on this frame."
    window.document.seek(5)
    assert row.pip.accessibleDescription() == "Animated; no key on this frame."
    ring = header_boxes(lane_of(lanes))["ring"].center().toPoint()
    QTest.mouseClick(window.timeline.canvas, LEFT, NONE, ring)
    assert places(window) == [0.0, 0.167, 0.5, 1.0]
    QTest.mouseClick(window.timeline.canvas, LEFT, NONE, ring)
    assert places(window) == [0.0, 0.5, 1.0]
    following = header_boxes(lane_of(lanes))["next"].center().toPoint()
    QTest.mouseClick(window.timeline.canvas, LEFT, NONE, following)
    assert window.document.playhead == 15


def test_a_locked_track_and_a_playhead_beyond_the_way_are_said(window, lanes):
    said = []
    window.document.problem.connect(said.append)
    window.document.seek(60)
    assert not command("inner-add").when(window)
    double(window, lanes, 45)
    assert "between the start and the end" in said[-1]
    window.document.seek(15)
    window.document.select("big")
    window.run("lock-track")
    before = window.document.project
    double(window, lanes, 10)
    assert window.document.project == before


def test_keys_of_clips_and_of_moves_are_not_selected_together(window, lanes):
    double(window, lanes, 10)
    assert window.document.inner
    window.sheet.open_page("Transform")
    QTest.mouseClick(window.sheet.page("Transform").pips.of("transform.y"), LEFT)
    window.run("keys-all")
    assert len(window.document.inner) == 3
    lanes.set_mode("animated")
    window.run("keys-all")
    assert window.document.keys
    assert not window.document.inner
    window.document.inner.set([("big", "m", 0, 1)])
    assert not window.document.keys


def test_the_name_of_a_lane_selects_its_keys_and_a_band_those_within(window, lanes):
    double(window, lanes, 10)
    lane = lane_of(lanes)
    window.document.inner.clear()
    QTest.mouseDClick(window.timeline.canvas, LEFT, NONE, QPoint(40, lane.top + 12))
    assert len(window.document.inner) == 3
    canvas = window.timeline.canvas
    pull(canvas, QPoint(HEADER + 40, lane.top + 2), QPoint(HEADER + 140, lane.bottom - 2))
    assert list(window.document.inner) == [("big", "m", 0, 1)]
