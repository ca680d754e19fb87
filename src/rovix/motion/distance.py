"""Amounts of a move as numbers: px, shares, em, and just off the frame."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from rovix.model import Amount
from rovix.model.move_channels import MOVE_CHANNELS
from rovix.motion.subject import Subject
from rovix.motion.transform import box_corners, mapped, projected

Floats = NDArray[np.float64]
CLEARANCE = 1.0  # px between the ink and the frame
_HALVINGS = 60
_FEW = 24  # pieces up to which four halvings at a time cost less than one after the other
AXES = {name: row.axis for name, row in MOVE_CHANNELS.items() if row.axis is not None}
"""The channels whose amounts are lengths, across (0) or down (1)."""


@dataclass(frozen=True, slots=True, eq=False)
class Stage:
    """What distances are measured against: the frame, the layer at rest, and its matrix there.

    `away` (n, 4, 4) is each piece's own matrix when fully away but not yet moved; `reach` is how
    far in px the outlines go beyond the ink; `spill` how far shadow, glow and box go beyond those,
    left, up, right, down in px that go with the scale; `blur` (n, 2) how far blurs go in px of
    the frame, across and down. `boxes` (n, 4) are those of the move's piece that each belongs to, its
    line's down.
    """

    size: tuple[int, int]
    subject: Subject
    layer: Floats
    away: Floats
    reach: float
    boxes: Floats
    blur: Floats
    spill: tuple[float, float, float, float] = (0.0, 0.0, 0.0, 0.0)
    _found: dict[tuple[str, float], Floats] = field(default_factory=dict)

    def amounts(self, channel: str, amount: Amount) -> Floats:
        """(n,): the amount for every piece, in the channel's own unit."""
        count = len(self.subject)
        if channel == "figures":
            return (
                amount.value - self.subject.numbers()
                if amount.unit == "number"
                else np.full(count, amount.value)
            )
        if amount.unit == "off-frame" and "off-frame" in MOVE_CHANNELS[channel].units:
            sign = float(np.copysign(1.0, amount.value))
            if (channel, sign) not in self._found:
                self._found[(channel, sign)] = self.off_frame(channel, sign)
            return amount.value * self._found[(channel, sign)]
        if channel not in AXES:
            return np.full(count, amount.value)
        return amount.value * np.broadcast_to(self._unit(amount.unit, AXES[channel]), count)

    def _unit(self, unit: str, axis: int) -> float | Floats:
        """px of a unit across or down: one for all pieces, or one each."""
        block = self.subject.block
        if unit == "piece":
            return np.asarray(self.boxes[:, 2 + axis] - self.boxes[:, axis])
        found = {
            "frame": float(self.size[axis]),
            "block": block[2 + axis] - block[axis],
            "em": self.subject.size,
        }
        return found.get(unit, 1.0)

    def off_frame(self, channel: str, sign: float) -> Floats:
        """(n,): the least distance along a channel that takes each piece's ink just off the frame.

        Found by bisection, since perspective bends the way; a piece without ink needs none, and
        one that can never get out stays at the largest distance tried.
        """
        # Perspective can slow the way down a hundredfold before it leaves the frame.
        reach = 256.0 * max(self.size)
        low, high = np.zeros(len(self.subject)), np.full(len(self.subject), reach)
        box = self._corners()
        low = np.where(self._is_out(low[:, None], channel, sign, box)[:, 0], -1.0, low)
        levels = 4 if len(self.subject) <= _FEW else 1
        for _ in range(_HALVINGS // levels):
            tried = _middles(low, high, levels)
            low, high = _followed(low, high, tried, self._is_out(tried, channel, sign, box), levels)
        return np.maximum(high, 0.0)

    def _is_out(self, distances: Floats, channel: str, sign: float, box: Floats) -> NDArray[np.bool_]:
        """(n, k): whether each piece, in its box (n, 4, 2), is out of the frame at distances (n, k)."""
        moved = np.repeat(self.away[:, None], distances.shape[1], axis=1)
        moved[..., "xy".index(channel), 3] += distances * sign
        corners = mapped(projected(self.layer @ moved, self.size), box[:, None])
        behind = np.isnan(corners[..., 0])
        spill = np.array(self.spill) * _scale(corners, box)[..., None] + np.tile(self.blur, 2)[:, None]
        low = corners.min(axis=-2) - spill[..., :2] - CLEARANCE
        high = corners.max(axis=-2) + spill[..., 2:] + CLEARANCE
        inside = (low < self.size).all(axis=-1) & (high > 0).all(axis=-1)
        # What is partly behind the viewer reaches past every edge; wholly behind (or without ink) it is out.
        return np.where(behind.any(axis=-1), behind.all(axis=-1), ~inside)

    def _corners(self) -> Floats:
        reach = self.reach
        return box_corners(self.subject.ink + np.array([-reach, -reach, reach, reach]))


def _scale(corners: Floats, box: Floats) -> Floats:
    """(n, k): how many times larger each piece is drawn than it is, by the root of its area."""
    across, down = corners[..., 1, :] - corners[..., 0, :], corners[..., 3, :] - corners[..., 0, :]
    drawn = np.abs(across[..., 0] * down[..., 1] - across[..., 1] * down[..., 0])
    own = (box[:, 1, 0] - box[:, 0, 0]) * (box[:, 3, 1] - box[:, 0, 1])
    return np.sqrt(drawn / np.where(own > 0, own, 1.0)[:, None])


def _middles(low: Floats, high: Floats, levels: int) -> Floats:
    """(n, 2 ** levels - 1): every middle that so many halvings of (low, high) may come to, in the order of a
    heap: those of place p halve again at 2 p + 1 and 2 p + 2."""
    ends, found = [(low, high)], []
    for _ in range(levels):
        halved = []
        for lower, upper in ends:
            middle = (lower + upper) / 2
            found.append(middle)
            halved += [(lower, middle), (middle, upper)]
        ends = halved
    return np.stack(found, axis=1)


def _followed(
    low: Floats, high: Floats, tried: Floats, out: NDArray[np.bool_], levels: int
) -> tuple[Floats, Floats]:
    """Where halving ends for each piece: at a middle that is out its lower half is halved on."""
    place, every = np.zeros(len(low), dtype=np.intp), np.arange(len(low))
    for _ in range(levels):
        middle, is_out = tried[every, place], out[every, place]
        low, high = np.where(is_out, low, middle), np.where(is_out, middle, high)
        place = 2 * place + np.where(is_out, 1, 2)
    return low, high
