"""Encoders that take the machine for themselves are put back among the other work."""

from __future__ import annotations

import os
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path


@contextmanager
def among_others() -> Iterator[None]:
    """Let threads be scheduled afterwards as this one was before.

    With the rights of root SVT-AV1 makes its threads, and the one that opens it, real-time at the highest
    priority. All else would wait for them, the window and what they themselves wait for among it.
    """
    before = os.sched_getscheduler(0)
    try:
        yield
    finally:
        if os.sched_getscheduler(0) != before:
            for thread in Path("/proc/self/task").iterdir():
                with suppress(ProcessLookupError):
                    os.sched_setscheduler(int(thread.name), before, os.sched_param(0))
