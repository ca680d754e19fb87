"""Waiting for the window."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtTest import QTest


def wait_for(condition: Callable[[], object], most: int) -> bool:
    """Run the event loop until a condition holds; False after `most` ms."""
    for _ in range(most // 10):
        if condition():
            return True
        QTest.qWait(10)
    return bool(condition())
