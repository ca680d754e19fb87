"""The project in the window: its history, file, selection and playhead."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QObject, Signal

from rovix.edit import History, clip_by_id, replace_clip
from rovix.edit.media_paths import with_base
from rovix.edit.tree import replace
from rovix.errors import RovixError
from rovix.formats import write_project
from rovix.model import Clip, Project
from rovix.time import Rate, Span

Edit = Callable[[Project], Project]


class Document(QObject):
    """Views read it and look again when it signals; commands change it by edits."""

    project_changed = Signal()
    selection_changed = Signal()
    playhead_moved = Signal(int)
    range_changed = Signal()
    file_changed = Signal()
    opened = Signal()
    problem = Signal(str)

    def __init__(self, project: Project, base: Path, path: Path | None = None) -> None:
        super().__init__()
        self.playing = False
        self.suspended: str | None = None
        """The layer whose moves the picture leaves out, while its words are edited there."""
        self.typing = False
        """Whether the draft is words being typed: work that must not be lost, unlike a try-on."""
        self._without: tuple[Project, Project] | None = None
        self._adopt(project, base, path)

    def _adopt(self, project: Project, base: Path, path: Path | None) -> None:
        self.history = History(project)
        self.typing = False
        self.base, self.path = base, path
        self.selected: str | None = None
        self.playhead = 0
        self.range: Span | None = None

    def show(self, project: Project, base: Path, path: Path | None) -> None:
        """Show another project, with a history of its own."""
        self._adopt(project, base, path)
        for signal in (self.project_changed, self.selection_changed, self.range_changed, self.file_changed):
            signal.emit()
        self.playhead_moved.emit(0)
        self.opened.emit()

    @property
    def project(self) -> Project:
        """What is shown, a draft if there is one."""
        return self.history.project

    @property
    def picture_project(self) -> Project:
        """What the picture is drawn from: the shown project, with the suspended layer's moves left out."""
        project, identity = self.project, self.suspended
        if identity is None or clip_by_id(project, identity) is None:
            return project
        if self._without is None or self._without[0] is not project:
            still = replace_clip(project, identity, lambda clip: replace(clip, moves=()))
            self._without = (project, still)
        return self._without[1]

    def suspend(self, identity: str | None) -> None:
        """Leave a layer's moves out of the picture; None puts them back."""
        self.suspended, self._without = identity, None
        self.project_changed.emit()

    @property
    def work(self) -> Project:
        """What a crash must not take: the last step, with words that are still being typed."""
        return self.history.project if self.typing else self.history.committed

    @property
    def rate(self) -> Rate:
        return self.project.sequence.frame_rate

    @property
    def length(self) -> int:
        """Frames of the sequence, at least 1 so that there is a place for the playhead."""
        return max(1, self.project.sequence.length)

    @property
    def play_span(self) -> Span:
        """What playing runs over: the in and out range, or everything."""
        return (self.range or Span(0, self.length)).clipped(Span(0, self.length))

    @property
    def name(self) -> str:
        return self.path.stem if self.path else self.project.name

    @property
    def clip(self) -> Clip | None:
        """The selected clip as it is shown."""
        return clip_by_id(self.project, self.selected)

    @property
    def clip_frame(self) -> int:
        """The playhead as a frame of the selected clip, kept inside it."""
        clip = self.clip
        return 0 if clip is None else min(max(0, self.playhead - clip.start), clip.length - 1)

    def do(self, title: str, edit: Edit) -> bool:
        """Make one step of an edit; False when it changed nothing or was refused with a message."""
        project = self._edited(edit)
        if project is None:
            return False
        self.typing = False
        changed = self.history.do(title, project)
        self._after_change()
        return changed

    def try_on(self, edit: Edit) -> None:
        """Show the last step edited, as a draft."""
        project = self._edited(edit)
        if project is not None:
            self.history.try_on(project)
            self.project_changed.emit()

    def keep(self, title: str) -> None:
        """Make the draft a step."""
        self.typing = False
        self.history.keep(title)
        self._after_change()

    def drop(self) -> None:
        """Forget the draft."""
        self.typing = False
        if self.history.drop():
            self.project_changed.emit()

    def undo(self) -> None:
        self.history.undo()
        self._after_change()

    def redo(self) -> None:
        self.history.redo()
        self._after_change()

    def select(self, identity: str | None) -> None:
        if identity != self.selected:
            self.selected = identity
            self.selection_changed.emit()

    def seek(self, frame: int) -> None:
        """Put the playhead on a frame, kept inside the sequence."""
        frame = min(max(0, frame), self.length - 1)
        if frame != self.playhead:
            self.playhead = frame
            self.playhead_moved.emit(frame)

    def set_range(self, span: Span | None) -> None:
        self.range = span if span is not None and span.length else None
        self.range_changed.emit()

    def save(self, path: Path) -> bool:
        """Save to a path, which becomes the project's own; False, with a message, when it cannot be."""
        project = with_base(self.history.committed, self.base, path.parent)
        try:
            write_project(path, project)
        except RovixError as wrong:
            self.problem.emit(str(wrong))
            return False
        if project is not self.history.committed:
            self.history.do("Save in another folder", project)
        self.base, self.path = path.parent, path
        self.history.mark_saved(self.history.committed)
        self.file_changed.emit()
        self.project_changed.emit()
        return True

    def _edited(self, edit: Edit) -> Project | None:
        try:
            return edit(self.history.committed)
        except RovixError as wrong:
            self.problem.emit(str(wrong))
            return None

    def _after_change(self) -> None:
        if self.clip is None and self.selected is not None:
            self.select(None)
        self.project_changed.emit()
        self.file_changed.emit()
        self.seek(self.playhead)
