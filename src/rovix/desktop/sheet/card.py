"""A card in the sheet: a head that is always there, and fields when it is open."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QPoint, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QContextMenuEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QFrame, QScrollArea, QToolButton, QVBoxLayout, QWidget

from rovix.desktop.qt import parent_of
from rovix.desktop.sheet.colour_button import ColourButton
from rovix.desktop.sheet.mixed import ABSENT
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.paint_fields import PAINTS, PaintFields
from rovix.desktop.sheet.parts import Rows, Segments, lowered
from rovix.desktop.theme import colour, font, icon
from rovix.edit.tree import clip_of
from rovix.edit.values import set_channels
from rovix.errors import RovixError
from rovix.model import Clip, Project
from rovix.motion.at_frame import at_frame

if TYPE_CHECKING:
    from rovix.desktop.sheet.cards_page import CardsPage
    from rovix.desktop.sheet.page import NumberEdit

Item = Any
"""What a card stands for: a part of a look or an effect, with its `id` and whether it is `shown`."""
_SIDEWAYS = 12  # px that a click may slip sideways
_STEPS = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}
_PLAIN = {key: said for key, said in PAINTS.items() if key != "none"}


class Card(QFrame):
    """One item of a page of cards."""

    def __init__(self, identity: str, kind: str, name: str, fields: CardFields) -> None:
        super().__init__()
        self.identity, self.kind = identity, kind
        self.head, self.fields = CardHead(name, fields), fields
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addWidget(self.head)
        column.addWidget(self.fields)

    def show_item(self, item: Item, is_open: bool) -> None:
        self.head.show_part(item, is_open)
        self.fields.setVisible(is_open)
        if is_open:
            self.fields.show_part(item)


class CardHead(QWidget):
    """The name of a part with its colours; drag it up or down, click it to open.

    Alt+Up and Alt+Down move it too, Space opens, Delete takes it away.
    """

    opened = Signal()
    dragged = Signal(int)
    dropped = Signal(int)
    stepped = Signal(int)
    shown = Signal(bool)
    removed = Signal()
    carried = Signal(QPoint)
    """Let go outside the panel, at a point of the screen: it may be for another clip."""
    asked = Signal(QPoint)

    def __init__(self, name: str, fields: CardFields) -> None:
        super().__init__()
        self._fields = fields
        self._name, self._open = name, False
        self._part: Item | None = None
        self._press: QPointF | None = None
        self._dragging = False
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(name)
        self.setToolTip(
            f"{name}: click to open, drag to change the order (Alt+Up, Alt+Down), or onto another clip."
        )
        self.eye = QToolButton(self, toolTip=f"Show or hide this {name.lower()}.")
        self.eye.setAccessibleName(f"Show {name.lower()}")
        self.eye.clicked.connect(self._toggle)
        self.remove = QToolButton(self, toolTip=f"Take this {name.lower()} away (Delete).")
        self.remove.setAccessibleName(f"Remove {name.lower()}")
        self.remove.setIcon(icon("close", "muted", 14))
        self.remove.clicked.connect(self.removed)

    def _toggle(self) -> None:
        if self._part is not None:
            self.shown.emit(not self._part.shown)

    def sizeHint(self) -> QSize:
        return QSize(200, round(font().pixelSize() * 2.3))

    def minimumSizeHint(self) -> QSize:
        return self.sizeHint()

    def resizeEvent(self, event: object) -> None:
        side = self.height() - 4
        self.eye.setGeometry(self.width() - 2 * side - 4, 2, side, side)
        self.remove.setGeometry(self.width() - side - 2, 2, side, side)

    def show_part(self, part: Item, is_open: bool) -> None:
        if part is not self._part:
            self.eye.setIcon(icon("shown" if part.shown else "hidden", "text" if part.shown else "muted", 14))
        self._part, self._open = part, is_open
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5)
        painter.setPen(QPen(colour("accent"), 1) if self.hasFocus() else Qt.PenStyle.NoPen)
        painter.setBrush(colour("lifted" if self._dragging else "raised"))
        painter.drawRoundedRect(box, 6, 6)
        self._paint_grip(painter, box)
        if self._part is None:
            painter.end()
            return
        painter.setPen(colour("text" if self._part.shown else "muted"))
        painter.setFont(font(1.0))
        swatch = QRectF(22, box.height() / 2 - 6, 20, 13)
        left = 50 if self._fields.paint_swatch(painter, swatch, self._part) else 22
        name = box.adjusted(left, 0, -2 * box.height() - 6, 0)
        painter.setPen(colour("text" if self._part.shown else "muted"))
        painter.drawText(name, Qt.AlignmentFlag.AlignVCenter, self._name)
        painter.setPen(colour("muted"))
        painter.setFont(font(0.92))
        right = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight
        painter.drawText(name.adjusted(0, 0, -4, 0), right, self._fields.summary(self._part))
        painter.end()

    def _paint_grip(self, painter: QPainter, box: QRectF) -> None:
        painter.setPen(QPen(colour("muted"), 1.2))
        middle = box.height() / 2
        for offset in (-3, 0, 3):
            painter.drawLine(QPointF(8, middle + offset), QPointF(15, middle + offset))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self._press = event.position()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        way = event.position() - self._press if self._press is not None else QPointF()
        if abs(way.y()) > 4 or abs(way.x()) > _SIDEWAYS:
            self._dragging = True
        if self._dragging:
            outside = self._is_outside(event)
            self.setCursor(Qt.CursorShape.DragCopyCursor if outside else Qt.CursorShape.ArrowCursor)
            place = self.mapToParent(event.position().toPoint()).y() + parent_of(self).y()
            self.dragged.emit(-1 if outside else place)
            self.update()

    def _is_outside(self, event: QMouseEvent) -> bool:
        """Whether the hand has left the panel that the head stands in."""
        area = self.parentWidget()
        while area is not None and not isinstance(area, QScrollArea):
            area = area.parentWidget()
        at = event.globalPosition().toPoint()
        return area is not None and not area.rect().contains(area.mapFromGlobal(at))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        dragging, self._dragging, press = self._dragging, False, self._press
        self._press = None
        self.unsetCursor()
        if dragging and self._is_outside(event):
            self.carried.emit(event.globalPosition().toPoint())
        elif dragging:
            self.dropped.emit(self.mapToParent(event.position().toPoint()).y() + parent_of(self).y())
        elif press is not None:
            self.opened.emit()

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        self.asked.emit(event.globalPos())

    def keyPressEvent(self, event: QKeyEvent) -> None:
        alt = event.modifiers() & Qt.KeyboardModifier.AltModifier
        if alt and event.key() in _STEPS:
            self.stepped.emit(_STEPS[Qt.Key(event.key())])
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.opened.emit()
        elif event.key() == Qt.Key.Key_Delete:
            self.removed.emit()
        elif event.key() == Qt.Key.Key_Escape and self._dragging:
            self._dragging, self._press = False, None
            self.dragged.emit(-1)
        else:
            super().keyPressEvent(event)

    def event(self, event: Any) -> bool:
        # Space, Delete and the arrows with Alt are this head's own while it has the focus, not shortcuts.
        if event.type() == event.Type.ShortcutOverride and (
            event.key() in (Qt.Key.Key_Space, Qt.Key.Key_Delete)
            or (event.key() in _STEPS and event.modifiers() & Qt.KeyboardModifier.AltModifier)
        ):
            event.accept()
            return True
        return super().event(event)


class CardFields(Rows):
    """The fields of one item, each with the pip of its channel."""

    def __init__(self, page: CardsPage, item: Item) -> None:
        super().__init__()
        self._page, self._part, self._id = page, item, item.id
        self._name = page.names[page.kind_of(item)]
        self._numbers: dict[str, NumberField] = {}
        self._choices: dict[str, Segments] = {}
        self._colour: ColourButton | None = None
        self._paint: PaintFields | None = None

    def paint_swatch(self, painter: QPainter, box: QRectF, item: Item) -> bool:
        """Paint an item's colours into its head; False where it has none."""
        paint = getattr(item, "paint", None)
        stops = getattr(paint, "stops", None)
        if stops is not None:
            painter.setPen(Qt.PenStyle.NoPen)
            ramp = QRectF(box)
            ramp.setWidth(box.width() / len(stops))
            for number, stop in enumerate(stops):
                painter.setBrush(QColor(stop.colour[:7]))
                painter.drawRect(ramp.translated(number * ramp.width(), 0))
            return True
        shade = getattr(paint, "colour", None) or getattr(item, "colour", None)
        if shade is None:
            return False
        painter.setPen(QPen(colour("line"), 1))
        painter.setBrush(QColor(shade[:7]))
        painter.drawRoundedRect(box, 3, 3)
        return True

    def summary(self, item: Item) -> str:
        """The value that says most about an item."""
        return ""

    def show_part(self, part: Item) -> None:
        """Show what goes by the leading clip's item alone."""
        self._part = part
        if self._paint is not None:
            self._paint.show_paint(part.paint)

    def reading(self, read: Callable[[Item], Any]) -> Callable[[Clip], Any]:
        """What each clip's item for this one has at the playhead."""

        def found(clip: Clip) -> Any:
            try:
                item = self._page.item_of(clip, self._id)
            except RovixError:
                return ABSENT
            return read(at_frame(item, self._page.document.frame_of(clip)))

        return found

    def shown(self, part: Item, name: str) -> float | None:
        """What a number's field shows."""
        value = getattr(part, name)
        return None if value is None else float(value)

    def chosen_of(self, part: Item, name: str) -> str:
        """What a choice shows as taken."""
        return str(getattr(part, name))

    def changes(self, part: Item, name: str, value: float) -> dict[str, float]:
        """The channels that a number's field sets."""
        return {name: value}

    def number(
        self, name: str, said: str, unit: str, step: float, decimals: int,
        low: float | None = None, high: float | None = None, factor: float = 1.0,
    ) -> NumberField:  # fmt: skip
        """A field of a channel."""
        field = NumberField(f"{self._name} {lowered(said)}", unit, step, decimals, factor, low, high)
        title = f"Change the {self._name.lower()}'s {lowered(said)}"
        read = self.reading(lambda item: _absent_or(self.shown(item, name)))
        self._numbers[name] = self._page._bind(field, title, self._edit(name), read)
        return field

    def plain(self, name: str, said: str, unit: str, step: float, low: float, high: float) -> NumberField:
        """A field of a whole number that has no keys."""
        field = NumberField(f"{self._name} {lowered(said)}", unit, step, 0, 1.0, low, high)
        title = f"Change the {self._name.lower()}'s {lowered(said)}"

        def edit(project: Project, clip: str, value: float) -> Project:
            return self._page.changing(self._id, **{name: round(value)})(project, clip)

        read = self.reading(lambda item: _absent_or(self.shown(item, name)))
        self._numbers[name] = self._page._bind(field, title, edit, read)
        return field

    def _edit(self, name: str) -> NumberEdit:
        def edit(project: Project, clip: str, value: float) -> Project:
            # What an item is in the project that is edited, the last step, is what an angle changes.
            frame = self._page.frame_in(project, clip)
            own = self._page.item_of(clip_of(project, clip), self._id)
            made = self.changes(at_frame(own, frame), name, value)
            values = {f"{self._page.address(own.id)}.{field}": new for field, new in made.items()}
            return set_channels(project, clip, frame, values)

        return edit

    def address(self, name: str) -> str:
        """Where a channel of the item stands."""
        return f"{self._page.address(self._id)}.{name}"

    def keyed(self, said: str, fields: list[QWidget], *names: str) -> list[QWidget]:
        """A row of fields with a pip for their channels; all that stands in it."""
        addresses = [self.address(name) for name in names]
        reset = self._page.resetting(f"Reset the {self._name.lower()}'s {lowered(said)}", lambda: addresses)
        pip = self._page.pips.pip(f"{self._name} {lowered(said)}", lambda: addresses)
        return [self.add(said, fields, pip, reset), *fields, pip]

    def choice(
        self, name: str, said: str, choices: dict[str, str], tips: dict[str, str] | None = None
    ) -> Segments:
        made = self._choices[name] = Segments(choices, f"{self._name} {lowered(said)}", tips)
        made.chosen.connect(
            lambda value: self.set(f"Change the {self._name.lower()}'s {lowered(said)}", **{name: value})
        )
        self._page.watch(self.reading(lambda item: self.chosen_of(item, name)), made.show_choice)
        return made

    def colour(self) -> ColourButton:
        self._colour = self._page.colour(
            ColourButton(f"{self._name} colour"), f"Colour the {self._name.lower()}",
            lambda value: self._page.setting({self.address("colour"): value}),
        )  # fmt: skip
        self._page.watch(self.reading(lambda item: item.colour), self._colour.show_colour)
        return self._colour

    def paint(self) -> PaintFields:
        def edit(project: Project, clip: str, change: Callable[[Any], Any]) -> Project:
            own = self._page.item_of(clip_of(project, clip), self._id)
            return self._page.changed(project, clip, own.id, paint=change(own.paint))

        self._paint = PaintFields(self._page, self._name, _PLAIN, edit, lambda: self.address("paint"))
        return self._paint

    def set(self, title: str, **changes: Any) -> None:
        """One step that changes plain fields of the item."""
        self._page._do(title, self._page.changing(self._id, **changes))


def _absent_or(value: float | None) -> Any:
    return ABSENT if value is None else value
