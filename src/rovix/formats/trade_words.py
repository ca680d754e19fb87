"""Earlier files in the words of the trade: project files before version 5, moves and looks before 2."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from typing import Any

Data = dict[str, Any]

_SEQUENCE = {"ground": "background"}
_CLIP = {"place": "transform", "words": "text", "ground": "background", "hug": "fits", "join": "transition"}
_TRANSFORM = {
    "depth": "z", "turn": "rotation_z", "tip": "rotation_x", "swing": "rotation_y", "blur_across": "blur_x",
    "blur_down": "blur_y",
}  # fmt: skip
_TEXT = {"text": "content", "dressings": "styles"}
_SHUTTER = {"most": "samples"}
_MOVE = {"sequence_curve": "order_curve", "strike": "piece_sound", "whoosh": "speed_sound"}
_CURVES = frozenset({"curve", "piece_curve", "order_curve"})
_SPRING = re.compile(r"spring\(([^()a-z]*)\)", re.IGNORECASE)


def sequence_in_trade_words(sequence: Data) -> Data:
    """A sequence with all that it holds."""
    sequence = _renamed(sequence, _SEQUENCE)
    _each(sequence, "shutter", lambda shutter: _renamed(shutter, _SHUTTER))
    for track in _held(sequence, "tracks"):
        _all(track, "clips", _clip)
    return sequence


def move_in_trade_words(move: Data) -> Data:
    """A move, its channels and its curves."""
    move = _with_springs(_renamed(move, _MOVE))
    for channel in _held(move, "channels"):
        name = channel.get("channel")
        if isinstance(name, str):
            channel["channel"] = _TRANSFORM.get(name, name)
    return move


def look_in_trade_words(look: Data) -> Data:
    """A look and the curves of its keys."""
    return _with_springs(look)


def _clip(clip: Data) -> Data:
    clip = _renamed(clip, _CLIP)
    if clip.get("kind") == "ground":
        clip["kind"] = "background"
    _each(clip, "transform", lambda transform: _renamed(transform, _TRANSFORM))
    _each(clip, "text", lambda text: _renamed(text, _TEXT))
    _each(clip, "shutter", lambda shutter: _renamed(shutter, _SHUTTER))
    _all(clip, "moves", move_in_trade_words)
    for track in _held(clip, "tracks"):
        _all(track, "clips", _clip)
    return _with_springs(clip)


def _renamed(data: Data, names: dict[str, str]) -> Data:
    """A struct's data with fields by new names, in their order; one that is there by its new name stays."""
    return {names[k] if k in names and names[k] not in data else k: value for k, value in data.items()}


def _each(data: Data, name: str, change: Callable[[Data], Data]) -> None:
    if isinstance(data.get(name), dict):
        data[name] = change(data[name])


def _all(data: Data, name: str, change: Callable[[Data], Data]) -> None:
    held = data.get(name)
    if isinstance(held, list):
        data[name] = [change(item) if isinstance(item, dict) else item for item in held]


def _held(data: Data, name: str) -> Iterator[Data]:
    held = data.get(name)
    return (item for item in (held if isinstance(held, list) else []) if isinstance(item, dict))


def _with_springs(data: Any) -> Any:
    """Data whose curves name the numbers of their springs."""
    if isinstance(data, list):
        return [_with_springs(item) for item in data]
    if not isinstance(data, dict):
        return data
    return {
        name: _SPRING.sub(_spring, value)
        if name in _CURVES and isinstance(value, str)
        else _with_springs(value)
        for name, value in data.items()
    }


def _spring(found: re.Match[str]) -> str:
    numbers = [number.strip() for number in found[1].split(",")]
    names = ("mass", "stiffness", "damping", "velocity")[: len(numbers)]
    return f"spring({' '.join(f'{name} {number}' for name, number in zip(names, numbers, strict=False))})"
