"""The plan of a layer at a moment, by its kind of clip."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any, cast

import numpy as np
from numpy.typing import NDArray

from rovix.model import (
    AreaClip,
    BackgroundClip,
    Cut,
    FootageClip,
    GroupClip,
    PictureClip,
    SequenceClip,
    ShapeClip,
    StillClip,
    TextClip,
    bgra,
)
from rovix.model.clip_kinds import has_words
from rovix.model.track import NestingClip
from rovix.motion.colours import laid_over
from rovix.motion.forms import form_polygon
from rovix.motion.layer import LayerState
from rovix.motion.look_plan import paint_of, stroke_of
from rovix.motion.material import media_time
from rovix.motion.plan import BackgroundPlan, GroupPlan, ImagePlan, LayerPlan, Paint, ShapePlan, StepPlan
from rovix.motion.scene import Scene, nested
from rovix.motion.single_plan import moved_plan
from rovix.motion.steps import MaskStep
from rovix.motion.subject import shown_size
from rovix.motion.transform import scaled, seen_part, shifted
from rovix.motion.words_plan import words_plan

Floats = NDArray[np.float64]
Layers = Callable[[Scene, float, Floats], tuple[LayerPlan, ...]]
"""Gives the plans of a scene's layers at a frame of it, under a matrix (4, 4)."""


@dataclass(frozen=True, slots=True, eq=False)
class Moment:
    """A layer in its state at a `frame` of its own.

    `rest` (4, 4) is the layer's matrix, `matrices` (n, 4, 4) its pieces', shown by `shares` (n,);
    `opacity` is the whole layer's; `layers` draws those that it holds.
    """

    scene: Scene
    clip: PictureClip
    state: LayerState
    frame: float
    rest: Floats
    matrices: Floats
    shares: Floats
    opacity: float
    layers: Layers

    @property
    def at_frame(self) -> Any:
        """The clip with its look or shape as they are now."""
        return self.state.content

    @property
    def whole(self) -> float:
        """The opacity of a layer that is one piece."""
        return self.opacity * float(self.shares[0])

    @property
    def flat(self) -> Floats:
        """(3, 3): where a layer that is one piece lies in the picture."""
        return self.scene.project(self.matrices[0])


def plan_of(moment: Moment) -> LayerPlan | None:
    """The plan of a layer, whatever its kind; None where nothing of it is to be seen."""
    plan = PLANS[type(moment.clip)](moment)
    if plan is None or has_words(moment.clip):
        # The moves of words act piece by piece, which their plan has seen to.
        return plan
    flat = moment.scene.project(moment.matrices)
    return moved_plan(moment.scene, moment.state, plan, flat, moment.rest)


def _words(moment: Moment) -> LayerPlan | None:
    return words_plan(moment.scene, moment.state, moment.matrices, moment.rest, moment.shares, moment.opacity)


def _background(moment: Moment) -> LayerPlan:
    clip: BackgroundClip = moment.at_frame
    across, down = map(float, moment.scene.size)
    return BackgroundPlan(clip.id, paint_of(clip.background), across, down, moment.flat, opacity=moment.whole)


def _footage(moment: Moment) -> LayerPlan:
    clip: FootageClip = moment.at_frame
    file = moment.scene.file_of(clip)
    width, height = shown_size(clip, moment.scene.size, file)
    time = media_time(moment.scene.rate, clip, moment.frame)
    clear = file is not None and file.alpha
    made = ImagePlan(
        clip.id, clip.media, time, width, height, moment.flat, "none", clear=clear, opacity=moment.whole
    )
    return made if clip.cut is None else _cut(moment, made, clip.cut)


def _still(moment: Moment) -> LayerPlan:
    clip: StillClip = moment.at_frame
    width, height = shown_size(clip, moment.scene.size, moment.scene.file_of(clip))
    made = ImagePlan(clip.id, clip.media, None, width, height, moment.flat, clip.crop, opacity=moment.whole)
    return made if clip.cut is None else _cut(moment, made, clip.cut)


def _cut(moment: Moment, plan: ImagePlan, cut: Cut) -> LayerPlan:
    """A picture cut to a form, placed within it."""
    placed = moment.matrices[0] @ shifted(cut.x, cut.y) @ scaled(cut.zoom, cut.zoom)
    inner = replace(plan, matrix=moment.scene.project(placed), opacity=1.0)
    ring = form_polygon(cut.form, cut.width, cut.height, cut.radius, cut.contour)
    seen = seen_part(moment.flat, ring) if len(ring) else ring
    return StepPlan(plan.id, inner, MaskStep((seen,) if len(seen) else ()), opacity=plan.opacity)


def _nesting(moment: Moment) -> LayerPlan | None:
    clip = cast(NestingClip, moment.clip)
    found = nested(moment.scene, clip, moment.frame, moment.matrices[0])
    if found is None:
        return None
    layers = moment.layers(found.scene, found.frame, found.world)
    frame = None if found.outward is None else found.scene.size
    return GroupPlan(clip.id, layers, frame, found.outward, opacity=moment.whole)


def _shape(moment: Moment) -> LayerPlan:
    clip: ShapeClip = moment.at_frame
    pieces = moment.state.pieces
    left, top, right, bottom = moment.state.subject.block
    return ShapePlan(
        clip.id,
        clip.form,
        right - left,
        bottom - top,
        clip.radius,
        None if clip.fill is None else _mixed_fill(clip, moment.state),
        clip.fill_opacity * float(pieces["fill_opacity"][0, 0]),
        None if clip.outline is None else stroke_of(clip.outline),
        float(pieces["outline_opacity"][0, 0]),
        moment.flat,
        opacity=moment.whole,
    )


def _mixed_fill(clip: ShapeClip, state: LayerState) -> Paint:
    """A shape's fill with the colours that its moves lay over it."""
    fill = paint_of(clip.fill)
    for mix in state.mixes:
        fill = laid_over(fill, bgra(mix.colour), float(mix.shares[0, 0]), mix.mix == "linear")
    return fill


PLANS: dict[type[PictureClip], Callable[[Moment], LayerPlan | None]] = {
    TextClip: _words,
    FootageClip: _footage,
    StillClip: _still,
    BackgroundClip: _background,
    ShapeClip: _shape,
    AreaClip: lambda _: None,
    GroupClip: _nesting,
    SequenceClip: _nesting,
}
