"""More entrances that come with Rovix. Numbers are our defaults; every one can be edited."""

from __future__ import annotations

from typing import Any

from rovix.model import Amount, Chance, Departure, Echoes, InnerKey, Move
from rovix.model.move import MovedChannel, Unit


def ready_entrances() -> list[Move]:
    """Every one of them, with ids of their own."""
    return [*_of_the_whole(), *_of_edges(), *_of_lines(), *_of_words(), *_of_letters(), *_of_light()]


def away(
    channel: MovedChannel, value: float, unit: Unit = "px", curve: str | None = None, **fields: Any
) -> Departure:
    """One amount that a curve takes back."""
    return Departure(channel=channel, amount=Amount(value=value, unit=unit), curve=curve, **fields)


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
        _in("From far off", 0.8, "cubic-out", away("z", -4000.0), fade()),
        _in("Out of the lens", 0.7, "quart-out", away("z", 900.0), fade("cubic-in-out")),
        _in("Wide to true", 0.6, "expo-out", away("scale_x", 1.9), away("scale_y", 0.55), fade(), **block),
        _in("Open outwards", 0.5, "cubic-out", away("scale_x", 0.0), **block),
        _in("Whirl", 0.8, "cubic-out", away("rotation_z", -360.0), away("scale", 0.0), **block),
        _in("Hung sign", 1.2, "elastic-out", away("rotation_x", -80.0), fade("expo-out"), pivot="line"),
    ]  # fmt: skip


def _of_edges() -> list[Move]:
    trail = Departure(channel="echo", amount=Amount(value=0.68), curve="expo-in", echoes=Echoes(copies=7))
    gather = (away("scale", 1.45), away("tracking", 0.35), away("blur_x", 16.0))
    run, soft = away("offset_x", 12.0, "frame"), away("blur_x", 90.0)
    return [
        _in("Come sharp", 0.7, "cubic-out", away("blur", 24.0), fade()),
        _in("Gather", 1.8, "cubic-out", *gather, _full_by(0.35), pivot="block"),
        _in("Run round", 1.6, "quart-out", run, soft),
        _in("Reel", 1.4, "quart-out", away("offset_y", -5.0, "frame"), away("blur_y", 60.0)),
        _in("Uncover", 0.8, "sine-in-out", away("wipe", 0.0)),
        _in("Slit", 0.6, "expo-out", away("open_top", 0.5, "piece"), away("open_bottom", 0.5, "piece")),
        _in("Trail in", 0.8, "quint-out", away("x", -1.0, "off-frame"), trail),
    ]


def _full_by(share: float) -> Departure:
    """A fade that is over after a share of the way."""
    points = ((0.0, 0.0), (share, 1.0), (1.0, 1.0))
    return Departure(
        channel="opacity", keys=tuple(InnerKey(at=at, amount=Amount(value=value)) for at, value in points)
    )


_SLOT = away("y", 1.0, "piece"), away("open_bottom", 0.0)
_FROM_LEFT = away("x", -1.0, "piece"), away("open_left", 0.0)
_FROM_RIGHT = away("x", 1.0, "piece"), away("open_right", 0.0)
_FROM_TOP = away("y", -1.0, "piece"), away("open_top", 0.0)


def _of_lines() -> list[Move]:
    dealt = {"pieces": "lines", "at_once": 1.6}
    return [
        _in("Lines out of edges", 0.9, "quint-out", *_SLOT, **dealt),
        _in("Lines drop in", 0.9, "quint-out", *_FROM_TOP, **dealt),
        _in("Out of a left edge", 0.8, "quart-out", *_FROM_LEFT, **dealt),
        _in("Out of a right edge", 0.8, "quart-out", *_FROM_RIGHT, **dealt),
        _in("Words out of edges", 0.9, "expo-out", *_FROM_LEFT, pieces="words", at_once=1.4),
        _in("Lines rise", 0.9, "quint-out", away("y", 0.9, "em"), fade(), **dealt),
        _in("Lines unfold", 1.0, "cubic-out", away("rotation_x", 88.0), fade("expo-out"),
            pivot="line", **dealt),
        _in("Lines meet", 0.9, "expo-out", away("scale_x", 0.0), order="ends-in", pivot="line", **dealt),
    ]  # fmt: skip


