"""What is seen in footage, as px of its file, as px of the frame: over time, where the footage is shown."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from math import floor

import numpy as np
from numpy.typing import NDArray

from rovix.model import FootageClip, Media
from rovix.motion.material import media_time
from rovix.motion.scene import Scene, world_of
from rovix.motion.subject import shown_size
from rovix.motion.transform import mapped

Floats = NDArray[np.float64]
_STEP = 8.0  # px of the file over which a turn and a size are measured


@dataclass(frozen=True, slots=True)
class Spot:
    """A place in the frame, px from its middle; how many px one of the file is there, and how it turns."""

    x: float
    y: float
    size: float
    turn: float


def file_frame(scene: Scene, clip: FootageClip, media: Media, frame: int) -> int:
    """The frame of the file that a clip shows at a frame of its own."""
    rate = Fraction(media.rate or 30)
    # A moment falls into the frame that began last; what is a hair before it is rounding.
    number = floor(media_time(scene.rate, clip, frame) * rate + Fraction(1, 1000))
    last = max(0, round(Fraction(media.length or 0) * rate) - 1)
    return min(max(0, number), last)


def footage_matrix(scene: Scene, clip: FootageClip, media: Media, frame: int) -> Floats:
    """(3, 3): from px of the file to px of the picture at a frame of the clip, by its keys, not its moves."""
    width, height = shown_size(clip, scene.size, media)
    own = np.array([
        [width / (media.width or 1), 0.0, -width / 2], [0.0, height / (media.height or 1), -height / 2],
        [0.0, 0.0, 1.0],
    ])  # fmt: skip
    state = scene.state(clip, np.array([float(frame)]))
    flat = scene.project(world_of(scene, clip, clip.start + frame) @ state.layer[0])
    made: Floats = flat @ own
    return made


def seen_at(scene: Scene, matrix: Floats, x: float, y: float, turn: float = 0.0) -> Spot:
    """Where px of the file are through :func:`footage_matrix`, with a direction there (degrees clockwise)."""
    way = np.radians(turn)
    ends = np.array([[x, y], [x + _STEP * np.cos(way), y + _STEP * np.sin(way)]])
    here, there = mapped(matrix, ends)
    along = there - here
    across, down = scene.size
    return Spot(
        float(here[0]) - across / 2, float(here[1]) - down / 2, float(np.hypot(*along)) / _STEP,
        float(np.degrees(np.arctan2(along[1], along[0]))),
    )  # fmt: skip


def file_box(matrix: Floats, media: Media, box: tuple[float, float, float, float]) -> tuple[float, ...]:
    """A box (left, top, right, bottom) in px of the picture as one (x, y, width, height) of the file, within
    it."""
    left, top, right, bottom = box
    corners = np.array([[left, top], [right, top], [right, bottom], [left, bottom]])
    back = mapped(np.asarray(np.linalg.inv(matrix), dtype=np.float64), corners)
    low = np.clip(back.min(axis=0), 0, (media.width or 1, media.height or 1))
    high = np.clip(back.max(axis=0), 0, (media.width or 1, media.height or 1))
    x, y = low.tolist()
    width, height = (high - low).tolist()
    return x, y, width, height
