"""What else people call things: words typed into a search, and the words that stand on screen for them.

They stand in `also_called.txt`, which says how.
"""

from __future__ import annotations

from functools import cache
from pathlib import Path

_FILE = Path(__file__).with_suffix(".txt")


@cache
def also_called() -> dict[str, tuple[str, ...]]:
    """By what people type: the words on screen for it, the likeliest first."""
    meant: dict[str, tuple[str, ...]] = {}
    for line in _whole_lines():
        said, _, words = line.partition(" = ")
        on_screen = tuple(part.strip() for part in said.split(" | "))
        meant |= {word.strip(): on_screen for word in words.split(",")}
    return meant


def _whole_lines() -> list[str]:
    """The lines of the file, each with those that are indented below it."""
    lines: list[str] = []
    for line in _FILE.read_text(encoding="utf-8").splitlines():
        if line.startswith(" ") and lines:
            lines[-1] += " " + line.strip()
        elif line and not line.startswith("#"):
            lines.append(line)
    return lines


def meant_by(typed: str) -> tuple[str, ...]:
    """The words on screen for what was typed, which may be the beginning of a longer word.

    >>> meant_by("subtitle")[0]
    'text'
    """
    known = also_called()
    if typed in known:
        return known[typed]
    if len(typed) < 4:
        return ()
    return tuple(
        dict.fromkeys(word for name, words in known.items() if name.startswith(typed) for word in words)
    )
