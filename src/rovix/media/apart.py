"""What comes from outside is first opened by another process, within limits of memory and time.

A file that makes a decoder end, wait or eat memory costs that process, and becomes one sentence.
"""

from __future__ import annotations

from collections.abc import Callable
from multiprocessing import current_process
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Any, TypeVar, cast

from rovix.media.errors import MediaError
from rovix.processes import Limits, started

T = TypeVar("T")
_MEMORY = 2 << 30
_SECONDS = 20.0


def apart(work: Callable[..., T], path: Path, *arguments: Any, seconds: float = _SECONDS) -> T:
    """What `work(path, *arguments)` gives, done by another process. MediaError when that fails.

    The result comes over a pipe, so it is plain data. In a process that may have none of its own, as those of
    a cluster, it is done here: whoever sent it there has had the file opened already.
    """
    if current_process().daemon:
        return work(path, *arguments)
    limits = Limits(memory=_MEMORY, seconds=round(seconds) + 1)
    process, connection = started(_do, work, path, arguments, limits=limits)
    try:
        if not connection.poll(seconds):
            raise MediaError(path, f"it took longer than {seconds:.0f} s, and was given up")
        done, result = connection.recv()
    except EOFError:
        raise MediaError(path, f"it ended its reader, or needs more than {_MEMORY >> 30} GB") from None
    finally:
        connection.close()
        process.kill()
        process.join()
        process.close()
    if not done:
        raise MediaError(path, result)
    return cast(T, result)


def _do(connection: Connection, work: Callable[..., Any], path: Path, arguments: tuple[Any, ...]) -> None:
    try:
        answer: tuple[bool, Any] = (True, work(path, *arguments))
    except MediaError as wrong:
        answer = (False, wrong.reason)
    except MemoryError:
        answer = (False, f"it needs more than {_MEMORY >> 30} GB")
    except Exception as wrong:  # whatever a decoder makes of a hostile file is a reason to refuse it
        answer = (False, f"{type(wrong).__name__}: {wrong}")
    connection.send(answer)
