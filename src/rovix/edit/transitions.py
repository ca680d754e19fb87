"""Joins between clips that touch."""

from __future__ import annotations

from typing import Any

from rovix.edit.tree import clip_by_id, replace, replace_clip, spot_of
from rovix.errors import RovixError
from rovix.model import Clip, Project, Transition, new_id
from rovix.model.clip_kinds import is_layer

KINDS = {"cut": "Cut", "dissolve": "Dissolve", "slide": "Slide", "wipe": "Wipe", "dip": "Dip to a colour"}


def set_transition(project: Project, identity: str, kind: str) -> Project:
    """Let the clip that ends where this one starts give way to it; *cut* takes a join away.

    RovixError when no clip touches it there.
    """
    _check_touching(project, identity)

    def change(clip: Clip) -> Clip:
        if not is_layer(clip):
            raise RovixError("Sounds fade; pictures are joined.")
        if kind == "cut":
            return replace(clip, transition=None)
        transition = clip.transition or Transition(id=new_id(), angle=180.0)
        return replace(clip, transition=replace(transition, kind=kind))

    return replace_clip(project, identity, change)


def change_transition(project: Project, identity: str, **changes: Any) -> Project:
    """Change fields of the join before a clip: length (s), curve, angle, feather, colour."""

    def change(clip: Clip) -> Clip:
        transition = getattr(clip, "transition", None)
        if transition is None:
            raise RovixError(f"'{clip.title}' follows on a cut; choose a transition first.")
        return replace(clip, transition=replace(transition, **changes))

    return replace_clip(project, identity, change)


def touched(project: Project, identity: str) -> Clip | None:
    """The clip that ends where a clip starts, on its track."""
    clip = clip_by_id(project, identity)
    if clip is None:
        return None
    clips = project.sequence.tracks[spot_of(project, identity).track].clips
    return next((other for other in clips if other.span.end == clip.start), None)


def transition_near(project: Project, identity: str, frame: int) -> str | None:
    """The clip after the nearest cut of a clip: itself or the next one, where clips touch."""
    clip = clip_by_id(project, identity)
    if clip is None:
        return None
    clips = project.sequence.tracks[spot_of(project, identity).track].clips
    following = next((other for other in clips if other.start == clip.span.end), None)
    own = touched(project, identity) is not None
    if following is not None and (not own or frame - clip.start > clip.length / 2):
        return following.id
    return identity if own else None


def _check_touching(project: Project, identity: str) -> None:
    if touched(project, identity) is None:
        clip = clip_by_id(project, identity)
        name = (clip.title) if clip else identity
        raise RovixError(f"No clip ends where '{name}' starts. Move one of them up to the other first.")
