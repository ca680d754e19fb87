"""A text layer into layers of its lines, words or letters, where they stand and when they come; and back."""

from __future__ import annotations

from itertools import pairwise
from typing import Any, Literal

import numpy as np

from rovix.edit.arrange import picture_layer
from rovix.edit.channels import path_mapped, with_handles
from rovix.edit.clips import remove_clip
from rovix.edit.fresh import fresh_ids
from rovix.edit.own_style import style_at, styled
from rovix.edit.tree import in_order, replace, replace_clip, unlocked_spot, with_sequence
from rovix.errors import RovixError
from rovix.model import Fill, Keys, Move, Plain, Project, Text, TextClip, Track, Transform, new_id
from rovix.model.channel import Channel
from rovix.model.clip_kinds import has_words
from rovix.motion.departure import MoveTiming
from rovix.motion.layer import layer_motion
from rovix.text import Layout, lay_out, pieces_of

Kind = Literal["lines", "words", "letters"]
MOST = 200
"""The most layers that words are split into."""
_ORDER = ("letters", "words", "lines", "whole")
_ON_A_LINE = 0.5  # of the size, by which baselines of one line differ at most


def split_text(
    project: Project, identity: str, kind: Kind, at: tuple[int, ...] = ()
) -> tuple[Project, list[str]]:
    """Words as a layer for each of their lines, words or letters; gives the layers' ids, in reading order.

    Each stands where it stood, looks and moves as before; where an entrance or exit brought them one after
    the other, or their letters, each layer starts and ends when its piece did. With frames of the sequence
    `at`, rising, the layers start on those instead; ones beyond follow at the median gap. The first keeps
    the id, so that what follows the layer goes on following it. RovixError for what has no words, fewer
    than two pieces, or too many.
    """
    clip = picture_layer(project, identity)
    if not has_words(clip):
        raise RovixError("Only words can be split into lines, words or letters.")
    spot = unlocked_spot(project, identity)
    parts = _parts(clip, kind)
    times = _Times(clip, kind, project, _given(clip, parts, at))
    made = [_piece(clip, part, times) for part in parts]
    made[1:] = [fresh_ids(one) for one in made[1:]]
    return _put(project, spot.track, clip, made), [one.id for one in made]


class _Part:
    """A stretch of the words, without the blanks around it, and how far in px it stands from where it would
    stand as a layer of its own."""

    def __init__(self, words: Text, layout: Layout, start: int, end: int, piece: int) -> None:
        text = words.content[start:end]
        start += len(text) - len(text.lstrip())
        self.piece = piece
        self.words = _cut(words, start, start + len(text.strip()))
        own = lay_out(self.words)
        here = (layout.cluster >= start) & (layout.cluster < start + len(self.words.content))
        self.right = float(layout.x[here].min() - own.x.min())
        self.down = float(layout.y[here].min() - own.y.min())
        self.block = own.block


def _parts(clip: TextClip, kind: Kind) -> list[_Part]:
    words = clip.text
    layout = lay_out(words)
    starts = [*pieces_of(layout, kind).starts.tolist(), len(words.content)]
    ends = [(number, start, end) for number, (start, end) in enumerate(pairwise(starts))]
    inked = [(n, start, end) for n, start, end in ends if words.content[start:end].strip()]
    if len(inked) < 2:
        raise RovixError(f"These words have no two {kind} to split.")
    if len(inked) > MOST:
        raise RovixError(f"These words have {len(inked)} {kind}; at most {MOST} layers are made at a time.")
    return [_Part(words, layout, start, end, n) for n, start, end in inked]


def _cut(words: Text, start: int, end: int) -> Text:
    """A stretch of the words, set as it was; it breaks nowhere else."""
    styles = tuple(
        replace(style, start=max(style.start, start) - start, end=min(style.end, end) - start)
        for style in words.styles
        if style.start < end and style.end > start
    )
    content = words.content[start:end]
    # Columns stay where a piece has both; else it begins where it stands.
    whole = words.align == "columns" and "\t" in content.strip()
    align = words.align if whole or words.align not in ("justify", "columns") else "left"
    return replace(words, content=content, styles=styles, wrap=None, align=align)


def _given(clip: TextClip, parts: list[_Part], at: tuple[int, ...]) -> dict[int, int]:
    """Frames of the layer on which pieces start, by their numbers; none where none are given."""
    if not at:
        return {}
    inside = sorted(min(max(0, frame - clip.start), clip.length - 1) for frame in at[: len(parts)])
    gap = max(1, round(float(np.median(np.diff(inside))))) if len(inside) > 1 else 1
    more = [inside[-1] + gap * n for n in range(1, len(parts) - len(inside) + 1)]
    frames = [min(frame, clip.length - 1) for frame in (*inside, *more)]
    return {part.piece: frame for part, frame in zip(parts, frames, strict=True)}


