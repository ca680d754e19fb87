"""rovix check: what those who watch will see, before it is shown."""

from __future__ import annotations

import json
from dataclasses import asdict
from typing import Any

import click

from rovix.check.audience import AUDIENCES, USUAL
from rovix.check.finding import KINDS, Finding
from rovix.cli.arguments import opened_project, progress_bar, sequence_option
from rovix.errors import RovixError
from rovix.time import timecode

_ANYTHING = "anything"


@click.command()
@click.argument("project")
@click.option("--json", "as_json", is_flag=True, help="As JSON, with every number.")
@click.option(
    "--audience", type=click.Choice(list(AUDIENCES)), default=USUAL, show_default=True, help="Who reads it."
)
@click.option(
    "--fail-on", multiple=True, type=click.Choice([_ANYTHING, "wrong", *KINDS]), default=("wrong",),
    show_default=True, help="What ends it with status 1: any finding, all but hints, or kinds by name.",
)  # fmt: skip
@click.option("--quick", is_flag=True, help="Without looking at pictures and sound.")
@sequence_option
def check(
    project: str, as_json: bool, audience: str, fail_on: tuple[str, ...], quick: bool, sequence: str | None
) -> None:
    """Check PROJECT as viewers will see it: time to read, contrast, safe areas, flashes, motion.

    Exit status 1 when something stands that is not accepted in the file."""
    from rovix.engine.checking import Asked, checked

    asked = Asked(audience, pictures=not quick, flashes=not quick, sound=not quick)
    with opened_project(project, sequence) as opened:
        rate = opened.tree.sequence.frame_rate
        with progress_bar("Checking") as progress:
            found = checked(opened.tree, opened.base, asked, progress)
    if as_json:
        click.echo(json.dumps([_facts(one) for one in found], ensure_ascii=False, indent=1))
    for one in () if as_json else found:
        kind = KINDS[one.kind]
        click.echo(f"{timecode(one.frame, rate)}  {one.name}: {kind.title.lower()}. {one.said} {kind.way_on}")
    standing = [one for one in found if _fails(one.kind, fail_on)]
    if standing:
        raise RovixError(f"{len(standing)} of {len(found)} findings stand.")
    if not as_json:
        click.echo(f"{len(found)} hint{'s' if len(found) > 1 else ''}." if found else "Nothing was found.")


def _facts(one: Finding) -> dict[str, Any]:
    kind = KINDS[one.kind]
    return asdict(one) | {"title": kind.title, "way_on": kind.way_on, "hint": kind.warns}


def _fails(kind: str, fail_on: tuple[str, ...]) -> bool:
    return _ANYTHING in fail_on or kind in fail_on or ("wrong" in fail_on and not KINDS[kind].warns)
