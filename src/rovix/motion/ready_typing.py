"""Entrances that type, swap or count, and exits that take back. Numbers are our defaults."""

from __future__ import annotations

from typing import Any

from rovix.model import Amount, Caret, Chance, Departure, Move, PieceSound, Typing
from rovix.model.move import Role


def typed_entrances() -> list[Move]:
    """Every one of them, with ids of their own."""
    even, uneven = Typing(caret=Caret()), Typing(rhythm="uneven", caret=Caret(shape="block"))
    clicked = Typing(rhythm="uneven", least=2, most=5, at_ends=4.0, caret=Caret())
    page = Typing(rhythm="uneven", caret=Caret(shape="underline"), one_height=True)
    middle = Typing(rhythm="uneven", least=2, most=6, caret=Caret(shape="block"), centred=True)
    settling = Departure(channel="letters", amount=Amount(value=1.0), chance=Chance(rate=15.0))
    counting = Departure(channel="figures", amount=Amount(value=0.0, unit="number"))
    return [
        _typed("Typed", 1.2, even),
        _typed("Typed with clicks", 1.4, clicked, piece_sound=PieceSound()),
        _typed("By hand, unevenly", 1.8, uneven),
        _typed("Page after page", 4.0, page),
        _typed("Typed in the middle", 1.6, middle),
        _typed("Word after word", 1.2, Typing(rhythm="uneven", at_stops=3.0), pieces="words"),
        Move(
            name="Letters settle", role="entrance", length=1.2, pieces="letters", at_once=6.0,
            before="hidden", channels=(settling,),
        ),
        Move(name="Count up", role="entrance", length=1.6, piece_curve="quart-out", channels=(counting,)),
    ]  # fmt: skip


def taken_back() -> list[Move]:
    """Every exit of the kind, with ids of their own."""
    hand = Typing(caret=Caret())
    swap = Departure(channel="letters", amount=Amount(value=1.0), chance=Chance(rate=15.0))
    lost = Departure(channel="opacity", amount=Amount(value=0.0), curve="hold")
    return [
        _typed("Taken back", 0.8, hand, role="exit", order="reversed"),
        Move(
            name="Letters come loose", role="exit", length=1.0, pieces="letters", order="shuffled",
            at_once=6.0, channels=(swap, lost),
        ),
    ]  # fmt: skip


def _typed(name: str, length: float, typing: Typing, role: Role = "entrance", **fields: Any) -> Move:
    pieces = {"pieces": "letters"} | fields
    return Move(name=name, role=role, length=length, before="hidden", at_once=0.0, typing=typing, **pieces)
