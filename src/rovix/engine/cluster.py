"""Ranges of an export written by the workers of a Dask cluster, which see the same folders as we do."""

from __future__ import annotations

import os
import platform
import secrets
import threading
import time
from collections.abc import Callable
from functools import partial
from importlib.metadata import version
from pathlib import Path
from typing import Any

import av

from rovix import __version__
from rovix.engine.export import WriteRanges
from rovix.engine.export_job import ExportJob
from rovix.engine.lanes import said
from rovix.engine.ranges import Drawing, Range, write_range
from rovix.errors import RovixError

_SECONDS = 10  # to reach a scheduler
_OFTEN = 0.3  # seconds between two looks at whether to go on
_ALIKE = ("skia-python", "numpy", "opencv-python-headless", "pillow", "uharfbuzz")
_ONE = threading.Lock()


def on_cluster(address: str) -> WriteRanges:
    """What writes ranges on a Dask cluster, to be given to :func:`rovix.engine.export.export`.

    Its workers need the media, the fonts and the place of the file under the same paths, and the same
    versions as here, or pictures could differ: both is looked at first. RovixError for a package that is not
    installed, a scheduler that does not answer, and what cannot be written.
    """
    try:
        import distributed  # noqa: F401  # is in the extra rovix[cluster] alone
    except ImportError:
        raise RovixError(
            "Exporting on a cluster needs Dask, which is not installed. Install rovix[cluster]."
        ) from None
    return partial(_write, address)


def _write(address: str, job: ExportJob, ranges: list[Range], told: Callable[[int], None]) -> None:
    from distributed import Client

    try:
        client = Client(address, timeout=_SECONDS, set_as_default=False)
    except (OSError, ValueError, TimeoutError) as wrong:
        raise RovixError(f"No scheduler answers at {address}: {wrong}. Is it started there?") from wrong
    with client:
        _check(client, job, ranges)
        given = client.scatter(job, broadcast=True)
        name = f"rovix-{secrets.token_hex(6)}"
        waiting = {
            client.submit(_range_written, given, wanted, key=f"{name}-{number}", pure=False): wanted
            for number, wanted in enumerate(ranges)
        }
        done = 0
        try:
            while waiting:
                time.sleep(_OFTEN)
                for future in [future for future in waiting if future.done()]:
                    done += _counted(future, waiting.pop(future))
                told(done)
        except BaseException:
            client.cancel(list(waiting), force=True)
            raise


def _counted(future: Any, wanted: Range) -> int:
    """How many pictures are there with a range that is done. RovixError for one that cannot be."""
    wrong = future.exception()
    if wrong is not None:
        span = wanted.span
        reason = str(wrong) if isinstance(wrong, RovixError) else f"{type(wrong).__name__}: {wrong}"
        raise RovixError(f"Frames {span.start} to {span.end - 1} could not be written. {reason}")
    return wanted.span.length


def _range_written(job: ExportJob, wanted: Range) -> None:
    """At a worker: draw and encode a range here, one at a time in a process."""
    with _ONE:
        if wanted.is_there:
            return  # another worker, taken for lost, had written it
        try:
            with Drawing(job) as drawing:
                write_range(job, wanted, drawing)
        except RovixError:
            raise
        except (av.FFmpegError, OSError) as wrong:
            raise RovixError(said(wrong, job)) from None


def _check(client: Any, job: ExportJob, ranges: list[Range]) -> None:
    """RovixError for a cluster without workers, with other versions, or that does not see our folders."""
    versions = client.run(versions_here)
    if not versions:
        raise RovixError("The cluster has no workers. Start some, then export again.")
    ours = versions_here()
    for worker, theirs in versions.items():
        apart = [f"{name} {theirs[name]}, here {own}" for name, own in ours.items() if theirs[name] != own]
        if apart:
            raise RovixError(
                f"The worker {worker} has other versions than this machine, and could draw other pictures: "
                f"{'; '.join(apart)}. Install the same ones there."
            )
    _check_folders(client, job, ranges)


def _check_folders(client: Any, job: ExportJob, ranges: list[Range]) -> None:
    folder = ranges[0].path.parent
    token = folder / f"seen-{secrets.token_hex(4)}"
    token.write_text("", encoding="utf-8")
    files = [str(token), *(str((job.base / media.path).resolve()) for media in job.project.media)]
    try:
        for worker, missing in client.run(_not_seen, files).items():
            if missing:
                raise RovixError(
                    f"The worker {worker} does not see {missing[0]}. Media and the place of the file must be "
                    "in a folder that all machines share, under the same path."
                )
    finally:
        token.unlink()


def _not_seen(files: list[str]) -> list[str]:
    """Those of some files that cannot be read where this runs."""
    return [file for file in files if not os.access(Path(file), os.R_OK)]


def versions_here() -> dict[str, str]:
    """What pictures and their encoding depend on, with the version of each."""
    ffmpeg = " ".join(f"{name} {'.'.join(map(str, found))}" for name, found in av.library_versions.items())
    packages = {name: version(name) for name in _ALIKE}
    return {"rovix": __version__, "Python": platform.python_version(), "FFmpeg": ffmpeg, **packages}
