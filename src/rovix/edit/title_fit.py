"""Titles made to fit: longer words part and shrink, what stands under them makes room, and the frame may have
another shape."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from math import ceil, sqrt
from typing import Any, Literal

import numpy as np

from rovix.edit.look import scaled_look
from rovix.edit.sequences import by_value
from rovix.edit.tree import replace
from rovix.model import Box, Clip, Keys, ShapeClip, TextClip
from rovix.model.clip_kinds import has_words
from rovix.model.title import Bend, Title
from rovix.motion.rest import channel_at
from rovix.motion.subject import subject_of
from rovix.text import lay_out

Size = tuple[int, int]
Down = Literal["top", "middle", "bottom"]
MARGIN = 0.06
"""Of the frame's width, that words stay from its sides; the safe area of EBU R 95 for graphics is 5 %."""
_SMALLER, _SMALLEST = 0.95, 0.25
_WIDE = 0.5
_EPSILON = 1e-9
_TOUCHING = 0.3  # of the lower one's height that two which stand under each other may share
_ZERO = np.zeros(1)


def shaped(size: Size, like: Size) -> Size:
    """A size of the shape of another with about as many px as the first has, in whole even px."""
    if size[0] * like[1] == size[1] * like[0]:
        return size
    share = sqrt(size[0] * size[1] / (like[0] * like[1]))
    return 2 * round(like[0] * share / 2), 2 * round(like[1] * share / 2)


def bent(designed: Title, filled: Title, like: Size | None = None) -> Title:
    """The filled title with its layers as they go with its words and with a frame of the shape of `like`.

    `designed` is the title before it was filled. Layers without a bend stay as they are."""
    before, size = designed.sequence.size, designed.sequence.size
    if like is not None:
        size = shaped(size, like)
    old, new = _layers(designed), _layers(filled)
    changed = old != new or size != before
    if not changed or not filled.bends:
        return replace(filled, sequence=replace(filled.sequence, size=size))
    bends = {bend.layer: bend for bend in filled.bends if bend.layer in new and bend.layer in old}
    made = _Bent(bends, old, new, before, size).layers()
    tracks = tuple(
        replace(t, clips=tuple(made.get(c.id, c) for c in t.clips)) for t in filled.sequence.tracks
    )
    return replace(filled, sequence=replace(filled.sequence, size=size, tracks=tracks))


def _layers(title: Title) -> dict[str, Clip]:
    return {clip.id: clip for track in title.sequence.tracks for clip in track.clips}


