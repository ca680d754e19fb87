"""What is seen in footage, as px of its file, as px of the frame: over time, where the footage is shown."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from rovix.model import FootageClip, Media
from rovix.motion.material import material_frames
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


def file_frames(scene: Scene, clip: FootageClip, media: Media) -> NDArray[np.int64]:
    """(length,): the frame of the file that a clip shows at each frame of its own."""
    rate = Fraction(media.rate or 30)
    shown = material_frames(clip, np.arange(clip.length, dtype=np.float64))
    # A moment falls into the frame that began last; what is a hair before it is rounding.
    numbers = np.floor(shown * float(rate / scene.rate.fraction) + 1e-3).astype(np.int64)
    return np.clip(numbers, 0, max(0, round(Fraction(media.length or 0) * rate) - 1))


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


def file_box(
    back: Floats, media: Media, box: tuple[float, float, float, float]
) -> tuple[float, float, float, float] | None:
    """A box (left, top, right, bottom) in px of the picture as one (x, y, width, height) of the file,
    within it; `back` (3, 3) goes from px of the picture to px of the file. None where it lies behind the
    viewer."""
    left, top, right, bottom = box
    found = mapped(back, np.array([[left, top], [right, top], [right, bottom], [left, bottom]]))
    if not np.isfinite(found).all():
        return None
    size = np.array([media.width or 1, media.height or 1], dtype=np.float64)
    low, high = (np.clip(end, 0, size) for end in (found.min(axis=0), found.max(axis=0)))
    (x, y), (width, height) = low.tolist(), (high - low).tolist()
    return x, y, width, height
