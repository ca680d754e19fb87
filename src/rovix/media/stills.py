"""Image files as premultiplied BGRA."""

from __future__ import annotations

from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageOps, UnidentifiedImageError

from rovix.media.errors import MediaError

Pixels = NDArray[np.uint8]


def read_still(path: Path) -> Pixels:
    """(height, width, 4) premultiplied BGRA, turned as its EXIF says; not to be written to."""
    try:
        with Image.open(path) as image:
            straight = np.asarray(ImageOps.exif_transpose(image).convert("RGBA"))
    except (UnidentifiedImageError, OSError, Image.DecompressionBombError) as wrong:
        raise MediaError(path, str(wrong)) from wrong
    pixels = premultiplied(straight[..., [2, 1, 0, 3]])
    pixels.setflags(write=False)
    return pixels


def write_png(path: Path, pixels: Pixels) -> None:
    """Premultiplied BGRA as a PNG with straight alpha."""
    Image.fromarray(straight(pixels)[..., [2, 1, 0, 3]], "RGBA").save(path, "PNG")


def premultiplied(pixels: Pixels) -> Pixels:
    """Colour channels times alpha, rounded; channel order stays."""
    alpha = pixels[..., 3:].astype(np.uint16)
    result = ((pixels.astype(np.uint16) * alpha + 127) // 255).astype(np.uint8)
    result[..., 3] = pixels[..., 3]
    return result


def straight(pixels: Pixels) -> Pixels:
    """Colour channels divided by alpha, rounded; fully clear px become 0."""
    alpha = np.maximum(pixels[..., 3:].astype(np.uint32), 1)
    result = np.minimum((pixels.astype(np.uint32) * 255 + alpha // 2) // alpha, 255).astype(np.uint8)
    result[..., 3] = pixels[..., 3]
    return result
