"""Waiting for pictures from processes, without a window."""

from __future__ import annotations

import time
from multiprocessing.connection import wait


def listen(service, seconds=90.0):
    """Take answers until the wanted picture comes."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        for connection in wait([w.connection for w in service._workers], 0.2):
            picture = service.receive(connection)
            if picture is not None:
                return picture
    raise AssertionError("no picture came")


def wanted(service, frame):
    return service.want(frame) or listen(service)
