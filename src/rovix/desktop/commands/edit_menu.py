"""Edit: undo, the clipboard, selecting, splitting, removing, moving."""

from __future__ import annotations

from typing import TYPE_CHECKING

from rovix.desktop import clipboard
from rovix.desktop.commands.command import (
    Command,
    Run,
    done,
    making,
    on_selection,
    selected,
)
from rovix.desktop.commands.inner_keys import nudge_inner, remove_inner
from rovix.desktop.commands.keys_menu import on_keys
from rovix.edit.keys import move_keys, remove_keys
from rovix.edit.selected_clips import (
    duplicate_clips,
    ids_after,
    move_clips,
    remove_clips,
    remove_clips_and_gaps,
    split_clips,
)
from rovix.edit.tracks import clip_order

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame


def _undo_title(window: Frame) -> str:
    title = window.document.history.undo_title
    return f"Undo: {title}" if title else "Undo"


def _redo_title(window: Frame) -> str:
    title = window.document.history.redo_title
    return f"Redo: {title}" if title else "Redo"


def _cut(window: Frame) -> None:
    document = window.document
    taking = on_keys("Cut the keys", remove_keys) if document.keys else on_selection("Cut", remove_clips)
    if document.inner:
        taking = remove_inner
    if clipboard.copy(window.document):
        taking(window)


def _remove(window: Frame) -> None:
    """Selected keys go first: they are what the hand was at last."""
    if window.document.inner:
        remove_inner(window)
    elif window.document.keys:
        on_keys("Remove the keys", remove_keys)(window)
    else:
        on_selection("Remove", remove_clips)(window)


def _split(everywhere: bool) -> Run:
    def run(window: Frame) -> None:
        document = window.document
        ids = None if everywhere else document.selection
        document.do("Split at the playhead", lambda project: split_clips(project, ids, document.playhead))

    return run


def _select_all(window: Frame) -> None:
    window.document.select(*ids_after(window.document.project, 0))


def _select_after(window: Frame) -> None:
    document = window.document
    document.select(*ids_after(document.project, document.playhead))


def _select_next(way: int, also: bool) -> Run:
    def run(window: Frame) -> None:
        document = window.document
        order = clip_order(document.project)
        if not order:
            return
        here = order.index(document.selected) + way if document.selected in order else 0
        chosen = order[min(max(0, here), len(order) - 1)]
        if also:
            document.select(*(i for i in document.selection if i != chosen), chosen)
        else:
            document.select(chosen)

    return run


def _nudge(frames: int, tracks: int = 0) -> Run:
    clips = on_selection(
        "Nudge" if frames else "Move", lambda project, ids: move_clips(project, ids, frames, tracks)
    )
    keys = on_keys("Nudge the keys", lambda p, i, c: move_keys(p, i, c, frames), frames)

    inner = nudge_inner(frames)

    def run(window: Frame) -> None:
        document = window.document
        chosen = inner if document.inner else keys if document.keys else clips
        (chosen if frames else clips)(window)

    return run


EDIT = (
    Command("undo", _undo_title, "Edit", "Ctrl+Z", lambda w: w.document.undo(),
            lambda w: w.document.history.undo_title is not None),
    Command("redo", _redo_title, "Edit", "Ctrl+Shift+Z", lambda w: w.document.redo(),
            lambda w: w.document.history.redo_title is not None),
    Command("copy", "Copy", "Edit", "Ctrl+C", lambda w: done(clipboard.copy(w.document)), selected, ruled=True),
    Command("cut", "Cut", "Edit", "Ctrl+X", _cut, selected),
    Command("paste", "Paste at the playhead", "Edit", "Ctrl+V", clipboard.paste),
    Command("paste-attributes", "Paste attributes…", "Edit", "Ctrl+Shift+V",
            lambda w: done(w.paste_attributes()), selected),
    Command("duplicate", "Duplicate", "Edit", "Ctrl+D", making("Duplicate", duplicate_clips), selected),
    Command("remove", "Remove", "Edit", "Delete", _remove, selected),
    Command("remove-gap", "Remove and close the gap", "Edit", "Shift+Delete",
            on_selection("Remove and close the gap of", remove_clips_and_gaps), selected),
    Command("select-all", "Select all clips", "Edit", "Ctrl+A", _select_all, ruled=True, under="Select"),
    Command("select-after", "Select all after the playhead", "Edit", "Ctrl+Shift+A", _select_after, under="Select"),
    Command("select-next", "Select the next clip", "Edit", "Ctrl+Tab", _select_next(1, False), under="Select"),
    Command("select-previous", "Select the previous clip", "Edit", "Ctrl+Shift+Tab", _select_next(-1, False), under="Select"),
    Command("add-next", "Add the next clip to the selection", "Edit", "", _select_next(1, True), under="Select"),
    Command("add-previous", "Add the previous clip to the selection", "Edit", "",
            _select_next(-1, True), under="Select"),
    Command("select-none", "Select nothing", "Edit", "Ctrl+Shift+D", lambda w: w.document.select(), selected, under="Select"),
    Command("split", "Split at the playhead", "Edit", "S", _split(False), selected, ruled=True),
    Command("split-all", "Split all unlocked tracks", "Edit", "", _split(True)),
    Command("nudge-left", "Nudge one frame earlier", "Edit", "Ctrl+Left", _nudge(-1), selected, ruled=True, under="Move"),
    Command("nudge-right", "Nudge one frame later", "Edit", "Ctrl+Right", _nudge(1), selected, under="Move"),
    Command("nudge-left-10", "Nudge ten frames earlier", "Edit", "Ctrl+Shift+Left", _nudge(-10), selected, under="Move"),
    Command("nudge-right-10", "Nudge ten frames later", "Edit", "Ctrl+Shift+Right", _nudge(10), selected, under="Move"),
    Command("clip-up", "Move to the track above", "Edit", "Ctrl+Up", _nudge(0, 1), selected, under="Move"),
    Command("clip-down", "Move to the track below", "Edit", "Ctrl+Down", _nudge(0, -1), selected, under="Move"),
)  # fmt: skip
