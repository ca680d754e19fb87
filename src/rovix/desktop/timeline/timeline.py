"""The timeline: what is open, the canvas with its scroll bars, the peak meter."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QPushButton, QScrollBar, QVBoxLayout, QWidget

from rovix.desktop.document import Document
from rovix.desktop.projector import Projector
from rovix.desktop.thumbnails import Thumbnails
from rovix.desktop.timeline.canvas import Canvas
from rovix.desktop.timeline.meter import Meter
from rovix.desktop.timeline.scale import HEADER, RULER, Scale


class Timeline(QWidget):
    """The canvas and what goes round it."""

    def __init__(self, document: Document, projector: Projector, thumbnails: Thumbnails) -> None:
        super().__init__()
        self.canvas = Canvas(document, projector, thumbnails)
        self.meter = Meter(document, thumbnails)
        self.trail = Trail(document)
        self._document = document
        self._across = QScrollBar(Qt.Orientation.Horizontal, accessibleName="Scroll in time")
        self._down = QScrollBar(Qt.Orientation.Vertical, accessibleName="Scroll the tracks")
        grid = QGridLayout()
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(0)
        grid.addWidget(self.canvas, 0, 0)
        grid.addWidget(self._down, 0, 1)
        grid.addWidget(self.meter, 0, 2)
        grid.addWidget(self._across, 1, 0)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.trail)
        column.addLayout(grid, 1)
        self._across.valueChanged.connect(self._scrolled)
        self._down.valueChanged.connect(self._lifted)
        self.canvas.scale_changed.connect(self._show_bars)
        document.project_changed.connect(self._show_bars)
        self._busy = False

    def zoom(self, factor: float) -> None:
        """Zoom about the playhead."""
        canvas = self.canvas
        canvas.set_scale(canvas.scale.zoomed(factor, canvas.scale.x(self._document.playhead)))

    def _show_bars(self) -> None:
        canvas, scale = self.canvas, self.canvas.scale
        self._busy = True
        page = (canvas.width() - HEADER) / scale.px
        highest = max(0, round(self._document.length + 30 - page))
        self._across.setPageStep(max(1, round(page)))
        self._across.setRange(0, max(highest, round(scale.first)))
        self._across.setValue(round(scale.first))
        self._across.setVisible(self._across.maximum() > 0 and not canvas.is_fitted)
        room = canvas.height() - RULER
        self._down.setPageStep(max(1, room))
        self._down.setRange(0, max(0, canvas.content_height() - room))
        self._down.setValue(canvas.lifted)
        self._down.setVisible(self._down.maximum() > 0)
        self._busy = False

    def _scrolled(self, value: int) -> None:
        if not self._busy:
            self.canvas.set_scale(Scale(self.canvas.scale.px, float(value)))

    def _lifted(self, value: int) -> None:
        if not self._busy:
            self.canvas.lift(value - self.canvas.lifted)


class Trail(QWidget):
    """Where one is, when a group or another sequence is open; a click goes back out."""

    def __init__(self, document: Document) -> None:
        super().__init__()
        self._document = document
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(14, 2, 8, 2)
        self._row.setSpacing(6)
        self._steps: list[tuple[str, ...]] = []
        document.level_changed.connect(self.refresh)
        document.project_changed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        trail = self._document.trail
        several = len(self._document.whole.sequences) > 1
        self.setVisible(several or len(trail) > 1)
        said = [(level.sequence, *level.groups, name) for level, name in trail]
        if said == self._steps:
            return
        self._steps = said
        while self._row.count():
            item = self._row.takeAt(0)
            widget = item.widget() if item is not None else None
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        for number, (level, name) in enumerate(trail):
            last = number == len(trail) - 1
            if number:
                self._row.addWidget(QLabel("›", objectName="muted"))
            if last:
                self._row.addWidget(QLabel(name, objectName="heading"))
                continue
            button = QPushButton(name, objectName="link", toolTip=f"Close the group and go back to {name}.")
            button.clicked.connect(lambda _=False, to=level: self._document.open_level(to))
            self._row.addWidget(button)
        self._row.addStretch(1)
