"""Channels of a clip set to values, and put back to what a new one has."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

import msgspec

from rovix.edit.address import Held, held_at, owner_at, with_held
from rovix.edit.channels import set_channel
from rovix.edit.tree import replace_clip
from rovix.model import Clip, Project


def set_channels(project: Project, identity: str, frame: int, values: Mapping[str, Any]) -> Project:
    """Set channels of a clip by their addresses, with a key at a frame where they are animated."""

    def change(clip: Clip) -> Clip:
        made = {name: set_channel(held_at(clip, name), frame, value) for name, value in values.items()}
        return with_held(clip, made)

    return replace_clip(project, identity, change)


def reset_channels(project: Project, identity: str, addresses: Iterable[str]) -> Project:
    """Put channels back to what a new one has, without keys."""
    return replace_clip(
        project, identity, lambda clip: with_held(clip, {a: _fresh(clip, a) for a in addresses})
    )


def _fresh(clip: Clip, address: str) -> Held:
    node, name = owner_at(clip, address)
    field = next(field for field in msgspec.structs.fields(node) if field.name == name)
    # A gradient's colour has nothing that it comes from; it stays.
    return held_at(clip, address) if field.default is msgspec.NODEFAULT else field.default
