"""Keys in lanes under a clip: by mouse and keys, each step undone again."""

import pytest
from gestures import ALT, CTRL, LEFT, NONE, SHIFT, drag, press, pull, row_of
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtTest import QTest
from test_text_page import type_into

from rovix.desktop.dialogs.curve_picker import CurvePicker
from rovix.desktop.timeline.clip_painter import opener_box
from rovix.desktop.timeline.lanes.painter import header_boxes
from rovix.desktop.timeline.lanes.tips import tip
from rovix.desktop.timeline.scale import HEADER, Scale
from rovix.edit import clip_by_id
from rovix.edit.address import put_held
from rovix.edit.tree import replace, replace_clip
from rovix.model import ColourKey, ColourKeys, Key, Keys
from rovix.motion import describe

K = Qt.Key


@pytest.fixture
def lanes(window):
    window.document.select("big")
    canvas = window.timeline.canvas
    canvas.setFixedHeight(420)
    canvas.set_scale(Scale(8.0, 0.0))
    canvas.lanes.toggle("big")
    QTest.qWait(5)
    return canvas.lanes


def keyed(window, address="transform.y", *triples):
    """Give a channel keys (frame, value, curve)."""
    made = Keys(id="k", keys=tuple(Key(frame=f, value=v, curve=c) for f, v, c in triples))
    window.document.do("Key", lambda p: put_held(p, "big", {address: made}))
    return made


def held(window, name="y"):
    return getattr(clip_by_id(window.document.project, "big").transform, name)


def frames(window, name="y"):
    return [key.frame for key in held(window, name).keys]


def lane_of(lanes, address="transform.y"):
    return next(lane for lane in lanes.shown() if lane.address == address)


def key_point(lanes, frame, address="transform.y") -> QPoint:
    curve = lanes.curve(lane_of(lanes, address))
    return curve.point(next(key for key in curve.keys if key.frame == frame)).toPoint()


def across(window, frames, down=0):
    return QPoint(round(frames * window.timeline.canvas.scale.px), down)


def undone(window, before):
    window.document.undo()
    assert window.document.project == before


def test_the_fly_through_is_keyed_from_nothing(window, lanes):
    """Recipe 2: from just below the frame to rest in 0.3 s, a slow drift up, a pull back, out at the top."""
    window.document.do("No moves", lambda p: replace_clip(p, "big", lambda c: replace(c, moves=())))
    page = window.sheet.page("Transform")
    window.sheet.open_page("Transform")
    QTest.mouseClick(page.pips.of("transform.y"), LEFT)
    for frame, value in ((0, 250), (9, 0), (60, -18), (66, -12), (79, -260)):
        window.document.seek(frame)
        type_into(page._fields["y"], str(value))
    assert frames(window) == [0, 9, 60, 66, 79]
    # The curves by the menu, as an editor would: land softly, drift evenly, leave ever faster.
    canvas = window.timeline.canvas
    for frame, curve in ((0, "cubic-out"), (60, "sine-in-out"), (66, "cubic-in")):
        QTest.mouseClick(canvas, LEFT, NONE, key_point(lanes, frame))
        picker = window.pick_curve()
        picker.cards.cards[curve].taken.emit(curve)
    assert [key.curve for key in held(window).keys] == [
        "cubic-out",
        "linear",
        "sine-in-out",
        "cubic-in",
        "linear",
    ]
    project = window.document.project
    low = describe(project, 0)["layers"][1]
    assert low["bounds"][1] > 180
    drift = [describe(project, frame)["layers"][1]["pieces"][0]["y"] for frame in (9, 34, 60, 66, 79)]
    assert drift[0] > drift[1] > drift[2] < drift[3] > drift[4]


def test_keys_are_selected_by_click_band_lane_and_frame(window, lanes):
    keyed(window, "transform.y", (10, 0.0, "linear"), (30, 50.0, "linear"), (50, 20.0, "linear"))
    keyed(window, "transform.rotation_z", (10, 0.0, "linear"), (40, 30.0, "linear"))
    canvas, keys = window.timeline.canvas, window.document.keys
    QTest.mouseClick(canvas, LEFT, NONE, key_point(lanes, 30))
    assert list(keys) == [("big", "transform.y", 30)]
    QTest.mouseClick(canvas, LEFT, CTRL, key_point(lanes, 10, "transform.rotation_z"))
    assert len(keys) == 2
    QTest.mouseClick(canvas, LEFT, CTRL, key_point(lanes, 30))
    assert list(keys) == [("big", "transform.rotation_z", 10)]
    low = lane_of(lanes, "transform.rotation_z")
    start = QPoint(round(canvas.scale.x(4)), lane_of(lanes).top + 2)
    drag(canvas, start, QPoint(round(canvas.scale.x(34)), low.bottom - 2))
    assert {spot[1:] for spot in keys} == {
        ("transform.y", 10),
        ("transform.y", 30),
        ("transform.rotation_z", 10),
    }
    QTest.mouseDClick(canvas, LEFT, NONE, QPoint(40, low.top + 20))
    assert {spot[1:] for spot in keys} == {("transform.rotation_z", 10), ("transform.rotation_z", 40)}
    QTest.mouseDClick(canvas, LEFT, NONE, key_point(lanes, 10))
    assert {spot[1:] for spot in keys} == {("transform.y", 10), ("transform.rotation_z", 10)}
    window.run("keys-all")
    assert len(keys) == 5
    window.document.select("small")
    assert not keys


