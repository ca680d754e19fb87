"""A layer's treatments at a moment: what they do, one after the other."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from math import atan2, degrees, floor

import numpy as np
from numpy.typing import NDArray

from rovix.model import PictureClip, bgra
from rovix.model.treatment import (
    Blur,
    Cast,
    Crop,
    Echo,
    Grain,
    Halo,
    LongCast,
    Opening,
    Rim,
    Sweep,
    Tear,
    Tone,
    Treatment,
    Wipe,
    Wrap,
)
from rovix.motion.dress import paint_of
from rovix.motion.motion_path import motion_path
from rovix.motion.offsets import offset_at, wrap_step
from rovix.motion.plan import (
    EchoPlan,
    FillPart,
    GlyphsPlan,
    GroupPlan,
    JoinPlan,
    LayerPlan,
    ShapePlan,
    StepPlan,
    SweepPlan,
    bare,
)
from rovix.motion.quads import layer_quads
from rovix.motion.scene import Scene, local_frame, world_of
from rovix.motion.settle import settled
from rovix.motion.steps import (
    CastStep,
    GrainStep,
    HaloStep,
    LongCastStep,
    MaskStep,
    PaintStep,
    RimStep,
    RoundStep,
    SoftStep,
    Step,
    TearStep,
    ToneStep,
    TurnStep,
)
from rovix.motion.subject import piece_ink
from rovix.motion.transform import box_corners, mapped
from rovix.motion.wipes import line_polygon, opening_polygon, wipe_polygons
from rovix.text import pieces_of

Floats = NDArray[np.float64]
Box = tuple[float, float, float, float]
Plain = Callable[[float], LayerPlan | None]
_BACK = 0.25  # frames between the points at which a layer's way back is measured


class Treating:
    """A layer with its treatments; `plain` gives its plan without them at a frame of the tracks."""

    def __init__(self, scene: Scene, clip: PictureClip, world: Floats, plain: Plain) -> None:
        self.scene, self.clip, self.world, self.plain = scene, clip, world, plain
        self.treatments = [treatment for treatment in clip.treatments if treatment.shown]
        self.scale = scene.scale

    def at(self, at: float, count: int | None = None) -> LayerPlan | None:
        """The plan at a frame of the tracks, after the first `count` treatments, or all."""
        count = len(self.treatments) if count is None else count
        if count == 0:
            return self.plain(at)
        treatment = settled(self.treatments[count - 1], at - self.clip.start)
        if isinstance(treatment, Echo):
            return self._echo(treatment, at, count - 1)
        inner = self.at(at, count - 1)
        if inner is None:
            return None
        if isinstance(treatment, Sweep):
            return self._sweep(treatment, inner, at)
        for step in self._steps(treatment, at):
            inner = _stepped(self.clip.id, inner, step)
        return inner

    def _steps(self, treatment: Treatment, at: float) -> list[Step]:
        """What a treatment does; nothing where it is neutral."""
        if isinstance(treatment, Opening | Crop | Wipe):
            return self._masks(treatment, at)
        if isinstance(treatment, Wrap):
            return self._wrap(treatment)
        if isinstance(treatment, Blur):
            return self._blurs(treatment, at)
        return _pixels(treatment, at - self.clip.start, self.scale)

    # Edges

    def _masks(self, treatment: Opening | Crop | Wipe, at: float) -> list[Step]:
        if isinstance(treatment, Wipe):
            return self._wipe(treatment, at)
        if isinstance(treatment, Crop):
            sides = (treatment.left, treatment.top, treatment.right, treatment.bottom)
            edges: list[float | None] = [side if side > 0 else None for side in sides]
            pin, radius, feather = "words", 0.0, 0.0
        else:
            edges = [treatment.left, treatment.top, treatment.right, treatment.bottom]
            pin, radius, feather = treatment.pin, treatment.radius, treatment.feather
        if all(edge is None for edge in edges):
            return []
        polygon = opening_polygon(self._box(pin, at), edges, radius)
        return [MaskStep(self._placed([polygon], pin, at), feather * self.scale)]

    def _wipe(self, wipe: Wipe, at: float) -> list[Step]:
        if wipe.ride is not None:
            polygons = self._ridden(wipe, at)
            if polygons is not None:
                return [MaskStep(polygons, wipe.feather * self.scale, wipe.hides)]
        if wipe.share >= 1:
            return [MaskStep((), 0.0)] if wipe.hides else []
        if wipe.share <= 0:
            return [] if wipe.hides else [MaskStep((), 0.0)]
        polygons = self._covered(wipe, at, wipe.pin)
        return [MaskStep(polygons, wipe.feather * self.scale, wipe.hides)]

    def _covered(self, wipe: Wipe | Sweep, at: float, pin: str) -> tuple[Floats, ...]:
        """The polygons that a share of a wipe covers, px of the picture."""
        if wipe.way == "pieces":
            return self._by_pieces(wipe, at)
        box = self._box(pin, at)
        found = wipe_polygons(wipe.way, box, wipe.angle, wipe.share, wipe.feather, wipe.count)
        return self._placed(found, pin, at)

    def _by_pieces(self, wipe: Wipe | Sweep, at: float) -> tuple[Floats, ...]:
        """Letters uncovered one after the other, each by a straight wipe of its own."""
        state = self.scene.state(self.clip, np.array([at - self.clip.start]))
        layout = state.subject.layout
        if layout is None:
            found = wipe_polygons("straight", self._box("words", at), wipe.angle, wipe.share)
            return self._placed(found, "words", at)
        letters = pieces_of(layout, "letters")
        boxes = piece_ink(layout, letters.of_glyph, len(letters.starts))
        boxes = boxes[np.isfinite(boxes[:, 0])]
        shares = np.clip(wipe.share * len(boxes) - np.arange(len(boxes)), 0.0, 1.0)
        return self._placed(_letter_boxes(boxes, shares, layout.size), "words", at)

    def _ridden(self, wipe: Wipe, at: float) -> tuple[Floats, ...] | None:
        """Everything behind the line through a point of the layer that the wipe rides."""
        assert wipe.ride is not None
        rider = self.scene.layer(wipe.ride.layer)
        if rider is None:
            return None
        frame = local_frame(rider, at)
        around = self.world @ world_of(self.scene, rider, rider.start + frame)
        quads = layer_quads(self.scene, rider, frame, around)
        corners = (quads.pieces if len(quads.pieces) else quads.rest[None]).reshape(-1, 2)
        corners = corners[np.isfinite(corners).all(axis=1)]
        if not len(corners):
            return None
        low, high = corners.min(axis=0), corners.max(axis=0)
        x, y = ((low + high) / 2).tolist()
        x = {"left": float(low[0]), "right": float(high[0])}.get(wipe.ride.at, x)
        y = {"top": float(low[1]), "bottom": float(high[1])}.get(wipe.ride.at, y)
        return (line_polygon((x, y), wipe.angle),)

    def _box(self, pin: str, at: float) -> Box:
        """The layer's block in its own px, or the frame in px from its centre."""
        if pin == "frame":
            across, down = self.scene.size
            return -across / 2, -down / 2, across / 2, down / 2
        state = self.scene.state(self.clip, np.array([at - self.clip.start]))
        return state.subject.block

    def _placed(self, polygons: list[Floats], pin: str, at: float) -> tuple[Floats, ...]:
        """Polygons in px of the picture; those partly behind the viewer are left out."""
        matrix = self.scene.project(self.world if pin == "frame" else self._rest(at))
        found = (mapped(matrix, polygon) for polygon in polygons if len(polygon))
        return tuple(points for points in found if np.isfinite(points).all())

    def _rest(self, at: float) -> Floats:
        """(4, 4): the layer where it rests, its keys included, its moves not."""
        state = self.scene.state(self.clip, np.array([at - self.clip.start]))
        return self.world @ world_of(self.scene, self.clip, at) @ state.layer[0]

    # Repeats

    def _wrap(self, wrap: Wrap) -> list[Step]:
        way = np.array([wrap.x, wrap.y]) * (np.array(self.scene.size) if wrap.unit == "frame" else 1.0)
        step = wrap_step(way, self.scene.size, self.scene.outward)
        return [] if step is None else [step]

    def _echo(self, echo: Echo, at: float, count: int) -> LayerPlan | None:
        """The layer and its copies; those from before its first frame do not exist."""
        own = self.at(at, count)
        if echo.copies == 0 or echo.kept <= 0:
            return own
        copies = [] if own is None else [(own, 1.0)]
        for number, back in enumerate(self.echo_times(echo, at), start=1):
            plan = self.at(back, count)
            if plan is not None:
                turned = echo.shift * number
                shown = _stepped(self.clip.id, plan, TurnStep(turned)) if turned % 360 else plan
                copies.append((shown, echo.kept**number))
        if not copies or (len(copies) == 1 and own is not None):
            return own
        # Behind: the farthest copy lowest; in front: it lies on top of all.
        ordered = copies if echo.front else list(reversed(copies))
        lowest = tuple((bare(plan), strength * plan.opacity) for plan, strength in ordered)  # type: ignore[union-attr]
        return EchoPlan(self.clip.id, lowest, echo.blend)

    def echo_times(self, echo: Echo, at: float) -> list[float]:
        """The frames of the tracks that the copies are of, none before the clip's first."""
        if echo.unit == "px":
            times = self._times_by_way(echo, at)
        else:
            gap = echo.gap if echo.unit == "frames" else float(self.scene.rate.position(echo.gap))
            times = [at - number * gap for number in range(1, echo.copies + 1)] if gap > 0 else []
        return [time for time in times if time >= self.clip.start - 1e-9]

    def _times_by_way(self, echo: Echo, at: float) -> list[float]:
        """Going back along the layer's way until each copy is the gap's px behind the last."""
        back = np.arange(at - self.clip.start, -1e-9, -_BACK)
        points = motion_path(self.scene, self.clip, back)
        points = points + np.stack([self._shift(frame) for frame in back.tolist()])
        ways = np.concatenate([[0.0], np.cumsum(np.nan_to_num(np.hypot(*np.diff(points, axis=0).T)))])
        wanted = echo.gap * np.arange(1, echo.copies + 1)
        reached = wanted[wanted <= ways[-1]] if echo.gap > 0 else wanted[:0]
        # Where the layer stands still its way does not grow; the latest of such frames counts.
        return (self.clip.start + np.interp(reached, ways, back)).tolist() if len(reached) else []

    def _shift(self, frame: float) -> Floats:
        return offset_at(self.clip, frame, self.scene.size)

    def _blurs(self, blur: Blur, at: float) -> list[Step]:
        steps: list[Step] = []
        if blur.across or blur.down or blur.along:
            way = self._way(at) if blur.along else np.zeros(2)
            angle = degrees(atan2(way[1], way[0])) if way.any() else 0.0
            across, down, along = (s * self.scale for s in (blur.across, blur.down, blur.along))
            steps.append(SoftStep(across, down, along, angle))
        if blur.spin or blur.zoom:
            size = self.scene.size
            point = np.array([[blur.x * size[0], blur.y * size[1]]])
            x, y = (point if self.scene.outward is None else mapped(self.scene.outward, point))[0].tolist()
            steps.append(RoundStep(x, y, blur.spin, blur.zoom))
        return steps

    def _way(self, at: float) -> Floats:
        """(2,): where the layer is going at a frame, its offsets included; px over a frame about it."""
        frames = np.clip(at - self.clip.start + np.array([-0.5, 0.5]), 0, self.clip.length - 1)
        points = motion_path(self.scene, self.clip, frames)
        shifts = self._shift(float(frames[1])) - self._shift(float(frames[0]))
        return np.nan_to_num(points[1] - points[0]) + shifts

    # Colour

    def _sweep(self, sweep: Sweep, inner: LayerPlan, at: float) -> LayerPlan:
        if sweep.share <= 0:
            return inner
        step = PaintStep(paint_of(sweep.paint), self._box("words", at), self.scene.project(self._rest(at)))
        over = _recoloured(inner, step)
        assert not isinstance(inner, JoinPlan)
        if sweep.share >= 1:
            return over
        polygons = self._covered(sweep, at, "words")
        feather = sweep.feather * self.scale
        return SweepPlan(self.clip.id, bare(inner), bare(over), polygons, feather, inner.opacity)


