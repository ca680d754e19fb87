"""The parts of a text layer's look as the painter needs them, at one moment."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from rovix.model import Box, Fill, Glow, LongShadow, Look, LookPart, Outline, Plain, Shadow, bgra
from rovix.motion.layer import LayerState
from rovix.motion.plan import (
    BoxPart,
    FillPart,
    GlowPart,
    GlyphsPart,
    LongShadowPart,
    Mixed,
    Paint,
    ShadowPart,
    Stroke,
    StrokePart,
)
from rovix.motion.subject import Subject
from rovix.text import Layout, pieces_of

Floats = NDArray[np.float64]


def glyph_parts(look: Look, state: LayerState, matrices: Floats) -> tuple[GlyphsPart, ...]:
    """The parts that are to be seen, the lowest first.

    `matrices` (n, 3, 3) take each piece to the picture; a box has the mean of its pieces'.
    """
    made = (_part(part, state, matrices) for part in reversed(look.parts) if part.shown and part.opacity > 0)
    return tuple(part for part in made if part is not None)


def _part(part: LookPart, state: LayerState, matrices: Floats) -> GlyphsPart | None:
    if isinstance(part, Fill):
        shares = state.pieces["fill_opacity"][0] * part.opacity
        return FillPart(paint_of(part.paint), part.over, shares, _mixes(state))
    if isinstance(part, Outline):
        return StrokePart(stroke_of(part), state.pieces["outline_opacity"][0])
    shade = state.pieces["shadow_opacity"][0]
    if isinstance(part, Shadow):
        return ShadowPart(part.x, part.y, part.blur, part.spread, bgra(part.colour), part.opacity, shade)
    if isinstance(part, LongShadow):
        return LongShadowPart(part.angle, bgra(part.colour), part.opacity, shade)
    if isinstance(part, Glow):
        light = state.pieces["glow_opacity"][0]
        return GlowPart(part.size, part.strength, bgra(part.colour), part.opacity, light)
    return _box(part, state, matrices)


def _mixes(state: LayerState) -> tuple[Mixed, ...]:
    return tuple(
        Mixed(bgra(mix.colour), mix.shares[0], mix.mix == "linear")
        for mix in state.mixes
        if mix.shares[0].any()
    )


def paint_of(paint: object) -> Paint:
    """A fill as the painter takes it: a plain colour as BGRA, gradients as they are."""
    return bgra(paint.colour) if isinstance(paint, Plain) else paint  # type: ignore[return-value]


def stroke_of(outline: Outline) -> Stroke:
    return Stroke(outline.width, bgra(outline.colour), outline.opacity, outline.side, outline.join)


def _box(part: Box, state: LayerState, matrices: Floats) -> BoxPart | None:
    layout = state.subject.layout
    if layout is None:
        return None
    boxes = list(_line_boxes(layout) if part.over == "line" else [layout.block])
    share = _members(state.subject, "lines" if part.over == "line" else "whole")
    if len(boxes) != len(share):
        return None
    # Where the pieces are apart, the box is where they are on the whole, and as much to be seen.
    grown = np.array(boxes) + np.array([-part.padding_x, -part.padding_y, part.padding_x, part.padding_y])
    parted = state.parted[0]
    if parted.any():
        grown[:, [0, 2]] += _ends_parted(state.subject, share > 0, parted)
        back = np.tile(np.eye(3), (len(parted), 1, 1))
        back[:, 0, 2] = -parted
        matrices = matrices @ back
    means = np.einsum("kn,nij->kij", share, matrices)
    opacities = share @ (state.opacity()[0]) * part.opacity
    return BoxPart(paint_of(part.paint), part.radius, grown, means, opacities)


def _ends_parted(subject: Subject, members: NDArray[np.bool_], parted: Floats) -> Floats:
    """(k, 2): px to the right by which tracking moves the first and the last letter of each box."""
    left, right = subject.ink[:, 0], subject.ink[:, 2]
    firsts = np.nanargmin(np.where(members & np.isfinite(left), left, np.inf), axis=1)
    lasts = np.nanargmax(np.where(members & np.isfinite(right), right, -np.inf), axis=1)
    return np.stack([parted[firsts], parted[lasts]], axis=1)


def _members(subject: Subject, kind: str) -> Floats:
    """(k, n): the share that each piece has in each line, or in the whole; rows add up to 1.

    A line within a larger piece goes with that one.
    """
    assert subject.layout is not None
    starts = pieces_of(subject.layout, kind).starts
    owners = np.searchsorted(starts, subject.starts, side="right") - 1
    member = owners[None, :] == np.arange(len(starts))[:, None]
    within = np.searchsorted(subject.starts, starts, side="right") - 1
    alone = ~member.any(axis=1)
    member[alone, within[alone]] = True
    return member / member.sum(axis=1, keepdims=True)


def _line_boxes(layout: Layout) -> Iterator[tuple[float, float, float, float]]:
    """The box of each line that has letters: capitals to baseline."""
    for line in layout.lines:
        if layout.text[line.start : line.end].strip():
            yield line.left, line.baseline - line.cap, line.left + line.width, line.baseline
