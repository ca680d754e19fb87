"""Undo and redo over whole projects, and drafts that are not in the history yet."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from rovix.model import Project
from rovix.model.values import keepable, with_sound_values


@dataclass(frozen=True, slots=True)
class Step:
    """A named state: `title` says what led to it."""

    title: str
    project: Project


class History:
    """Keeps old roots; unchanged parts are shared between them.

    While a draft is on, :attr:`project` is the draft; :meth:`keep` makes it one step, :meth:`drop`
    forgets it.
    """

    def __init__(self, project: Project) -> None:
        self._steps = [Step("", project)]
        self._at = 0
        self._draft: Project | None = None
        self._saved: Project | None = project

    @property
    def project(self) -> Project:
        """What is to be shown: the draft, or the last step."""
        return self._draft if self._draft is not None else self._steps[self._at].project

    @property
    def committed(self) -> Project:
        """The last step, whatever is being tried."""
        return self._steps[self._at].project

    @property
    def is_changed(self) -> bool:
        """Whether the last step differs from what was saved."""
        return self.committed is not self._saved

    @property
    def has_draft(self) -> bool:
        return self._draft is not None

    @property
    def undo_title(self) -> str | None:
        """What undo would take back, or None."""
        return self._steps[self._at].title if self._at else None

    @property
    def redo_title(self) -> str | None:
        """What redo would do again, or None."""
        return self._steps[self._at + 1].title if self._at + 1 < len(self._steps) else None

    def do(self, title: str, project: Project) -> bool:
        """Add a step; False, and no step, when nothing changed. Drops a draft.

        RovixError for a project that could not be saved; the last step and the draft stay then.
        """
        project = keepable(project, self.committed)
        self._draft = None
        if project is self.committed or project == self.committed:
            return False
        del self._steps[self._at + 1 :]
        self._steps.append(Step(title, project))
        self._at += 1
        return True

    def try_on(self, project: Project) -> None:
        """Show a project without a step. RovixError for numbers that cannot be drawn."""
        self._draft = with_sound_values(project, self.committed)

    def keep(self, title: str) -> bool:
        """Make the draft a step; False when there is none or it changes nothing."""
        return self._draft is not None and self.do(title, self._draft)

    def drop(self) -> bool:
        """Forget the draft; False when there is none."""
        had, self._draft = self._draft is not None, None
        return had

    def undo(self) -> bool:
        """Go one step back; a draft goes first."""
        if self.drop():
            return True
        if not self._at:
            return False
        self._at -= 1
        return True

    def redo(self) -> bool:
        """Go one step forward again."""
        self.drop()
        if self._at + 1 >= len(self._steps):
            return False
        self._at += 1
        return True

    def change_all(self, change: Callable[[Project], Project]) -> None:
        """Change every state alike, without a step: what is said otherwise of the same work."""
        self._steps = [Step(step.title, change(step.project)) for step in self._steps]
        self._draft = None if self._draft is None else change(self._draft)
        self._saved = None

    def mark_unsaved(self) -> None:
        """Note that no file holds any of it."""
        self._saved = None

    def mark_saved(self, project: Project) -> None:
        """Note that this very project is what the file holds."""
        self._saved = project
