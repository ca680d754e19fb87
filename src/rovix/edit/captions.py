"""Captions in and out: each cue as a text layer in a chosen style, and layers as cues again."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

from rovix.edit.fresh import fresh_ids
from rovix.edit.own_style import styled
from rovix.edit.titles import as_long_as, filled, title_group
from rovix.edit.tree import in_order, replace, with_sequence
from rovix.errors import RovixError
from rovix.exchange.captions import Cue, CueStyle
from rovix.model import (
    Clip,
    Fill,
    Look,
    Move,
    Pace,
    Plain,
    Project,
    Sequence,
    Shadow,
    Text,
    TextClip,
    Track,
    Transform,
    new_id,
)
from rovix.model.title import Title
from rovix.text import lay_out
from rovix.text.caption_lines import CaptionPart, caption_parts
from rovix.text.pieces import pieces_of
from rovix.time import Rate

_DOWN = 0.37  # of the frame's height below its middle
_SIZE = 0.052
_BOLD = 700
MOST_LETTERS, MOST_LINES = 200, 6


@dataclass(frozen=True, slots=True)
class CaptionOptions:
    """At most `letters` in a line and `lines` at a time; `timed` words come at the times that they have."""

    letters: int = 38
    lines: int = 2
    timed: bool = True


def captions_in(
    project: Project,
    cues: tuple[Cue, ...],
    like: TextClip | None = None,
    options: CaptionOptions | None = None,
) -> tuple[Project, list[str]]:
    """Each cue as a text layer like another one, with its moves; gives the new layers' ids too.

    They stand on tracks of their own above all pictures, cues that overlap on several. RovixError where
    there is nothing to put in.
    """
    options = options or CaptionOptions()
    sequence = project.sequence
    base = like or caption_style(sequence.size)
    made = [clip for cue in cues for clip in _clips(cue, base, sequence, options)]
    if not made:
        raise RovixError("There are no captions with words to put in.")
    return _on_tracks(project, made), [clip.id for clip in made]


def captions_in_titles(
    project: Project, cues: tuple[Cue, ...], name: str, title: Title, options: CaptionOptions | None = None
) -> tuple[Project, list[str]]:
    """Each cue as a title of a name that says it in the first place that it has for words, as long as the
    cue; gives the new groups' ids too. Where they stand is as of :func:`captions_in`.

    RovixError where there is nothing to put in, or the title says nothing that can be set.
    """
    options = options or CaptionOptions()
    first = next((setting.name for setting in title.settings if setting.kind == "words"), None)
    if first is None:
        raise RovixError(f"The title '{name}' has no words to set.")
    made: list[Clip] = []
    rate, size = project.sequence.frame_rate, project.sequence.size
    for cue in cues:
        for part, (begin, end) in timed_parts(cue, options):
            start = rate.frames(begin)
            length = max(1, rate.frames(end) - start)
            values = {first: part.words(cue.text)}
            done = filled(as_long_as(title, length, rate), values, like=size)
            project, group = title_group(project, name, done, start, values)
            made.append(replace(group, length=length))
    if not made:
        raise RovixError("There are no captions with words to put in.")
    return _on_tracks(project, made), [clip.id for clip in made]


def _on_tracks(project: Project, made: Iterable[Clip]) -> Project:
    """Clips on tracks of their own above all pictures."""
    sequence = project.sequence
    above = max((n for n, track in enumerate(sequence.tracks) if track.kind == "picture"), default=-1) + 1
    every = (*sequence.tracks[:above], *_dealt(made), *sequence.tracks[above:])
    return with_sequence(project, replace(sequence, tracks=every))


def caption_style(size: tuple[int, int]) -> TextClip:
    """A plain layer for captions, near the lower edge, of a size that goes with the frame's."""
    words = Text(content="", size=float(round(_SIZE * size[1])), weight=600, align="centre")
    parts = (Fill(id=new_id(), paint=Plain(colour="#fff8ea")), Shadow(id=new_id()))
    place = Transform(y=float(round(_DOWN * size[1])))
    return TextClip(id=new_id(), text=words, look=Look(parts=parts), transform=place)


def _clips(cue: Cue, base: TextClip, sequence: Sequence, options: CaptionOptions) -> list[TextClip]:
    return [_clip(cue, *timed, base, sequence, options.timed) for timed in timed_parts(cue, options)]


def timed_parts(cue: Cue, options: CaptionOptions) -> list[tuple[CaptionPart, tuple[float, float]]]:
    """The parts of a cue that are on screen one after the other, with the seconds from which and to which.

    A part begins with its first word's time where that is known, else by its share of the letters.
    """
    parts = caption_parts(cue.text, options.letters, options.lines)
    total = max(1, sum(part.high - part.low for part in parts))
    starts, before = [], 0
    for part in parts:
        known = [moment for index, moment in cue.times if part.low <= index < part.high]
        shared = cue.start + (cue.end - cue.start) * before / total
        starts.append(known[0] if known and part is not parts[0] else shared)
        before += part.high - part.low
    ends = [*starts[1:], cue.end]
    spans = [(start, max(start, end)) for start, end in zip(starts, ends, strict=True)]
    return list(zip(parts, spans, strict=True))


