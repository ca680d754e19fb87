"""Clips on the system's clipboard, as project files; words also as plain text; files of media."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QMimeData
from PySide6.QtGui import QGuiApplication

from rovix.desktop.document import Document
from rovix.edit.paste import copied, pasted
from rovix.errors import RovixError
from rovix.formats import parse_project, project_bytes
from rovix.model import Project, TextClip

if TYPE_CHECKING:
    from rovix.desktop.window import Window

_KIND = "application/x-rovix-project+json"


def copy(document: Document) -> bool:
    """Put the selected clips on the clipboard; False when nothing is selected."""
    clip = document.clip
    if clip is None:
        return False
    data = QMimeData()
    data.setData(_KIND, project_bytes(copied(document.committed, document.selection, document.base)))
    if isinstance(clip, TextClip):
        data.setText(clip.words.text)
    QGuiApplication.clipboard().setMimeData(data)
    return True


def paste(window: Window) -> None:
    """Put what is on the clipboard at the playhead: clips as one step, or files as media.

    What is damaged is said.
    """
    document = window.document
    # The clipboard is asked only now: another program that owns it may take long to answer.
    data = QGuiApplication.clipboard().mimeData()
    if data is not None and data.hasFormat(_KIND):
        _paste_clips(document, bytes(data.data(_KIND).data()))
        return
    files = [Path(url.toLocalFile()) for url in data.urls() if url.isLocalFile()] if data is not None else []
    if files:
        window.bring_in(files)
    else:
        document.problem.emit("There is no clip or file on the clipboard. Copy one first.")


def _paste_clips(document: Document, content: bytes) -> None:
    try:
        source = parse_project(Path("The clipboard"), content)
    except RovixError as wrong:
        document.problem.emit(str(wrong))
        return
    made: list[str] = []

    def edit(project: Project) -> Project:
        project, made[:] = pasted(project, source, document.playhead, document.base)
        return project

    if document.do("Paste", edit):
        document.select(*made)
