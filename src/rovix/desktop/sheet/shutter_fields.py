"""The numbers of a shutter, for the sequence and for layers."""

from __future__ import annotations

from rovix.desktop.sheet.number_field import NumberField

SHUTTER_ROWS = {"angle": "Shutter", "phase": "Phase", "samples": "Samples"}


def shutter_fields() -> dict[str, NumberField]:
    """Fields for angle, phase and the most moments."""
    angle = NumberField("Shutter angle", "°", 5, 0, low=1, high=720)
    angle.setToolTip("How long the shutter is open, in degrees: 360° are a whole frame, 180° half of one.")
    phase = NumberField("Shutter phase", "°", 5, 0, low=-720, high=720)
    phase.setToolTip("When it opens, in degrees from the frame: 0° then, −90° with 180° about the frame.")
    samples = NumberField("Samples", "", 0.1, 0, low=2, high=256)
    samples.setToolTip("At most so many samples make a picture; fewer where steps of 2 px need no more.")
    return {"angle": angle, "phase": phase, "samples": samples}


def shutter_value(name: str, value: float) -> float:
    """A field's value as the shutter has it."""
    return round(value) if name == "samples" else value
