"""From a part of the window up to the window, as far as the part knows it."""

from __future__ import annotations

from typing import TypeVar

from PySide6.QtWidgets import QWidget

T = TypeVar("T")


def window_above(widget: QWidget, kind: type[T]) -> T | None:
    """The nearest window above a widget, dialogs passed by, that is of a kind or has what a protocol asks."""
    window: QWidget | None = widget.window()
    while window is not None and not isinstance(window, kind):
        parent = window.parentWidget()
        window = None if parent is None else parent.window()
    return window
