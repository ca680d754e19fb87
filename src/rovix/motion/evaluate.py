"""From a project and a frame to the plan of its picture."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from rovix.model import (
    FootageClip,
    GroundClip,
    GroupClip,
    PictureClip,
    Project,
    Sequence,
    SequenceClip,
    ShapeClip,
    SoundClip,
    StillClip,
    TextClip,
    bgra,
)
from rovix.motion.dress import glyph_parts, paint_of, stroke_of
from rovix.motion.joins import Joined, joined_at
from rovix.motion.layer import LayerState
from rovix.motion.material import material_frame, media_time
from rovix.motion.plan import (
    ExposurePlan,
    GlyphsPlan,
    GroundPlan,
    GroupPlan,
    ImagePlan,
    JoinPlan,
    LayerPlan,
    PicturePlan,
    ShapePlan,
)
from rovix.motion.scene import Scene, inner_scene, world_of
from rovix.motion.shutter import exposure
from rovix.motion.subject import shown_size
from rovix.motion.treat import Treating

Floats = NDArray[np.float64]


def picture_plan(
    project: Project, frame: float, sequence: Sequence | None = None, editing: bool = False
) -> PicturePlan:
    """The plan of the picture at a frame (whole or between) of a sequence, the first by default.

    While `editing`, motion blur is left out where the sequence says so.
    """
    sequence = sequence or project.sequence
    scene = Scene.of(project, sequence)
    if editing and not sequence.blur_while_editing:
        scene = replace(scene, exposes=False)
    layers = _layers(scene, frame, np.eye(4))
    return PicturePlan(sequence.size, bgra(sequence.ground), layers)


def _layers(scene: Scene, frame: float, world: Floats) -> tuple[LayerPlan, ...]:
    return tuple(plan for plan in _plans(scene, frame, world) if plan is not None)


def _plans(scene: Scene, frame: float, world: Floats) -> Iterator[LayerPlan | None]:
    for track in scene.tracks:
        if track.kind != "picture" or track.hidden:
            continue
        joined = joined_at(track, scene.rate, frame)
        if joined is not None:
            yield _join(scene, joined, frame, world)
            continue
        for clip in track.clips:
            if frame in clip.span and not isinstance(clip, SoundClip):
                yield _blended(_layer(scene, clip, frame, world), clip.blend)


def _blended(plan: LayerPlan | None, blend: str) -> LayerPlan | None:
    if plan is None or blend == "normal":
        return plan
    assert not isinstance(plan, JoinPlan), "a join is made of layers, it is none"
    return replace(plan, blend=blend)


def _blurred(scene: Scene, plan: LayerPlan | None, state: LayerState) -> LayerPlan | None:
    blur = float(state.rest["blur_across"][0]), float(state.rest["blur_down"][0])
    if plan is None or blur == (0.0, 0.0):
        return plan
    assert not isinstance(plan, JoinPlan), "a join is made of layers, it is none"
    # Shown in another sequence, the px of this one are as large as it is drawn there.
    scale = 1.0 if scene.outward is None else float(np.sqrt(abs(np.linalg.det(scene.outward[:2, :2]))))
    return replace(plan, blur=(blur[0] * scale, blur[1] * scale))


def _join(scene: Scene, joined: Joined, frame: float, world: Floats) -> JoinPlan:
    join = joined.join
    return JoinPlan(
        join.id,
        join.kind,
        joined.share(frame),
        _layer(scene, joined.before, frame, world),
        _layer(scene, joined.after, frame, world),
        scene.size,
        join.angle,
        join.feather,
        bgra(join.colour),
    )


def _layer(scene: Scene, clip: PictureClip, at: float, world: Floats) -> LayerPlan | None:
    """The plan of a layer at a frame of its tracks, exposed for as long as the shutter is open."""
    exposed = exposure(scene, clip, at, world)
    if exposed is None:
        return _moment(scene, clip, at, world)
    still = replace(scene, exposes=False)
    plans = tuple(_moment(still, clip, moment, world) for moment in exposed.moments)
    return ExposurePlan(clip.id, plans, exposed.smear) if any(plan is not None for plan in plans) else None


def _moment(scene: Scene, clip: PictureClip, at: float, world: Floats) -> LayerPlan | None:
    """The plan of a layer at one frame of its tracks, with its treatments."""
    if not clip.treatments:
        return _untreated(scene, clip, at, world)
    return Treating(scene, clip, world, lambda moment: _untreated(scene, clip, moment, world)).at(at)


def _untreated(scene: Scene, clip: PictureClip, at: float, world: Floats) -> LayerPlan | None:
    frame = at - clip.start
    state = scene.state(clip, np.array([float(frame)]))
    opacity = float(state.rest["opacity"][0])
    if opacity == 0 or not state.opacity().any():
        return None
    matrices = world @ world_of(scene, clip, at) @ state.layer[0] @ state.local[0]
    return _blurred(scene, _sharp(scene, clip, state, frame, matrices, opacity), state)


def _sharp(
    scene: Scene, clip: PictureClip, state: LayerState, frame: float, matrices: Floats, opacity: float
) -> LayerPlan | None:
    """A layer's plan before its blur."""
    if isinstance(state.content, TextClip):
        return _glyphs(state.content, state, scene.project(matrices), opacity)
    opacity *= float(state.opacity()[0, 0])
    if isinstance(clip, GroupClip):
        return _group(scene, clip, frame, matrices[0], opacity)
    if isinstance(clip, SequenceClip):
        return _sequence(scene, clip, frame, matrices[0], opacity)
    return _flat(scene, state.content, state, frame, scene.project(matrices)[0], opacity)