def test_a_key_is_dragged_in_time_and_value_and_catches(window, lanes):
    keyed(window, "transform.y", (10, 0.0, "linear"), (30, 100.0, "linear"), (60, 0.0, "linear"))
    before = window.document.project
    pull(window.timeline.canvas, key_point(lanes, 30), key_point(lanes, 30) + across(window, 5, 12))
    key = held(window).keys[1]
    assert key.frame == 35
    assert key.value < 100
    assert window.document.history.undo_title == "Move a key"
    undone(window, before)
    # Shift keeps to one axis.
    pull(window.timeline.canvas, key_point(lanes, 30), key_point(lanes, 30) + across(window, 6, 10), SHIFT)
    assert (held(window).keys[1].frame, held(window).keys[1].value) == (36, 100.0)
    undone(window, before)
    # It catches on the playhead, and never meets another key.
    window.document.seek(44)
    pull(window.timeline.canvas, key_point(lanes, 30), key_point(lanes, 30) + across(window, 13.2))
    assert frames(window) == [10, 44, 60]
    undone(window, before)
    pull(window.timeline.canvas, key_point(lanes, 30), key_point(lanes, 30) + across(window, 30))
    assert len(frames(window)) == 3
    assert ("big", "transform.y", frames(window)[1]) in window.document.keys


def test_escape_puts_a_dragged_key_back(window, lanes):
    keyed(window, "transform.y", (10, 0.0, "linear"), (30, 100.0, "linear"))
    before, canvas = window.document.project, window.timeline.canvas
    start = key_point(lanes, 30)
    QTest.mousePress(canvas, LEFT, NONE, start)
    QTest.mouseMove(canvas, start + QPoint(40, 0))
    assert frames(window) == [10, 35]
    QTest.keyClick(canvas, K.Key_Escape)
    QTest.mouseRelease(canvas, LEFT, NONE, start)
    assert window.document.project == before
    assert list(window.document.keys) == [("big", "transform.y", 30)]


