"""What a picture shows, in numbers."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from rovix.model import Move, PictureClip, Project, Sequence
from rovix.model.clip_kinds import has_words, is_layer, is_nesting
from rovix.model.effects.echo_trail import EchoTrail
from rovix.model.effects.wipe import Wipe
from rovix.model.effects.wrap_around import WrapAround
from rovix.model.on_track import clip_at
from rovix.motion.at_frame import at_frame
from rovix.motion.crossing import counted_speed
from rovix.motion.effects import affected
from rovix.motion.effects.echo_trail import trail_times
from rovix.motion.layer import LayerState
from rovix.motion.move_echoes import echo_times
from rovix.motion.offsets import offset_at
from rovix.motion.pace import asked_frames, clip_spans
from rovix.motion.scene import Scene, nested, world_of
from rovix.motion.spelling import stand_ins
from rovix.motion.subject import Subject, look_reach
from rovix.motion.transform import mapped
from rovix.motion.transitions import joined_at
from rovix.motion.words_plan import window_polygons

Floats = NDArray[np.float64]


def describe(project: Project, frame: int, sequence: Sequence | None = None) -> dict[str, Any]:
    """`{frame, rate, size, layers}` of a picture; layers from the lowest up, see docs/describe.md.

    A group's layers stand under its `layers`. Bounds are px from the frame's centre.
    """
    sequence = sequence or project.sequence
    return {
        "frame": frame,
        "rate": sequence.rate,
        "size": list(sequence.size),
        "layers": _layers(Scene.of(project, sequence), frame, np.eye(4)),
    }


def _layers(scene: Scene, frame: float, world: Floats) -> list[dict[str, Any]]:
    found = []
    for track in scene.tracks:
        if track.kind != "picture" or track.hidden:
            continue
        joined = joined_at(track, scene.rate, frame)
        if joined is not None:
            for part, clip in (("before", joined.before), ("after", joined.after)):
                said = {"kind": joined.transition.kind, "part": part, "share": joined.share(frame)}
                found.append(_layer(scene, clip, frame, world) | {"transition": said})
            continue
        shown = clip_at(track, frame)
        if is_layer(shown):
            found.append(_layer(scene, shown, frame, world))
    return found


def _layer(scene: Scene, clip: PictureClip, at: float, world: Floats) -> dict[str, Any]:
    frame = at - clip.start
    state = scene.state(clip, np.array([float(frame)]))
    rest = world @ world_of(scene, clip, at) @ state.layer[0]
    matrices = rest @ state.local[0]
    layer = {
        "id": clip.id,
        "name": clip.name,
        "kind": type(clip).__struct_config__.tag,
        "frame": frame,
        "bounds": _bounds(scene, clip, state, matrices, rest),
        "opacity": float(state.rest["opacity"][0]),
        "blend": clip.blend,
        **_repeated(scene, clip, state, at, world),
        **_going(scene, clip, frame),
        "pieces": _pieces(clip, state, frame),
    }
    if is_nesting(clip):
        found = nested(scene, clip, frame, matrices[0])
        layer["layers"] = _layers(found.scene, _plain(found.frame), found.world) if found else []
    return layer


def _going(scene: Scene, clip: PictureClip, frame: float) -> dict[str, Any]:
    """The layer's moves by role, first frame and length, and how it crosses; nothing where it rests."""
    rate, found = scene.rate, dict[str, Any]()
    if clip.moves:
        spans = clip_spans(clip, rate)
        found["moves"] = [
            {
                "name": move.name, "role": move.role, "start": spans.start(move, rate),
                "frames": spans.frames(move, rate), "needs": asked_frames(clip, move, rate), **_typed(move),
            }
            for move in clip.moves
        ]  # fmt: skip
    way = scene.motion(clip, frame).crossing
    if way is not None and clip.crossing is not None:
        words = counted_speed(way, "words", rate)
        read = {} if words is None else {"words_a_minute": words}
        found["crossing"] = {"way": clip.crossing.way, "px": abs(way.step), "needs": way.needed, **read}
    return found


def _typed(move: Move) -> dict[str, Any]:
    """How many pieces a second are typed at an even pace."""
    even = move.typing is not None and move.typing.rhythm == "even"
    return {"a_second": move.pace.a_second} if even and move.pace is not None else {}


def _plain(frame: float) -> float:
    """A frame as a whole number where it is one."""
    return int(frame) if frame == int(frame) else frame


def _repeated(scene: Scene, clip: PictureClip, state: LayerState, at: float, world: Floats) -> dict[str, Any]:
    """What its offsets and echoes, and its moves', do to a layer; nothing where it has none."""
    found: dict[str, Any] = {}
    shown = [effect for effect in clip.effects if effect.shown]
    offsets = (state.pieces[name] for name in ("offset_x", "offset_y"))
    moved = np.array([float(offset.mean()) if offset.any() else 0.0 for offset in offsets])
    if moved.any() or any(isinstance(effect, WrapAround) for effect in shown):
        found["offset"] = (offset_at(clip, at - clip.start, scene.size) + moved).tolist()
    layer = affected(scene, clip, world, lambda _: None, lambda *_: None)
    trails = [
        (echo.strength, trail_times(layer, echo, at))
        for echo in (at_frame(own, at - clip.start) for own in shown if isinstance(own, EchoTrail))
    ]
    kept = float(state.pieces["echo"].max(initial=0.0))
    if state.echoes is not None and kept > 0:
        trails.insert(0, (kept, echo_times(scene, clip, state.echoes, at)))
    if trails:
        found["echoes"] = [
            {"frame": time - clip.start, "strength": kept**number}
            for kept, times in trails
            for number, time in enumerate(times, start=1)
        ]
    return found


