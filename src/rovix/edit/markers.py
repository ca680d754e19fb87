"""Markers: named frames of a sequence."""

from __future__ import annotations

from rovix.edit.tree import replace, with_sequence
from rovix.model import Marker, Project, new_id


def add_marker(project: Project, frame: int, name: str = "") -> Project:
    """Put a marker at a frame; where there is one already, nothing changes."""
    markers = project.sequence.markers
    if any(marker.frame == frame for marker in markers):
        return project
    return _with(project, (*markers, Marker(id=new_id(), frame=frame, name=name)))


def move_marker(project: Project, identity: str, frame: int) -> Project:
    """Move a marker to a frame, 0 or later."""
    return _with(
        project,
        tuple(
            replace(marker, frame=max(0, frame)) if marker.id == identity else marker
            for marker in project.sequence.markers
        ),
    )


def rename_marker(project: Project, identity: str, name: str) -> Project:
    """Give a marker a name."""
    markers = project.sequence.markers
    return _with(project, tuple(replace(m, name=name) if m.id == identity else m for m in markers))


def remove_marker(project: Project, identity: str) -> Project:
    """Take a marker away."""
    return _with(project, tuple(m for m in project.sequence.markers if m.id != identity))


def neighbour(project: Project, frame: int, way: int) -> int | None:
    """The frame of the next marker after (1) or before (-1) a frame, or None."""
    frames = [m.frame for m in project.sequence.markers if (m.frame - frame) * way > 0]
    return min(frames, key=lambda found: abs(found - frame), default=None)


def _with(project: Project, markers: tuple[Marker, ...]) -> Project:
    ordered = tuple(sorted(markers, key=lambda marker: marker.frame))
    return with_sequence(project, replace(project.sequence, markers=ordered))
