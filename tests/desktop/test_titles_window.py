"""Titles in the window: on words that are there, at the playhead with others, kept and used again."""

import pytest
from msgspec.structs import replace
from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QDragEnterEvent, QDropEvent, QMouseEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from rovix.desktop.commands.titles_menu import put_dropped
from rovix.desktop.dialogs.title_asked import TitleAsked
from rovix.desktop.shelf.title_deck import TitleDeck
from rovix.desktop.timeline.canvas import TITLE_KIND
from rovix.edit import clip_by_id
from rovix.edit.text import change_text
from rovix.edit.tree import replace_clip
from rovix.model import GroupClip
from rovix.model.consistency import inconsistencies

HELD = (Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier)


@pytest.fixture
def deck(window):
    found = window.shelf.decks["title"]
    assert isinstance(found, TitleDeck)
    return found


def texts(group):
    return [clip.text.content for track in group.tracks for clip in track.clips if hasattr(clip, "text")]


def groups(window):
    return [c for t in window.document.project.sequence.tracks for c in t.clips if isinstance(c, GroupClip)]


def test_words_become_a_title_that_says_them_from_the_same_frame(window, deck):
    before = window.document.whole
    window.document.select("small")
    window.shelf.open_role("title")
    window.shelf.apply_move(deck.names().index("Name on a line"))
    (group,) = groups(window)
    assert (group.start, group.length) == (20, 50)
    assert texts(group) == ["Kite day", "Harbour pilot"]
    assert clip_by_id(window.document.project, "small") is None
    assert inconsistencies(window.document.whole) == []
    window.document.undo()
    assert window.document.whole == before


def test_one_is_put_at_the_playhead_with_words_of_its_own(window, deck, monkeypatch):
    def answer(dialog):
        dialog.which.setCurrentIndex(deck.names().index("Name on a line"))
        dialog.fields["Name"].setText("Ada Lovelace")
        return True

    monkeypatch.setattr(TitleAsked, "exec", answer)
    window.document.seek(12)
    window.run("put-title")
    (group,) = groups(window)
    assert group.start == 12
    assert texts(group) == ["Ada Lovelace", "Harbour pilot"]
    assert window.document.selected == group.id


def test_layers_are_kept_as_a_title_and_used_in_another_project(window, make_test_window, monkeypatch):
    window.document.select("big", "small")
    window.shelf.keeping.ask_name = lambda *_: "My own"
    window.run("keep-title")
    deck = window.shelf.decks["title"]
    assert "My own" in deck.names()
    assert deck.family(deck.names().index("My own")) == "Your own"
    asked = []
    window.ask = lambda title, text, choices: asked.append(title) or "no"
    window.run("keep-title")
    assert asked == ["Replace the title?"]
    other = make_test_window()
    other.document.select("big")
    other.shelf.open_role("title")
    other.shelf.apply_move(other.shelf.decks["title"].names().index("My own"))
    (group,) = groups(other)
    assert texts(group) == ["Larkmoor", "Kite day"]


def test_cards_are_there_for_every_title(window, deck):
    clip = clip_by_id(window.document.project, "big")
    project, cards = deck.drawn(clip, window.document.rate)
    assert len(cards) == len(deck.names()) >= 8
    assert inconsistencies(project) == []
    assert all(card.start <= card.still < card.start + card.length for card in cards)


def test_ready_titles_have_a_group_and_words_to_set(deck):
    for item in (item for item in deck.items if not item.own):
        title = item.saved.title
        assert title.group
        assert any(setting.kind == "words" for setting in title.settings), item.saved.name


def test_a_title_is_dragged_to_the_timeline_in_one_action(window, deck):
    window.shelf.open_role("title")
    number = deck.names().index("Turned card")
    card = window.shelf._cards[number]
    canvas = window.timeline.canvas
    spot = QPointF(canvas.scale.x(12), canvas.height() - 3)
    for event in (
        QDragEnterEvent(spot.toPoint(), Qt.DropAction.CopyAction, card.carries, *HELD),
        QDropEvent(spot, Qt.DropAction.CopyAction, card.carries, *HELD),
    ):
        QApplication.sendEvent(canvas, event)
        assert event.isAccepted()
    (group,) = groups(window)
    assert (group.name, group.start, group.made_of.name) == ("Turned card", 12, "Turned card")
    window.document.undo()
    assert groups(window) == []


def test_a_press_that_wanders_off_a_card_of_titles_drags_it_and_takes_nothing(window, deck, monkeypatch):
    window.shelf.open_role("title")
    card = window.shelf._cards[deck.names().index("Turned card")]
    begun = []
    monkeypatch.setattr(card, "begin_drag", lambda: begun.append(card.carries.formats()))
    window.document.select("big")
    before = window.document.whole
    QTest.mousePress(card, Qt.MouseButton.LeftButton, pos=QPoint(20, 20))
    move = QMouseEvent(
        QEvent.Type.MouseMove, QPointF(60, 40), QPointF(60, 40), Qt.MouseButton.LeftButton, *HELD
    )
    QApplication.sendEvent(card, move)
    QTest.mouseRelease(card, Qt.MouseButton.LeftButton, pos=QPoint(60, 40))
    assert begun == [[TITLE_KIND]]
    assert window.document.whole == before


