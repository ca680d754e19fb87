"""The command line."""

from __future__ import annotations

import json
import sys
from pathlib import Path
from typing import Any

import click

from rovix import __version__
from rovix.cli.arguments import RateType, Size, opened_project, progress_bar, sequence_option
from rovix.cli.checking import check
from rovix.cli.exporting import export
from rovix.cli.following import follow, matte
from rovix.cli.titles import make, new_from_title, title_named, titles
from rovix.entry import has_display
from rovix.errors import RovixError
from rovix.model import Move, Project, Sequence, TextClip
from rovix.time import Rate, timecode


class _Commands(click.Group):
    """Errors in the work end with one sentence on stderr and status 1; usage ends with 2."""

    def invoke(self, ctx: click.Context) -> Any:
        try:
            return super().invoke(ctx)
        except RovixError as wrong:
            click.echo(str(wrong), err=True)
            ctx.exit(1)
        except KeyboardInterrupt:
            click.echo("Stopped; nothing was written.", err=True)
            ctx.exit(130)


@click.group(cls=_Commands, context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(__version__, prog_name="rovix")
def main() -> None:
    """Animate words over your video, and export it.

    PROJECT is a .rovix file, or the word demo.
    """


main.add_command(export)
main.add_command(follow)
main.add_command(matte)
main.add_command(titles)
main.add_command(make)
main.add_command(check)


@main.command()
@click.argument("project")
@click.argument("frame", type=int)
@click.argument("out", type=click.Path(path_type=Path))
@click.option("--size", type=Size(), help="Width and height in px; the frame is fitted in.")
@sequence_option
def picture(project: str, frame: int, out: Path, size: tuple[int, int] | None, sequence: str | None) -> None:
    """Write one FRAME of PROJECT as a PNG with straight alpha."""
    if out.suffix.lower() != ".png":
        raise click.UsageError(f"{out.name} should end in .png.")
    with opened_project(project, sequence) as opened:
        opened.save_picture(frame, out, size)


@main.command()
@click.argument("project")
@click.argument("frame", type=int)
@click.option("--json", "as_json", is_flag=True, help="Every number, as JSON.")
@sequence_option
def describe(project: str, frame: int, as_json: bool, sequence: str | None) -> None:
    """Say in numbers what a FRAME of PROJECT shows."""
    with opened_project(project, sequence) as opened:
        facts = opened.describe(frame)
    if as_json:
        click.echo(json.dumps(facts, ensure_ascii=False, indent=1))
        return
    click.echo(f"frame {frame}, {timecode(frame, facts['rate'])}")
    for layer in facts["layers"]:
        click.echo(_layer_line(layer))


@main.command()
@click.option("--json", "as_json", is_flag=True, help="Every number of every move, as JSON.")
@click.option("--role", type=click.Choice(["entrance", "loop", "exit"]), help="Only moves of that role.")
def moves(as_json: bool, role: str | None) -> None:
    """List the moves that come with Rovix, then your own."""
    found = _moves(role)
    if as_json:
        click.echo(json.dumps(found, ensure_ascii=False, indent=1))
        return
    for move in found:
        own = ", your own" if move["own"] else ""
        click.echo(f"{move['role']:<9} {move['name']:<22} {move['pieces']}, {move['length']:g} s{own}")


@main.command("captions-in")
@click.argument("project")
@click.argument("captions", type=click.Path(path_type=Path))
@click.argument("out", type=click.Path(path_type=Path))
@click.option("--like", help="Name or id of a text layer whose style and moves the captions take.")
@click.option("--title", help="The name of a title that says each of them, instead.")
@click.option(
    "--letters", type=click.IntRange(1, 200), default=38, show_default=True, help="In a line at most."
)
@click.option("--lines", type=click.IntRange(1, 6), default=2, show_default=True, help="At a time at most.")
@click.option("--encoding", help="What the captions are written in, where it is guessed wrong.")
@sequence_option
def captions_in_command(
    project: str, captions: Path, out: Path, like: str | None, title: str | None, letters: int, lines: int,
    encoding: str | None, sequence: str | None,
) -> None:  # fmt: skip
    """Put the captions of a file (SRT, WebVTT) into PROJECT as text layers, and write it as OUT."""
    from rovix.edit.captions import CaptionOptions, captions_in, captions_in_titles
    from rovix.edit.levels import Level, unfocused
    from rovix.edit.media_paths import with_base
    from rovix.exchange import CAPTION_FORMATS
    from rovix.exchange.captions import read_captions
    from rovix.formats import SUFFIX, write_project

    if out.suffix != SUFFIX:
        raise click.UsageError(f"{out.name} should end in {SUFFIX}.")
    if like is not None and title is not None:
        raise click.UsageError("Captions are like a layer or said by a title, not both.")
    with opened_project(project, sequence) as opened:
        opened.use_fonts()
        read = read_captions(captions, CAPTION_FORMATS, encoding)
        layer, options = (
            None if like is None else _text_layer(opened.tree, like),
            CaptionOptions(letters, lines),
        )
        if title is None:
            made, ids = captions_in(opened.tree, read.cues, layer, options)
        else:
            name, wanted = title_named(title, opened.base)
            made, ids = captions_in_titles(opened.tree, read.cues, name, wanted, options)
        with opened_project(project) as all_of_it:
            whole = unfocused(all_of_it.tree, Level(opened.tree.sequence.id), made)
        write_project(out, with_base(whole, opened.base, out.parent))
    for told in read.told:
        click.echo(told, err=True)
    layers = "text layers" if title is None else "titles"
    click.echo(f"{len(ids)} {layers} from {len(read.cues)} captions, read as {read.encoding}.")


@main.command("captions-out")
@click.argument("project")
@click.argument("out", type=click.Path(path_type=Path))
@sequence_option
def captions_out_command(project: str, out: Path, sequence: str | None) -> None:
    """Write the words of PROJECT with their times as captions: OUT.srt or OUT.vtt."""
    from rovix.edit.captions import captions_of
    from rovix.exchange import CAPTION_FORMATS
    from rovix.formats import write_whole

    known = CAPTION_FORMATS.get(out.suffix.lower())
    if known is None:
        raise click.UsageError(f"{out.name} should end in {' or '.join(CAPTION_FORMATS)}.")
    with opened_project(project, sequence) as opened:
        cues = captions_of(opened.tree)
    try:
        write_whole(out, known.write(cues).encode())
    except OSError as wrong:
        raise RovixError(f"{out} could not be written: {wrong.strerror}. Take another place.") from wrong
    click.echo(f"{len(cues)} captions.")


@main.command("timeline-out")
@click.argument("project")
@click.argument("out", type=click.Path(path_type=Path))
@sequence_option
def timeline_out_command(project: str, out: Path, sequence: str | None) -> None:
    """Write PROJECT as an OpenTimelineIO timeline, OUT.otio; brought in again it is whole."""
    from rovix.engine.timelines import TIMELINE_SUFFIX, write_timeline

    if out.suffix != TIMELINE_SUFFIX:
        raise click.UsageError(f"{out.name} should end in {TIMELINE_SUFFIX}.")
    with opened_project(project, sequence) as opened:
        told = write_timeline(opened.tree, opened.base, out)
    for line in told:
        click.echo(line, err=True)


@main.command("timeline-in")
@click.argument("timeline", type=click.Path(path_type=Path))
@click.argument("out", type=click.Path(path_type=Path))
def timeline_in_command(timeline: Path, out: Path) -> None:
    """Write the project OUT from an OpenTimelineIO timeline, and say what could not be taken over."""
    from rovix.edit.media_paths import with_base
    from rovix.formats import SUFFIX, write_project
    from rovix.formats.timeline_in import read_timeline

    if out.suffix != SUFFIX:
        raise click.UsageError(f"{out.name} should end in {SUFFIX}.")
    if out.exists():
        raise RovixError(f"{out} exists already and was left as it is; take another name.")
    project, told = read_timeline(timeline)
    write_project(out, with_base(project, timeline.parent, out.parent))
    for line in told:
        click.echo(line, err=True)


@main.command("check-file")
@click.argument("project")
def check_file(project: str) -> None:
    """Say whether PROJECT is sound: its data, its media files, its fonts."""
    with opened_project(project) as opened:
        opened.use_fonts()
        warnings = _warnings(opened.tree, opened.base)
        length, rate = opened.tree.sequence.length, opened.tree.sequence.frame_rate
    for warning in warnings:
        click.echo(warning, err=True)
    if any("not found" in warning for warning in warnings):
        raise RovixError(f"{project} opens, but not everything it needs is there.")
    click.echo(f"{project} is sound: {length} frames at {rate.label} fps.")


@main.command()
@click.argument("out", type=click.Path(path_type=Path))
@click.option("--size", type=Size(), default="1920x1080", show_default=True, help="Width and height in px.")
@click.option("--rate", type=RateType(), default="30", show_default=True, help="Frames per second.")
@click.option("--title", help="A title's name, or its file: the project holds it alone.")
@click.option("--set", "given", multiple=True, metavar="NAME=VALUE", help="Something set in the title.")
def new(out: Path, size: tuple[int, int], rate: Rate, title: str | None, given: tuple[str, ...]) -> None:
    """Write an empty project, or one of a title, to OUT."""
    from rovix.formats import SUFFIX, write_project

    if out.suffix != SUFFIX:
        raise click.UsageError(f"{out.name} should end in {SUFFIX}.")
    if out.exists():
        raise RovixError(f"{out} exists already and was left as it is; take another name.")
    if title is not None:
        new_from_title(out, title, given)
        return
    write_project(out, Project(name=out.stem, sequences=(Sequence(size=size, rate=str(rate)),)))


@main.command("open")
@click.argument("project", required=False)
def open_window(project: str | None) -> None:
    """Open the window on PROJECT, or on the demo."""
    if not has_display():
        raise RovixError("There is no display to open a window on. See rovix --help for what works without.")
    _run(None if project in (None, "demo") else Path(str(project)))


def _run(path: Path | None) -> None:
    """The window until it is closed."""
    from rovix.desktop.app import run

    sys.exit(run(path))


@main.command()
def demo() -> None:
    """Open the Larkmoor Kite Day demo; without a display, export it to build/demo.mp4."""
    if has_display():
        _run(None)
    out = Path("build") / "demo.mp4"
    click.echo(f"There is no display to open a window on, so the demo is exported to {out}.", err=True)
    out.parent.mkdir(exist_ok=True)
    with opened_project("demo") as opened, progress_bar(f"Exporting {out.name}") as progress:
        opened.export(out, progress=progress)
    click.echo(f"{out} is ready.", err=True)


def _moves(role: str | None) -> list[dict[str, Any]]:
    """Ready moves and own ones as the fields of a move file, and whether they are own."""
    from platformdirs import user_data_path

    from rovix.engine.kept_shelf import MoveShelf
    from rovix.formats.structs import plain
    from rovix.motion.ready_moves import ready_moves

    shelf = MoveShelf(user_data_path("rovix") / "moves")
    found: list[tuple[bool, str, Move]] = []
    for one in [role] if role else ["entrance", "loop", "exit"]:
        found += [(False, move.name, move) for move in ready_moves(one)]
        found += [(True, item.saved.name, item.saved.move) for item in shelf.of_role(one)]
    for problem in shelf.problems:
        click.echo(problem, err=True)
    # Ids are new each time; they would only tell two runs apart.
    return [
        {**{k: v for k, v in plain(move).items() if k != "id"}, "name": name, "own": own}
        for own, name, move in found
    ]


def _warnings(project: Project, base: Path) -> list[str]:
    from rovix.media.library import MediaLibrary
    from rovix.model.consistency import used_families
    from rovix.text import missing_families

    gone = [f"Media not found: {media.path}." for media in MediaLibrary(project, base).missing()]
    fonts = missing_families(used_families(project))
    return gone + [f"Font not here: {name}. A stand-in is drawn; the file keeps the name." for name in fonts]


def _text_layer(project: Project, wanted: str) -> TextClip:
    """The text layer of a name or id; RovixError, with those that there are."""
    clips = [c for track in project.sequence.tracks for c in track.clips if isinstance(c, TextClip)]
    found = next((clip for clip in clips if wanted in (clip.id, clip.name, clip.title)), None)
    if found is None:
        names = ", ".join(f"'{clip.title}'" for clip in clips[:12]) or "none"
        raise RovixError(f"There is no text layer '{wanted}'. There are {names}.")
    return found


def _layer_line(layer: dict[str, Any]) -> str:
    bounds = layer["bounds"]
    place = "not to be seen" if bounds is None else "ink " + " ".join(f"{edge:.1f}" for edge in bounds)
    return f"{layer['kind']:8} {layer['name'] or layer['id']}  frame {layer['frame']}  {place}"
