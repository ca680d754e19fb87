"""Fills changed from one kind to another."""

from __future__ import annotations

from typing import Any

from rovix.edit.tree import replace
from rovix.model import Linear, Paper, Plain, Radial

BACKGROUNDS = {"plain": Plain, "linear": Linear, "radial": Radial, "paper": Paper}


def refilled(old: Any, kind: str | None) -> Any:
    """A fill of another kind (plain, linear, radial, paper, or None); its first colour passes on."""
    if kind is None:
        return None
    made = BACKGROUNDS[kind]()
    if hasattr(old, "stops") and hasattr(made, "stops"):
        return replace(made, stops=old.stops, mix=old.mix)
    colour = old.stops[0].colour if hasattr(old, "stops") else getattr(old, "colour", None)
    if colour is None:
        return made
    if hasattr(made, "stops"):
        return replace(made, stops=(replace(made.stops[0], colour=colour), *made.stops[1:]))
    return replace(made, colour=colour)