def _flat(
    scene: Scene, clip: PictureClip, state: LayerState, frame: float, matrix: Floats, opacity: float
) -> LayerPlan:
    if isinstance(clip, GroundClip):
        across, down = map(float, scene.size)
        return GroundPlan(clip.id, paint_of(clip.ground), across, down, matrix, opacity)
    if isinstance(clip, ShapeClip):
        return _shape(clip, state, matrix, opacity)
    assert isinstance(clip, FootageClip | StillClip)
    width, height = shown_size(clip, scene.size, scene.file_of(clip))
    time = media_time(scene.rate, clip, frame) if isinstance(clip, FootageClip) else None
    crop = clip.crop if isinstance(clip, StillClip) else "none"
    return ImagePlan(clip.id, clip.media, time, width, height, matrix, crop, opacity)


def _group(scene: Scene, clip: GroupClip, frame: float, matrix: Floats, opacity: float) -> GroupPlan:
    inside = replace(scene, tracks=clip.tracks)
    inner = float(material_frame(clip, Fraction(frame)))
    return GroupPlan(clip.id, _layers(inside, inner, matrix), opacity)


def _sequence(
    scene: Scene, clip: SequenceClip, frame: float, matrix: Floats, opacity: float
) -> GroupPlan | None:
    found = inner_scene(scene, clip, frame, matrix)
    if found is None:
        return None
    inside, inner, outward = found
    return GroupPlan(clip.id, _layers(inside, inner, np.eye(4)), opacity, inside.size, outward)


def _glyphs(clip: TextClip, state: LayerState, matrices: Floats, opacity: float) -> GlyphsPlan | None:
    subject = state.subject
    if subject.layout is None or subject.of_glyph is None or np.all(np.isnan(subject.ink)):
        return None
    parts = glyph_parts(clip.look, state, matrices)
    if not parts:
        return None
    return GlyphsPlan(clip.id, subject.layout, subject.of_glyph, matrices, state.opacity()[0], parts, opacity)


def _shape(clip: ShapeClip, state: LayerState, matrix: Floats, opacity: float) -> ShapePlan:
    left, top, right, bottom = state.subject.block
    return ShapePlan(
        clip.id,
        clip.form,
        right - left,
        bottom - top,
        clip.radius,
        None if clip.fill is None else paint_of(clip.fill),
        clip.fill_opacity * float(state.pieces["fill_opacity"][0, 0]),
        None if clip.outline is None else stroke_of(clip.outline),
        float(state.pieces["outline_opacity"][0, 0]),
        matrix,
        opacity,
    )
