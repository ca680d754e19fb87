"""The loops that come with Rovix. Numbers are our defaults; every one can be edited."""

from __future__ import annotations

from typing import Any

from rovix.model import Amount, Beats, Chance, Departure, InnerKey, Move
from rovix.model.move import MovedChannel, Pieces, Pivot, Unit

_SWING = "sine-in-out"


def ready_loops() -> list[Move]:
    """Every loop, with ids of their own."""
    return [*_of_the_whole(), *_of_pieces(), *_of_light(), *_of_faults()]


def _of_the_whole() -> list[Move]:
    return [
        _loop("Sway", 1.6, _to_and_fro("rotation_z", 4.0), pivot="block"),
        _loop("Swell", 1.2, Departure(channel="scale", amount=Amount(value=1.08)), pivot="block"),
        _loop("Bob", 1.4, Departure(channel="y", amount=Amount(value=-0.18, unit="em"))),
        _loop("Nod", 1.6, Departure(channel="rotation_x", amount=Amount(value=28.0)), pivot="block"),
        _loop("Lean", 1.8, _to_and_fro("slant", 10.0), pivot="block"),
        _loop("Wide and narrow", 1.2, *_squeeze(), pivot="block"),
        _loop("Two beats", 1.1, _through("scale", (0.14, 1.13), (0.3, 1.0), (0.44, 1.08), (0.62, 1.0))),
        _loop("Wheel", 4.0, _turns("rotation_z"), pivot="block"),
        _loop("Turntable", 3.0, _turns("rotation_y"), pivot="block"),
        _loop("Round and round", 2.4, *_circle(0.16)),
        _loop("Shiver", 0.2, _shiver("x", (0.2, 1.0), (0.5, -0.7), (0.8, 0.4))),
    ]


def _of_pieces() -> list[Move]:
    up = Departure(channel="y", amount=Amount(value=-0.28, unit="em"))
    hop = _through("y", (0.0, 0.0), (0.22, -0.5), (0.44, 0.0), unit="em", curves=("quad-out", "quad-in"))
    flat = _through("scale_y", (0.44, 1.0), (0.52, 0.82), (0.68, 1.0))
    return [
        _loop("Restless", 1.6, *_restless(), pieces="letters"),
        _loop("Ripple", 1.2, up, pieces="letters", phase=1.0),
        _loop("Hop", 1.2, hop, flat, pieces="letters", phase=1.6),
        _loop("Words in turn", 1.6, _bump(1.18), pieces="words", phase=1.0),
    ]


def _of_light() -> list[Move]:
    # Fewer than three flashes a second at these lengths, as WCAG 2.2 (2.3.1) asks.
    wink = _through("opacity", (0.0, 1.0), (0.8, 0.0), curves=("hold", "hold"))
    steps = ((0.0, 1.0), (0.12, 0.45), (0.18, 1.0), (0.55, 0.6), (0.7, 1.0))
    glow = Departure(channel="fill_opacity", amount=Amount(value=0.3))
    blush = Departure(channel="colour", amount=Amount(value=1.0), colour="#f2b13c")
    return [
        _loop("Blush", 2.0, blush, pieces="letters", phase=1.0),
        _loop("Breathing light", 2.4, Departure(channel="glow_opacity", amount=Amount(value=0.25))),
        _loop("In and out of focus", 2.0, Departure(channel="blur", amount=Amount(value=6.0))),
        _loop("Part and close", 2.4, Departure(channel="tracking", amount=Amount(value=0.12)), pivot="block"),
        _loop("Wink", 1.2, wink),
        _loop("Flicker", 1.5, _through("opacity", *steps, curves=("hold",) * 5)),
        _loop("Glimmer", 1.4, glow, pieces="letters", phase=1.0),
    ]


def _of_faults() -> list[Move]:
    """Words out of order for moments. Light changes fewer than three times a second (WCAG 2.2, 2.3.1)."""
    torn = Chance(rate=14.0)
    jump = _now_and_then("x", 0.14, unit="em", chance=torn)
    lean = _now_and_then("slant", 22.0, chance=torn)
    swap = _now_and_then("letters", 1.0, chance=Chance(rate=12.0, seed=3))
    white = _steps((0.0, 1.0), (0.06, 0.0), (0.14, 1.0), (0.18, 0.0), (1.0, 0.0))
    return [
        _loop("Torn lines", 1.4, jump, pieces="lines"),
        _loop("Broken signal", 1.8, jump, lean, pieces="letters"),
        _loop("Letters slip", 2.0, swap, pieces="letters", phase=1.0),
        _loop("Flash", 1.2, Departure(channel="colour", colour="#ffffff", keys=white)),
        _loop("Flash in turn", 2.0, _once_lit(), pieces="letters", phase=1.0),
    ]