def _wiped(clip: PictureClip, frame: float) -> float:
    """The share that wipes leave, the smallest of them."""
    wipes = (at_frame(t, frame) for t in clip.effects if isinstance(t, Wipe) and t.shown)
    return min((1 - wipe.share if wipe.hides else wipe.share for wipe in wipes), default=1.0)


def _pieces(clip: PictureClip, state: LayerState, frame: float) -> list[dict[str, Any]]:
    shown = stand_ins(state)
    texts = [_shown_text(state, number, shown) for number in range(len(state.subject))]
    return [{"text": text, **_piece(clip, state, frame, number)} for number, text in enumerate(texts)]


def _piece(clip: PictureClip, state: LayerState, frame: float, number: int) -> dict[str, Any]:
    rest, moved = state.rest, state.departure(0, number)
    added = ("x", "y", "z", "rotation_z", "rotation_x", "rotation_y", "slant")
    piece: dict[str, Any] = {name: float(rest[name][0] + moved[name]) for name in added}
    piece |= {name: float(rest[name][0] * moved[name]) for name in ("scale_x", "scale_y")}
    piece["opacity"] = float(rest["opacity"][0] * state.opacity()[0, number])
    content = state.content
    if has_words(content):
        fill = content.look.fill
        piece["fill_opacity"] = float(moved["fill_opacity"] * (fill.opacity if fill else 0.0))
        for name in ("outline_opacity", "shadow_opacity", "glow_opacity"):
            piece[name] = float(moved[name])
        piece["tracking"] = float(content.text.tracking + moved["tracking"])
    for name in ("blur_x", "blur_y"):
        piece[name] = float(np.hypot(rest[name][0], moved[name]))
    piece["colour"] = float(moved["colour"])
    piece["wipe"] = min(_wiped(clip, frame), float(moved["wipe"]))
    piece["shown"] = bool(state.shown[0, number])
    return piece


def _shown_text(state: LayerState, number: int, shown: dict[int, str]) -> str:
    """What a piece says: its words, or what is shown in their place."""
    start, text = int(state.subject.starts[number]), state.subject.texts[number]
    return "".join(shown.get(start + at, character) for at, character in enumerate(text)) if shown else text


def _within(points: Floats, polygons: tuple[Floats, ...]) -> Floats:
    """Points brought into the boxes of polygons; none where all of them lie on one side of one."""
    for polygon in polygons:
        low, high = polygon.min(axis=0), polygon.max(axis=0)
        if (points <= low).all(axis=0).any() or (points >= high).all(axis=0).any():
            return points[:0]
        points = np.clip(points, low, high)
    return points


def _bounds(
    scene: Scene, clip: PictureClip, state: LayerState, matrices: Floats, rest: Floats
) -> list[float] | None:
    """The box of all ink that is to be seen, outlines and all, or None where there is none.

    Of what is cut at a slant it is the box before, cut by the box of the edges.
    """
    if state.rest["opacity"][0] == 0:
        return None
    points = []
    flat = scene.project(matrices)
    windows, open_ = window_polygons(scene, state, flat, rest)
    for number in np.flatnonzero((state.opacity()[0] > 0) & open_).tolist():
        ink = ink_points(state.subject, number, look_reach(state.content))
        if len(ink):
            points.append(_within(mapped(flat[number], ink), windows[number] if windows else ()))
    seen = np.concatenate(points) if points else np.zeros((0, 2))
    seen = seen[np.isfinite(seen).all(axis=1)]
    if not len(seen):
        return None
    middle = np.array(scene.frame) / 2
    return [*(seen.min(axis=0) - middle).tolist(), *(seen.max(axis=0) - middle).tolist()]


def ink_points(subject: Subject, piece: int, reach: float) -> Floats:
    """(m, 2): outline control points of a piece in the layer's px; boxes give their corners.

    With an outline each point stands for the square that the outline's width draws round it.
    """
    if subject.layout is None or subject.of_glyph is None:
        left, top, right, bottom = subject.ink[piece]
        points = np.array([[left, top], [right, top], [right, bottom], [left, bottom]])
        return points[np.isfinite(points).all(axis=1)]
    layout = subject.layout
    parts = [np.zeros((0, 2))]
    for glyph in np.flatnonzero(subject.of_glyph == piece):
        face = layout.faces[layout.face[glyph]]
        scale = layout.em[glyph] / face.upem
        outline = face.outline(int(layout.glyph[glyph])).points * (scale, -scale)  # outlines go up
        parts.append(outline + np.array([layout.x[glyph], layout.y[glyph]]))
    points = np.concatenate(parts)
    if reach == 0:
        return points
    return np.concatenate([points + np.array([dx, dy]) * reach for dx in (-1, 1) for dy in (-1, 1)])
