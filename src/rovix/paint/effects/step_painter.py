"""What a module here says about a step or an effect of pixels."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from rovix.paint.cache import LayerPicture
from rovix.paint.effects.sight import Sight

SIGMAS = 4
"""How many sigmas of a blur are to be seen."""


@dataclass(frozen=True, slots=True)
class StepPainter:
    """Does one `kind` of step, or of effect by a step that holds it, to a picture; None is nothing.

    `room` says, for the step and how many px a px of it is, how many px across and down it can bring
    in from beyond the picture.
    """

    kind: type
    paint: Callable[[Any, LayerPicture, Sight], LayerPicture | None]
    room: Callable[[Any, float], tuple[int, int]] = lambda _step, _scale: (0, 0)
