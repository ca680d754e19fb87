"""The outline of a thing, cut out in one picture and carried on from picture to picture."""

from __future__ import annotations

from collections.abc import Sequence
from copy import copy
from dataclasses import dataclass
from math import sqrt
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

Bgr = NDArray[np.uint8]
Mask = NDArray[np.uint8]
Window = tuple[int, int, int, int]
_PASSES = 6  # of cutting out in the picked picture
_LARGEST = 480  # px of a side that are looked at; of a larger thing a smaller picture
_AROUND = 0.6, 24  # of the thing's size, and px, that are looked at around it
_BAND = 0.035, 3  # of its size, and px, that its edge may have moved besides what the flow says
_FAR = 0.35  # of a stroke's size: how far beyond that what there is counts as its ground
_SLIPS = 0.4  # of a stroke that is to be of other colours than the ground
_RARE = 0.04  # of the px around a thing
_HULL = 0.08  # of a stroke's size: how far beyond it a thing is expected
_REACH = 0.25  # of what is looked at: how far from a stroke the matte may change by it
_EDGE = 3  # px around what may be of a thing that are looked at, too
_BROAD = 5  # px of a side that what comes anew has at least
_COLOURS = 12  # that what is around a thing is told from it by
_TOLD = 0.1  # of a box that is to be of another colour for the thing to be told by that
_FRAYED = 2.4  # times the edge for its size that it has otherwise: what is cut out is blots of the thing
_AGREES = 0.97  # of what strokes cover: they say nothing new, slips of the hand apart
_SHARED = 0.05  # of a thing: with more of it of its ground's colours it is not told by them
_WITHIN = 0.9  # of the blots
_GAPS = 0.1  # of the thing's size: how far what lies between blots is from them
_OTHER = 8.0  # steps of CIE Lab beyond these that are another colour
_SOFT = 2  # px on each side of the edge in which it may be soft
_SMOOTH = 40.0  # grey levels squared: a difference in the picture that the soft edge goes along with


@dataclass(frozen=True, slots=True, eq=False)
class Mark:
    """A stroke over a picture: what is under the line through `points` (n, 2), `width` px wide, `belongs` to
    the thing or does not. Points are px from the left top corner."""

    points: NDArray[np.float64]
    width: float
    belongs: bool = True


@dataclass(frozen=True, slots=True)
class Patch:
    """A matte: `alpha` (h, w) from 0 to 255, its corner at (left, top) of the picture; 0 all around it."""

    left: int
    top: int
    alpha: Mask

    def laid_out(self, size: tuple[int, int]) -> Mask:
        """(height, width) over a whole picture of `size` (width, height)."""
        made = np.zeros(size[::-1], np.uint8)
        height, width = self.alpha.shape
        made[self.top : self.top + height, self.left : self.left + width] = self.alpha
        return made


