"""Timelines for other programs, written whole beside wherever the media are."""

from __future__ import annotations

from pathlib import Path

from rovix.edit.media_paths import with_base
from rovix.errors import RovixError
from rovix.formats import write_whole
from rovix.model import Project

TIMELINE_SUFFIX = ".otio"


def write_timeline(project: Project, base: Path, out: Path) -> list[str]:
    """Write the first sequence of a project, whose media paths count from `base`, as an OpenTimelineIO
    timeline; what others will make otherwise, in sentences. RovixError for a place that takes none."""
    from rovix.formats.timeline_out import timeline_bytes  # its library is large, and seldom wanted

    content, told = timeline_bytes(with_base(project, base, out.parent))
    try:
        write_whole(out, content)
    except OSError as wrong:
        raise RovixError(f"{out} could not be written: {wrong.strerror}. Take another place.") from wrong
    return told
