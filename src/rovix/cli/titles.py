"""rovix titles, and rovix make: titles by name, one or many."""

from __future__ import annotations

import json
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click
import msgspec

from rovix.cli.arguments import Size, progress_bar
from rovix.errors import RovixError

if TYPE_CHECKING:
    from rovix.model.title import Title


@click.command()
@click.option("--json", "as_json", is_flag=True, help="As JSON, with all that can be set.")
def titles(as_json: bool) -> None:
    """List the titles there are, and what is meant to be set in each."""
    from rovix.engine.titles import TitleShelf

    shelf = TitleShelf()
    found = shelf.all()
    for problem in shelf.problems:
        click.echo(problem, err=True)
    if as_json:
        click.echo(json.dumps([_facts(item.saved, item.own) for item in found], indent=1, ensure_ascii=False))
        return
    for item in found:
        settings = ", ".join(setting.name for setting in item.saved.title.settings)
        click.echo(f"{item.saved.name}: {settings}")
    if not found:
        click.echo("There are no titles yet; keep some layers as one in the window.", err=True)


def _facts(saved: Any, own: bool) -> dict[str, Any]:
    title = saved.title
    rate = title.sequence.frame_rate
    return {
        "name": saved.name, "group": title.group, "own": own, "size": list(title.sequence.size),
        "rate": title.sequence.rate, "length": float(rate.seconds(title.sequence.length)),
        "settings": [msgspec.to_builtins(setting) | {"extra": None} for setting in title.settings],
    }  # fmt: skip


@click.command()
@click.argument("title")
@click.argument("rows", type=click.Path(path_type=Path))
@click.argument("outdir", type=click.Path(path_type=Path))
@click.option(
    "--as", "form", default="mp4", show_default=True, help="A suffix, or a suffix and codec: mov:prores-4444."
)
@click.option("--size", type=Size(), help="Width and height in px; the frame is fitted in.")
@click.option("--quality", help="best, good or small, where the form has them.")
@click.option("--json", "as_json", is_flag=True, help="The report as JSON.")
def make(
    title: str, rows: Path, outdir: Path, form: str, size: tuple[int, int] | None, quality: str | None,
    as_json: bool,
) -> None:  # fmt: skip
    """Make a file of TITLE for each of ROWS (CSV with a head) in OUTDIR.

    Columns set what is called as they are; `length` is in seconds, `file` names the row's file. One bad
    row stops nothing; started again it makes only what is not there. Exit status 1 when a row could not be
    made."""
    from rovix.engine.bulk import REPORT, make_rows, table_rows
    from rovix.engine.titles import TitleShelf, title_for
    from rovix.model.delivery import Delivery

    item = TitleShelf().named(title)
    suffix, _, codec = form.partition(":")
    how = Delivery(size, codec or None, quality)
    wanted = title_for(item, Path("/"))
    with progress_bar(f"Making {item.saved.name}") as progress:
        made = make_rows(
            wanted, item.saved.name, table_rows(rows), outdir, f".{suffix.lstrip('.')}", how, progress
        )
    bad = [one for one in made if one.problem]
    if as_json:
        click.echo(json.dumps([msgspec.to_builtins(one) for one in made], indent=1, ensure_ascii=False))
    else:
        for one in bad:
            click.echo(f"Row {one.row}: {one.problem}", err=True)
        click.echo(f"{len(made) - len(bad)} of {len(made)} made in {outdir}; {REPORT} says which.")
    if bad:
        raise RovixError(f"{len(bad)} of {len(made)} rows could not be made.")


def title_named(name: str, base: Path) -> tuple[str, Title]:
    """A title by its name or file, its media by paths from a folder, and what it is called."""
    from rovix.engine.titles import TitleShelf, title_for

    item = TitleShelf().named(name)
    return item.saved.name, title_for(item, base)


def new_from_title(out: Path, title: str, given: tuple[str, ...]) -> None:
    """Write a project of a title alone, filled with `name=value`."""
    from rovix.edit.titles import filled
    from rovix.formats import write_project
    from rovix.media.probe import probe

    base = out.resolve().parent
    _, wanted = title_named(title, base)
    pairs = [text.partition("=") for text in given]
    wrong = next((text for text, (_, mark, _) in zip(given, pairs, strict=True) if not mark), None)
    if wrong is not None:
        raise click.UsageError(f"'{wrong}' sets nothing; write it as name=value.")
    values = {name.strip(): value for name, _, value in pairs}
    made = filled(wanted, values, lambda path: probe(Path(path).resolve(), base))
    project = msgspec.structs.replace(made.project, name=out.stem)
    write_project(out, project)
