"""One edit done to each of several clips: those that can take part do, the others are named."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, field

from rovix.edit.tree import clip_by_id, title_of
from rovix.errors import RovixError
from rovix.model import Project

ClipEdit = Callable[[Project, str], Project]
"""An edit of the clip with an id."""


@dataclass
class Left:
    """The clips that stayed as they were, by what they are called, with the reason of the first."""

    names: list[str] = field(default_factory=list)
    reason: str = ""

    def said(self) -> str:
        """In lines, the last one the sentence; nothing where none stayed."""
        if not self.names:
            return ""
        shown = ", ".join(self.names[:4]) + (f" and {len(self.names) - 4} more" * (len(self.names) > 4))
        return f"{self.reason}\nLeft as it was: {shown}."


def edited_each(project: Project, identities: Iterable[str], edit: ClipEdit, left: Left) -> Project:
    """The project with an edit done to each clip, and those that refused it noted in `left`.

    RovixError, as the first of them said, when all refuse.
    """
    left.names, left.reason = [], ""
    done = 0
    for identity in identities:
        try:
            project = edit(project, identity)
            done += 1
        except RovixError as wrong:
            clip = clip_by_id(project, identity)
            left.names.append(identity if clip is None else title_of(clip))
            left.reason = left.reason or str(wrong)
    if left.names and not done:
        raise RovixError(left.reason)
    return project
