"""What checks found and is left as it is; and boxes that words keep out of."""

from __future__ import annotations

from rovix.check.finding import Finding
from rovix.edit.tree import replace, with_sequence
from rovix.model import Project
from rovix.model.accepted import Accepted, KeepFree

LEAST = 0.002
"""Of the frame: boxes that are smaller are none."""


def accept(project: Project, finding: Finding, reason: str) -> Project:
    """Leave what was found as it is; the same asked again takes the new reason."""
    kept = [one for one in project.sequence.accepted if (one.kind, one.layer or "") != finding.key]
    fresh = Accepted(kind=finding.kind, layer=finding.layer or None, reason=reason.strip())
    return _with(project, accepted=(*kept, fresh))


def look_again(project: Project, kind: str, layer: str) -> Project:
    """No longer accept something."""
    kept = (one for one in project.sequence.accepted if (one.kind, one.layer or "") != (kind, layer))
    return _with(project, accepted=tuple(kept))


def keep_free(project: Project, name: str, box: tuple[float, float, float, float]) -> Project:
    """Keep a box free, left, top, right, bottom as shares of the frame, brought into it."""
    left, right = sorted((_share(box[0]), _share(box[2])))
    top, bottom = sorted((_share(box[1]), _share(box[3])))
    if right - left < LEAST or bottom - top < LEAST:
        return project
    area = KeepFree(name=name or "Keep free", left=left, top=top, right=right, bottom=bottom)
    return _with(project, keep_free=(*project.sequence.keep_free, area))


def change_free(project: Project, identity: str, **changes: object) -> Project:
    """Change an area's name or sides."""
    areas = tuple(replace(a, **changes) if a.id == identity else a for a in project.sequence.keep_free)
    return _with(project, keep_free=areas)


def free_again(project: Project, identity: str) -> Project:
    """No longer keep an area free."""
    return _with(project, keep_free=tuple(a for a in project.sequence.keep_free if a.id != identity))


def _share(value: float) -> float:
    return round(min(1.0, max(0.0, value)), 4)


def _with(project: Project, **changes: object) -> Project:
    return with_sequence(project, replace(project.sequence, **changes))