def test_two_keys_are_stretched_by_the_brackets_end(window, lanes):
    keyed(
        window,
        "transform.y",
        (10, 0.0, "linear"),
        (20, 50.0, "linear"),
        (30, 100.0, "linear"),
        (60, 0.0, "hold"),
    )
    window.document.keys.set([("big", "transform.y", frame) for frame in (10, 20, 30)])
    before, canvas = window.document.project, window.timeline.canvas
    head = lane_of(lanes, None)
    end = QPoint(round(canvas.scale.x(30) + canvas.scale.px / 2), head.top + head.height // 2)
    pull(window.timeline.canvas, end, end + across(window, 10))
    assert frames(window) == [10, 25, 40, 60]
    assert {spot[2] for spot in window.document.keys} == {10, 25, 40}
    undone(window, before)
    window.document.keys.set([("big", "transform.y", frame) for frame in (10, 20, 30)])
    window.ask_number = lambda *_: 150
    window.run("keys-stretch")
    assert frames(window) == [10, 25, 40, 60]


def test_an_entrance_is_copied_and_reversed_for_the_exit(window, lanes):
    keyed(window, "transform.y", (0, 200.0, "cubic-out"), (12, 0.0, "linear"))
    window.document.keys.set([("big", "transform.y", 0), ("big", "transform.y", 12)])
    window.run("copy")
    window.document.seek(67)
    before = window.document.project
    window.run("keys-paste-back")
    assert [(k.frame, k.value, k.curve) for k in held(window).keys[2:]] == [
        (67, 0.0, "cubic-in"), (79, 200.0, "linear"),
    ]  # fmt: skip
    assert len(window.document.keys) == 2
    undone(window, before)
    window.run("paste")
    assert frames(window) == [0, 12, 67, 79]
    window.run("keys-reverse")
    # What was pasted is selected, so it is what turns round.
    assert [k.value for k in held(window).keys] == [200.0, 0.0, 0.0, 200.0]


def test_a_handle_is_dragged_with_its_modifiers(window, lanes):
    keyed(window, "transform.y", (0, 0.0, "linear"), (30, 100.0, "linear"), (60, 0.0, "linear"))
    window.document.keys.set([("big", "transform.y", frame) for frame in (0, 30)])
    window.run("curve-tangents")
    assert [key.curve for key in held(window).keys] == ["tangents", "tangents", "linear"]
    assert not held(window).keys[1].joined
    window.document.keys.set([("big", "transform.y", 30)])
    window.run("tangents-join")
    before = window.document.project
    curve = lanes.curve(lane_of(lanes))
    tip = next(end for handle, _, end in curve.handles() if handle.side == "after").toPoint()
    pull(window.timeline.canvas, tip, tip + QPoint(30, -8))
    key = held(window).keys[1]
    assert key.after[0] > before_after(before)[0]
    # Joined tangents are one line through the key.
    assert key.before[1] / key.before[0] == pytest.approx(-key.after[1] / key.after[0])
    assert window.document.history.undo_title == "Shape a curve"
    undone(window, before)
    pull(window.timeline.canvas, tip, tip + QPoint(30, -8), SHIFT)
    key = held(window).keys[1]
    assert key.after[1] / key.after[0] == pytest.approx(before_after(before)[1] / before_after(before)[0])
    undone(window, before)
    pull(window.timeline.canvas, tip, tip + QPoint(5, -14), ALT)
    assert not held(window).keys[1].joined
    assert held(window).keys[1].before == clip_by_id(before, "big").transform.y.keys[1].before
    undone(window, before)
    # A handle never goes past its key, however far the hand does.
    pull(window.timeline.canvas, tip, tip - QPoint(400, 0))
    assert held(window).keys[1].after[0] == 0


def before_after(project):
    return clip_by_id(project, "big").transform.y.keys[1].after


def test_what_is_selected_is_nudged_removed_and_evened_out(window, lanes):
    keyed(window, "transform.y", (0, 0.0, "linear"), (20, 100.0, "linear"), (60, 110.0, "linear"))
    window.document.keys.set([("big", "transform.y", 20)])
    press(window, K.Key_Right, CTRL)
    assert frames(window) == [0, 21, 60]
    assert list(window.document.keys) == [("big", "transform.y", 21)]
    before = window.document.project
    assert "21" in tip(lanes, lane_of(lanes), QPointF(key_point(lanes, 21)))
    assert "speed jumps at frame 21" in tip(lanes, lane_of(lanes), QPointF(key_point(lanes, 21)))
    window.run("keys-even")
    assert "speed jumps" not in tip(lanes, lane_of(lanes), QPointF(key_point(lanes, 21)))
    undone(window, before)
    window.document.keys.set([("big", "transform.y", 21)])
    press(window, K.Key_Delete)
    assert frames(window) == [0, 60]
    # With no key selected Delete is about clips again.
    press(window, K.Key_Delete)
    assert clip_by_id(window.document.project, "big") is None


def test_the_header_sets_keys_and_goes_to_them(window, lanes):
    keyed(window, "transform.y", (10, 0.0, "linear"), (30, 100.0, "linear"))
    canvas, lane = window.timeline.canvas, lane_of(lanes)
    boxes = header_boxes(lane)
    QTest.mouseClick(canvas, LEFT, NONE, boxes["next"].center().toPoint())
    assert window.document.playhead == 10
    QTest.mouseClick(canvas, LEFT, NONE, boxes["next"].center().toPoint())
    assert window.document.playhead == 30
    QTest.mouseClick(canvas, LEFT, NONE, boxes["previous"].center().toPoint())
    assert window.document.playhead == 10
    window.document.seek(20)
    QTest.mouseClick(canvas, LEFT, NONE, boxes["ring"].center().toPoint())
    assert [(k.frame, k.value) for k in held(window).keys] == [(10, 0.0), (20, 50.0), (30, 100.0)]
    QTest.mouseClick(canvas, LEFT, NONE, boxes["ring"].center().toPoint())
    assert frames(window) == [10, 30]
    QTest.mouseDClick(canvas, LEFT, NONE, QPoint(round(canvas.scale.x(15) + 4), lane.top + 30))
    assert frames(window) == [10, 15, 30]


def test_lanes_show_all_pinned_or_animated_channels(window, lanes):
    keyed(window, "transform.y", (10, 0.0, "linear"), (30, 100.0, "linear"))
    assert [lane.address for lane in lanes.shown()] == [None, "transform.y"]
    lanes.set_mode("all")
    addresses = [lane.address for lane in lanes.shown()]
    assert {"transform.x", "transform.opacity", "text.tracking"} < set(addresses)
    lanes._pin("transform.opacity")
    lanes.set_mode("pinned")
    assert [lane.address for lane in lanes.shown()] == [None, "transform.opacity"]
    lanes.set_mode("animated")
    lane, canvas = lane_of(lanes), window.timeline.canvas
    drag(canvas, QPoint(30, lane.bottom), QPoint(30, lane.bottom + 50))
    assert lane_of(lanes).height == lane.height + 50
    lanes.toggle("small")
    assert {lane.clip for lane in lanes.shown()} == {"big", "small"}
    window.run("lanes")
    assert {lane.clip for lane in lanes.shown()} == {"small"}


def test_colour_lanes_are_strips_and_their_keys_move(window, lanes):
    clip = clip_by_id(window.document.project, "big")
    address = f"look.parts.{clip.look.parts[0].id}.paint.colour"
    keys = ColourKeys(
        id="c", keys=(ColourKey(frame=5, value="#ff0000"), ColourKey(frame=40, value="#00ff00"))
    )
    window.document.do("Key", lambda p: put_held(p, "big", {address: keys}))
    pull(
        window.timeline.canvas,
        key_point(lanes, 40, address),
        key_point(lanes, 40, address) + across(window, 10, 9),
    )
    parts = clip_by_id(window.document.project, "big").look.parts
    assert [key.frame for key in parts[0].paint.colour.keys] == [5, 50]
    assert window.timeline.canvas.grab().width() > HEADER


def test_every_kind_of_lane_is_painted(window, lanes):
    keyed(
        window,
        "transform.y",
        (0, 0.0, "tangents"),
        (20, 100.0, "hold"),
        (60, 110.0, "spring(mass 1 stiffness 170 damping 9)"),
        (79, 0.0, "linear"),
    )
    window.run("path-make")
    window.document.undo()
    lanes.set_mode("all")
    lanes.toggle_speed()
    window.document.keys.set([("big", "transform.y", 0), ("big", "transform.y", 20)])
    one = window.timeline.canvas.grab().toImage()
    window.document.keys.clear()
    assert window.timeline.canvas.grab().toImage() != one


def test_a_move_opens_into_lanes_and_is_shaped_there(window, lanes):
    lanes.set_mode("moves")
    clip = clip_by_id(window.document.project, "big")
    pop, fade = clip.moves
    # A channel each: the pop's scale by inner keys, the exit's fade by one amount.
    addresses = [lane.address for lane in lanes.shown() if lane.address]
    assert addresses == [f"moves.{pop.id}.0", f"moves.{fade.id}.0"]
    before = window.document.project
    start = lanes.curve(lane_of(lanes, addresses[0]))
    middle = start.point(start.keys[1]).toPoint()
    pull(window.timeline.canvas, middle, middle - across(window, 1, 14))
    inner = clip_by_id(window.document.project, "big").moves[0].channels[0].keys[1]
    assert inner.amount.value > 1.07
    assert inner.at < 2 / 3
    # The picture went to the key.
    assert window.document.playhead == round(clip.start + float(start.keys[1].frame))
    assert window.document.history.undo_title == "Shape pop: scale"
    undone(window, before)
    # Rest has no other value than rest.
    rest = start.point(start.keys[2]).toPoint()
    pull(window.timeline.canvas, rest, rest + QPoint(0, 20))
    assert clip_by_id(window.document.project, "big").moves[0].channels[0].keys[2].amount.value == 1.0
    out = lanes.curve(lane_of(lanes, addresses[1]))
    away = out.point(out.keys[1]).toPoint()
    pull(window.timeline.canvas, away, away - QPoint(0, 12))
    assert 0 < clip_by_id(window.document.project, "big").moves[1].channels[0].amount.value < 1
    lanes.pick_way(lane_of(lanes, addresses[1]), out.point(out.keys[0]) + QPointF(20, 3))
    picker = window.findChildren(CurvePicker)[-1]
    picker.show_curve("expo-in")
    picker._take("expo-in")
    assert clip_by_id(window.document.project, "big").moves[1].channels[0].curve == "expo-in"
    assert "Pop" in tip(
        lanes, lane_of(lanes, addresses[0]), QPointF(20, lane_of(lanes, addresses[0]).top + 9)
    )
    lanes.toggle("small")
    assert window.timeline.canvas.grab().width() > HEADER


def test_a_selected_clip_is_opened_by_its_mark(window):
    window.document.select("big")
    canvas = window.timeline.canvas
    canvas.set_scale(Scale(8.0, 0.0))
    row = row_of(window, "big")
    box = opener_box(window.document.clip, canvas._clip_box(0, 80, row), window.document.rate)
    point = box.center().toPoint()
    assert "lanes" in canvas._tip(QPointF(point))
    QTest.mouseClick(canvas, LEFT, NONE, point)
    assert canvas.lanes.state.open == ["big"]
    QTest.mouseClick(canvas, LEFT, NONE, point)
    assert canvas.lanes.state.open == []
