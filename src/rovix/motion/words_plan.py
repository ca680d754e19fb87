"""The plan of a text layer at a moment: its pieces, their windows, and those that are blurred alone."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from rovix.model.clip_kinds import has_words
from rovix.model.look import CREAM
from rovix.motion.layer import LayerState
from rovix.motion.look_plan import glyph_parts, paint_of
from rovix.motion.offsets import wrapped_plan
from rovix.motion.plan import BoxPart, GlyphsPlan, GroupPlan, LayerPlan
from rovix.motion.scene import Scene
from rovix.motion.spelling import spelled
from rovix.motion.transform import mapped
from rovix.motion.windows import OpeningWindow

Floats = NDArray[np.float64]
Polygons = tuple[Floats, ...]


def words_plan(
    scene: Scene, state: LayerState, matrices: Floats, rest: Floats, shares: Floats, opacity: float
) -> LayerPlan | None:
    """The plan of words in which piece by piece `matrices` (n, 4, 4) move, shown by `shares` (n,).

    `rest` (4, 4) is the layer's own matrix. Blurs and offsets are of the picture's frame.
    """
    subject, clip = state.subject, state.content
    assert has_words(clip)
    layout = spelled(state)
    if layout is None or subject.of_glyph is None or np.all(np.isnan(layout.ink)):
        return None
    flat = scene.project(matrices)
    parts = (*glyph_parts(clip.look, state, flat), *_caret(scene, state, rest))
    if not parts:
        return None
    dealt = subject.of_glyph
    if layout is not subject.layout:
        dealt = np.searchsorted(subject.starts, layout.cluster, side="right") - 1
    windows, seen = window_polygons(scene, state, flat, rest)
    plan = GlyphsPlan(
        clip.id, layout, dealt, flat, np.where(seen, shares, 0.0), parts, windows, opacity=opacity
    )
    return _parted(scene, state, plan)


def has_caret(state: LayerState) -> bool:
    """Whether a caret stands in the words."""
    return state.caret is not None and bool(np.isfinite(state.caret[0, 0]))


def _caret(scene: Scene, state: LayerState, rest: Floats) -> list[BoxPart]:
    """The caret, in the paint of the words; on top of them and unmoved by what moves their pieces."""
    if not has_caret(state) or not has_words(state.content):
        return []
    assert state.caret is not None
    fill = state.content.look.fill
    paint = paint_of(fill.paint if fill is not None else CREAM)
    return [BoxPart(paint, 0.0, state.caret[:1], scene.project(rest)[None], np.ones(1))]


def window_polygons(
    scene: Scene, state: LayerState, flat: Floats, rest: Floats
) -> tuple[tuple[Polygons, ...], NDArray[np.bool_]]:
    """For each piece the polygons in px of the picture that it shows within, and whether any is left.

    Nothing for all where no piece has any. A polygon partly behind the viewer cuts nothing.
    """
    count = len(state.subject)
    seen = np.ones(count, dtype=bool)
    if not state.windows:
        return (), seen
    found: list[Polygons] = [()] * count
    still = scene.project(rest)
    for window in state.windows:
        for piece in range(count):
            polygon = window.polygon(0, piece)
            if polygon is None:
                continue
            seen[piece] &= len(polygon) > 0
            points = mapped(still if isinstance(window, OpeningWindow) else flat[piece], polygon)
            if len(points) and np.isfinite(points).all():
                found[piece] = (*found[piece], points)
    return (tuple(found) if any(found) else ()), seen


def _parted(scene: Scene, state: LayerState, plan: GlyphsPlan) -> LayerPlan:
    """Pieces that are blurred or shifted otherwise as plans of their own, in the order of reading."""
    done = np.stack(
        [*_blurs(scene, state), *(state.pieces[name][0] for name in ("offset_x", "offset_y"))], axis=1
    )
    seen = plan.opacities > 0
    if not seen.any() or np.ptp(done[seen], axis=0).max() == 0:
        return _with_steps(scene, plan, done[np.argmax(seen)])
    _, firsts, kinds = np.unique(done[seen], axis=0, return_index=True, return_inverse=True)
    numbers = np.full(len(seen), -1)
    numbers[seen] = kinds.reshape(-1)
    made = [_boxes(scene, plan, done[seen])] if _has_boxes(plan) else []
    letters = replace(plan, parts=tuple(p for p in plan.parts if not isinstance(p, BoxPart)), opacity=1.0)
    for kind in np.argsort(firsts, kind="stable").tolist():
        own = replace(letters, opacities=np.where(numbers == kind, plan.opacities, 0.0))
        made.append(_with_steps(scene, own, done[seen][firsts[kind]]))
    return GroupPlan(plan.id, tuple(made), opacity=plan.opacity)


def _has_boxes(plan: GlyphsPlan) -> bool:
    return any(isinstance(part, BoxPart) for part in plan.parts)


def _blurs(scene: Scene, state: LayerState) -> list[Floats]:
    """(n,) across and down: the layer's blur and the pieces' together, px of the picture."""
    names = ("blur_x", "blur_y")
    return [np.hypot(state.rest[name][0], state.pieces[name][0]) * scene.scale for name in names]


def _boxes(scene: Scene, plan: GlyphsPlan, done: Floats) -> LayerPlan:
    """The boxes behind alone, as soft and as far off as the pieces are on the whole."""
    boxes = tuple(part for part in plan.parts if isinstance(part, BoxPart))
    own = replace(plan, parts=boxes, opacities=np.zeros_like(plan.opacities), opacity=1.0)
    blurs = np.sqrt((done[:, :2] ** 2).mean(axis=0))
    return _with_steps(scene, own, np.concatenate([blurs, done[:, 2:].mean(axis=0)]))


def _with_steps(scene: Scene, plan: GlyphsPlan, done: Floats) -> LayerPlan:
    across, down, x, y = done.tolist()
    soft = replace(plan, blur=(across, down)) if across or down else plan
    return wrapped_plan(soft, np.array([x, y]), scene.size, scene.outward)
