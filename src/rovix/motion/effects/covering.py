"""The polygons that a share of a wipe covers."""

from __future__ import annotations

import numpy as np

from rovix.model.effects.fill_sweep import FillSweep
from rovix.model.effects.wipe import Wipe
from rovix.motion.effects.affected import Affected, Floats
from rovix.motion.subject import piece_ink
from rovix.motion.transform import box_corners
from rovix.motion.wipes import wipe_polygons
from rovix.text import pieces_of


def covered(layer: Affected, wipe: Wipe | FillSweep, at: float, pin: str) -> tuple[Floats, ...]:
    """The polygons that a share of a wipe covers, px of the picture."""
    if wipe.way == "pieces":
        return _by_pieces(layer, wipe, at)
    box = layer.box(pin, at)
    found = wipe_polygons(wipe.way, box, wipe.angle, wipe.share, wipe.feather, wipe.count)
    return layer.placed(found, pin, at)


def _by_pieces(layer: Affected, wipe: Wipe | FillSweep, at: float) -> tuple[Floats, ...]:
    """Letters uncovered one after the other, each by a straight wipe of its own."""
    state = layer.scene.state(layer.clip, np.array([at - layer.clip.start]))
    layout = state.subject.layout
    if layout is None:
        found = wipe_polygons("straight", layer.box("words", at), wipe.angle, wipe.share)
        return layer.placed(found, "words", at)
    letters = pieces_of(layout, "letters")
    boxes = piece_ink(layout, letters.of_glyph, len(letters.starts))
    boxes = boxes[np.isfinite(boxes[:, 0])]
    shares = np.clip(wipe.share * len(boxes) - np.arange(len(boxes)), 0.0, 1.0)
    return layer.placed(_letter_boxes(boxes, shares, layout.size), "words", at)


def _letter_boxes(boxes: Floats, shares: Floats, room: float) -> list[Floats]:
    """The part of each letter's box (n, 4) that has come, with room for the look above and below it,
    and before the first and behind the last of them."""
    found = []
    for number, ((left, top, right, bottom), share) in enumerate(
        zip(boxes.tolist(), shares.tolist(), strict=True)
    ):
        if share > 0:
            first, last = number == 0, number == len(boxes) - 1 and share >= 1
            start = left - room if first else boxes[number - 1][2]
            end = left + (right - left) * share + (room if last else 0.0)
            found.append(box_corners(np.array([[start, top - room, end, bottom + room]]))[0])
    return found
