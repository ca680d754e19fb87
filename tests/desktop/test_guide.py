"""The guide: every command, field, card and shortcut is named as on screen; pages are searched and opened."""

import re

import pytest
from PySide6.QtWidgets import QAbstractButton, QWidget

from builders import project_of, title
from rovix.desktop.clip_views import CLIP_VIEWS
from rovix.desktop.commands import COMMANDS, MENUS
from rovix.desktop.dialogs.guide_window import PAGE_OF, GuideWindow, guide_pages
from rovix.desktop.findables import findables
from rovix.model import FootageClip, Media
from rovix.model.effects import EFFECTS
from rovix.motion.ready_moves import pop, rise_and_fade

_NAMED = re.compile(r"\*\*([^*]+)\*\*(?: \(`([^`]+)`\))?")
_WITH_KEYS = re.compile(r"\*\*([^*]+)\*\*,? ?\(?`([^`]+)`")


@pytest.fixture
def names(make_test_window):
    """All that is named on screen while footage and words with all kinds of moves are selected."""
    media = Media(id="m", path="a.mp4", kind="footage", length=9.0, width=64, height=36, has_sound=True)
    words = title("Larkmoor", id="words", length=80, moves=[pop(), rise_and_fade("exit")])
    window = make_test_window(project_of(FootageClip(id="shot", media="m", length=80), words, media=(media,)))
    window.document.select("shot", "words")
    found = {entry.thing.title for entry in findables(window)} | {item.said(window) for item in COMMANDS}
    found |= {name for deck in window.shelf.decks.values() for name in deck.names()}
    for widget in window.findChildren(QWidget):
        found.add(widget.accessibleName().split(",")[0])
        if isinstance(widget, QAbstractButton):
            found.add(widget.text())
    return found | set(MENUS) | {view for kind in CLIP_VIEWS.values() for view in kind.pages}


def test_what_the_guide_names_is_called_so_on_screen(names):
    named = {(page.name, name) for page in guide_pages() for name, _ in _NAMED.findall(page.text)}
    assert len(named) > 90
    assert sorted(one for one in named if one[1] not in names) == []


def test_the_shortcuts_it_gives_are_those_of_the_commands():
    keys = {item.title: item.shortcut for item in COMMANDS if isinstance(item.title, str)}
    given = [(name, key) for page in guide_pages() for name, key in _NAMED.findall(page.text) if key]
    assert len(given) > 15
    for name, key in given:
        assert keys[name].replace("Delete", "Del") == key, name


def test_the_effects_it_names_are_there():
    (page,) = [page for page in guide_pages() if page.name == "effects"]
    named = set(re.findall(r"\*([A-Z][^*]+)\*", page.text.replace("**", "")))
    assert {struct.facts.name for struct in EFFECTS.values()} >= named - {"Reveal box"}
    assert len(named) >= 9


def test_every_head_has_its_page_and_pages_are_short():
    assert set(PAGE_OF) == {name for view in CLIP_VIEWS.values() for name in view.pages}
    pages = {page.name: page for page in guide_pages()}
    assert set(PAGE_OF.values()) <= set(pages)
    assert 12 <= len(pages) <= 17
    assert all(60 < len(page.text.split()) < 320 for page in pages.values())
    assert all(page.text.startswith("# ") for page in pages.values())


def test_the_guide_opens_is_searched_and_goes_to_the_page_of_a_head(window):
    window.run("guide")
    guide = window.findChild(GuideWindow)
    assert "A first title" in guide.text.toPlainText()
    guide.search.setText("overshoot")
    assert guide.list.count() == 0
    assert not guide._nothing.isHidden()
    guide.search.setText("echo trail")
    assert {guide.list.item(n).text() for n in range(guide.list.count())} == {
        "Effects",
        "What goes wrong, and why",
    }
    assert guide.text.textCursor().selectedText().lower() == "echo trail"
    window.document.select("big")
    menu = window.sheet.menu_of("Motion")
    next(action for action in menu.actions() if action.text() == "In the guide…").trigger()
    assert guide.text.toPlainText().startswith("Entrances and exits")
    assert window.findChildren(GuideWindow) == [guide], "one window, which goes to the page"
    guide.close()
