"""What the heads of the sheet say of a clip, each in a few words."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from rovix.desktop.channel_facts import PART_NAMES
from rovix.desktop.document import Document
from rovix.edit.effects import effect_kind
from rovix.model import Clip, ShapeClip
from rovix.model.clip_kinds import has_words, is_filled, is_heard, is_layer
from rovix.model.effects import EFFECTS
from rovix.model.transform_channels import TRANSFORM_CHANNELS
from rovix.motion.at_frame import at_frame
from rovix.time import timecode


def summary(name: str, document: Document, clip: Clip) -> str:
    """What the head of a page says of a clip."""
    return _SUMMARIES[name](document, clip)


def _text(document: Document, clip: Clip) -> str:
    if not has_words(clip):
        return ""
    words = at_frame(clip.text, document.frame_of(clip))
    return f"{words.family} · {round(words.size, 1):g} px"


def _look(document: Document, clip: Clip) -> str:
    if not has_words(clip):
        return ""
    parts = [part for part in clip.look.parts if part.shown]
    return _listed([PART_NAMES[str(type(part).__struct_config__.tag)].lower() for part in parts])


def _shape(document: Document, clip: Clip) -> str:
    if not is_filled(clip):
        return ""
    if not isinstance(clip, ShapeClip):
        return "ground"
    return f"{clip.form}, outlined" if clip.outline else clip.form


def _transform(document: Document, clip: Clip) -> str:
    """The rows that are not as they are at rest."""
    if not is_layer(clip):
        return ""
    place = at_frame(clip.transform, document.frame_of(clip))
    fresh = type(clip.transform)()
    changed = [fact.row.lower() for name, fact in TRANSFORM_CHANNELS.items()
               if getattr(place, name) != getattr(fresh, name)]  # fmt: skip
    return _listed(list(dict.fromkeys(changed)))


def _motion(document: Document, clip: Clip) -> str:
    moves = getattr(clip, "moves", ())
    return _listed([move.name or move.role.capitalize() for move in moves])


def _effects(document: Document, clip: Clip) -> str:
    shown = [effect for effect in getattr(clip, "effects", ()) if effect.shown]
    return _listed([EFFECTS[effect_kind(effect)].facts.name.lower() for effect in shown])


def _clip(document: Document, clip: Clip) -> str:
    rate = document.rate
    return f"{timecode(clip.start, rate)} · {float(rate.seconds(clip.length)):.2f} s"


def _sound(document: Document, clip: Clip) -> str:
    if not is_heard(clip):
        return ""
    gain: Any = at_frame(clip.sound, document.frame_of(clip)).gain
    return f"{gain:+.1f} dB".replace("-", "−") if gain else "0 dB"


def _listed(names: list[str]) -> str:
    counted = {name: names.count(name) for name in names}
    return ", ".join(name if count == 1 else f"{count} × {name}" for name, count in counted.items()) or "none"


_SUMMARIES: dict[str, Callable[[Document, Clip], str]] = {
    "Text": _text, "Look": _look, "Shape": _shape, "Transform": _transform, "Motion": _motion,
    "Effects": _effects, "Clip": _clip, "Sound": _sound,
}  # fmt: skip