class SubjectMatte:
    """Cuts what is in a box (x, y, width, height in px), or under strokes where there is none, out of a
    picture, (h, w, 3) uint8 BGR, and then out of those that :meth:`follow` is given, forwards or backwards.

    By GrabCut (Rother, Kolmogorov and Blake, 2004); its models of colour stay those of the picked picture.
    From picture to picture it is carried by DIS optical flow (Kroeger and others, 2016) and cut anew in a
    band along the edge, which a guided filter (He, Sun and Tang, 2010) makes soft.
    """

    def __init__(
        self, picture: Bgr, box: tuple[float, float, float, float] | None, marks: Sequence[Mark] = ()
    ) -> None:
        self._models = np.zeros((1, 65)), np.zeros((1, 65))
        self._flow: Any = cv2.DISOpticalFlow.create(cv2.DISOPTICAL_FLOW_PRESET_MEDIUM)
        self._size = picture.shape[1], picture.shape[0]
        self._picture = picture
        self._around: _Colours | None = None
        self._patch = (
            self._cut_out_by_strokes(picture, marks) if box is None else self._cut_out(picture, box, marks)
        )

    @property
    def picked(self) -> Patch:
        """The matte in the latest picture, the picked one at first."""
        return self._patch

    def copy(self) -> SubjectMatte:
        """One that goes on from here by itself, another way."""
        made = copy(self)
        made._models = self._models[0].copy(), self._models[1].copy()
        made._flow = cv2.DISOpticalFlow.create(cv2.DISOPTICAL_FLOW_PRESET_MEDIUM)
        return made

    def correct(self, marks: Sequence[Mark]) -> Patch:
        """The matte in the latest picture by strokes of what belongs to the thing and what does not; it
        goes on by the colours that it has then. Where it says what they say already it stays as it is: its
        first colours are better than those learnt anew."""
        window = self._grown(self._around_marks(marks))
        share = self._share(window)
        part = _part(self._picture, window, share)
        before = _part(self._patch.laid_out(self._size), window, share) > 127
        mask = np.where(before, cv2.GC_PR_FGD, cv2.GC_PR_BGD).astype(np.uint8)
        drawn = _drawn(marks, window, share, mask.shape)
        if np.mean(before[drawn >= 0] == (drawn[drawn >= 0] == 1)) > _AGREES:
            return self._patch
        near = cv2.dilate((drawn >= 0).astype(np.uint8), _disc(int(_REACH * max(mask.shape))))
        # Far from the strokes it stays as it was.
        mask[(near == 0) & before], mask[(near == 0) & ~before] = cv2.GC_FGD, cv2.GC_BGD
        mask[drawn == 1], mask[drawn == 0] = cv2.GC_FGD, cv2.GC_BGD
        ground, thing = np.zeros((1, 65)), np.zeros((1, 65))
        cv2.setRNGSeed(1)
        if _has_both(mask):
            cv2.grabCut(part, mask, None, ground, thing, _PASSES, cv2.GC_INIT_WITH_MASK)
            self._models = ground, thing
            self._around = None
        self._patch = self._patched(self._picture, window, _touching_marks(_is_thing(mask), before, drawn))
        return self._patch

    def _around_marks(self, marks: Sequence[Mark], thing: bool = True) -> Window:
        """The strokes, and the thing as it is so far."""
        boxes = [_box_of(mark) for mark in marks]
        ys, xs = np.nonzero(self._patch.alpha > 127) if thing else (np.zeros(0), np.zeros(0))
        if len(xs):
            left, top = self._patch.left, self._patch.top
            boxes.append(
                (left + int(xs.min()), top + int(ys.min()), left + int(xs.max()), top + int(ys.max()))
            )
        low, high = np.array(boxes)[:, :2].min(axis=0), np.array(boxes)[:, 2:].max(axis=0)
        return int(low[0]), int(low[1]), int(high[0]) + 1, int(high[1]) + 1

    def follow(self, picture: Bgr) -> Patch:
        """The matte in the next picture; empty once nothing of the thing is left in it."""
        window = self._window(self._patch)
        if window is None:
            self._picture = picture
            return self._patch
        share = self._share(window)
        part = _part(picture, window, share)
        carried = self._carried(part, window, share)
        found = self._refined(part, carried)
        if np.count_nonzero(found) < 0.2 * np.count_nonzero(carried > 127):
            found = (carried > 127).astype(np.uint8)  # another colour, or hidden: the flow knows best
        self._picture, self._patch = picture, self._patched(picture, window, found)
        return self._patch

    def _cut_out(self, picture: Bgr, box: tuple[float, float, float, float], marks: Sequence[Mark]) -> Patch:
        x, y, width, height = box
        window = self._grown((int(x), int(y), int(np.ceil(x + width)), int(np.ceil(y + height))))
        share = self._share(window)
        part = _part(picture, window, share)
        left, top = (int((a - b) * share) for a, b in ((x, window[0]), (y, window[1])))
        inside = np.s_[top : top + int(height * share), left : left + int(width * share)]
        drawn = _drawn(marks, window, share, part.shape)
        by_colour = self._by_guess(part, inside, self._first_guess(part, inside), drawn)
        if self._around is None:
            return self._patched(picture, window, by_colour)
        around, models = self._around, self._models
        everywhere = np.full(part[inside].shape[:2], cv2.GC_PR_FGD, np.uint8)
        by_place = self._by_guess(part, inside, everywhere, drawn)
        if _is_of_its_texture(by_colour, by_place):
            self._around = None
            return self._patched(picture, window, by_place)
        self._around, self._models = around, models
        self._forget_shared_colours(part, by_colour)
        return self._patched(picture, window, by_colour)

    def _by_guess(self, part: Bgr, inside: Any, guess: Mask, drawn: NDArray[np.int8]) -> Mask:
        """(h, w) of 0 and 1: what is cut out of a part by a guess at what is in the box."""
        mask = np.full(part.shape[:2], cv2.GC_BGD, np.uint8)
        mask[inside] = guess
        mask[drawn == 1], mask[drawn == 0] = cv2.GC_FGD, cv2.GC_BGD
        self._models = np.zeros((1, 65)), np.zeros((1, 65))
        cv2.grabCut(part, mask, None, *self._models, _PASSES, cv2.GC_INIT_WITH_MASK)
        return _is_thing(mask)

    def _cut_out_by_strokes(self, picture: Bgr, marks: Sequence[Mark]) -> Patch:
        """What is of the colours under the strokes, and hangs together with them."""
        left, top, right, bottom = self._around_marks([mark for mark in marks if mark.belongs], False)
        more = int(1.5 * max(right - left, bottom - top))
        window = self._within((left - more, top - more, right + more, bottom + more))
        share = self._share(window)
        part = _part(picture, window, share)
        drawn = _drawn(marks, window, share, part.shape)
        mask = self._by_colours(part, drawn)
        mask[drawn == 0] = cv2.GC_BGD
        if _has_both(mask):
            cv2.grabCut(part, mask, None, *self._models, _PASSES, cv2.GC_INIT_WITH_MASK)
        found = _touching(_is_thing(mask), (drawn == 1).astype(np.uint8))
        self._forget_shared_colours(part, found)
        return self._patched(picture, window, found)

    def _forget_shared_colours(self, part: Bgr, found: Mask) -> None:
        """A thing that has some of its ground's colours is not held by them: it would be eaten away."""
        if self._around is not None and found.any():
            shared = self._around.beyond(part[found == 1]) < 0
            if np.mean(shared) > _SHARED:
                self._around = None

    def _by_colours(self, part: Bgr, drawn: NDArray[np.int8]) -> Mask:
        """What is likelier of the colours under strokes than of those far from them; where both are alike,
        what is near the strokes."""
        under = drawn == 1
        ys, xs = np.nonzero(under)
        reach = int(_HULL * max(np.ptp(xs), np.ptp(ys)) + _AROUND[1] / 2)
        hull = np.zeros(part.shape[:2], np.uint8)
        cv2.fillConvexPoly(hull, cv2.convexHull(np.stack([xs, ys], 1).astype(np.int32)), 1)
        near = cv2.dilate(hull, _disc(reach)) == 1
        far = cv2.dilate(hull, _disc(reach + int(_FAR * max(np.ptp(xs), np.ptp(ys))))) == 0
        ground = _colours_of(part[far if far.any() else ~under])
        flat = np.ascontiguousarray(part).reshape(-1, 3)
        sure = _without_slips(under, ground.beyond(flat).reshape(under.shape))
        thing = _colours_of(part[sure])
        away = ground.without_some_of(thing).beyond(flat).reshape(under.shape)
        off = thing.beyond(flat).reshape(under.shape)
        alike = np.abs(off - away) < _OTHER / 2
        likely = np.where(alike, near, off < away)
        # A thing of colours of its own is held by them from picture to picture, too.
        if np.mean(away[sure] > _OTHER) > 0.5:
            self._around = ground.without_some_of(thing)
        mask = np.where(likely, cv2.GC_PR_FGD, cv2.GC_PR_BGD).astype(np.uint8)
        mask[sure] = cv2.GC_FGD
        return mask

    def _first_guess(self, part: Bgr, inside: Any) -> Mask:
        """What in the box is likely the thing: one of other colours than what is around it is told by them,
        any other by where it is."""
        shape = part[inside].shape[:2]
        ring = np.ones(part.shape[:2], bool)
        ring[inside] = False
        around = _colours_of(part[ring]) if ring.any() else None
        if around is None:
            return np.full(shape, cv2.GC_PR_FGD, np.uint8)
        beyond = around.beyond(np.ascontiguousarray(part[inside]).reshape(-1, 3)).reshape(shape)
        if np.mean(beyond > _OTHER) < _TOLD:
            return np.full(shape, cv2.GC_PR_FGD, np.uint8)
        self._around = around
        likely = np.where(beyond > _OTHER, cv2.GC_PR_FGD, cv2.GC_PR_BGD)
        return np.where(beyond < 0, cv2.GC_BGD, likely).astype(np.uint8)

    def _carried(self, part: Bgr, window: Window, share: float) -> Mask:
        """(h, w) from 0 to 255: where the matte of the last picture has gone in a window of the next one, of
        which that is the part."""
        last_part = _part(self._picture, window, share)
        before, after = (cv2.cvtColor(one, cv2.COLOR_BGR2GRAY) for one in (last_part, part))
        flow = self._flow.calc(after, before, None)
        height, width = after.shape
        x, y = np.meshgrid(np.arange(width, dtype=np.float32), np.arange(height, dtype=np.float32))
        last = _part(self._patch.laid_out(self._size), window, share)
        made: Mask = cv2.remap(last, x + flow[..., 0], y + flow[..., 1], cv2.INTER_LINEAR)
        return made

    def _refined(self, part: Bgr, carried: Mask) -> Mask:
        """(h, w) of 0 and 1: the thing cut out anew along the edge of what was carried on."""
        inside = (carried > 127).astype(np.uint8)
        ys, xs = np.nonzero(inside)
        if not len(xs):
            return inside
        reach = int(_BAND[0] * max(np.ptp(xs), np.ptp(ys)) + _BAND[1])
        sure, near = cv2.erode(inside, _disc(reach)), cv2.dilate(inside, _disc(reach))
        mask = np.where(inside, cv2.GC_PR_FGD, cv2.GC_PR_BGD).astype(np.uint8)
        mask[near == 0] = cv2.GC_BGD
        mask[sure == 1] = cv2.GC_FGD
        band = (mask != cv2.GC_BGD) & (mask != cv2.GC_FGD)
        if self._around is not None and band.any():
            mask[band] = np.where(self._around.beyond(part[band]) < 0, cv2.GC_BGD, mask[band])
        if (mask == cv2.GC_BGD).all() or not (mask == cv2.GC_BGD).any():
            return inside
        self._cut_anew(part, mask)
        return _touching(_not_thinly_grown(_is_thing(mask), inside), inside)

    def _cut_anew(self, part: Bgr, mask: Mask) -> None:
        """GrabCut of a mask, by the colours as they were learnt; what is surely not of it is left aside."""
        ground, thing = (model.copy() for model in self._models)
        ys, xs = np.nonzero(mask != cv2.GC_BGD)
        rows = slice(max(0, ys.min() - _EDGE), ys.max() + _EDGE)
        columns = slice(max(0, xs.min() - _EDGE), xs.max() + _EDGE)
        inner, colours = (np.ascontiguousarray(whole[rows, columns]) for whole in (mask, part))
        cv2.grabCut(colours, inner, None, ground, thing, 1, cv2.GC_EVAL_FREEZE_MODEL)
        mask[rows, columns] = inner

    def _patched(self, picture: Bgr, window: Window, found: Mask) -> Patch:
        """What was found in a window, at its full size, with a soft edge."""
        height, width = window[3] - window[1], window[2] - window[0]
        hard = found * np.uint8(255)
        if hard.shape != (height, width):
            hard = cv2.resize(hard, (width, height), interpolation=cv2.INTER_LINEAR)
        # Only where something of it is; the rest of what was looked at is clear.
        x, y, wide, high = cv2.boundingRect(hard)
        room = 4 * _SOFT
        left, top, right, bottom = self._within(
            (
                window[0] + x - room,
                window[1] + y - room,
                window[0] + x + wide + room,
                window[1] + y + high + room,
            )
        )
        left, top = max(left, window[0]), max(top, window[1])
        right, bottom = min(right, window[2]), min(bottom, window[3])
        inner = hard[top - window[1] : bottom - window[1], left - window[0] : right - window[0]]
        return Patch(left, top, _softened(picture[top:bottom, left:right], inner))

    def _window(self, patch: Patch) -> Window | None:
        """What of the picture is looked at around a matte; None where there is nothing of one."""
        ys, xs = np.nonzero(patch.alpha > 127)
        if len(xs) < 9:
            return None
        left, top = patch.left, patch.top
        return self._grown(
            (left + int(xs.min()), top + int(ys.min()), left + int(xs.max()) + 1, top + int(ys.max()) + 1)
        )

    def _grown(self, box: Window) -> Window:
        left, top, right, bottom = box
        more = int(_AROUND[0] * max(right - left, bottom - top) + _AROUND[1])
        return self._within((left - more, top - more, right + more, bottom + more))

    def _within(self, box: Window) -> Window:
        width, height = self._size
        return max(0, box[0]), max(0, box[1]), min(width, box[2]), min(height, box[3])

    def _share(self, window: Window) -> float:
        return min(1.0, _LARGEST / max(window[2] - window[0], window[3] - window[1]))


