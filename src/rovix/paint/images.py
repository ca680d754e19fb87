"""Pictures from files, laid into the frame by any homography."""

from __future__ import annotations

from collections import OrderedDict

import cv2
import numpy as np
from numpy.typing import NDArray

from rovix.motion import ImagePlan
from rovix.motion.transform import mapped
from rovix.paint.cache import LayerPicture
from rovix.paint.region import Region, region_of

Pixels = NDArray[np.uint8]
Floats = NDArray[np.float64]
_HALF = np.array([[1.0, 0.0, 0.5], [0.0, 1.0, 0.5], [0.0, 0.0, 1.0]])
_CROPS = 16
_EVEN = 1e-4  # px: edges this near to whole px are taken to lie on them


def place_image(
    pixels: Pixels, plan: ImagePlan, view: Floats, size: tuple[int, int], opaque: bool
) -> LayerPicture | None:
    """A picture laid into the frame.

    `view` (3, 3) takes the frame to a picture of `size`; `opaque` says that the pixels are. None
    where nothing of it is inside.
    """
    pixels = cropped(pixels, plan.crop)
    height, width = pixels.shape[:2]
    rest = np.array(
        [
            [plan.width / width, 0.0, -plan.width / 2],
            [0.0, plan.height / height, -plan.height / 2],
            [0.0, 0.0, 1.0],
        ]
    )
    matrix = view @ plan.matrix @ rest
    corners = mapped(matrix, np.array([[0.0, 0.0], [width, 0.0], [width, height], [0.0, height]]))
    if np.all(np.isnan(corners)):
        return None  # all of it lies behind the viewer
    upright = _upright(matrix, corners)
    if upright is not None:
        return _resized(pixels, upright, size, opaque and plan.crop != "round")
    region = region_of(corners, size)
    return None if region is None else LayerPicture(_warped(pixels, matrix, region), region.left, region.top)


def upright_size(plan: ImagePlan, view: Floats) -> tuple[int, int] | None:
    """Width and height in whole px at which a picture lies when it is only scaled, else None."""
    matrix = view @ plan.matrix
    box = np.array([[-plan.width / 2, -plan.height / 2], [plan.width / 2, plan.height / 2]])
    low, high = mapped(matrix, box)
    edges = _upright(matrix, np.array([low, low, high, high]))
    return None if edges is None or plan.crop != "none" else (edges[2] - edges[0], edges[3] - edges[1])


def seen_size(plan: ImagePlan, view: Floats) -> tuple[int, int] | None:
    """About how many px wide and high a picture is seen; None where part of it is behind the viewer."""
    box = np.array([[-1.0, -1.0], [1.0, -1.0], [1.0, 1.0], [-1.0, 1.0]]) * (plan.width / 2, plan.height / 2)
    corners = mapped(view @ plan.matrix, box)
    if not np.isfinite(corners).all():
        return None
    sides = np.hypot(*(np.roll(corners, -1, axis=0) - corners).T)
    across, down = max(sides[0], sides[2]), max(sides[1], sides[3])
    return max(1, round(float(min(across, 1e6)))), max(1, round(float(min(down, 1e6))))


def cropped(pixels: Pixels, crop: str) -> Pixels:
    """The middle square of a picture, and of that the circle, smooth edged, for a round crop."""
    if crop == "none":
        return pixels
    kept = _cropped.get((id(pixels), crop))
    if kept is None or kept[0] is not pixels:
        # The source is kept with its crop, so that its id cannot pass to another picture.
        kept = _cropped[(id(pixels), crop)] = (pixels, _cut(pixels, crop))
        while len(_cropped) > _CROPS:
            _cropped.popitem(last=False)
    return kept[1]


_cropped: OrderedDict[tuple[int, str], tuple[Pixels, Pixels]] = OrderedDict()


def _cut(pixels: Pixels, crop: str) -> Pixels:
    height, width = pixels.shape[:2]
    side = min(height, width)
    top, left = (height - side) // 2, (width - side) // 2
    square = pixels[top : top + side, left : left + side]
    return square if crop == "square" else _premultiplied_by(square, _disc(side))


def _disc(side: int) -> NDArray[np.float32]:
    across = np.arange(side, dtype=np.float32) + 0.5 - side / 2
    distance = np.sqrt(across[:, None] ** 2 + across[None, :] ** 2)
    return np.clip(side / 2 - distance + 0.5, 0.0, 1.0).astype(np.float32)


def _premultiplied_by(pixels: Pixels, share: NDArray[np.float32]) -> Pixels:
    return np.rint(pixels * share[..., None]).astype(np.uint8)


def _upright(matrix: Floats, corners: Floats) -> tuple[int, int, int, int] | None:
    """Left, top, right, bottom in whole px when the picture is only scaled, onto whole px."""
    plain = matrix[[0, 1, 2, 2], [1, 0, 0, 1]]
    if np.any(np.abs(plain) > 1e-9) or np.any(np.isnan(corners)) or matrix[0, 0] <= 0 or matrix[1, 1] <= 0:
        return None
    edges = np.concatenate([corners[0], corners[2]])
    whole = np.rint(edges)
    if np.any(np.abs(edges - whole) > _EVEN) or np.any(whole[2:] <= whole[:2]):
        return None
    left, top, right, bottom = whole.astype(int).tolist()
    return left, top, right, bottom


