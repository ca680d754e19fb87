"""Below the cards of looks: keeping the selected words' look, renaming and removing own ones."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QPoint, QUrl
from PySide6.QtGui import QDesktopServices
from PySide6.QtWidgets import QInputDialog, QLabel, QMenu, QPushButton, QVBoxLayout, QWidget

from rovix.desktop.document import Document
from rovix.desktop.shelf.decks import LookDeck
from rovix.engine.look_shelf import NameTaken
from rovix.errors import RovixError
from rovix.formats.look_file import SavedLook
from rovix.model import TextClip
from rovix.motion.settle import settled


class LookKeeping(QWidget):
    """`changed` is called when the looks in the shelf are others than before."""

    def __init__(self, document: Document, deck: LookDeck, changed: Callable[[], None]) -> None:
        super().__init__()
        self._document, self._deck, self._changed = document, deck, changed
        self.ask_name: Callable[[str, str], str | None] = self._asked_name
        self.ask: Callable[[str, str, dict[str, str]], str] = lambda *_: "keep"
        """Asks the user; the window gives its own way to."""
        self._keep = QPushButton("Keep this look…")
        self._keep.setToolTip(
            "Put the selected words' look into the shelf under a name, as an open JSON file."
        )
        self._keep.clicked.connect(self.keep)
        self._note = QLabel("", objectName="muted", wordWrap=True)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self._keep)
        column.addWidget(self._note)

    def read(self) -> None:
        """Read the looks again, and say which files were passed over."""
        self._deck.read()
        self._note.setText("\n".join(self._deck.shelf.problems) or "Px in a look go with the words' size.")

    def look_again(self) -> None:
        self._keep.setEnabled(isinstance(self._document.clip, TextClip))

    def keep(self) -> None:
        """Ask for a name and keep the selected words' look."""
        clip = self._document.clip
        if not isinstance(clip, TextClip):
            self._document.problem.emit("Select words first: their look is what is kept.")
            return
        name = self.ask_name("Keep this look", clip.name or "Look")
        if name:
            look = settled(clip.look, self._document.clip_frame)
            self._write(
                lambda over: self._deck.shelf.save(SavedLook(name, clip.words.size, look), over), True
            )

    def ask_about(self, number: int, at: QPoint) -> None:
        """The menu of a card: what can be done with its look."""
        look = self._deck.looks[number]
        menu = QMenu(self)
        menu.addAction("Rename…", lambda: self.rename(number)).setEnabled(look.own)
        menu.addAction("Remove from the shelf", lambda: self.remove(number)).setEnabled(look.own)
        menu.addSeparator()
        menu.addAction("Show its file", lambda: _show(look.path))
        menu.exec(at)
        menu.deleteLater()

    def rename(self, number: int) -> None:
        """Ask for another name of an own look."""
        look = self._deck.looks[number]
        name = self.ask_name("Rename the look", look.saved.name)
        if name:
            self._write(lambda _: self._deck.shelf.rename(look, name))

    def remove(self, number: int) -> None:
        """Take an own look out of the shelf, if the user is sure."""
        look = self._deck.looks[number]
        said = f"'{look.saved.name}' leaves the shelf, and its file the disk. Layers that wear it keep it."
        if self.ask("Remove the look?", said, {"Remove": "remove", "Keep": "keep"}) == "remove":
            self._write(lambda _: self._deck.shelf.remove(look))

    def _write(self, work: Callable[[bool], object], replaceable: bool = False) -> None:
        """Do something with the shelf; where a name is taken, ask whether the other look may go."""
        try:
            work(False)
        except NameTaken as taken:
            choices = {"Replace": "yes", "Leave it": "no"}
            if not replaceable:
                self._document.problem.emit(str(taken))
            elif self.ask("Replace the look?", f"{taken} Replace it by this one?", choices) == "yes":
                self._write(lambda _: work(True))
                return
        except RovixError as wrong:
            self._document.problem.emit(str(wrong))
        self._changed()

    def _asked_name(self, title: str, proposed: str) -> str | None:
        name, good = QInputDialog.getText(self, title, "Name", text=proposed)
        return name.strip() if good and name.strip() else None


def _show(path: Path) -> None:
    QDesktopServices.openUrl(QUrl.fromLocalFile(str(path.parent)))
