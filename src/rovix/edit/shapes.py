"""Grounds and shapes: put them in, change them, let one fit a layer."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from rovix.edit.clips import has_room
from rovix.edit.paints import BACKGROUNDS
from rovix.edit.tree import (
    clip_by_id,
    in_order,
    replace,
    replace_clip,
    spot_of,
    title_of,
    with_sequence,
    with_track,
)
from rovix.errors import RovixError
from rovix.model import (
    BackgroundClip,
    Clip,
    Cut,
    Fits,
    FootageClip,
    Outline,
    PictureClip,
    Plain,
    Project,
    ShapeClip,
    StillClip,
    Track,
    new_id,
)
from rovix.model.clip_kinds import has_words, is_layer
from rovix.model.shape import FitSide


def add_background(project: Project, kind: str, start: int, length: int) -> tuple[Project, str]:
    """Put a ground (plain, linear, radial, paper) under all pictures at a frame; and its id."""
    names = {"plain": "Plain", "linear": "Gradient", "radial": "Round gradient", "paper": "Paper"}
    clip = BackgroundClip(
        id=new_id(), name=names[kind], start=start, length=length, background=BACKGROUNDS[kind]()
    )
    tracks = project.sequence.tracks
    lowest = next((n for n, track in enumerate(tracks) if track.kind == "picture"), None)
    if lowest is not None and _takes(tracks[lowest], clip, BackgroundClip):
        full = replace(tracks[lowest], clips=in_order((*tracks[lowest].clips, clip)))
        return with_track(project, lowest, full), clip.id
    track = Track(id=new_id(), name="Background", clips=(clip,))
    return with_sequence(project, replace(project.sequence, tracks=(track, *tracks))), clip.id


def add_shape(
    project: Project, form: str, start: int, length: int, fitted: str | None = None, side: FitSide = "all"
) -> tuple[Project, str]:
    """Put a shape (box, rounded, line, ellipse) at a frame; and its id.

    With the id of a layer it fits that one, or a `side` of it, on the track below it and as long; else it
    lies under the words.
    """
    clip = _new_shape(form, start, length)
    if fitted is not None:
        layer = _layer(project, fitted)
        fits = Fits(layer=fitted) if side == "all" else Fits(layer=fitted, margin_x=0.0, side=side)
        where = "round" if side == "all" else side
        clip = replace(
            clip,
            start=layer.start,
            length=layer.length,
            fits=fits,
            name=f"{clip.name} {where} {title_of(layer)}",
        )
        return _under(project, spot_of(project, fitted).track, clip), clip.id
    tracks = project.sequence.tracks
    words = [n for n, t in enumerate(tracks) if any(has_words(c) for c in t.clips)]
    if not words:
        pictures = [n for n, t in enumerate(tracks) if t.kind == "picture"]
        return _under(project, pictures[-1] + 1 if pictures else 0, clip), clip.id
    return _under(project, words[0], clip), clip.id


def _new_shape(form: str, start: int, length: int) -> ShapeClip:
    common: dict[str, Any] = {"id": new_id(), "start": start, "length": length}
    if form == "line":
        line = Plain(colour="#f2e6cf")
        return ShapeClip(**common, name="Line", form="line", width=900.0, height=6.0, radius=3.0, fill=line)
    if form == "ellipse":
        return ShapeClip(**common, name="Ellipse", form="ellipse", width=480.0, height=480.0)
    if form == "rounded":
        return ShapeClip(**common, name="Rounded box", radius=36.0)
    return ShapeClip(**common, name="Box")


def _under(project: Project, number: int, clip: ShapeClip) -> Project:
    """The shape on the track below a number if it has room among shapes, else on a new one there."""
    tracks = project.sequence.tracks
    if number > 0 and _takes(tracks[number - 1], clip, ShapeClip):
        below = tracks[number - 1]
        return with_track(project, number - 1, replace(below, clips=in_order((*below.clips, clip))))
    count = sum(track.name.startswith("Shapes") for track in tracks) + 1
    track = Track(id=new_id(), name=f"Shapes {count}", clips=(clip,))
    return with_sequence(
        project, replace(project.sequence, tracks=(*tracks[:number], track, *tracks[number:]))
    )


def _takes(track: Track, clip: Clip, kind: type) -> bool:
    usable = track.kind == "picture" and not track.locked and not track.hidden
    return usable and all(isinstance(other, kind) for other in track.clips) and has_room(track, clip)


def change_shape(project: Project, identity: str, **changes: Any) -> Project:
    """Change fields of a shape: form, width, height, radius, fill, fill_opacity, outline, fits."""

    def change(clip: Clip) -> Clip:
        if not isinstance(clip, ShapeClip):
            raise RovixError(f"'{clip.title}' is no shape.")
        return replace(clip, **changes)

    return replace_clip(project, identity, change)


def change_outline(project: Project, identity: str, **changes: Any) -> Project:
    """Change fields of a shape's outline, which it gets if it has none."""

    def change(clip: Clip) -> Clip:
        if not isinstance(clip, ShapeClip):
            raise RovixError(f"'{clip.title}' is no shape.")
        outline = clip.outline or Outline(id=new_id(), colour="#fff8ea", side="centre")
        return replace(clip, outline=replace(outline, **changes))

    return replace_clip(project, identity, change)


