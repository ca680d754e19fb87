"""What the window's picture service tells its processes, and what they answer."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path

from rovix.engine.delta import Delta
from rovix.engine.quality import FULL, Cost, Quality
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
