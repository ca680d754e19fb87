"""What commands share: sizes, rates, opened projects, progress on a terminal."""

from __future__ import annotations

import re
import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import click

from rovix.time import Rate


class Size(click.ParamType):
    """Width x height in px."""

    name = "WxH"

    def convert(self, value: Any, param: click.Parameter | None, ctx: click.Context | None) -> Any:
        match = re.fullmatch(r"(\d{1,5})x(\d{1,5})", str(value))
        size = (int(match[1]), int(match[2])) if match else None
        if size is None or not all(16 <= side <= 16384 for side in size):
            self.fail(f"'{value}' is no size. Write width x height in px, as in 1280x720.", param, ctx)
        return size


class RateType(click.ParamType):
    """Frames per second, as 25 or 30000/1001."""

    name = "RATE"

    def convert(self, value: Any, param: click.Parameter | None, ctx: click.Context | None) -> Any:
        try:
            return Rate(value)
        except ValueError as wrong:
            self.fail(str(wrong), param, ctx)


sequence_option = click.option("--sequence", help="The name or id of a sequence; the first if not given.")


def opened_project(project: str, sequence: str | None = None) -> Any:
    from rovix.demo import DEMO_PROJECT
    from rovix.engine.open_project import open_project

    return open_project(DEMO_PROJECT if project == "demo" else Path(project), sequence)


@contextmanager
def progress_bar(title: str) -> Iterator[Callable[[int, int], None] | None]:
    """A progress bar with the time left on stderr, when that is a terminal."""
    if not sys.stderr.isatty():
        yield None
        return
    from rich.console import Console  # which the window and short commands do without
    from rich.progress import BarColumn, MofNCompleteColumn, Progress, TextColumn, TimeRemainingColumn

    columns = (TextColumn("{task.description}"), BarColumn(), MofNCompleteColumn(), TimeRemainingColumn())
    with Progress(*columns, console=Console(stderr=True)) as bar:
        task = bar.add_task(title, total=None)
        yield lambda done, total: bar.update(task, completed=done, total=total)
