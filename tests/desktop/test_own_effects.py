"""Effects as cards of the shelf, and moves put back as their cards have them."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

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
