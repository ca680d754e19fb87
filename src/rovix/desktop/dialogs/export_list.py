"""The exports that wait, are at work or are done, as rows of the export window."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import Qt, QUrl
from PySide6.QtGui import QDesktopServices
from PySide6.QtWidgets import (
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QProgressBar,
    QScrollArea,
    QSizePolicy,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from rovix.desktop.dialogs.weight import in_words
from rovix.desktop.exports import Exports
from rovix.desktop.qt import widgets_in
from rovix.engine.export_queue import AtWork, Waiting
from rovix.media.encoders import encoder_for

_ROWS = 4
"""So many rows are seen at once; more are scrolled."""


class ExportRow(QWidget):
    """One export: what it is, how far, and what can be done with it."""

    def __init__(self, item: Waiting, place: tuple[int, int], exports: Exports, parent: QWidget) -> None:
        super().__init__(parent)
        self.item = item
        self.name = QLabel(item.path.name, objectName="heading", toolTip=str(item.path))
        self.name.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self.state = QLabel(objectName="problem" if item.state == "failed" else "muted", wordWrap=True)
        self.bar = QProgressBar(textVisible=False, accessibleName=f"Progress of {item.path.name}")
        self.bar.setRange(0, max(1, item.end - item.first))
        self.buttons: dict[str, QToolButton] = {}
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 4, 8, 6)
        grid.setHorizontalSpacing(10)
        grid.setVerticalSpacing(2)
        grid.setColumnStretch(0, 1)
        grid.addWidget(self.name, 0, 0)
        grid.addLayout(self._answers(place, exports), 0, 1)
        grid.addWidget(self.state, 1, 0, 1, 2)
        grid.addWidget(self.bar, 2, 0, 1, 2)
        self.show_progress(None)

    def show_progress(self, at_work: AtWork | None) -> None:
        """How far it is, where it is the one at work."""
        own = at_work is not None and at_work.id == self.item.id
        self.bar.setVisible(own and self.item.state == "waiting")
        self.bar.setValue(at_work.done if at_work and own else 0)
        self.state.setText(said_of(self.item, at_work if own else None))

    def _answers(self, place: tuple[int, int], exports: Exports) -> QHBoxLayout:
        item, (at, last) = self.item, place
        row = QHBoxLayout()
        row.setSpacing(4)

        def add(words: str, tip: str, do: Callable[[], object]) -> None:
            button = QToolButton(text=words, toolTip=tip)
            button.setAccessibleName(f"{words}: {item.path.name}")
            button.clicked.connect(lambda _=False: do())
            self.buttons[words] = button
            row.addWidget(button)

        if at > 0:
            add("Earlier", "Do it before the one above.", partial(exports.move, item, -1))
        if at < last:
            add("Later", "Do it after the one below.", partial(exports.move, item, 1))
        if item.state == "waiting":
            add("Pause", "Leave it for later; what is written of it is kept.", partial(exports.pause, item))
        if item.state == "paused":
            add("Go on", "Have it done.", partial(exports.go_on, item))
        if item.state == "failed":
            add("Try again", "Have it done once more.", partial(exports.go_on, item))
        if item.state == "done":
            add("Show", "Open the folder that it lies in.", partial(_show_folder, item))
        ended = item.state == "done"
        tip = "Take it out of the list; the file stays." if ended else "Stop it; nothing is written."
        add("Remove", tip, partial(exports.remove, item))
        return row


class ExportList(QWidget):
    """All exports, in the order in which they are done."""

    def __init__(self, exports: Exports, parent: QWidget) -> None:
        super().__init__(parent)
        self._exports = exports
        self.heading = QLabel(objectName="heading")
        self.pause = QToolButton(text="Pause all", toolTip="Leave all for later.")
        self.pause.clicked.connect(exports.pause_all)
        self.go_on = QToolButton(text="Go on with all", toolTip="Have all done that are paused.")
        self.go_on.clicked.connect(exports.go_on_with_all)
        self.tidy = QToolButton(text="Remove what is done", toolTip="The files stay.")
        self.tidy.clicked.connect(exports.remove_done)
        head = QHBoxLayout()
        head.addWidget(self.heading, 1)
        for button in (self.pause, self.go_on, self.tidy):
            head.addWidget(button)
        holder = QWidget()
        self._rows = QVBoxLayout(holder)
        self._rows.setContentsMargins(0, 0, 0, 0)
        self._rows.setSpacing(0)
        self._rows.addStretch(1)
        self._area = QScrollArea(widgetResizable=True)
        self._area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._area.setWidget(holder)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 6, 0, 0)
        column.addLayout(head)
        column.addWidget(self._area, 1)
        exports.changed.connect(self._build)
        exports.moved.connect(self._follow)
        self._build()

    @property
    def rows(self) -> list[ExportRow]:
        """From the first to the last."""
        return [widget for widget in widgets_in(self._rows) if isinstance(widget, ExportRow)]

    def _build(self) -> None:
        items = self._exports.items
        for row in self.rows:
            self._rows.removeWidget(row)
            row.hide()
            row.deleteLater()
        left = [item.id for item in items if item.is_left]
        for at, item in enumerate(items):
            place = (left.index(item.id), len(left) - 1) if item.is_left else (0, 0)
            self._rows.insertWidget(at, ExportRow(item, place, self._exports, self))
        states = {item.state for item in items}
        self.pause.setVisible("waiting" in states)
        self.go_on.setVisible("paused" in states)
        self.tidy.setVisible("done" in states)
        self.heading.setText("Exports" if items else "")
        self.setVisible(bool(items))
        self._follow()
        high = sum(row.sizeHint().height() for row in self.rows[:_ROWS])
        self._area.setMinimumHeight(high)

    def _follow(self) -> None:
        for row in self.rows:
            row.show_progress(self._exports.at_work)


def _what(item: Waiting) -> str:
    kind = encoder_for(item.path, item.how.codec)
    quality = kind.quality(item.how.quality)
    named = "" if quality.name == "only" else f", {quality.name}"
    return f"{item.name}, {kind.called}{named}, {item.end - item.first} frames"


def said_of(item: Waiting, at_work: AtWork | None) -> str:
    """Where it stands, in words."""
    if item.state == "done":
        written = f"{in_words(item.weight)} written in {clock(item.seconds)}."
        return f"{written} {item.said}".strip()
    if item.state == "failed":
        return item.said
    if at_work is None or item.state == "paused":
        return f"{'Waits' if item.state == 'waiting' else 'Paused'}. {_what(item)}."
    done = f"{at_work.done} of {at_work.total} frames"
    return done if at_work.left is None else f"{done}, {clock(at_work.left)} left"


def clock(seconds: float) -> str:
    """As 0:05, 12:40, 2:03:00."""
    whole = round(seconds)
    minutes, rest = divmod(whole, 60)
    hours, minutes = divmod(minutes, 60)
    return f"{hours}:{minutes:02d}:{rest:02d}" if hours else f"{minutes}:{rest:02d}"


def _show_folder(item: Waiting) -> None:
    QDesktopServices.openUrl(QUrl.fromLocalFile(str(item.path.parent)))
