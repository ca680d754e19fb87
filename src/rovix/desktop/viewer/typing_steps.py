"""What was typed, to be taken back word by word."""

from __future__ import annotations

Typed = tuple[str, int]
"""A text and where its caret stood."""


class TypingSteps:
    """Texts before each word that was typed, or before anything else that changed them."""

    def __init__(self) -> None:
        self._done: list[Typed] = []
        self._undone: list[Typed] = []
        self._last = ""
        self._end = -1

    def clear(self) -> None:
        self._done, self._undone, self._last, self._end = [], [], "", -1

    def before(self, text: str, caret: int, typed: str) -> None:
        """Remember a text that is about to change; `typed` is the letter set in at the caret, if any.

        A letter typed behind the last one goes with it, until a new word starts.
        """
        goes_on = len(typed) == 1 and self._last != "" and caret == self._end
        starts_word = self._last.isspace() and not typed.isspace()
        if not goes_on or starts_word:
            self._done.append((text, caret))
        self._undone = []
        self._last, self._end = (typed, caret + 1) if len(typed) == 1 else ("", -1)

    def undo(self, text: str, caret: int) -> Typed | None:
        """The text before the last word, given the one now; None when nothing is left."""
        return self._step(self._done, self._undone, text, caret)

    def redo(self, text: str, caret: int) -> Typed | None:
        """The text that was undone last; None when there is none."""
        return self._step(self._undone, self._done, text, caret)

    def _step(self, source: list[Typed], other: list[Typed], text: str, caret: int) -> Typed | None:
        self._last = ""
        if not source:
            return None
        other.append((text, caret))
        return source.pop()
