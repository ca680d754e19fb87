"""Credits from plain text: roles and names in columns, heads in the middle, rolling up."""

from __future__ import annotations

from rovix.edit.clips import add_text
from rovix.edit.tree import replace
from rovix.errors import RovixError
from rovix.model import Crossing, Project, TextClip
from rovix.model.limits import MOST_LETTERS

_LINE, _AROUND = 0.55, 4.0
"""Seconds for each line, and for the frame to fill and to clear: our own, for reading at ease."""


def add_credits(project: Project, start: int, content: str, style: TextClip) -> Project:
    """Put credits at a frame, in the style of a layer, rolling up as long as their lines take to be read.

    A tab parts a role from a name; lines without are heads. RovixError for no words, or too many.
    """
    words = "\n".join(line.rstrip() for line in content.splitlines()).strip("\n")
    if not words.strip():
        raise RovixError("There are no words for credits: write a role, a tab and a name on each line.")
    if len(words) > MOST_LETTERS:
        raise RovixError(f"{len(words):,} letters are too many for one layer; at most {MOST_LETTERS:,} go.")
    seconds = _AROUND + _LINE * (words.count("\n") + 1)
    text = replace(style.text, content=words, align="columns", styles=(), wrap=None)
    clip = replace(style, text=text, crossing=Crossing(way="up", whole_px=True), name="Credits")
    return add_text(project, start, project.sequence.frame_rate.length(seconds), clip)
