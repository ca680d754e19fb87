"""rovix follow and rovix matte: where something in a video goes, and its outline."""

from __future__ import annotations

import json
import re
from pathlib import Path
from typing import Any

import click
import msgspec

from rovix.cli.arguments import progress_bar


class _Box(click.ParamType):
    name = "X,Y,W,H"

    def convert(self, value: Any, param: click.Parameter | None, ctx: click.Context | None) -> Any:
        parts = re.fullmatch(r"(\d{1,5}(?:\.\d+)?)" + r",(\d{1,5}(?:\.\d+)?)" * 3, str(value))
        if parts is None:
            self.fail(
                f"'{value}' is no box. Write left, top, width, height in px, as in 120,80,64,64.", param, ctx
            )
        return tuple(float(part) for part in parts.groups())


BOX = _Box()
_LINE = "{frame:6d}  {x:8.2f} {y:8.2f}  {scale:6.3f} {rotation:7.2f}  {confidence:4.2f}"


@click.command()
@click.argument("video", type=click.Path(path_type=Path))
@click.argument("frame", type=int)
@click.argument("box", type=BOX)
@click.option("--scale", is_flag=True, help="It may grow and shrink.")
@click.option("--rotation", is_flag=True, help="It may turn.")
@click.option("--json", "as_json", is_flag=True, help="As JSON, every digit.")
def follow(
    video: Path, frame: int, box: tuple[float, float, float, float], scale: bool, rotation: bool,
    as_json: bool,
) -> None:  # fmt: skip
    """Follow what is in BOX at FRAME of VIDEO through all its frames.

    For each: x, y of the box's centre in px from the left top corner, scale and rotation (degrees, clockwise)
    against where it was picked, and confidence from 0 to 1; under 0.55 it is hidden.
    """
    from rovix.engine.following import Region
    from rovix.engine.following import follow as followed
    from rovix.vision.alignment import Freedom

    with progress_bar(f"Following in {video.name}") as progress:
        places = followed(video, Region(frame, box, Freedom(scale, rotation)), progress)
    rows = [{"frame": number, **msgspec.to_builtins(place)} for number, place in enumerate(places)]
    if as_json:
        click.echo(json.dumps(rows, indent=1))
        return
    for row in rows:
        click.echo(_LINE.format(**row))


@click.command()
@click.argument("video", type=click.Path(path_type=Path))
@click.argument("frame", type=int)
@click.argument("box", type=BOX)
@click.argument("out", type=click.Path(path_type=Path))
def matte(video: Path, frame: int, box: tuple[float, float, float, float], out: Path) -> None:
    """Cut what is in BOX at FRAME out of all frames of VIDEO; OUT.mkv is white where it is, losslessly."""
    from rovix.engine.matting import write_matte

    with progress_bar(f"Cutting out of {video.name}") as progress:
        write_matte(video, frame, box, out, progress)
