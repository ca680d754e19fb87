"""The same layer with several curves, moves, lengths or staggers, side by side in one picture."""

from __future__ import annotations

from collections.abc import Sequence as Several
from dataclasses import dataclass, field
from math import ceil
from typing import Any

from rovix.curve import reversed_easing
from rovix.edit.moves import apply_move, change_move, move_of
from rovix.edit.tree import clip_of, replace
from rovix.errors import RovixError
from rovix.model import (
    Clip,
    Move,
    PictureClip,
    Project,
    Sequence,
    SequenceClip,
    Track,
    Transform,
    new_id,
)
from rovix.model.clip_kinds import has_words, is_layer
from rovix.motion.ready_moves import ready_moves
from rovix.text import lay_out, pieces_of

MOST = 6
_GAP = 0.02  # of the frame's width, between pictures
_CURVES = ("cubic-out", "back-out", "expo-out", "sine-in-out", "elastic-out", "bounce-out", "linear")
_LENGTHS = (0.5, 0.75, 1.5, 2.0, 3.0)
_STAGGERS = (1, 2, 3, 4, 6, 8, 12)
Box = tuple[float, float, float, float]


@dataclass(frozen=True, slots=True)
class Variant:
    """One of those that stand side by side: another move, or changes of the layer's own."""

    name: str
    move: Move | None = None
    changes: dict[str, Any] = field(default_factory=dict)


def varied(project: Project, identity: str, which: str, variant: Variant) -> Project:
    """The project with one variant of a layer's move in its place."""
    if variant.move is not None:
        return apply_move(project, identity, variant.move.role, variant.move)
    return change_move(project, identity, which, **variant.changes)


def proposed(project: Project, identity: str, which: str, kind: str, count: int) -> list[Variant]:
    """Variants to begin with, the layer's own first: curves, moves, lengths or staggers.

    `count` from 2 to MOST; RovixError where the layer has no such move.
    """
    clip = clip_of(project, identity)
    move = move_of(clip, which)
    if move is None or not is_layer(clip):
        raise RovixError("Give the layer an entrance, a loop or an exit first: comparing varies it.")
    if kind == "curves" and not _uses_curve(move):
        raise RovixError(
            f"'{move.name or move.role}' goes by keys of its own, not by its curve. Compare moves or lengths."
        )
    if kind == "staggers" and (move.beats_on or not has_words(clip)):
        raise RovixError("Only entrances and exits of words have a stagger to compare.")
    found = _OF_KIND[kind](project, clip, move)
    return found[: max(2, min(MOST, count))]


def usable_kind(clip: Clip | None, which: str, kind: str) -> str:
    """The kind of line-up that shows a difference for a move: the wanted one, else moves."""
    move = move_of(clip, which)
    return kind if move is None or kind != "curves" or _uses_curve(move) else "moves"


def _uses_curve(move: Move) -> bool:
    """Whether the piece curve shapes anything of a move."""
    return any(not departure.keys and departure.curve is None for departure in move.channels)


def _curves(_: Project, clip: PictureClip, move: Move) -> list[Variant]:
    usual = _CURVES if not move.leaves else tuple(reversed_easing(curve) for curve in _CURVES)
    names = [move.piece_curve, *(curve for curve in usual if curve != move.piece_curve)]
    return [of_curve(name) for name in names]


def _moves(_: Project, clip: PictureClip, move: Move) -> list[Variant]:
    ready = ready_moves(move.role)
    names = [other.name for other in ready]
    after = names.index(move.name) + 1 if move.name in names else 0
    others = [other for other in (*ready[after:], *ready[:after]) if other.name != move.name]
    return [Variant(move.name or move.role.capitalize()), *(of_move(other) for other in others)]


def _lengths(project: Project, clip: PictureClip, move: Move) -> list[Variant]:
    rate = project.sequence.frame_rate
    asked = [move.length * factor for factor in (1.0, *_LENGTHS)]
    # What the clip is too short for would all look alike; a loop's beat may be as long as it likes.
    longest = max(rate.length(move.length), clip.length - 1)
    fitting = [length for length in asked if move.beats_on or rate.length(length) <= longest]
    return [of_length(project, length) for length in fitting]


