"""What clips hold, drawn into them: small pictures along the time, waveforms, fades."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QPainter, QPainterPath, QPen, QPixmap, QPolygonF

from rovix.curve import easing
from rovix.desktop.theme import colour
from rovix.model import FootageClip, Keys, Sound, SoundClip
from rovix.motion.material import material_frames
from rovix.time import Rate

_PER_SECOND = 100
_NAME = 13.0
_GAP = 2.0


def paint_strip(
    painter: QPainter,
    clip: FootageClip,
    box: QRectF,
    pictures: list[QPixmap],
    seconds: float,
    rate: Rate,
    right: float,
) -> None:
    """Pictures of the material side by side, each of the moment at its left edge."""
    room = QRectF(box.left() + 4, box.top() + _NAME + 2, box.width() - 8, box.height() - _NAME - 5)
    if room.height() < 10 or room.width() < 12 or not pictures or seconds <= 0:
        return
    width = room.height() * pictures[0].width() / max(1, pictures[0].height())
    px = box.width() / clip.length
    lefts = np.arange(room.left(), min(room.right(), right), width + _GAP)
    lefts = lefts[lefts > -width]
    at = material_frames(clip, (lefts - box.left()) / px) / float(rate.fraction)
    for left, second in zip(lefts.tolist(), at.tolist(), strict=True):
        picture = pictures[min(len(pictures) - 1, int(second / seconds * len(pictures)))]
        shown = min(width, room.right() - left)
        source = QRectF(0, 0, picture.width() * shown / width, picture.height())
        painter.drawPixmap(QRectF(left, room.top(), shown, room.height()), picture, source)


def paint_still(painter: QPainter, box: QRectF, pictures: list[QPixmap]) -> None:
    """The one picture at the clip's left, under its name."""
    if not pictures or box.height() < 28:
        return
    height = box.height() - _NAME - 5
    width = min(height * pictures[0].width() / max(1, pictures[0].height()), box.width() - 8)
    if width > 4:
        target = QRectF(box.left() + 6, box.top() + _NAME + 2, width, height)
        painter.drawPixmap(target, pictures[0], QRectF(pictures[0].rect()))


def paint_waveform(
    painter: QPainter,
    clip: SoundClip | FootageClip,
    box: QRectF,
    peaks: np.ndarray,
    rate: Rate,
    view: tuple[float, float],
) -> None:
    """The lowest and highest samples over the part of the clip that is in view, at its gain."""
    left, right = max(box.left(), view[0]), min(box.right(), view[1])
    columns = np.arange(left, right, 1.0)
    if len(columns) < 2 or not len(peaks):
        return
    px = box.width() / clip.length
    steps = _PER_SECOND / float(rate.fraction) / px * max(clip.playing.speed, 0.01)
    coarse = max(1, round(steps))
    known = coarser(peaks, coarse)
    at = material_frames(clip, (columns - box.left()) / px) * (_PER_SECOND / float(rate.fraction)) / coarse
    index = at.astype(int)
    inside = index < len(known)
    found = np.where(inside[:, None], known[np.minimum(index, len(known) - 1)], 0.0)
    gain = 0.0 if isinstance(clip.sound.gain, Keys) else clip.sound.gain
    found = np.clip(found * 10 ** (gain / 20), -1.0, 1.0)
    middle, half = box.center().y() + 3, box.height() / 2 - 5
    upper = [
        QPointF(x, middle - y * half) for x, y in zip(columns.tolist(), found[:, 1].tolist(), strict=True)
    ]
    lower = [
        QPointF(x, middle - y * half) for x, y in zip(columns.tolist(), found[:, 0].tolist(), strict=True)
    ]
    painter.setPen(QPen(colour("text", 0.55), 1))
    painter.setBrush(colour("text", 0.3))
    painter.drawPolygon(QPolygonF([*upper, *reversed(lower)]))


_kept: dict[tuple[int, int], tuple[np.ndarray, np.ndarray]] = {}


def coarser(peaks: np.ndarray, factor: int) -> np.ndarray:
    """Peaks of steps that are `factor` times as long; kept by the very array."""
    if factor <= 1:
        return peaks
    kept = _kept.get((id(peaks), factor))
    if kept is None or kept[0] is not peaks:
        count = -(-len(peaks) // factor)
        padded = np.zeros((count * factor, 2), dtype=peaks.dtype)
        padded[: len(peaks)] = peaks
        steps = padded.reshape(count, factor, 2)
        kept = (peaks, np.stack([steps[..., 0].min(axis=1), steps[..., 1].max(axis=1)], axis=1))
        if len(_kept) > 64:
            _kept.clear()
        _kept[(id(peaks), factor)] = kept
    return kept[1]


def paint_fades(painter: QPainter, sound: Sound, box: QRectF, length: int, grips: bool) -> None:
    """The fades' curves, what they take away darkened; round grips at their ends where they can be had."""
    px = box.width() / length
    painter.setBrush(colour("ground", 0.45))
    for frames, curve, way in (
        (sound.fade_in, sound.fade_in_curve, 1),
        (sound.fade_out, sound.fade_out_curve, -1),
    ):
        corner = box.left() if way > 0 else box.right()
        if frames:
            painter.setPen(QPen(colour("text", 0.7), 1.2))
            painter.drawPath(_fade_path(corner, way * frames * px, box, curve))
        if grips:
            painter.setPen(QPen(colour("ground"), 1))
            painter.setBrush(colour("text"))
            painter.drawEllipse(QPointF(corner + way * frames * px, box.top() + 4), 3.5, 3.5)
            painter.setBrush(colour("ground", 0.45))


def _fade_path(corner: float, width: float, box: QRectF, curve: str) -> QPainterPath:
    path = QPainterPath(QPointF(corner, box.bottom()))
    for share, level in _fade_points(curve):
        path.lineTo(corner + width * share, box.bottom() - box.height() * level)
    path.lineTo(corner, box.top())
    path.closeSubpath()
    return path


@lru_cache(maxsize=64)
def _fade_points(curve: str) -> list[tuple[float, float]]:
    shares = np.linspace(0, 1, 25)
    return list(zip(shares.tolist(), np.clip(easing(curve)(shares), 0, 1).tolist(), strict=True))
