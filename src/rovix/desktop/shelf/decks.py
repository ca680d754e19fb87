"""What the shelf's cards stand for: ready moves of one role, or looks."""

from __future__ import annotations

from typing import Protocol

from rovix.desktop.document import Edit
from rovix.edit import move_of, take_on
from rovix.edit.look import scaled_look, set_look
from rovix.edit.tree import replace
from rovix.engine.card_project import Card, card_project, look_project
from rovix.engine.look_shelf import LookShelf, ShelfLook
from rovix.model import Clip, Look, Move, Project, SoundClip, TextClip, new_id
from rovix.motion.ready_moves import ready_moves
from rovix.motion.settle import settled
from rovix.time import Rate


class Deck(Protocol):
    """A set of cards. `title` is its tab's; `hint` says what to select for it to be usable."""

    title: str
    hint: str

    def names(self) -> list[str]:
        """What each card is called."""

    def usable(self, clip: Clip | None) -> bool:
        """Whether a clip can take one on."""

    def chosen(self, clip: Clip | None) -> int | None:
        """The card that a clip has taken on."""

    def trying(self, clip: Clip, number: int) -> Edit:
        """The edit that shows a card on a clip."""

    def taking(self, clip: Clip, number: int) -> tuple[str, Edit]:
        """The step that gives a clip a card, and what it is called."""

    def drawn(self, clip: TextClip, rate: Rate) -> tuple[Project, list[Card]]:
        """The project whose frames are the cards, with a clip's own words."""


class MoveDeck:
    """None, and the ready moves of a role: entrances, loops or exits."""

    def __init__(self, role: str) -> None:
        self.role = role
        self.title = role.capitalize()
        self.hint = "Select a layer to give it an entrance, a loop or an exit."
        self._moves: list[Move | None] = [None, *ready_moves(role)]

    def names(self) -> list[str]:
        return [move.name if move else "None" for move in self._moves]

    def usable(self, clip: Clip | None) -> bool:
        return clip is not None and not isinstance(clip, SoundClip)

    def chosen(self, clip: Clip | None) -> int | None:
        move = move_of(clip, self.role)
        name = move.name if move else ("None" if self.usable(clip) else "")
        return self.names().index(name) if name in self.names() else None

    def trying(self, clip: Clip, number: int) -> Edit:
        return lambda project: take_on(project, clip.id, self.role, self._moves[number])

    def taking(self, clip: Clip, number: int) -> tuple[str, Edit]:
        move = self._moves[number]
        given = None if move is None else replace(move, id=new_id())
        name = move.name if move else f"no {self.role}"
        return f"Take on {name}", lambda project: take_on(project, clip.id, self.role, given)

    def drawn(self, clip: TextClip, rate: Rate) -> tuple[Project, list[Card]]:
        return card_project(clip, self._moves, rate)


class LookDeck:
    """The looks that come with Rovix and the user's own."""

    title = "Look"
    hint = "Select words to give them a look."

    def __init__(self, shelf: LookShelf) -> None:
        self.shelf = shelf
        self.looks: list[ShelfLook] = []

    def read(self) -> None:
        """Read the looks again."""
        self.looks = self.shelf.looks()

    def names(self) -> list[str]:
        return [look.saved.name for look in self.looks]

    def usable(self, clip: Clip | None) -> bool:
        return isinstance(clip, TextClip)

    def chosen(self, clip: Clip | None) -> int | None:
        if not isinstance(clip, TextClip):
            return None
        worn = _without_ids(settled(clip.look, 0.0))
        for number, look in enumerate(self.looks):
            if _without_ids(scaled_look(look.saved.look, clip.words.size / look.saved.size)) == worn:
                return number
        return None

    def trying(self, clip: Clip, number: int) -> Edit:
        saved = self.looks[number].saved
        return lambda project: set_look(project, clip.id, saved.look, saved.size)

    def taking(self, clip: Clip, number: int) -> tuple[str, Edit]:
        return f"Take on {self.looks[number].saved.name}", self.trying(clip, number)

    def drawn(self, clip: TextClip, rate: Rate) -> tuple[Project, list[Card]]:
        looks = [(look.saved.look, look.saved.size) for look in self.looks]
        return look_project(clip, looks, rate)


def _without_ids(look: Look) -> Look:
    return replace(look, parts=tuple(replace(part, id="-") for part in look.parts))
