"""The one place that hands our buffers to Skia.

skia-python keeps no wrapped buffer alive and the process dies when one goes first. Here each array
lives in the same object as its surface, and an image made over an array never leaves the function
that made it.

Skia's own order of channels is red, green, blue; in it paths are filled in two thirds of the time. Our
pixels are blue, green, red, so for paths they are handed over as if they were its own, and the colours
with the first and third channel in each other's place. Pictures, which are laid over four times as
fast in the order they are in, and glyphs in their own colours are drawn in true colours.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from functools import lru_cache
from typing import TypeAlias

import cv2
import numpy as np
import skia
from numpy.typing import NDArray

Pixels = NDArray[np.uint8]
Floats = NDArray[np.float64]
Bgra = tuple[int, int, int, int]
Ink: TypeAlias = Bgra | skia.Shader
"""A colour, not premultiplied, or what says the colour at each px."""


_BLENDS = {
    "normal": skia.BlendMode.kSrcOver,
    "multiply": skia.BlendMode.kMultiply,
    "screen": skia.BlendMode.kScreen,
    "overlay": skia.BlendMode.kOverlay,
    "darken": skia.BlendMode.kDarken,
    "lighten": skia.BlendMode.kLighten,
    "color-dodge": skia.BlendMode.kColorDodge,
    "color-burn": skia.BlendMode.kColorBurn,
    "hard-light": skia.BlendMode.kHardLight,
    "soft-light": skia.BlendMode.kSoftLight,
    "difference": skia.BlendMode.kDifference,
    "exclusion": skia.BlendMode.kExclusion,
    "hue": skia.BlendMode.kHue,
    "saturation": skia.BlendMode.kSaturation,
    "color": skia.BlendMode.kColor,
    "luminosity": skia.BlendMode.kLuminosity,
    "plus-lighter": skia.BlendMode.kPlus,
}
"""The modes that Skia has; linear burn is ours."""


def swapped(red: float, green: float, blue: float, alpha: float) -> skia.Color4f:
    """A straight colour as it is handed to a canvas."""
    return skia.Color4f(blue, green, red, alpha)


class Canvas:
    """A premultiplied BGRA picture to draw on: `pixels` (height, width, 4) uint8.

    `left` and `top` say which px of the whole picture its corner is; drawing takes coordinates of
    the whole picture.
    """

    def __init__(self, width: int, height: int, left: int = 0, top: int = 0) -> None:
        self.pixels: Pixels = np.zeros((height, width, 4), dtype=np.uint8)
        self.left, self.top = left, top
        self._surface = skia.Surface.MakeRasterDirect(_info(width, height, _SWAPPED), self.pixels, width * 4)
        self._canvas = self._surface.getCanvas()
        self._clips: list[tuple[Floats, list[skia.Path], list[skia.Path]]] = []

    @property
    def width(self) -> int:
        return self.pixels.shape[1]

    @property
    def height(self) -> int:
        return self.pixels.shape[0]

    def fill(self, colour: Bgra) -> None:
        """Replace everything by one colour, not premultiplied."""
        blue, green, red, alpha = colour
        scaled = [round(channel * alpha / 255) for channel in (blue, green, red)]
        packed = np.array([*scaled, alpha], dtype=np.uint8).view(np.uint32)[0]
        self.pixels.view(np.uint32)[:] = packed

    def draw_path(self, path: skia.Path, matrix: Floats, colour: Bgra, opacity: float = 1.0) -> None:
        """Fill a path, source over, smooth edged; `matrix` (3, 3) takes it to the whole picture."""
        self._canvas.setMatrix(self._local(matrix))
        self._canvas.drawPath(path, _paint(colour, opacity))

    def draw_paths(self, paths: Sequence[skia.Path], matrices: Floats, ink: Ink, opacities: Floats) -> None:
        """Fill paths one after the other in one colour or by one shader; matrices (n, 3, 3) as in
        :meth:`draw_path`, shaders as in :meth:`draw_shaded`."""
        shifted = matrices.copy()
        shifted[:, 0] -= self.left * matrices[:, 2]
        shifted[:, 1] -= self.top * matrices[:, 2]
        draw, move, last, paint = self._canvas.drawPath, self._canvas.setMatrix, None, None
        # Nine numbers at a time from one list: thousands of small lists would wake the collector.
        numbers, matrix = iter(shifted.reshape(-1).tolist()), skia.Matrix()
        for path, opacity, row in zip(
            paths, opacities.tolist(), zip(*[numbers] * 9, strict=True), strict=True
        ):
            if opacity != last:
                last, paint = opacity, _inked(ink, opacity)
            matrix.setAll(*row)
            move(matrix)
            draw(path, paint)

    def draw_shaded(self, path: skia.Path, matrix: Floats, shader: skia.Shader, opacity: float = 1.0) -> None:
        """Fill a path with a shader in the path's own px, dithered so that it shows no bands.

        Its colours have blue in the place of red, as :func:`swapped` gives them.
        """
        self._canvas.setMatrix(self._local(matrix))
        self._canvas.drawPath(path, _inked(shader, opacity))

    def draw_colour_glyph(
        self,
        typeface: skia.Typeface,
        glyph: int,
        size: float,
        place: tuple[float, float],
        matrix: Floats,
        opacity: float = 1.0,
    ) -> None:
        """Draw a glyph in its own colours, its em `size` px and its pen at `place` before `matrix`."""
        with self._in_true_colours() as canvas:
            canvas.setMatrix(self._local(matrix))
            builder = skia.TextBlobBuilder()
            builder.allocRunPos(_glyph_font(typeface, size), [glyph], [skia.Point(*place)])
            if opacity < 1:
                canvas.saveLayerAlpha(None, round(opacity * 255))
            canvas.drawTextBlob(builder.make(), 0, 0, skia.Paint(AntiAlias=True))
            if opacity < 1:
                canvas.restore()

    def draw_grown(self, path: skia.Path, matrix: Floats, width: float, filled: bool, opacity: float) -> None:
        """Draw a path with its edge moved out by `width` px of its own, or in where that is below 0.

        What is not `filled` is the band outside of the edge alone.
        """
        self._canvas.setMatrix(self._local(matrix))
        paint = _paint((0, 0, 0, 255), opacity)
        if filled:
            self._canvas.drawPath(path, paint)
        if width == 0:
            return
        self._canvas.save()
        if not filled:
            self._canvas.clipPath(path, skia.ClipOp.kDifference, True)
        paint.setStyle(skia.Paint.kStroke_Style)
        paint.setStrokeWidth(2 * abs(width))
        paint.setStrokeJoin(skia.Paint.kRound_Join)
        paint.setBlendMode(skia.BlendMode.kSrcOver if width > 0 else skia.BlendMode.kDstOut)
        self._canvas.drawPath(path, paint)
        self._canvas.restore()

    def draw_pixels(
        self, pixels: Pixels, left: int, top: int, opacity: float = 1.0, blend: str = "normal"
    ) -> None:
        """Lay premultiplied BGRA pixels over at whole px of the whole picture, by a W3C blend mode."""
        pixels = np.ascontiguousarray(pixels)
        with self._in_true_colours() as canvas:
            image = skia.Image.fromarray(pixels, _TRUE, skia.AlphaType.kPremul_AlphaType, copy=False)
            paint = skia.Paint()
            paint.setAlphaf(opacity)
            paint.setBlendMode(_BLENDS[blend])
            canvas.resetMatrix()
            canvas.drawImage(image, left - self.left, top - self.top, skia.SamplingOptions(), paint)
            del image  # before `pixels`, which it only borrows

    def draw_shade(
        self, shade: NDArray[np.uint8], left: int, top: int, colour: Bgra, opacity: float = 1.0
    ) -> None:
        """Lay a colour over, as strongly at each px as a shade (height, width) says, 255 in full."""
        # Five times as fast as Skia, which knows no quick way for a picture that is alpha alone.
        pixels = cv2.LUT(shade, _shades_of(colour, opacity)).view(np.uint8).reshape(*shade.shape, 4)
        self.draw_pixels(pixels, left, top)

    def replace_pixels(self, pixels: Pixels, left: int, top: int) -> None:
        """Put opaque pixels in place of what is there; they lie inside the canvas."""
        top, left = top - self.top, left - self.left
        self.pixels[top : top + pixels.shape[0], left : left + pixels.shape[1]] = pixels

    @contextmanager
    def clipped(self, matrix: Floats, inside: list[skia.Path], outside: list[skia.Path]) -> Iterator[None]:
        """What is drawn meanwhile stays within some paths and out of others, smooth edged."""
        self._canvas.save()
        self._clips.append((matrix, inside, outside))
        self._clip(self._canvas, *self._clips[-1])
        yield
        self._clips.pop()
        self._canvas.restore()

    def _clip(
        self, canvas: skia.Canvas, matrix: Floats, inside: list[skia.Path], outside: list[skia.Path]
    ) -> None:
        canvas.setMatrix(self._local(matrix))
        for paths, side in ((inside, skia.ClipOp.kIntersect), (outside, skia.ClipOp.kDifference)):
            for path in paths:
                canvas.clipPath(path, side, True)

    @contextmanager
    def _in_true_colours(self) -> Iterator[skia.Canvas]:
        """A Skia canvas on the same pixels that knows which channel is which, clipped as this one is."""
        surface = skia.Surface.MakeRasterDirect(
            _info(self.width, self.height, _TRUE), self.pixels, self.width * 4
        )
        canvas = surface.getCanvas()
        for clip in self._clips:
            self._clip(canvas, *clip)
        yield canvas

    def _local(self, matrix: Floats) -> skia.Matrix:
        shifted = matrix.copy()
        shifted[0] -= self.left * matrix[2]
        shifted[1] -= self.top * matrix[2]
        return skia.Matrix.MakeAll(*(float(value) for value in shifted.reshape(9)))


def _glyph_font(typeface: skia.Typeface, size: float) -> skia.Font:
    font = skia.Font(typeface, size)
    font.setSubpixel(True)
    font.setHinting(skia.FontHinting.kNone)
    return font


_TRUE, _SWAPPED = skia.ColorType.kBGRA_8888_ColorType, skia.ColorType.kRGBA_8888_ColorType


def _info(width: int, height: int, order: skia.ColorType) -> skia.ImageInfo:
    return skia.ImageInfo.Make(width, height, order, skia.AlphaType.kPremul_AlphaType)


@lru_cache(maxsize=512)
def _shades_of(colour: Bgra, opacity: float) -> NDArray[np.int32]:
    """(256, 1): the px of a colour, premultiplied, as strong as 0 to 255, as Skia draws them."""
    canvas = Canvas(256, 1)
    steps = np.arange(256, dtype=np.uint8).reshape(1, 256, 1)
    image = skia.Image.fromarray(steps, skia.ColorType.kAlpha_8_ColorType, copy=False)
    canvas._canvas.drawImage(image, 0, 0, skia.SamplingOptions(), _paint(colour, opacity))
    del image  # before `steps`, which it only borrows
    return canvas.pixels.view(np.int32).reshape(256, 1)


def _paint(colour: Bgra, opacity: float) -> skia.Paint:
    blue, green, red, alpha = colour
    paint = skia.Paint(AntiAlias=True)
    paint.setColor4f(swapped(red / 255, green / 255, blue / 255, alpha / 255 * opacity))
    return paint


def _inked(ink: Ink, opacity: float) -> skia.Paint:
    if isinstance(ink, tuple):
        return _paint(ink, opacity)
    paint = skia.Paint(AntiAlias=True, Dither=True, Shader=ink)
    paint.setAlphaf(opacity)
    return paint