def _letter_boxes(boxes: Floats, shares: Floats, room: float) -> list[Floats]:
    """The part of each letter's box (n, 4) that has come, with room for the look above and below it,
    and before the first and behind the last of them."""
    found = []
    for number, ((left, top, right, bottom), share) in enumerate(
        zip(boxes.tolist(), shares.tolist(), strict=True)
    ):
        if share > 0:
            first, last = number == 0, number == len(boxes) - 1 and share >= 1
            start = left - room if first else boxes[number - 1][2]
            end = left + (right - left) * share + (room if last else 0.0)
            found.append(box_corners(np.array([[start, top - room, end, bottom + room]]))[0])
    return found


def _stepped(identity: str, inner: LayerPlan, step: Step) -> LayerPlan:
    assert not isinstance(inner, JoinPlan)
    return StepPlan(identity, bare(inner), step, inner.opacity)


def _recoloured(plan: LayerPlan, step: PaintStep) -> LayerPlan:
    """A layer with another fill: words and shapes keep their outlines, pictures only how opaque they are."""
    if isinstance(plan, GlyphsPlan):
        fills = (replace(p, paint=step.paint, mixes=()) if isinstance(p, FillPart) else p for p in plan.parts)
        parts = tuple(fills)
        plain = replace(plan.layout, tint=np.full_like(plan.layout.tint, -1), colours=())
        return replace(plan, parts=parts, layout=plain)
    if isinstance(plan, ShapePlan):
        return replace(plan, fill=step.paint) if plan.fill is not None else plan
    if isinstance(plan, StepPlan):
        return replace(plan, inner=_recoloured(plan.inner, step))
    if isinstance(plan, GroupPlan) and all(part.id == plan.id for part in plan.layers):
        # One layer's pieces, each drawn alone.
        return replace(plan, layers=tuple(_recoloured(part, step) for part in plan.layers))
    if isinstance(plan, EchoPlan):
        return replace(plan, copies=tuple((_recoloured(p, step), s) for p, s in plan.copies))
    return _stepped("", plan, step)