def _clip(
    cue: Cue, part: CaptionPart, span: tuple[float, float], base: TextClip, sequence: Sequence, timed: bool
) -> TextClip:
    rate = sequence.frame_rate
    start = rate.frames(span[0])
    length = max(1, rate.frames(span[1]) - start)
    words = replace(base.text, content=part.words(cue.text), styles=(), align=cue.align or base.text.align)
    for style in cue.styles:
        words = _with_style(words, style, part)
    clip: TextClip = fresh_ids(replace(base, name=""))
    moves = tuple(_timed(move, cue, part, words, start, rate) for move in clip.moves) if timed else clip.moves
    return replace(
        clip, id=new_id(), start=start, length=length, text=words, moves=moves,
        transform=_placed(clip.transform, cue, sequence.size),
    )  # fmt: skip


def _with_style(words: Text, style: CueStyle, part: CaptionPart) -> Text:
    low, high = max(style.low, part.low), min(style.high, part.high)
    if low >= high:
        return words
    changes: dict[str, Any] = {"italic": True} if style.italic else {}
    changes |= {"weight": _BOLD} if style.bold else {}
    changes |= {"colour": style.colour} if style.colour else {}
    return styled(words, part.place(low), part.place(high - 1) + 1, **changes)


def _placed(place: Transform, cue: Cue, size: tuple[int, int]) -> Transform:
    changes = {}
    if cue.across is not None:
        changes["x"] = round((cue.across - 0.5) * size[0], 2)
    if cue.down is not None:
        changes["y"] = round((cue.down - 0.5) * size[1], 2)
    return replace(place, **changes) if changes else place


def _timed(move: Move, cue: Cue, part: CaptionPart, words: Text, start: int, rate: Rate) -> Move:
    """An entrance whose words set off at the times that the cue has for them."""
    tags = [(part.place(index), moment) for index, moment in cue.times if part.low <= index < part.high]
    if not tags or not move.enters:
        return move
    first = pieces_of(lay_out(words), "words").starts.tolist()
    begins = float(rate.seconds(start))
    known = {0: max(0.0, (cue.start if part.low == 0 else tags[0][1]) - begins)}
    for index, moment in tags:
        number = max((n for n, at in enumerate(first) if at <= index), default=0)
        known[number] = max(0.0, moment - begins)
    pace = move.pace or Pace(piece=min(move.length, Pace().piece))
    return replace(move, pieces="words", order="reading", pace=pace, starts=_filled(known, len(first)))


def _filled(known: dict[int, float], count: int) -> tuple[float, ...]:
    """Times of all words: those between two that are known lie evenly between them; after the last none."""
    marks = sorted(known)
    found: list[float] = []
    for low, high in pairwise(marks):
        step = (known[high] - known[low]) / (high - low)
        found += [known[low] + step * n for n in range(high - low)]
    found.append(known[marks[-1]])
    return tuple(round(max(found[: n + 1]), 6) for n in range(min(count, len(found))))


def _dealt(clips: Iterable[Clip]) -> list[Track]:
    """Tracks without overlaps, the first holding as much as it can."""
    lanes: list[list[Clip]] = []
    for clip in sorted(clips, key=lambda clip: clip.start):
        free = next((lane for lane in lanes if lane[-1].span.end <= clip.start), None)
        if free is None:
            lanes.append([clip])
        else:
            free.append(clip)
    return [
        Track(id=new_id(), name="Captions" if not n else f"Captions {n + 1}", clips=in_order(tuple(lane)))
        for n, lane in enumerate(lanes)
    ]


def captions_of(project: Project, track: str | None = None) -> tuple[Cue, ...]:
    """The text layers of the sequence, or of one track, as cues by time. RovixError where there are none."""
    sequence = project.sequence
    tracks = [t for t in sequence.tracks if not t.hidden and track in (None, t.id)]
    clips = [
        clip for t in tracks for clip in t.clips if isinstance(clip, TextClip) and clip.text.content.strip()
    ]
    if not clips:
        raise RovixError("There are no words here that could be captions.")
    found = sorted(clips, key=lambda clip: (clip.start, clip.span.end))
    return tuple(_cue(clip, sequence) for clip in found)


def _cue(clip: TextClip, sequence: Sequence) -> Cue:
    rate, words = sequence.frame_rate, clip.text
    styles = tuple(
        CueStyle(own.start, own.end, bool(own.italic), (own.weight or 0) >= _BOLD > words.weight, own.colour)
        for own in words.styles
    )
    start = float(rate.seconds(clip.start))
    timed = next((m for m in clip.moves if m.enters and m.starts and m.pace and m.pieces == "words"), None)
    first = pieces_of(lay_out(words), "words").starts.tolist() if timed else []
    times = (
        tuple((at, start + moment) for at, moment in zip(first, timed.starts, strict=False)) if timed else ()
    )
    across, down = (
        _share(place, side)
        for place, side in zip((clip.transform.x, clip.transform.y), sequence.size, strict=True)
    )
    align = words.align if words.align in ("left", "right") else ""
    return Cue(start, float(rate.seconds(clip.span.end)), words.content, styles, times, across, down, align)


def _share(place: object, side: int) -> float | None:
    """Where a layer stands, as a share of the frame; None in its middle, or where it moves."""
    if not isinstance(place, int | float) or not place:
        return None
    share = 0.5 + place / side
    return round(share, 4) if 0 <= share <= 1 else None
