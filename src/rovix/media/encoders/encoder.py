"""What a kind of video or sound file is to those who export one."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Literal, Protocol

import numpy as np
from numpy.typing import NDArray

from rovix.errors import RovixError
from rovix.time import Rate


@dataclass(frozen=True, slots=True)
class Chapter:
    """A named stretch, from `start` to `end` in seconds from the file's first picture."""

    name: str
    start: Fraction
    end: Fraction


class Encoder(Protocol):
    """A file that is being written: pictures in order, sound beside them in stretches of any length."""

    def name_chapters(self, chapters: Sequence[Chapter]) -> None:
        """Say what the parts of it are called, before all else; where a kind of file has none nothing is."""

    def add_picture(self, pixels: NDArray[np.uint8]) -> None:
        """The next picture, (height, width, 4) premultiplied BGRA; without alpha it is over black."""

    def add_sound(self, samples: NDArray[np.float32]) -> None:
        """The next samples (n, 2); beyond full scale they are cut off."""

    def close(self) -> None:
        """Write what is left and end the file."""

    def abandon(self) -> None:
        """Let go of the file as it is."""


class Joint(Protocol):
    """A file, or folder, made of ranges that are encoded already, in their order, with sound beside them."""

    def name_chapters(self, chapters: Sequence[Chapter]) -> None:
        """As those of an encoder."""

    def add_range(self, path: Path) -> Iterator[None]:
        """The next range, a picture at a time; what it was read from may be gone afterwards."""

    def add_sound(self, samples: NDArray[np.float32]) -> None:
        """The next samples (n, 2); beyond full scale they are cut off."""

    def close(self) -> None:
        """Write what is left and end the file."""

    def abandon(self) -> None:
        """Let go of the file as it is."""


Alpha = Literal["none", "one bit", "full"]
QualityName = Literal["best", "good", "small", "only"]
Begin = Callable[[Path, tuple[int, int], Rate, bool], Encoder]
Join = Callable[[Path, Path, Rate, bool], Joint]
"""Begins what is joined, like a first range, of a rate, with sound or without."""
ALIKE = "lossless"
"""What a quality is said to be where nothing is lost."""


@dataclass(frozen=True, slots=True)
class Quality:
    """How well a file keeps its pictures: its `name`, what that is in the kind's own numbers, and what
    `begin`s such a file, or folder, of a size in px and a rate, with sound or without."""

    name: QualityName
    said: str
    begin: Begin


@dataclass(frozen=True, slots=True)
class EncoderKind:
    """A kind of file: its `suffix`, its `codec`, what it is `called`, and what it takes.

    `even` sizes only where colours are halved; `narrowest` the least width in px; `alpha` is what it keeps of
    transparency; `sound` says whether it has any, `pictures` whether it has those; `folder` that it is many
    files in one folder, `single` that it is one picture; `fastest` the most pictures a second. Of its
    `qualities`, best first, "good" is taken if none is asked for, else the first. The first kind of a suffix
    is what a name alone asks for. Ranges that were encoded by themselves are put together by `join`, without
    encoding again; a kind that has none is encoded in one.
    """

    suffix: str
    codec: str
    called: str
    qualities: tuple[Quality, ...]
    even: bool = False
    narrowest: int = 1
    alpha: Alpha = "none"
    pictures: bool = True
    sound: bool = True
    folder: bool = False
    single: bool = False
    fastest: float | None = None
    join: Join | None = None

    def quality(self, name: str | None = None) -> Quality:
        """The one of a name, or what is taken without; RovixError, with those there are, for any other."""
        named = {quality.name: quality for quality in self.qualities}
        if name is None:
            return named.get("good", self.qualities[0])
        if name in named:
            return named[name]
        if len(named) == 1:
            raise RovixError(f"{self.called} has one quality only, {self.qualities[0].said}.")
        raise RovixError(f"{self.called} has no quality called {name}; there is {', '.join(named)}.")

    def check(self, size: tuple[int, int], rate: Rate | None = None) -> None:
        """RovixError, with what would do, for a size or a rate that it does not take."""
        if self.even and (size[0] % 2 or size[1] % 2):
            even = f"{size[0] + size[0] % 2} x {size[1] + size[1] % 2}"
            raise RovixError(
                f"{self.called} needs an even width and height, not {size[0]} x {size[1]}; take {even}."
            )
        if size[0] < self.narrowest:
            raise RovixError(
                f"{self.called} needs a width of {self.narrowest} px or more, not {size[0]}; take a larger "
                "size, or another kind of file."
            )
        if self.fastest is not None and rate is not None and rate.fraction > self.fastest:
            raise RovixError(
                f"{self.called} has at most {self.fastest:g} pictures a second, not {rate.label}; give the "
                "sequence a lower rate, or take another kind of file."
            )
