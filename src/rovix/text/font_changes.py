"""What was derived from fonts, and forgetting it when fonts come or go."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache
from typing import Any

from rovix.model.identity import forget_everything

_kept: list[Any] = []
_turn = 0


def kept_while_fonts_stay(most: int) -> Callable[[Callable[..., Any]], Any]:
    """As `lru_cache`, until fonts change."""

    def wrapped(function: Callable[..., Any]) -> Any:
        kept = lru_cache(maxsize=most)(function)
        _kept.append(kept)
        return kept

    return wrapped


def fonts_turn() -> int:
    """How often fonts have changed in this process; pictures of another turn may look otherwise."""
    return _turn


def fonts_changed() -> None:
    """Forget every layout and picture plan, and which face is whose."""
    global _turn
    _turn += 1
    for kept in _kept:
        kept.cache_clear()
    forget_everything()
