"""Effects as cards of the shelf, and moves put back as their cards have them."""

from __future__ import annotations

import pytest
from gestures import NONE, at
from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QMouseEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from rovix.edit import change_move, clip_by_id, move_of
from rovix.model.effects import EFFECTS

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def window(make_test_window):
    made = make_test_window()
    made.document.select("big", "small")
    made.run("show-effects")
    return made


def effects(window, identity):
    return [type(e).facts.name for e in clip_by_id(window.document.project, identity).effects]


def test_a_card_adds_its_effect_to_all_selected_layers_as_one_step(window):
    assert window.shelf.deck.names() == [kind.facts.name for kind in EFFECTS.values()]
    QTest.mouseClick(window.shelf.card("Blur"), LEFT)
    QTest.mouseClick(window.shelf.card("Glow"), LEFT)
    assert sorted(effects(window, "big")) == sorted(effects(window, "small")) == ["Blur", "Glow"]
    assert window.document.history.undo_title == "Add Glow, 2 clips"
    window.document.undo()
    assert effects(window, "big") == ["Blur"]


def test_hovering_a_card_shows_it_and_leaving_restores(window):
    window.shelf.try_on(window.shelf.deck.names().index("Outline"))
    assert effects(window, "small") == ["Outline"]
    window.shelf.stop_trying()
    assert effects(window, "small") == []
    assert window.document.history.undo_title is None


def test_a_layers_effects_are_kept_and_put_on_others(window, make_test_window):
    window.shelf.apply_move(window.shelf.deck.names().index("Blur"))
    window.document.select("small")
    window.shelf.keeping.ask_name = lambda *_: "Haze"
    QTest.mouseClick(window.shelf.keeping._keep, LEFT)
    assert "Haze" in window.shelf.deck.names()
    window.shut_down()
    again = make_test_window()
    again.document.select("big")
    again.run("show-effects")
    QTest.mouseClick(again.shelf.card("Haze"), LEFT)
    assert effects(again, "big") == ["Blur"]


def test_a_layer_without_effects_has_nothing_to_keep(window):
    window.document.select("ground")
    assert not window.shelf.keeping._keep.isEnabled()


def test_a_move_goes_back_to_what_its_card_has_on_all_that_have_one(window):
    document = window.document
    document.select("big")
    document.tune("entrance")
    before = move_of(document.clip, "entrance")
    document.do("Tune", lambda p: change_move(p, "big", "entrance", length=1.4, pieces="letters"))
    window.run("reset-move")
    after = move_of(document.clip, "entrance")
    assert (after.length, after.pieces, after.id) == (before.length, before.pieces, before.id)
    assert document.history.undo_title == "Reset Pop"
    document.do("Rename", lambda p: change_move(p, "big", "entrance", name="Mine alone"))
    window.refresh_commands()
    assert not window.action("reset-move").isEnabled()


def carry(window, head, point):
    """Drag a head out of the sheet to a point of the screen."""
    start = QPointF(head.rect().center())
    where = QPointF(head.mapFromGlobal(point))
    left, none = Qt.MouseButton.LeftButton, Qt.MouseButton.NoButton
    for kind, spot, button, buttons in (
        (QEvent.Type.MouseButtonPress, start, left, left), (QEvent.Type.MouseMove, where, none, left),
        (QEvent.Type.MouseButtonRelease, where, left, none),
    ):  # fmt: skip
        event = QMouseEvent(kind, spot, QPointF(head.mapToGlobal(spot.toPoint())), button, buttons, NONE)
        QApplication.sendEvent(head, event)


@pytest.mark.parametrize(("page", "kind"), [("Effects", "blur"), ("Look", "outline")])
def test_an_effect_or_a_part_is_dragged_onto_another_clip(window, page, kind):
    document, canvas = window.document, window.timeline.canvas
    document.select("small")
    window.sheet.open_page(page)
    cards = window.sheet.page(page)
    if page == "Effects":
        cards.add(kind)
    before = clip_by_id(document.project, "big")
    carry(window, cards.card(kind).head, canvas.mapToGlobal(at(window, "big", 5)))
    after = clip_by_id(document.project, "big")
    old, new = (c.effects if page == "Effects" else c.look.parts for c in (before, after))
    assert len(new) == len(old) + 1
    assert document.history.undo_title == f"Give the {kind}"
    assert document.selected == "small"
    document.undo()
    carry(window, cards.card(kind).head, canvas.mapToGlobal(QPoint(canvas.width() - 4, canvas.height() - 4)))
    carry(window, cards.card(kind).head, canvas.mapToGlobal(at(window, "ground", 5)))
    assert clip_by_id(document.project, "big") == before
