"""How well the selected words stand out, letter by letter, over the picture; worked out when hands rest."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QLineF, QObject, QPointF, QRectF, Qt, QTimer, Signal
from PySide6.QtGui import QPainter, QPen

from rovix.desktop.document import Document
from rovix.desktop.theme import colour, font
from rovix.desktop.viewer.geometry import View
from rovix.engine.long_job import LongJob
from rovix.model import Project
from rovix.model.clip_kinds import has_words
from rovix.processes import Behind

if TYPE_CHECKING:
    from rovix.engine.contrast_shown import ShownContrast

_WORK = "rovix.engine.contrast_shown:contrast_of"
_RESTS, _OFTEN = 250, 40
_WIDE, _HIGH, _UNDER = 34.0, 17.0, 5.0


class ContrastMarks(QObject):
    """While `on`, follows the selected text layer and the playhead."""

    changed = Signal()

    def __init__(self, document: Document) -> None:
        super().__init__(document)
        self._document = document
        self.on = False
        self._of: tuple[Project, str, int] | None = None
        self._asked: tuple[Project, str, int] | None = None
        self._found: ShownContrast | None = None
        self._job: LongJob | None = None
        self._rest = QTimer(self, interval=_RESTS, singleShot=True)
        self._rest.timeout.connect(self._start)
        self._timer = QTimer(self, interval=_OFTEN)
        self._timer.timeout.connect(self._look)
        for signal in (document.project_changed, document.selection_changed, document.level_changed):
            signal.connect(self._ask)
        document.playhead_moved.connect(lambda _: self._ask())

    @property
    def is_shown(self) -> bool:
        """Whether it is worked out for what is seen."""
        return self._found is not None

    def turn(self, on: bool) -> None:
        """Show it, or no longer."""
        self.on = on
        if on:
            self._ask()
        else:
            self._forget()

    def close(self) -> None:
        self.on = False
        self._rest.stop()
        self._timer.stop()
        job, self._job = self._job, None
        if job is not None:
            job.close()

    def _forget(self) -> None:
        self._rest.stop()
        self._of, self._found = None, None
        self.changed.emit()

    def _wanted(self) -> tuple[Project, str, int] | None:
        document = self._document
        clip = document.clip
        if not self.on or not has_words(clip) or document.playing or document.playhead not in clip.span:
            return None
        return document.project, clip.id, document.playhead

    def _ask(self) -> None:
        if not self.on:
            return
        wanted = self._wanted()
        if self._found is not None and not _same(wanted, self._of):
            self._found = None
            self.changed.emit()
        if wanted is not None and not _same(wanted, self._of):
            self._rest.start()

    def _start(self) -> None:
        wanted = self._wanted()
        if wanted is None or self._job is not None:
            return  # what is under way comes first; it asks again
        self._asked = wanted
        self._job = LongJob(_WORK, wanted[0], self._document.base, wanted[1], wanted[2], far=Behind.FINDINGS)
        self._timer.start()

    def _look(self) -> None:
        job = self._job
        if job is None or not job.look():
            return
        self._timer.stop()
        self._job = None
        result, refused = job.result, job.refused
        job.close()
        if refused:
            self._document.problem.emit(refused)
        if _same(self._wanted(), self._asked):
            self._of, self._found = self._asked, result
            self.changed.emit()
        else:
            self._ask()

    def paint(self, painter: QPainter, view: View) -> None:
        """A stroke under each letter, whole where its ratio is enough, broken where it is not, with the ratio
        of the worst one; and that of all of them in the corner."""
        found = self._found
        if found is None:
            return
        asked = found.asked
        painter.setFont(font(0.85))
        boxes, ratios = found.boxes, found.letters
        for box, ratio in zip(boxes.tolist(), ratios.tolist(), strict=True):
            left, right = view.to_view(box[0], box[3]), view.to_view(box[2], box[3])
            self._stroke(
                painter, QLineF(left.x(), left.y() + _UNDER, right.x(), right.y() + _UNDER), ratio < asked
            )
        worst = int(ratios.argmin())
        at = view.to_view((boxes[worst][0] + boxes[worst][2]) / 2, boxes[worst][3])
        tag = QRectF(at.x() - _WIDE / 2, at.y() + 2 * _UNDER, _WIDE, _HIGH)
        self._tag(painter, tag, f"{ratios[worst]:.1f}", bool(ratios[worst] < asked))
        short = found.tenth < asked
        whole = f"Contrast {found.tenth:.1f} : 1, asked {asked:g} : 1"
        corner = view.to_view(0, 0) + QPointF(10, 10)
        self._tag(painter, QRectF(corner.x(), corner.y(), 150, 22), whole, short)

    def _stroke(self, painter: QPainter, line: QLineF, short: bool) -> None:
        painter.setPen(QPen(colour("ground", 0.8), 5))
        painter.drawLine(line)
        painter.setPen(
            QPen(colour("problem"), 2.4, Qt.PenStyle.DotLine) if short else QPen(colour("text"), 2.4)
        )
        painter.drawLine(line)

    def _tag(self, painter: QPainter, box: QRectF, said: str, short: bool) -> None:
        painter.setPen(QPen(colour("problem"), 1.4, Qt.PenStyle.DashLine) if short else Qt.PenStyle.NoPen)
        painter.setBrush(colour("ground", 0.82))
        painter.drawRoundedRect(box, 4, 4)
        painter.setPen(colour("problem" if short else "text"))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, said)


def _same(one: tuple[Project, str, int] | None, other: tuple[Project, str, int] | None) -> bool:
    return one is not None and other is not None and one[0] is other[0] and one[1:] == other[1:]
