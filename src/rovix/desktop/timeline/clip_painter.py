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
    QLinearGradient,
    QPainter,
    QPainterPath,
    QPen,
    QPolygonF,
)

from rovix.curve import easing
from rovix.desktop.clip_views import clip_role
from rovix.desktop.theme import colour, font
from rovix.desktop.thumbnails import Thumbnails
from rovix.desktop.timeline.media_painter import paint_fades, paint_still, paint_strip, paint_waveform
from rovix.model import (
    BackgroundClip,
    Clip,
    FootageClip,
    GroupClip,
    Linear,
    Media,
    Radial,
    SequenceClip,
    SoundClip,
    StillClip,
    TextClip,
)
from rovix.model.clip_kinds import has_words, is_heard, is_played
from rovix.model.identity import IdentityCache
from rovix.motion import layer_motion, move_spans
from rovix.motion.profile import motion_profile, setting_off
from rovix.motion.transitions import Joined
from rovix.text import match_face
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
    ticks: list[tuple[str, np.ndarray]]


def profile_of(clip: TextClip, size: tuple[int, int], rate: Rate) -> Profile:
    """The motion profile, from the evaluated motion.

    Kept by the words, moves and length: it is about nearness to rest, wherever rest is.
    """
    detail = (id(clip.moves), clip.length, size, rate)
    moves, profile = _PROFILES.get(clip.text, lambda: _profile(clip, size, rate), detail)
    # An id may belong to a younger tuple of moves.
    return profile if moves is clip.moves else _profile(clip, size, rate)[1]


def is_quick(clip: Clip, size: tuple[int, int], rate: Rate) -> bool:
    """Whether painting a clip needs no motion evaluated first."""
    return not has_words(clip) or _PROFILES.has(clip.text, (id(clip.moves), clip.length, size, rate))


def _profile(clip: TextClip, size: tuple[int, int], rate: Rate) -> tuple[object, Profile]:
    motion = layer_motion(clip, size, rate)
    return clip.moves, Profile(motion_profile(motion, _SAMPLES), setting_off(motion))


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
        if is_heard(clip):
            paint_fades(painter, clip.sound, box, clip.length, chosen and box.width() > 24)
        if box.width() > 6:
            _paint_name(painter, clip, box, setting, chosen)
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
        return _words_left(box, *_rests(clip, box, rate))
    left, transition = max(box.left(), view), getattr(clip, "transition", None)
    if transition is not None and left == box.left():
        # The transition's own mark stands over the clip's first half of it.
        left += rate.length(transition.length) / 2 * box.width() / clip.length
    return left + 8


def _words_left(box: QRectF, landing: float, leaving: float) -> float:
    return (landing if leaving - landing > 60 else box.left()) + 8


def _rests(clip: TextClip, box: QRectF, rate: Rate) -> tuple[float, float]:
    """Where the layer lands, and where it leaves."""
    spans, px = move_spans(clip.moves, clip.length, rate), box.width() / clip.length
    return box.left() + spans.entrance * px, box.right() - (
        spans.exit + 1
    ) * px if spans.exit else box.right()


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


_MATERIALS: dict[type[Clip], Callable[..., None]] = {
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
    parts = [clip.name or (file.title if file else "Clip")]
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
    spans = move_spans(clip.moves, clip.length, rate)
    px = box.width() / clip.length
    landing, leaving = _rests(clip, box, rate)
    profile = profile_of(clip, setting.size, rate)
    points = _profile_points(profile, clip.length, box)
    painter.setPen(Qt.PenStyle.NoPen)
    looping = any(move.beats_on for move in clip.moves)
    painter.setBrush(_profile_fill(box, landing, leaving, "loop" if looping else "still"))
    painter.drawPolygon(QPolygonF([box.bottomLeft(), *points, box.bottomRight()]))
    painter.setPen(QPen(colour("text", 0.75), 1.2))
    painter.drawPolyline(QPolygonF(points))
    painter.setPen(Qt.PenStyle.NoPen)
    for x, role, present in ((landing, "entrance", spans.entrance), (leaving, "exit", spans.exit)):
        if present:
            painter.setBrush(colour(role))
            painter.drawRoundedRect(QRectF(x - 2, box.bottom() - 15, 4, 15), 1.5, 1.5)
    _paint_ticks(painter, profile, box, px)
    left = _words_left(box, landing, leaving)
    marked = chosen and not opener_box(clip, box, rate).isEmpty()
    _paint_clip_words(painter, clip, box, left + _OPENER * marked)


def _paint_ticks(painter: QPainter, profile: Profile, box: QRectF, px: float) -> None:
    """Where pieces set off, as far as ticks can be told apart."""
    painter.setBrush(colour("text", 0.65))
    for _, frames in profile.ticks:
        x = box.left() + frames * px
        if np.diff(x).min(initial=np.inf) < _TICK_GAP:
            continue
        for at in x:
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


def _profile_fill(box: QRectF, landing: float, leaving: float, stay: str) -> QLinearGradient:
    gradient = QLinearGradient(box.topLeft(), box.topRight())
    width = max(1.0, box.width())
    enter, leave = (landing - box.left()) / width, (leaving - box.left()) / width
    gradient.setColorAt(0, colour("entrance", 0.85))
    gradient.setColorAt(min(0.999, max(0.0, enter)), colour("entrance", 0.45))
    # A loop beats under the words' own name, which has to stay readable.
    middle = colour(stay, 0.4 if stay == "loop" else 1.0)
    gradient.setColorAt(min(0.999, max(0.001, enter + 0.001)), middle)
    gradient.setColorAt(max(0.001, min(0.999, leave - 0.001)), middle)
    gradient.setColorAt(max(0.002, min(1.0, leave)), colour("exit", 0.45))
    gradient.setColorAt(1, colour("exit", 0.85) if leave < 0.999 else middle)
    return gradient


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
