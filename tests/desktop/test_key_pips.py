"""Keys by the sheet's rings, the menu and keys."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from test_text_page import type_into

from rovix.desktop.commands.key_steps import SNAP_TO_KEYS
from rovix.edit import clip_by_id
from rovix.edit.keys import set_keys_at
from rovix.edit.snapping import snap_frames

LEFT = Qt.MouseButton.LeftButton


def keys(window, name="x"):
    return [
        (key.frame, key.value)
        for key in getattr(clip_by_id(window.document.project, "big").transform, name).keys
    ]


@pytest.fixture
def page(window):
    window.document.select("big")
    window.sheet.open_page("Transform")
    window.document.seek(10)
    return window.sheet.page("Transform")


def test_a_fly_in_is_keyed_from_nothing(window, page):
    type_into(page._fields["y"], "300")
    QTest.mouseClick(page.pips.of("transform.x"), LEFT)
    assert keys(window, "y") == [(10, 300.0)]
    window.document.seek(25)
    type_into(page._fields["y"], "0")
    assert keys(window, "y") == [(10, 300.0), (25, 0.0)]
    window.run("key-previous")
    assert window.document.playhead == 10
    assert not page._ways.isHidden()
    page._way.chosen.emit("spring(mass 1 stiffness 170 damping 14)")
    assert (
        clip_by_id(window.document.project, "big").transform.y.keys[0].curve
        == "spring(mass 1 stiffness 170 damping 14)"
    )
    assert window.document.history.undo_title == "Go on by spring(mass 1 stiffness 170 damping 14)"
    window.run("key-next")
    assert window.document.playhead == 25
    window.document.seek(40)
    window.run("key-add")
    assert [frame for frame, _ in keys(window, "y")] == [10, 25, 40]
    window.run("key-add")
    assert [frame for frame, _ in keys(window, "y")] == [10, 25]
    window.ask_number = lambda *_: 200
    window.run("keys-stretch")
    assert [frame for frame, _ in keys(window, "y")] == [10, 40]
    window.run("keys-reverse")
    assert [value for _, value in keys(window, "y")] == [0.0, 300.0]
    window.run("keys-later")
    assert [frame for frame, _ in keys(window, "y")] == [11, 41]
    window.run("keys-mirror")
    assert [value for _, value in keys(window, "y")] == [0.0, -300.0]
    window.ask_number = lambda *_: 2
    window.run("keys-repeat")
    assert [frame for frame, _ in keys(window, "y")] == [11, 41, 43, 73]
    for _ in range(5):
        window.run("undo")
    assert keys(window, "y") == [(10, 300.0), (25, 0.0)]


def test_rings_set_and_take_keys_also_by_space(window, page):
    pip = page.pips.of("transform.rotation_z")
    pip.setFocus()
    QTest.keyClick(pip, Qt.Key.Key_Space)
    assert keys(window, "rotation_z") == [(10, 0.0)]
    QTest.keyClick(pip, Qt.Key.Key_Space)
    assert clip_by_id(window.document.project, "big").transform.rotation_z == 0.0


def test_without_keys_the_way_is_said(window, page):
    said = []
    window.document.problem.connect(said.append)
    window.run("key-add")
    assert "click the pip" in said[-1]
    window.document.seek(85)
    window.run("key-add")
    assert "inside the layer" in said[-1]
    page._way.refused.emit("'bounce(3)' is no easing")
    assert "bounce" in said[-1]


def place(window):
    return clip_by_id(window.document.project, "big").transform


def test_linked_scales_keep_their_proportion(window, page):
    type_into(page._fields["scale_y"], "50")
    assert (place(window).scale_x, place(window).scale_y) == (0.5, 0.5)
    page._linked.setChecked(False)
    type_into(page._fields["scale_x"], "80")
    assert (place(window).scale_x, place(window).scale_y) == (0.8, 0.5)
    page._linked.setChecked(True)
    type_into(page._fields["scale_x"], "160")
    assert (place(window).scale_x, place(window).scale_y) == (1.6, 1.0)


def test_rotation_is_one_field_of_degrees_past_a_turn_too(window, page):
    field = page._fields["rotation_z"]
    type_into(field, "2turn + 40deg")
    assert place(window).rotation_z == 760
    assert field.text() == "760.0"
    type_into(field, "3px")
    assert place(window).rotation_z == 760
    assert "'px' is no unit of this field" in field.toolTip()


def test_one_value_is_reset_by_delete_and_a_row_by_its_name(window, page):
    type_into(page._fields["x"], "120")
    type_into(page._fields["y"], "80")
    page._fields["x"].setFocus()
    QTest.keyClick(page._fields["x"], Qt.Key.Key_Delete)
    assert (place(window).x, place(window).y) == (0.0, 80.0)
    assert window.document.history.undo_title == "Reset the position X"
    window.run("transform-reset")
    assert place(window).y == 0.0


def test_a_position_on_a_path_is_typed_where_it_is(window, page):
    window.run("path-make")
    window.document.seek(0)
    type_into(page._fields["x"], "-200")
    assert [(key.frame, key.x) for key in place(window).path.keys] == [(0, -200.0), (79, 400.0)]
    assert place(window).x == 0.0
    assert page._fields["x"].text() == "−200"
    window.document.seek(40)
    type_into(page._fields["y"], "90")
    assert [(key.frame, key.y) for key in place(window).path.keys] == [(0, 0.0), (40, 90.0), (79, 0.0)]


def test_steps_from_key_to_key_go_by_the_selected_layers_or_by_all(window):
    document = window.document
    document.do("Keys", lambda p: set_keys_at(p, "big", 10, ["transform.y"], True))
    document.do("Keys", lambda p: set_keys_at(p, "small", 5, ["transform.x"], True))
    small = clip_by_id(document.project, "small").start + 5
    document.select("big")
    document.seek(0)
    window.run("key-next")
    assert document.playhead == 10
    window.run("key-next")
    assert document.playhead == 10
    document.select(None)
    assert not window.action("key-next").isEnabled()
    window.run("key-of-all")
    window.run("key-next")
    assert document.playhead == small
    window.run("key-previous")
    assert document.playhead == 10
    window.run("key-of-all")
    assert not window.action("key-of-all").isChecked()


def test_catching_on_keys_is_turned_off_and_remembered(window):
    assert window.timeline.canvas.snaps_to_keys
    window.run("key-snap")
    assert not window.timeline.canvas.snaps_to_keys
    assert window.settings.value(SNAP_TO_KEYS, True, bool) is False
    marks = snap_frames(window.document.project, 0, keys=False)
    assert set(marks) <= set(snap_frames(window.document.project, 0))