def edit_fill(project: Project, identity: str, change: Callable[[Any], Any]) -> Project:
    """Change the fill of a ground or a shape by a function of it; a shape may have none."""

    def changed(clip: Clip) -> Clip:
        name = fill_field(clip)
        return replace(clip, **{name: change(getattr(clip, name))})

    return replace_clip(project, identity, changed)


def fill_field(clip: Clip) -> str:
    """The field that holds a clip's fill; RovixError when it has none."""
    if isinstance(clip, BackgroundClip):
        return "background"
    if isinstance(clip, ShapeClip):
        return "fill"
    raise RovixError(f"'{clip.title}' has no fill.")


def cut_picture(project: Project, identity: str, form: str) -> Project:
    """Cut footage or a still to a box, an ellipse or a drawn line, or not (none, square and round, of
    stills)."""

    def change(clip: Clip) -> Clip:
        if not isinstance(clip, StillClip | FootageClip):
            raise RovixError(f"'{clip.title}' is no picture from a file; use a mask on it.")
        plain = form in ("none", "square", "round")
        if isinstance(clip, StillClip):
            clip = replace(clip, crop=form if plain else "none")
        elif plain and form != "none":
            raise RovixError(f"'{clip.title}' is no still; only stills are cropped to logos.")
        cut = None if plain else replace(clip.cut or Cut(), form=form)
        return replace(clip, cut=cut)

    return replace_clip(project, identity, change)


def change_cut(project: Project, identity: str, **changes: Any) -> Project:
    """Change fields of what a picture is cut to."""

    def change(clip: Clip) -> Clip:
        cut = getattr(clip, "cut", None)
        if cut is None:
            raise RovixError(f"'{clip.title}' is not cut to a form.")
        return replace(clip, cut=replace(cut, **changes))

    return replace_clip(project, identity, change)


def change_still(project: Project, identity: str, **changes: Any) -> Project:
    """Change how a still lies in the frame: crop (none, square, round), fit."""

    def change(clip: Clip) -> Clip:
        if "crop" in changes and not isinstance(clip, StillClip):
            raise RovixError(f"'{clip.title}' is no still; only stills are cropped to logos.")
        if not hasattr(clip, "fit"):
            raise RovixError(f"'{clip.title}' has no picture to fit.")
        return replace(clip, **changes)

    return replace_clip(project, identity, change)


def _layer(project: Project, identity: str) -> PictureClip:
    clip = clip_by_id(project, identity)
    if not is_layer(clip):
        raise RovixError("Select a layer for the shape to fit.")
    return clip