def split_on_markers(project: Project, identity: str, kind: Kind) -> tuple[Project, list[str]]:
    """Like :func:`split_text`, each layer starting on a marker; RovixError without any over the words."""
    clip = picture_layer(project, identity)
    frames = tuple(m.frame for m in project.sequence.markers if m.frame in clip.span)
    if not frames:
        raise RovixError(f"There is no marker over '{clip.title}'. Set some where its {kind} are to come.")
    return split_text(project, identity, kind, frames)


class _Times:
    """When each piece comes and goes, in frames of the layer: as `given`, or by the moves that go by such
    pieces, or by finer ones."""

    def __init__(self, clip: TextClip, kind: Kind, project: Project, given: dict[int, int]) -> None:
        self._kind, self._length, self._given = kind, clip.length, given
        self._fps = float(project.sequence.frame_rate.fraction)
        motion = layer_motion(clip, project.sequence.size, project.sequence.frame_rate)
        order = _ORDER.index(kind)
        dealt = [t for t in motion.timings if _ORDER.index(t.move.pieces) <= order and _is_dealt(t)]
        self._dealt = {t.move.id: t for t in dealt}
        # Which of the pieces split into each of the moves' own pieces, such as its letters, belongs to.
        coarse = motion.subject.owners(kind)[0]
        self._owners = {
            t.move.id: coarse[np.searchsorted(t.owners, np.arange(len(t.times.starts)))] for t in dealt
        }
        # What comes or goes as a whole besides keeps the layer there from its start, or to its end.
        others = [move for move in clip.moves if move.id not in self._dealt]
        self._comes = not any(move.enters for move in others)
        self._goes = not any(move.leaves for move in others)

    def span(self, piece: int) -> tuple[int, int]:
        """The first frame of a piece, and the one after its last."""
        entering = [self._first(t, piece) for t in self._dealt.values() if t.move.enters and self._comes]
        # On the frame of its end a piece is fully away, and that is the layer's last.
        leaving = [self._last(t, piece) + 1 for t in self._dealt.values() if t.move.leaves and self._goes]
        start = self._given.get(piece, min(entering, default=0))
        return start, max(start + 1, min(self._length, max(leaving, default=self._length)))

    def move(self, move: Move, piece: int) -> Move:
        """A move as it is on one piece."""
        finer = _ORDER.index(move.pieces) < _ORDER.index(self._kind)
        timing = self._dealt.get(move.id)
        if timing is None:
            return move if finer or move.pieces == "whole" else replace(move, pieces="whole")
        start, end = self.span(piece)
        waits = self._first(timing, piece) - start if move.enters else end - 1 - self._last(timing, piece)
        # Where the layer starts as it is told, what brings it begins with it.
        waits = 0 if self._given and move.enters else max(0, waits)
        own = self._finer(move, timing, piece) if finer else self._of_one(move, timing, piece)
        return replace(own, wait=waits / self._fps, after=False)

    def _of_one(self, move: Move, timing: MoveTiming, piece: int) -> Move:
        frames = float(timing.times.ends[piece] - timing.times.starts[piece])
        return replace(move, pieces="whole", length=frames / self._fps, pace=None, starts=(), stagger=None)

    def _finer(self, move: Move, timing: MoveTiming, piece: int) -> Move:
        """A move by finer pieces on those of one piece, as long and as far apart as they were."""
        if move.pace is not None and not move.starts:
            return move
        mine = self._owners[move.id] == piece
        starts, ends = timing.times.starts[mine], timing.times.ends[mine]
        apart = np.diff(np.unique(starts))
        stagger = float(np.median(apart)) / self._fps if len(apart) else 0.0
        length = float(ends.max() - starts.min()) / self._fps
        return replace(move, length=length, stagger=stagger, pace=None, starts=())

    def _first(self, timing: MoveTiming, piece: int) -> int:
        mine = self._owners[timing.move.id] == piece
        return timing.start + int(timing.times.starts[mine].min())

    def _last(self, timing: MoveTiming, piece: int) -> int:
        mine = self._owners[timing.move.id] == piece
        return timing.start + int(np.ceil(timing.times.ends[mine].max()))


def _is_dealt(timing: MoveTiming) -> bool:
    return timing.beats is None and timing.typed is None and timing.move.role != "loop"


def _piece(clip: TextClip, part: _Part, times: _Times) -> TextClip:
    start, end = times.span(part.piece)
    return replace(
        clip,
        name="",
        text=part.words,
        start=clip.start + start,
        length=end - start,
        transform=_placed(clip.transform, clip.text, part),
        moves=tuple(times.move(move, part.piece) for move in clip.moves),
    )


