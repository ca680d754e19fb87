"""The parts of a look as cards in the sheet: switch, fold, drag, set, take away."""

from __future__ import annotations

from collections.abc import Callable
from math import atan2, cos, degrees, hypot, radians, sin
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QFrame, QToolButton, QVBoxLayout, QWidget

from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.paint_fields import PAINTS, PaintFields
from rovix.desktop.sheet.parts import ColourButton, Rows, Segments
from rovix.desktop.theme import colour, font, icon
from rovix.edit.look import change_part
from rovix.edit.values import set_channels
from rovix.model import Box, Fill, Glow, LongShadow, LookPart, Outline, Project, Shadow, TextClip

if TYPE_CHECKING:
    from rovix.desktop.sheet.look_page import LookPage

NAMES = {
    "fill": "Fill", "outline": "Outline", "shadow": "Shadow", "long-shadow": "Long shadow",
    "glow": "Glow", "box": "Box",
}  # fmt: skip
_STEPS = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}
_PLAIN = {key: said for key, said in PAINTS.items() if key != "none"}


def kind_of(part: LookPart) -> str:
    """The part's kind as the file names it."""
    return str(type(part).__struct_config__.tag)


class PartCard(QFrame):
    """One part: a head that is always there, and its fields when it is open."""

    def __init__(self, page: LookPage, part: LookPart) -> None:
        super().__init__()
        self.identity, self.kind = part.id, kind_of(part)
        self.head = PartHead(NAMES[self.kind])
        self.fields = PartFields(page, part)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addWidget(self.head)
        column.addWidget(self.fields)

    def show_part(self, part: LookPart, is_open: bool) -> None:
        self.head.show_part(part, is_open)
        self.fields.setVisible(is_open)
        if is_open:
            self.fields.show_part(part)


class PartHead(QWidget):
    """The name of a part with its colours; drag it up or down, click it to open.

    Alt+Up and Alt+Down move it too, Space opens, Delete takes it away.
    """

    opened = Signal()
    dragged = Signal(int)
    dropped = Signal(int)
    stepped = Signal(int)
    shown = Signal(bool)
    removed = Signal()

    def __init__(self, name: str) -> None:
        super().__init__()
        self._name, self._open = name, False
        self._part: LookPart | None = None
        self._press: QPointF | None = None
        self._dragging = False
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(name)
        self.setToolTip(f"{name}: click to open, drag to change the order (Alt+Up, Alt+Down).")
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

    def show_part(self, part: LookPart, is_open: bool) -> None:
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
        _paint_swatch(painter, swatch, self._part)
        name = box.adjusted(50, 0, -2 * box.height() - 6, 0)
        painter.setPen(colour("text" if self._part.shown else "muted"))
        painter.drawText(name, Qt.AlignmentFlag.AlignVCenter, self._name)
        painter.setPen(colour("muted"))
        painter.setFont(font(0.92))
        right = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight
        painter.drawText(name.adjusted(0, 0, -4, 0), right, _summary(self._part))
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
        if self._press is not None and abs(event.position().y() - self._press.y()) > 4:
            self._dragging = True
        if self._dragging:
            self.dragged.emit(self.mapToParent(event.position().toPoint()).y() + self.parentWidget().y())
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        dragging, self._dragging, press = self._dragging, False, self._press
        self._press = None
        if dragging:
            self.dropped.emit(self.mapToParent(event.position().toPoint()).y() + self.parentWidget().y())
        elif press is not None:
            self.opened.emit()

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


def _paint_swatch(painter: QPainter, box: QRectF, part: LookPart) -> None:
    paint = getattr(part, "paint", None)
    stops = getattr(paint, "stops", None)
    painter.setPen(QPen(colour("line"), 1))
    if stops is not None:
        ramp = QRectF(box)
        ramp.setWidth(box.width() / len(stops))
        painter.setPen(Qt.PenStyle.NoPen)
        for number, stop in enumerate(stops):
            painter.setBrush(QColor(stop.colour[:7]))
            painter.drawRect(ramp.translated(number * ramp.width(), 0))
        return
    shade = QColor((paint.colour if paint is not None else part.colour)[:7])
    if isinstance(part, Outline):
        # A dark line would be lost on the dark head.
        painter.setPen(QPen(colour("muted"), 5))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRoundedRect(box.adjusted(2, 2, -2, -2), 3, 3)
        painter.setPen(QPen(shade, 3))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRoundedRect(box.adjusted(2, 2, -2, -2), 3, 3)
        return
    painter.setBrush(shade)
    painter.drawRoundedRect(box, 3, 3)


