"""Shadows and glows of letters that come in one by one, each of its own size."""

from __future__ import annotations

import numpy as np
import pytest
from msgspec import structs
from scipy.ndimage import gaussian_filter, shift

from builders import project_of, title
from rovix.model import Fill, Glow, Linear, Look, Outline, Shadow
from rovix.motion import picture_plan
from rovix.motion.plan import FillPart, GlowPart, ShadowPart, StrokePart
from rovix.motion.ready_moves import pop
from rovix.paint.canvas import Canvas
from rovix.paint.glyphs import body_of
from rovix.paint.shades import draw_glow, draw_shadow

SIZE = (640, 360)
SHADOW = Shadow(x=9.0, y=14.0, blur=7.0, opacity=0.8, colour="#000000")
GLOW = Glow(size=9.0, strength=1.7, colour="#ffb040")


def body_with(look, frame=9):
    clip = title(
        "LARKMOOR",
        text={"size": 64.0},
        length=60,
        moves=[structs.replace(pop(), pieces="letters", length=1.5, at_once=8)],
        look=look,
    )
    (plan,) = picture_plan(project_of(clip, size=SIZE), frame).layers
    return body_of(plan, np.eye(3))


def alone(body, pieces):
    """(height, width) 0 to 1: what some pieces cover, drawn part by part as they are seen."""
    canvas = Canvas(*SIZE)
    shifts = {piece: np.eye(3) for piece in pieces}
    for number, part in enumerate(body.plan.parts):
        if isinstance(part, FillPart | StrokePart):
            body.drawn.draw(canvas, number, shifts)
    return canvas.pixels[..., 3] / 255


def covered(body, pieces):
    """(height, width) 0 to 1: what some pieces cover."""
    canvas = Canvas(*SIZE)
    body.drawn.draw_silhouette(canvas, {piece: np.eye(3) for piece in pieces})
    return canvas.pixels[..., 3] / 255


def moved(mask, x, y):
    """A mask moved by px, whole or between, along straight lines."""
    return shift(mask, (y, x), order=1)


@pytest.mark.parametrize(("kind", "draw"), [(SHADOW, draw_shadow), (GLOW, draw_glow)])
def test_each_group_of_letters_casts_by_itself_one_over_the_other(kind, draw):
    """By SciPy's Gaussian (a general-purpose reference) and source over: 1 - (1 - a)(1 - b)."""
    body = body_with(Look(parts=(kind, Outline(width=5.0), Fill(paint=Linear()))))
    part = next(part for part in body.plan.parts if isinstance(part, ShadowPart | GlowPart))
    groups = body.alike(part.shares)
    assert len(groups) >= 2, "letters of several sizes"
    clear = np.ones(SIZE[::-1])
    for scale, share, pieces in groups:
        mask = covered(body, pieces)
        if isinstance(part, ShadowPart):
            own = moved(mask, part.x * scale, part.y * scale)
            cast = gaussian_filter(own, part.blur * scale, mode="constant", truncate=5)
        else:
            cast = gaussian_filter(mask, part.size * scale, mode="constant", truncate=5) * part.strength
        clear *= 1 - np.clip(cast, 0, 1) * part.opacity * share
    canvas = Canvas(*SIZE)
    draw(canvas, part, body)
    error = np.abs(canvas.pixels[..., 3] - 255 * (1 - clear))
    assert error.max() <= 6
    assert error.mean() <= 0.25


def test_what_letters_cover_is_drawn_as_one_where_nothing_shines_through():
    look = Look(parts=(SHADOW, Outline(width=5.0), Fill(paint=Linear())))
    body = body_with(look, frame=50)
    pieces = body.pieces.tolist()
    error = np.abs(covered(body, pieces) - alone(body, pieces))
    # Between an outline and its fill the parts leave a seam that the one shape has not.
    assert error.mean() < 0.003
    assert (error > 0.02).mean() < 0.02
    half = Look(parts=(SHADOW, Outline(width=5.0, colour="#00000080"), Fill()))
    through = body_with(half, frame=50)
    assert np.array_equal(covered(through, pieces), alone(through, pieces))
