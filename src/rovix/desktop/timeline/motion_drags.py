"""Hands on a clip's motion profile: the ticks on which pieces set off, and where stages begin."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF
from PySide6.QtWidgets import QToolTip

from rovix.desktop.timeline.drags import Drafting
from rovix.desktop.timeline.profile_painter import profile_of, told_apart
from rovix.edit.pacing import move_start
from rovix.edit.snapping import snap_frames, snapped
from rovix.edit.stages import set_stage, stage_edge, staged
from rovix.edit.tree import clip_of
from rovix.model import PictureClip, Project
from rovix.model.clip_kinds import is_layer
from rovix.motion import clip_spans

if TYPE_CHECKING:
    from rovix.desktop.timeline.surface import Surface

_REACH, _LOW, _HIGH = 4.0, 8.0, 10.0
"""Px across from a tick or stage, and of a clip's lower and upper edge, that take hold of it."""


@dataclass(frozen=True, slots=True)
class Grip:
    """A tick of a move by its `rank`, or where the move begins as a stage, and its frame of the clip."""

    move: str
    frame: float
    rank: int | None = None


def grip_at(canvas: Surface, clip: PictureClip, box: QRectF, point: QPointF) -> Grip | None:
    """The tick or stage of a clip under a point: ticks at its foot, stages at its head."""
    document = canvas.document
    frame, reach = canvas.scale.frame(point.x()) - clip.start, _REACH / canvas.scale.px
    if point.y() >= box.bottom() - _LOW:
        profile = profile_of(clip, document.project.sequence.size, document.rate)
        ticks = [
            Grip(found.move, at, rank)
            for found in profile.ticks
            if found.role != "loop" and told_apart(found.frames, canvas.scale.px)
            for rank, at in enumerate(found.frames.tolist())
        ]
    elif point.y() <= box.top() + _HIGH:
        spans = clip_spans(clip, document.rate)
        ticks = [Grip(m.id, float(stage_edge(clip, m, spans, document.rate))) for m in staged(clip)]
    else:
        return None
    nearest = min(ticks, key=lambda grip: abs(grip.frame - frame), default=None)
    return nearest if nearest is not None and abs(nearest.frame - frame) <= reach else None


class GripDrag(Drafting):
    """Drags a tick or a stage to a frame; they catch on what edges catch on."""

    def __init__(self, canvas: Surface, clip: PictureClip, grip: Grip, point: QPointF) -> None:
        super().__init__(canvas, point)
        self._clip, self._grip = clip, grip
        self.title = "Move a stage" if grip.rank is None else "Move when a piece sets off"
        document = canvas.document
        self._marks = snap_frames(document.committed, document.playhead, (clip.id,), canvas.snaps_to_keys)

    def _frame(self, point: QPointF) -> int:
        """The frame of the clip that the hand has reached."""
        by = (point.x() - self._press.x()) / self._canvas.scale.px
        start = self._clip.start
        return snapped(round(start + self._grip.frame + by), self._marks, self.within) - start

    def edited(self, project: Project, point: QPointF) -> Project:
        grip, identity = self._grip, self._clip.id
        if grip.rank is None:
            return set_stage(project, identity, grip.move, self._frame(point))
        return move_start(project, identity, grip.move, grip.rank, self._frame(point))

    def tell(self, point: QPointF) -> None:
        clip = clip_of(self._canvas.document.project, self._clip.id)
        if is_layer(clip):
            said = tip_of(clip, self._grip, self._frame(point))
            QToolTip.showText(self._canvas.mapToGlobal(point.toPoint()), said, self._canvas)


def tip_of(clip: PictureClip, grip: Grip, frame: float) -> str:
    """What a grip is, in words and numbers."""
    move = next((own for own in clip.moves if own.id == grip.move), None)
    name = "" if move is None else move.name or move.role.capitalize()
    if grip.rank is not None:
        return f"{name}: piece {grip.rank + 1} sets off at layer frame {frame:.4g}. Drag it."
    ends = move is not None and move.leaves
    return f"{name} {'ends' if ends else 'begins'} at layer frame {frame:.4g}. Drag it."