def _staggers(project: Project, clip: PictureClip, move: Move) -> list[Variant]:
    pieces = move.pieces if move.pieces != "whole" else "letters"
    count = len(pieces_of(lay_out(clip.text), pieces)) if has_words(clip) else 1
    # Pieces of which the last would start beyond the span are spread over it, whatever was asked.
    span = project.sequence.frame_rate.length(move.length)
    own = span / (count - 1 + move.at_once) if move.stagger is None and count + move.at_once > 1 else 0.0
    fitting = [frames for frames in _STAGGERS if frames * (count - 1) <= span and frames != own]
    return [
        Variant("As it is"),
        *(of_stagger(project, frames, pieces) for frames in fitting or _STAGGERS[:1]),
    ]


_OF_KIND = {"curves": _curves, "moves": _moves, "lengths": _lengths, "staggers": _staggers}


def of_curve(curve: str) -> Variant:
    """A variant with another piece curve."""
    return Variant(curve, changes={"piece_curve": curve})


def of_move(move: Move) -> Variant:
    """A variant with another move."""
    return Variant(move.name, move=replace(move, id=new_id()))


def of_length(project: Project, seconds: float) -> Variant:
    """A variant of another length."""
    frames = project.sequence.frame_rate.length(seconds)
    return Variant(f"{seconds:.2f} s, {frames} frames", changes={"length": seconds})


def of_stagger(project: Project, frames: float, pieces: str) -> Variant:
    """A variant whose pieces are so many frames apart."""
    seconds = float(frames / project.sequence.frame_rate.fraction)
    said = f"{frames:g} frame{'' if frames == 1 else 's'} apart"
    return Variant(said, changes={"stagger": seconds, "pieces": pieces})


def cells(size: tuple[int, int], count: int) -> list[Box]:
    """Left, top, width and height of each picture in px of the frame, in rows that fill it."""
    across = 2 if count <= 4 else 3
    down = ceil(count / across)
    gap = _GAP * size[0]
    scale = min(
        (size[0] - gap * (across + 1)) / across / size[0], (size[1] - gap * (down + 1)) / down / size[1]
    )
    width, height = size[0] * scale, size[1] * scale
    left = (size[0] - across * width - (across - 1) * gap) / 2
    top = (size[1] - down * height - (down - 1) * gap) / 2
    return [
        (left + n % across * (width + gap), top + n // across * (height + gap), width, height)
        for n in range(count)
    ]


def lined_up(project: Project, identity: str, which: str, variants: Several[Variant]) -> Project:
    """A project whose pictures show the sequence once for each variant, all at the same frame."""
    own = project.sequence
    made = [varied(project, identity, which, variant).sequence for variant in variants]
    inner = tuple(replace(sequence, id=f"line-up-{n}") for n, sequence in enumerate(made))
    tracks = tuple(
        Track(id=f"line-up-track-{n}", clips=(_shown(sequence, own, box, n),))
        for n, (sequence, box) in enumerate(zip(inner, cells(own.size, len(inner)), strict=True))
    )
    grid = Sequence(
        id="compare", size=own.size, rate=own.rate, background=own.background, tracks=tracks,
        blur_while_editing=own.blur_while_editing,
    )  # fmt: skip
    return replace(project, sequences=(grid, *inner, *project.sequences[1:]))


def _shown(sequence: Sequence, own: Sequence, box: Box, number: int) -> SequenceClip:
    left, top, width, height = box
    scale = width / own.size[0]
    x, y = left + width / 2 - own.size[0] / 2, top + height / 2 - own.size[1] / 2
    place = Transform(x=x, y=y, scale_x=scale, scale_y=scale)
    length = max(1, sequence.length)
    return SequenceClip(
        id=f"line-up-clip-{number}", sequence=sequence.id, start=0, length=length, transform=place
    )
