"""Keeping a window on its screen, with the frame that a window manager puts round it."""

from __future__ import annotations

from PySide6.QtCore import QMargins, QPoint, QRect, QTimer
from PySide6.QtWidgets import QWidget

_LATE = 400  # ms: some window managers put their frame on after the window is shown


def fitted(outer: QRect, frame: QMargins, available: QRect) -> tuple[QPoint, QRect]:
    """Where a window with its frame is to be, and the size inside: no larger than what is available."""
    width = min(outer.width(), available.width())
    height = min(outer.height(), available.height())
    left = min(max(outer.left(), available.left()), available.right() + 1 - width)
    top = min(max(outer.top(), available.top()), available.bottom() + 1 - height)
    inner = QRect(0, 0, width, height).marginsRemoved(frame)
    return QPoint(left, top), inner


def keep_on_screen(window: QWidget) -> None:
    """Fit a window that has just been shown, now and once its frame is there."""
    for wait in (0, _LATE):
        QTimer.singleShot(wait, window, lambda: _fit(window))


def _fit(window: QWidget) -> None:
    if window.isFullScreen() or window.isMaximized() or not window.isVisible():
        return
    outer, inner, available = window.frameGeometry(), window.geometry(), window.screen().availableGeometry()
    if available.contains(outer):
        return
    frame = QMargins(
        inner.left() - outer.left(),
        inner.top() - outer.top(),
        outer.right() - inner.right(),
        outer.bottom() - inner.bottom(),
    )
    place, size = fitted(outer, frame, available)
    window.resize(size.size())
    window.move(place)
