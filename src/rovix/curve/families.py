"""The classic easing families in their textbook form.

The forms are those of Robert Penner's easing equations (Programming Macromedia Flash MX, 2002,
chapter 7; written here from memory), with exact ends. Qt's QEasingCurve differs in four places: it
takes 0.001 off `expo-in` to meet 0 (and stretches `expo-out` by 1.001); its `elastic-in-out` keeps
the plain period 0.3 where the textbook stretches it by 1.5; and the halves of its `elastic-out-in`
and `bounce-out-in` swing at full height where the textbook halves them with the curve. We follow
the textbook: those are the numbers editors carry between tools, and half-size halves keep the two
parts alike. The step of 1/1024 at the foot of `expo-in` is too small to see.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Curve = Callable[[Floats], Floats]

BACK_OVERSHOOT = 1.70158  # the textbook's value: 10 % beyond the end


def _power(exponent: int) -> Curve:
    return lambda t: t**exponent


def _expo_in(t: Floats) -> Floats:
    return np.where(t == 0, 0.0, 2 ** (10 * (t - 1)))


def _circ_in(t: Floats) -> Floats:
    return 1 - np.sqrt(1 - t * t)


def _sine_in(t: Floats) -> Floats:
    return 1 - np.cos(t * np.pi / 2)


def _back_in(overshoot: float = BACK_OVERSHOOT) -> Curve:
    return lambda t: t * t * ((overshoot + 1) * t - overshoot)


def _elastic_in(period: float = 0.3) -> Curve:
    def ease(t: Floats) -> Floats:
        swing = np.sin((t - 1 - period / 4) * 2 * np.pi / period)
        return np.where(t == 0, 0.0, -(2 ** (10 * (t - 1))) * swing)

    return ease


def _bounce_out(t: Floats) -> Floats:
    hops = ((0.0, 0.0), (1.5, 0.75), (2.25, 0.9375), (2.625, 0.984375))
    ends = np.array([1.0, 2.0, 2.5]) / 2.75
    hop = np.searchsorted(ends, t, side="right")
    centre, floor = np.array(hops)[hop, 0] / 2.75, np.array(hops)[hop, 1]
    return 7.5625 * (t - centre) ** 2 + floor


def _reversed(curve: Curve) -> Curve:
    return lambda t: 1 - curve(1 - t)


def _joined(first: Curve, second: Curve) -> Curve:
    """`first` at half size over the first half, then `second`."""

    def ease(t: Floats) -> Floats:
        early = first(np.minimum(2 * t, 1.0)) / 2
        late = 0.5 + second(np.maximum(2 * t - 1, 0.0)) / 2
        return np.where(t < 0.5, early, late)

    return ease


_IN: dict[str, Curve] = {
    "quad": _power(2),
    "cubic": _power(3),
    "quart": _power(4),
    "quint": _power(5),
    "sine": _sine_in,
    "expo": _expo_in,
    "circ": _circ_in,
    "back": _back_in(),
    "elastic": _elastic_in(),
    "bounce": _reversed(_bounce_out),
}
# In-out of these two is not two halves of the plain form: the textbook widens them.
_IN_OUT_HALF: dict[str, Curve] = {
    "back": _back_in(BACK_OVERSHOOT * 1.525),
    "elastic": _elastic_in(0.3 * 1.5),
}
FAMILIES = tuple(_IN)


def family(name: str, mode: str) -> Curve:
    """The curve of a family; `mode` is in, out, in-out or out-in. Stays at its ends outside 0..1."""
    plain = _IN[name]
    half = _IN_OUT_HALF.get(name, plain)
    curve = {
        "in": plain,
        "out": _reversed(plain),
        "in-out": _joined(half, _reversed(half)),
        "out-in": _joined(_reversed(plain), plain),
    }[mode]
    return _with_exact_ends(curve)


def _with_exact_ends(curve: Curve) -> Curve:
    def ease(progress: Floats) -> Floats:
        value = curve(np.clip(progress, 0.0, 1.0))
        return np.where(progress <= 0, 0.0, np.where(progress >= 1, 1.0, value))

    return ease
