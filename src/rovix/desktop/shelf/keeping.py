"""Below the cards: keeping the selected layer's look or move, files of them in and out, own ones renamed."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

from PySide6.QtCore import QPoint, QUrl
from PySide6.QtGui import QDesktopServices
from PySide6.QtWidgets import (
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QMenu,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from rovix.desktop.dialogs.name_asked import asked_name
from rovix.desktop.document import Document
from rovix.desktop.shelf.decks import Deck, EffectDeck, LookDeck, MoveDeck
from rovix.desktop.shelf.title_deck import TitleDeck
from rovix.engine.kept_shelf import NameTaken
from rovix.errors import RovixError
from rovix.formats.move_file import SavedMove


class Keeping(QWidget):
    """What the shelf keeps of one deck; `changed` is called when cards are others than before.

    It gets the role whose cards they are, or nothing where it is the shown deck's.
    """

    def __init__(self, document: Document, changed: Callable[[str], None]) -> None:
        super().__init__()
        self._document, self._changed = document, changed
        self._deck: LookDeck | MoveDeck | EffectDeck | TitleDeck | None = None
        self.ask_name: Callable[[str, str], str | None] = self._asked_name
        self.ask: Callable[[str, str, dict[str, str]], str] = lambda *_: "keep"
        """Asks the user; the window gives its own way to."""
        self.ask_file: Callable[[str, str, bool], Path | None] = self._asked_file
        self.stacked: Callable[[int], None] = lambda _: None
        """Puts a card on top of what the layer has; the shelf gives its own way to."""
        self._keep = QPushButton("Keep…")
        self._keep.clicked.connect(self.keep)
        self._import = QPushButton("Import…")
        self._import.clicked.connect(self.import_media)
        self._note = QLabel("", objectName="muted", wordWrap=True)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        row = QHBoxLayout()
        row.addWidget(self._keep, 1)
        row.addWidget(self._import)
        column.addLayout(row)
        column.addWidget(self._note)

    def open(self, deck: Deck) -> None:
        """Read a deck's own things again, and say which files were passed over."""
        self._deck = deck if isinstance(deck, LookDeck | MoveDeck | EffectDeck | TitleDeck) else None
        for part in (self._keep, self._import):
            part.setVisible(self._deck is not None)
        deck.read()
        if self._deck is None:
            self._note.hide()
            return
        noun = self._deck.said
        self._keep.setAccessibleName(f"Keep this {noun}")
        self._keep.setToolTip(
            "Put the selected layers into the shelf as a title, an open JSON file with its media beside it."
            if isinstance(deck, TitleDeck)
            else f"Put the selected layer's {noun} into the shelf under a name, as an open JSON file."
        )
        self._import.setToolTip(f"Bring the {noun} in a file into the shelf.")
        self._note.setText("\n".join(self._deck.shelf.problems) or self._deck.note)
        self._note.setVisible(bool(self._note.text()))

    def refresh(self) -> None:
        deck = self._deck
        able = deck.keeps() if isinstance(deck, TitleDeck) else self._saved("") is not None
        self._keep.setEnabled(able)

    def keep(self) -> None:
        """Ask for a name and keep what the selected layer has."""
        if isinstance(self._deck, TitleDeck):
            self.keep_title(self._deck)
            return
        deck, found = self._deck, self._saved("")
        if deck is None or found is None:
            self._document.problem.emit(
                f"Select a layer with {deck.article if deck else 'one'}: it is what is kept."
            )
            return
        name = self.ask_name(f"Keep this {deck.said}", found.name)
        if name:
            self._write(lambda over: deck.shelf.save(self._saved(name), over), True)

    def keep_title(self, deck: TitleDeck) -> None:
        """Ask for a name and keep the selected layers as a title."""
        try:
            title = deck.made()
        except RovixError as wrong:
            self._document.problem.emit(str(wrong))
            return
        name = self.ask_name("Keep as a title", self._document.clip.title if self._document.clip else "")
        if name:
            self._deck = deck
            self._write(lambda over: deck.shelf.keep(name, title, self._document.base, over), True, "title")

    def import_media(self) -> None:
        """Put what a file holds into the shelf; where its name is taken, ask."""
        deck = self._deck
        path = None if deck is None else self.ask_file(f"Import a {deck.said}", "", False)
        if deck is None or path is None:
            return
        try:
            saved: Any = deck.shelf.kind.read(path)
        except RovixError as wrong:
            self._document.problem.emit(str(wrong))
            return
        # A move of another role belongs to the cards of that one.
        role = saved.move.role if isinstance(saved, SavedMove) else ""
        self._write(lambda over: deck.shelf.bring_in(path, over), True, role)

    def ask_about(self, number: int, at: QPoint) -> None:
        """The menu of a card: what can be done with what it stands for."""
        deck = self._deck
        if deck is None or deck.saved(number) is None:
            return
        item = deck.item(number)
        own = item is not None and item.own
        menu = QMenu(self)
        if isinstance(deck.saved(number), SavedMove):
            menu.addAction("Stack on what is there (Shift+click)", lambda: self.stacked(number))
            menu.addSeparator()
        menu.addAction("Rename…", lambda: self.rename(number)).setEnabled(own)
        menu.addAction("Remove from the shelf", lambda: self.remove(number)).setEnabled(own)
        menu.addSeparator()
        menu.addAction("Export…", lambda: self.export(number))
        if item is not None:
            menu.addAction("Show its file", lambda: _show(item.path))
        menu.exec(at)
        menu.deleteLater()

    def rename(self, number: int) -> None:
        """Ask for another name of an own one."""
        deck = self._deck
        item: Any = None if deck is None else deck.item(number)
        if deck is None or item is None:
            return
        name = self.ask_name(f"Rename the {deck.said}", item.saved.name)
        if name:
            self._write(lambda _: deck.shelf.rename(item, name))

    def remove(self, number: int) -> None:
        """Take an own one out of the shelf, if the user is sure."""
        deck = self._deck
        item: Any = None if deck is None else deck.item(number)
        if deck is None or item is None:
            return
        said = f"'{item.saved.name}' leaves the shelf, and its file the disk. Layers that have it keep it."
        if self.ask(f"Remove the {deck.said}?", said, {"Remove": "remove", "Keep": "keep"}) == "remove":
            self._write(lambda _: deck.shelf.remove(item))

    def export(self, number: int) -> None:
        """Write what a card stands for to a file of the user's choice."""
        deck = self._deck
        saved: Any = None if deck is None else deck.saved(number)
        if deck is None or saved is None:
            return
        path = self.ask_file(f"Export the {deck.said}", f"{saved.name}.json", True)
        if path is not None:
            try:
                item = deck.item(number)
                deck.shelf.take_out(saved, path, None if item is None else item.path.parent)
            except RovixError as wrong:
                self._document.problem.emit(str(wrong))

    def _saved(self, name: str) -> Any:
        """What the selected layer has, to be kept under a name."""
        return (
            None
            if self._deck is None
            else self._deck.worn(self._document.clip, name, self._document.clip_frame)
        )

    def _write(self, work: Callable[[bool], object], replaceable: bool = False, role: str = "") -> None:
        """Do something with the shelf; where a name is taken, ask whether the other one may go."""
        noun = self._deck.said if self._deck else ""
        try:
            work(False)
        except NameTaken as taken:
            choices = {"Replace": "yes", "Cancel": "no"}
            if not replaceable:
                self._document.problem.emit(str(taken))
            elif self.ask(f"Replace the {noun}?", f"{taken} Replace it by this one?", choices) == "yes":
                self._write(lambda _: work(True), role=role)
                return
        except RovixError as wrong:
            self._document.problem.emit(str(wrong))
        self._changed(role)

    def _asked_name(self, title: str, proposed: str) -> str | None:
        name = (asked_name(self, title, proposed) or "").strip()
        return name or None

    def _asked_file(self, title: str, proposed: str, to_write: bool) -> Path | None:
        ask = QFileDialog.getSaveFileName if to_write else QFileDialog.getOpenFileName
        name, _ = ask(self, title, proposed, "JSON (*.json)")
        return Path(name) if name else None


def _show(path: Path) -> None:
    QDesktopServices.openUrl(QUrl.fromLocalFile(str(path.parent)))
