"""What a kind of video or sound file is to those who export one."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Literal, Protocol

import numpy as np
from numpy.typing import NDArray

from rovix.errors import RovixError
from rovix.time import Rate


class Encoder(Protocol):
    """A file that is being written: pictures in order, sound beside them in stretches of any length."""

    def add_picture(self, pixels: NDArray[np.uint8]) -> None:
        """The next picture, (height, width, 4) BGRA, with alpha as its kind takes it."""

    def add_sound(self, samples: NDArray[np.float32]) -> None:
        """The next samples (n, 2); beyond full scale they are cut off."""

    def close(self) -> None:
        """Write what is left and end the file."""

    def abandon(self) -> None:
        """Let go of the file as it is."""


@dataclass(frozen=True, slots=True)
class EncoderKind:
    """A kind of file: its `suffix`, what it is `called`, and what it takes.

    `even` sizes only where colours are halved; `alpha` is what it keeps of transparency; `sound` says
    whether it has any, `pictures` whether it has those; `folder` that it is many files in one folder;
    `joins` whether ranges encoded apart may be put together. `begin` opens a file of a size in px and a
    rate, with sound or without.
    """

    suffix: str
    called: str
    begin: Callable[[Path, tuple[int, int], Rate, bool], Encoder]
    even: bool = False
    alpha: Literal["none", "straight", "premultiplied"] = "none"
    pictures: bool = True
    sound: bool = True
    folder: bool = False
    joins: bool = False

    def check(self, size: tuple[int, int]) -> None:
        """RovixError, with what would do, for a size that it does not take."""
        if self.even and (size[0] % 2 or size[1] % 2):
            even = f"{size[0] + size[0] % 2} x {size[1] + size[1] % 2}"
            raise RovixError(
                f"{self.called} needs an even width and height, not {size[0]} x {size[1]}; take {even}."
            )