def _disc(reach: int) -> Any:
    return cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * reach + 1, 2 * reach + 1))


def _without_slips(under: NDArray[np.bool_], away: NDArray[np.float32]) -> NDArray[np.bool_]:
    """What of a stroke is of other colours than the ground, as a hand slips over an edge; all of it where
    that is too little to go by: then the thing is of its ground's colours itself."""
    told = under & (away > 0)
    return told if told.sum() > _SLIPS * under.sum() else under


def _has_both(mask: Mask) -> bool:
    """Whether there is something of the thing and of its ground to learn colours from."""
    thing = (mask == cv2.GC_FGD) | (mask == cv2.GC_PR_FGD)
    return bool(thing.any() and not thing.all())


def _box_of(mark: Mark) -> Window:
    low, high = mark.points.min(axis=0) - mark.width / 2, mark.points.max(axis=0) + mark.width / 2
    return int(low[0]), int(low[1]), int(high[0]), int(high[1])


def _drawn(marks: Sequence[Mark], window: Window, share: float, shape: tuple[int, ...]) -> NDArray[np.int8]:
    """(h, w) in a window: 1 where a stroke says that it belongs, 0 where that it does not, else -1."""
    made = np.full(shape[:2], -1, np.int8)
    for mark in marks:
        line = np.zeros(shape[:2], np.uint8)
        points = np.round((mark.points - window[:2]) * share * 16).astype(np.int32)
        wide = max(1, round(mark.width * share))
        cv2.polylines(line, [points.reshape(-1, 1, 2)], False, 1, wide, shift=4)
        made[line == 1] = 1 if mark.belongs else 0
    return made


