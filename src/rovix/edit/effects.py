"""The effects of layers: added, changed, put in order, taken away."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from rovix.edit.fresh import fresh_ids
from rovix.edit.transform import layer_transform
from rovix.edit.tree import replace, replace_clip
from rovix.errors import RovixError
from rovix.model import Clip, Project
from rovix.model.effects import EFFECTS, Effect
from rovix.model.effects.rows import OtherLayer
from rovix.model.references import let_go


def effect_kind(effect: Effect) -> str:
    """An effect's kind as the file names it."""
    return str(type(effect).__struct_config__.tag)


def add_effect(project: Project, identity: str, kind: str) -> Project:
    """Give a layer one more effect, where its kind belongs in the order."""
    return put_effect(project, identity, new_effect(kind))


def put_effect(project: Project, identity: str, made: Effect) -> Project:
    """Give a layer that very effect, where its kind belongs in the order."""
    return _changed(project, identity, lambda own: _put_in(own, made))


def new_effect(kind: str) -> Effect:
    """An effect as it is when added: one that shows what it is for."""
    return EFFECTS[kind](**EFFECTS[kind].facts.fresh)


def add_effects(project: Project, identity: str, effects: tuple[Effect, ...]) -> Project:
    """Give a layer copies of effects, each where its kind belongs in the order."""

    def change(own: tuple[Effect, ...]) -> tuple[Effect, ...]:
        for made in fresh_ids(effects):
            own = _put_in(own, made)
        return own

    return _changed(project, identity, change)


def loose_effects(effects: tuple[Effect, ...]) -> tuple[Effect, ...]:
    """Effects that can go to other layers and projects: without ties to layers and files of this one."""
    kept: tuple[Effect, ...] = let_go(effects, lambda to, target: True)
    return kept


def _put_in(own: tuple[Effect, ...], made: Effect) -> tuple[Effect, ...]:
    order = made.facts.order
    at = next((n for n, other in enumerate(own) if other.facts.order > order), len(own))
    return (*own[:at], made, *own[at:])


def change_effect(project: Project, identity: str, effect: str, **changes: Any) -> Project:
    """Change fields of one effect."""

    def change(own: tuple[Effect, ...]) -> tuple[Effect, ...]:
        at = _index(own, effect)
        return (*own[:at], replace(own[at], **changes), *own[at + 1 :])

    return _changed(project, identity, change)


def remove_effect(project: Project, identity: str, effect: str) -> Project:
    """Take an effect away."""

    def change(own: tuple[Effect, ...]) -> tuple[Effect, ...]:
        at = _index(own, effect)
        return (*own[:at], *own[at + 1 :])

    return _changed(project, identity, change)


def duplicate_effect(project: Project, identity: str, effect: str) -> Project:
    """Put a copy of an effect behind it."""

    def change(own: tuple[Effect, ...]) -> tuple[Effect, ...]:
        at = _index(own, effect)
        return (*own[: at + 1], fresh_ids(own[at]), *own[at + 1 :])

    return _changed(project, identity, change)


def reset_effect(project: Project, identity: str, effect: str) -> Project:
    """Put an effect back to what a new one of its kind has."""

    def change(own: tuple[Effect, ...]) -> tuple[Effect, ...]:
        at = _index(own, effect)
        kind = type(own[at])
        return (*own[:at], kind(**kind.facts.fresh, id=effect), *own[at + 1 :])

    return _changed(project, identity, change)


def move_effect(project: Project, identity: str, effect: str, to: int) -> Project:
    """Put an effect at a place in the order, the first done first."""

    def change(own: tuple[Effect, ...]) -> tuple[Effect, ...]:
        at = _index(own, effect)
        rest = [*own[:at], *own[at + 1 :]]
        rest.insert(min(max(0, to), len(rest)), own[at])
        return tuple(rest)

    return _changed(project, identity, change)


def tie_to_layer(
    project: Project, identity: str, effect: str, row: OtherLayer, layer: str | None, at: str | None = None
) -> Project:
    """Let an effect go by another layer, in the field and the way that a row says; None lets it go."""
    made = None if layer is None else row.made(layer=layer, at=at or next(iter(row.points)))
    return change_effect(project, identity, effect, **{row.name: made})


def _index(own: tuple[Effect, ...], effect: str) -> int:
    at = next((n for n, other in enumerate(own) if other.id == effect), None)
    if at is None:
        raise RovixError(f"The layer has no effect '{effect}' any more.")
    return at


def _changed(
    project: Project, identity: str, change: Callable[[tuple[Effect, ...]], tuple[Effect, ...]]
) -> Project:
    def on_clip(clip: Clip) -> Clip:
        layer_transform(clip)
        return replace(clip, effects=change(clip.effects))  # type: ignore[union-attr]

    return replace_clip(project, identity, on_clip)
