"""The contrast of a layer's letters in one picture, worked out in a process of its own for the viewer."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from rovix.check.edges import edges
from rovix.engine.checking import LARGE, OF_LARGE, OF_SMALLER, faces_only
from rovix.engine.long_job import Part, Progress
from rovix.media.library import MediaLibrary
from rovix.model import Project
from rovix.model.clip_kinds import has_words
from rovix.model.on_track import every_clip
from rovix.motion import picture_plan
from rovix.paint.painter import Painter
from rovix.text.catalogue import use_project_fonts

_HIGH = 720


@dataclass(frozen=True, slots=True, eq=False)
class ShownContrast:
    """Of a layer at a frame: the `tenth` percentile over all its letters' rings, and each letter's, (n,),
    with its box, (n, 4) in px of the frame from its top left; `asked` is what WCAG 2.2 asks of letters so
    large."""

    tenth: float
    asked: float
    letters: NDArray[np.float64]
    boxes: NDArray[np.float64]


def contrast_of(
    project: Project, base: Path, layer: str, frame: int, progress: Progress, _: Part
) -> ShownContrast | None:
    """The contrast of a layer of the first sequence; None where no letter of it can be seen."""
    progress(0, 1)
    use_project_fonts(base)
    width, height = project.sequence.size
    share = min(1.0, _HIGH / min(width, height))
    size = max(2, round(width * share)), max(2, round(height * share))
    library = MediaLibrary(project, base)
    try:
        painter = Painter(library)
        cover = painter.paint(picture_plan(faces_only(project, layer), frame), size)[..., 3] / 255
        picture = painter.paint(picture_plan(project, frame), size)[..., 2::-1]
    finally:
        library.close()
    found = edges(picture, cover)
    if found is None:
        return None
    clip = next(one for one in every_clip(project.sequence.tracks) if one.id == layer)
    large = has_words(clip) and clip.text.size >= LARGE * height
    return ShownContrast(found.tenth, OF_LARGE if large else OF_SMALLER, found.letters, found.boxes / share)
