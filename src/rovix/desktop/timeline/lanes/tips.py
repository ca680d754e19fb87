"""What lanes say under the mouse."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF

from rovix.desktop.timeline.lanes.painter import said_of_reading
from rovix.desktop.timeline.lanes.state import MOVES, Lane
from rovix.desktop.timeline.scale import HEADER
from rovix.edit.channels import value_at
from rovix.edit.tree import clip_by_id
from rovix.model import Clip
from rovix.model.fields import ANIMATED
from rovix.motion.reading import reading

if TYPE_CHECKING:
    from rovix.desktop.timeline.lanes.lanes import Lanes


def tip(lanes: Lanes, lane: Lane, point: QPointF) -> str:
    """What is under a point of a lane, in words and numbers."""
    clip = clip_by_id(lanes.document.project, lane.clip)
    if clip is None:
        return ""
    if lane.address is None:
        if point.x() < HEADER:
            return "Which channels have lanes, and whether their speed is drawn. Click to choose."
        return "Drag an end of the bracket to stretch the selected keys; drag elsewhere to select keys."
    if point.x() < HEADER:
        return _header_tip(lanes, lane, clip)
    return _curve_tip(lanes, lane, clip, point)


def _header_tip(lanes: Lanes, lane: Lane, clip: Clip) -> str:
    said = lanes.fact(clip, lane.address or "").said
    if (lane.address or "").startswith(MOVES):
        piece = "of the first piece, or of the first selected letter"
        return (
            f"{said}, {piece}: the pip sets an inner key, the arrows go to the next and previous one. "
            "Double-click the lane for a key there, right-click for its curve."
        )
    return (
        f"{said}: the pip sets a key, the arrows go to the next and previous one. "
        "Double-click selects all keys, right-click for more, drag the lower edge for height."
    )


def _curve_tip(lanes: Lanes, lane: Lane, clip: Clip, point: QPointF) -> str:
    curve, address = lanes.curve(lane), lane.address or ""
    held, fact = lanes.held(clip, address), lanes.fact(clip, address)
    frame = min(max(0, round(lanes.canvas.scale.frame(point.x())) - clip.start), clip.length - 1)
    parts = [f"{fact.said}: {fact.shown(value_at(held, frame))} at layer frame {frame}"]
    key = curve.key_under(point) if curve is not None else None
    if key is not None:
        parts.append(f"Key at layer frame {key.frame}, goes on by {key.curve}")
    if isinstance(held, ANIMATED) and len(held.keys) > 1:
        found = reading(held)
        parts.append(said_of_reading(found, clip.length))
        parts.append(f"fastest {fact.shown(found.fastest)} per frame, up to frame {found.fastest_at}")
        if found.breaks:
            frames = ", ".join(map(str, found.breaks))
            parts.append(f"the speed jumps at frame {frames}; Even out the speed mends it")
    return "\n".join(part for part in parts if part)
