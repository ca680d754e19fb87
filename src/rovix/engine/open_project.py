"""A project opened from its file: ask it for pictures, numbers, files."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from rovix.check.legibility import reading_facts
from rovix.edit.alone import alone
from rovix.edit.levels import Level, focused
from rovix.engine.export import WriteRanges, export
from rovix.engine.export_job import ExportJob
from rovix.errors import RovixError
from rovix.formats import read_project, replacing, write_project
from rovix.media.library import MediaLibrary
from rovix.media.stills import write_png
from rovix.model import GroupClip, Project, TextClip, Track
from rovix.model.delivery import Delivery
from rovix.motion import describe, picture_plan
from rovix.paint.painter import Painter
from rovix.text.catalogue import use_project_fonts
from rovix.time import Span

Pixels = NDArray[np.uint8]


class OpenProject:
    """A project and the folder its media paths start from. Use it as a context, or close it."""

    def __init__(self, project: Project, base: Path) -> None:
        self.tree = project
        self.base = base
        self._library = MediaLibrary(project, base)
        self._painter = Painter(self._library)

    def use_fonts(self) -> None:
        """Have the fonts beside this project; whatever lays out words asks for them first."""
        use_project_fonts(self.base)

    def __enter__(self) -> OpenProject:
        return self

    def __exit__(self, *_: object) -> None:
        self.close()

    def close(self) -> None:
        """Close the media files."""
        self._library.close()

    @property
    def span(self) -> Span:
        """All frames of the sequence."""
        return Span(0, self.tree.sequence.length)

    def picture(self, frame: int, size: tuple[int, int] | None = None) -> Pixels:
        """(height, width, 4) uint8, premultiplied BGRA, of a frame at `size` (width, height).

        Raises RovixError for a frame outside of the sequence and for media that cannot be read.
        """
        self.check_frame(frame)
        self.use_fonts()
        return self._painter.paint(picture_plan(self.tree, frame), size)

    def save_picture(self, frame: int, out: Path, size: tuple[int, int] | None = None) -> None:
        """Write a frame as a PNG with straight alpha, whole or not at all."""
        pixels = self.picture(frame, size)
        try:
            with replacing(out) as part:
                write_png(part, pixels)
        except OSError as wrong:
            raise RovixError(f"{out} could not be written: {wrong.strerror}. Take another place.") from wrong

    def describe(self, frame: int) -> dict[str, Any]:
        """What a frame shows, in numbers; fields as in docs/describe.md."""
        self.check_frame(frame)
        self.use_fonts()
        facts = describe(self.tree, frame)
        self._add_reading(facts["layers"])
        return facts

    def _add_reading(self, layers: list[dict[str, Any]]) -> None:
        """How the words of layers read, those of groups and sequences among them."""
        words = {
            clip.id: (clip, sequence) for sequence in self.tree.sequences for clip in _texts(sequence.tracks)
        }
        for layer in layers:
            if layer["id"] in words:
                clip, sequence = words[layer["id"]]
                layer.update(reading_facts(clip, sequence.size, sequence.frame_rate))
            self._add_reading(layer.get("layers", []))

    def export(
        self,
        out: Path,
        span: Span | None = None,
        size: tuple[int, int] | None = None,
        workers: int | None = None,
        progress: Callable[[int, int], None] | None = None,
        codec: str | None = None,
        layers: Sequence[str] = (),
        quality: str | None = None,
    ) -> None:
        """Export a file of the kind that its name and `codec` ask for, in a `quality` that it has.

        As :meth:`deliver`, in a few words.
        """
        self.deliver(out, Delivery(size, codec, quality), span, layers, workers, progress)

    def deliver(
        self,
        out: Path,
        how: Delivery,
        span: Span | None = None,
        layers: Sequence[str] = (),
        workers: int | None = None,
        progress: Callable[[int, int], None] | None = None,
        keep: Path | None = None,
        write: WriteRanges | None = None,
    ) -> str:
        """Export a file of the kind that its name asks for, made as `how` says.

        As :func:`rovix.engine.export.export`. With `layers`, names or ids, those are delivered alone, over
        nothing.
        """
        self.use_fonts()
        tree = alone(self.tree, layers) if layers else self.tree
        job = ExportJob(tree, self.base, out, span or self.span, how)
        return export(job, workers, progress, keep, write)

    def save(self, path: Path) -> None:
        """Write the project file, whole or not at all."""
        write_project(path, self.tree)

    def check_frame(self, frame: int) -> None:
        """Raise RovixError for a frame outside of the sequence."""
        if self.span.length == 0:
            raise RovixError("The sequence is empty: it has no frames to show. Put a clip on a track first.")
        if frame not in self.span:
            raise RovixError(f"There is no frame {frame}: the sequence has frames 0 to {self.span.end - 1}.")


def _texts(tracks: tuple[Track, ...]) -> Iterator[TextClip]:
    """The text layers on tracks, in groups too."""
    for clip in (clip for track in tracks for clip in track.clips):
        if isinstance(clip, TextClip):
            yield clip
        elif isinstance(clip, GroupClip):
            yield from _texts(clip.tracks)


def open_project(path: Path | str, sequence: str | None = None) -> OpenProject:
    """Open a `.rovix` file, on its first sequence or on the one of that name or id.

    Raises RovixError (ProjectFileError with every problem) when it cannot.
    """
    path = Path(path)
    project = read_project(path)
    return OpenProject(project if sequence is None else _on(project, sequence), path.parent)


def _on(project: Project, wanted: str) -> Project:
    for sequence in project.sequences:
        if wanted in (sequence.name, sequence.id):
            return focused(project, Level(sequence.id))
    names = ", ".join(f"'{sequence.name}'" for sequence in project.sequences)
    raise RovixError(f"There is no sequence '{wanted}'. The project has {names}.")
