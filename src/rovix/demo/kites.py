"""Kites on strings, drawn as plain shapes."""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, pi, radians, sin

import numpy as np
import skia

from rovix.paint.canvas import Canvas

Bgra = tuple[int, int, int, int]
Point = tuple[float, float]
_IDENTITY = np.eye(3)
_STRING: Bgra = (70, 66, 60, 255)


@dataclass(frozen=True, slots=True)
class Kite:
    """A kite that swings around a path; px, seconds, degrees."""

    colours: tuple[Bgra, Bgra]
    height: float
    start: Point
    drift: Point
    sway: Point
    period: float
    phase: float
    hand: Point

    def place(self, seconds: float) -> tuple[Point, float]:
        """Its middle and its turn."""
        turn = 2 * pi * seconds / self.period + self.phase
        x = self.start[0] + self.drift[0] * seconds + self.sway[0] * sin(turn)
        y = self.start[1] + self.drift[1] * seconds + self.sway[1] * sin(2 * turn + 0.7)
        return (x, y), 14 * cos(turn)


def draw_kite(canvas: Canvas, kite: Kite, seconds: float) -> None:
    """Draw string, tail and sail."""
    middle, turn = kite.place(seconds)
    matrix = _placed(middle, turn, kite.height)
    foot = tuple((matrix @ np.array([0.0, 0.62, 1.0]))[:2])
    canvas.draw_path(_string(middle, kite.hand), _IDENTITY, _STRING, 0.75)
    canvas.draw_path(_tail(foot, kite, seconds), _IDENTITY, kite.colours[1])
    corners = {"top": (0.0, -0.38), "right": (0.3, -0.06), "bottom": (0.0, 0.62), "left": (-0.3, -0.06)}
    canvas.draw_path(
        _polygon([corners[name] for name in ("top", "right", "bottom")]), matrix, kite.colours[0]
    )
    canvas.draw_path(_polygon([corners[name] for name in ("top", "left", "bottom")]), matrix, kite.colours[1])
    canvas.draw_path(_polygon([(0.0, -0.06), corners["right"], corners["bottom"]]), matrix, (0, 0, 0, 34))


def _placed(middle: Point, turn: float, height: float) -> np.ndarray:
    cosine, sine = cos(radians(turn)) * height, sin(radians(turn)) * height
    return np.array([[cosine, -sine, middle[0]], [sine, cosine, middle[1]], [0.0, 0.0, 1.0]])


def _polygon(points: list[Point]) -> skia.Path:
    path = skia.Path()
    path.moveTo(*points[0])
    for point in points[1:]:
        path.lineTo(*point)
    path.close()
    return path


def _band(centre: skia.Path, width: float) -> skia.Path:
    paint = skia.Paint(Style=skia.Paint.kStroke_Style, StrokeWidth=width, StrokeCap=skia.Paint.kRound_Cap)
    band = skia.Path()
    paint.getFillPath(centre, band)
    return band


def _string(middle: Point, hand: Point) -> skia.Path:
    path = skia.Path()
    path.moveTo(*middle)
    path.quadTo((middle[0] + hand[0]) / 2 - 40, (middle[1] + hand[1]) / 2 + 120, *hand)
    return _band(path, 2.0)


def _tail(foot: Point, kite: Kite, seconds: float) -> skia.Path:
    path = skia.Path()
    path.moveTo(*foot)
    for step in range(1, 25):
        along = step / 24
        wobble = sin(along * 9 - seconds * 5 + kite.phase) * kite.height * 0.14 * along
        path.lineTo(foot[0] + wobble, foot[1] + along * kite.height * 0.9)
    return _band(path, max(3.0, kite.height * 0.025))


_RED: Bgra = (66, 78, 214, 255)
_DEEP_RED: Bgra = (48, 54, 168, 255)
_YELLOW: Bgra = (62, 178, 240, 255)
_OCHRE: Bgra = (40, 132, 206, 255)
_VIOLET: Bgra = (158, 74, 92, 255)
_NIGHT: Bgra = (120, 50, 66, 255)
_TEAL: Bgra = (150, 146, 44, 255)
_PINE: Bgra = (112, 108, 30, 255)

MORNING_KITES = (
    Kite((_TEAL, _PINE), 110, (1180, 330), (-6, 3), (36, 14), 5.0, 2.0, (1010, 905)),
    Kite((_RED, _DEEP_RED), 190, (380, 300), (10, -4), (54, 22), 4.0, 0.0, (560, 920)),
    Kite((_YELLOW, _OCHRE), 260, (1530, 270), (-9, 5), (60, 26), 6.0, 1.1, (1300, 960)),
)
CROSSING_KITES = (
    Kite((_VIOLET, _NIGHT), 150, (420, 240), (5, 2), (44, 18), 4.5, 0.4, (700, 1000)),
    Kite((_TEAL, _PINE), 130, (1500, 200), (-5, 4), (40, 16), 5.2, 1.8, (1240, 1000)),
    # This one crosses the whole frame, in front of whatever stands in the middle.
    Kite((_YELLOW, _RED), 430, (-260, 480), (305, 6), (30, 40), 5.5, 0.2, (960, 1500)),
)
