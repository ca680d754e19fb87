"""A paint in place of every colour."""

from __future__ import annotations

import numpy as np
import skia

from rovix.motion.steps import PaintStep
from rovix.paint.cache import LayerPicture
from rovix.paint.canvas import Canvas
from rovix.paint.effects.masks import multiplied
from rovix.paint.effects.sight import Sight
from rovix.paint.effects.step_painter import StepPainter
from rovix.paint.shapes import draw_filled

_FAR = 4000.0


def _repainted(step: PaintStep, picture: LayerPicture, sight: Sight) -> LayerPicture | None:
    """A paint as opaque as the picture."""
    height, width = picture.pixels.shape[:2]
    canvas = Canvas(width, height, picture.left, picture.top)
    left, top, right, bottom = step.box
    path = skia.Path()
    # Beyond the box the paint's ends go on, as far as any look reaches.
    path.addRect(skia.Rect.MakeLTRB(left - _FAR, top - _FAR, right + _FAR, bottom + _FAR))
    draw_filled(canvas, path, sight.view @ step.matrix, step.paint, step.box, 1.0)
    painted = LayerPicture(canvas.pixels, picture.left, picture.top)
    return multiplied(painted, np.ascontiguousarray(picture.pixels[..., 3]))


PAINTERS = (StepPainter(PaintStep, _repainted),)
