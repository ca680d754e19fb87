"""Words in capitals, small letters or with capitals at their start, and where each letter came from."""

from __future__ import annotations

from rovix.text.segments import starts, words


def cased(text: str, case: str) -> tuple[str, list[int]]:
    """The text in a case (as-typed, upper, lower, title), and for each character of it the index of
    the character that it came from. A letter may become two, as ß does.

    >>> cased("Maß", "upper")
    ('MASS', [0, 1, 2, 2])
    """
    if case == "as-typed":
        return text, list(range(len(text)))
    if case == "lower":
        whole = text.lower()
        # The Greek final sigma depends on its neighbours, so the text goes through whole if it can.
        if len(whole) == len(text):
            return whole, list(range(len(text)))
    heads = set(starts(words(text))) if case == "title" else set()
    changed = [_changed(character, case, at in heads) for at, character in enumerate(text)]
    return "".join(changed), [at for at, part in enumerate(changed) for _ in part]


def _changed(character: str, case: str, head: bool) -> str:
    if case == "title":
        return character.title() if head else character
    return character.upper() if case == "upper" else character.lower()
