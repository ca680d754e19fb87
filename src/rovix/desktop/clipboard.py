"""Clips on the system's clipboard, as project files; words also as plain text."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QMimeData
from PySide6.QtGui import QGuiApplication

from rovix.desktop.document import Document
from rovix.edit.paste import copied, pasted
from rovix.errors import RovixError
from rovix.formats import parse_project, project_bytes
from rovix.model import Project, TextClip

_KIND = "application/x-rovix-project+json"


def copy(document: Document) -> bool:
    """Put the selected clip on the clipboard; False when nothing is selected."""
    clip = document.clip
    if clip is None:
        return False
    data = QMimeData()
    data.setData(_KIND, project_bytes(copied(document.history.committed, clip.id, document.base)))
    if isinstance(clip, TextClip):
        data.setText(clip.words.text)
    QGuiApplication.clipboard().setMimeData(data)
    return True


def paste(document: Document) -> None:
    """Put what is on the clipboard at the playhead, as one step; what is damaged is said."""
    # The clipboard is asked only now: another program that owns it may take long to answer.
    data = QGuiApplication.clipboard().mimeData()
    if data is None or not data.hasFormat(_KIND):
        document.problem.emit("There is no clip on the clipboard. Copy one first.")
        return
    content = data.data(_KIND).data()
    try:
        source = parse_project(Path("The clipboard"), bytes(content))
    except RovixError as wrong:
        document.problem.emit(str(wrong))
        return
    made: list[str | None] = []

    def edit(project: Project) -> Project:
        project, last = pasted(project, source, document.playhead, document.base)
        made.append(last)
        return project

    if document.do("Paste", edit):
        document.select(made[-1])
