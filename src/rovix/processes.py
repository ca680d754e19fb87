"""Every other process of ours is forked from one server that has imported the core once.

The server holds no Qt and no thread, and never decodes nor encodes, so forking it is safe and takes
some ten milliseconds, where a process that imports the core itself takes most of a second.
"""

from __future__ import annotations

import ctypes
import gc
import multiprocessing
import os
import resource
import signal
import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from enum import IntEnum
from importlib import import_module
from multiprocessing import forkserver
from multiprocessing.connection import Connection
from multiprocessing.process import BaseProcess
from pathlib import Path
from types import ModuleType
from typing import Any

_PRELOADED = ["rovix.collecting_later", "rovix.preloaded"]
# NumPy's own threads are started when it is imported; the server is to have none.
_ONE_THREAD = {"OPENBLAS_NUM_THREADS": "1", "OMP_NUM_THREADS": "1", "MKL_NUM_THREADS": "1"}


@dataclass(frozen=True, slots=True)
class Limits:
    """What a process may use, enforced by the system: `memory` in bytes beyond what it starts with, and
    `seconds` of the processor. None is no limit."""

    memory: int | None = None
    seconds: int | None = None


def warm_up() -> None:
    """Start the server, so that it is ready when the first process is needed."""
    context = multiprocessing.get_context("forkserver")
    context.set_forkserver_preload(_PRELOADED)
    with _one_thread():
        # By the object, whose method processes of ours replace.
        _server().ensure_running()


def give_back_memory() -> None:
    """Let the system have what is of no more use; readers of files stand in circles, and glibc keeps what was
    freed for a process that may want it again."""
    gc.collect()
    with suppress(OSError, AttributeError):  # another library has no such function
        ctypes.CDLL(None).malloc_trim(0)


def started(
    work: Callable[..., None] | str, *arguments: Any, limits: Limits | None = None
) -> tuple[BaseProcess, Connection]:
    """A new process that does `work(connection, *arguments)`, and our end of its connection.

    Work that this process has no need to import is named, as 'module:function'. It yields to others as
    much as this one does, though it is forked from the server.
    It ignores Ctrl+C, which goes to the whole group: whoever started it decides when it ends.
    """
    warm_up()
    context = multiprocessing.get_context("forkserver")
    ours, theirs = context.Pipe()
    server = _server()._forkserver_address
    process = context.Process(
        target=_begin, args=(server, os.nice(0), work, theirs, limits, arguments), daemon=True
    )
    with _without_main():
        process.start()
    theirs.close()
    return process, ours


class Behind(IntEnum):
    """How far kinds of work stand behind the window's own hands, as the system counts niceness.

    At 5, a drawing process took the core from the window in the midst of a hand's step and kept it for 4 ms
    (measured on two cores); at 15 it seldom does. Other applications have mostly a group of their own, which
    these do not weigh against.
    """

    FIRST = 5  # the first picture of each process, which a start waits for
    PICTURES = 15  # of what is looked at, and its footage
    FINDINGS = 16
    FILES = 17
    CARDS = 18
    JOBS = 19


def give_way(far: int) -> None:
    """Let others go first from now on: by niceness (0 to 19), and by never taking a core from one at work
    just because something came to do."""
    os.nice(far)
    os.sched_setscheduler(0, os.SCHED_BATCH, os.sched_param(0))


def _begin(
    server: str,
    niceness: int,
    work: Callable[..., None] | str,
    connection: Connection,
    limits: Limits | None,
    arguments: tuple[Any, ...],
) -> None:
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    # Daemons may have no processes of their own; ours may, and these end with the pipe to them.
    multiprocessing.process.current_process()._config["daemon"] = False  # type: ignore[attr-defined]
    _share(server)
    if niceness > os.nice(0):
        give_way(niceness - os.nice(0))
    if limits is not None:
        _limit(limits)
    (named(work) if isinstance(work, str) else work)(connection, *arguments)


def named(work: str) -> Callable[..., Any]:
    """A function by its 'module:name'."""
    module, _, name = work.partition(":")
    found: Callable[..., Any] = getattr(import_module(module), name)
    return found


def _server() -> Any:
    """Python's own record of the server."""
    return forkserver._forkserver


def _share(server: str) -> None:
    """Let processes of this one come from the server that it came from: it would start its own."""
    known = _server()
    known._forkserver_address = server
    known.ensure_running = lambda: None


def _limit(limits: Limits) -> None:
    if limits.memory is not None:
        pages = int(Path("/proc/self/statm").read_text().split()[0])
        most = pages * os.sysconf("SC_PAGE_SIZE") + limits.memory
        resource.setrlimit(resource.RLIMIT_AS, (most, most))
    if limits.seconds is not None:
        resource.setrlimit(resource.RLIMIT_CPU, (limits.seconds, limits.seconds))
    # A file of memory beside the work helps nobody.
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))


@contextmanager
def _without_main() -> Iterator[None]:
    """A new process would run the main script once more, to have what it defines; ours need nothing of
    it, and scripts that use Rovix would start themselves again."""
    main = sys.modules["__main__"]
    sys.modules["__main__"] = ModuleType("__main__")
    try:
        yield
    finally:
        sys.modules["__main__"] = main


@contextmanager
def _one_thread() -> Iterator[None]:
    before = {name: os.environ.get(name) for name in _ONE_THREAD}
    os.environ.update(_ONE_THREAD)
    try:
        yield
    finally:
        for name, value in before.items():
            if value is None:
                del os.environ[name]
            else:
                os.environ[name] = value
