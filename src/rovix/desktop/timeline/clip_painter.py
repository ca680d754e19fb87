"""How clips look: by kind, with their words and their motion profile."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import (
    QColor,
    QFont,
    QFontDatabase,
    QPainter,
    QPainterPath,
    QPen,
    QPolygonF,
)

from rovix.check.legibility import is_too_short
from rovix.curve import easing
from rovix.desktop.clip_views import clip_role
from rovix.desktop.theme import colour, font
from rovix.desktop.thumbnails import Thumbnails
from rovix.desktop.timeline.media_painter import paint_fades, paint_still, paint_strip, paint_waveform
from rovix.desktop.timeline.profile_painter import paint_profile, rests
from rovix.edit.keys import all_keys
from rovix.model import (
    AreaClip,
    BackgroundClip,
    Clip,
    FootageClip,
    GroupClip,
    Linear,
    Media,
    PictureClip,
    Radial,
    SequenceClip,
    SoundClip,
    StillClip,
    TextClip,
)
from rovix.model.clip_kinds import has_words, is_heard, is_layer, is_played
from rovix.model.identity import IdentityCache
from rovix.motion.rest import channel_at
from rovix.motion.transitions import Joined
from rovix.text import match_face
from rovix.time import Rate

LOST = 0.55
"""Confidence below which an area is lost, as who follows it has it."""
_KEY_GAP = 5.0  # px between dots of keys at least
_KEYS: IdentityCache[tuple[int, ...]] = IdentityCache(most=4 << 20)


@dataclass(frozen=True, slots=True)
class Setting:
    """What clips are painted in: the sequence, the files and their looks, and the px in view."""

    size: tuple[int, int]
    rate: Rate
    media: dict[str, Media]
    thumbnails: Thumbnails
    view: tuple[float, float]


def paint_clip(painter: QPainter, clip: Clip, box: QRectF, setting: Setting, chosen: bool) -> None:
    """Paint a clip into its box."""
    painter.save()
    shape = QPainterPath()
    shape.addRoundedRect(box, 5, 5)
    painter.setClipPath(shape, Qt.ClipOperation.IntersectClip)
    painter.fillRect(box, colour(clip_role(clip)))
    if has_words(clip):
        _paint_words_clip(painter, clip, box, setting, chosen)
    else:
        if box.width() > 6:
            _paint_material(painter, clip, box, setting)
        if is_layer(clip) and clip.moves and box.width() > 6:
            _paint_moves(painter, clip, box, setting)
        if is_heard(clip):
            paint_fades(painter, clip.sound, box, clip.length, chosen and box.width() > 24)
        if box.width() > 6:
            _paint_name(painter, clip, box, setting, chosen)
    _paint_keys(painter, clip, box)
    if chosen:
        painter.setPen(QPen(colour("text"), 2.4))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRoundedRect(box.adjusted(0.5, 0.5, -0.5, -0.5), 5, 5)
        _paint_opener(painter, opener_box(clip, box, setting.rate, setting.view[0]))
    painter.restore()


_OPENER = 20.0
"""px that the mark by a selected clip's name takes."""


def opener_box(clip: Clip, box: QRectF, rate: Rate, view: float = 0.0) -> QRectF:
    """Where a selected clip is opened into lanes, left of its name; empty where it is too short for that."""
    left = _name_left(clip, box, rate, view)
    if box.right() - left < 60 or box.height() < 20:
        return QRectF()
    top = box.center().y() - 7 if has_words(clip) else box.top() + 3
    return QRectF(left, top, 16, 14)


def _name_left(clip: Clip, box: QRectF, rate: Rate, view: float) -> float:
    """Where a clip's name starts: behind its entrance or transition, and in view."""
    if has_words(clip):
        return _words_left(box, *rests(clip, box, rate))
    left, transition = max(box.left(), view), getattr(clip, "transition", None)
    if transition is not None and left == box.left():
        # The transition's own mark stands over the clip's first half of it.
        left += rate.length(transition.length) / 2 * box.width() / clip.length
    return left + 8


def _words_left(box: QRectF, landing: float, leaving: float) -> float:
    return (landing if leaving - landing > 60 else box.left()) + 8


def _paint_opener(painter: QPainter, box: QRectF) -> None:
    if box.isEmpty():
        return
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(colour("ground", 0.7))
    painter.drawRoundedRect(box, 4, 4)
    middle = box.center()
    painter.setPen(QPen(colour("text"), 1.6))
    ends = [QPointF(-3.5, -1.5), QPointF(0, 2), QPointF(3.5, -1.5)]
    painter.drawPolyline(QPolygonF([middle + end for end in ends]))


def _paint_material(painter: QPainter, clip: Clip, box: QRectF, setting: Setting) -> None:
    """What a clip shows or plays, by its kind; nothing where its file is unknown."""
    paint = _MATERIALS.get(type(clip))
    media = setting.media.get(getattr(clip, "media", ""))
    if paint is not None and (media is not None or not hasattr(clip, "media")):
        paint(painter, clip, box, setting, media)


