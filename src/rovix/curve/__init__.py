"""Curves: how a value gets from one place to the next."""

from rovix.curve.easing import Easing, easing, easing_names
from rovix.curve.mirror import reversed_easing
from rovix.curve.path import Curved
from rovix.curve.spring import Spring, settling_time, spring, spring_of
from rovix.curve.tangents import TANGENTS
from rovix.curve.track import Key, Track

__all__ = [
    "TANGENTS",
    "Curved",
    "Easing",
    "Key",
    "Spring",
    "Track",
    "easing",
    "easing_names",
    "reversed_easing",
    "settling_time",
    "spring",
    "spring_of",
]
