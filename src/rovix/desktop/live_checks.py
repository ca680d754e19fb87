"""Checks while one edits: in a process of their own at low priority, when hands rest, never while playing."""

from __future__ import annotations

from PySide6.QtCore import QObject, QSettings, QTimer, Signal

from rovix.check.asked import Asked, Step
from rovix.check.audience import AUDIENCES, USUAL
from rovix.check.finding import KINDS, Finding
from rovix.desktop.document import Document
from rovix.desktop.projector import Projector
from rovix.engine.long_job import LongJob
from rovix.model import Project

AUDIENCE = "checks/audience"
_WORK = "rovix.engine.checking:checked_job"
_RESTS, _OFTEN = 250, 40  # ms without a step, and from look to look
_NICE = 0  # it steps back by itself once the edited layer is done


class LiveChecks(QObject):
    """Follows the document's steps. `findings` is what is known now; what is not looked at yet stays as it
    was found before."""

    changed = Signal()

    def __init__(self, document: Document, projector: Projector, settings: QSettings) -> None:
        super().__init__(document)
        self._document, self._projector, self._settings = document, projector, settings
        self._found: dict[tuple[frozenset[str], str | None], tuple[Finding, ...]] = {}
        self._job: LongJob | None = None
        self._ending: list[LongJob] = []
        self._on = False
        self._of: tuple[Project, str, str] | None = None
        self.share: float | None = None
        """How far it is, None while nothing goes on."""
        self.problem = ""
        """Why it could not look at everything, '' if it could."""
        self._rest = QTimer(self, interval=_RESTS, singleShot=True)
        self._rest.timeout.connect(self._start)
        self._timer = QTimer(self, interval=_OFTEN)
        self._timer.timeout.connect(self._look)
        document.project_changed.connect(self._project_changed)
        document.level_changed.connect(self._project_changed)
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

    def of_layer(self, identity: str) -> list[Finding]:
        """What was found of a layer."""
        return [one for one in self.findings if one.layer == identity]

    def begin(self) -> None:
        """From now on."""
        self._on = True
        self._project_changed()

    def close(self) -> None:
        """End whatever goes on."""
        self._on = False
        self._rest.stop()
        self._timer.stop()
        for job in (*self._ending, *([self._job] if self._job else [])):
            job.close()
        self._ending, self._job = [], None

    def _asked(self) -> tuple[Project, str, str]:
        document = self._document
        return document.history.committed, document.level.sequence, self.audience

    def _project_changed(self) -> None:
        if self._on and self._asked() != self._of:
            self._rest.start()

    def _opened(self) -> None:
        self._found.clear()
        self._of = None
        self._give_up()
        self.changed.emit()
        self._project_changed()

    def _play_changed(self, playing: bool) -> None:
        if playing and self._job is not None:
            self._give_up()
            self._of = None
        elif not playing:
            self._project_changed()

    def _give_up(self) -> None:
        if self._job is not None:
            self._job.cancel()
            self._ending.append(self._job)
            self._job = None
            self.share = None

    def _start(self) -> None:
        if not self._on or self._document.playing:
            return
        self._give_up()
        self._timer.start()
        if self._ending:
            self._rest.start()  # one at a time
            return
        document = self._document
        self._of, self.problem, self.share = self._asked(), "", 0.0
        asked = Asked(
            self.audience, document.level.groups[0] if document.level.groups else document.selected or ""
        )
        self._job = LongJob(_WORK, document.delivered, document.base, asked, nice=_NICE)
        layers = {clip.id for track in document.delivered.sequence.tracks for clip in track.clips}
        # What was found of layers that are gone is gone with them.
        self._found = {key: found for key, found in self._found.items() if key[1] is None or key[1] in layers}
        self.changed.emit()

    def _look(self) -> None:
        for ended in [one for one in self._ending if one.look()]:
            ended.close()
            self._ending.remove(ended)
        job = self._job
        if job is None:
            if not self._ending:
                self._timer.stop()
            return
        over = job.look()
        for step in job.parts:
            self._take(step)
        fresh, job.parts = bool(job.parts), []
        self.share = None if over else job.done / job.total if job.total else 0.0
        if over:
            self._job, self.problem = None, job.refused
            job.close()
        if fresh or over:
            self.changed.emit()

    def _take(self, step: Step) -> None:
        """What a step found takes the place of what was known of the same."""
        self._found = {
            key: found for key, found in self._found.items()
            if not (key[0] == step.kinds and (step.layer is None or key[1] == step.layer))
        }  # fmt: skip
        if step.found:
            self._found[step.kinds, step.layer] = step.found
