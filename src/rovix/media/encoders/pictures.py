"""A picture a frame, in a folder: PNG with alpha, JPEG."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from functools import partial
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from rovix.media.encoders.encoder import ALIKE, Chapter, EncoderKind, Quality, QualityName
from rovix.media.stills import write_png
from rovix.time import Rate

_JPEG: dict[QualityName, int] = {"best": 98, "good": 95, "small": 80}
"""Of 100, as IJG's libjpeg counts."""
Write = Callable[[Path, NDArray[np.uint8]], None]


class PicturesWriter:
    """Writes numbered pictures into a folder, which it makes; they are called after the folder."""

    def __init__(
        self, folder: Path, size: tuple[int, int], rate: Rate, sound: bool, suffix: str, write: Write
    ) -> None:
        folder.mkdir()
        self._folder, self._suffix, self._write = folder, suffix, write
        self._count = 0

    def name_chapters(self, chapters: Sequence[Chapter]) -> None:
        """They have none."""

    def add_picture(self, pixels: NDArray[np.uint8]) -> None:
        """The next picture: (height, width, 4) premultiplied BGRA."""
        self._write(self._folder / f"{self._count:06d}{self._suffix}", pixels)
        self._count += 1

    def add_sound(self, samples: NDArray[np.float32]) -> None:
        """They have none."""

    def close(self) -> None:
        """All are written."""

    def abandon(self) -> None:
        """The folder goes with what called for it."""


class PictureWriter:
    """Writes one picture."""

    def __init__(self, path: Path, size: tuple[int, int], rate: Rate, sound: bool) -> None:
        self._path = path

    def name_chapters(self, chapters: Sequence[Chapter]) -> None:
        """It has none."""

    def add_picture(self, pixels: NDArray[np.uint8]) -> None:
        """The picture: (height, width, 4) premultiplied BGRA."""
        write_png(self._path, pixels)

    def add_sound(self, samples: NDArray[np.float32]) -> None:
        """It has none."""

    def close(self) -> None:
        """It is written."""

    def abandon(self) -> None:
        """What is there of it goes with what called for it."""


class JoinedFolder:
    """A folder of numbered pictures from such folders, whose pictures are moved into it."""

    def __init__(self, folder: Path, like: Path, rate: Rate, sound: bool) -> None:
        folder.mkdir()
        self._folder, self._count = folder, 0

    def name_chapters(self, chapters: Sequence[Chapter]) -> None:
        """They have none."""

    def add_range(self, path: Path) -> Iterator[None]:
        """The next range, a picture at a time."""
        for file in sorted(path.iterdir()):
            file.rename(self._folder / f"{self._count:06d}{file.suffix}")
            self._count += 1
            yield

    def add_sound(self, samples: NDArray[np.float32]) -> None:
        """They have none."""

    def close(self) -> None:
        """All are there."""

    def abandon(self) -> None:
        """The folder goes with what called for it."""


def _write_jpeg(path: Path, pixels: NDArray[np.uint8], quality: int) -> None:
    Image.fromarray(pixels[..., [2, 1, 0]]).save(path, "JPEG", quality=quality, subsampling=0)


_LOSSLESS = (Quality("only", ALIKE, partial(PicturesWriter, suffix=".png", write=write_png)),)
_ALONE = (Quality("only", ALIKE, PictureWriter),)
_BY_NUMBER = tuple(
    Quality(
        name, f"{number} of 100",
        partial(PicturesWriter, suffix=".jpg", write=partial(_write_jpeg, quality=number)),
    )
    for name, number in _JPEG.items()
)  # fmt: skip
ENCODERS = (
    EncoderKind(
        ".png", "png", "PNG pictures", _LOSSLESS, alpha="full", sound=False, folder=True, join=JoinedFolder
    ),
    EncoderKind(".jpg", "jpg", "JPEG pictures", _BY_NUMBER, sound=False, folder=True, join=JoinedFolder),
    EncoderKind(".png", "picture", "PNG, a single picture", _ALONE, alpha="full", sound=False, single=True),
)
