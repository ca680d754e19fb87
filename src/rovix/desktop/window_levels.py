"""Groups and sequences: going in and out, making and showing them."""

from __future__ import annotations

from PySide6.QtCore import Qt

from rovix.desktop.dialogs.sequence_settings import SequenceSettings
from rovix.desktop.dialogs.sequences import Sequences
from rovix.desktop.frame import Frame
from rovix.edit.levels import Level
from rovix.edit.sequences import add_sequence, put_in_sequence
from rovix.model import Project, Sequence, SequenceClip
from rovix.model.clip_kinds import holds_tracks


class WindowLevels(Frame):
    """Opens and adds groups and sequences."""

    def open_selected(self) -> None:
        """Open the selected group, or the sequence that the selected layer shows."""
        clip = self.document.clip
        self.finish_typing()
        if holds_tracks(clip):
            self.document.open_group(clip.id)
        elif isinstance(clip, SequenceClip):
            self.document.open_level(Level(clip.sequence))

    def close_group(self) -> None:
        """Go back out of the open group."""
        if self.document.level.groups:
            self.finish_typing()
            self.document.open_level(self.document.level.outer)

    def open_sequence_settings(self) -> None:
        """Ask for the open sequence's size, rate and ground."""
        self.finish_typing()
        dialog = SequenceSettings(self.document.committed.sequence, "Sequence", "Change", self)
        if dialog.exec():
            self.document.do("Change the sequence", dialog.edited)
        dialog.deleteLater()

    def new_sequence(self) -> None:
        """Ask for a sequence, add and open it."""
        self.finish_typing()
        here = self.document.committed.sequence
        count = len(self.document.whole.sequences) + 1
        fresh = Sequence(name=f"Sequence {count}", size=here.size, rate=here.rate, background=here.background)
        dialog = SequenceSettings(fresh, "New sequence", "Create", self)
        if dialog.exec():
            made = dialog.edited(Project(sequences=(fresh,))).sequence
            if self.document.do_whole("Add a sequence", lambda p: add_sequence(p, made)):
                self.document.open_level(Level(made.id))
        dialog.deleteLater()

    def open_sequences(self) -> Sequences:
        """The list of all sequences."""
        self.finish_typing()
        dialog = Sequences(self)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.open()
        return dialog

    def put_in_sequence(self, identity: str | None = None) -> None:
        """Show a sequence in the open one at the playhead; the only other one, or one from the list."""
        document = self.document
        others = [s.id for s in document.whole.sequences if s.id != document.level.sequence]
        if identity is None and len(others) != 1:
            self.open_sequences()
            return
        chosen, made = identity or others[0], list[str]()

        def edit(project: Project) -> Project:
            project, clip = put_in_sequence(project, chosen, document.playhead)
            made.append(clip)
            return project

        if document.do("Insert a sequence", edit):
            document.select(made[-1])
