"""Effects: what is done to a layer's edges and pixels, one after the other.

Each module beside `effect` and `rows` holds one kind, called as the module is. It is found by being
here; what it does to pixels stands in the module of its name in `rovix.paint.effects`, what asks for
rest, other layers or other times in that of `rovix.motion.effects`.
"""

from __future__ import annotations

from functools import reduce
from importlib import import_module
from operator import or_
from pkgutil import iter_modules
from typing import TYPE_CHECKING

from rovix.model.effects.effect import Effect


def _found() -> tuple[type[Effect], ...]:
    modules = [import_module(f"{__name__}.{module.name}") for module in iter_modules(__path__)]
    named = ((module.__name__, value) for module in modules for value in vars(module).values())
    kinds = {
        value
        for name, value in named
        if isinstance(value, type) and issubclass(value, Effect) and value.__module__ == name
    } - {Effect}
    return tuple(sorted(kinds, key=lambda kind: kind.facts.order))


EFFECTS: dict[str, type[Effect]] = {str(kind.__struct_config__.tag): kind for kind in _found()}
"""Every kind of effect by what files call it, in the order in which new ones are done."""

if TYPE_CHECKING:
    AnyEffect = Effect
else:
    AnyEffect = reduce(or_, EFFECTS.values())

__all__ = ["EFFECTS", "AnyEffect", "Effect"]
