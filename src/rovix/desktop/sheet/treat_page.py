"""The sheet's Treat page: what is done to the layer's edges and pixels, in order."""

from __future__ import annotations

from typing import Any

from rovix.desktop.channel_facts import TREATMENT_NAMES
from rovix.desktop.sheet.card import CardFields, Item
from rovix.desktop.sheet.cards_page import CardsPage
from rovix.desktop.sheet.treatment_fields import TreatmentFields
from rovix.edit.treatments import (
    add_treatment,
    change_treatment,
    move_treatment,
    remove_treatment,
    treatment_kind,
)
from rovix.model import Clip, Project


class TreatPage(CardsPage):
    """Openings, wipes, offsets, echoes and what else there is."""

    said, title, hint = "treatment", "Treatments", "the first is done first"
    empty = "Nothing is done to this layer. Add a wipe, an offset, an echo…"
    add_tip = "One more treatment, where its kind belongs in the order; drag it elsewhere."
    names = TREATMENT_NAMES

    def items(self, clip: Clip | None) -> tuple[Item, ...]:
        return getattr(clip, "treatments", ())

    def kind_of(self, item: Item) -> str:
        return treatment_kind(item)

    def address(self, identity: str) -> str:
        return f"treatments.{identity}"

    def fields(self, item: Item) -> CardFields:
        return TreatmentFields(self, item)

    def added(self, project: Project, kind: str) -> Project:
        return add_treatment(project, self._id, kind)

    def changed(self, project: Project, identity: str, **changes: Any) -> Project:
        return change_treatment(project, self._id, identity, **changes)

    def removed(self, project: Project, identity: str) -> Project:
        return remove_treatment(project, self._id, identity)

    def moved(self, project: Project, identity: str, to: int) -> Project:
        return move_treatment(project, self._id, identity, to)