def _paint_background(painter: QPainter, clip: BackgroundClip, box: QRectF, *_: object) -> None:
    painter.fillRect(QRectF(box.left(), box.bottom() - 5, box.width(), 5), QColor(_first_colour(clip)))


def _first_colour(clip: BackgroundClip) -> str:
    ground = clip.background
    return (ground.stops[0].colour if isinstance(ground, Linear | Radial) else ground.colour)[:7]


def _paint_still(painter: QPainter, _: StillClip, box: QRectF, setting: Setting, media: Media) -> None:
    paint_still(painter, box, setting.thumbnails.strip(media))


def _paint_footage(painter: QPainter, clip: FootageClip, box: QRectF, setting: Setting, media: Media) -> None:
    strip = setting.thumbnails.strip(media)
    paint_strip(painter, clip, box, strip, media.length or 0.0, setting.rate, setting.view[1])


def _paint_sound(painter: QPainter, clip: SoundClip, box: QRectF, setting: Setting, media: Media) -> None:
    peaks = setting.thumbnails.waveform(media)
    if peaks is not None:
        paint_waveform(painter, clip, box, peaks, setting.rate, setting.view)


def _paint_stack(painter: QPainter, _: Clip, box: QRectF, *__: object) -> None:
    painter.setPen(QPen(colour("text", 0.35), 1))
    for step in (2.0, 4.0):
        painter.drawLine(
            QPointF(box.left() + 6, box.top() + step), QPointF(box.right() - 6, box.top() + step)
        )


def _paint_area(painter: QPainter, clip: AreaClip, box: QRectF, *_: object) -> None:
    """How sure each frame of an area is, as a strip over its keys: high is sure, brick is lost."""
    high = max(4.0, min(12.0, box.height() - 25))
    held, foot = clip.confidence, QRectF(box.left(), box.bottom() - 8 - high, box.width(), high)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(colour("ground", 0.45))
    painter.drawRect(foot)
    count = max(2, min(clip.length, int(box.width())))
    frames = np.linspace(0, clip.length - 1, count)
    sure = np.clip(channel_at(held, frames), 0.0, 1.0).tolist()
    wide = box.width() / count
    for number, share in enumerate(sure):
        painter.setBrush(colour("loop" if share >= LOST else "problem", 0.95))
        tall = max(1.5, foot.height() * share)
        painter.drawRect(QRectF(box.left() + number * wide, foot.bottom() - tall, wide + 0.5, tall))


_MATERIALS: dict[type[Clip], Callable[..., None]] = {
    AreaClip: _paint_area,
    GroupClip: _paint_stack,
    SequenceClip: _paint_stack,
    BackgroundClip: _paint_background,
    StillClip: _paint_still,
    FootageClip: _paint_footage,
    SoundClip: _paint_sound,
}
"""What is painted into a clip of each kind; words have their profile, shapes nothing."""


def _paint_name(painter: QPainter, clip: Clip, box: QRectF, setting: Setting, chosen: bool) -> None:
    left = _name_left(clip, box, setting.rate, setting.view[0])
    if chosen and not opener_box(clip, box, setting.rate, setting.view[0]).isEmpty():
        left += _OPENER
    inside = QRectF(left, box.top() + 2, box.right() - left - 6, box.height() - 4)
    if inside.width() < 10:
        return
    painter.setPen(colour("text"))
    painter.setFont(font(0.86))
    said = said_of(clip, setting.media)
    name = painter.fontMetrics().elidedText(said, Qt.TextElideMode.ElideRight, int(inside.width()))
    painter.drawText(inside, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop, name)


def said_of(clip: Clip, media: dict[str, Media]) -> str:
    """A clip's name, and how it plays where that is not as usual."""
    file = media.get(getattr(clip, "media", ""))
    parts = [clip.name or (file.title if file else clip.title)]
    if is_played(clip):
        playing = clip.playing
        if playing.speed != 1:
            parts.append("frozen" if playing.speed == 0 else f"{playing.speed * 100:.4g} %")
        if playing.backwards:
            parts.append("backwards")
        if playing.and_back:
            parts.append("there and back")
    return "  ·  ".join(parts)


def paint_transition(painter: QPainter, joined: Joined, box: QRectF) -> None:
    """A join over its cut, as long as it lasts: how far the new picture has come, by its real curve."""
    painter.setPen(QPen(colour("text", 0.8), 1))
    painter.setBrush(colour("ground", 0.6))
    painter.drawRoundedRect(box, 3, 3)
    inside = box.adjusted(2, 2, -2, -2)
    shares = np.linspace(0, 1, max(2, min(40, int(inside.width()))))
    come = np.clip(easing(joined.transition.curve)(shares), 0, 1)
    if joined.transition.kind == "dip":
        # Into the colour and out of it again.
        come = 1 - np.abs(2 * come - 1)
    x = (inside.left() + shares * inside.width()).tolist()
    y = (inside.bottom() - come * inside.height()).tolist()
    points = [QPointF(*point) for point in zip(x, y, strict=True)]
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(colour("text", 0.45))
    painter.drawPolygon(QPolygonF([inside.bottomLeft(), *points, inside.bottomRight()]))
    if joined.transition.kind in ("slide", "wipe"):
        painter.setPen(QPen(colour("text"), 1.2))
        for step in (0.3, 0.6) if joined.transition.kind == "slide" else (0.5,):
            at = inside.left() + inside.width() * step
            painter.drawLine(QPointF(at, inside.top()), QPointF(at, inside.bottom()))


