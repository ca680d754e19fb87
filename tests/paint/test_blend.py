"""Blend modes by the formulas of W3C Compositing and Blending Level 1, and blur against a true Gaussian."""

import numpy as np
import pytest
from scipy.ndimage import gaussian_filter

from builders import project_of
from rovix.edit.groups import group_clips
from rovix.edit.transform import set_blend
from rovix.model import BackgroundClip, Plain, ShapeClip, Transform
from rovix.model.blend import BLEND_MODES
from rovix.motion import describe, picture_plan
from rovix.paint.blend import blend
from rovix.paint.blur import blur
from rovix.paint.painter import Painter


def hard_light(b, s):
    return 2 * b * s if s <= 0.5 else screen(b, 2 * s - 1)


def screen(b, s):
    return b + s - b * s


def soft_light(b, s):
    if s <= 0.5:
        return b - (1 - 2 * s) * b * (1 - b)
    d = ((16 * b - 12) * b + 4) * b if b <= 0.25 else b**0.5
    return b + (2 * s - 1) * (d - b)


def dodge(b, s):
    return 0.0 if b == 0 else 1.0 if s == 1 else min(1.0, b / (1 - s))


def burn(b, s):
    return 1.0 if b == 1 else 0.0 if s == 0 else 1 - min(1.0, (1 - b) / s)


# Sections 9.1.x of the recommendation, one channel at a time, written out by hand from its text;
# linear burn is common practice, no source.
SEPARABLE = {
    "multiply": lambda b, s: b * s, "screen": screen, "overlay": lambda b, s: hard_light(s, b),
    "darken": min, "lighten": max, "color-dodge": dodge, "color-burn": burn, "hard-light": hard_light,
    "soft-light": soft_light, "difference": lambda b, s: abs(b - s),
    "exclusion": lambda b, s: b + s - 2 * b * s, "linear-burn": lambda b, s: max(0.0, b + s - 1),
}  # fmt: skip


def lum(c):
    return 0.3 * c[0] + 0.59 * c[1] + 0.11 * c[2]


def clip_color(c):
    mid, low, high = lum(c), min(c), max(c)
    if low < 0:
        c = [mid + (v - mid) * mid / (mid - low) for v in c]
    if high > 1:
        c = [mid + (v - mid) * (1 - mid) / (high - mid) for v in c]
    return c


def set_lum(c, value):
    return clip_color([v + value - lum(c) for v in c])


def set_sat(c, value):
    low, high = min(c), max(c)
    return [0.0] * 3 if high == low else [(v - low) * value / (high - low) for v in c]


def sat(c):
    return max(c) - min(c)


# Section 9.2, on red, green, blue.
WHOLE = {
    "hue": lambda b, s: set_lum(set_sat(s, sat(b)), lum(b)),
    "saturation": lambda b, s: set_lum(set_sat(b, sat(s)), lum(b)),
    "color": lambda b, s: set_lum(s, lum(b)),
    "luminosity": lambda b, s: set_lum(b, lum(s)),
}


def expected(backdrop, source, mode):
    """One px, straight RGBA in, premultiplied BGRA out: section 5 and 9 of the recommendation."""
    *cb, ab = backdrop
    *cs, as_ = source
    if mode == "plus-lighter":
        mixed = [min(1.0, b * ab + s * as_) for b, s in zip(cb, cs, strict=True)]
        return [*mixed[::-1], min(1.0, ab + as_)]
    if mode == "normal":
        mixed = cs
    elif mode in WHOLE:
        mixed = WHOLE[mode](cb, cs)
    else:
        mixed = [SEPARABLE[mode](b, s) for b, s in zip(cb, cs, strict=True)]
    out = [
        as_ * (1 - ab) * s + as_ * ab * m + (1 - as_) * ab * b for b, s, m in zip(cb, cs, mixed, strict=True)
    ]
    return [*out[::-1], as_ + ab - as_ * ab]


def premultiplied(straight):
    straight = np.asarray(straight, dtype=np.float64)
    return np.concatenate([straight[..., 2::-1] * straight[..., 3:], straight[..., 3:]], axis=-1)


