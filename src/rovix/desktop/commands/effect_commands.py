"""A command for each kind of effect, for the finder; the menus leave them to the Effects page."""

from __future__ import annotations

from functools import cache
from typing import TYPE_CHECKING

from rovix.desktop.commands.command import Command, Run, layer, on_selection
from rovix.edit import clip_by_id
from rovix.edit.effects import add_effect
from rovix.model import Project
from rovix.model.clip_kinds import is_layer
from rovix.model.effects import EFFECTS

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame


@cache
def effect_commands() -> tuple[Command, ...]:
    """One for each effect there is: it adds it to the selected layers and shows the page."""
    return tuple(
        Command(f"effect-{kind}", f"Add effect: {struct.facts.name}", "Effects", "", _adding(kind), layer)
        for kind, struct in EFFECTS.items()
    )


def _adding(kind: str) -> Run:
    name = EFFECTS[kind].facts.name

    def run(window: Frame) -> None:
        def edit(project: Project, identities: tuple[str, ...]) -> Project:
            for identity in filter(lambda i: is_layer(clip_by_id(project, i)), identities):
                project = add_effect(project, identity, kind)
            return project

        on_selection(f"Add {name.lower()}", edit)(window)
        window.sheet.open_page("Effects")

    return run
