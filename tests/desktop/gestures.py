"""What hands do in tests: points in the timeline, clicks, drags, keys."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QMouseEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from rovix.desktop.timeline.rows import rows_of
from rovix.edit import clip_by_id, find_clip

LEFT = Qt.MouseButton.LeftButton
NONE = Qt.KeyboardModifier.NoModifier
SHIFT, CTRL = Qt.KeyboardModifier.ShiftModifier, Qt.KeyboardModifier.ControlModifier
ALT = Qt.KeyboardModifier.AltModifier


def row_of(window, identity):
    """The row that a clip stands in."""
    project = window.document.project
    number = find_clip(project, identity).track
    return next(row for row in window.timeline.canvas.rows() if row.track == number)


def at(window, identity, frame, height=0.3) -> QPoint:
    """The point of a frame at a share of the height of a clip's row."""
    row = row_of(window, identity)
    return QPoint(round(window.timeline.canvas.scale.x(frame)), round(row.top + row.height * height))


def row_point(window, number, frame, height=0.5) -> QPoint:
    """The point of a frame in the row of a track by its number."""
    row = next(row for row in rows_of(window.document.project, 0) if row.track == number)
    return QPoint(round(window.timeline.canvas.scale.x(frame)), round(row.top + row.height * height))


def drag(widget, start: QPoint, end: QPoint, modifiers=NONE) -> None:
    """Press, move in four steps, let go."""
    QTest.mousePress(widget, LEFT, modifiers, start)
    for share in (0.25, 0.5, 0.75, 1.0):
        QTest.mouseMove(widget, start + (end - start) * share)
        QTest.qWait(1)
    QTest.mouseRelease(widget, LEFT, modifiers, end)


def pull(widget, start: QPointF, end: QPointF, modifiers=NONE) -> None:
    """A drag whose moves carry modifier keys, which QTest's do not."""
    released = Qt.MouseButton.NoButton
    for kind, point, button, buttons in (
        (QEvent.Type.MouseButtonPress, start, LEFT, LEFT),
        (QEvent.Type.MouseMove, (start + end) / 2, released, LEFT),
        (QEvent.Type.MouseMove, end, released, LEFT),
        (QEvent.Type.MouseButtonRelease, end, LEFT, released),
    ):
        where = QPointF(point)
        event = QMouseEvent(kind, where, widget.mapToGlobal(where), button, buttons, modifiers)
        QApplication.sendEvent(widget, event)


def press(window, key, modifiers=NONE) -> None:
    """A key while the timeline has the focus."""
    window.timeline.canvas.setFocus()
    QTest.keyClick(window.timeline.canvas, key, modifiers)


def click(window, point, modifiers=NONE) -> None:
    QTest.mouseClick(window.timeline.canvas, LEFT, modifiers, point)


def clip(window, identity):
    return clip_by_id(window.document.project, identity)


def spans(window, number):
    """Starts and ends of a track's clips."""
    return [(c.start, c.span.end) for c in window.document.project.sequence.tracks[number].clips]
