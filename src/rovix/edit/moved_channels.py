"""Which channel of a move does what keys of a layer do: for a place, words, parts of a look, effects."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

from rovix.edit.address import held_at, owner_at
from rovix.errors import RovixError
from rovix.model import (
    Clip,
    ColourKeys,
    Fill,
    Glow,
    Keys,
    LongShadow,
    Node,
    Outline,
    Plain,
    Shadow,
    Text,
    Transform,
)
from rovix.model.effects.crop import Crop
from rovix.model.effects.wipe import Wipe
from rovix.model.effects.wrap_around import WrapAround
from rovix.model.move_channels import MOVE_CHANNELS

_OPACITIES = {
    Fill: "fill_opacity", Outline: "outline_opacity", Shadow: "shadow_opacity",
    LongShadow: "shadow_opacity", Glow: "glow_opacity",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class Moved:
    """A channel of a move that stands for keys: its name, the unit of its amounts, what else it has."""

    channel: str
    unit: str = "px"
    fields: dict[str, Any] = field(default_factory=dict)


def moved_by(clip: Clip, address: str) -> Moved:
    """What of a move does the same as a channel of a layer; RovixError, naming it, where nothing does."""
    owner, name = owner_at(clip, address)
    find = _FOUND.get(Plain if address.endswith("paint.colour") else type(owner))
    found = find(clip, owner, name) if find is not None else None
    if found is None:
        said = name.replace("_", " ")
        raise RovixError(f"'{said}' is no channel that a move has; leave its keys out.")
    return found


def _of_place(_: Clip, __: Node, name: str) -> Moved | None:
    return Moved(name) if name in MOVE_CHANNELS else None


def _of_words(_: Clip, __: Node, name: str) -> Moved | None:
    return Moved("tracking") if name == "tracking" else None


def _of_part(clip: Clip, part: Node, name: str) -> Moved | None:
    channel = _OPACITIES[type(part)] if name == "opacity" else None
    if channel is not None:
        _check_alone(clip, [kind for kind, own in _OPACITIES.items() if own == channel], "part of its kind")
        return Moved(channel)
    return None


def _of_colour(clip: Clip, _: Node, __: str) -> Moved | None:
    _check_alone(clip, [Fill], "fill")
    return Moved("colour")


def _of_wrap(clip: Clip, effect: Node, name: str) -> Moved | None:
    _check_only(clip, effect)
    assert isinstance(effect, WrapAround)
    return Moved(f"offset_{name}", effect.unit)


def _of_edges(_: Clip, __: Node, name: str) -> Moved | None:
    raise RovixError(
        f"Keys of '{name}' stay keys: a move's edges run over all that the letters show, "
        "glow and shadow too, an effect's over their block. Add the channel to a move instead."
    )


_FOUND: dict[type, Callable[[Clip, Any, str], Moved | None]] = {
    Transform: _of_place, Text: _of_words, Plain: _of_colour, WrapAround: _of_wrap, Wipe: _of_edges,
    Crop: _of_edges, **dict.fromkeys(_OPACITIES, _of_part),
}  # fmt: skip


def _check_alone(clip: Clip, kinds: list[type], said: str) -> None:
    """A move takes all parts of a kind along, so there may be one alone."""
    parts = getattr(getattr(clip, "look", None), "parts", ())
    if sum(part.shown and type(part) in kinds for part in parts) != 1:
        raise RovixError(f"'{clip.title}' has more than one {said}, and a move changes them together.")


def _check_only(clip: Clip, effect: Node) -> None:
    """Moves come before effects; what another effect makes of them would be another picture."""
    others = [own for own in getattr(clip, "effects", ()) if own is not effect]
    if others:
        raise RovixError(f"'{clip.title}' has other effects, which would come in another order.")


def rest_of(clip: Clip, address: str, role: str) -> Any:
    """The value that a channel with keys rests at: the last of an entrance, else the first."""
    held = held_at(clip, address)
    keys = held.keys if isinstance(held, Keys | ColourKeys) else ()
    return keys[-1 if role == "entrance" else 0].value


def check_rest(clip: Clip, address: str, moved: Moved, role: str) -> None:
    """RovixError where keys do not rest where a move of their channel can depart from."""
    rest, row, said = rest_of(clip, address, role), MOVE_CHANNELS[moved.channel], address.rpartition(".")[2]
    if row.how == "multiply" and rest == 0:
        raise RovixError(f"'{said}' rests at 0, from which a move cannot depart.")
    own = type(owner_at(clip, address)[0])
    if own is WrapAround and rest != row.neutral:
        raise RovixError(f"'{said}' does not rest at {row.neutral:g}, where the effect does nothing.")


def away_from(how: str, value: float, rest: float) -> float:
    """How far a value departs from rest, as channels that combine so count it; RovixError where none does."""
    if how == "multiply":
        return value / rest
    if how == "variance":
        if value < rest:
            raise RovixError("A move can blur what rests, not sharpen it: blur less where it rests.")
        return float((value * value - rest * rest) ** 0.5)
    return value if how in ("smaller", "larger") else value - rest


def as_shares(held: ColourKeys, rest: str) -> tuple[str, list[float]]:
    """The one colour other than that at rest, and for each key how much of it there is."""
    others = {key.value for key in held.keys} - {rest}
    if len(others) != 1 or any(len(key.value) > 7 for key in held.keys):
        raise RovixError("A move mixes one colour, solid, into that at rest; these keys have others.")
    (other,) = others
    return other, [float(key.value == other) for key in held.keys]
