"""The motion profile in a clip: nearness to rest over its time, with grips and ticks."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QLinearGradient, QPainter, QPen, QPolygonF

from rovix.desktop.theme import colour
from rovix.edit.stages import stage_edge, staged
from rovix.model import Clip, PictureClip
from rovix.model.clip_kinds import has_words
from rovix.model.identity import IdentityCache
from rovix.motion import clip_spans, layer_motion
from rovix.motion.profile import SettingOff, motion_profile, setting_off
from rovix.motion.spans import MoveSpans
from rovix.time import Rate

_PROFILES: IdentityCache[tuple[object, Profile]] = IdentityCache()
_SAMPLES = 241
_TICK_GAP = 3.0  # px below which ticks of pieces would run together
PROFILE_ROOM = 0.82
"""The share of a clip's height that stands for rest; the rest above is for overshoot."""


@dataclass(frozen=True, slots=True, eq=False)
class Profile:
    """Heights over the clip, and on which of its frames the pieces of each role's moves set off."""

    heights: np.ndarray
    ticks: list[SettingOff]


def profile_of(clip: PictureClip, size: tuple[int, int], rate: Rate) -> Profile:
    """The motion profile, from the evaluated motion.

    Kept by the words, moves and length: it is about nearness to rest, wherever rest is.
    """
    detail = (id(clip.moves), clip.length, size, rate)
    moves, profile = _PROFILES.get(_owner(clip), lambda: _profile(clip, size, rate), detail)
    # An id may belong to a younger tuple of moves.
    return profile if moves is clip.moves else _profile(clip, size, rate)[1]


def is_quick(clip: Clip, size: tuple[int, int], rate: Rate) -> bool:
    """Whether painting a clip needs no motion evaluated first."""
    if not has_words(clip) and not getattr(clip, "moves", ()):
        return True
    return _PROFILES.has(_owner(clip), (id(clip.moves), clip.length, size, rate))  # type: ignore[union-attr]


def _owner(clip: Any) -> Any:
    """What a clip's profile is kept by: its words, which outlive changes of its place, or the clip."""
    return clip.text if has_words(clip) else clip


def _profile(clip: PictureClip, size: tuple[int, int], rate: Rate) -> tuple[object, Profile]:
    motion = layer_motion(clip, size, rate)
    return clip.moves, Profile(motion_profile(motion, _SAMPLES), setting_off(motion))


def paint_profile(
    painter: QPainter, clip: PictureClip, box: QRectF, size: tuple[int, int], rate: Rate, middle: QColor
) -> None:
    """Nearness to rest over the clip with its grips and ticks, filled by what goes on when."""
    spans, (landing, leaving) = clip_spans(clip, rate), rests(clip, box, rate)
    profile = profile_of(clip, size, rate)
    points = _profile_points(profile, clip.length, box)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(_profile_fill(box, landing, leaving, middle))
    painter.drawPolygon(QPolygonF([box.bottomLeft(), *points, box.bottomRight()]))
    painter.setPen(QPen(colour("text", 0.75), 1.2))
    painter.drawPolyline(QPolygonF(points))
    painter.setPen(Qt.PenStyle.NoPen)
    for x, role, present in ((landing, "entrance", spans.entrance), (leaving, "exit", spans.exit)):
        if present:
            painter.setBrush(colour(role))
            painter.drawRoundedRect(QRectF(x - 2, box.bottom() - 15, 4, 15), 1.5, 1.5)
    _paint_ticks(painter, profile, box, box.width() / clip.length)
    _paint_stages(painter, clip, box, spans, rate)


def told_apart(frames: np.ndarray, px: float) -> bool:
    """Whether ticks on these frames stand apart at so many px a frame."""
    return bool(np.diff(frames).min(initial=np.inf) * px >= _TICK_GAP)


def _paint_stages(painter: QPainter, clip: PictureClip, box: QRectF, spans: MoveSpans, rate: Rate) -> None:
    """A line where a move after another, or after a wait, begins; of an exit where it ends."""
    px = box.width() / clip.length
    for move in staged(clip):
        painter.setPen(QPen(colour(move.role), 1.3))
        x = box.left() + stage_edge(clip, move, spans, rate) * px
        painter.drawLine(QPointF(x, box.top() + 3), QPointF(x, box.bottom() - 6))
        painter.setBrush(colour(move.role))
        way = -4.0 if move.leaves else 4.0
        top = box.top() + 3
        painter.drawPolygon(QPolygonF([QPointF(x, top), QPointF(x + way, top + 3), QPointF(x, top + 6)]))


def _paint_ticks(painter: QPainter, profile: Profile, box: QRectF, px: float) -> None:
    """Where pieces set off, as far as ticks can be told apart."""
    painter.setBrush(colour("text", 0.65))
    for found in profile.ticks:
        if not told_apart(found.frames, px):
            continue
        for at in box.left() + found.frames * px:
            painter.drawRect(QRectF(at, box.bottom() - 5, 1.2, 5))


def _profile_points(profile: Profile, length: int, box: QRectF) -> list[QPointF]:
    heights = profile.heights
    # No more points than the px can tell apart.
    heights = heights[:: max(1, int(2 * len(heights) / max(1.0, box.width())))]
    # The last frame's picture stands until the clip's end.
    last = box.right() - box.width() / length
    x = np.append(np.linspace(box.left(), max(box.left(), last), len(heights)), box.right())
    y = (
        box.bottom()
        - np.clip(np.append(heights, heights[-1]), 0, 1 / PROFILE_ROOM) * box.height() * PROFILE_ROOM
    )
    return [QPointF(*point) for point in zip(x, y, strict=True)]


def _profile_fill(box: QRectF, landing: float, leaving: float, middle: QColor) -> QLinearGradient:
    gradient = QLinearGradient(box.topLeft(), box.topRight())
    width = max(1.0, box.width())
    enter, leave = (landing - box.left()) / width, (leaving - box.left()) / width
    gradient.setColorAt(0, colour("entrance", 0.85))
    gradient.setColorAt(min(0.999, max(0.0, enter)), colour("entrance", 0.45))
    gradient.setColorAt(min(0.999, max(0.001, enter + 0.001)), middle)
    gradient.setColorAt(max(0.001, min(0.999, leave - 0.001)), middle)
    gradient.setColorAt(max(0.002, min(1.0, leave)), colour("exit", 0.45))
    gradient.setColorAt(1, colour("exit", 0.85) if leave < 0.999 else middle)
    return gradient


def rests(clip: PictureClip, box: QRectF, rate: Rate) -> tuple[float, float]:
    """Where the layer lands, and where it leaves."""
    spans, px = clip_spans(clip, rate), box.width() / clip.length
    return box.left() + spans.entrance * px, box.right() - (
        spans.exit + 1
    ) * px if spans.exit else box.right()