def _of_words() -> list[Move]:
    spring = (InnerKey(at=0.0, amount=Amount(value=-600.0), curve="sine-in-out"),
              InnerKey(at=0.42, amount=Amount(value=140.0), curve="sine-in-out"),
              InnerKey(at=0.71, amount=Amount(value=-50.0), curve="sine-in-out"),
              InnerKey(at=1.0, amount=Amount(value=0.0)))  # fmt: skip
    blown = away("x", 1.0, "off-frame"), away("blur_x", 40.0)
    return [
        _in("Out of depth", 1.2, "quart-out", away("z", -5000.0), fade(), pieces="words", at_once=1.5),
        _in("Depth spring", 1.4, "linear", Departure(channel="z", keys=spring), _full_by(0.16),
            pieces="words", at_once=2.0),
        _in("Blown in", 1.0, "quart-out", *blown, pieces="words", at_once=2.0),
        _in("Word by word", 0.9, "linear", pieces="words", at_once=0.0, before="hidden"),
        _in("Words pop", 0.9, "back-out", away("scale", 0.0), pieces="words", at_once=1.5),
        _in("Doors", 1.0, "cubic-out", away("rotation_y", 88.0), fade("expo-out"),
            pieces="words", at_once=2.0),
        _in("Leaning in", 0.9, "quint-out", away("x", -0.9, "em"), away("slant", 32.0), fade(),
            pieces="words", at_once=2.5),
    ]  # fmt: skip


def _of_letters() -> list[Move]:
    hop = (InnerKey(at=0.0, amount=Amount(value=0.0), curve="quad-out"),
           InnerKey(at=0.5, amount=Amount(value=-0.5, unit="em"), curve="quad-in"),
           InnerKey(at=1.0, amount=Amount(value=0.0)))  # fmt: skip
    shaken = Departure(
        channel="y", amount=Amount(value=0.35, unit="em"), chance=Chance(rate=20.0, smooth=True)
    )
    return [
        _in("Out of the slot", 0.9, "quint-out", *_SLOT, pieces="letters", at_once=4.0),
        _in("Letters uncover", 1.0, "sine-in-out", away("wipe", 0.0, curve="linear"), pieces="letters"),
        _in("Sharpen in turn", 1.0, "cubic-out", away("blur", 14.0), fade(), pieces="letters", at_once=5.0),
        _in("Shaken in", 1.0, "linear", shaken, fade("quad-out"), pieces="letters", at_once=8.0),
        _in("Letter by letter", 1.0, "linear", pieces="letters", at_once=0.0, before="hidden"),
        _in("Letters rain", 1.1, "bounce-out", away("y", -1.6, "em"), fade("expo-out"),
            pieces="letters", order="shuffled", at_once=6.0),
        _in("From the middle", 0.8, "back-out", away("scale_x", 0.0), away("y", 0.5, "em"), fade(),
            pieces="letters", order="centre-out", at_once=4.0),
        _in("Cards turned", 1.0, "cubic-out", away("rotation_y", -100.0), fade("expo-out"),
            pieces="letters", at_once=5.0),
        _in("Sown", 0.9, "back-out", away("scale", 0.0), pieces="letters", order="shuffled", at_once=3.0),
        _in("Hop in line", 1.1, "linear", Departure(channel="y", keys=hop),
            pieces="letters", at_once=4.0, before="hidden"),
        _in("Lights on", 0.8, "linear", fade("hold"), pieces="letters", order="shuffled", at_once=1.0),
    ]  # fmt: skip


def _of_light() -> list[Move]:
    """Fewer than three flashes a second at these lengths, as WCAG 2.2 (2.3.1) asks."""
    return [
        _in("Struck lights", 1.6, "linear", _struck("outline_opacity", 0.0), _struck("fill_opacity", 0.08),
            pieces="letters", order="shuffled", at_once=8.0),
    ]  # fmt: skip


def _struck(channel: MovedChannel, late: float) -> Departure:
    """Off, on, off, and on for good, a share of the way late."""
    shares = {0.0: 0.0, 0.3 + late: 1.0, 0.6 + late: 0.0, 0.9 + late: 1.0}
    keys = [InnerKey(at=at, amount=Amount(value=on), curve="hold") for at, on in shares.items()]
    return Departure(channel=channel, keys=(*keys, InnerKey(at=1.0, amount=Amount(value=1.0))))
