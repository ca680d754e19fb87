"""How large an exported file will be, found beside the window while choices rest."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject, QTimer, Signal

from rovix.engine.estimate_process import Estimate, EstimateProcess
from rovix.engine.export_job import ExportJob

_REST, _LOOK = 600, 100
"""How long choices rest before anything is tried, and how often it is looked at; in ms."""
Ask = Callable[[], ExportJob]


class Weight(QObject):
    """Tries the newest job that was asked about, and no other."""

    found = Signal(str)
    """What is known, in words; empty when nothing is, or what was known is past."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._ask: Ask | None = None
        self._process: EstimateProcess | None = None
        self._leaving: list[EstimateProcess] = []
        self._rest = QTimer(self, interval=_REST, singleShot=True)
        self._rest.timeout.connect(self._begin)
        self._tick = QTimer(self, interval=_LOOK)
        self._tick.timeout.connect(self._look)

    def ask(self, ask: Ask) -> None:
        """Find the size of the job that `ask` gives once choices rest."""
        self.forget()
        self._ask = ask
        self._rest.start()

    def forget(self) -> None:
        """Stop; what was found is past. Never waits."""
        self._rest.stop()
        if self._process is not None:
            self._process.cancel()
            self._leaving.append(self._process)
            self._process = None
        self.found.emit("")

    def close(self) -> None:
        """Stop, and wait until nothing is left."""
        self.forget()
        self._tick.stop()
        while self._leaving:
            self._leaving.pop().close()

    def _begin(self) -> None:
        if self._ask is not None:
            job = self._ask()
            if job.span.length:
                self._process = EstimateProcess(job)
                self._tick.start()
                self.found.emit("Finding the size…")

    def _look(self) -> None:
        for process in [process for process in self._leaving if not process.is_alive]:
            process.close()
            self._leaving.remove(process)
        if self._process is not None:
            self._look_at(self._process)
        elif not self._leaving:
            self._tick.stop()

    def _look_at(self, process: EstimateProcess) -> None:
        alive = process.is_alive  # before looking, so that what it said last is not missed
        found = process.found()
        if found is not None or not alive:
            self.found.emit("" if found is None else said_of(found))
        if not alive:
            self._process = None
            self._leaving.append(process)


def said_of(found: Estimate) -> str:
    """What is known of a file, in words."""
    size, loud = f"About {in_words(found.size)}", found.loudness
    if loud is None or loud.is_silent:
        return size
    return f"{size}; sound now {loud.said}"


def in_words(count: int) -> str:
    """Bytes in decimal units (IEC 80000-13), with two digits or three."""
    units = ("bytes", "kB", "MB", "GB", "TB")
    value, unit = float(count), 0
    while value >= 999.5 and unit < len(units) - 1:
        value, unit = value / 1000, unit + 1
    return f"{value:.1f} {units[unit]}" if unit and value < 9.95 else f"{value:.0f} {units[unit]}"
