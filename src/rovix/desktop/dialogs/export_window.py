"""The export window: what, where and how; and what waits to be written. Editing goes on meanwhile."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

from PySide6.QtGui import QCloseEvent, QShowEvent
from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QFileDialog,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from rovix.desktop.dialogs.export_choices import ExportChoices, about
from rovix.desktop.dialogs.export_list import ExportList
from rovix.desktop.dialogs.presets_row import PresetsRow
from rovix.desktop.dialogs.weight import Weight
from rovix.desktop.document import Document
from rovix.desktop.exports import Exports
from rovix.edit.alone import alone
from rovix.edit.tree import clip_by_id
from rovix.engine.every_sequence import jobs_of_all
from rovix.engine.export_job import ExportJob
from rovix.engine.kept_shelf import PresetShelf
from rovix.media.encoders import ENCODERS, EncoderKind
from rovix.model.clip_kinds import is_layer
from rovix.time import Span


class ExportWindow(QDialog):
    """Has the sequence, as it is at the moment of asking, exported after what waits already."""

    def __init__(
        self, document: Document, exports: Exports, presets: PresetShelf, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self._document, self._exports = document, exports
        self.setWindowTitle("Export")
        self.setMinimumWidth(600)
        tip = "Where the file, or the folder of pictures, is written."
        self.out = QLineEdit(str(self._proposed()), accessibleName="File", toolTip=tip)
        self.out.editingFinished.connect(self._follow_name)
        self.choices = ExportChoices(document.delivered.sequence.size, self)
        self.presets = PresetsRow(presets, lambda: self.choices.how, self)
        self._browse = QPushButton("Choose…", toolTip="Choose a place and name.", autoDefault=False)
        self._browse.clicked.connect(self._choose)
        self.only_range, self.alone, self.every = self._boxes()
        self.start_button = QPushButton("Export", objectName="primary", toolTip="Write it after what waits.")
        self.start_button.clicked.connect(self.start)
        self.close_button = QPushButton("Close", toolTip="Exports go on.", autoDefault=False)
        self.close_button.clicked.connect(self.close)
        self.said = QLabel("", objectName="muted", wordWrap=True)
        self.left = QLabel("", objectName="muted")
        self.weight = Weight(self)
        self.list = ExportList(exports, self)
        self._build()
        self._follow_choices()
        self._show_kind()

    def _boxes(self) -> tuple[QCheckBox, QCheckBox, QCheckBox]:
        """What of the project is exported."""
        ranged = QCheckBox("Only the range", toolTip="Export the in and out range instead of everything.")
        ranged.setEnabled(has_range(self._document))
        ranged.setChecked(has_range(self._document))
        single = QCheckBox("Only the selected layers, over nothing")
        single.setToolTip("A title to be laid over a video elsewhere; sounds stay.")
        single.setEnabled(bool(self._layers()))
        every = QCheckBox("Every sequence, a file each", toolTip="Each is named after its sequence, too.")
        every.setVisible(len(self._document.delivered.sequences) > 1)
        every.toggled.connect(lambda on: self._follow_every(on))
        return ranged, single, every

    def _follow_every(self, on: bool) -> None:
        for box, usable in ((self.only_range, has_range(self._document)), (self.alone, bool(self._layers()))):
            box.setEnabled(usable and not on)
            box.setChecked(box.isChecked() and not on)

    def _follow_choices(self) -> None:
        """Say how large the file will be, anew whenever something of it changes."""
        self.weight.found.connect(self.left.setText)
        self.choices.changed.connect(self._follow_form)
        self.presets.chosen.connect(self.choices.show_how)
        self.presets.problem.connect(lambda text: self._say(text, problem=True))
        self._exports.problem.connect(lambda text: self._say(text, problem=True))
        for box in (self.only_range, self.alone, self.every):
            box.toggled.connect(lambda _: self._weigh())
        self._document.project_changed.connect(self._weigh)

    def _build(self) -> None:
        grid = QGridLayout()
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(10)
        choices = self.choices
        rows: list[tuple[str, QWidget]] = [
            ("Preset", self.presets), ("Form", choices.form), ("Quality", choices.quality),
            ("Size", choices.size), ("Loudness", choices.loudness), ("", self.only_range), ("", self.alone),
            ("", self.every),
        ]  # fmt: skip
        grid.addWidget(QLabel("File"), 0, 0)
        grid.addWidget(self.out, 0, 1)
        grid.addWidget(self._browse, 0, 2)
        for at, (words, widget) in enumerate(rows, 1):
            if words:
                grid.addWidget(QLabel(words), at, 0)
            grid.addWidget(widget, at, 1, 1, 2)
        told = QHBoxLayout()
        told.addWidget(self.said, 1)
        told.addWidget(self.left)
        buttons = QHBoxLayout()
        buttons.addStretch(1)
        buttons.addWidget(self.close_button)
        buttons.addWidget(self.start_button)
        column = QVBoxLayout(self)
        column.setContentsMargins(20, 18, 20, 16)
        column.setSpacing(12)
        column.addLayout(grid)
        column.addLayout(told)
        column.addLayout(buttons)
        column.addWidget(self.list, 1)
        self.start_button.setDefault(True)

    def start(self) -> None:
        """Have what is committed now exported."""
        self._follow_name()
        self.weight.forget()
        names = [job.out.name for job in self._jobs() if self._exports.add(job, self._document.name)]
        if names:
            self._say(f"In the list below: {', '.join(names)}.", problem=False)

    def _jobs(self) -> Iterator[ExportJob]:
        if not self.every.isChecked():
            yield self._job()
        else:
            document = self._document
            yield from jobs_of_all(document.whole, document.base, self._out(), self.choices.how)

    def _job(self) -> ExportJob:
        """What is asked for, of what is committed now; the open sequence where every one is."""
        project = self._document.delivered
        span = Span(0, project.sequence.length)
        if self.only_range.isChecked() and has_range(self._document):
            span = self._document.range or span
        if self.kind.single and span.length:
            at = min(self._document.playhead, project.sequence.length - 1)
            span = Span(at, at + 1)
        if self.alone.isChecked() and self._layers():
            project = alone(project, self._layers())
        return ExportJob(project, self._document.base, self._out(), span, self.choices.how)

    def _out(self) -> Path:
        return Path(self.out.text().strip()).expanduser()

    def _weigh(self) -> None:
        """Find anew how large the file will be."""
        if self.isVisible():
            self.weight.ask(self._job)

    def _say(self, text: str, problem: bool) -> None:
        self.said.setText(text)
        self.said.setObjectName("problem" if problem else "muted")
        self.said.style().unpolish(self.said)
        self.said.style().polish(self.said)

    def _choose(self) -> None:
        path, _ = QFileDialog.getSaveFileName(self, "Export to", self.out.text(), _kinds())
        if path:
            known = any(Path(path).suffix.lower() == kind.suffix for kind in ENCODERS)
            self.out.setText(path if known else f"{path}{self.kind.suffix}")
            self._follow_name()

    @property
    def kind(self) -> EncoderKind:
        """The form that is chosen."""
        return self.choices.kind

    def _layers(self) -> tuple[str, ...]:
        """The selected layers, which may be delivered alone; none inside of an open group."""
        document = self._document
        clips = (clip_by_id(document.committed, identity) for identity in document.selection)
        return () if document.level.groups else tuple(clip.id for clip in clips if is_layer(clip))

    def _follow_form(self) -> None:
        """The name ends as the form does."""
        path = Path(self.out.text().strip())
        if path.suffix.lower() != self.kind.suffix:
            self.out.setText(str(path.with_suffix(self.kind.suffix)) if path.name else "")
        self._show_kind()

    def _follow_name(self) -> None:
        """The form is one that the name asks for."""
        self.choices.follow_name(Path(self.out.text().strip()))

    def _show_kind(self) -> None:
        self.presets.follow()
        self._say(about(self.kind), problem=False)
        self._weigh()

    def _proposed(self) -> Path:
        document = self._document
        folder = document.path.parent if document.path else Path.home()
        return folder / f"{document.name.lower().replace(' ', '-')}.mp4"

    def stop(self) -> None:
        """End what is tried, for when the application closes."""
        self.weight.close()

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self._weigh()

    def closeEvent(self, event: QCloseEvent) -> None:
        self.weight.forget()
        super().closeEvent(event)


def has_range(document: Document) -> bool:
    """Whether the sequence has a range; the one of an open group counts in the group's own time."""
    return document.range is not None and not document.level.groups


def _kinds() -> str:
    """The kinds of file, as the file dialog lists them."""
    return ";;".join(dict.fromkeys(f"{kind.called.split(',')[0]} (*{kind.suffix})" for kind in ENCODERS))
