"""What to export, where to, and how."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from rovix.model import Project
from rovix.model.delivery import Delivery
from rovix.time import Span

_USUAL = Delivery()


@dataclass(frozen=True, slots=True)
class ExportJob:
    """What to export: frames `span` of the first sequence of a project, to a file whose name says of which
    kind it is."""

    project: Project
    base: Path
    out: Path
    span: Span
    how: Delivery = _USUAL

    @property
    def picture_size(self) -> tuple[int, int]:
        return self.how.size or self.project.sequence.size
