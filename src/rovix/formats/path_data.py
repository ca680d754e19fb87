"""Closed lines as path data of SVG, for tables and other programs."""

from __future__ import annotations

from typing import Any

from fontTools.pens.recordingPen import RecordingPen
from fontTools.svgLib.path import parse_path

from rovix.errors import RovixError
from rovix.model.contour import Contour

_MOST = 1000


def path_data(line: Contour) -> str:
    """One closed subpath (SVG 2, section 9.3), straight pieces as L, curved ones as C, in px."""
    said = [f"M{_pair(line[0][0], line[0][1])}"]
    for here, there in zip(line, (*line[1:], line[0]), strict=True):
        end = _pair(there[0], there[1])
        if not any(here[4:]) and not any(there[2:4]):
            said.append(f"L{end}")
        else:
            first, second = (
                _pair(here[0] + here[4], here[1] + here[5]),
                _pair(there[0] + there[2], there[1] + there[3]),
            )
            said.append(f"C{first} {second} {end}")
    return " ".join([*said, "Z"])


def line_of(data: str) -> Contour:
    """The line of path data with one closed subpath; RovixError, with the reason, for any other."""
    pen = RecordingPen()
    try:
        parse_path(data, pen)
    except Exception as wrong:
        raise RovixError(f"'{data[:40]}' is no path data of SVG: {wrong}.") from wrong
    points: list[list[float]] = []
    for name, ends in pen.value:
        if name == "moveTo" and points:
            raise RovixError("The path data has several parts; a mask's line is one.")
        _take(points, name, ends)
    if len(points) > 2 and points[-1][:2] == points[0][:2]:
        # What comes back to its start by itself ends there.
        last = points.pop()
        points[0][2:4] = last[2:4]
    if not 2 <= len(points) <= _MOST:
        raise RovixError(f"The path data has {len(points)} points; a mask's line has 2 to {_MOST}.")
    return tuple(tuple(point) for point in points)  # type: ignore[misc]


def _take(points: list[list[float]], name: str, ends: Any) -> None:
    """One more piece of a path, quadratic ones as cubic."""
    if name in ("closePath", "endPath"):
        return
    x, y = ends[-1]
    if name in ("moveTo", "lineTo"):
        points.append([x, y, 0.0, 0.0, 0.0, 0.0])
        return
    start = points[-1]
    if name == "qCurveTo":
        (mx, my) = ends[0]
        first = (start[0] + 2 / 3 * (mx - start[0]), start[1] + 2 / 3 * (my - start[1]))
        second = (x + 2 / 3 * (mx - x), y + 2 / 3 * (my - y))
    else:
        first, second = ends[0], ends[1]
    start[4:6] = [first[0] - start[0], first[1] - start[1]]
    points.append([x, y, second[0] - x, second[1] - y, 0.0, 0.0])


def _pair(x: float, y: float) -> str:
    return f"{round(x, 4):g},{round(y, 4):g}" if max(abs(x), abs(y)) < 1e4 else f"{x:.4f},{y:.4f}"