def _pixels(treatment: Treatment, frame: float, scale: float) -> list[Step]:
    """What treatments of pixels do at a frame of the clip, px made `scale` times as large."""
    if isinstance(treatment, Halo) and treatment.opacity > 0 and treatment.strength > 0:
        return [
            HaloStep(treatment.size * scale, treatment.strength, bgra(treatment.colour), treatment.opacity)
        ]
    if isinstance(treatment, Cast) and treatment.opacity > 0:
        x, y, blur = (value * scale for value in (treatment.x, treatment.y, treatment.blur))
        return [CastStep(x, y, blur, bgra(treatment.colour), treatment.opacity)]
    if isinstance(treatment, LongCast) and treatment.opacity > 0:
        return [LongCastStep(treatment.angle, bgra(treatment.colour), treatment.opacity)]
    if isinstance(treatment, Rim) and treatment.opacity > 0 and treatment.width > 0:
        return [RimStep(treatment.width * scale, bgra(treatment.colour), treatment.opacity)]
    if isinstance(treatment, Tone):
        return _tone(treatment)
    if isinstance(treatment, Tear) and (treatment.shift or treatment.split):
        draw = _drawing(treatment.seed, treatment.every, frame)
        return [TearStep(treatment.bands, treatment.shift * scale, treatment.split * scale, draw)]
    if isinstance(treatment, Grain) and treatment.amount > 0:
        draw = _drawing(treatment.seed, treatment.every, frame)
        return [GrainStep(treatment.amount, treatment.size * scale, draw)]
    return []


def _tone(tone: Tone) -> list[Step]:
    neutral = tone.saturation == 1 and tone.black == 0 and tone.white == 1 and tone.gamma == 1
    if neutral and tone.tint == 0:
        return []
    return [ToneStep(tone.saturation, tone.black, tone.white, tone.gamma, tone.tint, bgra(tone.colour))]


def _drawing(seed: int, every: int, frame: float) -> int:
    """The seed of what is drawn at random on a frame: held through whole frames, and for `every` of them."""
    return seed * 1_000_003 + (floor(frame) // every if every else 0)