@dataclass(slots=True)
class _Bent:
    """One fitting: the bends by layer, the layers before and after filling, the frames before and after."""

    bends: dict[str, Bend]
    old: dict[str, Clip]
    new: dict[str, Clip]
    before: Size
    size: Size

    def layers(self) -> dict[str, Clip]:
        """Each layer that bends, as it then is."""
        made: dict[str, Clip] = {}
        for root in (name for name, bend in self.bends.items() if bend.under not in self.bends):
            if self.size != self.before or any(self.old[n] != self.new[n] for n in self._under(root)):
                made |= self._stack(root)
        return made

    def _stack(self, root: str) -> dict[str, Clip]:
        """A layer with all that stand under it, placed by the side of the frame that it holds to."""
        names = list(self._under(root))
        at_x = self._across(root)
        fitted: dict[str, Any] = {
            name: self._fitted(name, at_x + self._x(name) - self._x(root)) for name in names
        }
        tops: dict[str, float] = {root: 0.0}
        for name in names[1:]:
            above = self.bends[name].under
            gap = _top(self.old[name]) - _bottom(self.old[above])
            tops[name] = tops[above] + _height(fitted[above]) + gap
        high = min(tops[name] for name in names)
        low = max(tops[name] + _height(fitted[name]) for name in names)
        top = self._edge(names, root, low - high) - high
        made = {}
        for name, clip in fitted.items():
            x = at_x + self._x(name) - self._x(root)
            spread = self._spread(clip)
            made[name] = _at(spread, x - _rest(spread, "x"), top + tops[name] - _top(spread))
        return made

    def _spread(self, clip: Any) -> Any:
        """A shape whose ways go so far across and down as the frame does."""
        if has_words(clip) or self.size == self.before:
            return clip
        place = clip.transform
        ratios = zip(("x", "y"), self.size, self.before, strict=True)
        ways = {
            name: by_value(getattr(place, name), (new / old).__mul__)
            for name, new, old in ratios if isinstance(getattr(place, name), Keys)
        }  # fmt: skip
        return replace(clip, transform=replace(place, **ways))

    def _under(self, name: str) -> Iterable[str]:
        """A layer and those under it, each before those under itself."""
        yield name
        for other, bend in self.bends.items():
            if bend.under == name and other != name:
                yield from self._under(other)

    def _x(self, name: str) -> float:
        return _rest(self.old[name], "x")

    def _across(self, name: str) -> float:
        """Where a layer is across, px from the new frame's middle: the edge by which it stands at a side has
        the same share of the way there; in the middle third its middle has."""
        x, share = self._x(name), self.size[0] / self.before[0]
        clip = self.old[name]
        half = 0.0 if has_words(clip) or abs(x) <= self.before[0] / 6 else getattr(clip, "width", 0.0) / 2
        edge = half if x > 0 else -half
        return (x + edge) * share - edge

    def _edge(self, names: list[str], root: str, height: float) -> float:
        """The top of a stack so high, px from the new frame's middle."""
        share = self.size[1] / self.before[1]
        top = min(_top(self.old[name]) for name in names)
        bottom = max(_bottom(self.old[name]) for name in names)
        down = self.bends[root].down
        if down == "top":
            return top * share
        return bottom * share - height if down == "bottom" else (top + bottom) / 2 * share - height / 2

    def _fitted(self, name: str, x: float) -> Clip:
        """A layer as wide as there is room where it is."""
        clip, bend = self.new[name], self.bends[name]
        if has_words(clip) and (clip.crossing is None or not clip.crossing.across):
            # A frame that is narrower by half takes twice the lines.
            narrower = max(1.0, self.before[0] / self.size[0])
            return _within(clip, self._room(clip, bend, x), ceil(bend.lines * narrower - _EPSILON))
        if isinstance(clip, ShapeClip) and clip.fits is None and clip.width > _WIDE * self.before[0]:
            return replace(clip, width=clip.width * self.size[0] / self.before[0])
        return clip

    def _room(self, clip: TextClip, bend: Bend, x: float) -> float:
        """px across that words have where they are."""
        whole = self.size[0]
        left, right = x + whole / 2 - MARGIN * whole, whole / 2 - x - MARGIN * whole
        beside = {"left": right, "right": left}.get(clip.text.align, 2 * min(left, right))
        around = max(
            (shape.fits.margin_x for shape in self.new.values() if isinstance(shape, ShapeClip)
             and shape.fits is not None and shape.fits.layer == clip.id and shape.fits.side == "all"),
            default=0.0,
        )  # fmt: skip
        boxes = (part for part in clip.look.parts if isinstance(part, Box) and part.shown)
        padding = (float(channel_at(part.padding_x, _ZERO)[0]) for part in boxes)
        ends = max(around, 0.0, *padding)
        across = max(abs(_rest(clip, "scale_x")), 1e-3)
        taken = ends if clip.text.align in ("left", "right") else 2 * ends
        return max(1.0, min(beside - taken, bend.room * whole) / across)


