"""Checks while one edits: in a process of their own at low priority, when hands rest, never while playing."""

from __future__ import annotations

from PySide6.QtCore import QObject, QSettings, QTimer, Signal

from rovix.check.asked import Asked, Step
from rovix.check.audience import AUDIENCES, USUAL
from rovix.check.finding import KINDS, Finding
from rovix.desktop.document import Document
from rovix.desktop.projector import Projector
from rovix.engine.checker import Checker
from rovix.model import Project

AUDIENCE = "checks/audience"
_LONG, _NEAR = 180.0, 30.0
"""Seconds from which a sequence is long, and of which three parts about the playhead are looked at then."""
_RESTS, _OFTEN = 250, 40  # ms without a step, and from look to look
_LEAVES = 20_000  # ms without anything to check, after which the process is not kept


class LiveChecks(QObject):
    """Follows the document's steps. `findings` is what is known now; what is not looked at yet stays as it
    was found before."""

    changed = Signal()

    def __init__(self, document: Document, projector: Projector, settings: QSettings) -> None:
        super().__init__(document)
        self._document, self._projector, self._settings = document, projector, settings
        self._found: dict[tuple[frozenset[str], str | None], tuple[Finding, ...]] = {}
        self._checker = Checker()
        self._on = False
        self._of: tuple[Project, str, str, int] | None = None
        self._length_of: tuple[Project, str, int] | None = None
        self.share: float | None = None
        """How far it is, None while nothing goes on."""
        self.problem = ""
        """Why it could not look at everything, '' if it could."""
        self._rest = QTimer(self, interval=_RESTS, singleShot=True)
        self._rest.timeout.connect(self._start)
        self._timer = QTimer(self, interval=_OFTEN)
        self._timer.timeout.connect(self._look)
        self._leaves = QTimer(self, interval=_LEAVES, singleShot=True)
        self._leaves.timeout.connect(self._checker.leave)
        document.project_changed.connect(self._project_changed)
        document.level_changed.connect(self._project_changed)
        document.playhead_moved.connect(self._moved)
        document.opened.connect(self._opened)
        projector.play_changed.connect(self._play_changed)

    @property
    def findings(self) -> list[Finding]:
        """All of them, hints last, by kind and frame."""
        order = {kind: (KINDS[kind].warns, number) for number, kind in enumerate(KINDS)}
        every = [one for found in self._found.values() for one in found]
        return sorted(every, key=lambda one: (order[one.kind], one.frame, one.name))

    @property
    def audience(self) -> str:
        """For whom is checked, a key of AUDIENCES."""
        chosen = str(self._settings.value(AUDIENCE, USUAL))
        return chosen if chosen in AUDIENCES else USUAL

    def choose_audience(self, audience: str) -> None:
        """Check for others from now on."""
        self._settings.setValue(AUDIENCE, audience)
        self._project_changed()

    def begin(self) -> None:
        """From now on."""
        self._on = True
        self._project_changed()

    def close(self) -> None:
        """End whatever goes on."""
        self._on = False
        self._rest.stop()
        self._timer.stop()
        self._leaves.stop()
        self._checker.close()

    @property
    def is_near(self) -> bool:
        """Whether only what is near the playhead is looked at: of a long sequence all would never end."""
        document = self._document
        committed, level = document.history.committed, document.level.sequence
        if self._length_of is None or self._length_of[0] is not committed or self._length_of[1] != level:
            self._length_of = committed, level, document.delivered.sequence.length
        return self._length_of[2] > document.rate.frames(_LONG)

    def _asked(self) -> tuple[Project, str, str, int]:
        document = self._document
        part = document.playhead // max(1, document.rate.frames(_NEAR)) if self.is_near else 0
        return document.history.committed, document.level.sequence, self.audience, part

    def _within(self) -> tuple[int, int] | None:
        if not self.is_near:
            return None
        frames = self._document.rate.frames(_NEAR)
        part = self._asked()[3]
        return (part - 1) * frames, (part + 2) * frames

    def _project_changed(self) -> None:
        if self._on and self._asked() != self._of:
            self._rest.start()

    def _moved(self, _: int) -> None:
        if self._on and self._of is not None and not self._document.playing and self.is_near:
            self._project_changed()

    def _opened(self) -> None:
        self._found.clear()
        self._of = None
        self._give_up()
        self.changed.emit()
        self._project_changed()

    def _play_changed(self, playing: bool) -> None:
        if playing and self._checker.is_at_work:
            self._give_up()
            self._of = None
        elif not playing:
            self._project_changed()

    def _give_up(self) -> None:
        if self._checker.is_at_work:
            self._checker.stop()
            self._leaves.start()
        self.share = None

    def _start(self) -> None:
        if not self._on or self._document.playing:
            return
        document = self._document
        self._of, self.problem, self.share = self._asked(), "", 0.0
        groups = document.level.groups
        asked = Asked(self.audience, groups[0] if groups else document.selected or "", within=self._within())
        project = document.delivered
        self._leaves.stop()
        self._checker.ask(project, document.base, asked)
        self._timer.start()
        layers = {clip.id for track in project.sequence.tracks for clip in track.clips}
        # What was found of layers that are gone is gone with them.
        self._found = {key: found for key, found in self._found.items() if key[1] is None or key[1] in layers}
        self.changed.emit()

    def _look(self) -> None:
        checker = self._checker
        was = checker.is_at_work
        steps = checker.look()
        for step in steps:
            self._take(step)
        over = not checker.is_at_work
        self.share = None if over else checker.done / checker.total if checker.total else 0.0
        if over:
            self._timer.stop()
            self._leaves.start()
            self.problem = checker.refused
        if steps or (was and over):
            self.changed.emit()

    def _take(self, step: Step) -> None:
        """What a step found takes the place of what was known of the same."""
        self._found = {
            key: found for key, found in self._found.items()
            if not (key[0] == step.kinds and (step.layer is None or key[1] == step.layer))
        }  # fmt: skip
        if step.found:
            self._found[step.kinds, step.layer] = step.found
