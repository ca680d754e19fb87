"""From a project and a frame to the plan of its picture."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from rovix.model import (
    PictureClip,
    Project,
    Sequence,
    bgra,
)
from rovix.model.clip_kinds import has_words, is_layer
from rovix.model.on_track import clip_at
from rovix.motion.clip_plans import Moment, plan_of
from rovix.motion.depth import depth_of, nearest_last
from rovix.motion.effects import affected
from rovix.motion.foresight import exposure_in_run
from rovix.motion.layer import LayerState
from rovix.motion.move_echoes import echo_times
from rovix.motion.plan import (
    EchoPlan,
    ExposurePlan,
    LayerPlan,
    PicturePlan,
    TransitionPlan,
)
from rovix.motion.resting import words_at_rest
from rovix.motion.scene import Scene, world_of
from rovix.motion.transitions import Joined, joined_at
from rovix.motion.words_plan import has_caret

Floats = NDArray[np.float64]


def picture_plan(
    project: Project,
    frame: float,
    sequence: Sequence | None = None,
    editing: bool = False,
    samples: int | None = None,
    run: int = 1,
    step: int = 1,
) -> PicturePlan:
    """The plan of the picture at a frame (whole or between) of a sequence, the first by default.

    While `editing`, motion blur is left out where the sequence says so; it has at most so many
    `samples` where a number is given. With a `run` so many frames from this one on, `step` apart, are
    evaluated together, as they will be asked for next; the plans are the same.
    """
    sequence = sequence or project.sequence
    scene = Scene.of(project, sequence)
    if editing and not sequence.blur_while_editing:
        scene = replace(scene, exposes=False)
    if samples is not None:
        scene = replace(scene, samples=samples)
    if run > 1:
        scene = replace(scene, run=run, step=step)
    layers = _layers(scene, frame, np.eye(4))
    return PicturePlan(sequence.size, bgra(sequence.background), layers)


def _layers(scene: Scene, frame: float, world: Floats) -> tuple[LayerPlan, ...]:
    found = [(clip, plan) for clip, plan in _plans(scene, frame, world) if plan is not None]
    if scene.by_depth:
        found = nearest_last(found, lambda clip: depth_of(scene, clip, frame, world))
    return tuple(plan for _, plan in found)


def _plans(
    scene: Scene, frame: float, world: Floats
) -> Iterator[tuple[PictureClip | None, LayerPlan | None]]:
    """Each layer with its plan, from the lowest up; None for two that give way to each other."""
    for track in scene.tracks:
        if track.kind != "picture" or track.hidden:
            continue
        joined = joined_at(track, scene.rate, frame)
        if joined is not None:
            yield None, _transition(scene, joined, frame, world)
            continue
        clip = clip_at(track, frame)
        if is_layer(clip):
            yield clip, _blended(_layer(scene, clip, frame, world), clip.blend)


def _blended(plan: LayerPlan | None, blend: str) -> LayerPlan | None:
    if plan is None or blend == "normal":
        return plan
    return replace(plan, blend=blend)


def _transition(scene: Scene, joined: Joined, frame: float, world: Floats) -> TransitionPlan:
    transition = joined.transition
    return TransitionPlan(
        transition.id,
        transition.kind,
        joined.share(frame),
        _layer(scene, joined.before, frame, world),
        _layer(scene, joined.after, frame, world),
        scene.size,
        transition.angle,
        transition.feather,
        bgra(transition.colour),
    )


def _layer(scene: Scene, clip: PictureClip, at: float, world: Floats) -> LayerPlan | None:
    """The plan of a layer at a frame of its tracks, exposed for as long as the shutter is open."""
    exposed = exposure_in_run(scene, clip, at, world)
    if exposed is None:
        return _moment(scene, clip, at, world)
    still = replace(scene, exposes=False)
    scene.prepare(clip, [moment - clip.start for moment in exposed.moments])
    plans = tuple(_moment(still, clip, moment, world) for moment in exposed.moments)
    return ExposurePlan(clip.id, plans, exposed.smear) if any(plan is not None for plan in plans) else None


def _moment(scene: Scene, clip: PictureClip, at: float, world: Floats) -> LayerPlan | None:
    """The plan of a layer at one frame of its tracks, with its effects."""
    if not clip.effects:
        return _unaffected(scene, clip, at, world)
    return affected(
        scene,
        clip,
        world,
        lambda moment: _unaffected(scene, clip, moment, world),
        lambda identity, moment: _matte(scene, identity, moment, world),
    ).at(at)


def _matte(scene: Scene, identity: str, at: float, world: Floats) -> LayerPlan | None:
    """The plan of a layer that another shows through; None where it is not there, or shows through that one
    itself. Whether its track is seen does not count."""
    clip = scene.layer(identity)
    if clip is None or identity in scene.mattes or not clip.start <= at < clip.end:
        return None
    return _layer(replace(scene, mattes=(*scene.mattes, identity)), clip, at, world)


def _unaffected(scene: Scene, clip: PictureClip, at: float, world: Floats) -> LayerPlan | None:
    """The plan of a layer with what its moves do, trailed by copies where they ask for it."""
    state = scene.state(clip, np.array([float(at - clip.start)]))
    own = _moved(scene, clip, state, at, world)
    strengths = state.pieces["echo"][0]
    if state.echoes is None or not strengths.any():
        return own
    times = echo_times(scene, clip, state.echoes, at)
    scene.prepare(clip, [time - clip.start for time in times])
    trail = [
        _trailing(scene, clip, time, world, strengths**number) for number, time in enumerate(times, start=1)
    ]
    # The farthest lies lowest.
    copies = [plan for plan in (*reversed(trail), own) if plan is not None]
    if len(copies) < 2:
        return copies[0] if copies else None
    return EchoPlan(clip.id, tuple((plan.bare(), plan.opacity) for plan in copies), "normal")


def _trailing(scene: Scene, clip: PictureClip, at: float, world: Floats, shares: Floats) -> LayerPlan | None:
    """A layer as it trails itself: its pieces as strong as shares (n,), and no caret."""
    state = scene.state(clip, np.array([float(at - clip.start)]))
    return _moved(scene, clip, replace(state, caret=None), at, world, shares)


def _moved(
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
    moment = Moment(scene, clip, state, frame, rest, matrices, shares, opacity, _layers)
    return words_at_rest(moment, plan_of) if has_words(clip) and scene.run > 1 else plan_of(moment)