def _within(clip: TextClip, room: float, lines: int) -> TextClip:
    """Words within `room` px across: in at most so many lines, or as many as they were typed in, and smaller
    where that is not enough; no word is parted."""
    most = max(lines, clip.text.content.count("\n") + 1)
    wide = _extent(replace(clip.text, wrap=None))[0]
    if wide <= room:
        return replace(clip, text=replace(clip.text, wrap=None))
    # Widths go with the size: neither the widest word nor all of them together may be wider than the room.
    share = min(1.0, room / max(1.0, _longest_word(clip.text)), max(_SMALLEST, room * most / wide))
    while True:
        text = replace(clip.text, size=clip.text.size * share, wrap=room, balance=True)
        if len(lay_out(text).lines) <= most or share * _SMALLER < _SMALLEST:
            return replace(clip, text=text, look=scaled_look(clip.look, share))
        share *= _SMALLER


def _longest_word(text: Any) -> float:
    """px of the widest word: each in a line of its own."""
    return _extent(replace(text, content="\n".join(text.content.split()), wrap=None))[0]


def _extent(text: Any) -> tuple[float, float]:
    block = subject_of(TextClip(id="measured", text=text), (1, 1)).block
    return block[2] - block[0], block[3] - block[1]


def _rest(clip: Any, channel: str) -> float:
    return float(channel_at(getattr(clip.transform, channel), _ZERO)[0])


def _span(clip: Any) -> tuple[float, float]:
    """Top and bottom of a layer at rest, px from the frame's middle; without its turns."""
    if has_words(clip):
        block = subject_of(clip, (1, 1)).block
        top, bottom = block[1], block[3]
    else:
        half = getattr(clip, "height", 0.0) / 2
        top, bottom = -half, half
    scale, y = abs(_rest(clip, "scale_y")), _rest(clip, "y")
    return y + top * scale, y + bottom * scale


def _top(clip: Any) -> float:
    return _span(clip)[0]


def _bottom(clip: Any) -> float:
    return _span(clip)[1]


def _height(clip: Any) -> float:
    top, bottom = _span(clip)
    return bottom - top


def _at(clip: Any, dx: float, dy: float) -> Any:
    """A layer moved by px, its keys along with it."""
    place = clip.transform
    moved = replace(place, x=by_value(place.x, dx.__add__), y=by_value(place.y, dy.__add__))
    return replace(clip, transform=moved)


def bends_of(clips: Iterable[Clip], size: Size) -> tuple[Bend, ...]:
    """How layers bend, by how they stand: each holds to the sides of the third that it is in, and words under
    other words stay under them."""
    free = [
        clip for clip in clips
        if (has_words(clip) or isinstance(clip, ShapeClip))
        and clip.parent is None and getattr(clip, "fits", None) is None
    ]  # fmt: skip
    words = sorted((clip for clip in free if has_words(clip)), key=_top)
    made: list[Bend] = []
    for clip in free:
        above = [c for c in words if has_words(clip) and c.id != clip.id and _is_over(c, clip)]
        above = [c for c in above if c.crossing is None and clip.crossing is None]
        under = max(above, key=_bottom).id if above else ""
        lines = clip.text.content.count("\n") + 2 if has_words(clip) else 2
        made.append(Bend(layer=clip.id, down=_third(clip, size), under=under, lines=lines))
    return tuple(made)


def _is_over(clip: Clip, other: Clip) -> bool:
    """Whether words stand over others: above them, and over some of their width."""
    _, bottom = _span(clip)
    top, low = _span(other)
    left, right = _reach(clip)
    other_left, other_right = _reach(other)
    return bottom <= top + _TOUCHING * (low - top) and left < other_right and other_left < right


def _reach(clip: Any) -> tuple[float, float]:
    """Left and right of words at rest, px from the frame's middle."""
    block, x = subject_of(clip, (1, 1)).block, _rest(clip, "x")
    across = abs(_rest(clip, "scale_x"))
    return x + block[0] * across, x + block[2] * across


def _third(clip: Clip, size: Size) -> Down:
    """Which third of the frame's height a layer's middle is in."""
    middle = sum(_span(clip)) / 2
    if abs(middle) <= size[1] / 6:
        return "middle"
    return "top" if middle < 0 else "bottom"