def test_a_title_that_was_kept_anew_is_brought_up_to_date_with_the_words_kept(window, deck, tmp_path):
    window.document.select("big", "small")
    window.shelf.keeping.ask_name = lambda *_: "Two lines"
    window.shelf.keeping.ask = lambda *_: "yes"
    window.run("keep-title")
    path = next(i.path for i in window.shelf.decks["title"].items if i.saved.name == "Two lines")
    put_dropped(window, str(path), 100, None)
    (group,) = groups(window)
    version = group.made_of.version
    inner = next(c for t in group.tracks for c in t.clips if c.text.content == "Kite day")
    said = replace_clip_in(window, group, inner.id, "Rain day")
    window.document.do("Say", lambda p: said)
    moved = groups(window)[0]
    window.run("update-titles")
    assert groups(window)[0] == moved  # nothing newer is there
    window.document.select("big")
    window.document.do("Larger", lambda p: change_text(p, "big", size=33.0))
    window.document.select("big", "small")
    window.run("keep-title")
    window.document.select()
    before = window.document.whole
    window.run("update-titles")
    (after,) = groups(window)
    assert sorted(texts(after)) == ["Larkmoor", "Rain day"]
    sizes = {c.text.content: c.text.size for t in after.tracks for c in t.clips}
    assert sizes["Larkmoor"] == 33.0
    assert (after.id, after.start, after.made_of.version) == (group.id, 100, version + 1)
    assert inconsistencies(window.document.whole) == []
    window.document.undo()
    assert window.document.whole == before


def test_a_title_that_is_gone_when_it_is_dropped_is_said(window, deck, tmp_path):
    told = []
    window.document.problem.connect(told.append)
    put_dropped(window, str(tmp_path / "gone.json"), 0, None)
    assert told == ["The title in gone.json is not in the shelf any more."]
    assert groups(window) == []


def replace_clip_in(window, group, identity, words):
    def changed(clip):
        return replace(clip, text=replace(clip.text, content=words)) if clip.id == identity else clip

    tracks = tuple(replace(t, clips=tuple(map(changed, t.clips))) for t in group.tracks)
    return replace_clip(window.document.project, group.id, lambda g: replace(g, tracks=tracks))


def test_a_title_goes_out_as_a_file_and_comes_in_elsewhere(window, deck, tmp_path):
    number = deck.names().index("Said aloud")
    window.shelf.open_role("title")
    keeping, given = window.shelf.keeping, deck.saved(number).title
    out = tmp_path / "elsewhere" / "said.json"
    out.parent.mkdir()
    keeping.ask_file = lambda *_: out
    keeping.export(number)
    keeping.ask = lambda *_: "yes"
    keeping.import_media()
    own = [item for item in window.shelf.decks["title"].items if item.own and item.saved.name == "Said aloud"]
    assert [replace(item.saved.title, version=1) for item in own] == [replace(given, version=1)]
    window.shelf.decks["title"].shelf.remove(own[0])


def test_two_layers_are_kept_in_two_actions(window, deck):
    """Counted: the command, and the name with Enter."""
    actions = []
    window.document.select("big", "small")
    window.shelf.keeping.ask_name = lambda *_: actions.append("name") or "Counted"
    actions.append("command")
    window.run("keep-title")
    assert "Counted" in window.shelf.decks["title"].names()
    assert len(actions) == 2


def test_a_title_with_words_of_its_own_takes_three_actions(window, deck, monkeypatch):
    """Counted: the command, what is typed, Enter; the first title of the list is the one."""
    actions = []

    def answer(dialog):
        dialog.show()
        field = next(iter(dialog.fields.values()))
        actions.append("typed")
        QTest.keyClicks(field, "In our own words")
        actions.append("Enter")
        QTest.keyClick(field, Qt.Key.Key_Return)
        return dialog.result()

    monkeypatch.setattr(TitleAsked, "exec", answer)
    actions.append("command")
    window.run("put-title")
    (group,) = groups(window)
    assert "In our own words" in texts(group)
    assert len(actions) == 3


def test_a_title_of_three_layers_is_used_elsewhere_in_two_actions(window, make_test_window):
    """Counted: the words are selected, the card is clicked; they and what hangs on them come along."""
    window.document.select("big", "small")
    window.shelf.keeping.ask_name = lambda *_: "For elsewhere"
    window.shelf.keeping.ask = lambda *_: "yes"
    window.run("keep-title")
    other = make_test_window()
    other.shelf.open_role("title")
    names = other.shelf.decks["title"].names()
    other.document.select("small")
    QTest.mouseClick(other.shelf._cards[names.index("For elsewhere")], Qt.MouseButton.LeftButton)
    assert [group.name for group in groups(other)] == ["For elsewhere"]
