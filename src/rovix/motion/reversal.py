"""A move turned about: the exit that shows an entrance's pictures backwards."""

from __future__ import annotations

import msgspec

from rovix.curve import reversed_easing
from rovix.model import Departure, Move, new_id
from rovix.model.move import Order
from rovix.model.roles import ROLES

_TURNED_ABOUT: dict[str, Order] = {
    "reading": "reversed",
    "reversed": "reading",
    "centre-out": "ends-in",
    "ends-in": "centre-out",
    "from-point": "to-point",
    "to-point": "from-point",
}


def reversed_move(move: Move) -> Move:
    """The exit that shows an entrance's pictures backwards, exactly; or the entrance of an exit.

    Order, curves and inner keys are turned about; the last piece in is the first out.
    """
    return msgspec.structs.replace(
        move,
        id=new_id(),
        role=ROLES[move.role].reverse or move.role,
        order=_TURNED_ABOUT.get(move.order, move.order),
        # The neighbouring seed shuffles the other way about.
        seed=move.seed ^ 1,
        piece_curve=reversed_easing(move.piece_curve),
        order_curve=reversed_easing(move.order_curve),
        channels=tuple(_reversed_departure(departure) for departure in move.channels),
    )


def _reversed_departure(departure: Departure) -> Departure:
    keys = departure.keys
    # A key's curve leads on to the next key, so backwards it belongs to that one.
    curves = [reversed_easing(key.curve) for key in keys[-2::-1]] + ["linear"]
    turned = tuple(
        msgspec.structs.replace(key, at=round(1 - key.at, 12), curve=curve)
        for key, curve in zip(reversed(keys), curves[: len(keys)], strict=False)
    )
    curve = None if departure.curve is None else reversed_easing(departure.curve)
    return msgspec.structs.replace(departure, curve=curve, keys=turned)
