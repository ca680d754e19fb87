"""rovix export: files in every form."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from rovix.cli.arguments import Size, opened_project, progress_bar, sequence_option
from rovix.errors import RovixError
from rovix.model.delivery import Delivery
from rovix.time import Span

if TYPE_CHECKING:
    from rovix.engine.export import WriteRanges
    from rovix.engine.open_project import OpenProject


@click.command()
@click.argument("project")
@click.argument("out", type=click.Path(path_type=Path))
@click.option("--from", "first", type=click.IntRange(0), help="The first frame; 0 if not given.")
@click.option("--to", "last", type=click.IntRange(0), help="The last frame, included; the end if not given.")
@click.option("--size", type=Size(), help="Width and height in px; the frame is fitted in.")
@click.option("--workers", type=click.IntRange(1, 64), help="Processes; one per core if not given.")
@click.option("--codec", help="How it is coded, where the suffix has several: see below.")
@click.option("--quality", help="best, good or small, where the kind has them; good if not given.")
@click.option(
    "--loudness",
    type=click.FloatRange(-40, -5),
    metavar="LUFS",
    help="What the sound is brought to, measured as ITU-R BS.1770; as it is if not given.",
)
@click.option("--preset", help="Name of a preset, or its file; what is given besides goes over it.")
@click.option(
    "--layer", "layers", multiple=True, help="Name or id of a layer to deliver alone, over nothing."
)
@click.option("--every-sequence", is_flag=True, help="A file for each sequence, named after it, too.")
@click.option(
    "--keep",
    type=click.Path(path_type=Path),
    metavar="FOLDER",
    help="Where finished ranges stay until all are done: started again, it goes on.",
)
@click.option("--scheduler", metavar="ADDRESS", help="A Dask cluster that writes the ranges.")
@sequence_option
def export(
    project: str, out: Path, first: int | None, last: int | None, size: tuple[int, int] | None,
    workers: int | None, codec: str | None, quality: str | None, loudness: float | None, preset: str | None,
    layers: tuple[str, ...], every_sequence: bool, keep: Path | None, scheduler: str | None,
    sequence: str | None,
) -> None:  # fmt: skip
    """Export PROJECT; the suffix of OUT says as what.

    .mp4 (h264, h265), .mov (prores-4444, prores-422), .webm (vp9, av1), .gif, .apng, .wav; .png and .jpg give
    numbered pictures in a folder called as OUT is, .png with the codec picture one frame alone. Transparent
    are prores-4444, vp9, .apng, .png, and .gif in one bit.
    """
    given = {"size": size, "codec": codec, "quality": quality, "loudness": loudness}
    how = _delivery(preset, {name: value for name, value in given.items() if value is not None})
    write = None if scheduler is None else _on_cluster(scheduler)
    with opened_project(project, sequence) as opened:
        if every_sequence:
            _export_all(opened, out, how, workers, write)
            return
        span = _frames(opened, first, last)
        with progress_bar(f"Exporting {out.name}") as progress:
            said = opened.deliver(out, how, span, layers, workers, progress, keep, write)
    _tell(said)


def _delivery(preset: str | None, given: dict[str, Any]) -> Delivery:
    from msgspec.structs import replace

    return replace(Delivery() if preset is None else _preset(preset), **given)


def _preset(wanted: str) -> Delivery:
    """The one of a name, or in a file."""
    from platformdirs import user_data_path

    from rovix.engine.kept_shelf import PresetShelf
    from rovix.formats.delivery_file import PRESETS

    if wanted.endswith(".json"):
        return PRESETS.read(Path(wanted)).how
    found = PresetShelf(user_data_path("rovix") / "presets").all()
    for item in found:
        if item.saved.name.lower() == wanted.lower():
            return item.saved.how
    names = ", ".join(f"'{item.saved.name}'" for item in found)
    raise RovixError(f"There is no preset '{wanted}'. There are {names}.")


def _on_cluster(address: str) -> WriteRanges:
    from rovix.engine.cluster import on_cluster

    return on_cluster(address)


def _export_all(
    opened: OpenProject, out: Path, how: Delivery, workers: int | None, write: WriteRanges | None
) -> None:
    from rovix.engine.every_sequence import jobs_of_all
    from rovix.engine.export import export as export_job

    opened.use_fonts()
    for job in jobs_of_all(opened.tree, opened.base, out, how):
        with progress_bar(f"Exporting {job.out.name}") as progress:
            said = export_job(job, workers, progress, write=write)
        _tell(f"{job.out.name}: {said}" if said else "")


def _tell(said: str) -> None:
    if said:
        click.echo(said, err=True)


def _frames(opened: OpenProject, first: int | None, last: int | None) -> Span:
    start, end = first or 0, opened.span.end if last is None else last + 1
    if end <= start:
        raise click.UsageError(f"There is nothing from frame {start} to {end - 1}; both are included.")
    return Span(start, end)
