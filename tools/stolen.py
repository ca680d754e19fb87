"""How much of a virtual machine's processor time others took: figures of such a stretch say nothing."""

from __future__ import annotations

import os
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

_STEAL = 8  # the column of /proc/stat, after 'cpu', in proc(5)


@contextmanager
def watching_others(shares: list[float]) -> Iterator[None]:
    """Adds, of the processor time that passed meanwhile, how many percent went to others."""
    before, start = _stolen(), time.perf_counter()
    yield
    there = (time.perf_counter() - start) * (os.cpu_count() or 1)
    shares.append(100 * (_stolen() - before) / there)


def _stolen() -> float:
    """Seconds since the start of the machine; 0 where it is none that is shared."""
    try:
        line = Path("/proc/stat").read_text(encoding="ascii").splitlines()[0].split()
        return int(line[_STEAL]) / os.sysconf("SC_CLK_TCK")
    except (OSError, ValueError, IndexError):
        return 0.0
