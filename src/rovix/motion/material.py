"""Which moment of its material a clip shows."""

from __future__ import annotations

from fractions import Fraction
from math import floor

import numpy as np
from numpy.typing import NDArray

from rovix.model import FootageClip, TimedClip
from rovix.time import Rate, played


def material_frame(clip: TimedClip, frame: Fraction) -> Fraction:
    """The place in the material, in frames of the sequence, at a frame of the clip; never below 0.

    Frames before the clip's first or after its last, as a join asks for, run on where the clip does.
    """
    playing = clip.playing
    own = clip.length - 1 - frame if playing.backwards else frame
    position = (own + playing.lead) * Fraction(repr(playing.speed))
    if playing.span is not None:
        position = max(Fraction(0), position)
    return max(Fraction(0), clip.offset + played(position, playing.span, playing.and_back))


def media_time(rate: Rate, clip: FootageClip, frame: float) -> Fraction:
    """Seconds into the file at a frame of the clip; footage holds through a whole frame."""
    return rate.seconds(material_frame(clip, Fraction(floor(frame))))


def material_frames(clip: TimedClip, frames: NDArray[np.float64]) -> NDArray[np.float64]:
    """Like :func:`material_frame` for many frames at once, as floats: for drawing, not for playing."""
    playing = clip.playing
    own = clip.length - 1 - frames if playing.backwards else frames
    position = (own + playing.lead) * playing.speed
    if playing.span is not None:
        position = np.maximum(0.0, position)
        last = playing.span - 1
        if not playing.and_back:
            position = np.mod(position, playing.span)
        elif last:
            position = last - np.abs(last - np.mod(position, 2 * last))
        else:
            position = np.zeros_like(position)
    return np.maximum(0.0, clip.offset + position)
