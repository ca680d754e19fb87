"""The order in which pieces set off."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from rovix.model import Move
from rovix.motion.random import shuffled

Floats = NDArray[np.float64]
BY_PLACE = ("from-point", "to-point")
"""Orders that need to know where pieces are."""


def move_ranks(move: Move, count: int, places: Floats | None = None) -> NDArray[np.int64]:
    """The ranks of a move's pieces; `places` (count, 2) are their middles in px from the move's point.

    Only the orders from and to a point need places.
    """
    if move.order not in BY_PLACE:
        return ranks(move.order, count, move.seed)
    if places is None:
        raise ValueError(f"The order '{move.order}' needs to know where the pieces are.")
    # What mirrors about the point sets off together, whatever rounding says.
    distance = np.round(np.hypot(places[:, 0], places[:, 1]), 3)
    found = np.unique(distance, return_inverse=True)[1].reshape(-1).astype(np.int64)
    return found if move.order == "from-point" else found.max(initial=0) - found


@lru_cache(maxsize=1024)
def ranks(order: str, count: int, seed: int = 1) -> NDArray[np.int64]:
    """The rank 0 … K of each of `count` pieces; pieces that set off together share a rank.

    `order` is reading, reversed, centre-out, ends-in or shuffled (by `seed`; an odd seed shuffles
    the other way about from the even one before it, so that every shuffle has its reverse). Not to
    be written to.
    """
    reading = np.arange(count)
    from_centre = np.floor(np.abs(reading - (count - 1) / 2)).astype(np.int64)
    if order == "reading":
        found = reading
    elif order == "reversed":
        found = reading[::-1]
    elif order == "centre-out":
        found = from_centre
    elif order == "ends-in":
        found = from_centre.max(initial=0) - from_centre
    elif order == "shuffled":
        found = np.empty(count, dtype=np.int64)
        found[shuffled(count, seed & ~1)] = reading[::-1] if seed % 2 else reading
    else:
        raise ValueError(f"'{order}' is no order of pieces.")
    found.setflags(write=False)
    return found
