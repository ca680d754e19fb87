"""Looks by mouse and keys: parts, their order, gradients, and the shelf's looks."""

import json

import pytest
from gestures import drag
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtTest import QTest
from test_text_page import type_into

from rovix.edit import clip_by_id
from rovix.model import Linear

LEFT = Qt.MouseButton.LeftButton


def look(window, identity="big"):
    return clip_by_id(window.document.project, identity).look


def kinds(window):
    return [type(part).__struct_config__.tag for part in look(window).parts]


@pytest.fixture
def page(window):
    window.document.select("big")
    window.document.seek(40)
    window.sheet.open_page("Look")
    return window.sheet.page("Look")


def add(page, name):
    (action,) = [action for action in page.menu.actions() if action.text() == name]
    action.trigger()


def test_a_gradient_and_outlines_are_made_by_hand(window, page):
    paint = page.card("fill").fields._paint
    QTest.mouseClick(paint._kind._buttons["linear"], LEFT)
    type_into(paint._angle, "30")
    QTest.mouseClick(paint._stops._add, LEFT)
    type_into(paint._stops._rows[1][1], "25")
    paint._stops._rows[1][0].chosen.emit("#00ff00")
    QTest.mouseClick(page.card("fill").fields._choices["over"]._buttons["letter"], LEFT)
    fill = look(window).fill
    assert isinstance(fill.paint, Linear)
    assert (fill.paint.angle, fill.over) == (30.0, "letter")
    assert [(stop.at, stop.colour) for stop in fill.paint.stops][1] == (0.25, "#00ff00")
    add(page, "Outline")
    add(page, "Outline")
    card = page.card("outline", 1)
    type_into(card.fields._numbers["width"], "9*2")
    QTest.mouseClick(card.fields._choices["join"]._buttons["miter"], LEFT)
    assert [(o.width, o.join) for o in look(window).outlines] == [(6.0, "round"), (18.0, "miter")]
    QTest.mouseClick(card.fields._choices["side"]._buttons["inside"], LEFT)
    assert kinds(window) == ["outline", "fill", "outline"], "inside it goes above the fill"
    for _ in range(9):
        window.run("undo")
    assert kinds(window) == ["fill"]


def test_every_part_can_be_added_switched_and_taken_away(window, page):
    for name in ("Shadow", "Long shadow", "Glow", "Box", "Fill"):
        add(page, name)
    assert kinds(window) == ["fill", "fill", "glow", "shadow", "long-shadow", "box"]
    head = page.card("glow").head
    QTest.mouseClick(head.eye, LEFT)
    assert [part.shown for part in look(window).parts] == [True, True, False, True, True, True]
    QTest.mouseClick(head.remove, LEFT)
    assert "glow" not in kinds(window)
    page.card("box").head.setFocus()
    QTest.keyClick(page.card("box").head, Qt.Key.Key_Delete)
    assert "box" not in kinds(window)
    assert window.document.clip is not None, "Delete took the part, not the clip"


def test_a_shadow_is_set_by_offset_or_by_angle_and_distance(window, page):
    add(page, "Shadow")
    numbers = page.card("shadow").fields._numbers
    type_into(numbers["x"], "0")
    type_into(numbers["y"], "10")
    assert numbers["angle_"].value == pytest.approx(90)
    type_into(numbers["angle_"], "180")
    shadow = look(window).parts[1]
    assert (shadow.x, shadow.y) == (pytest.approx(-10), pytest.approx(0))
    type_into(numbers["distance_"], "25")
    assert look(window).parts[1].x == pytest.approx(-25)


def test_parts_are_dragged_into_another_order(window, page):
    for name in ("Shadow", "Box"):
        add(page, name)
    for card in list(page._cards):
        if page._is_open(page.item_of(page.clip, card.identity)):
            QTest.mouseClick(card.head, LEFT, pos=QPoint(80, 10))
    QTest.qWait(20)
    head = page.card("box").head
    first = page.card("fill")
    to = head.mapFromGlobal(first.mapToGlobal(QPoint(60, 2)))
    drag(head, QPoint(60, 10), to)
    assert kinds(window) == ["box", "fill", "shadow"]
    assert window.document.history.undo_title == "Change the order of the look"
    page.card("box").head.setFocus()
    QTest.keyClick(page.card("box").head, Qt.Key.Key_Down, Qt.KeyboardModifier.AltModifier)
    assert kinds(window) == ["fill", "box", "shadow"]


def test_heads_fold_and_open_by_keys(window, page):
    card = page.card("fill")
    card.head.setFocus()
    assert not card.fields.isHidden()
    QTest.keyClick(card.head, Qt.Key.Key_Space)
    assert card.fields.isHidden()
    QTest.keyClick(card.head, Qt.Key.Key_Return)
    assert not card.fields.isHidden()


def test_looks_are_copied_pasted_and_kept(window, page, tmp_path):
    add(page, "Glow")
    window.run("copy-look")
    assert json.loads(QGuiApplication.clipboard().text())["format"] == "rovix-look"
    window.document.select("small")
    window.run("paste-look")
    small, big = look(window, "small"), look(window)
    assert [type(p) for p in small.parts] == [type(p) for p in big.parts]
    ratio = (
        clip_by_id(window.document.project, "small").text.size
        / clip_by_id(window.document.project, "big").text.size
    )
    assert small.parts[1].size == pytest.approx(big.parts[1].size * ratio), "px go with the words' size"
    QGuiApplication.clipboard().setText("nothing of the kind")
    window.run("paste-look")
    assert look(window, "small") == small


def test_the_shelf_tries_on_takes_on_keeps_renames_and_removes_looks(window, page):
    shelf = window.shelf
    window.run("show-looks")
    names = shelf.deck.names()
    number = names.index("Lit window")
    shelf._cards[number].entered.emit()
    assert kinds(window).count("glow") == 3
    shelf._cards[number].left.emit()
    assert kinds(window) == ["fill"], "leaving drops it"
    QTest.mouseClick(shelf._cards[number], LEFT)
    assert kinds(window).count("glow") == 3
    assert shelf._cards[number]._chosen
    assert window.document.history.undo_title == "Apply Lit window"
    shelf.keeping.ask_name = lambda *_: "My window"
    shelf.keeping.keep()
    assert "My window" in shelf.deck.names()
    window.ask.answers = ["yes"]
    shelf.keeping.keep()
    assert window.ask.asked[-1] == "Replace the look?"
    shelf.keeping.ask_name = lambda *_: "Another window"
    shelf.keeping.rename(shelf.deck.names().index("My window"))
    assert "Another window" in shelf.deck.names()
    window.ask.answers = ["remove"]
    shelf.keeping.remove(shelf.deck.names().index("Another window"))
    assert shelf.deck.names() == names
    window.document.select("ground")
    assert not shelf._cards[0].isEnabled()
