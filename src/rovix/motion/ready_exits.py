"""More exits that come with Rovix. Numbers are our defaults; every one can be edited."""

from __future__ import annotations

from typing import Any

from rovix.model import Amount, Departure, InnerKey, Move
from rovix.motion.ready_entrances import away, fade


def ready_exits() -> list[Move]:
    """Every one of them, with ids of their own."""
    return [*_of_the_whole(), *_of_edges(), *_of_pieces()]


def _out(name: str, length: float, curve: str, *channels: Departure, **fields: Any) -> Move:
    return Move(name=name, role="exit", length=length, piece_curve=curve, channels=channels, **fields)


def _of_the_whole() -> list[Move]:
    block = {"pivot": "block"}
    last_swell = (InnerKey(at=0.0, amount=Amount(value=1.0), curve="sine-out"),
                  InnerKey(at=0.4, amount=Amount(value=1.1), curve="quad-in"),
                  InnerKey(at=1.0, amount=Amount(value=0.0)))  # fmt: skip
    return [
        _out("To the left", 0.6, "quint-in", away("x", -1.0, "off-frame")),
        _out("To the right", 0.6, "quint-in", away("x", 1.0, "off-frame")),
        _out("Drop away", 0.6, "quad-in", away("y", 1.0, "off-frame"), away("rotation_z", 12.0), **block),
        _out("Up and away", 0.6, "back-in", away("y", -1.0, "off-frame")),
        _out("Swell and gone", 0.4, "linear", Departure(channel="scale", keys=last_swell), **block),
        _out("Into the distance", 0.7, "cubic-in", away("z", -4000.0), fade("cubic-in")),
        _out("Past the lens", 0.6, "quart-in", away("z", 900.0), fade("cubic-in-out")),
        _out("Press flat", 0.4, "expo-in", away("scale_y", 0.0), away("scale_x", 1.5), **block),
        _out("Close to the middle", 0.5, "cubic-in", away("scale_x", 0.0), **block),
        _out("Whirl off", 0.7, "cubic-in", away("rotation_z", 360.0), away("scale", 0.0), **block),
        _out("Sign falls", 0.7, "quad-in", away("rotation_x", 88.0), fade("expo-in"), pivot="line"),
    ]  # fmt: skip


def _of_edges() -> list[Move]:
    sink, block = (away("y", 1.0, "piece"), away("open_bottom", 0.0)), {"pivot": "block"}
    left, right = (
        (away("x", -1.0, "piece"), away("open_left", 0.0)),
        (away("x", 1.0, "piece"), away("open_right", 0.0)),
    )
    up, dealt = (away("y", -1.0, "piece"), away("open_top", 0.0)), {"pieces": "lines", "at_once": 1.6}
    return [
        _out("Blur away", 0.6, "cubic-in", away("blur", 24.0), fade("quad-in")),
        _out("Part and fade", 0.9, "cubic-in", away("tracking", 0.5), fade("quad-in"), **block),
        _out("Run off round", 1.2, "quart-in", away("offset_x", -8.0, "frame"), away("blur_x", 90.0),
             away("opacity", 0.0, curve="expo-in")),
        _out("Cover", 0.7, "sine-in-out", away("wipe", 0.0, angle=180.0)),
        _out("Back into edges", 0.7, "quint-in", *sink, **dealt),
        _out("Lines up into edges", 0.7, "quint-in", *up, **dealt),
        _out("Into a left edge", 0.6, "quart-in", *left, **dealt),
        _out("Into a right edge", 0.6, "quart-in", *right, **dealt),
        _out("Back into the slot", 0.8, "quint-in", *sink, pieces="letters", at_once=4.0),
        _out("Past the viewer", 0.7, "quint-in", away("z", 1.5, "frame"), away("blur", 8.0), **block),
    ]  # fmt: skip


def _of_pieces() -> list[Move]:
    rain = {"pieces": "letters", "order": "shuffled"}
    return [
        _out("Words fade in turn", 0.9, "sine-in-out", fade("sine-in-out"), pieces="words", at_once=1.5),
        _out("Lines sink", 0.8, "quint-in", away("y", 0.9, "em"), fade("quad-in"),
             pieces="lines", at_once=1.6),
        _out("Words off", 0.8, "linear", pieces="words", at_once=0.0, before="hidden"),
        _out("Words shut", 0.9, "cubic-in", away("rotation_y", -88.0), fade("expo-in"),
             pieces="words", at_once=2.0),
        _out("Letters fall", 1.0, "quad-in", away("y", 1.6, "em"), away("rotation_z", 40.0), fade("quart-in"),
             at_once=5.0, **rain),
        _out("Picked out", 0.8, "back-in", away("scale", 0.0), at_once=3.0, **rain),
        _out("To the middle", 0.8, "cubic-in", away("scale_x", 0.0), fade("quad-in"),
             pieces="letters", order="ends-in", at_once=4.0),
        _out("Lights off", 0.8, "linear", fade("hold"), at_once=1.0, **rain),
    ]  # fmt: skip
