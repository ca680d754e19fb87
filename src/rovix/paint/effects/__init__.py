"""Effects as done to pixels.

Each module with `PAINTERS` is found by being here: for the effects that are done to the pixels as they
are set, and for the steps that those of `rovix.motion.effects` come to.
"""

from __future__ import annotations

from importlib import import_module
from pkgutil import iter_modules

from rovix.paint.effects.step_painter import StepPainter


def _found() -> list[StepPainter]:
    modules = (import_module(f"{__name__}.{module.name}") for module in iter_modules(__path__))
    return [painter for module in modules for painter in getattr(module, "PAINTERS", ())]


PAINTERS = {painter.kind: painter for painter in _found()}
