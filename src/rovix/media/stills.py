"""Image files as premultiplied BGRA."""

from __future__ import annotations

import struct
import warnings
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageOps, UnidentifiedImageError

from rovix.files import check_regular
from rovix.media.apart import apart
from rovix.media.errors import MediaError
from rovix.media.svg import read_svg

Pixels = NDArray[np.uint8]
_ROWS = 256
MOST_PX = 120_000_000
"""The most px that a picture may have: half a gigabyte when it is shown."""


def read_still(path: Path, scale: float = 1.0) -> Pixels:
    """(height, width, 4) premultiplied BGRA, turned as its EXIF says; not to be written to.

    A drawing comes at `scale` times its size, pictures as they are. Read by another process.
    """
    pixels = apart(decode_still, path, scale)
    pixels.setflags(write=False)
    return pixels


def decode_still(path: Path, scale: float = 1.0) -> Pixels:
    """Like :func:`read_still`, in this process."""
    straight = read_svg(path, scale) if is_drawing(path) else _rgba(path)
    return premultiplied(straight[..., [2, 1, 0, 3]])


def is_drawing(path: Path) -> bool:
    """Whether a file is drawn anew for each size."""
    return path.suffix.lower() == ".svg"


def still_size(path: Path) -> tuple[int, int]:
    """Width and height in px as shown; MediaError when the picture cannot be read."""
    # All of it is decoded: a file that breaks off half way is found out now, not while it plays.
    height, width = decode_still(path).shape[:2]
    return width, height


def _rgba(path: Path) -> Pixels:
    """Straight RGBA of 8 bits, turned upright; deep greys keep their range."""
    try:
        check_regular(path)
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            with Image.open(path) as image:
                if image.size[0] * image.size[1] > MOST_PX:
                    raise MediaError(path, f"it has more than {MOST_PX // 1_000_000} million px")
                upright = ImageOps.exif_transpose(image)
                return np.asarray(_eight_bit(upright).convert("RGBA"))
    except MediaError:
        raise
    except (Image.DecompressionBombError, Image.DecompressionBombWarning) as wrong:
        raise MediaError(path, f"it has more than {MOST_PX // 1_000_000} million px") from wrong
    except UnidentifiedImageError as wrong:
        raise MediaError(path, "it holds no picture that can be read") from wrong
    except (OSError, ValueError, SyntaxError, EOFError, MemoryError, struct.error) as wrong:
        raise MediaError(path, f"the picture is damaged ({wrong})") from wrong


def _eight_bit(image: Image.Image) -> Image.Image:
    """Greys of 16 bits brought to 8: Pillow alone would cut them off at 255."""
    if image.mode not in ("I;16", "I;16B", "I;16L", "I"):
        return image
    deep = np.asarray(image).astype(np.float64)
    return Image.fromarray(np.rint(np.clip(deep, 0, 65535) / 257).astype(np.uint8), "L")


def is_animated(path: Path) -> bool:
    """Whether a PNG or GIF has more than one picture; False for what cannot be read."""
    try:
        with Image.open(path) as image:
            return bool(getattr(image, "is_animated", False))
    except (
        OSError,
        ValueError,
        SyntaxError,
        EOFError,
        MemoryError,
        struct.error,
        Image.DecompressionBombError,
    ):
        return False


def write_png(path: Path, pixels: Pixels) -> None:
    """Premultiplied BGRA as a PNG with straight alpha."""
    Image.fromarray(straight(pixels)[..., [2, 1, 0, 3]], "RGBA").save(path, "PNG")


def premultiplied(pixels: Pixels) -> Pixels:
    """Colour channels times alpha, rounded; channel order stays."""
    result = np.empty_like(pixels)
    # Some rows at a time: twice as deep, a large picture takes gigabytes on the way.
    for top in range(0, len(pixels), _ROWS):
        part = pixels[top : top + _ROWS].astype(np.uint16)
        result[top : top + _ROWS] = (part * part[..., 3:] + 127) // 255
    result[..., 3] = pixels[..., 3]
    return result


def straight(pixels: Pixels) -> Pixels:
    """Colour channels divided by alpha, rounded; fully clear px become 0."""
    alpha = np.maximum(pixels[..., 3:].astype(np.uint32), 1)
    result = np.minimum((pixels.astype(np.uint32) * 255 + alpha // 2) // alpha, 255).astype(np.uint8)
    result[..., 3] = pixels[..., 3]
    return result