def _summary(part: LookPart) -> str:
    """The value that says most about a part."""
    if isinstance(part, Outline):
        return f"{part.width:g} px"
    if isinstance(part, Shadow):
        return f"{hypot(part.x, part.y):.0f} px"
    if isinstance(part, LongShadow):
        return f"{part.angle:g}°"
    if isinstance(part, Glow):
        return f"{part.size:g} px"
    return "by letter" if part.over == "letter" else "by line" if part.over == "line" else ""


class PartFields(Rows):
    """The fields of one part."""

    def __init__(self, page: LookPage, part: LookPart) -> None:
        super().__init__()
        self._page, self._part, self._id = page, part, part.id
        self._numbers: dict[str, NumberField] = {}
        self._choices: dict[str, Segments] = {}
        self._colour: ColourButton | None = None
        self._paint: PaintFields | None = None
        _BUILD[type(part)](self)
        opacity = self.number("opacity", "Opacity", "%", 1, 0, 0, 100, factor=100)
        self.keyed("Opacity", [opacity], "opacity")

    def show_part(self, part: LookPart) -> None:
        self._part = part
        for name, field in self._numbers.items():
            field.show_value(_polar(part)[name] if name in ("angle_", "distance_") else getattr(part, name))
        for name, choice in self._choices.items():
            choice.show_choice(getattr(part, name))
        if self._colour is not None:
            self._colour.show_colour(part.colour)
        if self._paint is not None:
            self._paint.show_paint(part.paint)

    def number(
        self, name: str, said: str, unit: str, step: float, decimals: int,
        low: float | None = None, high: float | None = None, factor: float = 1.0,
    ) -> NumberField:  # fmt: skip
        """A field of the part."""
        kind = NAMES[kind_of(self._part)]
        field = NumberField(f"{kind} {said.lower()}", unit, step, decimals, factor, low, high)
        title = f"Change the {kind.lower()}'s {said.lower()}"
        self._numbers[name] = self._page._bind(field, title, self._edit(name))
        return field

    def _edit(self, name: str) -> Callable[[Project, float], Project]:
        def edit(project: Project, value: float) -> Project:
            # What a part is now, not what is being tried of it, is what an angle or distance changes.
            now = self._page.committed_part(self._id) or self._part
            changes = _turned(now, name, value) if name in ("angle_", "distance_") else {name: value}
            values = {self.address(name): value for name, value in changes.items()}
            return set_channels(project, self._page._id, self._page._document.clip_frame, values)

        return edit

    def address(self, name: str) -> str:
        """Where a channel of the part stands."""
        return f"look.parts.{self._id}.{name}"

    def keyed(self, said: str, fields: list[QWidget], *names: str) -> None:
        """A row of fields with a ring for their channels."""
        addresses = [self.address(name) for name in names]
        kind = NAMES[kind_of(self._part)]
        reset = self._page.resetting(f"Reset the {kind.lower()}'s {said.lower()}", lambda: addresses)
        self.add(said, fields, self._page.rings.ring(f"{kind} {said.lower()}", lambda: addresses), reset)

    def choice(self, name: str, said: str, choices: dict[str, str]) -> Segments:
        kind = NAMES[kind_of(self._part)]
        made = self._choices[name] = Segments(choices, f"{kind} {said.lower()}")
        made.chosen.connect(
            lambda value: self._set(f"Change the {kind.lower()}'s {said.lower()}", **{name: value})
        )
        return made

    def colour(self) -> ColourButton:
        kind = NAMES[kind_of(self._part)]
        self._colour = ColourButton(f"{kind} colour")
        self._colour.chosen.connect(
            lambda value: self._page.set(f"Colour the {kind.lower()}", {self.address("colour"): value})
        )
        return self._colour

    def paint(self) -> PaintFields:
        kind = NAMES[kind_of(self._part)]

        def edit(project: Project, change: Callable[[Any], Any]) -> Project:
            now = self._page.part_of(project, self._id)
            return change_part(project, self._page._id, self._id, paint=change(now.paint))

        self._paint = PaintFields(self._page, kind, _PLAIN, edit, lambda: self.address("paint"))
        return self._paint

    def _set(self, title: str, **changes: Any) -> None:
        self._page._do(title, lambda p: change_part(p, self._page._id, self._id, **changes))