def samples():
    chance = np.random.default_rng(11)
    backdrop, source = chance.random((2, 60, 4))
    edges = [(0, 0, 0, 1), (1, 1, 1, 1), (0.5, 0.5, 0.5, 1), (1, 0, 0, 0.5), (0.25, 0.9, 0, 1), (0, 0, 0, 0)]
    backdrop[:36] = [edges[n // 6] for n in range(36)]
    source[:36] = [edges[n % 6] for n in range(36)]
    return backdrop, source


@pytest.mark.parametrize("mode", BLEND_MODES)
def test_every_mode_by_its_formula_with_partial_alpha(mode):
    backdrop, source = samples()
    wanted = np.array([expected(b, s, mode) for b, s in zip(backdrop.tolist(), source.tolist(), strict=True)])
    made = blend(premultiplied(backdrop)[None], premultiplied(source)[None], mode)
    assert made.dtype == np.float64
    assert np.abs(made[0] - wanted).max() < 1e-6
    eight = [np.rint(premultiplied(p) * 255).astype(np.uint8)[None] for p in (backdrop, source)]
    bytes_ = blend(*eight, mode)
    assert bytes_.dtype == np.uint8
    solid = (backdrop[:, 3] == 1) & (source[:, 3] == 1)
    assert np.abs(bytes_[0][solid] - wanted[solid] * 255).max() <= (4 if mode in WHOLE else 2.5)


def test_what_does_not_fit_is_refused():
    one = np.zeros((2, 2, 4), np.uint8)
    with pytest.raises(ValueError, match="no blend mode"):
        blend(one, one, "dissolve")
    with pytest.raises(ValueError, match="do not blend"):
        blend(one, one[:1], "normal")
    with pytest.raises(ValueError, match="do not blend"):
        blend(one, one.astype(float), "normal")


class NoFiles:
    def picture(self, source, time, shrunk=None, about=False):
        raise AssertionError(source)


def painted(project):
    return Painter(NoFiles()).paint(picture_plan(project, 0))


def over(mode, opacity=0.75):
    ground = BackgroundClip(id="g", length=5, background=Plain(colour="#b4783c"))
    box = ShapeClip(
        id="box",
        length=5,
        width=100,
        height=100,
        fill=Plain(colour="#3ca0dc"),
        transform=Transform(opacity=opacity),
    )
    return set_blend(project_of(ground, box), "box", mode)


@pytest.mark.parametrize("mode", BLEND_MODES)
def test_layers_and_groups_are_laid_over_by_their_blend(mode):
    wanted = expected((180 / 255, 120 / 255, 60 / 255, 1.0), (60 / 255, 160 / 255, 220 / 255, 0.75), mode)
    layer = over(mode)
    assert np.abs(painted(layer)[180, 320] - np.array(wanted) * 255).max() <= 2.5
    assert painted(layer)[20, 20].tolist() == [60, 120, 180, 255]
    grouped, identity = group_clips(over("normal"), ["box"])
    assert np.abs(painted(set_blend(grouped, identity, mode))[180, 320] - np.array(wanted) * 255).max() <= 2.5
    assert describe(layer, 0)["layers"][1]["blend"] == mode


def test_a_normal_blend_changes_no_bit():
    assert np.array_equal(painted(over("normal")), painted(set_blend(over("screen"), "box", "normal")))


@pytest.mark.parametrize("sigmas", [(0.5, 0.5), (3, 0), (0, 7), (5, 5), (9, 3), (20, 20), (60, 8)])
def test_a_blur_is_within_two_of_255_of_a_true_gaussian(sigmas):
    chance = np.random.default_rng(2)
    array = np.zeros((140, 400, 4), np.uint8)
    array[30:90, 60:300] = 255
    array[..., 3] = np.where(chance.random((140, 400)) > 0.5, 255, array[..., 3])
    across, down = sigmas
    true = np.stack(
        [
            gaussian_filter(array[..., n].astype(float), (down, across), mode="constant", truncate=6)
            for n in range(4)
        ],
        axis=-1,
    )
    assert np.abs(blur(array, across, down) - true).max() <= 2.0
    shares = blur(array.astype(np.float32) / 255, across, down)
    assert np.abs(shares * 255 - true).max() <= 2.0


def test_no_blur_is_bit_for_bit_the_same_and_a_negative_one_is_refused():
    array = np.random.default_rng(1).integers(0, 256, (9, 9, 4), dtype=np.uint8)
    assert np.array_equal(blur(array, 0, 0), array)
    with pytest.raises(ValueError, match="0 or more"):
        blur(array, -1, 0)
