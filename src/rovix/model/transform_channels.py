"""The channels of a transform, a row each: what they are called and how they are shown."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class TransformChannel:
    """`row` names the row of the sheet that it stands in, beside others of that row.

    It is shown times `factor` in `unit`, to so many `decimals`, in steps of `step`, within `limits`
    (both included; the model's own where None). A pivot is no part of where the layer rests.
    """

    label: str
    row: str
    unit: str
    step: float = 1.0
    decimals: int = 1
    factor: float = 1.0
    limits: tuple[float, float] | None = None
    pivot: bool = False


def _degrees(label: str, row: str, limits: tuple[float, float] | None = None) -> TransformChannel:
    return TransformChannel(label, row, "°", 0.5, limits=limits)


TRANSFORM_CHANNELS: dict[str, TransformChannel] = {
    "x": TransformChannel("Position X", "Position X, Y", "px"),
    "y": TransformChannel("Position Y", "Position X, Y", "px"),
    "z": TransformChannel("Position Z", "Position Z", "px", 2.0, 0),
    "scale_x": TransformChannel("Scale X", "Scale X, Y", "%", factor=100.0),
    "scale_y": TransformChannel("Scale Y", "Scale X, Y", "%", factor=100.0),
    "rotation_z": _degrees("Rotation Z", "Rotation Z"),
    "slant": _degrees("Slant", "Slant", (-89, 89)),
    "rotation_x": _degrees("Rotation X", "Rotation X, Y"),
    "rotation_y": _degrees("Rotation Y", "Rotation X, Y"),
    "opacity": TransformChannel("Opacity", "Opacity", "%", decimals=0, factor=100.0, limits=(0, 100)),
    "blur_x": TransformChannel("Blur X", "Blur X, Y", "px", 0.5, limits=(0, 1000)),
    "blur_y": TransformChannel("Blur Y", "Blur X, Y", "px", 0.5, limits=(0, 1000)),
    "pivot_x": TransformChannel("Pivot X", "Pivot", "%", decimals=0, factor=100.0, pivot=True),
    "pivot_y": TransformChannel("Pivot Y", "Pivot", "%", decimals=0, factor=100.0, pivot=True),
}
"""A test compares with the fields of :class:`rovix.model.Transform`."""
RESTING = tuple(name for name, channel in TRANSFORM_CHANNELS.items() if not channel.pivot)
"""Where the layer rests, without the point that it turns about."""
ROWS = (
    "Position X, Y", "Position Z", "Scale X, Y", "Rotation Z", "Rotation X, Y", "Slant", "Opacity",
    "Blur X, Y",
)  # fmt: skip
"""The rows in the order in which they stand."""


def in_row(row: str) -> dict[str, TransformChannel]:
    """The channels of a row of the sheet."""
    return {name: channel for name, channel in TRANSFORM_CHANNELS.items() if channel.row == row}
