"""The export window: what, where, and how far it has come. Editing goes on meanwhile."""

from __future__ import annotations

import time
from pathlib import Path

from PySide6.QtCore import QTimer
from PySide6.QtGui import QCloseEvent, QShowEvent
from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QFileDialog,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QProgressBar,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from rovix.desktop.dialogs.weight import Weight
from rovix.desktop.document import Document
from rovix.desktop.sheet.drop_down import DropDown
from rovix.edit.alone import alone
from rovix.edit.tree import clip_by_id
from rovix.engine.export_job import ExportJob
from rovix.engine.export_process import ExportProcess, Progress
from rovix.media.encoders import ENCODERS, EncoderKind
from rovix.model.clip_kinds import is_layer
from rovix.time import Span


class ExportWindow(QDialog):
    """Exports the sequence as it is at the moment of starting."""

    def __init__(self, document: Document, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._document = document
        self._process: ExportProcess | None = None
        self._started = 0.0
        self.setWindowTitle("Export")
        self.setMinimumWidth(520)
        tip = "Where the file, or the folder of pictures, is written."
        self.out = QLineEdit(str(self._proposed()), accessibleName="File", toolTip=tip)
        self.out.editingFinished.connect(self._follow_name)
        self.form, self.quality, self.size_box = self._choices()
        self.alone = QCheckBox("Only the selected layers, over nothing")
        self.alone.setToolTip("A title to be laid over a video elsewhere; sounds stay.")
        self.alone.setEnabled(bool(self._layers()))
        self._browse = QPushButton("Choose…", toolTip="Choose a place and name.")
        self._browse.clicked.connect(self._choose)
        self.only_range = QCheckBox(
            "Only the range", toolTip="Export the in and out range instead of everything."
        )
        self.only_range.setEnabled(has_range(document))
        self.only_range.setChecked(has_range(document))
        self.start_button = QPushButton("Export", objectName="primary", toolTip="Write the video.")
        self.start_button.clicked.connect(self.start)
        self.cancel_button = QPushButton("Cancel", toolTip="Stop the export; nothing is written.")
        self.cancel_button.clicked.connect(self._cancel)
        self.bar = QProgressBar(textVisible=False, accessibleName="Progress")
        self.said = QLabel("", objectName="muted", wordWrap=True)
        self.left = QLabel("", objectName="muted")
        self.weight = Weight(self)
        self._follow_choices()
        self._tick = QTimer(self, interval=100)
        self._tick.timeout.connect(self._look)
        self._build()

    def _choices(self) -> tuple[DropDown, DropDown, DropDown]:
        """Those of form, quality and size."""
        form = DropDown(accessibleName="Form", toolTip="What kind of file is written.")
        for number, kind in enumerate(ENCODERS):
            form.addItem(kind.called, number)
        form.activated.connect(lambda _: self._follow_form())
        tip = "How well pictures are kept, and the form's own number for it; less is smaller."
        quality = DropDown(accessibleName="Quality", toolTip=tip)
        size_box = DropDown(accessibleName="Size", toolTip="Width and height of the video in px.")
        width, height = self._document.project.sequence.size
        for share, said in ((1.0, ""), (2 / 3, ""), (0.5, "half size")):
            size = (_even(width * share), _even(height * share))
            size_box.addItem(f"{size[0]} × {size[1]} px" + (f", {said}" if said else ""), size)
        return form, quality, size_box

    def _follow_choices(self) -> None:
        """Say how large the file will be, anew whenever something of it changes."""
        self.weight.found.connect(lambda said: self.left.setText("" if self.is_running else said))
        for choice in (self.quality, self.size_box):
            choice.activated.connect(lambda _: self._weigh())
        for box in (self.only_range, self.alone):
            box.toggled.connect(lambda _: self._weigh())
        self._document.project_changed.connect(self._weigh)

    def _build(self) -> None:
        grid = QGridLayout()
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(10)
        grid.addWidget(QLabel("File"), 0, 0)
        grid.addWidget(self.out, 0, 1)
        grid.addWidget(self._browse, 0, 2)
        grid.addWidget(QLabel("Form"), 1, 0)
        grid.addWidget(self.form, 1, 1, 1, 2)
        grid.addWidget(QLabel("Quality"), 2, 0)
        grid.addWidget(self.quality, 2, 1, 1, 2)
        grid.addWidget(QLabel("Size"), 3, 0)
        grid.addWidget(self.size_box, 3, 1, 1, 2)
        grid.addWidget(self.only_range, 4, 1, 1, 2)
        grid.addWidget(self.alone, 5, 1, 1, 2)
        told = QHBoxLayout()
        told.addWidget(self.said, 1)
        told.addWidget(self.left)
        buttons = QHBoxLayout()
        buttons.addStretch(1)
        buttons.addWidget(self.cancel_button)
        buttons.addWidget(self.start_button)
        column = QVBoxLayout(self)
        column.setContentsMargins(20, 18, 20, 16)
        column.setSpacing(12)
        column.addLayout(grid)
        column.addLayout(told)
        column.addWidget(self.bar)
        column.addLayout(buttons)
        self.start_button.setDefault(True)
        self._show_kind()

    @property
    def is_running(self) -> bool:
        return self._process is not None

    def start(self) -> None:
        """Start the export of what is committed now."""
        self._follow_name()
        self.weight.forget()
        job = self._job()
        self._process = ExportProcess(job)
        self._started = time.monotonic()
        self.bar.setRange(0, max(1, job.span.length))
        self.bar.setValue(0)
        self._say(f"Exporting {job.out.name}", problem=False)
        self._show_running(True)
        self._tick.start()

    def _job(self) -> ExportJob:
        """What is asked for, of what is committed now."""
        document = self._document
        project = document.delivered
        span = Span(0, project.sequence.length)
        if self.only_range.isChecked() and has_range(document):
            span = document.range or span
        out = Path(self.out.text().strip()).expanduser()
        if self.alone.isChecked() and self._layers():
            project = alone(project, self._layers())
        size, quality = self.size_box.currentData(), self.quality.currentData()
        return ExportJob(project, document.base, out, span, size, self.kind.codec, quality)

    def _weigh(self) -> None:
        """Find anew how large the file will be."""
        if self.isVisible() and not self.is_running:
            self.weight.ask(self._job)

    def _look(self) -> None:
        if self._process is None:
            return
        progress = self._process.progress()
        self.bar.setValue(progress.done)
        self.left.setText(self._time_left(progress))
        if progress.finished:
            self._finished(progress)

    def _finished(self, progress: Progress) -> None:
        self._tick.stop()
        self.left.setText("")
        process, self._process = self._process, None
        if process is not None:
            process.close()
        self._show_running(False)
        if progress.error:
            self._say(progress.error, problem=True)
            self.bar.setValue(0)
        else:
            self._say(f"{Path(self.out.text()).name} is ready.", problem=False)
            self.cancel_button.setText("Close")

    def _time_left(self, progress: Progress) -> str:
        if progress.done < 5:
            return ""
        seconds = (time.monotonic() - self._started) / progress.done * (progress.total - progress.done)
        return f"{int(seconds) // 60}:{int(seconds) % 60:02d} left"

    def _say(self, text: str, problem: bool) -> None:
        self.said.setText(text)
        self.said.setObjectName("problem" if problem else "muted")
        self.said.style().unpolish(self.said)
        self.said.style().polish(self.said)

    def _show_running(self, running: bool) -> None:
        for widget in (self.out, self._browse, self.form, self.size_box, self.start_button):
            widget.setEnabled(not running)
        self.alone.setEnabled(not running and bool(self._layers()))
        self.only_range.setEnabled(not running and has_range(self._document))
        self.quality.setEnabled(not running and self.quality.count() > 1)
        self.cancel_button.setText("Cancel")

    def _cancel(self) -> None:
        if self._process is not None:
            self._process.cancel()
            self._say("Stopping…", problem=False)
        else:
            self.close()

    def _choose(self) -> None:
        path, _ = QFileDialog.getSaveFileName(self, "Export to", self.out.text(), _kinds())
        if path:
            known = any(Path(path).suffix.lower() == kind.suffix for kind in ENCODERS)
            self.out.setText(path if known else f"{path}{self.kind.suffix}")
            self._follow_name()

    @property
    def kind(self) -> EncoderKind:
        """The form that is chosen."""
        return ENCODERS[self.form.currentData()]

    def _layers(self) -> tuple[str, ...]:
        """The selected layers, which may be delivered alone; none inside of an open group."""
        document = self._document
        clips = (clip_by_id(document.committed, identity) for identity in document.selection)
        return () if document.level.groups else tuple(clip.id for clip in clips if is_layer(clip))

    def _follow_form(self) -> None:
        """The name ends as the form does."""
        path = Path(self.out.text().strip())
        self.out.setText(str(path.with_suffix(self.kind.suffix)) if path.name else "")
        self._show_kind()

    def _follow_name(self) -> None:
        """The form is one that the name asks for."""
        suffix = Path(self.out.text().strip()).suffix.lower()
        fitting = [number for number, kind in enumerate(ENCODERS) if kind.suffix == suffix]
        if fitting and self.form.currentData() not in fitting:
            self.form.setCurrentIndex(fitting[0])
            self._show_kind()

    def _show_kind(self) -> None:
        """The qualities that the form has, the usual one chosen, and what it keeps."""
        kind = self.kind
        self.quality.clear()
        for quality in kind.qualities:
            words = f"{quality.name}, {quality.said}" if len(kind.qualities) > 1 else quality.said
            self.quality.addItem(words[0].upper() + words[1:], quality.name)
        self.quality.setEnabled(len(kind.qualities) > 1)
        self.quality.show_data(kind.quality().name)
        self._say(self._about(), problem=False)
        self._weigh()

    def _about(self) -> str:
        """What the form keeps."""
        kind = self.kind
        clear = {"none": "Without transparency.", "one bit": "Transparent or not, nothing between.",
                 "full": "With transparency."}[kind.alpha]  # fmt: skip
        parts = [
            clear if kind.pictures else "The sound alone.",
            "" if kind.sound else "Without sound.",
            "Numbered pictures in a folder called as the name is." if kind.folder else "",
        ]
        return " ".join(part for part in parts if part)

    def _proposed(self) -> Path:
        document = self._document
        folder = document.path.parent if document.path else Path.home()
        return folder / f"{document.name.lower().replace(' ', '-')}.mp4"

    def stop(self) -> None:
        """End a running export, for when the application closes."""
        self.weight.close()
        self._tick.stop()
        process, self._process = self._process, None
        if process is not None:
            process.close()

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self._weigh()

    def closeEvent(self, event: QCloseEvent) -> None:
        self.weight.forget()
        # The window may be put away while the export goes on; it tells when it opens again.
        super().closeEvent(event)


def _even(side: float) -> int:
    return max(16, round(side / 2) * 2)


def has_range(document: Document) -> bool:
    """Whether the sequence has a range; the one of an open group counts in the group's own time."""
    return document.range is not None and not document.level.groups


def _kinds() -> str:
    """The kinds of file, as the file dialog lists them."""
    return ";;".join(dict.fromkeys(f"{kind.called.split(',')[0]} (*{kind.suffix})" for kind in ENCODERS))
