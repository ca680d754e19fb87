"""Inner keys of moves worked on by the commands that keys have."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from rovix.desktop.commands.command import Run, When, called
from rovix.desktop.timeline.lanes.move_lanes import looked_at
from rovix.edit.inner_keys import (
    Chosen,
    keys_on_frames,
    move_inner_keys,
    remove_inner_keys,
    set_inner_curves,
    turn_inner_key,
)
from rovix.edit.tree import clip_of
from rovix.model import Project

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame

InnerEdit = Callable[[Project, str, Chosen], Project]


def on_inner_keys(title: str, edit: InnerEdit) -> Run:
    """A command that edits the selected inner keys as one step."""

    def run(window: Frame) -> None:
        inner = window.document.inner
        chosen = {clip: inner.of(clip) for clip in inner.clips()}

        def edited(project: Project) -> Project:
            for identity, own in chosen.items():
                project = edit(project, identity, own)
            return project

        window.document.do(f"{title} of {called(window)}", edited)

    return run


def or_inner(inner: Run, keys: Run) -> Run:
    """One command for whichever keys are selected: those of a move, else those of clips."""
    return lambda window: (inner if window.document.inner else keys)(window)


def when_inner(otherwise: When) -> When:
    """Whether inner keys are selected, or what else holds."""
    return lambda window: bool(window.document.inner) or otherwise(window)


def shape_inner(title: str, curve: str) -> Run:
    """The way on from the selected inner keys."""
    return on_inner_keys(title, lambda p, i, chosen: set_inner_curves(p, i, chosen, curve))


remove_inner = on_inner_keys("Remove the inner keys", remove_inner_keys)


def nudge_inner(frames: int) -> Run:
    """Move the selected inner keys in time."""

    def run(window: Frame) -> None:
        document = window.document

        def edit(project: Project, identity: str, chosen: Chosen) -> Project:
            clip = clip_of(project, identity)
            ways = {m: keys_on_frames(project, clip, m, n, looked_at(document, clip)) for m, n in chosen}
            by = {m: frames / way.length if way.length else 0.0 for m, way in ways.items()}
            return move_inner_keys(project, identity, chosen, by)

        on_inner_keys("Nudge the inner keys", edit)(window)

    return run


def add_inner(window: Frame) -> None:
    """A key at the playhead in each channel of the move that is tuned, or those away where all have one."""
    document, clip, move = window.document, window.document.clip, window.document.tuned
    if clip is None or move is None:
        return
    frame, piece = document.playhead - clip.start, looked_at(document, clip)

    def edit(project: Project) -> Project:
        for number in range(len(move.channels)):
            project = turn_inner_key(project, clip.id, move.id, number, frame, piece)
        return project

    document.do(f"Set or take away inner keys of {called(window)}", edit)


def has_way(window: Frame) -> bool:
    """Whether the playhead is on the way of the move that is tuned."""
    document, clip, move = window.document, window.document.clip, window.document.tuned
    if clip is None or move is None or not move.channels:
        return False
    held = keys_on_frames(document.project, clip, move.id, 0, looked_at(document, clip))
    return 0 < held.share(document.playhead - clip.start) < 1
