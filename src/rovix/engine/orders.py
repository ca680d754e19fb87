"""What the window's picture service tells its processes, and what they answer."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path

from rovix.engine.delta import Delta
from rovix.engine.quality import FULL, Cost, Quality
from rovix.engine.shared_footage import Manner
from rovix.motion.quads import LayerQuads

LAYERS = 96 << 20
"""Bytes of drawn layers that a process keeps, unless told."""


@dataclass(frozen=True, slots=True)
class Order:
    """Draw a frame into a slot; `project` comes when it changed, `ring` when the size changed."""

    ticket: int
    frame: int
    slot: int
    base: Path
    project: Delta | None
    ring: tuple[int, tuple[int, int], str] | None
    quality: Quality = FULL
    manner: Manner = "ahead"
    """How its footage is asked for."""
    proxies: Mapping[str, Path] | None = None
    """The files that are shown in place of footage, by the ids of media; comes when they changed."""
    fonts: int = 0
    """Which turn of fonts it is drawn with; another one than before: they have changed."""


@dataclass(frozen=True, slots=True, eq=False)
class Answer:
    """A drawn picture; `error` says why there is none."""

    ticket: int
    quads: tuple[LayerQuads, ...]
    cost: Cost
    error: str | None = None
    near: bool = False
    """Whether its footage is of a time nearby, as its own takes longer."""
    unreadable: bool = False
    """Whether it was not drawn, as the project is to come without packed clips."""
    dropped: bool = False
    """Whether it was not drawn, as nobody wants it any more."""
