"""Where a matte lies, as a few polygons that are quick to send and to draw."""

from __future__ import annotations

import cv2

from rovix.vision.subject_matte import Patch

Outline = tuple[tuple[int, int], ...]
_EXACT = 1.2  # px that a polygon may be off


def outlines_of(patch: Patch) -> tuple[Outline, ...]:
    """Polygons in px of the whole picture; those in others are holes."""
    hard = (patch.alpha > 127).astype("uint8")
    found, _ = cv2.findContours(hard, cv2.RETR_CCOMP, cv2.CHAIN_APPROX_NONE)
    simple = (cv2.approxPolyDP(line, _EXACT, True)[:, 0] for line in found)
    return tuple(
        tuple((int(x) + patch.left, int(y) + patch.top) for x, y in line) for line in simple if len(line) > 2
    )
