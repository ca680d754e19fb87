"""The sheet's Look page: the parts of the words' look, in the order in which they lie."""

from __future__ import annotations

from typing import Any

from rovix.desktop.channel_facts import PART_NAMES
from rovix.desktop.sheet.card import CardFields, Item
from rovix.desktop.sheet.cards_page import CardsPage
from rovix.desktop.sheet.look_parts import PartFields, kind_of
from rovix.edit.look import (
    add_part,
    add_part_like,
    change_part,
    duplicate_part,
    move_part,
    remove_part,
    reset_part,
)
from rovix.model import Clip, Project
from rovix.model.clip_kinds import has_words


class LookPage(CardsPage):
    """Fills, outlines, shadows, glows and boxes."""

    name, said, place = "Look", "part", "look.parts"
    empty = "Nothing is drawn: add a fill or an outline."
    add_tip = "Another fill, outline, shadow, glow or box; the first lies on top."
    names = PART_NAMES

    def items(self, clip: Clip | None) -> tuple[Item, ...]:
        return clip.look.parts if has_words(clip) else ()

    def kind_of(self, item: Item) -> str:
        return kind_of(item)

    def fields(self, item: Item) -> CardFields:
        return PartFields(self, item)

    def opened_first(self, item: Item) -> bool:
        # What most want to change first, the fill, is open until it is folded.
        return kind_of(item) == "fill"

    def added(self, project: Project, clip: str, kind: str) -> Project:
        return add_part(project, clip, kind)

    def changed(self, project: Project, clip: str, identity: str, **changes: Any) -> Project:
        return change_part(project, clip, identity, **changes)

    def removed(self, project: Project, clip: str, identity: str) -> Project:
        return remove_part(project, clip, identity)

    def moved(self, project: Project, clip: str, identity: str, to: int) -> Project:
        return move_part(project, clip, identity, to)

    def duplicated(self, project: Project, clip: str, identity: str) -> Project:
        return duplicate_part(project, clip, identity)

    def given(self, project: Project, clip: str, item: Item) -> Project:
        return add_part_like(project, clip, item)

    def put_back(self, project: Project, clip: str, identity: str) -> Project:
        return reset_part(project, clip, identity)
