"""Moves of one's own: kept, found again after a restart, put on other words, brought in and given away."""

import json

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from rovix.edit import change_move, move_of
from rovix.formats.move_file import SavedMove, write_move
from rovix.motion.ready_moves import ready_moves

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def window(make_test_window):
    made = make_test_window()
    made.document.select("big")
    return made


def keep(window, name):
    window.shelf.keeping.ask_name = lambda *_: name
    QTest.mouseClick(window.shelf.keeping._keep, LEFT)


def test_a_tuned_move_is_kept_found_after_a_restart_and_put_on_other_words(window, make_test_window):
    window.document.do("Tune", lambda p: change_move(p, "big", "entrance", length=0.4, pieces="letters"))
    keep(window, "Harbour pop")
    assert "Harbour pop" in window.shelf.deck.names()
    window.shut_down()

    again = make_test_window()
    again.document.select("small")
    QTest.mouseClick(again.shelf.card("Harbour pop"), LEFT)
    taken = move_of(again.document.clip, "entrance")
    assert (taken.name, taken.length, taken.pieces) == ("Harbour pop", 0.4, "letters")
    assert again.shelf.card("Harbour pop")._chosen
    assert taken.id != move_of(window.document.clip, "entrance").id


def test_a_name_that_is_taken_is_asked_about(window):
    keep(window, "Mine")
    window.document.do("Tune", lambda p: change_move(p, "big", "entrance", length=0.9))
    window.ask.answers = ["no"]
    keep(window, "Mine")
    assert window.ask.asked == ["Replace the entrance?"]
    deck = window.shelf.deck
    assert deck.saved(deck.names().index("Mine")).move.length == 0.24
    window.ask.answers = ["yes"]
    keep(window, "Mine")
    assert deck.saved(deck.names().index("Mine")).move.length == 0.9


def test_own_moves_are_renamed_and_removed_ready_ones_are_not(window):
    keep(window, "Mine")
    number = window.shelf.deck.names().index("Mine")
    window.shelf.keeping.ask_name = lambda *_: "Yours"
    window.shelf.keeping.rename(number)
    assert "Yours" in window.shelf.deck.names()
    window.ask.answers = ["remove"]
    window.shelf.keeping.remove(number)
    assert "Yours" not in window.shelf.deck.names()
    before = window.shelf.deck.names()
    window.shelf.keeping.remove(1)
    assert window.shelf.deck.names() == before


def test_moves_come_from_files_and_go_to_files(window, tmp_path):
    given = tmp_path / "given.json"
    write_move(given, SavedMove("From a friend", ready_moves("loop")[0]))
    QTest.mouseClick(window.shelf._tabs["loop"], LEFT)
    window.shelf.keeping.ask_file = lambda *_: given
    QTest.mouseClick(window.shelf.keeping._import, LEFT)
    number = window.shelf.deck.names().index("From a friend")
    out = tmp_path / "out.json"
    window.shelf.keeping.ask_file = lambda *_: out
    window.shelf.keeping.export(number)
    assert json.loads(out.read_text(encoding="utf-8")) == json.loads(given.read_text(encoding="utf-8"))
    # A ready one has no file, and still can be given away.
    window.shelf.keeping.export(1)
    assert json.loads(out.read_text(encoding="utf-8"))["name"] == window.shelf.deck.names()[1]


def test_a_file_of_another_role_goes_to_its_own_cards(window, tmp_path):
    given = tmp_path / "given.json"
    write_move(given, SavedMove("Round", ready_moves("loop")[0]))
    window.shelf.keeping.ask_file = lambda *_: given
    QTest.mouseClick(window.shelf.keeping._import, LEFT)
    assert window.shelf._tabs["loop"].isChecked()
    assert "Round" in window.shelf.deck.names()


def test_a_bad_file_is_named_and_nothing_changes(window, tmp_path):
    said = []
    window.document.problem.connect(said.append)
    (tmp_path / "bad.json").write_text("{}", encoding="utf-8")
    window.shelf.keeping.ask_file = lambda *_: tmp_path / "bad.json"
    before = window.shelf.deck.names()
    window.shelf.keeping.import_media()
    assert "bad.json is no move that can be used here: its format is not 'rovix-move'." in said[0]
    assert window.shelf.deck.names() == before


