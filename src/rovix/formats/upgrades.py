"""Older project files brought to today's form, one version at a time."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any

from rovix.formats.schema import VERSION
from rovix.formats.trade_words import sequence_in_trade_words

Data = dict[str, Any]


def upgraded(data: Data) -> Data:
    """The data of a file of any earlier version as one of today's; today's comes back as it is."""
    version = data.get("version")
    while isinstance(version, int) and version in _STEPS and version < VERSION:
        data = _STEPS[version](data)
        version += 1
        data["version"] = version
    return data


def _look_as_parts(data: Data) -> Data:
    """Version 2: a look is a list of parts, where it was one fill and outlines round it."""
    for clip in _text_clips(data.get("sequences")):
        look = clip.get("look")
        if isinstance(look, dict) and "parts" not in look:
            clip["look"] = _with_parts(look, str(clip.get("id", ""))[:50])
    return data


def _with_parts(look: Data, name: str) -> Data:
    fill: Data = {"part": "fill", "id": f"{name}-fill"}
    if "fill" in look:
        fill["paint"] = {"fill": "plain", "colour": look["fill"]}
    if "fill_opacity" in look:
        fill["opacity"] = look["fill_opacity"]
    outlines = look.get("outlines")
    if outlines is not None and not isinstance(outlines, list):
        return look  # for the schema to name
    outlines = [{"part": "outline"} | o if isinstance(o, dict) else o for o in outlines or []]
    inside = [o for o in outlines if isinstance(o, dict) and o.get("side") == "inside"]
    around = [o for o in outlines if o not in inside]
    kept = {key: value for key, value in look.items() if key not in ("fill", "fill_opacity", "outlines")}
    # The outline inside that came last was drawn last, so it is on top.
    return {"parts": [*reversed(inside), fill, *around]} | kept


def _text_clips(value: Any) -> Iterator[Data]:
    return (clip for clip in _clips(value) if clip.get("kind") == "text")


def _clips(value: Any) -> Iterator[Data]:
    """All clips on the tracks of sequences, in groups too; tracks as well, which have nothing of one."""
    if isinstance(value, list):
        for item in value:
            yield from _clips(item)
    elif isinstance(value, dict):
        yield value
        for key in ("tracks", "clips"):
            yield from _clips(value.get(key))


def _as_it_is(data: Data) -> Data:
    """Version 3: more fields may have keys, keys have tangents and places paths; nothing that was
    there changed."""
    return data


_EFFECTS = {
    "opening": "reveal-box", "sweep": "fill-sweep", "offset": "wrap-around", "echo": "echo-trail",
    "edge": "outline", "tear": "glitch",
}  # fmt: skip
_EFFECT_FIELDS = {
    "echo": {"kept": "strength", "shift": "hue"},
    "blur": {"across": "x", "down": "y", "x": "point_x", "y": "point_y"},
    "wipe": {"ride": "follows"},
}


def _effects(data: Data) -> Data:
    """Version 4: treatments are called effects, and some kinds and fields of them as the trade has it."""
    for clip in _clips(data.get("sequences")):
        if "treatments" in clip and "effects" not in clip:
            own = clip.pop("treatments")
            clip["effects"] = [_effect(effect) for effect in own] if isinstance(own, list) else own
    return data


def _effect(treatment: Any) -> Any:
    kind = treatment.get("treatment") if isinstance(treatment, dict) else None
    if not isinstance(kind, str):
        return treatment  # for the schema to name
    named = _EFFECT_FIELDS.get(kind, {})
    fields = {named.get(name, name): value for name, value in treatment.items() if name != "treatment"}
    return {"effect": _EFFECTS.get(kind, kind)} | fields


def _trade_words(data: Data) -> Data:
    """Version 5: fields and kinds by the words of the trade; a spring names its numbers."""
    sequences = data.get("sequences")
    if isinstance(sequences, list):
        data["sequences"] = [sequence_in_trade_words(s) if isinstance(s, dict) else s for s in sequences]
    return data


_STEPS: dict[int, Callable[[Data], Data]] = {1: _look_as_parts, 2: _as_it_is, 3: _effects, 4: _trade_words}
