"""Looking through everything for garbage takes a tenth of a second: it waits until hands rest.

Only what is young is looked through as it comes, which takes a few milliseconds. What is old and in circles
is rare, as projects are trees.
"""

from __future__ import annotations

import gc
import time
from collections.abc import Callable

from PySide6.QtCore import QEvent, QObject, QTimer

_YOUNG, _MIDDLE, _OLD = 1_500, 15, 1_000
_RESTS = 1.5
"""Seconds without a key or the mouse after which hands rest."""
_WORTH = 4
"""Times that the middle-aged were looked through since, under which there is nothing to look for."""
_HANDS = frozenset({
    QEvent.Type.MouseMove, QEvent.Type.MouseButtonPress, QEvent.Type.MouseButtonRelease, QEvent.Type.Wheel,
    QEvent.Type.KeyPress, QEvent.Type.KeyRelease,
})  # fmt: skip


class IdleGarbage(QObject):
    """Collects all garbage while nothing is done and nothing plays; `busy` says whether something does."""

    def __init__(self, parent: QObject, busy: Callable[[], bool]) -> None:
        super().__init__(parent)
        self._busy, self._touched = busy, time.monotonic()
        self._timer = QTimer(self, interval=1000)
        self._timer.timeout.connect(self.look)
        self.collected = 0

    def begin(self) -> None:
        """From now on; garbage is looked for by itself only where much has gathered."""
        gc.set_threshold(_YOUNG, _MIDDLE, _OLD)
        self._timer.start()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() in _HANDS:
            self._touched = time.monotonic()
        return False

    def look(self) -> None:
        """Collect, if hands rest and it is worth it."""
        if self._busy() or time.monotonic() - self._touched < _RESTS or gc.get_count()[2] < _WORTH:
            return
        gc.collect()
        self.collected += 1
