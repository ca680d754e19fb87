"""Looks as open JSON files."""

from __future__ import annotations

from dataclasses import dataclass

from rovix.formats.kept_file import Kind
from rovix.formats.trade_words import look_in_trade_words
from rovix.model import Look


@dataclass(frozen=True, slots=True)
class SavedLook:
    """A look by name, made for words of `size` px."""

    name: str
    size: float
    look: Look


LOOKS: Kind[SavedLook] = Kind(
    noun="look",
    struct=Look,
    made=lambda name, look, size: SavedLook(name, size, look),
    content=lambda saved: (saved.look, {"size": saved.size}),
    facts=(("size", '{"type": "number", "exclusiveMinimum": 0}'),),
    upgrade=look_in_trade_words,
)
read_look, write_look, parse_look, look_bytes = LOOKS.read, LOOKS.write, LOOKS.parse, LOOKS.bytes_of
