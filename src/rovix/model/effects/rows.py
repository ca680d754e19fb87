"""What the fields of an effect are called, in which unit they are shown, and which controls set them.

An effect lists its rows from the top down; the sheet, the lanes and all other names come from them.
Limits and what a field may name come from its type.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

Asks = Callable[[Any], bool]
Unit = str | Callable[[Any], str]
"""A unit, or what gives it for an effect where another field decides it."""


@dataclass(frozen=True, slots=True)
class Numbers:
    """Numbers that may have keys, side by side. `said` names each in words, without the effect."""

    names: tuple[str, ...]
    label: str
    said: tuple[str, ...]
    unit: Unit = ""
    step: float | None = None
    decimals: int | None = None
    when: Asks | None = None
    """Whether an effect shows them; None: always."""


@dataclass(frozen=True, slots=True)
class Edge:
    """An edge on one side, which is there or not, and how many px in."""

    name: str


@dataclass(frozen=True, slots=True)
class Whole:
    """A whole number without keys, shown while `when` of the effect."""

    name: str
    label: str
    unit: str = ""
    tip: str = ""
    when: Asks | None = None


@dataclass(frozen=True, slots=True)
class Choice:
    """One of a few values side by side, with a tip for each."""

    name: str
    label: str
    choices: dict[str, str]
    tips: dict[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Menu:
    """One of more values in a list."""

    name: str
    label: str
    choices: dict[str, str]
    tip: str


@dataclass(frozen=True, slots=True)
class Switch:
    """On or off."""

    name: str
    label: str
    tip: str


@dataclass(frozen=True, slots=True)
class Colour:
    """The effect's `colour`, which may have keys."""

    label: str = "Colour"


@dataclass(frozen=True, slots=True)
class Paint:
    """The effect's `paint`: plain or a gradient."""


@dataclass(frozen=True, slots=True)
class Variation:
    """Another draw of the effect's `seed`."""


@dataclass(frozen=True, slots=True)
class OtherLayer:
    """Another layer and what of it counts, a struct `made` of `layer` and `at`, or None; the first of the
    `points` is the usual one."""

    name: str
    label: str
    points: dict[str, str]
    tip: str
    point_tip: str
    made: Callable[..., Any]
    point_label: str = "At"


@dataclass(frozen=True, slots=True)
class Drawn:
    """The effect's contour `name`, which is drawn in the picture and may have keys; shown while `when`."""

    name: str
    label: str
    said: str
    when: Asks


Row = Numbers | Edge | Whole | Choice | Menu | Switch | Colour | Paint | Variation | OtherLayer | Drawn


@dataclass(frozen=True, slots=True)
class Facts:
    """What is said about a kind of effect.

    `order` is where a new one comes among the others, the lowest done first. `fresh` sets a new one
    so that it can be seen to do something. `summary` is the value that says most about one.
    """

    name: str
    order: int
    rows: tuple[Row, ...]
    fresh: dict[str, Any] = field(default_factory=dict)
    summary: Callable[[Any], str] = lambda _: ""


def px(name: str, label: str, said: str = "") -> Numbers:
    """A row of one length."""
    return Numbers((name,), label, (said or label.lower(),), "px")


def percent(name: str, label: str, said: str = "") -> Numbers:
    """A row of one share, shown in percent."""
    return Numbers((name,), label, (said or label.lower(),), "%")


def degrees(name: str, label: str = "Angle", said: str = "") -> Numbers:
    """A row of one angle."""
    return Numbers((name,), label, (said or label.lower(),), "°")


FEATHER = px("feather", "Feather")
COLOURED = (Colour(), percent("opacity", "Opacity"))
DRAWN = (
    Whole("every", "Held for", "f", "Drawn anew after so many frames; 0 draws once and for all."),
    Variation(),
)
PINNED = Choice(
    "pin",
    "Pinned",
    {"words": "To the layer", "frame": "To the frame"},
    {
        "words": "The edges go with the layer, its moves within them.",
        "frame": "The edges stay in the frame, whatever the layer does.",
    },
)
