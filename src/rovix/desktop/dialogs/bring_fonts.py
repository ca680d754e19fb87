"""Where fonts that are brought in go, and what their makers say of it."""

from __future__ import annotations

from html import escape
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QDialog, QDialogButtonBox, QLabel, QRadioButton, QTextBrowser, QVBoxLayout

from rovix.desktop.dialogs.buttons import answer_row
from rovix.engine.project_fonts import bring_in, user_fonts
from rovix.errors import RovixError
from rovix.text.catalogue import BESIDE
from rovix.text.font_files import FontFile

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame

_WHERE = "fonts/where"


class BringFonts(QDialog):
    """Lists the checked fonts with their licences; taken on, they are copied and can be set at once."""

    def __init__(self, window: Frame, fonts: list[FontFile]) -> None:
        super().__init__(window, windowTitle="Bring in fonts")
        self._window, self._fonts = window, fonts
        self.resize(520, 420)
        column = QVBoxLayout(self)
        column.setSpacing(9)
        families = list(dict.fromkeys(name for font in fonts for name in font.families))
        column.addWidget(QLabel(_listed(families), objectName="heading", wordWrap=True))
        self.facts = QTextBrowser(openExternalLinks=True, accessibleName="What the fonts say of themselves")
        self.facts.setHtml("".join(map(_said, fonts)))
        column.addWidget(self.facts, 1)
        self._families = families
        self._add_places(column)
        answers = answer_row(self, "Bring in")
        answers.button(QDialogButtonBox.StandardButton.Ok).setDefault(True)
        column.addWidget(answers)

    def _add_places(self, column: QVBoxLayout) -> None:
        path = self._window.document.path
        self.beside = QRadioButton("With this project")
        self.beside.setToolTip(f"Into the folder '{BESIDE}' beside the project file; copied along with it.")
        self.for_all = QRadioButton("For every project and program of mine")
        self.for_all.setToolTip(f"Into {user_fonts()}.")
        self.beside.setEnabled(path is not None)
        if path is None:
            self.beside.setText("With this project (save it first, so that it has a folder)")
        mine = self._window.settings.value(_WHERE) == "mine" or path is None
        (self.for_all if mine else self.beside).setChecked(True)
        column.addWidget(self.beside)
        column.addWidget(self.for_all)

    @property
    def folder(self) -> Path:
        """Where they are to go."""
        beside = self.beside.isChecked() and self._window.document.path is not None
        return self._window.document.base / BESIDE if beside else user_fonts()

    def accept(self) -> None:
        """Copy them; the dialog stays when that cannot be done."""
        self._window.settings.setValue(_WHERE, "project" if self.beside.isChecked() else "mine")
        try:
            bring_in(self._fonts, self.folder)
        except RovixError as wrong:
            self._window.document.problem.emit(str(wrong))
            return
        super().accept()
        self._window.look_for_fonts()
        self._window.say(f"{_listed(self._families)} can be set now.")


def _listed(names: list[str]) -> str:
    return ", ".join(names[:3]) + (f" and {len(names) - 3} more" if len(names) > 3 else "")


def _said(font: FontFile) -> str:
    """A font's entry: its styles, and what its maker says."""
    styles = ", ".join(f"{style.family} {style.style}" for style in font.styles[:12])
    more = f" and {len(font.styles) - 12} more" if len(font.styles) > 12 else ""
    parts = [f"<p><b>{escape(styles + more)}</b><br>{escape(Path(font.path).name)}"]
    if font.restricted:
        parts.append("<br><b>Its maker forbids that it is passed on with a project.</b>")
    parts.append(f"<br>{escape(font.copyright)}" if font.copyright else "")
    parts.append(f"<br>{escape(font.licence)}" if font.licence else "<br>The file names no licence.")
    parts.append(f"<br>{escape(font.licence_url)}" if font.licence_url else "")
    return "".join(parts) + "</p>"
