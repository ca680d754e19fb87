"""A damped spring let go at 0 and pulled to 1: the exact solution of its equation of motion."""

from __future__ import annotations

from collections.abc import Callable
from math import isfinite, log, sqrt
from typing import NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray

Floats = NDArray[np.float64]
SETTLED = 1e-3
"""How near to 1, as a share of the way, a spring counts as settled."""
_LONGEST = 3600.0  # seconds


class Spring(NamedTuple):
    """A spring's numbers; the defaults come to rest just before they would swing over."""

    mass: float = 1.0
    stiffness: float = 145.0
    damping: float = 23.0
    velocity: float = 0.0

    @property
    def text(self) -> str:
        """As it is written: ``spring(mass 1 stiffness 145 damping 23)``, with a velocity where it has one."""
        names = self._fields if self.velocity else self._fields[:-1]
        return f"spring({' '.join(f'{name} {getattr(self, name):.10g}' for name in names)})"


def spring_of(text: str) -> Spring:
    """The spring that the words between its brackets say, in any order; what is left out is as it is
    by default. ValueError for a word or a number that it has not.

    >>> spring_of("damping 9 mass 2").text
    'spring(mass 2 stiffness 145 damping 9)'
    """
    words = text.replace(",", " ").split()
    said: dict[str, float] = {}
    for name, number in zip(words[::2], words[1::2], strict=False):
        if name not in Spring._fields or name in said:
            raise ValueError(f"'{name}' is no number of a spring, or stands there twice: {_SAID}")
        try:
            said[name] = float(number)
        except ValueError:
            raise ValueError(f"'{number}' is no number for its {name}.") from None
    if len(words) % 2:
        raise ValueError(f"'{words[-1]}' stands alone: {_SAID}")
    return Spring(**said)


_SAID = "write spring(mass 1 stiffness 145 damping 23), and a velocity if wished."


def spring(
    mass: float, stiffness: float, damping: float, velocity: float = 0.0
) -> Callable[[ArrayLike], Floats]:
    """x(t) with m x'' + c x' + k (x - 1) = 0, x(0) = 0 and x'(0) = `velocity` per second.

    A function of seconds, of any shape, 0 before them. Mass and stiffness are above 0, damping is 0
    or more (ValueError else); critical damping is 2 sqrt(stiffness * mass).

    >>> float(spring(1, 100, 20)(0.0))
    0.0
    """
    _check(mass, stiffness, damping, velocity)
    decay = damping / (2 * mass)
    square = stiffness / mass - decay * decay
    # From rest at 1 the spring hangs at -1, and its speed there is the given one.
    push = velocity - decay

    def position(seconds: ArrayLike) -> Floats:
        time = np.maximum(np.asarray(seconds, dtype=np.float64), 0.0)
        return 1.0 + _away(time, decay, square, push)

    return position


def _away(time: Floats, decay: float, square: float, push: float) -> Floats:
    """How far from 1, by whether it swings, creeps, or does neither."""
    fade = np.exp(-decay * time)
    small = 1e-9 * max(1.0, decay * decay)
    if square > small:
        rate = sqrt(square)
        return fade * (-np.cos(rate * time) + push / rate * np.sin(rate * time))
    if square < -small:
        rate = sqrt(-square)
        # Both decays by themselves: their product with cosh would overflow.
        slow, fast = np.exp((rate - decay) * time), np.exp(-(rate + decay) * time)
        return (-(slow + fast) + push / rate * (slow - fast)) / 2
    return fade * (-1.0 + push * time)


def settling_time(mass: float, stiffness: float, damping: float, velocity: float = 0.0) -> float:
    """Seconds after which a spring stays within :data:`SETTLED` of 1.

    ValueError when that is never, as without damping, or only after an hour.
    """
    position = spring(mass, stiffness, damping, velocity)
    decay = damping / (2 * mass)
    under = decay * decay - stiffness / mass
    # decay - sqrt(under), written so that nothing cancels out.
    slowest = decay if under <= 0 else stiffness / mass / (decay + sqrt(under))
    if slowest <= 0:
        raise ValueError("A spring without damping never settles.")
    # Longer than the last crossing can be: the slowest decay alone, from as far as the start can throw it.
    far = (log(1 / SETTLED) + log(4 + abs(velocity) / max(slowest, 1e-9))) / slowest * 1.5
    if far > 10 * _LONGEST:
        raise ValueError("The spring takes more than an hour to settle; give it more damping.")
    return _last_beyond(position, far)


def _last_beyond(position: Callable[[ArrayLike], Floats], far: float) -> float:
    """The last time at which a spring is farther than SETTLED from 1, by a scan and bisection."""
    times = np.linspace(0.0, far, 20_001)
    beyond = np.flatnonzero(np.abs(position(times) - 1) > SETTLED)
    low = float(times[beyond[-1]])
    high = float(times[min(beyond[-1] + 1, len(times) - 1)])
    for _ in range(50):
        middle = (low + high) / 2
        if abs(float(position(middle)) - 1) > SETTLED:
            low = middle
        else:
            high = middle
    return high


def spring_easing(
    mass: float, stiffness: float, damping: float, velocity: float = 0.0
) -> Callable[[Floats], Floats]:
    """The spring over its settling time as an easing: exactly 0 at 0 and 1 at 1, held outside.

    What is left of the way at the end, less than :data:`SETTLED`, is spread evenly over it.
    """
    position = spring(mass, stiffness, damping, velocity)
    whole = settling_time(mass, stiffness, damping, velocity)
    left = 1.0 - float(position(whole))

    def ease(progress: Floats) -> Floats:
        share = np.clip(progress, 0.0, 1.0)
        return np.where(share >= 1.0, 1.0, position(share * whole) + left * share)

    return ease


def _check(mass: float, stiffness: float, damping: float, velocity: float) -> None:
    if not all(map(isfinite, (mass, stiffness, damping, velocity))):
        raise ValueError("A spring's numbers are finite.")
    if mass <= 0 or stiffness <= 0:
        raise ValueError(f"A spring's mass and stiffness are above 0, not {mass:g} and {stiffness:g}.")
    if damping < 0:
        raise ValueError(f"A spring's damping is 0 or more, not {damping:g}.")
