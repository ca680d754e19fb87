"""What channels are called on screen, and in which unit they are shown."""

from __future__ import annotations

from dataclasses import dataclass

from rovix.desktop.units import format_of
from rovix.edit.address import said_of
from rovix.model import Clip, TextClip
from rovix.model.clip_kinds import has_words
from rovix.model.effects import Effect
from rovix.model.effects.rows import Edge, Numbers
from rovix.model.move_channels import MOVE_CHANNELS
from rovix.model.transform_channels import TRANSFORM_CHANNELS

PART_NAMES = {
    "fill": "Fill", "outline": "Outline", "shadow": "Shadow", "long-shadow": "Long shadow",
    "glow": "Glow", "box": "Box",
}  # fmt: skip
SAID = {
    "transform.path": "Path", "text.paragraph": "Paragraphs", "sound.gain": "Gain", "sound.pan": "Pan",
}  # fmt: skip
_ANGLES = frozenset({"angle"})
_SHARES = frozenset({
    "opacity", "fill_opacity", "strength", "leading", "paragraph", "at",
})  # fmt: skip


@dataclass(frozen=True, slots=True)
class Fact:
    """A channel's name and unit; the shown number is the value times `factor`."""

    said: str
    unit: str
    factor: float = 1.0
    decimals: int = 1

    def shown(self, value: object) -> str:
        """A value as text with its unit."""
        if isinstance(value, str):
            return value
        if isinstance(value, tuple) and isinstance(value[0], tuple):
            return f"{len(value)} points"
        if isinstance(value, tuple):
            return f"{_tidy(value[0], 0)}, {_tidy(value[1], 0)} px"
        if not isinstance(value, int | float):
            return ""
        text = _tidy(value * self.factor, self.decimals)
        space = "" if self.unit == "°" else " "
        return f"{text}{space}{self.unit}".strip()


def _tidy(value: float, decimals: int) -> str:
    text = f"{round(value, decimals) + 0.0:.{decimals}f}"
    text = text.rstrip("0").rstrip(".") if "." in text else text
    return text.replace("-", "−")


def moved_fact(channel: str) -> Fact:
    """The fact of a move's channel, in px where it is a length."""
    row = MOVE_CHANNELS[channel]
    factor, decimals = _MOVED[row.unit]
    return Fact(row.label, row.unit, factor, decimals)


_MOVED = {"px": (1.0, 1), "%": (100.0, 0), "°": (1.0, 1), "em": (1.0, 3), "": (1.0, 2)}
"""By the unit of a move's channel: what its values are shown times, and with how many decimals."""


def fact_of(clip: Clip, address: str) -> Fact:
    """The fact of a clip's channel."""
    steps = address.split(".")
    name = steps[-1]
    own = TRANSFORM_CHANNELS.get(name) if steps[0] == "transform" else None
    if own is not None:
        return Fact(own.label, own.unit, own.factor, own.decimals)
    said = SAID.get(address) or _said(clip, steps)
    if name in _ANGLES:
        return Fact(said, "°")
    effect = _effect(clip, steps)
    row = None if effect is None or len(steps) > 3 else _row(effect, name)
    if row is not None:
        shown = format_of(row, effect)
        return Fact(said, shown.unit, shown.factor, shown.decimals if shown.unit != "%" else 0)
    if name in _SHARES or (name in ("x", "y", "radius") and _is_paint(steps)):
        return Fact(said, "%", 100.0, 0)
    units = {"tracking": ("em", 3), "gain": ("dB", 1), "pan": ("", 2)}
    unit, decimals = units.get(name, ("px", 1))
    return Fact(said, "" if "colour" in name else unit, 1.0, decimals)


def _effect(clip: Clip, steps: list[str]) -> Effect | None:
    """The effect that a channel belongs to."""
    own = getattr(clip, "effects", ()) if steps[0] == "effects" else ()
    return next((effect for effect in own if effect.id == steps[1]), None)


def _row(effect: Effect, name: str) -> Numbers | None:
    """The row in which an effect shows a channel; None where it is no number."""
    rows = (Numbers((row.name,), "", (f"{row.name} edge",), "px") if isinstance(row, Edge) else row
            for row in effect.facts.rows)  # fmt: skip
    return next((row for row in rows if isinstance(row, Numbers) and name in row.names), None)


def _is_paint(steps: list[str]) -> bool:
    return len(steps) > 1 and steps[-2] in ("paint", "fill", "background")


def _said(clip: Clip, steps: list[str]) -> str:
    plain = said_of(steps[-1])
    if steps[0] == "look" and has_words(clip):
        return f"{_part_said(clip, steps[2])} {_stop(steps)}{plain}"
    effect = _effect(clip, steps)
    if effect is not None:
        row = _row(effect, steps[-1]) if len(steps) == 3 else None
        said = row.said[row.names.index(steps[-1])] if row is not None else f"{_stop(steps)}{plain}"
        return f"{_effect_said(clip, effect)} {said}"
    owner = {"outline": "Outline ", "fill": "Fill ", "background": "Background ", "fits": "Fits "}.get(
        steps[0], ""
    )
    return (f"{owner}{_stop(steps)}{plain}").capitalize()


def _effect_said(clip: Clip, effect: Effect) -> str:
    """An effect's name, with its number where there are several of its kind."""
    alike = [other.id for other in getattr(clip, "effects", ()) if type(other) is type(effect)]
    return effect.facts.name + (f" {alike.index(effect.id) + 1}" if len(alike) > 1 else "")


def _stop(steps: list[str]) -> str:
    return f"stop {int(steps[steps.index('stops') + 1]) + 1} " if "stops" in steps else ""


def _part_said(clip: TextClip, identity: str) -> str:
    """A part's name, with its number where there are several of its kind."""
    kinds = [str(type(part).__struct_config__.tag) for part in clip.look.parts]
    at = next((n for n, part in enumerate(clip.look.parts) if part.id == identity), None)
    if at is None:
        return "Part"
    name = PART_NAMES[kinds[at]]
    return name if kinds.count(kinds[at]) == 1 else f"{name} {kinds[: at + 1].count(kinds[at])}"