def _now_and_then(channel: MovedChannel, amount: float, unit: Unit = "px", **fields: Any) -> Departure:
    """Twice a beat for a moment, and at rest between."""
    points = ((0.0, 0.0), (0.3, amount), (0.4, 0.0), (0.72, amount), (0.78, 0.0), (1.0, 0.0))
    return Departure(channel=channel, keys=_steps(*points, unit=unit), **fields)


def _once_lit() -> Departure:
    ways = ((0.0, 1.0, "quad-out"), (0.3, 0.0, "linear"), (1.0, 0.0, "linear"))
    keys = tuple(InnerKey(at=at, amount=Amount(value=v), curve=curve) for at, v, curve in ways)
    return Departure(channel="colour", colour="#ffffff", keys=keys)


def _steps(*points: tuple[float, float], unit: Unit = "px") -> tuple[InnerKey, ...]:
    """Amounts that hold until the next share of the beat."""
    return tuple(InnerKey(at=at, amount=Amount(value=v, unit=unit), curve="hold") for at, v in points)


def _loop(
    name: str,
    beat: float,
    *channels: Departure,
    pieces: Pieces = "whole",
    phase: float = 0.0,
    pivot: Pivot = "piece",
) -> Move:
    return Move(
        name=name,
        role="loop",
        length=beat,
        pieces=pieces,
        piece_curve=_SWING,
        pivot=pivot,
        beats=Beats(phase=phase),
        channels=channels,
    )


def _through(
    channel: MovedChannel,
    *points: tuple[float, float],
    unit: Unit = "px",
    curves: tuple[str, ...] = (),
) -> Departure:
    """From rest through points (share of the beat, amount) and back to rest."""
    rest = 0.0 if channel not in ("scale", "scale_x", "scale_y", "opacity", "fill_opacity") else 1.0
    ways = dict(zip((at for at, _ in points), curves, strict=False))
    shares = {0.0: rest, **dict(points), 1.0: rest}
    keys = tuple(
        InnerKey(at=at, amount=Amount(value=value, unit=unit), curve=ways.get(at, _SWING))
        for at, value in shares.items()
    )
    return Departure(channel=channel, keys=keys)


def _to_and_fro(channel: MovedChannel, amount: float, unit: Unit = "px") -> Departure:
    """To one side, through rest to the other, and back: a sine wave in four quarters."""
    ways = ("sine-out", "sine-in-out", "sine-in")
    return _through(channel, (0.0, 0.0), (0.25, amount), (0.75, -amount), unit=unit, curves=ways)


def _shiver(channel: MovedChannel, *points: tuple[float, float]) -> Departure:
    return _through(channel, *((at, 0.02 * share) for at, share in points), unit="em")


def _bump(most: float) -> Departure:
    return _through("scale", (0.15, most), (0.5, 1.0))


def _restless() -> tuple[Departure, ...]:
    """Letters shaken about, a little, as long as they stay."""
    chance = Chance(rate=8.0, smooth=True)
    return (
        Departure(channel="y", amount=Amount(value=0.06, unit="em"), curve="linear", chance=chance),
        Departure(channel="rotation_z", amount=Amount(value=5.0), curve="linear", chance=chance),
    )


def _turns(channel: MovedChannel) -> Departure:
    ends = (InnerKey(at=0.0, amount=Amount(value=0.0)), InnerKey(at=1.0, amount=Amount(value=360.0)))
    return Departure(channel=channel, keys=ends)


def _squeeze() -> tuple[Departure, Departure]:
    return (
        Departure(channel="scale_x", amount=Amount(value=1.08)),
        Departure(channel="scale_y", amount=Amount(value=0.9)),
    )


def _circle(radius: float) -> tuple[Departure, Departure]:
    """A round way whose top is rest: quarters of sines in x and y."""
    across = _to_and_fro("x", radius, "em")
    down = Departure(channel="y", amount=Amount(value=2 * radius, unit="em"))
    return across, down
