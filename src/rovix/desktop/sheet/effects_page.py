"""The sheet's Effects page: what is done to the layer's edges and pixels, in order."""

from __future__ import annotations

from typing import Any, ClassVar

from rovix.desktop.sheet.card import CardFields, Item
from rovix.desktop.sheet.cards_page import CardsPage
from rovix.desktop.sheet.effect_fields import EffectFields
from rovix.edit.effects import (
    add_effect,
    add_effects,
    change_effect,
    duplicate_effect,
    effect_kind,
    move_effect,
    remove_effect,
    reset_effect,
)
from rovix.model import Clip, Project
from rovix.model.effects import EFFECTS


class EffectsPage(CardsPage):
    """Reveal boxes, wipes, echo trails and what else there is."""

    name, said, place = "Effects", "effect", "effects"
    empty = "No effects yet. Add a wipe, a wrap-around, an echo trail…"
    add_tip = "One more effect, where its kind belongs in the order, the first done first; drag it elsewhere."
    names: ClassVar = {kind: struct.facts.name for kind, struct in EFFECTS.items()}

    def items(self, clip: Clip | None) -> tuple[Item, ...]:
        return getattr(clip, "effects", ())

    def kind_of(self, item: Item) -> str:
        return effect_kind(item)

    def fields(self, item: Item) -> CardFields:
        return EffectFields(self, item)

    def added(self, project: Project, clip: str, kind: str) -> Project:
        return add_effect(project, clip, kind)

    def changed(self, project: Project, clip: str, identity: str, **changes: Any) -> Project:
        return change_effect(project, clip, identity, **changes)

    def removed(self, project: Project, clip: str, identity: str) -> Project:
        return remove_effect(project, clip, identity)

    def moved(self, project: Project, clip: str, identity: str, to: int) -> Project:
        return move_effect(project, clip, identity, to)

    def duplicated(self, project: Project, clip: str, identity: str) -> Project:
        return duplicate_effect(project, clip, identity)

    def given(self, project: Project, clip: str, item: Item) -> Project:
        return add_effects(project, clip, (item,))

    def put_back(self, project: Project, clip: str, identity: str) -> Project:
        return reset_effect(project, clip, identity)
