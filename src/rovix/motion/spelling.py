"""Which letters a layer shows while its moves swap them, and which figures while they count."""

from __future__ import annotations

from functools import lru_cache
from string import ascii_lowercase, ascii_uppercase, digits

import numpy as np

from rovix.model.clip_kinds import has_words
from rovix.motion.figures import numbers_in
from rovix.motion.layer import LayerState
from rovix.text import Layout
from rovix.text.casing import cased
from rovix.text.line import CURSIVE
from rovix.text.runs import script_of
from rovix.text.stand_ins import with_stand_ins


def spelled(state: LayerState, moment: int = 0) -> Layout | None:
    """The layout with what it shows at one of a state's moments; its own where nothing is swapped."""
    layout, shown = state.subject.layout, stand_ins(state, moment)
    if layout is None or not shown or not has_words(state.content):
        return layout
    words = state.content.text
    if words.case in ("upper", "lower"):
        shown = {at: cased(said, words.case)[0] for at, said in shown.items()}
    return with_stand_ins(layout, shown, words.fixed_figures)


def stand_ins(state: LayerState, moment: int = 0) -> dict[int, str]:
    """What is shown in place of single characters of the text, by their number in it."""
    if state.subject.layout is None:
        return {}
    text = state.subject.layout.text
    return _counted(state, moment, text) | _swapped(state, moment, text)


def _swapped(state: LayerState, moment: int, text: str) -> dict[int, str]:
    drawn = state.pieces["letters"][moment]
    found = {}
    for piece in np.flatnonzero(drawn > 0).tolist():
        start = int(state.subject.starts[piece])
        pool = _pools(text).get(text[start : start + 1], "")
        # A letter with marks of its own, or one that joins its neighbours, keeps its shape.
        if pool and len(state.subject.texts[piece].rstrip()) == 1:
            found[start] = pool[int(drawn[piece]) % len(pool)]
    return found


@lru_cache(maxsize=256)
def _pools(text: str) -> dict[str, str]:
    """What each letter of a text may be swapped for: the alphabet or figures, else its like in the text."""
    letters = sorted({c for c in text if c.isalnum() and script_of(c) not in CURSIVE})
    pools = {}
    for letter in letters:
        known = next((pool for pool in (ascii_uppercase, ascii_lowercase, digits) if letter in pool), "")
        kind = script_of(letter), letter.isupper()
        like = "".join(other for other in letters if (script_of(other), other.isupper()) == kind)
        pools[letter] = (known or like).replace(letter, "")
    return pools


def _counted(state: LayerState, moment: int, text: str) -> dict[int, str]:
    counts = state.pieces["figures"][moment]
    if not counts.any():
        return {}
    found: dict[int, str] = {}
    for number in numbers_in(text):
        piece = int(np.searchsorted(state.subject.starts, number.end - 1, side="right")) - 1
        if counts[piece]:
            written = number.written(float(number.value) + float(counts[piece]))
            found |= _in_places(written, number.start, number.end)
    return found


def _in_places(written: str, start: int, end: int) -> dict[int, str]:
    """A number's characters in places of another: the last in the last; what is too long goes left."""
    room = end - start
    found = {start + at: "" for at in range(max(0, room - len(written)))}
    first = max(0, len(written) - room)
    for at, character in enumerate(written[first:]):
        found[end - (len(written) - first) + at] = character
    if first:
        found[start] = written[: first + 1]
    return found