def _resized(
    pixels: Pixels, edges: tuple[int, int, int, int], size: tuple[int, int], opaque: bool
) -> LayerPicture | None:
    left, top, right, bottom = edges
    if right - left > 4 * size[0] or bottom - top > 4 * size[1]:
        return _enlarged_part(pixels, edges, size)
    if (right - left, bottom - top) != (pixels.shape[1], pixels.shape[0]):
        smaller = (right - left) * (bottom - top) < pixels.shape[0] * pixels.shape[1]
        method = cv2.INTER_AREA if smaller else cv2.INTER_LINEAR
        pixels = cv2.resize(pixels, (right - left, bottom - top), interpolation=method)
    inside = pixels[max(0, -top) : max(0, size[1] - top), max(0, -left) : max(0, size[0] - left)]
    return LayerPicture(inside, max(0, left), max(0, top), opaque) if inside.size else None


def _enlarged_part(
    pixels: Pixels, edges: tuple[int, int, int, int], size: tuple[int, int]
) -> LayerPicture | None:
    """Like resizing, but only of what is inside: a hundredfold zoom would not fit into memory."""
    left, top, right, bottom = edges
    region = region_of(np.array([[left, top], [right, bottom]], dtype=np.float64), size)
    if region is None:
        return None
    across, down = (right - left) / pixels.shape[1], (bottom - top) / pixels.shape[0]
    matrix = np.array([[across, 0.0, left], [0.0, down, top], [0.0, 0.0, 1.0]])
    return LayerPicture(_warped(pixels, matrix, region), region.left, region.top)


def _warped(pixels: Pixels, matrix: Floats, region: Region) -> Pixels:
    pixels, matrix = _shrunk(pixels, matrix)
    shift = np.array([[1.0, 0.0, -region.left], [0.0, 1.0, -region.top], [0.0, 0.0, 1.0]])
    # OpenCV counts from the middles of px, we from their corners.
    centred = np.linalg.inv(_HALF) @ shift @ matrix @ _HALF
    out = (region.width, region.height)
    if np.all(np.abs(matrix[2, :2]) < 1e-12):
        affine = centred[:2] / centred[2, 2]
        return cv2.warpAffine(pixels, affine, out, flags=cv2.INTER_LINEAR, borderValue=(0, 0, 0, 0))
    warped = cv2.warpPerspective(pixels, centred, out, flags=cv2.INTER_LINEAR, borderValue=(0, 0, 0, 0))
    return _without_what_is_behind(warped, centred)


def _shrunk(pixels: Pixels, matrix: Floats) -> tuple[Pixels, Floats]:
    """The picture averaged down to about the size it will have, so that fine detail does not flicker."""
    height, width = pixels.shape[:2]
    middle = np.array([width / 2, height / 2])
    near = mapped(matrix, middle + np.array([[0.0, 0.0], [1.0, 0.0], [0.0, 1.0]]))
    if not np.all(np.isfinite(near)):
        return pixels, matrix
    scale = [max(1e-3, float(np.hypot(*(near[axis] - near[0])))) for axis in (1, 2)]
    if min(scale) > 0.75:
        return pixels, matrix
    target = [
        max(1, round(side * min(1.0, share))) for side, share in zip((width, height), scale, strict=True)
    ]
    return _averaged(pixels, (target[0], target[1])), matrix @ np.diag(
        [width / target[0], height / target[1], 1.0]
    )


_averages: OrderedDict[tuple[int, tuple[int, int]], tuple[Pixels, Pixels]] = OrderedDict()


def _averaged(pixels: Pixels, target: tuple[int, int]) -> Pixels:
    """A picture averaged down to a size; the last two are kept, as a line-up shows one six times."""
    key = (id(pixels), target)
    kept = _averages.get(key)
    if kept is None or kept[0] is not pixels:
        # The source is kept with its average, so that its id cannot pass to another picture.
        kept = _averages[key] = (pixels, cv2.resize(pixels, target, interpolation=cv2.INTER_AREA))
        while len(_averages) > 2:
            _averages.popitem(last=False)
    return kept[1]


def _without_what_is_behind(warped: Pixels, matrix: Floats) -> Pixels:
    """Clear the px whose point of the picture lies behind the viewer."""
    back = np.linalg.inv(matrix)
    height, width = warped.shape[:2]
    weight = back[2, 0] * np.arange(width)[None] + back[2, 1] * np.arange(height)[:, None] + back[2, 2]
    if np.any(weight * back[2, 2] <= 0):
        front = np.sign(np.linalg.det(matrix)) * np.sign(np.linalg.det(back))
        warped[weight * front <= 0] = 0
    return warped
