"""A region followed from picture to picture: guessed from the last one, laid on the one it was picked in."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from rovix.vision.alignment import Freedom, Grey, Matrix, Template, similarity, under

SURE, LOST = 0.75, 0.55
"""Likeness from which on a place is sure, and below which the region is hidden or another thing."""
_LARGEST = 160  # px of a region's longer side that are compared; a larger one is looked at smaller
_CORNERS = 80
_AGREE = 1.0  # px that a corner may be off when it is followed there and back
_LEAST = 6  # corners that agree
_ANEW = 0.9  # likeness from which on what is seen in a picture helps with the next


@dataclass(frozen=True, slots=True)
class Place:
    """Where a region is: its centre in px from the picture's left top corner, how large and turned (degrees,
    clockwise) against where it was picked, and how sure that is, from 0 to 1."""

    x: float
    y: float
    scale: float
    rotation: float
    confidence: float

    @property
    def is_lost(self) -> bool:
        """Whether the region is hidden, or has become another thing."""
        return self.confidence < LOST


class RegionTracker:
    """Follows a box of a picture through those that :meth:`follow` is given one after the other, forwards or
    backwards. Pictures are (h, w) uint8 grey, a box is (x, y, width, height) in px from the left top corner.
    """

    def __init__(
        self, picture: NDArray[np.uint8], box: tuple[float, float, float, float], freedom: Freedom
    ) -> None:
        x, y, width, height = box
        self._freedom = freedom
        self._shrunk = max(0, int(np.ceil(np.log2(max(width, height) / _LARGEST))))
        share = 2.0**-self._shrunk
        self._share = share
        grey = self._prepared(picture)
        self._side = max(4, round(height * share)), max(4, round(width * share))
        # The centre of px (0, 0) is at (0.5, 0.5) of the picture.
        middle = similarity((x + width / 2) * share - 0.5, (y + height / 2) * share - 0.5)
        self._picked = Template(under(grey, middle, self._side), freedom)
        self._seen = False
        self._matrix = middle
        self._way = np.zeros(2)
        self._last = grey
        self._hidden = 0

    def follow(self, picture: NDArray[np.uint8]) -> Place:
        """Where the region is in the next picture."""
        grey = self._prepared(picture)
        matrix, likeness = self._found(grey)
        if likeness < LOST:
            matrix, likeness = self._searched(grey, matrix, likeness)
        before = self._matrix[:2, 2].copy()
        if likeness >= LOST:
            self._matrix, self._hidden = matrix, 0
            self._way = 0.5 * self._way + 0.5 * (matrix[:2, 2] - before)
            if likeness >= SURE:
                self._picked.learn(grey, matrix)
            self._seen = self._seen or likeness >= _ANEW
        else:
            self._hidden += 1
            # Where it is hidden it goes on as it went, slower and slower.
            self._way = self._way * 0.9
            self._matrix = self._matrix.copy()
            self._matrix[:2, 2] += self._way
        self._last = grey
        return self._place(max(0.0, likeness))

    def _found(self, grey: Grey) -> tuple[Matrix, float]:
        """The likeliest of where it seems to have gone."""
        carried, gone_on = self._carried(grey), _moved(self._matrix, self._way)
        guesses = [gone_on] if carried is None else [carried, gone_on]
        found = [self._picked.aligned(grey, guess) for guess in guesses]
        matrix, likeness = max(found, key=lambda one: one[1])
        if likeness < SURE and self._seen and not self._hidden:
            # It looks otherwise than where it was picked: what it looked like last tells where to look.
            recent = Template(under(self._last, self._matrix, self._side), Freedom())
            near, alike = recent.aligned(grey, guesses[0])
            if alike > SURE:
                again, likely = self._picked.aligned(grey, near)
                return (again, likely) if likely >= LOST else (near, LOST)
        return matrix, likeness

    def _carried(self, grey: Grey) -> Matrix | None:
        """Where corners in the region went since the last picture; None where too few agree."""
        if self._hidden:
            return None
        before, after = _followed(self._last, grey, self._inside())
        if len(before) < _LEAST:
            return None
        if not (self._freedom.scale or self._freedom.rotation):
            return _moved(self._matrix, np.median(after - before, axis=0))
        found, _ = cv2.estimateAffinePartial2D(before, after, ransacReprojThreshold=1.5)
        if found is None:
            return None
        moved = np.vstack([found, [0, 0, 1]]) @ self._matrix
        return self._kept_free(moved)

    def _kept_free(self, matrix: Matrix) -> Matrix:
        """With the scale and the turn that the region may have."""
        scale = float(np.hypot(matrix[0, 0], matrix[1, 0])) if self._freedom.scale else 1.0
        turn = float(np.arctan2(matrix[1, 0], matrix[0, 0])) if self._freedom.rotation else 0.0
        return similarity(matrix[0, 2], matrix[1, 2], scale, turn)

    def _searched(self, grey: Grey, matrix: Matrix, likeness: float) -> tuple[Matrix, float]:
        """Where it is found again around where it should be, the farther the longer it is hidden."""
        height, width = self._side
        scale = float(np.hypot(self._matrix[0, 0], self._matrix[1, 0]))
        turned = similarity(0, 0, scale, float(np.arctan2(self._matrix[1, 0], self._matrix[0, 0])))
        reach = max(width, height) * min(4.0, 1.0 + 0.5 * self._hidden)
        place = self._matrix[:2, 2] + self._way
        area_side = int(height + 2 * reach), int(width + 2 * reach)
        area = under(grey, similarity(*place) @ turned, area_side)
        score = cv2.matchTemplate(area, self._picked.as_seen, cv2.TM_CCOEFF_NORMED)
        _, best, _, at = cv2.minMaxLoc(score)
        if best <= max(LOST, likeness):
            return matrix, likeness
        off = np.array([at[0] + (width - 1) / 2 - (area_side[1] - 1) / 2,
                        at[1] + (height - 1) / 2 - (area_side[0] - 1) / 2, 1.0])  # fmt: skip
        start = turned.copy()
        start[:2, 2] = (similarity(*place) @ turned @ off)[:2]
        found, alike = self._picked.aligned(grey, start)
        return (found, alike) if alike > likeness else (matrix, likeness)

    def _inside(self) -> NDArray[np.uint8]:
        """Which px of the last picture are the region's."""
        height, width = self._side
        corners = np.array([[-width, -height], [width, -height], [width, height], [-width, height]]) / 2
        placed = corners @ self._matrix[:2, :2].T + self._matrix[:2, 2]
        mask = np.zeros(self._last.shape, np.uint8)
        cv2.fillConvexPoly(mask, np.round(placed).astype(np.int32), 255)
        return mask

    def _prepared(self, picture: NDArray[np.uint8]) -> Grey:
        for _ in range(self._shrunk):
            picture = cv2.resize(picture, None, fx=0.5, fy=0.5, interpolation=cv2.INTER_AREA)
        return picture.astype(np.float32)

    def _place(self, confidence: float) -> Place:
        x, y = (self._matrix[:2, 2] + 0.5) / self._share
        scale = float(np.hypot(self._matrix[0, 0], self._matrix[1, 0]))
        turn = float(np.degrees(np.arctan2(self._matrix[1, 0], self._matrix[0, 0])))
        return Place(float(x), float(y), scale, turn, min(1.0, confidence))


def _moved(matrix: Matrix, by: NDArray[np.float64]) -> Matrix:
    made = matrix.copy()
    made[:2, 2] += by
    return made


def _followed(
    last: Grey, grey: Grey, inside: NDArray[np.uint8]
) -> tuple[NDArray[np.float32], NDArray[np.float32]]:
    """(n, 2) corners of the last picture and where they are now, such as come back when followed back."""
    before, after = last.astype(np.uint8), grey.astype(np.uint8)
    none = np.zeros((0, 2), np.float32)
    corners = cv2.goodFeaturesToTrack(before, _CORNERS, 0.01, 4, mask=inside)
    if corners is None:
        return none, none
    there, seen, _ = cv2.calcOpticalFlowPyrLK(before, after, corners, None, winSize=(21, 21), maxLevel=4)
    back, again, _ = cv2.calcOpticalFlowPyrLK(after, before, there, None, winSize=(21, 21), maxLevel=4)
    near = np.linalg.norm(back - corners, axis=-1).ravel() < _AGREE
    agree = near & (seen.ravel() == 1) & (again.ravel() == 1)
    return corners.reshape(-1, 2)[agree], there.reshape(-1, 2)[agree]
