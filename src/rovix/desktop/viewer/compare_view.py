"""What stands over the pictures of a line-up: their names, and the bar that says what is compared."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QEvent, QObject, QRectF, Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPen
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QMenu, QPushButton, QWidget

from rovix.desktop.dialogs.curve_picker import CurvePicker
from rovix.desktop.dialogs.number_asked import asked_number
from rovix.desktop.document import Document
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.parts import Segments
from rovix.desktop.theme import colour
from rovix.desktop.viewer.comparison import KINDS, Comparison
from rovix.desktop.viewer.geometry import View
from rovix.edit import clip_by_id, move_of
from rovix.edit.comparing import MOST, cells, of_curve, of_length, of_move, of_stagger
from rovix.model import Move
from rovix.motion.ready_moves import ready_moves


class CompareBar(QFrame):
    """What is compared, how many, and the way out."""

    def __init__(self, comparison: Comparison) -> None:
        super().__init__()
        self._comparison = comparison
        self.kinds = Segments(KINDS, "Compare")
        self.kinds.chosen.connect(lambda kind: comparison.begin(comparison.which, kind))
        self.count = NumberField("How many", "", 1, 0, low=2, high=MOST)
        self.count.setToolTip(f"How many stand side by side, 2 to {MOST}.")
        self.count.committed.connect(lambda value: comparison.begin(comparison.which, None, round(value)))
        hint = QLabel("Click one to keep it", objectName="muted")
        hint.setToolTip("Click a picture, or press its figure, to keep it; click its name for another.")
        self.done = QPushButton(
            "Close", objectName="link", toolTip="Ends the comparison, nothing changed (Escape)."
        )
        self.done.clicked.connect(comparison.end)
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 6, 12, 6)
        row.setSpacing(8)
        row.addWidget(self.kinds)
        row.addWidget(self.count)
        row.addStretch(1)
        row.addWidget(hint)
        row.addWidget(self.done)
        comparison.changed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        self.setVisible(self._comparison.on)
        self.kinds.show_choice(self._comparison.kind)
        self.count.show_value(self._comparison.count)


class CompareNames(QObject):
    """A button with its name over each picture; pressed it offers others. While a line-up stands there,
    a click or a figure keeps one of its pictures, and Escape ends it."""

    def __init__(
        self, comparison: Comparison, document: Document, viewer: QWidget, view: Callable[[], View]
    ) -> None:
        super().__init__(viewer)
        self._comparison, self._document, self._viewer, self._view = comparison, document, viewer, view
        self.buttons: list[QPushButton] = []
        self._under: int | None = None
        comparison.changed.connect(self._rebuild)
        viewer.installEventFilter(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if not self._comparison.on:
            return False
        kind = event.type()
        if isinstance(event, QKeyEvent):
            return self._key(event)
        if isinstance(event, QMouseEvent) and event.button() != Qt.MouseButton.MiddleButton:
            if kind == QEvent.Type.MouseMove:
                self._point_at(event)
            elif kind == QEvent.Type.MouseButtonPress and event.button() == Qt.MouseButton.LeftButton:
                self._keep(self._comparison.at(self._view(), event.position()))
            # Panning with the middle button goes on in the viewer.
            return not event.buttons() & Qt.MouseButton.MiddleButton
        return False

    def _key(self, event: QKeyEvent) -> bool:
        figure = event.key() - Qt.Key.Key_1
        if event.key() != Qt.Key.Key_Escape and not 0 <= figure < len(self._comparison.variants):
            return False
        event.accept()
        if event.type() == QEvent.Type.KeyPress and event.key() == Qt.Key.Key_Escape:
            self._comparison.end()
        elif event.type() == QEvent.Type.KeyPress:
            self._keep(figure)
        return True

    def _keep(self, number: int | None) -> None:
        if number is not None:
            self._comparison.keep(number)

    def _point_at(self, event: QMouseEvent) -> None:
        self._under = self._comparison.at(self._view(), event.position())
        pointing = Qt.CursorShape.PointingHandCursor
        self._viewer.setCursor(Qt.CursorShape.ArrowCursor if self._under is None else pointing)
        self._viewer.update()

    def _rebuild(self) -> None:
        for button in self.buttons:
            button.hide()
            button.deleteLater()
        self.buttons = []
        for number, variant in enumerate(self._comparison.variants):
            button = QPushButton(f"{number + 1}  {variant.name}", self._viewer, objectName="segment")
            said = f"{variant.name}: click for something else here, press {number + 1} to keep this one."
            button.setToolTip(said)
            button.setAccessibleName(said)
            button.clicked.connect(lambda _=False, n=number: self.choose(n))
            button.show()
            self.buttons.append(button)
        self._viewer.update()

    def place(self, view: View) -> None:
        """Put the names over the lower edge of their pictures, as much of them as there is room for."""
        boxes = cells(view.size, max(2, len(self.buttons)))
        for number, (button, box) in enumerate(zip(self.buttons, boxes, strict=False)):
            left, top, width, height = box
            corner = view.to_view(left, top + height)
            room = round(view.to_view(left + width, top).x() - corner.x()) - 12
            said = f"{number + 1}  {self._comparison.variants[number].name}"
            short = button.fontMetrics().elidedText(said, Qt.TextElideMode.ElideRight, max(20, room - 20))
            if button.text() != short:
                button.setText(short)
            button.resize(min(button.sizeHint().width(), max(24, room)), button.sizeHint().height())
            button.move(round(corner.x()) + 6, round(corner.y()) - button.height() - 6)

    def paint(self, painter: QPainter, view: View) -> None:
        """A line round each picture, stronger under the mouse."""
        for number, (left, top, width, height) in enumerate(cells(view.size, len(self.buttons))):
            low, high = view.to_view(left, top), view.to_view(left + width, top + height)
            chosen = number == self._under
            painter.setPen(QPen(colour("accent" if chosen else "line"), 2 if chosen else 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(QRectF(low, high))

    def choose(self, number: int) -> None:
        """Ask what is to stand in a place."""
        {"curves": self._ask_curve, "moves": self._ask_move}.get(self._comparison.kind, self._ask_number)(
            number
        )

    def _ask_curve(self, number: int) -> None:
        clip = clip_by_id(self._document.project, self._comparison.identity)
        move = move_of(clip, self._comparison.which)
        own = move.piece_curve if move else "linear"
        curve = self._comparison.variants[number].changes.get("piece_curve", own)
        picker = CurvePicker(curve, clip, f"Curve {number + 1}", self._viewer.window())
        picker.taken.connect(lambda text: self._comparison.put(number, of_curve(text)))
        picker.open()

    def _ask_move(self, number: int) -> None:
        move = move_of(clip_by_id(self._document.project, self._comparison.identity), self._comparison.which)
        menu = QMenu(self._viewer)
        for other in ready_moves(move.role if move else "entrance"):
            menu.addAction(other.name, partial(self._put, number, other))
        button = self.buttons[number]
        menu.exec(button.mapToGlobal(button.rect().bottomLeft()))
        menu.deleteLater()

    def _put(self, number: int, move: Move) -> None:
        self._comparison.put(number, of_move(move))

    def _ask_number(self, number: int) -> None:
        project, lengths = self._document.committed, self._comparison.kind == "lengths"
        said = "Length" if lengths else "From one piece to the next"
        changes = self._comparison.variants[number].changes
        stagger = float(changes.get("stagger", 0.1) * float(project.sequence.frame_rate.fraction))
        start = changes.get("length", 0.5) if lengths else stagger
        unit = "s" if lengths else "f"
        value = asked_number(self._viewer, "Compare", said, start, 0.0, 3600.0, unit)
        if value is not None:
            pieces = changes.get("pieces", "letters")
            made = of_length(project, value) if lengths else of_stagger(project, value, pieces)
            self._comparison.put(number, made)
