"""The shelf's cards: in groups that fold, taken off by their cross, played in the picture while hovered."""

from gestures import LEFT, clip
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from builders import project_of, title
from rovix.edit import move_of
from rovix.model import ShapeClip
from rovix.motion.families import FAMILIES
from waiting import wait_for


def laid_out(shelf):
    """Heads and cards in the order in which they stand."""
    grid = shelf._grid
    placed = sorted((grid.getItemPosition(n)[:2], grid.itemAt(n).widget()) for n in range(grid.count()))
    return [w.text() if hasattr(w, "text") else w._name for _, w in placed]


def test_cards_stand_in_groups_that_fold_and_stay_folded(window, make_test_window):
    shelf = window.shelf
    window.document.select("big")
    shelf.open_role("entrance")
    order = laid_out(shelf)
    heads = [name for name in order if name in FAMILIES]
    assert heads == [family for family in FAMILIES if family in heads]
    assert order[0] == "None"
    assert order.index("Calm") < order.index("Fade in") < order.index("Lively") < order.index("Stamp")
    assert shelf._heads["Written"].said == str(len(order) - order.index("Written") - 1)
    QTest.mouseClick(shelf._heads["Calm"], LEFT)
    assert "Fade in" not in laid_out(shelf)
    assert shelf.card("Fade in").isHidden()
    other = make_test_window()
    other.document.select("big")
    assert "Fade in" not in laid_out(other.shelf)
    shelf._search.setText("fade")
    assert "Fade in" in laid_out(shelf), "what is searched for is shown wherever it stands"
    assert not any(name in FAMILIES for name in laid_out(shelf))


def test_groups_that_fit_the_selection_come_first(make_test_window):
    window = make_test_window(project_of(ShapeClip(id="box", length=30), title("Kite", id="kite", length=30)))
    window.document.select("box")
    heads = [name for name in laid_out(window.shelf) if name in FAMILIES]
    assert heads[-2:] == ["Piece by piece", "Written"]
    assert heads[0] == "Calm"
    window.document.select("kite")
    assert [name for name in laid_out(window.shelf) if name in FAMILIES] == list(FAMILIES)


def test_the_applied_card_has_a_cross_that_takes_it_off_all_selected(window):
    shelf, document = window.shelf, window.document
    document.select("big", "small")
    shelf.open_role("entrance")
    QTest.mouseClick(shelf.card("Pop"), LEFT)
    card = shelf.card("Pop")
    assert card.has_cross
    assert not shelf.card("Wave").has_cross
    QTest.mouseClick(card, LEFT, pos=card.cross_box().center().toPoint())
    assert all(move_of(clip(window, name), "entrance") is None for name in ("big", "small"))
    assert document.history.undo_title == "Take the entrance off, 2 clips"
    assert not shelf.card("None").has_cross
    window.run("undo")
    card.setFocus()
    QTest.keyClick(card, Qt.Key.Key_Delete)
    assert move_of(clip(window, "small"), "entrance") is None
    assert clip(window, "small") is not None, "Delete took the move, not the clip"
    shelf.open_role("look")
    assert not any(card.has_cross for card in shelf._cards)


def test_a_hovered_card_plays_in_the_picture_and_leaving_restores_all(window):
    shelf, document = window.shelf, window.document
    document.select("small")
    document.seek(5)
    shelf.open_role("entrance")
    before = document.project
    number = shelf.deck.names().index("Wave")
    shelf._cards[number].entered.emit()
    assert not shelf.audition.playing, "not at once"
    assert wait_for(lambda: shelf.audition.playing, 3000)
    assert document.playing
    assert move_of(clip(window, "small"), "entrance").name == "Wave"
    assert wait_for(lambda: document.playhead > 20, 20_000), "over the clip's start"
    shelf._cards[number].left.emit()
    assert (document.playing, document.playhead) == (False, 5)
    assert document.project is before
    assert document.history.undo_title is None


def test_a_click_ends_what_plays_and_keeps_the_card(window):
    shelf, document = window.shelf, window.document
    document.select("small")
    document.seek(7)
    shelf.open_role("exit")
    number = shelf.deck.names().index("Drop away")
    shelf.try_on(number)
    assert wait_for(lambda: shelf.audition.playing, 3000)
    assert document.playhead >= 30, "an exit plays at the clip's end"
    QTest.mouseClick(shelf.card("Drop away"), LEFT)
    assert (document.playing, document.playhead) == (False, 7)
    assert move_of(clip(window, "small"), "exit").name == "Drop away"
    window.run("undo")
    assert document.history.undo_title is None


def test_cards_do_not_play_in_the_picture_where_that_is_off_or_something_plays(window):
    shelf, document = window.shelf, window.document
    document.select("small")
    shelf.open_role("entrance")
    window.run("audition")
    assert not window.action("audition").isChecked()
    shelf.try_on(3)
    assert not wait_for(lambda: shelf.audition.playing, 400)
    shelf.stop_trying()
    window.run("audition")
    window.run("play")
    shelf.try_on(3)
    assert not wait_for(lambda: shelf.audition.playing, 400)
    assert document.playing
    shelf.stop_trying()
    assert document.playing, "what played goes on"
    window.projector.stop()


def test_looks_are_shown_still_and_scrolling_ends_trying_on(window):
    shelf = window.shelf
    window.document.select("small")
    shelf.open_role("look")
    shelf.try_on(0)
    assert not wait_for(lambda: shelf.audition.playing, 400)
    assert window.document.history.has_draft
    shelf.open_role("entrance")
    QTest.qWait(50)
    shelf.try_on(2)
    assert window.document.history.has_draft
    shelf._cards_area.verticalScrollBar().setValue(60)
    assert not window.document.history.has_draft


def test_showing_the_cards_of_a_role_lets_the_keyboard_search_them(window):
    window.document.select("big")
    window.run("show-loops")
    assert window.focusWidget() is window.shelf._search
    QTest.keyClicks(window.shelf._search, "pulse")
    assert "Two beats" in laid_out(window.shelf)
