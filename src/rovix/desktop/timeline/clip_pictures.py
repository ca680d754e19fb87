"""Clips as kept pictures, so that scrolling and dragging only lay them down again.

What must be painted anew is painted within a budget of time; what does not fit into it shows its
last picture, stretched, or its plain colour, until the next time round.
"""

from __future__ import annotations

import time
from collections import OrderedDict
from dataclasses import dataclass
from typing import Any

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPixmap

from rovix.desktop.clip_views import clip_role
from rovix.desktop.theme import colour
from rovix.desktop.timeline.clip_painter import Setting, key_frames, paint_clip
from rovix.desktop.timeline.profile_painter import is_quick
from rovix.model import Clip

_BUDGET = 0.003
_HURRIED_BUDGET = 0.001
_MOST = 1500
# What a clip looks like does not depend on these, so a moved clip keeps its picture.
_ELSEWHERE = frozenset({"id", "start", "transform", "parent", "extra"})


@dataclass(frozen=True, slots=True)
class _Kept:
    """A picture, the exact box and state it was painted for, and what its key's ids stand for."""

    pixmap: QPixmap
    state: tuple[Any, ...]
    alive: tuple[Any, ...]


class ClipPictures:
    """Paints clips of one canvas; :attr:`is_behind` says that some are still to be painted properly."""

    def __init__(self) -> None:
        self._kept: OrderedDict[tuple[Any, ...], _Kept] = OrderedDict()
        self._spent, self._painted, self._hurried = 0.0, 0, False
        self.is_behind = False

    def begin(self, hurried: bool = False) -> None:
        """A new round with a budget of its own.

        At least one clip is painted in each, but in a hurried one, while a hand scrolls or drags,
        none whose motion must be evaluated first.
        """
        self._spent, self._painted, self._hurried = 0.0, 0, hurried
        self.is_behind = False

    def paint(self, painter: QPainter, clip: Clip, box: QRectF, setting: Setting, chosen: bool) -> None:
        """Lay a clip down in its box, painting it first where that is needed and there is time."""
        seen = box.intersected(
            QRectF(setting.view[0] - 8, box.top(), setting.view[1] - setting.view[0] + 16, box.height())
        )
        key, alive = _key(clip)
        # A clip that is in view as a whole looks the same wherever it is.
        shift = round(seen.left() - box.left(), 1) if seen.width() < box.width() else None
        state = (
            round(box.width(), 1),
            box.height(),
            shift,
            chosen,
            setting.thumbnails.version if _has_media(clip) else 0,
            key_frames(clip),
        )
        kept = self._kept.get(key)
        if kept is None or kept.state != state:
            slow = self._hurried and not is_quick(clip, setting.size, setting.rate)
            if slow or (self._painted and self._spent >= (_HURRIED_BUDGET if self._hurried else _BUDGET)):
                self._lay_stand_in(painter, clip, kept, seen)
                return
            start = time.perf_counter()
            kept = _Kept(_picture(painter, clip, box, seen, setting, chosen), state, alive)
            self._spent += time.perf_counter() - start
            self._painted += 1
            self._kept[key] = kept
            while len(self._kept) > _MOST:
                self._kept.popitem(last=False)
        self._kept.move_to_end(key)
        painter.drawPixmap(QPointF(round(seen.left()), seen.top()), kept.pixmap)

    def _lay_stand_in(self, painter: QPainter, clip: Clip, kept: _Kept | None, seen: QRectF) -> None:
        self.is_behind = True
        if kept is not None and kept.state[2] is None:
            painter.drawPixmap(seen, kept.pixmap, QRectF(kept.pixmap.rect()))
        else:
            painter.fillRect(seen, colour(clip_role(clip)))


def _picture(
    painter: QPainter, clip: Clip, box: QRectF, seen: QRectF, setting: Setting, chosen: bool
) -> QPixmap:
    device = painter.device()
    ratio = device.devicePixelRatioF() if device is not None else 1.0
    width, height = max(1, round(seen.width() + 1)), max(1, round(seen.height()))
    pixmap = QPixmap(round(width * ratio), round(height * ratio))
    pixmap.setDevicePixelRatio(ratio)
    pixmap.fill(Qt.GlobalColor.transparent)
    inner = QPainter(pixmap)
    inner.setRenderHint(QPainter.RenderHint.Antialiasing)
    inner.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
    inner.translate(-round(seen.left()), -seen.top())
    paint_clip(inner, clip, box.translated(round(seen.left()) - seen.left(), 0), setting, chosen)
    inner.end()
    return pixmap


def _has_media(clip: Clip) -> bool:
    return hasattr(clip, "media")


def _key(clip: Clip) -> tuple[tuple[Any, ...], tuple[Any, ...]]:
    """Equal for clips that look alike: plain values by value, structs by identity; and those structs."""
    plain: list[Any] = [type(clip)]
    alive = []
    for name in clip.__struct_fields__:
        if name in _ELSEWHERE:
            continue
        value = getattr(clip, name)
        if value is None or isinstance(value, str | int | float):
            plain.append(value)
        else:
            plain.append(id(value))
            alive.append(value)
    return tuple(plain), tuple(alive)
