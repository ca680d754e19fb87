"""Which track is drawn where: pictures from the highest down, then sounds."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from rovix.desktop.timeline.scale import RULER
from rovix.edit.tracks import track_height
from rovix.model import Project

GAP = 3


@dataclass(frozen=True, slots=True)
class Row:
    """Track number `track` from `top` for `height` px."""

    track: int
    top: int
    height: int

    @property
    def bottom(self) -> int:
        return self.top + self.height


Below = Callable[[int], int]
"""How many px of lanes are under a track's row."""


def _nothing(_track: int) -> int:
    return 0


def rows_of(project: Project, scroll: int = 0, below: Below = _nothing) -> list[Row]:
    """The rows from the top down, moved up by `scroll` px, with room for lanes under each."""
    tracks = project.sequence.tracks
    pictures = [number for number in reversed(range(len(tracks))) if tracks[number].kind == "picture"]
    sounds = [number for number in range(len(tracks)) if tracks[number].kind == "sound"]
    rows, top = [], RULER + GAP - scroll
    for number in [*pictures, *sounds]:
        height = track_height(tracks[number])
        rows.append(Row(number, top, height))
        top += height + below(number) + GAP
    return rows


def content_height(project: Project, below: Below = _nothing) -> int:
    """Px that all rows and lanes need below the ruler."""
    rows = rows_of(project, 0, below)
    return rows[-1].bottom + below(rows[-1].track) - RULER if rows else 0


def row_at(rows: list[Row], y: float) -> Row | None:
    """The row under a y, or None."""
    return next((row for row in rows if row.top <= y < row.bottom), None)


def rows_between(rows: list[Row], top: float, bottom: float) -> set[int]:
    """The numbers of the tracks whose rows share a px with a stretch."""
    return {row.track for row in rows if row.top < bottom and row.bottom > top}
