"""Curves: how a value gets from one place to the next."""

from rovix.curve.easing import Easing, easing, easing_names
from rovix.curve.mirror import reversed_easing
from rovix.curve.path import Curved
from rovix.curve.spring import settling_time, spring
from rovix.curve.tangents import TANGENTS
from rovix.curve.track import Key, Track

__all__ = [
    "TANGENTS",
    "Curved",
    "Easing",
    "Key",
    "Track",
    "easing",
    "easing_names",
    "reversed_easing",
    "settling_time",
    "spring",
]