def test_a_layer_without_a_move_has_none_to_keep(window):
    QTest.mouseClick(window.shelf._tabs["loop"], LEFT)
    assert not window.shelf.keeping._keep.isEnabled()
    window.shelf.keeping.keep()
    assert window.shelf.deck.names()[-1] == ready_moves("loop")[-1].name


def test_favourites_recent_and_own_cards_are_found_again(window, make_test_window):
    def shown(window, which):
        box = window.shelf._which
        box.setCurrentIndex(box.findData(which))
        box.activated.emit(box.currentIndex())
        cards = zip(window.shelf.deck.names(), window.shelf._cards, strict=True)
        return [name for name, card in cards if not card.isHidden()]

    assert shown(window, "favourites") == []
    shown(window, "all")
    window.show()
    doors = window.shelf.card("Doors")
    QTest.mouseClick(doors, LEFT, Qt.KeyboardModifier.NoModifier, doors.star_box().center().toPoint())
    QTest.keyClick(window.shelf.card("Stamp"), Qt.Key.Key_B, Qt.KeyboardModifier.ControlModifier)
    assert move_of(window.document.clip, "entrance").name == "Pop", "a star is not a click on the card"
    QTest.mouseClick(window.shelf.card("Whirl"), LEFT, Qt.KeyboardModifier.NoModifier, QPoint(20, 10))
    QTest.mouseClick(window.shelf.card("Sown"), LEFT, Qt.KeyboardModifier.NoModifier, QPoint(20, 10))
    keep(window, "Mine")
    window.shut_down()

    again = make_test_window()
    assert shown(again, "favourites") == ["Stamp", "Doors"]
    assert shown(again, "recent") == ["Whirl", "Sown"]
    assert shown(again, "own") == ["Mine"]
    again.shelf.toggle_favourite(again.shelf.deck.names().index("Doors"))
    assert shown(again, "favourites") == ["Stamp"]


def test_motion_is_copied_to_many_layers_in_one_step(window):
    window.run("copy-motion")
    before = window.document.project
    window.document.select("small", "ground")
    window.run("paste-motion")
    own = {clip.id: clip for track in window.document.project.sequence.tracks for clip in track.clips}
    for name in ("small", "ground"):
        assert [move.name for move in own[name].moves] == ["Pop", "Rise and fade"]
    ids = [move.id for clip in own.values() for move in clip.moves]
    assert len(ids) == len(set(ids)) == 6
    assert window.document.history.undo_title == "Paste the motion on 2 layers"
    window.document.undo()
    assert window.document.project is before


def test_motion_is_pasted_with_a_cascade(window):
    window.run("copy-motion")
    before = window.document.project
    window.document.select("small", "ground")
    window.ask_number = lambda *_: 4
    window.run("paste-motion-staggered")
    own = {clip.id: clip for track in window.document.project.sequence.tracks for clip in track.clips}
    assert (own["small"].start, own["ground"].start) == (20, 0), "each layer stays where it is"
    waits = {name: own[name].moves[0].wait for name in ("ground", "small")}
    assert waits == {"ground": 0.0, "small": pytest.approx(4 / 30)}
    assert all([m.name for m in own[name].moves] == ["Pop", "Rise and fade"] for name in ("small", "ground"))
    window.document.undo()
    assert window.document.project is before


def test_without_motion_on_the_clipboard_that_is_said(window):
    from PySide6.QtGui import QGuiApplication

    said = []
    window.document.problem.connect(said.append)
    QGuiApplication.clipboard().setText("words")
    window.run("paste-motion")
    assert said == ["There is no motion on the clipboard. Copy that of a layer first."]


def test_cards_are_found_by_name_pieces_order_and_channel(window):
    def shown():
        cards = zip(window.shelf.deck.names(), window.shelf._cards, strict=True)
        return [name for name, card in cards if not card.isHidden()]

    search = window.shelf._search
    everything = shown()
    search.setText("letters shuffled")
    assert set(shown()) == {"Letters rain", "Sown", "Lights on", "Struck lights"}
    search.setText("WHIRL")
    assert shown() == ["Whirl"]
    QTest.mouseClick(window.shelf.card("Whirl"), LEFT)
    assert move_of(window.document.clip, "entrance").name == "Whirl"
    search.setText("nothing like it")
    assert shown() == []
    assert not window.shelf._none.isHidden()
    search.clear()
    assert shown() == everything
