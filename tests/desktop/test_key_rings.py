"""Keys by the sheet's rings, the menu and keys."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from test_words_page import type_into

from rovix.edit import clip_by_id

LEFT = Qt.MouseButton.LeftButton


def keys(window, name="x"):
    return [
        (key.frame, key.value) for key in getattr(clip_by_id(window.document.project, "big").place, name).keys
    ]


@pytest.fixture
def page(window):
    window.document.select("big")
    window.sheet.open_page("Place")
    window.document.seek(10)
    return window.sheet.page("Place")


def test_a_fly_in_is_keyed_from_nothing(window, page):
    type_into(page._fields["y"], "300")
    QTest.mouseClick(page.rings.of("place.x"), LEFT)
    assert keys(window, "y") == [(10, 300.0)]
    window.document.seek(25)
    type_into(page._fields["y"], "0")
    assert keys(window, "y") == [(10, 300.0), (25, 0.0)]
    window.run("key-previous")
    assert window.document.playhead == 10
    assert not page._ways.isHidden()
    page._way.chosen.emit("spring(1, 170, 14)")
    assert clip_by_id(window.document.project, "big").place.y.keys[0].curve == "spring(1, 170, 14)"
    assert window.document.history.undo_title == "Go on by spring(1, 170, 14)"
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
    ring = page.rings.of("place.turn")
    ring.setFocus()
    QTest.keyClick(ring, Qt.Key.Key_Space)
    assert keys(window, "turn") == [(10, 0.0)]
    QTest.keyClick(ring, Qt.Key.Key_Space)
    assert clip_by_id(window.document.project, "big").place.turn == 0.0


def test_without_keys_the_way_is_said(window, page):
    said = []
    window.document.problem.connect(said.append)
    window.run("key-add")
    assert "click the ring" in said[-1]
    window.document.seek(85)
    window.run("key-add")
    assert "inside the layer" in said[-1]
    page._way.refused.emit("'bounce(3)' is no easing")
    assert "bounce" in said[-1]
