"""The project in the window: its history, file, selection and playhead."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path

from PySide6.QtCore import QObject, Signal

from rovix.desktop.key_selection import InnerKeySelection, KeySelection
from rovix.edit import History, clip_by_id
from rovix.edit.each import ClipEdit, Left, edited_each
from rovix.edit.levels import Level, focused, in_context, open_level, sequence_at, unfocused
from rovix.edit.media_paths import with_base, with_paths
from rovix.edit.moves import move_of
from rovix.edit.ties import freed
from rovix.edit.tracks import track_of_clip
from rovix.edit.tree import replace, with_clip
from rovix.engine.matte_files import carried_mattes
from rovix.engine.project_fonts import carry_fonts
from rovix.errors import RovixError
from rovix.formats import write_project
from rovix.model import Clip, Move, Project
from rovix.model.clip_kinds import holds_tracks
from rovix.text.catalogue import use_project_fonts
from rovix.time import Rate, Span

Edit = Callable[[Project], Project]


class Document(QObject):
    """Views read it and look again when it signals; commands change it by edits.

    :attr:`project` is what is open: its first sequence is the open sequence, or the open group in it.
    """

    project_changed = Signal()
    selection_changed = Signal()
    playhead_moved = Signal(int)
    range_changed = Signal()
    level_changed = Signal()
    letters_changed = Signal()
    tuned_changed = Signal()
    file_changed = Signal()
    opened = Signal()
    problem = Signal(str)
    told = Signal(str)
    """What else a step did: several lines, the last one first."""

    def __init__(self, project: Project, base: Path, path: Path | None = None) -> None:
        super().__init__()
        self.playing = False
        self._tuned = "entrance"
        self.suspended: str | None = None
        """The layer whose moves the picture leaves out, while its words are edited there."""
        self.keys = KeySelection(self)
        self.inner = InnerKeySelection(self)
        # Keys of clips and of moves are worked on apart: the last ones chosen are meant.
        self.keys.changed.connect(lambda: self.inner.clear() if self.keys else None)
        self.inner.changed.connect(lambda: self.keys.clear() if self.inner else None)
        self.typing = False
        """Whether the draft is words being typed: work that must not be lost, unlike a try-on."""
        self._without: tuple[Project, Project] | None = None
        self._context: tuple[Project, Project] | None = None
        self._adopt(project, base, path)

    def _adopt(self, project: Project, base: Path, path: Path | None) -> None:
        self.history = History(project)
        self.typing = False
        self.base, self.path = base, path
        use_project_fonts(base)
        self.selection: tuple[str, ...] = ()
        self.letters: tuple[int, int] | None = None
        """The letters of the selected layer that are selected themselves, from and to (not included)."""
        self.playhead = 0
        self.range: Span | None = None
        self.level = Level(project.sequence.id)
        self._views: list[tuple[Project, Level, Project]] = []
        self._left: dict[Level, tuple[int, Span | None]] = {}
        self.instead: Callable[[Project], Project] | None = None
        self._made: tuple[Project, Project] | None = None

    def show(self, project: Project, base: Path, path: Path | None) -> None:
        """Show another project, with a history of its own."""
        self._adopt(project, base, path)
        for signal in (self.project_changed, self.selection_changed, self.range_changed, self.file_changed):
            signal.emit()
        self.level_changed.emit()
        self.playhead_moved.emit(0)
        self.opened.emit()

    @property
    def project(self) -> Project:
        """What is shown, a draft if there is one."""
        return self._view(self.history.project)

    @property
    def committed(self) -> Project:
        """The last step, whatever is being tried."""
        return self._view(self.history.committed)

    @property
    def delivered(self) -> Project:
        """The last step with the open sequence first, whole, even while a group in it is open."""
        return focused(self.history.committed, Level(self.level.sequence))

    @property
    def is_locked(self) -> bool:
        """Whether the selected clip's track is locked."""
        track = track_of_clip(self.project, self.selected)
        return track is not None and track.locked

    @property
    def whole(self) -> Project:
        """The project with all its sequences in their own order, whatever is open."""
        return self.history.project

    def _view(self, whole: Project) -> Project:
        """What is open of a project; the same struct for the same one, as caches go by identity."""
        for seen, level, view in self._views:
            if seen is whole and level == self.level:
                return view
        view = focused(whole, open_level(whole, self.level))
        self._views = [*self._views[-3:], (whole, self.level, view)]
        return view

    @property
    def picture_project(self) -> Project:
        """What the picture is drawn from: an open group among what surrounds it, and the suspended
        layer's moves left out."""
        if self.instead is not None:
            if self._made is None or self._made[0] is not self.project:
                self._made = (self.project, self.instead(self.project))
            return self._made[1]
        project, identity = self._surrounded(), self.suspended
        if identity is None or clip_by_id(project, identity) is None:
            return project
        if self._without is None or self._without[0] is not project:
            still = with_clip(project, identity, lambda clip: replace(clip, moves=()))
            self._without = (project, still)
        return self._without[1]

    def show_instead(self, make: Callable[[Project], Project] | None) -> None:
        """Draw the picture from what `make` gives for the project that is open; None draws that."""
        self.instead, self._made = make, None
        self.project_changed.emit()

    def _surrounded(self) -> Project:
        view = self.project
        if not self.level.groups:
            return view
        if self._context is None or self._context[0] is not view:
            whole = self.whole
            self._context = (view, in_context(whole, open_level(whole, self.level)))
        return self._context[1]

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
        return self.frame_of(self.clip)

    def frame_of(self, clip: Clip | None) -> int:
        """The playhead as a frame of a clip, kept inside it."""
        return 0 if clip is None else min(max(0, self.playhead - clip.start), clip.length - 1)

    def do(self, title: str, edit: Edit) -> bool:
        """Make one step of an edit; False when it changed nothing or was refused with a message."""
        self.keep_typed()
        before = self.project
        done = self._step(title, self._edited(edit))
        ties = freed(before, self.project) if done and before.sequence.id == self.project.sequence.id else []
        if ties:
            self.told.emit("\n".join([*ties[1:], ties[0]]))
        return done

    def do_each(self, title: str, identities: Sequence[str], edit: ClipEdit) -> bool:
        """One step of an edit of several clips; those that cannot take part stay, and are named."""
        left = Left()
        said = title if len(identities) < 2 else f"{title}, {len(identities)} clips"
        done = bool(identities) and self.do(said, lambda p: edited_each(p, identities, edit, left))
        if done and left.names:
            self.told.emit(left.said())
        return done

    def try_each(self, identities: Sequence[str], edit: ClipEdit) -> None:
        """Show the last step with several clips edited, as a draft."""
        if identities:
            self.try_on(lambda project: edited_each(project, identities, edit, Left()))

    def do_whole(self, title: str, edit: Edit) -> bool:
        """Like :meth:`do`, for an edit of the whole project, whatever is open of it."""
        self.keep_typed()
        return self._step(title, self._tried(edit, self.history.committed))

    def _step(self, title: str, project: Project | None) -> bool:
        if project is None:
            return False
        try:
            changed = self.history.do(title, project)
        except RovixError as wrong:
            self.problem.emit(str(wrong))
            changed = False
        self._after_change()
        return changed

    def try_on(self, edit: Edit) -> None:
        """Show the last step edited, as a draft."""
        self.keep_typed()
        self._show_draft(edit)

    def type_words(self, edit: Edit) -> None:
        """Show words that are being typed: a draft that must not be lost."""
        self.typing = True
        self._show_draft(edit)

    def keep_typed(self) -> None:
        """Make words that are being typed a step; other drafts stay drafts."""
        if self.typing:
            self.keep("Change the words")

    def _show_draft(self, edit: Edit) -> None:
        project = self._edited(edit)
        if project is None:
            return
        try:
            self.history.try_on(project)
        except RovixError as wrong:
            self.problem.emit(str(wrong))
            return
        self.project_changed.emit()

    def keep(self, title: str) -> None:
        """Make the draft a step."""
        self.typing = False
        try:
            self.history.keep(title)
        except RovixError as wrong:
            self.history.drop()
            self.problem.emit(str(wrong))
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

    @property
    def selected(self) -> str | None:
        """The clip selected last, which the sheet shows."""
        return self.selection[-1] if self.selection else None

    def select(self, *identities: str | None) -> None:
        """Select these clips and no others; the last leads."""
        chosen = tuple(dict.fromkeys(identity for identity in identities if identity is not None))
        if chosen != self.selection:
            tuned = move_of(self.clip, self._tuned)
            self._tuned = tuned.role if tuned else self._tuned
            self.selection = chosen
            self.select_letters(None)
            self.keys.clear()
            self.inner.clear()
            self.selection_changed.emit()

    def select_letters(self, letters: tuple[int, int] | None) -> None:
        """Say which letters of the selected layer are selected; none when they are no stretch."""
        letters = None if letters is None or letters[0] >= letters[1] else letters
        if letters != self.letters:
            self.letters = letters
            self.letters_changed.emit()

    @property
    def tuned(self) -> Move | None:
        """The selected layer's move that is tuned."""
        return self.tuned_in(self.clip)

    def tuned_in(self, clip: Clip | None) -> Move | None:
        """A clip's move that is tuned: the one chosen, or one of the role chosen last, or any."""
        moves = getattr(clip, "moves", ())
        return move_of(clip, self._tuned) or (moves[0] if moves else None)

    def tune(self, which: str) -> None:
        """Choose a move of the selected layer by its id, or by a role."""
        if which != self._tuned:
            self._tuned = which
            self.tuned_changed.emit()

    def select_also(self, identity: str) -> None:
        """Add a clip to the selection, or take it out again."""
        if identity in self.selection:
            self.select(*(other for other in self.selection if other != identity))
        else:
            self.select(*self.selection, identity)

    # Groups and sequences

    @property
    def trail(self) -> list[tuple[Level, str]]:
        """What is open, from the sequence in: each with its name."""
        levels = [
            Level(self.level.sequence, self.level.groups[:n]) for n in range(len(self.level.groups) + 1)
        ]
        found = [(level, sequence_at(self.whole, level)) for level in levels]
        return [(level, sequence.name) for level, sequence in found if sequence is not None]

    def open_group(self, identity: str) -> None:
        """Open a group's tracks in place of those it stands on."""
        group = clip_by_id(self.project, identity)
        assert holds_tracks(group)
        inside = min(max(0, self.playhead - group.start), group.length - 1)
        self.open_level(Level(self.level.sequence, (*self.level.groups, identity)), inside)

    def open_level(self, level: Level, playhead: int | None = None) -> None:
        """Show a sequence or a group; where one was left, its playhead and range are again."""
        if level == self.level:
            return
        self._left[self.level] = (self.playhead, self.range)
        left_at, span = self._left.get(level, (0, None))
        outer = level == self.level.outer and self.level.groups
        self.selection = (self.level.groups[-1],) if outer else ()
        self.level, self.range = open_level(self.whole, level), span
        self.playhead = min(left_at if playhead is None else playhead, self.length - 1)
        for signal in (self.level_changed, self.project_changed, self.selection_changed, self.range_changed):
            signal.emit()
        self.playhead_moved.emit(self.playhead)

    def refresh_media(self) -> None:
        """A file is there again: what was drawn without it is drawn anew, without a step."""
        is_saved = not self.history.is_changed
        # Equal, but not the same: pictures are kept by identity.
        self.history.change_all(lambda step: replace(step, media=tuple(map(replace, step.media))))
        if is_saved:
            self.history.mark_saved(self.history.committed)
        self.project_changed.emit()

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
            carry_fonts(project, self.base, path.parent)
            moved = carried_mattes(self.history.committed, self.base, path.parent)
            project = with_paths(project, moved)
            write_project(path, project)
        except RovixError as wrong:
            self.problem.emit(str(wrong))
            return False
        if project is not self.history.committed:
            # Every step counts its files from the new folder; undone, they are still found.
            old = self.base
            self.history.change_all(lambda step: with_paths(with_base(step, old, path.parent), moved))
        self.base, self.path = path.parent, path
        use_project_fonts(self.base)
        self.history.mark_saved(self.history.committed)
        self.file_changed.emit()
        self.project_changed.emit()
        return True

    def _edited(self, edit: Edit) -> Project | None:
        level, whole = self.level, self.history.committed
        view = self._tried(edit, self.committed)
        return None if view is None else unfocused(whole, level, view)

    def _tried(self, edit: Edit, project: Project) -> Project | None:
        try:
            return edit(project)
        except RovixError as wrong:
            self.problem.emit(str(wrong))
            return None

    def _after_change(self) -> None:
        level = open_level(self.whole, self.level)
        if level != self.level:
            self.open_level(level)
        project = self.project
        self.select(*(identity for identity in self.selection if clip_by_id(project, identity) is not None))
        self.keys.keep_known(self.project)
        self.inner.keep_known(self.project)
        self.project_changed.emit()
        self.file_changed.emit()
        self.seek(self.playhead)
