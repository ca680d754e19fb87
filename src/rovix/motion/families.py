"""What the eye sees first of a move: the families under which cards are shown."""

from __future__ import annotations

import numpy as np

from rovix.curve import easing
from rovix.model import Move

FAMILIES = (
    "Calm", "Lively", "Across the frame", "Soft", "Revealed", "Through depth", "Piece by piece", "Written",
)  # fmt: skip
"""In the order in which they are shown to words."""
_REVEALING = frozenset({"wipe", "open_left", "open_right", "open_top", "open_bottom"})
_DEEP = frozenset({"z", "rotation_x", "rotation_y"})
_SOFT = frozenset({"blur", "blur_x", "blur_y", "tracking", "glow_opacity", "colour"})
_CROSSING = frozenset({"offset_x", "offset_y"})
_WRITTEN = frozenset({"letters", "figures"})
_LIVELY = frozenset({"scale", "rotation_z", "scale_x", "scale_y", "slant"})
_BEYOND = 0.01


def family_of(move: Move) -> str:
    """The family of a move: what strikes most comes first, so each has one."""
    channels = {departure.channel for departure in move.channels}
    if _is_written(move, channels):
        return "Written"
    if channels & _REVEALING:
        return "Revealed"
    if channels & _DEEP:
        return "Through depth"
    if move.pieces != "whole":
        return "Piece by piece"
    crossing = any(departure.amount.unit == "off-frame" for departure in move.channels)
    if channels & _CROSSING or crossing:
        return "Across the frame"
    if channels & _SOFT:
        return "Soft"
    return "Lively" if channels & _LIVELY or _is_restless(move) else "Calm"


def _is_written(move: Move, channels: set[str]) -> bool:
    """Whether pieces come as if written: cut on one after the other, or their letters and figures change."""
    cut_on = move.pieces != "whole" and not channels
    return move.typing is not None or bool(channels & _WRITTEN) or cut_on


def _is_restless(move: Move) -> bool:
    """Whether it has a way of its own, is drawn at random, or swings past where it goes."""
    if any(departure.keys or departure.chance for departure in move.channels):
        return True
    values = easing(move.piece_curve)(np.linspace(0, 1, 64))
    return bool(values.max() > 1 + _BEYOND or values.min() < -_BEYOND)
