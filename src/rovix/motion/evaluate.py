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
from rovix.model.on_track import clip_at
from rovix.motion.colours import laid_over
from rovix.motion.dress import paint_of, stroke_of
from rovix.motion.effects import affected
from rovix.motion.joins import Joined, joined_at
from rovix.motion.layer import LayerState
from rovix.motion.material import material_frame, media_time
from rovix.motion.move_echoes import echo_times
from rovix.motion.plan import (
    EchoPlan,
    ExposurePlan,
    GroundPlan,
    GroupPlan,
    ImagePlan,
    JoinPlan,
    LayerPlan,
    Paint,
    PicturePlan,
    ShapePlan,
    bare,
)
from rovix.motion.scene import Scene, inner_scene, world_of
from rovix.motion.shutter import exposure
from rovix.motion.single_plan import departed_plan
from rovix.motion.subject import shown_size
from rovix.motion.words_plan import has_caret, words_plan

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
        clip = clip_at(track, frame)
        if clip is not None and not isinstance(clip, SoundClip):
            yield _blended(_layer(scene, clip, frame, world), clip.blend)


def _blended(plan: LayerPlan | None, blend: str) -> LayerPlan | None:
    if plan is None or blend == "normal":
        return plan
    assert not isinstance(plan, JoinPlan), "a join is made of layers, it is none"
    return replace(plan, blend=blend)


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
    """The plan of a layer at one frame of its tracks, with its effects."""
    if not clip.effects:
        return _unaffected(scene, clip, at, world)
    return affected(scene, clip, world, lambda moment: _unaffected(scene, clip, moment, world)).at(at)


def _unaffected(scene: Scene, clip: PictureClip, at: float, world: Floats) -> LayerPlan | None:
    """The plan of a layer with what its moves do, trailed by copies where they ask for it."""
    state = scene.state(clip, np.array([float(at - clip.start)]))
    own = _departed(scene, clip, state, at, world)
    strengths = state.pieces["echo"][0]
    if state.echoes is None or not strengths.any():
        return own
    times = echo_times(scene, clip, state.echoes, at)
    trail = [
        _trailing(scene, clip, time, world, strengths**number) for number, time in enumerate(times, start=1)
    ]
    # The farthest lies lowest.
    copies = [plan for plan in (*reversed(trail), own) if plan is not None]
    if len(copies) < 2:
        return copies[0] if copies else None
    return EchoPlan(clip.id, tuple((bare(plan), plan.opacity) for plan in copies), "normal")  # type: ignore[union-attr]


def _trailing(scene: Scene, clip: PictureClip, at: float, world: Floats, shares: Floats) -> LayerPlan | None:
    """A layer as it trails itself: its pieces as strong as shares (n,), and no caret."""
    state = scene.state(clip, np.array([float(at - clip.start)]))
    return _departed(scene, clip, replace(state, caret=None), at, world, shares)


def _departed(
    scene: Scene,
    clip: PictureClip,
    state: LayerState,
    at: float,
    world: Floats,
    strengths: Floats | float = 1.0,
) -> LayerPlan | None:
    """A layer's plan in its state at a frame, its pieces by `strengths` (n,) besides."""
    frame = at - clip.start
    opacity = float(state.rest["opacity"][0])
    shares = state.opacity()[0] * strengths
    if opacity == 0 or not (shares.any() or has_caret(state)):
        return None
    rest = world @ world_of(scene, clip, at) @ state.layer[0]
    matrices = rest @ state.local[0]
    if isinstance(state.content, TextClip):
        return words_plan(scene, state, matrices, rest, shares, opacity)
    plan = _single(scene, clip, state, frame, matrices[0], opacity * float(shares[0]))
    return None if plan is None else departed_plan(scene, state, plan, scene.project(matrices), rest)


def _single(
    scene: Scene, clip: PictureClip, state: LayerState, frame: float, matrix: Floats, opacity: float
) -> LayerPlan | None:
    """The plan of a layer that is one piece."""
    if isinstance(clip, GroupClip):
        return _group(scene, clip, frame, matrix, opacity)
    if isinstance(clip, SequenceClip):
        return _sequence(scene, clip, frame, matrix, opacity)
    return _flat(scene, state.content, state, frame, scene.project(matrix), opacity)


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


def _mixed_fill(clip: ShapeClip, state: LayerState) -> Paint:
    """A shape's fill with the colours that its moves lay over it."""
    fill = paint_of(clip.fill)
    for mix in state.mixes:
        fill = laid_over(fill, bgra(mix.colour), float(mix.shares[0, 0]), mix.mix == "linear")
    return fill


def _shape(clip: ShapeClip, state: LayerState, matrix: Floats, opacity: float) -> ShapePlan:
    left, top, right, bottom = state.subject.block
    return ShapePlan(
        clip.id,
        clip.form,
        right - left,
        bottom - top,
        clip.radius,
        None if clip.fill is None else _mixed_fill(clip, state),
        clip.fill_opacity * float(state.pieces["fill_opacity"][0, 0]),
        None if clip.outline is None else stroke_of(clip.outline),
        float(state.pieces["outline_opacity"][0, 0]),
        matrix,
        opacity,
    )
