"""The look of text layers: its parts, their order, and whole looks."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from rovix.edit.channels import scaled_channel
from rovix.edit.fresh import fresh_ids
from rovix.edit.text import text_layer
from rovix.edit.tree import replace, replace_clip
from rovix.errors import RovixError
from rovix.model import Box, Clip, Fill, Glow, LongShadow, Look, LookPart, Outline, Project, Shadow
from rovix.motion.at_frame import at_frame

KINDS: dict[str, type[LookPart]] = {
    "fill": Fill, "outline": Outline, "shadow": Shadow, "long-shadow": LongShadow, "glow": Glow, "box": Box,
}  # fmt: skip
# From the top down; a new part goes below those of its kind, or where its kind belongs.
_ORDER = (Fill, Outline, Glow, Shadow, LongShadow, Box)
_LARGEST = {
    "width": (0.1, 2000.0), "x": (-20_000.0, 20_000.0), "y": (-20_000.0, 20_000.0), "blur": (0.0, 1000.0),
    "spread": (-2000.0, 2000.0), "size": (0.0, 1000.0), "padding_x": (-10_000.0, 10_000.0),
    "padding_y": (-10_000.0, 10_000.0), "radius": (0.0, 10_000.0),
}  # fmt: skip


def add_part(project: Project, identity: str, kind: str) -> Project:
    """Give a layer's look one more part of a kind of :data:`KINDS`, set so that it can be seen."""
    return _changed(project, identity, lambda look: _with_part(look, _new_part(look, kind)))


def add_part_like(project: Project, identity: str, part: LookPart) -> Project:
    """Give words a copy of a part of another look, where its kind belongs."""
    return _changed(project, identity, lambda look: _with_part(look, fresh_ids(part)))


def change_part(project: Project, identity: str, part: str, **changes: Any) -> Project:
    """Change fields of one part. An outline put inside goes above the fill, where it can be seen."""

    def change(look: Look) -> Look:
        at = _index(look, part)
        made = replace(look.parts[at], **changes)
        changed = _put(look, at, made)
        return _seen(changed, part) if "side" in changes else changed

    return _changed(project, identity, change)


def remove_part(project: Project, identity: str, part: str) -> Project:
    """Take a part out of a layer's look."""

    def change(look: Look) -> Look:
        at = _index(look, part)
        return replace(look, parts=(*look.parts[:at], *look.parts[at + 1 :]))

    return _changed(project, identity, change)


def duplicate_part(project: Project, identity: str, part: str) -> Project:
    """Put a copy of a part above it."""

    def change(look: Look) -> Look:
        at = _index(look, part)
        return replace(look, parts=(*look.parts[:at], fresh_ids(look.parts[at]), *look.parts[at:]))

    return _changed(project, identity, change)


def reset_part(project: Project, identity: str, part: str) -> Project:
    """Put a part back to what a new one of its kind has."""

    def change(look: Look) -> Look:
        at = _index(look, part)
        rest = replace(look, parts=(*look.parts[:at], *look.parts[at + 1 :]))
        kind = str(type(look.parts[at]).__struct_config__.tag)
        return _put(look, at, replace(_new_part(rest, kind), id=part))

    return _changed(project, identity, change)


def move_part(project: Project, identity: str, part: str, to: int) -> Project:
    """Put a part at a place in the order, counted from the top."""

    def change(look: Look) -> Look:
        at = _index(look, part)
        rest = [*look.parts[:at], *look.parts[at + 1 :]]
        rest.insert(min(max(0, to), len(rest)), look.parts[at])
        return replace(look, parts=tuple(rest))

    return _changed(project, identity, change)


def set_look(project: Project, identity: str, look: Look, size: float | None = None) -> Project:
    """Give a layer a whole look, each part with an id of its own.

    With `size`, the px of the words that it was made for, its px go with the layer's words.
    """

    def change(clip: Clip) -> Clip:
        text = text_layer(clip)
        share = 1.0 if size is None else text.text.size / size
        return replace(text, look=fresh_ids(scaled_look(look, share)))

    return replace_clip(project, identity, change)


def scaled_look(look: Look, share: float) -> Look:
    """The look for words so many times as large: every px in it goes along, within its limits."""
    return look if share == 1 else replace(look, parts=tuple(_scaled(part, share) for part in look.parts))


def _scaled(part: LookPart, share: float) -> LookPart:
    changes = {}
    for name in part.__struct_fields__:
        if name in _LARGEST:
            changes[name] = scaled_channel(getattr(part, name), share, *_LARGEST[name])
    return replace(part, **changes)


def _new_part(look: Look, kind: str) -> LookPart:
    if kind == "outline":
        width = max((at_frame(outline, 0.0).width for outline in look.outlines), default=0.0) + 6.0
        return Outline(width=min(width, 2000.0))
    if kind == "glow":
        size = (
            max((at_frame(part, 0.0).size for part in look.parts if isinstance(part, Glow)), default=12.0) * 2
        )
        return Glow(size=min(size, 1000.0))
    return KINDS[kind]()


def _with_part(look: Look, part: LookPart) -> Look:
    rank = _ORDER.index(type(part))
    at = next((n for n, other in enumerate(look.parts) if _ORDER.index(type(other)) > rank), len(look.parts))
    return replace(look, parts=(*look.parts[:at], part, *look.parts[at:]))


def _seen(look: Look, part: str) -> Look:
    """An outline inside stands above the fills, one around below them."""
    at = _index(look, part)
    moved = look.parts[at]
    fills = [n for n, other in enumerate(look.parts) if isinstance(other, Fill)]
    if not isinstance(moved, Outline) or not fills:
        return look
    rest = [*look.parts[:at], *look.parts[at + 1 :]]
    if moved.side == "inside" and at > fills[0]:
        rest.insert(fills[0], moved)
    elif moved.side != "inside" and at < fills[-1]:
        rest.insert(fills[-1], moved)
    else:
        return look
    return replace(look, parts=tuple(rest))


def _put(look: Look, at: int, part: LookPart) -> Look:
    return replace(look, parts=(*look.parts[:at], part, *look.parts[at + 1 :]))


def _index(look: Look, part: str) -> int:
    at = next((n for n, other in enumerate(look.parts) if other.id == part), None)
    if at is None:
        raise RovixError(f"The look has no part '{part}' any more.")
    return at


def _changed(project: Project, identity: str, change: Callable[[Look], Look]) -> Project:
    def on_clip(clip: Clip) -> Clip:
        text = text_layer(clip)
        return replace(text, look=change(text.look))

    return replace_clip(project, identity, on_clip)
