"""Mattes of projects made, and made again, by what was drawn for them."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

import msgspec
import numpy as np

from rovix.engine.matting import Subject, write_cut_out
from rovix.errors import RovixError
from rovix.media.probe import probe
from rovix.model import Media
from rovix.model.cut_out import CutOut
from rovix.vision.subject_matte import Mark

Progress = Callable[[int, int], None]


def make_matte(
    source: Path, cut_out: CutOut, out: Path, base: Path, progress: Progress, part: Callable[[Any], None]
) -> Media:
    """Make a matte's file, and give its facts; one that is there already is taken as it is.

    `part` gets (frame, outlines) of what there is. RovixError where it cannot be made or written.
    """
    if not out.exists():
        try:
            out.parent.mkdir(parents=True, exist_ok=True)
        except OSError as wrong:
            raise RovixError(f"{out.parent} could not be made: {wrong.strerror}.") from wrong
        write_cut_out(source, _subject(cut_out), out, progress, part)
    return msgspec.structs.replace(probe(out, base), cut_out=cut_out)


def _subject(cut_out: CutOut) -> Subject:
    marks = tuple(
        (stroke.frame, Mark(np.array(stroke.points, dtype=np.float64), stroke.width, stroke.belongs))
        for stroke in cut_out.strokes
    )
    return Subject(cut_out.frame, cut_out.box, marks, cut_out.first, cut_out.last)
