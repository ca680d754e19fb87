"""Clips on the system's clipboard, as project files; words also as plain text; files of media."""

from __future__ import annotations

import json
from pathlib import Path
from typing import TYPE_CHECKING

import msgspec
from PySide6.QtCore import QMimeData
from PySide6.QtGui import QGuiApplication

from rovix.desktop.document import Document
from rovix.desktop.key_selection import inner_spots, spots_of
from rovix.edit import clip_by_id
from rovix.edit.counterparts import counterpart
from rovix.edit.inner_keys import CopiedChannel, copied_inner_keys, keys_on_frames, paste_inner_keys
from rovix.edit.key_clips import CopiedKeys, copied_keys, reversed_keys
from rovix.edit.key_clips import paste_keys as paste_keys_into
from rovix.edit.look import set_look
from rovix.edit.move_sounds import without_files
from rovix.edit.moves import set_moves, stagger_entrances
from rovix.edit.paste import copied, pasted
from rovix.edit.tree import clip_of
from rovix.errors import RovixError
from rovix.formats import parse_project, project_bytes
from rovix.formats.look_file import SavedLook, look_bytes, parse_look
from rovix.formats.move_file import MOVES, SavedMove
from rovix.model import Clip, Project
from rovix.model.clip_kinds import has_words, is_layer
from rovix.motion.at_frame import at_frame

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame

_KIND = "application/x-rovix-project+json"
_KEY_KIND = "application/x-rovix-keys+json"
_INNER_KIND = "application/x-rovix-inner-keys+json"
_LOOK_KIND = "application/x-rovix-look+json"
_MOTION_KIND = "application/x-rovix-motion+json"


def copy(document: Document) -> bool:
    """Put the selected clips on the clipboard; False when nothing is selected, or with a message when
    they cannot be copied."""
    clip = document.clip
    if clip is None:
        return False
    if document.inner:
        return copy_inner_keys(document)
    if document.keys:
        return copy_keys(document)
    try:
        content = project_bytes(copied(document.committed, document.selection, document.base))
    except RovixError as wrong:
        document.problem.emit(str(wrong))
        return False
    data = QMimeData()
    data.setData(_KIND, content)
    if has_words(clip):
        data.setText(clip.text.content)
    QGuiApplication.clipboard().setMimeData(data)
    return True


def copy_look(document: Document) -> None:
    """Put the selected words' look on the clipboard, also as the text of a look file."""
    clip = document.clip
    if has_words(clip):
        look = at_frame(clip.look, document.clip_frame)
        content = look_bytes(SavedLook(clip.title, clip.text.size, look))
        data = QMimeData()
        data.setData(_LOOK_KIND, content)
        data.setText(content.decode())
        QGuiApplication.clipboard().setMimeData(data)


def paste_look(document: Document) -> None:
    """Give all selected words the look on the clipboard, its px going with their size; one step."""
    data = QGuiApplication.clipboard().mimeData()
    if data is None or not (data.hasFormat(_LOOK_KIND) or data.hasText()):
        document.problem.emit("There is no look on the clipboard. Copy one first.")
        return
    content = (
        data.data(_LOOK_KIND).data() if data.hasFormat(_LOOK_KIND) else data.text().encode(errors="replace")
    )
    try:
        saved = parse_look("What is on the clipboard", bytes(content))
    except RovixError as wrong:
        document.problem.emit(str(wrong))
        return
    chosen = [i for i in document.selection if has_words(clip_by_id(document.project, i))]

    def edit(project: Project) -> Project:
        for identity in chosen:
            project = set_look(project, identity, saved.look, saved.size)
        return project

    document.do(f"Paste the look of {saved.name}", edit)


def copy_motion(document: Document) -> None:
    """Put all moves of the selected layer on the clipboard, as a list of move files."""
    moves = getattr(document.clip, "moves", ())
    if moves:
        files = [json.loads(MOVES.bytes_of(SavedMove(move.name or move.role, move))) for move in moves]
        content = json.dumps(files, ensure_ascii=False, indent=1)
        data = QMimeData()
        data.setData(_MOTION_KIND, content.encode())
        data.setText(content)
        QGuiApplication.clipboard().setMimeData(data)


def paste_motion(document: Document, apart: int | None = None) -> None:
    """Give all selected layers the moves on the clipboard in place of theirs; one step.

    With frames `apart` the entrance of each also starts so much after that of the one before it in time.
    """
    data = QGuiApplication.clipboard().mimeData()
    if data is None or not data.hasFormat(_MOTION_KIND):
        document.problem.emit("There is no motion on the clipboard. Copy that of a layer first.")
        return
    try:
        files = json.loads(bytes(data.data(_MOTION_KIND).data()))
        read = [MOVES.parse("What is on the clipboard", json.dumps(file).encode()) for file in files]
    except (RovixError, ValueError) as wrong:
        document.problem.emit(str(wrong))
        return
    known = {item.id for item in document.whole.media}
    moves = tuple(without_files(saved.move, known) for saved in read)
    chosen = [clip for i in document.selection if (clip := clip_by_id(document.project, i)) is not None]
    layers = [clip.id for clip in chosen if is_layer(clip)]

    def edit(project: Project) -> Project:
        for identity in layers:
            project = set_moves(project, identity, moves)
        return project if apart is None else stagger_entrances(project, layers, apart)

    staggered = "" if apart is None else ", staggered"
    document.do(f"Paste the motion on {len(layers)} layer{'s' * (len(layers) != 1)}{staggered}", edit)