def _touching_marks(found: Mask, before: NDArray[np.bool_], drawn: NDArray[np.int8]) -> Mask:
    """The parts that are one with what was there, or with a stroke of what belongs."""
    kept = _touching(found, (before | (drawn == 1)).astype(np.uint8))
    kept[drawn == 0] = 0
    return kept


def _part(picture: Any, window: Window, share: float) -> Any:
    left, top, right, bottom = window
    part = np.ascontiguousarray(picture[top:bottom, left:right])
    if share < 1:
        part = cv2.resize(part, None, fx=share, fy=share, interpolation=cv2.INTER_AREA)
    return part


@dataclass(frozen=True, slots=True)
class _Colours:
    """The colours around a thing, in CIE Lab: middles (n, 3), and how far each spreads (n,)."""

    middles: NDArray[np.float32]
    spread: NDArray[np.float32]
    weights: NDArray[np.float32]

    def without_some_of(self, other: _Colours) -> _Colours:
        """Without the rare ones that are another's: as what of a thing reaches far into its ground."""
        away = np.linalg.norm(self.middles[:, None] - other.middles, axis=-1) - 2 * other.spread
        kept = (self.weights > _RARE) | (away.min(axis=1) > _OTHER)
        if not kept.any():
            return self
        return _Colours(self.middles[kept], self.spread[kept], self.weights[kept])

    def beyond(self, pixels: Bgr) -> NDArray[np.float32]:
        """(n,): by how many steps of Lab px (n, 3) are beyond these colours; below 0 they are of them."""
        lab = cv2.cvtColor(pixels[None], cv2.COLOR_BGR2Lab)[0].astype(np.float32)
        squared = (lab * lab).sum(axis=1)[:, None] - 2 * (lab @ self.middles.T)
        squared += (self.middles * self.middles).sum(axis=1)
        away = np.sqrt(np.maximum(squared, 0.0, out=squared), out=squared)
        nearest: NDArray[np.float32] = (away - 2 * self.spread).min(axis=-1)
        return nearest


