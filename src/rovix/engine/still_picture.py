"""One picture of a project, drawn in a process of its own for whoever wants to look at it."""

from __future__ import annotations

from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from rovix.engine.long_job import Part, Progress
from rovix.media.library import MediaLibrary
from rovix.model import Project
from rovix.motion import picture_plan
from rovix.paint.painter import Painter
from rovix.text.catalogue import use_project_fonts


def still(
    project: Project, base: Path, frame: int, size: tuple[int, int], progress: Progress, _: Part
) -> NDArray[np.uint8]:
    """(h, w, 4) BGRA premultiplied: a frame of a project, at a size in px. RovixError for what cannot be
    drawn."""
    progress(0, 1)
    use_project_fonts(base)
    library = MediaLibrary(project, base)
    try:
        return Painter(library).paint(picture_plan(project, frame), size).copy()
    finally:
        library.close()
