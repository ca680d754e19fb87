"""Words: editing them, and their moves."""

from __future__ import annotations

from typing import TYPE_CHECKING

from rovix.desktop import clipboard
from rovix.desktop.commands.command import Command, done, on_leader, words
from rovix.edit import move_of, take_on
from rovix.motion.reversal import reversed_move

if TYPE_CHECKING:
    from rovix.desktop.window import Window


def _reverse_entrance(window: Window) -> None:
    entrance = move_of(window.document.clip, "entrance")
    if entrance is not None:
        leaving = reversed_move(entrance)
        on_leader("Entrance, reversed, for the exit of", lambda p, i: take_on(p, i, "exit", leaving))(window)


def _keep_look(window: Window) -> None:
    window.shelf.open_role("look")
    window.shelf.keeping.keep()


WORDS = (
    Command("edit-words", "Edit the words in the picture", "Words", "F2", lambda w: w.viewer.edit_words(), words),
    Command("pick-font", "Choose the typeface…", "Words", "Ctrl+T", lambda w: done(w.pick_font()), words),
    Command("find-words", "Find and replace…", "Words", "Ctrl+F", lambda w: done(w.find_words())),
    Command("copy-look", "Copy the look", "Words", "Ctrl+Alt+C", lambda w: clipboard.copy_look(w.document), words,
            ruled=True),
    Command("paste-look", "Paste the look", "Words", "Ctrl+Alt+V", lambda w: clipboard.paste_look(w.document), words),
    Command("keep-look", "Keep the look in the shelf…", "Words", "", _keep_look, words),
    Command("show-looks", "Show the looks", "Words", "Ctrl+L", lambda w: w.shelf.open_role("look")),
    Command("reverse-entrance", "Entrance, reversed, for the exit", "Words", "", _reverse_entrance,
            lambda w: move_of(w.document.clip, "entrance") is not None, ruled=True),
)  # fmt: skip
