"""4x4 matrices: layers, pieces, and the camera.

Column vectors (x, y, z, 1): x right, y down, z towards the viewer, as in CSS Transforms Level 2.
"""

from __future__ import annotations

from functools import lru_cache
from math import radians, tan

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
FIELD_OF_VIEW = 40.0
NEAR = 1e-3
"""The share of its distance from the frame, measured from the viewer, up to which things are shown."""


def affine(values: dict[str, Floats], pivot: Floats) -> Floats:
    """Matrices of shape (..., 4, 4): about the pivot scale, slant, tip, swing, turn, then move.

    `values` holds arrays of one shape (...) for x, y, depth (px), scale_x, scale_y (shares of 1),
    slant, tip, swing, turn (degrees clockwise); `pivot` is (..., 2) px. What it has not yet is neutral.
    """
    turns = [(values[name], made) for name, made in _TURNS if name in values and values[name].any()]
    scales = [name for name in ("scale_x", "scale_y") if name in values and (values[name] != 1).any()]
    if not turns and not scales:  # most layers only move
        return _moved(values, pivot.shape[:-1])
    matrix = _scaled(values["scale_x"], values["scale_y"])
    for degrees, made in turns:
        matrix = made(degrees) @ matrix
    # Moving the pivot to the origin and back is one translation: p - A p.
    centre = np.zeros((*pivot.shape[:-1], 4, 1))
    centre[..., :2, 0] = pivot
    offset = centre - matrix @ centre
    for axis, name in enumerate(("x", "y", "z")):
        matrix[..., axis, 3] = offset[..., axis, 0] + values[name]
    return matrix


def shifted(x: float, y: float) -> Floats:
    """(4, 4): moved by px."""
    matrix = np.eye(4)
    matrix[:2, 3] = x, y
    return matrix


def scaled(across: float, down: float) -> Floats:
    """(4, 4): scaled about the origin."""
    return np.diag([across, down, 1.0, 1.0])


@lru_cache(maxsize=64)
def camera(size: tuple[int, int], field_of_view: float = FIELD_OF_VIEW) -> Floats:
    """(4, 4): perspective from the distance D = (height / 2) / tan(fov / 2) onto the frame.

    A point at depth z is scaled by D / (D - z) about the frame's centre; z >= D lies behind the
    viewer (its fourth coordinate is then 0 or less). Not to be written to.
    """
    matrix = np.eye(4)
    matrix[3, 2] = -tan(radians(field_of_view) / 2) / (size[1] / 2)
    matrix.setflags(write=False)
    return matrix


def projected(world: Floats, size: tuple[int, int]) -> Floats:
    """Homographies (..., 3, 3) from a flat thing's own px to px of the frame, corner origin."""
    seen = camera(size) @ world
    flat = np.empty((*seen.shape[:-2], 3, 3))
    flat[..., :2, :2], flat[..., :2, 2] = seen[..., :2, :2], seen[..., :2, 3]
    flat[..., 2, :2], flat[..., 2, 2] = seen[..., 3, :2], seen[..., 3, 3]
    return _to_corner(size) @ flat


@lru_cache(maxsize=64)
def _to_corner(size: tuple[int, int]) -> Floats:
    return np.array([[1.0, 0.0, size[0] / 2], [0.0, 1.0, size[1] / 2], [0.0, 0.0, 1.0]])


def mapped(homography: Floats, points: Floats) -> Floats:
    """Points (..., n, 2) through homographies (..., 3, 3); NaN where they lie behind the viewer."""
    rows = points @ np.swapaxes(homography[..., :, :2], -1, -2) + homography[..., None, :, 2]
    depth = rows[..., 2:]
    with np.errstate(divide="ignore", invalid="ignore"):
        return np.where(depth > 1e-9, rows[..., :2] / depth, np.nan)


def seen_part(homography: Floats, polygon: Floats) -> Floats:
    """(k, 2): a polygon (n, 2) through a homography, cut where it comes close to the viewer's plane; (0, 2)
    where all of it lies behind the viewer."""
    rows = polygon @ homography[:, :2].T + homography[:, 2]
    # As near as a thousandth of the distance that the frame is seen from a px is as large as a thousand.
    depth = rows[:, 2]
    ahead = depth >= NEAR
    if ahead.all():
        return rows[:, :2] / depth[:, None]
    if not ahead.any():
        return np.zeros((0, 2))
    after = np.roll(rows, -1, axis=0)
    crossing = ahead != np.roll(ahead, -1)
    found = []
    for number, row in enumerate(rows):
        if ahead[number]:
            found.append(row)
        if crossing[number]:
            share = (NEAR - row[2]) / (after[number, 2] - row[2])
            found.append(row + share * (after[number] - row))
    cut = np.array(found)
    return cut[:, :2] / cut[:, 2:]


def box_corners(boxes: Floats) -> Floats:
    """(n, 4, 2): left top, right top, right bottom, left bottom of boxes (n, 4)."""
    left, top, right, bottom = boxes.T
    return np.stack([left, top, right, top, right, bottom, left, bottom], axis=1).reshape(-1, 4, 2)


def _moved(values: dict[str, Floats], shape: tuple[int, ...]) -> Floats:
    matrix = _identity(shape)
    for axis, name in enumerate(("x", "y", "z")):
        if name in values:
            matrix[..., axis, 3] = 0.0 + values[name]  # never -0.0, as in the way with a pivot
    return matrix


def _identity(shape: tuple[int, ...]) -> Floats:
    matrix = np.zeros((*shape, 4, 4))
    for axis in range(4):
        matrix[..., axis, axis] = 1.0
    return matrix


def _cos_sin(degrees: Floats) -> tuple[Floats, Floats]:
    # Quarter turns are exact, so that a card at 90 degrees is truly edge on.
    quarter = np.mod(degrees, 360.0) / 90.0
    whole = np.mod(np.rint(quarter), 4).astype(int)
    exact = np.rint(quarter) == quarter
    angle = np.radians(degrees)
    cosine = np.where(exact, np.array([1.0, 0.0, -1.0, 0.0])[whole], np.cos(angle))
    return cosine, np.where(exact, np.array([0.0, 1.0, 0.0, -1.0])[whole], np.sin(angle))


def _rotation(degrees: Floats, first: int, second: int) -> Floats:
    matrix = _identity(degrees.shape)
    cosine, sine = _cos_sin(degrees)
    matrix[..., first, first] = matrix[..., second, second] = cosine
    matrix[..., first, second], matrix[..., second, first] = -sine, sine
    return matrix


def turned(degrees: Floats) -> Floats:
    """(..., 4, 4): turned clockwise by degrees (...)."""
    return _rotation(degrees, 0, 1)


def _tipped(degrees: Floats) -> Floats:
    return _rotation(degrees, 1, 2)


def _swung(degrees: Floats) -> Floats:
    return _rotation(degrees, 2, 0)


def _slanted(degrees: Floats) -> Floats:
    matrix = _identity(degrees.shape)
    matrix[..., 0, 1] = -np.tan(np.radians(degrees))
    return matrix


_TURNS = (("slant", _slanted), ("rotation_x", _tipped), ("rotation_y", _swung), ("rotation_z", turned))


def _scaled(across: Floats, down: Floats) -> Floats:
    matrix = _identity(across.shape)
    matrix[..., 0, 0], matrix[..., 1, 1] = across, down
    return matrix
