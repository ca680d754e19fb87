"""Titles: put at the playhead, and made of the selected layers."""

from __future__ import annotations

from typing import TYPE_CHECKING

from rovix.desktop.commands.command import Command, layer
from rovix.desktop.dialogs.title_asked import TitleAsked
from rovix.desktop.shelf.title_deck import TitleDeck
from rovix.edit.titles import filled, made_title, put_title
from rovix.engine.kept_shelf import NameTaken
from rovix.engine.titles import title_for
from rovix.model import Project

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame


def _deck(window: Frame) -> TitleDeck:
    deck = window.shelf.decks["title"]
    assert isinstance(deck, TitleDeck)
    return deck


def _put(window: Frame) -> None:
    """Ask which, and put it at the playhead."""
    document, deck = window.document, _deck(window)
    asked = TitleAsked(window, deck.items)
    taken = bool(asked.exec())
    item, values, at, made = asked.item, asked.values, document.playhead, [""]
    asked.deleteLater()
    if not taken:
        return

    def edit(project: Project) -> Project:
        title = filled(title_for(item, document.base), values, like=project.sequence.size)
        project, made[0] = put_title(project, item.saved.name, title, at, values=values)
        return project

    if document.do(f"Put {item.saved.name}", edit):
        document.select(made[0])


def _keep(window: Frame) -> None:
    """Ask for a name, and keep the selected layers as a title."""
    document, deck = window.document, _deck(window)
    name = window.shelf.keeping.ask_name("Keep as a title", document.clip.title if document.clip else "")
    if not name:
        return
    title = made_title(document.project, document.selection, document.base)
    try:
        deck.shelf.keep(name, title, document.base)
    except NameTaken as taken:
        choices = {"Replace": "yes", "Cancel": "no"}
        if window.ask("Replace the title?", f"{taken} Replace it by this one?", choices) != "yes":
            return
        deck.shelf.keep(name, title, document.base, replacing=True)
    window.say(f"'{name}' is kept as a title.")
    window.shelf.open_role("title")


TITLES = (
    Command("put-title", "Title at the playhead…", "Insert", "", _put),
    Command("keep-title", "Keep as a title…", "Clip", "", _keep, layer),
)
