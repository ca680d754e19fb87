"""A number with its unit: drag to scrub, type a value or a sum, turn the wheel."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial

from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
    QContextMenuEvent,
    QFocusEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QWheelEvent,
)
from PySide6.QtWidgets import QLineEdit, QMenu, QWidget

from rovix.desktop.sheet.mixed import Mixed
from rovix.desktop.sheet.shown_unit import FIRST, HasRate, Shown
from rovix.desktop.theme import colour, font
from rovix.desktop.window_above import window_above
from rovix.edit.sums import Sum, sum_from

_COARSE, _FINE = 10.0, 0.1
_STEPS = 500  # ms without a step of wheel or key that end a change
_TYPED = "0123456789.-+*/("
_OWN_KEYS = frozenset({Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Return, Qt.Key.Key_Enter})


class NumberField(QWidget):
    """Shows `value` x `factor` in `unit`; `tried` while it moves, `set` when it is let go.

    `low` and `high` are limits of the number in this unit; typing beyond them is refused with a reason.
    Times, in s or f, are shown in both, the one that the user prefers first.
    """

    tried = Signal(float)
    committed = Signal(float)
    tried_each = Signal(object)
    """Where several values are shown: what each is to become, as a function of what it is."""
    committed_each = Signal(object)
    dropped = Signal()
    reset = Signal()

    def __init__(
        self,
        name: str,
        unit: str,
        step: float = 1.0,
        decimals: int = 0,
        factor: float = 1.0,
        low: float | None = None,
        high: float | None = None,
    ) -> None:
        super().__init__()
        self._name, self._own = name, Shown(unit, factor, decimals, step)
        self._low, self._high = low, high
        self._value: float | None = 0.0
        self._press: QPointF | None = None
        self._scrubbed: float | None = None
        self._by = 0.0
        """While values differ: by how much each is scrubbed or stepped."""
        self._wrong = ""
        self._edit: QLineEdit | None = None
        self._resets = False
        self._tip = ""
        """What is said of the field from outside, in place of its own words."""
        self._stepping = QTimer(self, singleShot=True, interval=_STEPS)
        self._stepping.timeout.connect(self._commit)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.SizeHorCursor)
        self.setAttribute(Qt.WidgetAttribute.WA_Hover)
        self.show_unit(unit)

    def show_unit(self, unit: str) -> None:
        """The unit that stands behind the number, and that may be typed there."""
        self._own = replace(self._own, unit=unit)
        self.show_times()

    def show_times(self) -> None:
        """Show times anew, as the rate is and as the user prefers."""
        unit = self.shown.unit
        told = unit and unit.lower() != self._name.lower()
        self.setAccessibleName(f"{self._name}, {unit}" if told else self._name)
        self._say()
        self.updateGeometry()
        self._tell()

    @property
    def shown(self) -> Shown:
        """How the number is shown now."""
        window = self._window_with_rate() if self._own.is_time else None
        if window is None or window.first_of_times() in ("", self._own.unit):
            return self._own
        return self._own.other(window.frames_a_second())

    def allow_reset(self) -> None:
        """Let Delete and the field's menu signal `reset`."""
        self._resets = True
        self._say()

    def sizeHint(self) -> QSize:
        return QSize(112 if self._own.is_time else 68, round(font().pixelSize() * 1.85))

    def minimumSizeHint(self) -> QSize:
        widest = "−000.0" if self._own.decimals else "−0000"
        width = self.fontMetrics().horizontalAdvance(widest + self._own.unit) + 16
        return QSize(width, self.sizeHint().height())

    @property
    def value(self) -> float | None:
        """The value in the model's unit; None when several differ."""
        return self._value

    def show_value(self, value: float | Mixed | None) -> None:
        """Show a value of the model without signalling; `MIXED` or None where several differ."""
        made = None if value is None or isinstance(value, Mixed) else float(value)
        if made is None and self._value is None:
            return
        if made != self._value:
            self._stepping.stop()  # of another layer, or taken back
            self._value, self._by = made, 0.0
            self._tell()

    def text(self) -> str:
        """The number as it is shown."""
        if self._value is None:
            return f"mixed {self._by * self.shown.factor:+g}" if self._by else "mixed"
        return self.shown.text(self._value)

    def _tell(self) -> None:
        """Show the number, and tell it to those who hear the window."""
        self.setAccessibleDescription(f"{self.text()} {self.shown.unit}".strip())
        self.update()

    def other_text(self) -> str:
        """A time in the unit that it is not shown in; empty for what is no time."""
        window = self._window_with_rate() if self._own.is_time else None
        if window is None or self._value is None:
            return ""
        first = self.shown
        other = self._own if first is not self._own else self._own.other(window.frames_a_second())
        return f"{other.text(self._value)} {other.unit}"

    def _say(self) -> None:
        unit = self.shown.unit
        low, high = self._limits()
        limits = ""
        if low is not None and high is not None:
            limits = f" From {low:g} to {high:g}{' ' + unit if unit else ''}."
        said = self._tip or f"{self._name}{f' in {unit}' if unit else ''}."
        times = {"s": ", also in frames (12f)", "f": ", also in seconds (0.4s)"}.get(unit, "")
        reset = "; Delete resets it" if self._resets else ""
        super().setToolTip(
            f"{said}{limits} Drag to change (Shift coarse, Ctrl fine), turn the wheel, or type "
            f"a value, a sum{times}, or what to do to it (+10, *1.5){reset}."
        )

    def setToolTip(self, text: str) -> None:
        """Say what the field is, in place of its own words."""
        self._tip = text
        self._say()

    def _limits(self) -> tuple[float | None, float | None]:
        """The limits in the unit that is shown."""
        share = self.shown.factor / self._own.factor
        low, high = (None if limit is None else round(limit * share, 6) for limit in (self._low, self._high))
        return low, high

    # Painting

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5)
        edge = "problem" if self._wrong else ("accent" if self.hasFocus() else None)
        painter.setPen(QPen(colour(edge), 1) if edge else Qt.PenStyle.NoPen)
        painter.setBrush(colour("lifted" if self.underMouse() else "raised"))
        painter.drawRoundedRect(box, 5, 5)
        painter.setFont(font(0.88))
        unit, room = self.shown.unit, box.adjusted(4, 0, -7, 0)
        if unit:
            painter.setPen(colour("muted"))
            painter.drawText(room, _RIGHT, unit)
            room.adjust(0, 0, -painter.fontMetrics().horizontalAdvance(unit) - 4, 0)
        painter.setFont(font())
        painter.setPen(colour("muted" if self._value is None else "text"))
        painter.drawText(room, _RIGHT, self.text())
        room.adjust(0, 0, -painter.fontMetrics().horizontalAdvance(self.text()) - 6, 0)
        self._paint_other(painter, room)
        painter.end()

    def _paint_other(self, painter: QPainter, room: QRectF) -> None:
        """A time in its other unit too, where there is room for all of it."""
        other = self.other_text()
        painter.setFont(font(0.88))
        if other and painter.fontMetrics().horizontalAdvance(other) + 4 <= room.width():
            painter.setPen(colour("muted"))
            painter.drawText(room.adjusted(4, 0, 0, 0), _LEFT, other)

    # Scrubbing

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self.end_steps()
            self._press, self._scrubbed = event.position(), None

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._press is None:
            return
        way = event.position().x() - self._press.x()
        if self._scrubbed is None and abs(way) < 3:
            return
        if self._scrubbed is None:
            self._scrubbed = self._value or 0.0
        self._try(self._scrubbed, way * self.shown.step * _pace(event.modifiers()) / self.shown.factor)

    def _try(self, start: float, by: float) -> None:
        """Try a value so far from a start, or, where values differ, so far from each."""
        if self._value is None:
            self._by = self.shown.rounded(by)
            self._tell()
            self.tried_each.emit(self._moved())
        else:
            self._value = self._limited(start + by)
            self._tell()
            self.tried.emit(self._value)

    def _moved(self) -> Callable[[float], float]:
        by = self._by
        return lambda value: self._limited(value + by)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        scrubbed, self._scrubbed = self._scrubbed, None
        pressed, self._press = self._press, None
        if scrubbed is not None:
            self._commit()
        elif pressed is not None and self.rect().contains(event.position().toPoint()):
            self.begin_typing()

    def wheelEvent(self, event: QWheelEvent) -> None:
        if not self.hasFocus():
            event.ignore()
            return
        self._step_by(event.angleDelta().y() / 120 * _pace(event.modifiers()))

    def _step_by(self, steps: float) -> None:
        """Go on by steps; those that follow each other soon are one change."""
        if not steps:
            return
        by = steps * self.shown.step / self.shown.factor
        self._stepping.start()
        self._try(self._value or 0.0, by + (self._by if self._value is None else 0.0))

    def end_steps(self) -> None:
        """Keep at once what was stepped to, as where work is saved or left."""
        if self._stepping.isActive():
            self._stepping.stop()
            self._commit()

    def _commit(self) -> None:
        if self._value is not None:
            self.committed.emit(self._value)
        elif self._by:
            moved, self._by = self._moved(), 0.0
            self.update()
            self.committed_each.emit(moved)
        else:
            self.dropped.emit()  # back where each was: what was tried on the way goes

    def _limited(self, value: float) -> float:
        value = self.shown.rounded(value)
        if self._low is not None:
            value = max(self._low / self._own.factor, value)
        if self._high is not None:
            value = min(self._high / self._own.factor, value)
        return value

    # Typing

    def begin_typing(self, first: str = "") -> None:
        """Open the field for a value or a sum."""
        self.end_steps()
        if self._edit is not None:
            return
        edit = QLineEdit(self)
        edit.setText(first or ("" if self._value is None else self.text().replace("−", "-")))
        edit.setGeometry(self.rect())
        edit.setAlignment(Qt.AlignmentFlag.AlignRight)
        edit.setAccessibleName(self.accessibleName())
        edit.show()
        if not first:
            edit.selectAll()
        edit.setFocus()
        edit.editingFinished.connect(self._typed)
        edit.installEventFilter(self)
        self._edit = edit

    def eventFilter(self, watched: object, event: QEvent) -> bool:
        if event.type() != QEvent.Type.KeyPress or not isinstance(event, QKeyEvent):
            return False
        if event.key() == Qt.Key.Key_Escape:
            self._close_edit()
            self.dropped.emit()
            return True
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            # Passed on, it would come to this field next and open it anew.
            self._typed()
            return True
        return False

    def finish_typing(self) -> None:
        """Take what is being typed, as Enter does."""
        self._typed()

    def _typed(self) -> None:
        edit = self._edit
        if edit is None:
            return
        text = edit.text()
        self._close_edit()
        if self._value is None and not text.strip():
            return  # nothing was typed over what differs
        try:
            as_shown = self.shown
            change = sum_from(text, as_shown.unit, self._frames_a_second())
            shown = change((self._value or 0.0) * as_shown.factor)
            if self._value is not None or not change.goes_on:
                self._check(shown)
        except ValueError as wrong:
            self._refuse(str(wrong))
            return
        self._wrong = ""
        self._say()
        if self._value is None and change.goes_on:
            self.committed_each.emit(self._worked_out(change))
            return
        self._value = shown / as_shown.factor
        self._tell()
        self.committed.emit(self._value)

    def _worked_out(self, change: Sum) -> Callable[[float], float]:
        factor = self.shown.factor
        return lambda value: self._limited(change(value * factor) / factor)

    def _frames_a_second(self) -> float | None:
        """The rate of the document whose window the field is in."""
        window = self._window_with_rate()
        return None if window is None else window.frames_a_second()

    def _window_with_rate(self) -> HasRate | None:
        return window_above(self, HasRate)  # type: ignore[type-abstract]

    def _check(self, shown: float) -> None:
        low, high = self._limits()
        if (low is not None and shown < low) or (high is not None and shown > high):
            least, most = ("any" if limit is None else f"{limit:g}" for limit in (low, high))
            limits = f"{least} to {most} {self.shown.unit}"
            raise ValueError(f"{self._name} goes from {limits.strip()}.")

    def _refuse(self, reason: str) -> None:
        self._wrong = reason
        super().setToolTip(reason)
        self.update()

    @property
    def problem(self) -> str:
        """Why the last typed text was refused; empty when it was not."""
        return self._wrong

    def _close_edit(self) -> None:
        edit, self._edit = self._edit, None
        if edit is not None:
            edit.removeEventFilter(self)
            # Left by a click elsewhere, that is where the keyboard went.
            had_keyboard = edit.hasFocus()
            edit.hide()
            edit.deleteLater()
            if had_keyboard:
                self.setFocus()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self._step_by((1 if event.key() == Qt.Key.Key_Up else -1) * _pace(event.modifiers()))
        elif event.key() == Qt.Key.Key_Escape and (self._scrubbed is not None or self._stepping.isActive()):
            self._press = self._scrubbed = None
            self._by = 0.0
            self._stepping.stop()
            event.ignore()  # the window drops the draft, and the field shows what is then
        elif event.key() == Qt.Key.Key_Delete and self._resets:
            self._stepping.stop()
            self.reset.emit()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_F2):
            self.begin_typing()
        elif event.text() and event.text() in _TYPED:
            self.begin_typing(event.text())
        else:
            super().keyPressEvent(event)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        menu = QMenu(self)
        if self._resets:
            menu.addAction(f"Reset {self._name[:1].lower()}{self._name[1:]}", self.reset.emit)
        menu.addAction("Type a value", self.begin_typing)
        if self._own.is_time:
            self._add_times(menu)
        menu.popup(event.globalPos())

    def _add_times(self, menu: QMenu) -> None:
        """Whether seconds or frames come first, in every field."""
        window = self._window_with_rate()
        if window is None:
            return
        menu.addSeparator()
        for first, said in FIRST.items():
            action = menu.addAction(said, partial(window.prefer_times, first))
            action.setCheckable(True)
            action.setChecked(window.first_of_times() == first)

    def event(self, event: QEvent) -> bool:
        # Figures and arrows typed into the field are its own, not shortcuts.
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent):
            own = event.key() in _OWN_KEYS or (event.key() == Qt.Key.Key_Delete and self._resets)
            if own or (event.text() and event.text() in _TYPED):
                event.accept()
                return True
        return super().event(event)

    def focusInEvent(self, event: QFocusEvent) -> None:
        self.update()
        super().focusInEvent(event)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        self.end_steps()
        self.update()
        super().focusOutEvent(event)


_LEFT = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
_RIGHT = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter


def _pace(modifiers: Qt.KeyboardModifier) -> float:
    if modifiers & Qt.KeyboardModifier.ShiftModifier:
        return _COARSE
    return _FINE if modifiers & Qt.KeyboardModifier.ControlModifier else 1.0
