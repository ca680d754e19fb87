"""Words: editing them, and their moves."""

from __future__ import annotations

from typing import TYPE_CHECKING

from rovix.desktop.commands.command import Command, on_leader, words
from rovix.edit import move_of, take_on
from rovix.motion.ready_moves import reversed_move

if TYPE_CHECKING:
    from rovix.desktop.window import Window


def _reverse_entrance(window: Window) -> None:
    entrance = move_of(window.document.clip, "entrance")
    if entrance is not None:
        leaving = reversed_move(entrance)
        on_leader("Entrance, reversed, for the exit of", lambda p, i: take_on(p, i, "exit", leaving))(window)


WORDS = (
    Command("edit-words", "Edit the words in the picture", "Words", "F2", lambda w: w.viewer.edit_words(), words),
    Command("reverse-entrance", "Entrance, reversed, for the exit", "Words", "", _reverse_entrance,
            lambda w: move_of(w.document.clip, "entrance") is not None),
)  # fmt: skip
