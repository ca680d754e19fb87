"""Where a layer rests, and its opacity."""

from __future__ import annotations

from rovix.model.channel import Channel
from rovix.model.node import Node
from rovix.model.path import Path


class Place(Node, frozen=True, kw_only=True):
    """The rest place: every number is a channel.

    `x`, `y`, `depth` are px of the sequence from the frame's centre (x right, y down, depth towards
    the viewer); `scale_x`, `scale_y`, `opacity` are shares of 1; `turn`, `slant`, `tip`, `swing`
    are degrees, clockwise; `blur_across` and `blur_down` are px of sigma. The pivot is a share of the
    layer's block, 0.5 its centre. With a `path`, `x` and `y` are added to where that runs.
    """

    x: Channel = 0.0
    y: Channel = 0.0
    depth: Channel = 0.0
    scale_x: Channel = 1.0
    scale_y: Channel = 1.0
    turn: Channel = 0.0
    slant: Channel = 0.0
    tip: Channel = 0.0
    swing: Channel = 0.0
    opacity: Channel = 1.0
    blur_across: Channel = 0.0
    blur_down: Channel = 0.0
    pivot_x: Channel = 0.5
    pivot_y: Channel = 0.5
    path: Path | None = None
