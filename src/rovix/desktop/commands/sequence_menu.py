"""Sequence: settings, several sequences, markers."""

from __future__ import annotations

from typing import TYPE_CHECKING

from rovix.desktop.commands.command import Command, Run
from rovix.edit.markers import add_marker, neighbour, remove_marker
from rovix.model import Marker

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame


def marker_here(window: Frame) -> Marker | None:
    """The marker on the playhead's frame."""
    document = window.document
    markers = document.project.sequence.markers
    return next((marker for marker in markers if marker.frame == document.playhead), None)


def _mark(window: Frame) -> None:
    """Also while it plays: nothing stops for it."""
    document = window.document
    frame = document.playhead
    count = len(document.project.sequence.markers) + 1
    document.do("Put a marker", lambda p: add_marker(p, frame, f"Marker {count}"))


def _unmark(window: Frame) -> None:
    marker = marker_here(window)
    if marker is not None:
        window.document.do(f"Remove {marker.name}", lambda p: remove_marker(p, marker.id))


def _to_marker(way: int) -> Run:
    def run(window: Frame) -> None:
        document = window.document
        frame = neighbour(document.project, document.playhead, way)
        if frame is not None:
            window.projector.stop()
            document.seek(frame)

    return run


def _marked(window: Frame) -> bool:
    return bool(window.document.project.sequence.markers)


def _no_group(window: Frame) -> bool:
    return not window.document.level.groups


SEQUENCE = (
    Command("sequence-settings", "Size, rate and background…", "Sequence", "Ctrl+,",
            lambda w: w.open_sequence_settings(), _no_group),
    Command("new-sequence", "New sequence…", "Sequence", "", lambda w: w.new_sequence()),
    Command("sequences", "All sequences…", "Sequence", "Ctrl+Shift+E", lambda w: w.open_sequences()),
    Command("marker", "Put a marker at the playhead", "Sequence", "M", _mark, _no_group, ruled=True),
    Command("name-marker", "Name the marker here…", "Sequence", "Shift+M",
            lambda w: w.timeline.canvas.rename_marker(), lambda w: marker_here(w) is not None),
    Command("remove-marker", "Remove the marker here", "Sequence", "Alt+Shift+M", _unmark,
            lambda w: marker_here(w) is not None),
    Command("next-marker", "To the next marker", "Sequence", "Alt+PgDown", _to_marker(1), _marked),
    Command("previous-marker", "To the previous marker", "Sequence", "Alt+PgUp", _to_marker(-1), _marked),
)  # fmt: skip
