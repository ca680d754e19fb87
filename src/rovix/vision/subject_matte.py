"""The outline of a thing, cut out in one picture and carried on from picture to picture."""

from __future__ import annotations

from dataclasses import dataclass
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
_BROAD = 5  # px of a side that what comes anew has at least
_COLOURS = 12  # that what is around a thing is told from it by
_TOLD = 0.1  # of a box that is to be of another colour for the thing to be told by that
_OTHER = 8.0  # steps of CIE Lab beyond these that are another colour
_SOFT = 2  # px on each side of the edge in which it may be soft
_SMOOTH = 40.0  # grey levels squared: a difference in the picture that the soft edge goes along with


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
    """Cuts what is in a box (x, y, width, height in px) out of a picture, (h, w, 3) uint8 BGR, and then out
    of those that :meth:`follow` is given, forwards or backwards.

    By GrabCut (Rother, Kolmogorov and Blake, 2004); its models of colour stay those of the picked picture.
    From picture to picture it is carried by DIS optical flow (Kroeger and others, 2016) and cut anew in a
    band along the edge, which a guided filter (He, Sun and Tang, 2010) makes soft.
    """

    def __init__(self, picture: Bgr, box: tuple[float, float, float, float]) -> None:
        self._models = np.zeros((1, 65)), np.zeros((1, 65))
        self._flow: Any = cv2.DISOpticalFlow.create(cv2.DISOPTICAL_FLOW_PRESET_MEDIUM)
        self._size = picture.shape[1], picture.shape[0]
        self._picture = picture
        self._around: _Colours | None = None
        self._patch = self._cut_out(picture, box)

    @property
    def picked(self) -> Patch:
        """The matte in the latest picture, the picked one at first."""
        return self._patch

    def follow(self, picture: Bgr) -> Patch:
        """The matte in the next picture; empty once nothing of the thing is left in it."""
        window = self._window(self._patch)
        if window is None:
            self._picture = picture
            return self._patch
        share = self._share(window)
        carried = self._carried(picture, window, share)
        found = self._refined(_part(picture, window, share), carried)
        if np.count_nonzero(found) < 0.2 * np.count_nonzero(carried > 127):
            found = (carried > 127).astype(np.uint8)  # another colour, or hidden: the flow knows best
        self._picture, self._patch = picture, self._patched(picture, window, found)
        return self._patch

    def _cut_out(self, picture: Bgr, box: tuple[float, float, float, float]) -> Patch:
        x, y, width, height = box
        window = self._grown((int(x), int(y), int(np.ceil(x + width)), int(np.ceil(y + height))))
        share = self._share(window)
        part = _part(picture, window, share)
        mask = np.full(part.shape[:2], cv2.GC_BGD, np.uint8)
        left, top = (int((a - b) * share) for a, b in ((x, window[0]), (y, window[1])))
        inside = np.s_[top : top + int(height * share), left : left + int(width * share)]
        mask[inside] = self._first_guess(part, mask[inside].shape, inside)
        cv2.grabCut(part, mask, None, *self._models, _PASSES, cv2.GC_INIT_WITH_MASK)
        return self._patched(picture, window, _is_thing(mask))

    def _first_guess(self, part: Bgr, shape: tuple[int, ...], inside: Any) -> Mask:
        """What in the box is likely the thing: one of other colours than what is around it is told by them,
        any other by where it is."""
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

    def _carried(self, picture: Bgr, window: Window, share: float) -> Mask:
        """(h, w) from 0 to 255: where the matte of the last picture has gone in a window of the next one."""
        before, after = (
            cv2.cvtColor(_part(one, window, share), cv2.COLOR_BGR2GRAY) for one in (self._picture, picture)
        )
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
        round_ = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * reach + 1, 2 * reach + 1))
        sure, near = cv2.erode(inside, round_), cv2.dilate(inside, round_)
        mask = np.where(inside, cv2.GC_PR_FGD, cv2.GC_PR_BGD).astype(np.uint8)
        mask[near == 0] = cv2.GC_BGD
        mask[sure == 1] = cv2.GC_FGD
        band = (mask != cv2.GC_BGD) & (mask != cv2.GC_FGD)
        if self._around is not None and band.any():
            mask[band] = np.where(self._around.beyond(part[band]) < 0, cv2.GC_BGD, mask[band])
        if (mask == cv2.GC_BGD).all() or not (mask == cv2.GC_BGD).any():
            return inside
        ground, thing = (model.copy() for model in self._models)
        cv2.grabCut(part, mask, None, ground, thing, 1, cv2.GC_EVAL_FREEZE_MODEL)
        return _touching(_not_thinly_grown(_is_thing(mask), inside), inside)

    def _patched(self, picture: Bgr, window: Window, found: Mask) -> Patch:
        """What was found in a window, at its full size, with a soft edge."""
        part = _part(picture, window, 1.0)
        height, width = part.shape[:2]
        hard = found * np.uint8(255)
        if hard.shape != (height, width):
            hard = cv2.resize(hard, (width, height), interpolation=cv2.INTER_LINEAR)
        return Patch(window[0], window[1], _softened(part, hard))

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
        width, height = self._size
        return max(0, left - more), max(0, top - more), min(width, right + more), min(height, bottom + more)

    def _share(self, window: Window) -> float:
        return min(1.0, _LARGEST / max(window[2] - window[0], window[3] - window[1]))


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

    def beyond(self, pixels: Bgr) -> NDArray[np.float32]:
        """(n,): by how many steps of Lab px (n, 3) are beyond these colours; below 0 they are of them."""
        lab = cv2.cvtColor(pixels[None], cv2.COLOR_BGR2Lab)[0].astype(np.float32)
        away = np.linalg.norm(lab[:, None] - self.middles, axis=-1)
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
    return _Colours(middles, np.array(spread, np.float32))


def _is_thing(mask: Mask) -> Mask:
    return ((mask == cv2.GC_FGD) | (mask == cv2.GC_PR_FGD)).astype(np.uint8)


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
