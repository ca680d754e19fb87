"""What the shelf's cards stand for: ready moves of one role, or looks."""

from __future__ import annotations

from typing import Protocol

from rovix.edit import apply_move, move_of
from rovix.edit.each import ClipEdit
from rovix.edit.effects import add_effects, loose_effects, new_effect
from rovix.edit.look import scaled_look, set_look
from rovix.edit.move_sounds import without_files
from rovix.edit.moves import stack_move
from rovix.edit.tree import replace
from rovix.engine.card_project import Card, card_project, effect_project, look_project
from rovix.engine.kept_shelf import EffectShelf, LookShelf, MoveShelf, Shelved
from rovix.formats.effect_file import SavedEffects
from rovix.formats.look_file import SavedLook
from rovix.formats.move_file import SavedMove
from rovix.model import Clip, Look, Move, Project, TextClip, new_id
from rovix.model.clip_kinds import has_words, is_layer
from rovix.model.effect_chain import EffectChain
from rovix.model.effects import EFFECTS, Effect
from rovix.model.roles import ROLES, Role
from rovix.motion.at_frame import at_frame
from rovix.motion.families import family_of
from rovix.motion.ready_moves import ready_moves
from rovix.time import Rate

OWN = "Your own"
"""The group of cards that the user made."""


class Deck(Protocol):
    """A set of cards. `title` is its tab's; `hint` says what to select for it to be usable."""

    title: str
    hint: str

    def read(self) -> None:
        """Read what the user keeps again."""

    def names(self) -> list[str]:
        """What each card is called."""

    def about(self, number: int) -> str:
        """What a card is found by, in small letters."""

    def is_own(self, number: int) -> bool:
        """Whether a card is of the user's own making."""

    def family(self, number: int) -> str:
        """The group that a card is shown in; nothing for those before all groups."""

    def removing(self) -> tuple[str, ClipEdit] | None:
        """The step that takes off what a card gave; None where that cannot be."""

    def usable(self, clip: Clip | None) -> bool:
        """Whether a clip can take one on."""

    def chosen(self, clip: Clip | None) -> int | None:
        """The card that a clip has taken on."""

    def trying(self, number: int) -> ClipEdit:
        """The edit that shows a card on a clip."""

    def taking(self, number: int) -> tuple[str, ClipEdit]:
        """The step that gives clips a card, and what it is called."""

    def stacking(self, number: int) -> tuple[str, ClipEdit] | None:
        """The step that puts a card on top of what clips have; None where that cannot be."""

    def drawn(self, clip: TextClip, rate: Rate) -> tuple[Project, list[Card]]:
        """The project whose frames are the cards, with a clip's own words."""


class MoveDeck:
    """None, the ready moves of a role (entrances, loops or exits), and the user's own."""

    note = ""

    def __init__(self, role: Role, shelf: MoveShelf) -> None:
        self.role, self.said, self.shelf = role, role, shelf
        self.title = role.capitalize()
        self.article = f"{ROLES[role].article} {role}"
        self.hint = "Select a layer to give it an entrance, a loop or an exit."
        self._ready: list[Move | None] = [None, *ready_moves(role)]
        self._moves = self._ready
        self._own: list[Shelved[SavedMove]] = []

    def read(self) -> None:
        """Read the user's own moves again."""
        self._own = self.shelf.of_role(self.role)
        named = [replace(item.saved.move, name=item.saved.name) for item in self._own]
        self._moves = [*self._ready, *named]

    def item(self, number: int) -> Shelved[SavedMove] | None:
        """The file of a card, where it is the user's own."""
        own = number - len(self._ready)
        return self._own[own] if own >= 0 else None

    def saved(self, number: int) -> SavedMove | None:
        """What a card stands for, as it is kept."""
        item, move = self.item(number), self._moves[number]
        if item is not None:
            return item.saved
        return None if move is None else SavedMove(move.name, move)

    def worn(self, clip: Clip | None, name: str, frame: float) -> SavedMove | None:
        """The move that a layer has, to be kept under a name."""
        move = move_of(clip, self.role)
        if move is None:
            return None
        # Files belong to this project; a move that is kept goes to others.
        return SavedMove(name or move.name or self.title, without_files(replace(move, name=name)))

    def names(self) -> list[str]:
        return [move.name if move else "None" for move in self._moves]

    def move_named(self, name: str) -> Move | None:
        """The move of a card by its name."""
        return next((move for move in self._moves if move is not None and move.name == name), None)

    def is_own(self, number: int) -> bool:
        return self.item(number) is not None

    def family(self, number: int) -> str:
        move = self._moves[number]
        return "" if move is None else OWN if self.is_own(number) else family_of(move)

    def removing(self) -> tuple[str, ClipEdit] | None:
        return f"Take the {self.role} off", lambda project, clip: apply_move(project, clip, self.role, None)

    def about(self, number: int) -> str:
        move = self._moves[number]
        if move is None:
            return "none"
        channels = " ".join(departure.channel.replace("_", " ") for departure in move.channels)
        return f"{move.name} {move.pieces} {move.order.replace('-', ' ')} {channels}".lower()

    def usable(self, clip: Clip | None) -> bool:
        return is_layer(clip)

    def chosen(self, clip: Clip | None) -> int | None:
        move = move_of(clip, self.role)
        name = move.name if move else ("None" if self.usable(clip) else "")
        return self.names().index(name) if name in self.names() else None

    def trying(self, number: int) -> ClipEdit:
        return lambda project, clip: apply_move(project, clip, self.role, self._moves[number])

    def taking(self, number: int) -> tuple[str, ClipEdit]:
        move = self._moves[number]

        def edit(project: Project, clip: str) -> Project:
            given = None if move is None else replace(move, id=new_id())
            return apply_move(project, clip, self.role, given)

        return f"Apply {move.name if move else f'no {self.role}'}", edit

    def stacking(self, number: int) -> tuple[str, ClipEdit] | None:
        move = self._moves[number]
        if move is None:
            return None
        return f"Stack {move.name}", lambda p, clip: stack_move(p, clip, replace(move, id=new_id()))

    def drawn(self, clip: TextClip, rate: Rate) -> tuple[Project, list[Card]]:
        return card_project(clip, self._moves, rate)