def _fill_fields(rows: PartFields) -> None:
    rows.add_wide(rows.paint())
    rows.add_wide(rows.choice("over", "Reach", {"block": "Over the block", "letter": "Each letter"}))


def _outline_fields(rows: PartFields) -> None:
    rows.keyed("Colour", [rows.colour()], "colour")
    rows.keyed("Width", [rows.number("width", "Width", "px", 0.5, 1, 0.1, 2000)], "width")
    rows.add_wide(rows.choice("side", "Side", {"outside": "Outside", "centre": "Centre", "inside": "Inside"}))
    rows.add_wide(rows.choice("join", "Corners", {"round": "Round", "miter": "Pointed", "bevel": "Cut"}))


def _shadow_fields(rows: PartFields) -> None:
    rows.keyed("Colour", [rows.colour()], "colour")
    rows.keyed("Offset", [_offset(rows, "x", "Offset across"), _offset(rows, "y", "Offset down")], "x", "y")
    angle = rows.number("angle_", "Angle", "°", 1, 1)
    distance = rows.number("distance_", "Distance", "px", 0.5, 1, 0, 20_000)
    rows.add("Angle, way", [angle, distance])
    blur = rows.number("blur", "Blur", "px", 0.5, 1, 0, 1000)
    spread = rows.number("spread", "Spread", "px", 0.5, 1, -2000, 2000)
    rows.keyed("Blur, spread", [blur, spread], "blur", "spread")


def _offset(rows: PartFields, name: str, said: str) -> NumberField:
    return rows.number(name, said, "px", 0.5, 1, -20_000, 20_000)


def _long_shadow_fields(rows: PartFields) -> None:
    rows.keyed("Colour", [rows.colour()], "colour")
    rows.keyed("Angle", [rows.number("angle", "Angle", "°", 1, 1)], "angle")


def _glow_fields(rows: PartFields) -> None:
    rows.keyed("Colour", [rows.colour()], "colour")
    rows.keyed("Size", [rows.number("size", "Size", "px", 0.5, 1, 0, 1000)], "size")
    strength = rows.number("strength", "Strength", "%", 5, 0, 0, 2000, factor=100)
    rows.keyed("Strength", [strength], "strength")


def _box_fields(rows: PartFields) -> None:
    rows.add_wide(rows.paint())
    padding = [_padding(rows, "padding_x", "across"), _padding(rows, "padding_y", "down")]
    rows.keyed("Padding", list(padding), "padding_x", "padding_y")
    rows.keyed("Corners", [rows.number("radius", "Corner radius", "px", 1, 1, 0, 10_000)], "radius")
    rows.add_wide(rows.choice("over", "Reach", {"block": "Round the block", "line": "Each line"}))


def _padding(rows: PartFields, name: str, way: str) -> NumberField:
    return rows.number(name, f"Padding {way}", "px", 1, 1, -10_000, 10_000)


_BUILD: dict[type, Callable[[PartFields], None]] = {
    Fill: _fill_fields, Outline: _outline_fields, Shadow: _shadow_fields, LongShadow: _long_shadow_fields,
    Glow: _glow_fields, Box: _box_fields,
}  # fmt: skip


def _polar(part: Any) -> dict[str, float]:
    """A shadow's offset as an angle, clockwise from rightwards, and a distance."""
    return {"angle_": degrees(atan2(part.y, part.x)), "distance_": hypot(part.x, part.y)}


def _turned(part: Any, name: str, value: float) -> dict[str, float]:
    polar = _polar(part) | {name: value}
    angle, distance = radians(polar["angle_"]), polar["distance_"]
    return {"x": round(distance * cos(angle), 4), "y": round(distance * sin(angle), 4)}


def text_parts(clip: object) -> tuple[LookPart, ...]:
    """The parts of a clip's look; none where it has no words."""
    return clip.look.parts if isinstance(clip, TextClip) else ()
