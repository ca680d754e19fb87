"""Notices processes whose threads wait for one another for good.

An encoder has threads of its own, and each can wait for another that waits for it. Nothing is heard from such
a process then, and it does not end either.
"""

from __future__ import annotations

import os
import signal
import time
from contextlib import suppress
from dataclasses import dataclass, field
from pathlib import Path

LOOK = 2.0
"""Seconds between two looks."""
LONG = 20.0
"""Seconds of it, after which nothing is to be hoped for."""
_ASLEEP = "SI"
_LOCK = "futex"  # what the system calls waiting for another thread


@dataclass(slots=True)
class Stillness:
    """Watches processes that work on one thing together, by their numbers; ask :meth:`for_good` often."""

    pids: list[int]
    _spent: int | None = None
    _looked: float = field(default_factory=time.monotonic)
    _since: float = 0.0

    def for_good(self) -> bool:
        """Whether nothing has moved for long, and one waits for a thread of its own. What waits for a disk,
        for the processor or for someone else, or was stopped by hand, is at work."""
        now = time.monotonic()
        if now - self._looked < LOOK:
            return False
        self._looked, spent = now, _still(self.pids)
        if spent is None or spent != self._spent:
            self._spent, self._since = spent, now
        return now - self._since >= LONG

    def end(self) -> None:
        """Kill them all."""
        for pid in self.pids:
            with suppress(ProcessLookupError):
                os.kill(pid, signal.SIGKILL)


def _still(pids: list[int]) -> int | None:
    """The processor time that processes have used, in ticks, if all their threads sleep and the first of one
    waits for another; else None."""
    try:
        threads = [_thread(path) for pid in pids for path in Path(f"/proc/{pid}/task").iterdir()]
        locked = any(_LOCK in Path(f"/proc/{pid}/wchan").read_text(encoding="ascii") for pid in pids)
    except OSError:
        return None  # one has ended, which is heard of elsewhere
    if not locked or any(state not in _ASLEEP for state, _ in threads):
        return None
    return sum(ticks for _, ticks in threads)


def _thread(path: Path) -> tuple[str, int]:
    """A thread's state and its processor time in ticks: fields 3, 14 and 15 of proc(5)."""
    fields = (path / "stat").read_text(encoding="utf-8", errors="replace").rpartition(")")[2].split()
    return fields[0], int(fields[11]) + int(fields[12])
