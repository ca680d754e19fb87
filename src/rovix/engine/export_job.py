"""What to export, and where to."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from rovix.model import Project
from rovix.time import Span


@dataclass(frozen=True, slots=True)
class ExportJob:
    """What to export: frames `span` of the first sequence of a project, at `size`, to a file of the kind
    that its name and `codec` ask for, in a `quality` that this kind has."""

    project: Project
    base: Path
    out: Path
    span: Span
    size: tuple[int, int] | None = None
    codec: str | None = None
    quality: str | None = None

    @property
    def picture_size(self) -> tuple[int, int]:
        return self.size or self.project.sequence.size
