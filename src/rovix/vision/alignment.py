"""A picture of a region laid on another picture, to a fraction of a px."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

Grey = NDArray[np.float32]
Matrix = NDArray[np.floating[Any]]
Flat = NDArray[np.floating[Any]]
_STEPS = 30
_STILL = 0.005  # px of a step after which nothing is gained
_OUTLIERS = 2.0  # standard deviations from where a px counts less
_NOISE = 0.1  # of a px's own, in standard deviations of the region, that it never counts less for
_TRUSTED = 0.25  # standard deviations that a px may be off, again and again, and still count for most
_SLOWLY = 0.15  # of what is new that is learnt from one picture
_COARSE = 4.0  # px by which both are blurred at first, to come from farther


@dataclass(frozen=True, slots=True)
class Freedom:
    """What a region may do besides moving: grow and shrink, turn."""

    scale: bool = False
    rotation: bool = False


class Template:
    """A region of a picture, (h, w) float32 grey from 0 to 255, that is found again in others.

    By inverse compositional Gauss-Newton steps (Baker and Matthews, 'Lucas-Kanade 20 years on', 2004) on
    px of mean 0 and variance 1, so that light and contrast may change. Px that do not fit count less, and
    such as do not fit again and again, as those of a ground that goes elsewhere, least of all.
    """

    def __init__(self, pixels: Grey, freedom: Freedom) -> None:
        self.shape = pixels.shape
        self._levels = [_Level(_blurred(pixels, _COARSE), freedom), _Level(pixels, freedom)]
        # What somebody draws a box around is in its middle; its corners are likelier to be of the ground.
        y, x = _from_middle(pixels.shape)
        far = (2 * x / pixels.shape[1]) ** 2 + (2 * y / pixels.shape[0]) ** 2
        self._off = (_TRUSTED * (0.5 + far)).ravel().astype(np.float64)
        self._trust = self._trusted()

    def aligned(self, picture: Grey, start: Matrix) -> tuple[Matrix, float]:
        """The (3, 3) matrix from px of the region, counted from its middle, to px of a picture, near one to
        start from; and how alike the px then are, from -1 to 1."""
        matrix = start
        for level, blur in zip(self._levels, (_COARSE, 0.0), strict=True):
            matrix = level.aligned(picture, matrix, blur, self._trust)
        return matrix, self.likeness(picture, matrix)

    def learn(self, picture: Grey, matrix: Matrix) -> None:
        """Take note of which px fit where it is for sure."""
        level = self._levels[-1]
        off = level.off(under(picture, matrix, self.shape), self._trust)
        self._off += _SLOWLY * (np.minimum(np.abs(off), 2.0) - self._off)
        self._trust = self._trusted()

    @property
    def as_seen(self) -> Grey:
        """(h, w) from 0 to 255: what it looks like, of a middling light and contrast."""
        pixels = self._levels[-1].pixels
        made: Grey = ((pixels - pixels.mean()) / max(1e-3, float(pixels.std())) * 40 + 128).astype(np.float32)
        return made

    def likeness(self, picture: Grey, matrix: Matrix) -> float:
        """The correlation of the region with what of a picture lies under a matrix, from -1 to 1."""
        found = _normal(under(picture, matrix, self.shape).ravel(), self._trust)
        own = _normal(self._levels[-1].pixels.ravel(), self._trust)
        return float(np.sum(self._trust * found * own) / np.sum(self._trust))

    def _trusted(self) -> Flat:
        return 1 / (1 + (self._off / _TRUSTED) ** 2) ** 2


class _Level:
    """A region at one sharpness, with what of a step each px asks for."""

    def __init__(self, pixels: Grey, freedom: Freedom) -> None:
        self.pixels = pixels
        down, across = np.gradient(pixels)
        y, x = _from_middle(pixels.shape)
        ways = [across, down]
        if freedom.scale:
            ways.append(across * x + down * y)
        if freedom.rotation:
            ways.append(down * x - across * y)
        self._ways = np.stack([way.ravel() for way in ways], axis=1).astype(np.float64)
        self._freedom = freedom

    def aligned(self, picture: Grey, start: Matrix, blur: float, trust: Flat) -> Matrix:
        """As :meth:`Template.aligned`, at this sharpness."""
        matrix = start
        for _ in range(_STEPS):
            found = _blurred(under(picture, matrix, self.pixels.shape), blur)
            weights = trust * _weights(self.off(found, trust))
            off = self.off(found, weights)
            ways = self._ways / _spread(self.pixels.ravel(), weights)
            weighted = ways * weights[:, None]
            try:
                step = np.linalg.solve(weighted.T @ ways, weighted.T @ off)
            except np.linalg.LinAlgError:
                return start  # nothing in it says where it is
            matrix = matrix @ np.linalg.inv(self._matrix(step))
            if not np.isfinite(matrix).all() or abs(_scale_of(matrix) / _scale_of(start) - 1) > 0.5:
                return start
            if np.abs(step[:2]).max() < _STILL:
                break
        return matrix

    def off(self, found: Grey, weights: Flat) -> Flat:
        """By how much px found are off those of the region, both of mean 0 and variance 1."""
        return _normal(found.ravel(), weights) - _normal(self.pixels.ravel(), weights)

    def _matrix(self, step: NDArray[np.floating[Any]]) -> Matrix:
        rest = list(step[2:])
        scale = 1 + (rest.pop(0) if self._freedom.scale else 0.0)
        turn = rest.pop(0) if self._freedom.rotation else 0.0
        return similarity(step[0], step[1], scale, turn)


def _weights(off: Flat) -> Flat:
    """How much each px counts: the less the farther it is off most others."""
    weights: Flat = 1 / np.maximum(1.0, np.abs(off) / (_OUTLIERS * max(_NOISE, float(np.std(off)))))
    return weights


def similarity(x: float, y: float, scale: float = 1.0, turn: float = 0.0) -> Matrix:
    """The (3, 3) matrix that scales, turns by radians clockwise (y goes down), and moves to (x, y)."""
    cos, sin = scale * np.cos(turn), scale * np.sin(turn)
    return np.array([[cos, -sin, x], [sin, cos, y], [0.0, 0.0, 1.0]])


def _scale_of(matrix: Matrix) -> float:
    return float(np.hypot(matrix[0, 0], matrix[1, 0]))


def under(picture: Grey, matrix: Matrix, shape: tuple[int, ...]) -> Grey:
    """(h, w) of a picture's px under the px of a region."""
    height, width = shape
    middle = np.array([[1.0, 0.0, -(width - 1) / 2], [0.0, 1.0, -(height - 1) / 2], [0.0, 0.0, 1.0]])
    flags = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    found: Grey = cv2.warpAffine(
        picture, (matrix @ middle)[:2], (width, height), flags=flags, borderMode=cv2.BORDER_REPLICATE
    )
    return found


def _from_middle(shape: tuple[int, ...]) -> tuple[Grey, Grey]:
    """(h, 1) and (1, w): px from the middle, down and across."""
    height, width = shape
    y = np.arange(height, dtype=np.float32)[:, None] - (height - 1) / 2
    x = np.arange(width, dtype=np.float32)[None, :] - (width - 1) / 2
    return y, x


def _normal(pixels: NDArray[np.float32], weights: Flat) -> Flat:
    """Px of mean 0 and variance 1, as far as they count."""
    mean = float(np.average(pixels, weights=weights))
    return (pixels - mean) / _spread(pixels, weights)


def _spread(pixels: NDArray[np.float32], weights: Flat) -> float:
    """The standard deviation of px, as far as they count."""
    total = float(np.sum(weights))
    mean = float(np.sum(weights * pixels)) / total
    return max(1e-3, float(np.sqrt(np.sum(weights * (pixels - mean) ** 2) / total)))


def _blurred(pixels: Grey, blur: float) -> Grey:
    return pixels if blur <= 0 else cv2.GaussianBlur(pixels, (0, 0), blur)