def _placed(place: Transform, words: Text, part: _Part) -> Transform:
    """The place moved by what the part stands apart, turning about the same point as before."""
    left, top, right, bottom = lay_out(words).block
    own = part.block
    shares = {}
    across = ("pivot_x", left, right, part.right, own[0], own[2])
    down = ("pivot_y", top, bottom, part.down, own[1], own[3])
    for name, low, high, apart, first, last in (across, down):
        side = (last - first) or 1.0
        shares[name] = _mapped(getattr(place, name), (high - low) / side, (low - apart - first) / side)
    return replace(
        place,
        x=_mapped(place.x, 1.0, part.right),
        y=_mapped(place.y, 1.0, part.down),
        path=path_mapped(place.path, lambda point: (point[0] + part.right, point[1] + part.down)),
        **shares,
    )


def _mapped(held: Channel, share: float, more: float) -> Any:
    """A number, or each of its keys, times a share and with so much more."""
    if not isinstance(held, Keys):
        return held * share + more
    keys = (replace(with_handles(key, 1.0, share), value=key.value * share + more) for key in held.keys)
    return replace(held, keys=tuple(keys))


def _put(project: Project, track: int, clip: TextClip, made: list[TextClip]) -> Project:
    """The layers in place of the one: the first on its track, the others on tracks above."""
    sequence = project.sequence
    rest = [one for one in sequence.tracks[track].clips if one.id != clip.id]
    lanes: list[list[Any]] = [sorted([*rest, made[0]], key=lambda one: one.start)]
    for one in made[1:]:
        free = next((lane for lane in lanes[1:] if lane[-1].end <= one.start), None)
        if free is None:
            lanes.append([one])
        else:
            free.append(one)
    own = replace(sequence.tracks[track], clips=in_order(tuple(lanes[0])))
    above = [Track(id=new_id(), clips=in_order(tuple(lane))) for lane in lanes[1:]]
    tracks = (*sequence.tracks[:track], own, *above, *sequence.tracks[track + 1 :])
    return with_sequence(project, replace(sequence, tracks=tracks))


def join_texts(project: Project, identities: tuple[str, ...]) -> tuple[Project, str]:
    """Text layers as one: the topmost, leftmost with the words of all, in the order in which they are read;
    gives its id.

    What stands on a line is parted by a blank, other words by a line feed; what is set otherwise stays so.
    It is there from the first start to the last end. RovixError where there are no two.
    """
    clips = [picture_layer(project, identity) for identity in identities]
    words = [clip for clip in clips if has_words(clip)]
    if len(words) < 2:
        raise RovixError("Select two text layers or more to join them.")
    read = _in_reading_order(words)
    first = read[0][0]
    text, fill = first.text, _colour(first)
    for line_number, line in enumerate(read):
        for number, one in enumerate(line):
            if line_number or number:
                text = _joined(text, one, " " if number else "\n", first, fill)
    start = min(one.start for one in words)
    made = replace(first, text=text, start=start, length=max(one.end for one in words) - start)
    for one in words:
        if one.id != first.id:
            project = remove_clip(project, one.id)
    return replace_clip(project, first.id, lambda _: made), first.id


def _in_reading_order(clips: list[TextClip]) -> list[list[TextClip]]:
    """Lines from above, each from the left."""
    lines: list[list[TextClip]] = []
    for clip in sorted(clips, key=_height):
        if lines and _height(clip) - _height(lines[-1][0]) < _ON_A_LINE * clip.text.size:
            lines[-1].append(clip)
        else:
            lines.append([clip])
    return [sorted(line, key=lambda clip: _first(clip.transform.x)) for line in lines]


def _height(clip: TextClip) -> float:
    return _first(clip.transform.y)


def _first(held: Channel) -> float:
    return held.keys[0].value if isinstance(held, Keys) else held


def _joined(text: Text, clip: TextClip, between: str, first: TextClip, fill: str | None) -> Text:
    """The text with another layer's words behind, set as they were."""
    own, at = clip.text, len(text.content) + len(between)
    made = replace(text, content=text.content + between + own.content)
    changes: dict[str, Any] = {
        name: getattr(own, name)
        for name in ("family", "weight", "italic")
        if getattr(own, name) != getattr(first.text, name)
    }
    if own.size != first.text.size:
        changes["size"] = own.size / first.text.size
    colour = _colour(clip)
    if colour is not None and colour != fill:
        changes["colour"] = colour
    if changes:
        made = styled(made, at, len(made.content), **changes)
    for place in range(len(own.content)):
        style = style_at(own, place)
        if style is not None:
            given = {
                n: getattr(style, n)
                for n in ("family", "weight", "italic", "colour")
                if getattr(style, n) is not None
            }
            if style.size is not None:
                given["size"] = style.size * own.size / first.text.size
            made = styled(made, at + place, at + place + 1, **given)
    return made


def _colour(clip: TextClip) -> str | None:
    """The plain colour of the words, or None."""
    paint = next((part.paint for part in clip.look.parts if isinstance(part, Fill) and part.shown), None)
    return paint.colour if isinstance(paint, Plain) and isinstance(paint.colour, str) else None
