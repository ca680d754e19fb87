"""Titles in the window: on words that are there, at the playhead with others, kept and used again."""

import pytest

from rovix.desktop.dialogs.title_asked import TitleAsked
from rovix.desktop.shelf.title_deck import TitleDeck
from rovix.edit import clip_by_id
from rovix.model import GroupClip
from rovix.model.consistency import inconsistencies


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
    for item in deck.items:
        title = item.saved.title
        assert title.group
        assert any(setting.kind == "words" for setting in title.settings), item.saved.name
