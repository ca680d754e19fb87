"""How well letters stand out from what is right around them, their outlines, shadows and boxes counted."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

from rovix.check.contrast import relative_luminance
from rovix.curve.colour_spaces import contrast

Floats = NDArray[np.float64]
RING = 0.003
"""Of the frame's height: how wide the ring around letters is that counts."""
TENTH = 10.0
_FACE, _CLEAR = 0.9, 0.04  # coverage from which a px is a letter's face, and under which it is none of it
_LEAST = 4  # px of a face under which nothing is said of it


@dataclass(frozen=True, slots=True)
class Edges:
    """Ratios of WCAG 2.2, 1 to 21, of letters against the ring around them: the `tenth` percentile over
    all px of all rings, and that of each letter (n,) in `letters`; their `boxes` (n, 4) in px."""

    tenth: float
    letters: Floats
    boxes: Floats


def edges(picture: NDArray[np.uint8], faces: NDArray[np.floating], ring: float | None = None) -> Edges | None:
    """How letters stand out in a picture (h, w, 3) of sRGB bytes, red first; `faces` (h, w) is how far their
    faces cover each px, 0 to 1, and `ring` px the ring's width, :data:`RING` of the height if None.

    None where no letter can be seen. ValueError for arrays of other shapes.
    """
    if picture.ndim != 3 or picture.shape[2] != 3 or faces.shape != picture.shape[:2]:
        raise ValueError(
            f"a picture (h, w, 3) and faces (h, w) go together, not {picture.shape}, {faces.shape}"
        )
    wide = max(1, int(picture.shape[0] * RING) if ring is None else round(ring))
    box = _box(faces, wide)
    if box is None:
        return None
    rows, columns = box
    light = relative_luminance(picture[rows, columns])
    cover = faces[rows, columns]
    labels, count = ndimage.label(cover >= _FACE)
    around, nearest = _ring(cover, labels, wide)
    sizes = np.bincount(labels.ravel(), minlength=count + 1)[1:]
    face = np.array(ndimage.median(light, labels, np.arange(1, count + 1))).reshape(-1)
    ratios = contrast(face[nearest - 1], light[around])
    told = np.full(count, np.nan)
    for n in np.flatnonzero((sizes >= _LEAST) & (np.bincount(nearest, minlength=count + 1)[1:] > 0)):
        told[n] = np.percentile(ratios[nearest == n + 1], TENTH)
    kept = np.isfinite(told)
    if not kept.any():
        return None
    counted = kept[nearest - 1]
    spans = [found for found in ndimage.find_objects(labels) if found is not None]
    boxes = np.array([(x.start, y.start, x.stop, y.stop) for y, x in spans], dtype=np.float64)
    place = boxes[kept] + (columns.start, rows.start) * 2
    return Edges(float(np.percentile(ratios[counted], TENTH)), told[kept], place)


def _box(faces: NDArray[np.floating], wide: int) -> tuple[slice, slice] | None:
    """The part of a picture that has letters, with room for their rings."""
    found = ndimage.find_objects((faces > _CLEAR).astype(np.uint8))
    if not found:
        return None
    rows, columns = found[0]
    room = wide + 2
    return (
        slice(max(0, rows.start - room), min(faces.shape[0], rows.stop + room)),
        slice(max(0, columns.start - room), min(faces.shape[1], columns.stop + room)),
    )


def _ring(
    cover: NDArray[np.floating], labels: NDArray[np.int32], wide: int
) -> tuple[NDArray[np.bool_], NDArray[np.int32]]:
    """(h, w) the px of the ring, clear of any face, and of each the letter that is nearest."""
    away, at = ndimage.distance_transform_edt(labels == 0, return_indices=True)
    around = (away <= wide + 1) & (cover <= _CLEAR) & (labels.max() > 0)
    rows, columns = at[:, around]
    return around, labels[rows, columns]


@dataclass(frozen=True, slots=True)
class Ground:
    """How busy the ground right around letters is: the standard deviation (0 to 0.5) of its luma, and how
    thick most strokes are, as a share of the picture's height."""

    deviation: float
    stroke: float

    @property
    def is_busy(self) -> bool:
        """Whether thin strokes stand on much that changes; common practice, no source."""
        return self.deviation > BUSY and self.stroke < THIN


BUSY, THIN = 0.14, 0.014


def ground(picture: NDArray[np.uint8], faces: NDArray[np.floating]) -> Ground | None:
    """The ground around letters, of arrays as of :func:`edges`; None where no letter can be seen."""
    wide = max(3, round(picture.shape[0] * _AROUND))
    box = _box(faces, wide)
    if box is None:
        return None
    cover = faces[box]
    inside = cover >= _FACE
    if not inside.any():
        return None
    away = ndimage.distance_transform_edt(~inside)
    around = (away > 1) & (away <= wide) & (cover <= _CLEAR)
    if not around.any():
        return None
    luma = picture[box][around].astype(np.float64) @ _LUMA / 255
    depth = ndimage.distance_transform_edt(np.pad(inside, 1))[1:-1, 1:-1]
    ridges = depth[(depth >= ndimage.maximum_filter(depth, 3) - 1e-9) & inside]
    return Ground(float(luma.std()), float(2 * np.median(ridges) - 1) / picture.shape[0])


_AROUND = 0.02
_LUMA = np.array([0.2126, 0.7152, 0.0722])
