"""Lines to place layers by."""

from __future__ import annotations

from rovix.edit.tree import replace, with_sequence
from rovix.model import Guide, Project


def add_guide(project: Project, upright: bool, at: float) -> Project:
    """Put a guide into the sequence: upright at x, or level at y, px from the frame's centre."""
    sequence = project.sequence
    guide = Guide(upright=upright, at=at)
    return with_sequence(project, replace(sequence, guides=(*sequence.guides, guide)))


def move_guide(project: Project, identity: str, at: float | None) -> Project:
    """Put a guide to another place; None takes it away."""
    sequence = project.sequence
    guides = tuple(
        replace(guide, at=at) if guide.id == identity and at is not None else guide
        for guide in sequence.guides
        if guide.id != identity or at is not None
    )
    return with_sequence(project, replace(sequence, guides=guides))


def clear_guides(project: Project) -> Project:
    """Take all guides away."""
    return with_sequence(project, replace(project.sequence, guides=()))