def _paint_words_clip(painter: QPainter, clip: TextClip, box: QRectF, setting: Setting, chosen: bool) -> None:
    rate = setting.rate
    landing, leaving = rests(clip, box, rate)
    looping = any(move.beats_on for move in clip.moves)
    paint_profile(
        painter, clip, box, setting.size, setting.rate, colour("loop", 0.4) if looping else colour("still")
    )
    left = _words_left(box, landing, leaving)
    marked = chosen and not opener_box(clip, box, rate).isEmpty()
    warned = _WARNING if box.width() > 3 * _WARNING and is_too_short(clip, rate) else 0.0
    _paint_clip_words(painter, clip, box.adjusted(0, 0, -warned, 0), left + _OPENER * marked)
    if warned:
        _paint_warning(painter, QRectF(box.right() - warned, box.top() + 3, 13, 13))


def paint_mark(painter: QPainter, box: QRectF, is_wrong: bool) -> None:
    """The mark on a clip's edge of what checks found in it: full for what is wrong, a line for hints."""
    strip = QRectF(box.right() - 4, box.top() + 2, 3, box.height() - 4)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(colour("problem" if is_wrong else "accent"))
    if is_wrong:
        painter.drawRoundedRect(strip, 1.5, 1.5)
        return
    for part in range(3):
        high = strip.height() / 5
        painter.drawRoundedRect(QRectF(strip.left(), strip.top() + part * 2 * high, 3, high), 1.5, 1.5)


_WARNING = 18.0
"""px that the mark of words that go before they are read takes."""


def _paint_warning(painter: QPainter, box: QRectF) -> None:
    """A disc with a stroke and a dot: something here is not as it should be."""
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(colour("problem"))
    painter.drawEllipse(box)
    painter.setPen(QPen(colour("ground"), 1.8))
    x = box.center().x()
    painter.drawLine(QPointF(x, box.top() + 3.2), QPointF(x, box.top() + 7.4))
    painter.drawPoint(QPointF(x, box.top() + 10.0))


def _paint_moves(painter: QPainter, clip: PictureClip, box: QRectF, setting: Setting) -> None:
    """The profile of what is no words, low in its clip, below the name and over what it shows."""
    low = QRectF(box)
    low.setTop(box.top() + 0.42 * box.height())
    paint_profile(
        painter,
        clip,
        low,
        setting.size,
        setting.rate,
        colour("loop", 0.3 * any(m.beats_on for m in clip.moves)),
    )


def key_frames(clip: Clip) -> tuple[int, ...]:
    """The frames of a clip on which any of its channels has a key, in order."""
    return _KEYS.get(clip, lambda: tuple(sorted({f for own in all_keys(clip).values() for f in own})))


def _paint_keys(painter: QPainter, clip: Clip, box: QRectF) -> None:
    """A dot along the lower edge for each frame that has keys, as far as they can be told apart."""
    frames = key_frames(clip)
    if not frames:
        return
    painter.setPen(QPen(colour("ground"), 1))
    painter.setBrush(colour("accent"))
    last = -np.inf
    for x in box.left() + np.array(frames) * box.width() / clip.length:
        if x - last >= _KEY_GAP:
            painter.drawEllipse(QPointF(x, box.bottom() - 4.5), 2.6, 2.6)
            last = x


def _paint_clip_words(painter: QPainter, clip: TextClip, box: QRectF, left: float) -> None:
    room = QRectF(left, box.top() + 2, max(0.0, box.right() - left - 6), box.height() - 4)
    painter.setFont(words_font(clip.text.family, clip.text.weight, round(box.height() * 0.46)))
    painter.setPen(colour("text"))
    text = clip.text.content.replace("\n", " ").strip() or "No words yet"
    shown = painter.fontMetrics().elidedText(text, Qt.TextElideMode.ElideRight, int(room.width()))
    painter.drawText(room, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, shown)


@lru_cache(maxsize=256)
def words_font(family: str, weight: int, px: int) -> QFont:
    """A layer's own face for the interface, loaded from the file that draws it."""
    key = match_face(family, weight).face.key
    number = QFontDatabase.addApplicationFont(key.path)
    names = QFontDatabase.applicationFontFamilies(number) if number >= 0 else []
    made = QFont(names[0] if names else font().family())
    made.setPixelSize(max(8, px))
    made.setWeight(QFont.Weight(min(1000, max(1, weight))))
    return made
