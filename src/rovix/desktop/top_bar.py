"""The top bar: name and unsaved mark, menus, the sequence's facts, undo and redo, export."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QHBoxLayout, QLabel, QMenuBar, QPushButton, QToolButton, QWidget

from rovix.check.finding import KINDS
from rovix.desktop.qt import widgets_in
from rovix.desktop.theme import icon
from rovix.time import timecode

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame
    from rovix.desktop.live_checks import LiveChecks


class TopBar(QWidget):
    """Follows the document's file and history."""

    def __init__(self, window: Frame, menus: QMenuBar) -> None:
        super().__init__()
        self._window = window
        self._name = QLabel("")
        self._facts = QLabel(
            "", objectName="muted", toolTip="The sequence: size in px, frames per second, length."
        )
        self._undo = self._tool("undo", "undo")
        self._redo = self._tool("redo", "redo")
        self._checks = QPushButton("Checks", objectName="toggle", autoDefault=False)
        self._checks.clicked.connect(lambda: window.run("checks"))
        export = QPushButton("Export", objectName="primary", toolTip="Write the video (Ctrl+E).")
        export.clicked.connect(lambda: window.run("export"))
        row = QHBoxLayout(self)
        # What does not fit is left out by the bar itself; it asks for no room of its own.
        row.setSizeConstraint(QHBoxLayout.SizeConstraint.SetNoConstraint)
        row.setContentsMargins(14, 6, 12, 2)
        row.setSpacing(10)
        row.addWidget(QLabel("Rovix", objectName="mark"))
        menus.setSizePolicy(menus.sizePolicy().Policy.Maximum, menus.sizePolicy().Policy.Preferred)
        row.addWidget(menus)
        row.addStretch(1)
        row.addWidget(self._name)
        row.addWidget(self._facts)
        row.addStretch(1)
        row.addWidget(self._checks)
        row.addWidget(self._undo)
        row.addWidget(self._redo)
        row.addWidget(export)
        self._menus, self._row = menus, row
        self._said = ("", "")
        document = window.document
        document.file_changed.connect(self.refresh)
        document.project_changed.connect(self.refresh)
        self.refresh()

    def minimumSizeHint(self) -> QSize:
        return QSize(480, super().minimumSizeHint().height())

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._fit_facts()

    def _fit_facts(self) -> None:
        """Where there is no room, the sequence's facts go, and then the name: the menus stay whole."""
        fixed = sum(
            widget.sizeHint().width() + self._row.spacing()
            for widget in widgets_in(self._row)
            if widget not in (self._name, self._facts)
        )
        left = self.width() - fixed - 30
        # Menus that do not fit go into one behind a mark at the bar's end, which Qt adds.
        self._menus.setMinimumWidth(
            min(self._menus.sizeHint().width(), self._menus.sizeHint().width() + left)
        )
        self._name.setVisible(self._name.sizeHint().width() <= left)
        self._facts.setVisible(self._name.sizeHint().width() + self._facts.sizeHint().width() + 10 <= left)

    def _tool(self, picture: str, command: str) -> QToolButton:
        button = QToolButton(accessibleName=command.capitalize())
        button.setIcon(icon(picture, "text"))
        button.clicked.connect(lambda: self._window.run(command))
        return button

    def show_checks(self, checks: LiveChecks) -> None:
        """Count what was found: what is to be mended, or else hints."""
        kinds = [KINDS[one.kind] for one in checks.findings]
        wrong = [kind for kind in kinds if not kind.warns]
        said = f"Checks {len(kinds)}" if kinds else "Checks"
        if said != self._checks.text():
            self._checks.setText(said)
            self._fit_facts()
        self._checks.setProperty("wrong", bool(wrong))
        self._checks.style().polish(self._checks)
        titles = "\n".join(dict.fromkeys(kind.title for kind in kinds))
        self._checks.setToolTip(titles or "Nothing was found that viewers would stumble over.")

    def refresh(self) -> None:
        document = self._window.document
        history = document.history
        mark = " •" if history.is_changed else ""
        self._name.setText(f"{document.name}{mark}")
        self._name.setToolTip(
            f"{document.path or 'Not saved in a file yet'}{': unsaved changes' if mark else ''}"
        )
        self._name.setTextFormat(Qt.TextFormat.PlainText)
        sequence = document.project.sequence
        length = timecode(sequence.length, document.rate)
        self._facts.setText(f"{sequence.size[0]} × {sequence.size[1]}   {document.rate.label} fps   {length}")
        said = (self._name.text(), self._facts.text())
        if said != self._said:
            self._said = said
            self._fit_facts()
        for button, title, word in (
            (self._undo, history.undo_title, "Undo"),
            (self._redo, history.redo_title, "Redo"),
        ):
            button.setEnabled(title is not None)
            keys = "Ctrl+Z" if word == "Undo" else "Ctrl+Shift+Z"
            button.setToolTip(f"{word}: {title} ({keys})" if title else f"Nothing to {word.lower()}")
