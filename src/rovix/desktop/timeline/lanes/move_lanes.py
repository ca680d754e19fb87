"""Lanes of a move: its departures over time, for the piece that is looked at."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF

from rovix.desktop.channel_facts import Fact, moved_fact
from rovix.desktop.timeline.drags import Drafting
from rovix.desktop.timeline.lanes.geometry import LaneCurve
from rovix.edit.departures import set_departure_key
from rovix.edit.inner_keys import key_near, keys_on_frames, move_inner_keys
from rovix.model import Clip, Move, PictureClip, Project
from rovix.model.clip_kinds import has_words, is_layer
from rovix.motion import Scene
from rovix.motion.departure_keys import DepartureKeys

if TYPE_CHECKING:
    from rovix.desktop.document import Document
    from rovix.desktop.timeline.surface import Surface


def move_at(clip: Clip, address: str) -> tuple[int, int, Move] | None:
    """The number of the move and of its channel that an address names, and the move."""
    _, identity, number = address.split(".")
    moves = clip.moves if is_layer(clip) else ()
    index = next((n for n, move in enumerate(moves) if move.id == identity), None)
    if index is None or int(number) >= len(moves[index].channels):
        return None
    return index, int(number), moves[index]


def move_fact(clip: Clip, address: str) -> Fact:
    """What a move's lane is called, in which unit."""
    found = move_at(clip, address)
    if found is None:
        return Fact("Move", "")
    _, number, move = found
    plain = moved_fact(move.channels[number].channel)
    named = move.name or move.role.capitalize()
    return Fact(f"{named}: {plain.said.lower()}", plain.unit, plain.factor, plain.decimals)


def looked_at(document: Document, clip: Clip) -> int:
    """The number of the piece whose way is drawn: that of the first selected letter, else the first."""
    if document.letters is None or not has_words(clip) or clip.id != document.selected:
        return 0
    subject = Scene.of(document.project).motion(clip).subject
    return max(0, int((subject.starts <= document.letters[0]).sum()) - 1)


def keys_of_move(document: Document, clip: PictureClip, address: str) -> DepartureKeys | None:
    """The keys that stand for a move's channel; None where the move is gone."""
    found = move_at(clip, address)
    if found is None:
        return None
    return keys_on_frames(document.project, clip, found[2].id, found[1], looked_at(document, clip))


def keyed_state(clip: Clip, address: str, held: DepartureKeys, frame: int) -> str:
    """Whether a move's channel has an inner key on a frame: none, animated or key."""
    found = move_at(clip, address)
    if found is None or not found[2].channels[found[1]].keys:
        return "none"
    return "key" if key_near(held, frame) is not None else "animated"


class DepartureDrag(Drafting):
    """Drags a key of a move: its value, and inner ones in time too; the picture goes to its frame."""

    def __init__(self, canvas: Surface, curve: LaneCurve, number: int, point: QPointF) -> None:
        super().__init__(canvas, point)
        document = canvas.document
        self._curve, self._number = curve, number
        assert is_layer(curve.clip), "only layers move"
        found = keys_of_move(document, curve.clip, curve.lane.address or "")
        assert found is not None
        self._found = found
        self._others = self._chosen_with_it(document)
        self.title = f"Shape {move_fact(curve.clip, curve.lane.address or '').said.lower()}"
        canvas.projector.stop()
        document.seek(round(curve.clip.start + float(found.keys.keys[number].frame)))

    def _chosen_with_it(self, document: Document) -> dict[tuple[str, int], tuple[int, ...]]:
        """The other selected inner keys of the clip, which go along in time."""
        where = move_at(self._curve.clip, self._curve.lane.address or "")
        assert where is not None
        own = (where[2].id, where[1])
        chosen = document.inner.of(self._curve.clip.id)
        left = {spot: tuple(n for n in ns if (spot, n) != (own, self._number)) for spot, ns in chosen.items()}
        return {spot: numbers for spot, numbers in left.items() if numbers}

    def edited(self, project: Project, point: QPointF) -> Project:
        curve, found, number = self._curve, self._found, self._number
        key = found.keys.keys[number]
        where = move_at(curve.clip, curve.lane.address or "")
        assert where is not None
        value = key.value
        if number not in found.fixed:
            value += curve.value(point.y()) - curve.value(self._press.y())
        frame = float(key.frame) + curve.frame(point.x()) - curve.frame(self._press.x())
        at = found.share(round(frame)) if found.length else None
        project = set_departure_key(
            project, curve.clip.id, where[2].id, where[1], number, found.own(value), at
        )
        by = float(at) - found.share(float(key.frame)) if at is not None else 0.0
        others = {m: by for m, _ in self._others}
        return move_inner_keys(project, curve.clip.id, self._others, others) if self._others else project