class LookDeck:
    """The looks that come with Rovix and the user's own."""

    title = "Look"
    hint = "Select words to give them a look."
    said = "look"
    article = "words"
    note = "Px in a look go with the words' size."

    def __init__(self, shelf: LookShelf) -> None:
        self.shelf = shelf
        self.looks: list[Shelved[SavedLook]] = []

    def read(self) -> None:
        """Read the looks again."""
        self.looks = self.shelf.all()

    def item(self, number: int) -> Shelved[SavedLook]:
        """The file of a card."""
        return self.looks[number]

    def saved(self, number: int) -> SavedLook:
        """What a card stands for, as it is kept."""
        return self.looks[number].saved

    def worn(self, clip: Clip | None, name: str, frame: float) -> SavedLook | None:
        """The look that words have at a frame of theirs, to be kept under a name."""
        if not has_words(clip):
            return None
        return SavedLook(name or clip.title, clip.text.size, at_frame(clip.look, frame))

    def names(self) -> list[str]:
        return [look.saved.name for look in self.looks]

    def is_own(self, number: int) -> bool:
        return self.looks[number].own

    def family(self, number: int) -> str:
        return OWN if self.is_own(number) else "Ready looks"

    def removing(self) -> tuple[str, ClipEdit] | None:
        return None

    def about(self, number: int) -> str:
        return self.looks[number].saved.name.lower()

    def usable(self, clip: Clip | None) -> bool:
        return has_words(clip)

    def chosen(self, clip: Clip | None) -> int | None:
        if not has_words(clip):
            return None
        worn = _without_ids(at_frame(clip.look, 0.0))
        for number, look in enumerate(self.looks):
            if _without_ids(scaled_look(look.saved.look, clip.text.size / look.saved.size)) == worn:
                return number
        return None

    def trying(self, number: int) -> ClipEdit:
        saved = self.looks[number].saved
        return lambda project, clip: set_look(project, clip, saved.look, saved.size)

    def taking(self, number: int) -> tuple[str, ClipEdit]:
        return f"Apply {self.looks[number].saved.name}", self.trying(number)

    def stacking(self, number: int) -> tuple[str, ClipEdit] | None:
        return None

    def drawn(self, clip: TextClip, rate: Rate) -> tuple[Project, list[Card]]:
        looks = [(look.saved.look, look.saved.size) for look in self.looks]
        return look_project(clip, looks, rate)


class EffectDeck:
    """A new effect of each kind, and those that the user keeps."""

    title = "Effect"
    hint = "Select a layer to give it an effect."
    said = "effect"
    article = "an effect"
    note = ""

    def __init__(self, shelf: EffectShelf) -> None:
        self.shelf = shelf
        self._ready = [
            SavedEffects(kind.facts.name, _chain(new_effect(tag))) for tag, kind in EFFECTS.items()
        ]
        self._own: list[Shelved[SavedEffects]] = []

    def read(self) -> None:
        """Read the user's own effects again."""
        self._own = self.shelf.all()

    def item(self, number: int) -> Shelved[SavedEffects] | None:
        """The file of a card, where it is the user's own."""
        own = number - len(self._ready)
        return self._own[own] if own >= 0 else None

    def saved(self, number: int) -> SavedEffects:
        """What a card stands for, as it is kept."""
        item = self.item(number)
        return self._ready[number] if item is None else item.saved

    def worn(self, clip: Clip | None, name: str, frame: float) -> SavedEffects | None:
        """The effects that a layer has, with their keys, to be kept under a name."""
        effects = loose_effects(clip.effects) if is_layer(clip) else ()
        return SavedEffects(name or effects[0].facts.name, _chain(*effects)) if effects else None

    def names(self) -> list[str]:
        return [saved.name for saved in (*self._ready, *(item.saved for item in self._own))]

    def is_own(self, number: int) -> bool:
        return self.item(number) is not None

    def family(self, number: int) -> str:
        return OWN if self.is_own(number) else "Ready effects"

    def removing(self) -> tuple[str, ClipEdit] | None:
        return None

    def about(self, number: int) -> str:
        saved = self.saved(number)
        return " ".join([saved.name, *(effect.facts.name for effect in saved.chain.effects)]).lower()

    def usable(self, clip: Clip | None) -> bool:
        return is_layer(clip)

    def chosen(self, clip: Clip | None) -> int | None:
        return None

    def trying(self, number: int) -> ClipEdit:
        effects = self.saved(number).chain.effects
        return lambda project, clip: add_effects(project, clip, effects)

    def taking(self, number: int) -> tuple[str, ClipEdit]:
        return f"Add {self.saved(number).name}", self.trying(number)

    def stacking(self, number: int) -> tuple[str, ClipEdit] | None:
        return None

    def drawn(self, clip: TextClip, rate: Rate) -> tuple[Project, list[Card]]:
        chains = [self.saved(number).chain.effects for number in range(len(self.names()))]
        return effect_project(clip, chains, rate)


def _chain(*effects: Effect) -> EffectChain:
    return EffectChain(effects=effects)


def _without_ids(look: Look) -> Look:
    return replace(look, parts=tuple(replace(part, id="-") for part in look.parts))
