"""Keys copied from channels, and put down again: elsewhere, later, in other layers, in reverse."""

from __future__ import annotations

from collections.abc import Mapping

import msgspec

from rovix.edit.address import Held, channels_of, held_at, put_held
from rovix.edit.channels import shifted_keys
from rovix.edit.keys import Chosen, turned_round
from rovix.edit.tree import clip_of, replace
from rovix.errors import RovixError
from rovix.model import Clip, ColourKeys, ContourKeys, Keys, MotionPath, Project, new_id
from rovix.model.fields import ANIMATED, Animated


class CopiedKeys(msgspec.Struct, frozen=True):
    """Channels with the copied keys, by the address they come from; frames count from the first of all."""

    numbers: dict[str, Keys] = {}
    colours: dict[str, ColourKeys] = {}
    paths: dict[str, MotionPath] = {}
    contours: dict[str, ContourKeys] = {}

    @property
    def channels(self) -> dict[str, Animated]:
        return {**self.numbers, **self.colours, **self.paths, **self.contours}

    @property
    def length(self) -> int:
        """The frame of the last."""
        return max((held.keys[-1].frame for held in self.channels.values()), default=0)


def as_copied(channels: Mapping[str, Animated]) -> CopiedKeys:
    """Channels by their kinds; frames count from the first of all."""
    return CopiedKeys(
        {address: held for address, held in channels.items() if isinstance(held, Keys)},
        {address: held for address, held in channels.items() if isinstance(held, ColourKeys)},
        {address: held for address, held in channels.items() if isinstance(held, MotionPath)},
        {address: held for address, held in channels.items() if isinstance(held, ContourKeys)},
    )


def copied_keys(clip: Clip, chosen: Chosen) -> CopiedKeys:
    """The chosen keys of a clip; RovixError when there are none."""
    found: dict[str, Animated] = {}
    for address, frames in chosen.items():
        held, wanted = held_at(clip, address), set(frames)
        if not isinstance(held, ANIMATED):
            continue
        own = tuple(key for key in held.keys if key.frame in wanted)
        if own:
            found[address] = replace(held, keys=own)
    if not found:
        raise RovixError("There are no keys to copy: select some in a lane, or a layer that has keys.")
    first = min(held.keys[0].frame for held in found.values())
    return as_copied({address: shifted_keys(held, -first) for address, held in found.items()})


def reversed_keys(copied: CopiedKeys) -> CopiedKeys:
    """Copied keys turned round in time."""
    ends = copied.length
    turned = {a: replace(h, keys=tuple(turned_round(h.keys, ends))) for a, h in copied.channels.items()}
    return as_copied(turned)


def paste_keys(
    project: Project, identity: str, copied: CopiedKeys, frame: int, onto: tuple[str, ...] = ()
) -> tuple[Project, dict[str, tuple[int, ...]]]:
    """Put copied keys into a layer, the first of them on a frame of it; and where they are now.

    They go to the channels they come from; with `onto`, one after the other to those. What is on
    their frames makes way. RovixError where no channel of the layer takes them.
    """
    clip = clip_of(project, identity)
    made: dict[str, Held] = {}
    placed = {}
    for address, channel in _aimed(clip, copied, onto).items():
        moved = shifted_keys(channel, frame)
        made[address] = _with_all(held_at(clip, address), moved)
        placed[address] = tuple(key.frame for key in moved.keys)
    if not made:
        raise RovixError(f"'{clip.title}' has no channels of the copied kind; choose another layer.")
    return put_held(project, identity, made), placed


def _aimed(clip: Clip, copied: CopiedKeys, onto: tuple[str, ...]) -> dict[str, Animated]:
    """The copied channels by the addresses of a clip that they go to."""
    known = channels_of(clip)
    if onto:
        pairs = zip(onto, copied.channels.values(), strict=False)
    else:
        pairs = ((_like(address, known), held) for address, held in copied.channels.items())  # type: ignore[assignment]
    return {a: held for a, held in pairs if a in known and _takes(known[a], held)}


def _like(address: str, known: Mapping[str, Held]) -> str:
    """The channel of another layer that stands for one: the same, or of the first part of such a look."""
    steps = address.split(".")
    same = [a for a in known if a.split(".")[:2] == steps[:2] and a.split(".")[3:] == steps[3:]]
    return same[0] if address not in known and len(steps) > 3 and same else address


def _takes(held: Held, channel: Animated) -> bool:
    """Whether a channel may hold keys of that kind."""
    if isinstance(channel, ContourKeys):
        now = held.keys[0].value if isinstance(held, ContourKeys) else held
        return isinstance(now, tuple) and len(now) == len(channel.keys[0].value)
    if isinstance(held, ANIMATED):
        return type(held) is type(channel)
    plain = {float: Keys, int: Keys, str: ColourKeys, type(None): MotionPath}
    return plain.get(type(held)) is type(channel)


def _with_all(held: Held, channel: Animated) -> Animated:
    if not isinstance(held, ANIMATED):
        return replace(channel, id=new_id())
    taken = {key.frame for key in channel.keys}
    kept = [key for key in held.keys if key.frame not in taken]
    return replace(held, keys=tuple(sorted([*kept, *channel.keys], key=lambda key: key.frame)))
