"""More entrances that come with Rovix. Numbers are our defaults; every one can be edited."""

from __future__ import annotations

from typing import Any

from rovix.model import Amount, Departure, InnerKey, Move
from rovix.model.move import MovedChannel, Unit


def ready_entrances() -> list[Move]:
    """Every one of them, with ids of their own."""
    return [*_of_the_whole(), *_of_lines(), *_of_words(), *_of_letters()]


def away(channel: MovedChannel, value: float, unit: Unit = "px", curve: str | None = None) -> Departure:
    """One amount that a curve takes back."""
    return Departure(channel=channel, amount=Amount(value=value, unit=unit), curve=curve)


def fade(curve: str = "quad-out") -> Departure:
    """From nothing, or to nothing."""
    return away("opacity", 0.0, curve=curve)


def _in(name: str, length: float, curve: str, *channels: Departure, **fields: Any) -> Move:
    return Move(name=name, role="entrance", length=length, piece_curve=curve, channels=channels, **fields)


def _of_the_whole() -> list[Move]:
    block = {"pivot": "block"}
    return [
        _in("Fade in", 0.6, "sine-in-out", fade("sine-in-out")),
        _in("From the left", 0.7, "quint-out", away("x", -1.0, "off-frame")),
        _in("From the right", 0.7, "quint-out", away("x", 1.0, "off-frame")),
        _in("Fall and settle", 0.9, "bounce-out", away("y", -1.0, "off-frame")),
        _in("Up from below", 0.7, "back-out", away("y", 1.0, "off-frame")),
        _in("Stamp", 0.3, "expo-out", away("scale", 2.6), fade("cubic-out"), **block),
        _in("Grow", 0.6, "back-out", away("scale", 0.0), **block),
        _in("From far off", 0.8, "cubic-out", away("depth", -4000.0), fade()),
        _in("Out of the lens", 0.7, "quart-out", away("depth", 900.0), fade("cubic-in-out")),
        _in("Wide to true", 0.6, "expo-out", away("scale_x", 1.9), away("scale_y", 0.55), fade(), **block),
        _in("Whirl", 0.8, "cubic-out", away("turn", -360.0), away("scale", 0.0), **block),
        _in("Hung sign", 1.2, "elastic-out", away("tip", -80.0), fade("expo-out"), pivot="line"),
    ]  # fmt: skip


def _of_lines() -> list[Move]:
    dealt = {"pieces": "lines", "at_once": 1.6}
    return [
        _in("Lines rise", 0.9, "quint-out", away("y", 0.9, "em"), fade(), **dealt),
        _in("Lines unfold", 1.0, "cubic-out", away("tip", 88.0), fade("expo-out"), pivot="line", **dealt),
        _in("Lines meet", 0.9, "expo-out", away("scale_x", 0.0), order="ends-in", pivot="line", **dealt),
    ]  # fmt: skip


def _of_words() -> list[Move]:
    return [
        _in("Word by word", 0.9, "linear", pieces="words", at_once=0.0, before="hidden"),
        _in("Words pop", 0.9, "back-out", away("scale", 0.0), pieces="words", at_once=1.5),
        _in("Doors", 1.0, "cubic-out", away("swing", 88.0), fade("expo-out"), pieces="words", at_once=2.0),
        _in("Leaning in", 0.9, "quint-out", away("x", -0.9, "em"), away("slant", 32.0), fade(),
            pieces="words", at_once=2.5),
    ]  # fmt: skip


def _of_letters() -> list[Move]:
    hop = (InnerKey(at=0.0, amount=Amount(value=0.0), curve="quad-out"),
           InnerKey(at=0.5, amount=Amount(value=-0.5, unit="em"), curve="quad-in"),
           InnerKey(at=1.0, amount=Amount(value=0.0)))  # fmt: skip
    return [
        _in("Letter by letter", 1.0, "linear", pieces="letters", at_once=0.0, before="hidden"),
        _in("Letters rain", 1.1, "bounce-out", away("y", -1.6, "em"), fade("expo-out"),
            pieces="letters", order="shuffled", at_once=6.0),
        _in("From the middle", 0.8, "back-out", away("scale_x", 0.0), away("y", 0.5, "em"), fade(),
            pieces="letters", order="centre-out", at_once=4.0),
        _in("Cards turned", 1.0, "cubic-out", away("swing", -100.0), fade("expo-out"),
            pieces="letters", at_once=5.0),
        _in("Sown", 0.9, "back-out", away("scale", 0.0), pieces="letters", order="shuffled", at_once=3.0),
        _in("Hop in line", 1.1, "linear", Departure(channel="y", keys=hop),
            pieces="letters", at_once=4.0, before="hidden"),
        _in("Lights on", 0.8, "linear", fade("hold"), pieces="letters", order="shuffled", at_once=1.0),
    ]  # fmt: skip
