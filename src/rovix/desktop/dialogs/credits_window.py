"""Whose work Rovix ships or stands on, to read and to copy."""

from __future__ import annotations

from html import escape

from PySide6.QtWidgets import QDialog, QDialogButtonBox, QTextBrowser, QVBoxLayout, QWidget

from rovix.credits import ENCODER, Credit, credits
from rovix.desktop.dialogs.buttons import Answers

_HEADS = {
    "fonts": "Fonts that come with Rovix",
    "art": "Art that comes with Rovix",
    "packages": "Packages that Rovix stands on",
}
_OWN = (
    "Rovix is under the Apache License, version 2.0. Its icons, sounds, ready moves, looks and the Larkmoor "
    "Kite Day are its own."
)


class CreditsWindow(QDialog):
    """Fonts, art and packages, each with its notice, licence and link."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("Credits")
        self.resize(680, 520)
        self.text = QTextBrowser(openExternalLinks=True, accessibleName="Credits")
        self.text.setHtml(page(credits()))
        buttons = Answers(QDialogButtonBox.StandardButton.Close)
        buttons.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        column.addWidget(self.text)
        column.addWidget(buttons)


def page(found: list[Credit]) -> str:
    """The credits as HTML: a heading and a list for each kind."""
    parts = [f"<h3>Rovix</h3><p>{escape(_OWN)}</p><p>{escape(ENCODER)}</p>"]
    for kind, head in _HEADS.items():
        items = "".join(f"<p>{_said(credit)}</p>" for credit in found if credit.kind == kind)
        parts.append(f"<h3>{escape(head)}</h3>{items}")
    return "".join(parts)


def _said(credit: Credit) -> str:
    name, notice, licence, link = map(escape, (credit.name, credit.notice, credit.licence, credit.link))
    return f'<b>{name}</b><br>{notice}<br>{licence}: <a href="{link}">{link}</a>'