def paste(window: Frame) -> None:
    """Put what is on the clipboard at the playhead: clips as one step, or files as media.

    What is damaged is said.
    """
    document = window.document
    # The clipboard is asked only now: another program that owns it may take long to answer.
    data = QGuiApplication.clipboard().mimeData()
    if data is not None and data.hasFormat(_KIND):
        _paste_clips(document, bytes(data.data(_KIND).data()))
        return
    if data is not None and data.hasFormat(_KEY_KIND):
        paste_keys(document)
        return
    if data is not None and data.hasFormat(_INNER_KIND):
        paste_inner(document)
        return
    files = [Path(url.toLocalFile()) for url in data.urls() if url.isLocalFile()] if data is not None else []
    if files:
        window.import_media(files)
    else:
        document.problem.emit("There is no clip, key or file on the clipboard. Copy one first.")


def copied_clips(document: Document) -> list[Clip]:
    """The clips on the clipboard from below; none, with a message, where there are none."""
    data = QGuiApplication.clipboard().mimeData()
    if data is None or not data.hasFormat(_KIND):
        document.problem.emit(
            "There is no clip on the clipboard. Copy the one whose attributes you want first."
        )
        return []
    try:
        source = parse_project(Path("The clipboard"), bytes(data.data(_KIND).data()))
    except RovixError as wrong:
        document.problem.emit(str(wrong))
        return []
    return [clip for track in source.sequence.tracks for clip in track.clips]


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


def copy_keys(document: Document) -> bool:
    """Put the selected keys on the clipboard, those of the layer selected last where there are several."""
    lead = document.selected if document.selected in document.keys.clips() else document.keys.clips()[-1]
    clip = clip_by_id(document.project, lead)
    if clip is None:
        return False
    _put(_KEY_KIND, copied_keys(clip, document.keys.of(clip.id)))
    return True


def copy_inner_keys(document: Document) -> bool:
    """Put the selected inner keys of the layer selected last on the clipboard."""
    clips = document.inner.clips()
    clip = clip_by_id(document.project, document.selected if document.selected in clips else clips[-1])
    if clip is None:
        return False
    _put(_INNER_KIND, copied_inner_keys(clip, document.inner.of(clip.id)))
    return True


def _put(kind: str, copied: CopiedKeys | tuple[CopiedChannel, ...]) -> None:
    """Put keys on the clipboard, as text too."""
    content = msgspec.json.encode(copied)
    data = QMimeData()
    data.setData(kind, content)
    data.setText(content.decode())
    QGuiApplication.clipboard().setMimeData(data)


def paste_inner(document: Document) -> None:
    """Put copied inner keys into the tuned move of all selected layers, the first at the playhead."""
    data = QGuiApplication.clipboard().mimeData()
    clip, move = document.clip, document.tuned
    if data is None or clip is None or move is None or not move.channels:
        document.problem.emit("Select a layer with an entrance, loop or exit to paste inner keys into.")
        return
    copied = msgspec.json.decode(bytes(data.data(_INNER_KIND).data()), type=tuple[CopiedChannel, ...])
    held = keys_on_frames(document.project, clip, move.id, 0)
    at, spots = held.share(document.playhead - clip.start), []

    def edit(project: Project) -> Project:
        for identity in document.selection:
            layer = clip_of(project, identity)
            own = counterpart(clip, "moves", move.id, layer)
            if own is not None:
                project, placed = paste_inner_keys(project, identity, own, copied, at)
                spots.extend(inner_spots(identity, placed))
        return project

    if document.do("Paste inner keys", edit):
        document.inner.set(spots)


def paste_keys(document: Document, back: bool = False, onto: tuple[str, ...] = ()) -> None:
    """Put copied keys at the playhead into all selected layers; `back` turns them round in time.

    They go to the channels of the selected keys where those are as many, else to their own.
    """
    data = QGuiApplication.clipboard().mimeData()
    if data is None or not data.hasFormat(_KEY_KIND):
        document.problem.emit("There are no keys on the clipboard. Select some in a lane, then copy.")
        return
    copied = msgspec.json.decode(bytes(data.data(_KEY_KIND).data()), type=CopiedKeys)
    copied = reversed_keys(copied) if back else copied
    aims = {identity: tuple(document.keys.of(identity)) for identity in document.selection}
    spots = []

    def edit(project: Project) -> Project:
        for identity in document.selection:
            frame = document.playhead - clip_of(project, identity).start
            fitting = aims[identity] if len(aims[identity]) == len(copied.channels) else ()
            project, placed = paste_keys_into(project, identity, copied, frame, onto or fitting)
            spots.extend(spots_of(identity, placed))
        return project

    if document.do("Paste keys reversed" if back else "Paste keys", edit):
        document.keys.set(spots)
