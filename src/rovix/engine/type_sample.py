"""Words in a face as a small picture, for lists of faces."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from rovix.model import Fill, Look, Plain, Project, Sequence, Text, TextClip, Track, Transform
from rovix.motion import picture_plan
from rovix.paint.painter import Painter
from rovix.text import lay_out

_MOST_LETTERS = 24
_ROOM = 0.66  # of the height, for the ink


def sample_words(text: str) -> str:
    """The part of a layer's words that a sample shows: the start of its first line with letters."""
    lines = [line.strip() for line in text.splitlines() if line.strip()]
    return lines[0][:_MOST_LETTERS].strip() if lines else "Larkmoor"


def type_sample(words: Text, size: tuple[int, int], colour: str) -> NDArray[np.uint8]:
    """(height, width, 4) premultiplied BGRA of words that fit into `size` px, from its left edge."""
    width, height = max(16, size[0]), max(16, size[1])
    shown = Text(
        content=sample_words(words.content), family=words.family, weight=words.weight, italic=words.italic,
        axes=words.axes, size=height * 0.6, align="left",
    )  # fmt: skip
    left, top, right, bottom = lay_out(shown).ink_bounds() or (0.0, 0.0, 1.0, 1.0)
    share = min(1.0, (width - 2) / (right - left), height * _ROOM / (bottom - top) * 1.4)
    place = Transform(
        x=-width / 2 - left * share + 1, y=-(top + bottom) / 2 * share, scale_x=share, scale_y=share,
        pivot_x=0.0, pivot_y=0.5,
    )  # fmt: skip
    fill = Fill(id="fill", paint=Plain(colour=colour))
    clip = TextClip(id="sample", text=shown, look=Look(parts=(fill,)), transform=place)
    track = Track(id="track", clips=(clip,))
    sequence = Sequence(id="sample", size=(width, height), background="#00000000", tracks=(track,))
    return Painter(_NoPictures()).paint(picture_plan(Project(id="p", sequences=(sequence,)), 0))


class _NoPictures:
    def picture(
        self, source: str, time: object, shrunk: object = None, about: bool = False
    ) -> NDArray[np.uint8]:
        raise LookupError(f"A sample has no picture '{source}'.")
