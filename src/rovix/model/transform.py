"""Where a layer rests, and its opacity."""

from __future__ import annotations

from typing import TYPE_CHECKING

from rovix.model.channel import Channel, keyed
from rovix.model.motion_path import MotionPath
from rovix.model.node import Node

if TYPE_CHECKING:
    Away = Channel
    Scale = Channel
    Degrees = Channel
    Strength = Channel
    Sigma = Channel
    Pivot = Channel
else:
    Away = keyed(-10_000_000, 10_000_000)
    Scale = keyed(-100_000, 100_000)
    Degrees = keyed(-10_000_000, 10_000_000)
    Strength = keyed(-1000, 1000)
    Sigma = keyed(-100_000, 100_000)
    Pivot = keyed(-10_000, 10_000)


class Transform(Node, frozen=True, kw_only=True):
    """Where a layer rests: every number is a channel.

    `x`, `y`, `z` are px of the sequence from the frame's centre (x right, y down, z towards the
    viewer); `scale_x`, `scale_y`, `opacity` are shares of 1; `rotation_z`, `slant`, `rotation_x`,
    `rotation_y` are degrees, clockwise; `blur_x` and `blur_y` are px of sigma. The pivot is a share of the
    layer's block, 0.5 its centre. With a `path`, `x` and `y` are added to where that runs.
    """

    x: Away = 0.0
    y: Away = 0.0
    z: Away = 0.0
    scale_x: Scale = 1.0
    scale_y: Scale = 1.0
    rotation_z: Degrees = 0.0
    slant: Degrees = 0.0
    rotation_x: Degrees = 0.0
    rotation_y: Degrees = 0.0
    opacity: Strength = 1.0
    blur_x: Sigma = 0.0
    blur_y: Sigma = 0.0
    pivot_x: Pivot = 0.5
    pivot_y: Pivot = 0.5
    path: MotionPath | None = None
