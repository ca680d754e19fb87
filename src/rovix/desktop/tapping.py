"""Tapping a rhythm in while the layer plays: one press of Space for each piece."""

from __future__ import annotations

from time import perf_counter

from PySide6.QtCore import QEvent, QObject, Qt, Signal
from PySide6.QtGui import QKeyEvent

from rovix.desktop.document import Document
from rovix.desktop.projector import Projector
from rovix.desktop.qt import application
from rovix.edit import change_move, clip_by_id, move_of
from rovix.edit.pacing import set_starts
from rovix.edit.text_clips import Kind, split_text
from rovix.edit.tree import replace
from rovix.model import Clip, Project, Typing
from rovix.model.clip_kinds import has_words, is_layer
from rovix.motion import Scene
from rovix.motion.pace import last_rank
from rovix.text import lay_out, pieces_of


class Tapper(QObject):
    """Listens for taps from the start of the selected layer on; Escape, the last piece or the end stop it."""

    told = Signal(str)

    def __init__(self, document: Document, projector: Projector) -> None:
        super().__init__(document)
        self._document, self._projector = document, projector
        self._taps: list[float] = []
        self._frames: list[int] = []
        self._clip, self._which, self._wanted = "", "", 0
        self._splits: Kind | None = None
        self.now = perf_counter
        projector.play_changed.connect(self._play_changed)

    @property
    def listening(self) -> bool:
        """Whether taps count."""
        return self._wanted > 0

    def begin(self, which: str) -> None:
        """Play the selected layer from its first frame and count taps for a move of it."""
        clip = self._document.clip
        move = move_of(clip, which)
        if clip is None or move is None or not is_layer(clip):
            return
        motion = Scene.of(self._document.project).motion(clip)
        self._which, self._splits = move.id, None
        self._listen(clip, last_rank(move, motion.subject) + 1)

    def begin_split(self, kind: Kind) -> None:
        """Play the selected words and count a tap for each piece that they are then split into."""
        clip = self._document.clip
        if not has_words(clip):
            return
        wanted = sum(bool(text.strip()) for text in pieces_of(lay_out(clip.text), kind).texts)
        if wanted < 2:
            self._document.problem.emit(f"'{clip.title}' has no two {kind} to split.")
            return
        self._splits = kind
        self._listen(clip, wanted)

    def _listen(self, clip: Clip, wanted: int) -> None:
        self._projector.stop()
        self._clip, self._taps, self._frames = clip.id, [], []
        self._wanted = wanted
        self._document.seek(clip.start)
        application().installEventFilter(self)
        self._projector.play(clip.span)
        self.told.emit(f"Tap Space for each of {self._wanted} pieces; Escape stops.")

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        kind = event.type()
        if not self.listening or kind not in (QEvent.Type.KeyPress, QEvent.Type.ShortcutOverride):
            return False
        assert isinstance(event, QKeyEvent)
        if event.key() not in (Qt.Key.Key_Space, Qt.Key.Key_Escape):
            return False
        event.accept()
        if kind == QEvent.Type.KeyPress and not event.isAutoRepeat():
            self._pressed(event.key() == Qt.Key.Key_Space)
        return True

    def _pressed(self, tapped: bool) -> None:
        if tapped:
            self._taps.append(self.now())
            self._frames.append(self._document.playhead)
            self.told.emit(f"{len(self._taps)} of {self._wanted} tapped; Escape stops.")
        if not tapped or len(self._taps) >= self._wanted:
            self._projector.stop()

    def _play_changed(self, playing: bool) -> None:
        if not playing and self.listening:
            self._finish()

    def _finish(self) -> None:
        application().removeEventFilter(self)
        self._wanted = 0
        if len(self._taps) < 2:
            self.told.emit("Nothing was tapped in: press Space at least twice while it plays.")
            return
        clip = clip_by_id(self._document.project, self._clip)
        if self._splits is not None and clip is not None:
            self._split(self._splits)
            return
        move = move_of(clip, self._which)
        if clip is None or move is None:
            return
        if move.typing is None:
            self._set_starts(clip.start)
        else:
            self._set_rhythm(move.typing)

    def _split(self, kind: Kind) -> None:
        """Each layer starts on the frame that was on screen when it was tapped."""
        frames, identity, made = tuple(self._frames), self._clip, list[str]()

        def edit(project: Project) -> Project:
            project, made[:] = split_text(project, identity, kind, frames)
            return project

        if self._document.do(f"Split into {kind}, tapped in", edit):
            self._document.select(*made)
            self.told.emit(f"{len(made)} {kind} tapped in.")

    def _set_starts(self, start: int) -> None:
        """Each piece sets off on the frame that was on screen when it was tapped."""
        rate, identity, which = self._document.rate, self._clip, self._which
        seconds = tuple(float(rate.seconds(max(0, frame - start))) for frame in self._frames)
        self._document.do("Tap the pieces in", lambda p: set_starts(p, identity, which, seconds))
        self.told.emit(f"{len(seconds)} pieces tapped in.")

    def _set_rhythm(self, own: Typing) -> None:
        """The gaps between taps, from the first of them on."""
        first = self._taps[0]
        taps = tuple(round(tap - first, 4) for tap in self._taps)
        typing = replace(own, rhythm="tapped", taps=taps)
        identity, which = self._clip, self._which
        self._document.do(
            "Tap the rhythm in",
            lambda project: change_move(project, identity, which, typing=typing, length=taps[-1]),
        )
        self.told.emit(f"{len(taps)} taps over {taps[-1]:.2f} s.")
