"""What the parts of the Motion page are built on: fields and choices bound to the move that is tuned."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from rovix.desktop.sheet.mixed import ABSENT
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.page import ClipEdit, Page
from rovix.edit import change_move
from rovix.edit.counterparts import counterpart
from rovix.edit.tree import clip_of, title_of
from rovix.errors import RovixError
from rovix.model import Clip, Move, Project

MoveRead = Callable[[Any], Any]
"""What a move has; parts that it has not got may be asked for in vain."""
MoveChange = Callable[[Move], dict[str, Any]]
"""The fields that a move is to have otherwise."""


class MovePage(Page):
    """A page of one move of the leading clip; in the others that of its role and number stands for it."""

    @property
    def tuned(self) -> Move | None:
        """The move of the leading clip that is tuned."""
        return self._document.tuned_in(self.clip)

    def move_in(self, clip: Clip) -> Move:
        """The move of a clip that stands for the one that is tuned; RovixError where it has none."""
        lead, tuned = self.clip, self.tuned
        own = "" if lead is None or tuned is None else counterpart(lead, "moves", tuned.id, clip)
        found = next((move for move in getattr(clip, "moves", ()) if move.id == own), None)
        if found is None:
            raise RovixError(f"'{title_of(clip)}' has no such move any more.")
        return found

    def of_move(self, edit: Callable[[Project, str, Move], Project]) -> ClipEdit:
        """The edit of each clip's move that stands for the one that is tuned."""
        return lambda project, clip: edit(project, clip, self.move_in(clip_of(project, clip)))

    def changing(self, change: MoveChange) -> ClipEdit:
        """The edit that changes fields of it."""
        return self.of_move(lambda project, clip, move: change_move(project, clip, move.id, **change(move)))

    def give(self, title: str, change: MoveChange) -> None:
        """One step that changes fields of the moves by what each has."""
        self._do(title, self.changing(change))

    def reading(self, read: Callable[[Clip, Move], Any]) -> Callable[[Clip], Any]:
        """What a clip has in its move; `ABSENT` without it, or where there is None."""

        def found(clip: Clip) -> Any:
            try:
                value = read(clip, self.move_in(clip))
            except (RovixError, AttributeError):
                return ABSENT
            return ABSENT if value is None else value

        return found

    def show_each(self, read: MoveRead, show: Callable[[Any], None]) -> None:
        """Show what the moves have in common."""
        self.watch(self.reading(lambda _, move: read(move)), show)

    def number(
        self, field: NumberField, title: str, read: MoveRead, change: Callable[[Move, float], dict[str, Any]]
    ) -> NumberField:
        """Bind a field to a number of the moves."""
        return self._bind(
            field,
            title,
            lambda project, clip, value: self.changing(lambda move: change(move, value))(project, clip),
            self.reading(lambda _, move: read(move)),
        )