def _colours_of(pixels: Bgr) -> _Colours:
    """Those of px (n, 3)."""
    some = pixels[:: max(1, len(pixels) // 20_000)]
    lab = cv2.cvtColor(some[None], cv2.COLOR_BGR2Lab)[0].astype(np.float32)
    count = min(_COLOURS, len(lab))
    ends = (cv2.TERM_CRITERIA_EPS + cv2.TERM_CRITERIA_MAX_ITER, 20, 1.0)
    cv2.setRNGSeed(1)  # the same picture is cut out the same way
    _, labels, middles = cv2.kmeans(lab, count, None, ends, 1, cv2.KMEANS_PP_CENTERS)
    parts = [lab[labels.ravel() == number] for number in range(count)]
    spread = [np.linalg.norm(part.std(axis=0)) if len(part) else 0.0 for part in parts]
    weights = np.array([len(part) / len(lab) for part in parts], np.float32)
    return _Colours(middles, np.array(spread, np.float32), weights)


def _is_thing(mask: Mask) -> Mask:
    return ((mask == cv2.GC_FGD) | (mask == cv2.GC_PR_FGD)).astype(np.uint8)


def _is_of_its_texture(by_colour: Mask, by_place: Mask) -> bool:
    """Whether a thing cut out by colours that it does not share with its ground is only blots, all over what
    it is by where it is: a thing has one quiet edge, blots have much more of it."""
    inner, outer = int(np.count_nonzero(by_colour)), int(np.count_nonzero(by_place))
    if inner == 0 or outer == 0:
        return outer > 0
    left_out = (by_place == 1) & (by_colour == 0)
    away = cv2.distanceTransform(1 - by_colour, cv2.DIST_L2, 3)[left_out]
    return (
        int(np.count_nonzero(by_colour & by_place)) > _WITHIN * inner
        and len(away) > 0
        and float(away.mean()) < _GAPS * sqrt(outer)
        and _frayed(by_colour) > _FRAYED * _frayed(by_place)
    )


def _frayed(found: Mask) -> float:
    """How long the outlines are, those of holes too, for what they go around."""
    outlines, _ = cv2.findContours(found, cv2.RETR_LIST, cv2.CHAIN_APPROX_NONE)
    length = sum(cv2.arcLength(outline, True) for outline in outlines)
    return length / sqrt(max(1, int(np.count_nonzero(found))))


def _not_thinly_grown(found: Mask, inside: Mask) -> Mask:
    """Without what has come along lines alone, as a string that a thing hangs on."""
    broad = cv2.morphologyEx(found, cv2.MORPH_OPEN, np.ones((_BROAD, _BROAD), np.uint8))
    near = cv2.dilate(inside, np.ones((3, 3), np.uint8))
    return found & (broad | near)


def _touching(found: Mask, inside: Mask) -> Mask:
    """The parts that are one with what was there before."""
    _, labels = cv2.connectedComponents(found)
    kept = np.unique(labels[(inside == 1) & (found == 1)])
    return np.isin(labels, kept[kept > 0]).astype(np.uint8)


def _softened(part: Bgr, hard: Mask) -> Mask:
    """A mask whose edge goes along with the picture, a few px on each side of it."""
    if not part.size:
        return hard
    guide = cv2.cvtColor(part, cv2.COLOR_BGR2GRAY).astype(np.float32)
    soft = _guided(guide, hard.astype(np.float32), 2 * _SOFT + 1)
    square = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * _SOFT + 1, 2 * _SOFT + 1))
    sure, near = cv2.erode(hard, square), cv2.dilate(hard, square)
    made: Mask = np.clip(np.rint(soft), 0, 255).astype(np.uint8)
    made[sure == 255] = 255
    made[near == 0] = 0
    return made


def _guided(guide: NDArray[np.float32], mask: NDArray[np.float32], size: int) -> NDArray[np.float32]:
    """The guided filter: in each square of `size` px the mask is a line of the guide; lines are averaged."""
    mean = lambda values: cv2.blur(values, (size, size))  # noqa: E731
    middle, mask_middle = mean(guide), mean(mask)
    slope = (mean(guide * mask) - middle * mask_middle) / (mean(guide * guide) - middle**2 + _SMOOTH)
    rest = mask_middle - slope * middle
    made: NDArray[np.float32] = mean(slope) * guide + mean(rest)
    return made
