"""A small project whose frames are a shelf's cards: each move on the same words.

Drawing cards is then drawing pictures, by the same processes, with the same painter.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil

import numpy as np

from rovix.curve.colour_spaces import luminance
from rovix.edit.fresh import fresh_ids
from rovix.edit.look import scaled_look
from rovix.edit.tree import replace
from rovix.model import (
    BackgroundClip,
    Crossing,
    Key,
    Keys,
    Look,
    Move,
    Plain,
    Project,
    Sequence,
    SequenceClip,
    TextClip,
    Track,
    Transform,
    bgra,
)
from rovix.model.clip_kinds import is_layer
from rovix.model.effects import Effect
from rovix.model.title import Title
from rovix.motion import clip_spans
from rovix.motion.figures import numbers_in
from rovix.motion.pace import asked_frames
from rovix.motion.quads import layer_quads
from rovix.motion.scene import Scene, clips_at, world_of
from rovix.text import lay_out
from rovix.time import Rate

SIZE = (1040, 448)
_EXPOSURES = ((0.12, 0.3), (0.28, 0.36), (0.5, 0.45), (1.0, 1.0))
_WAYS = frozenset({
    "x", "y", "z", "scale", "scale_x", "scale_y", "rotation_z", "rotation_x", "rotation_y", "slant",
    "tracking", "offset_x",
    "offset_y",
})  # fmt: skip
"""Channels by which words are seen elsewhere than they rest."""
_GAP = 8
_REST = 18
_ROOM = 0.74
_NUMBER = "1,250"
_DARK, _PALE = 0.12, "#b9b3a6"
_PASSING, _WAY = 1.6, 120.0  # seconds, and px of the card to either side
_CROSSED = 2.4  # seconds in which a card's words crawl through it
_CROSSED_EXPOSURES = ((0.3, 0.2), (0.36, 0.35), (0.42, 0.55), (0.48, 1.0))
_NEAREST = 4.0
"""How much larger than its whole frame would be a title is shown at most."""
_NAME_ROOM = 30.0  # px of a card that its name takes at the foot
_AT_REST = 0.6
"""Of a title's length: where its still is taken, all of it having come and nothing gone."""
BETWEEN = "#4a565b"
"""What looks and titles are shown on, which may be dark or light: a ground that is neither."""


@dataclass(frozen=True, slots=True)
class Card:
    """Where a card's frames are: a still of several exposures, and a run from `start` for `length`."""

    still: int
    start: int
    length: int


def card_project(clip: TextClip, moves: list[Move | None], rate: Rate) -> tuple[Project, list[Card]]:
    """The project and, for each move (None: the words at rest), its card."""
    plain = _on_card(clip)
    tracks: list[list[TextClip]] = [[] for _ in _EXPOSURES]
    cards, at = [], 0
    for number, move in enumerate(moves):
        run, role = _run(plain, move, rate)
        still = at + run.length + _GAP
        for layer, (share, strength) in enumerate(_exposures(move)):
            frame = _frame_at(run, role, share, rate)
            shot = replace(_readable(run), id=f"{number}-{layer}", start=still - frame)
            tracks[layer].append(_faded(shot, strength))
        tracks[-1].append(replace(run, id=f"{number}-run", start=at))
        # A copy may reach back before its still by a whole run.
        cards.append(Card(still + run.length, at, run.length))
        at = still + 2 * run.length + _GAP
    return _project(_shifted(tracks, cards), rate, _background(clip.look)), cards


def _background(look: Look) -> str:
    """The card's own dark ground, or for dark words a light one on which they can be read."""
    fill = look.fill
    paint = fill.paint if fill is not None else None
    colours = (
        [paint.colour] if isinstance(paint, Plain) else [stop.colour for stop in getattr(paint, "stops", ())]
    )
    if not colours:
        colours = [outline.colour for outline in look.outlines]
    # Relative luminance, WCAG 2.2: the lightest of them counts.
    light = max((float(luminance(np.array(bgra(c)[2::-1]) / 255)) for c in colours), default=1.0)
    return "#00000000" if light > _DARK else _PALE


def look_project(
    clip: TextClip, thumbnails: list[tuple[Look, float]], rate: Rate
) -> tuple[Project, list[Card]]:
    """The project and, for each look and the px of the words it was made for, its card: one frame."""
    plain = _on_card(clip)
    dressed = [
        replace(plain, id=f"look-{n}", start=n, length=1, look=scaled_look(look, plain.text.size / size))
        for n, (look, size) in enumerate(thumbnails)
    ]
    cards = [Card(n, n, 1) for n in range(len(thumbnails))]
    return _project((Track(id="looks", clips=tuple(dressed)),), rate, BETWEEN), cards


def effect_project(
    clip: TextClip, chains: list[tuple[Effect, ...]], rate: Rate
) -> tuple[Project, list[Card]]:
    """The project and, for the effects of each card, its frames: the words pass by, so that what goes by
    their way is seen too."""
    plain, length = _on_card(clip), max(2, rate.frames(_PASSING))
    step = length + _GAP
    clips = [
        replace(
            plain, id=f"effects-{number}", start=number * step, length=length, effects=effects,
            look=fresh_ids(plain.look), transform=_passing(length),
        )
        for number, effects in enumerate(chains)
    ]  # fmt: skip
    cards = [Card(number * step + length // 2, number * step, length) for number in range(len(chains))]
    return _project((Track(id="effects", clips=tuple(clips)),), rate, BETWEEN), cards


def crossing_project(
    clip: TextClip, crossings: list[Crossing | None], rate: Rate
) -> tuple[Project, list[Card]]:
    """The project and, for each crawl or roll (None: the words at rest), its card: across in one go."""
    plain, length = _on_card(clip), max(2, rate.frames(_CROSSED))
    step = 2 * (length + _GAP)
    tracks: list[list[TextClip]] = [[] for _ in _EXPOSURES]
    cards = []
    for number, crossing in enumerate(crossings):
        # On the card each takes the whole run, whatever its speed; what stays stands for a third.
        stays = crossing is not None and (crossing.to_rest or crossing.from_rest)
        hold = _CROSSED / 3 if stays else 0.0
        shown = None if crossing is None else replace(
            crossing, speed=None, whole_px=False, hold_start=hold if crossing.from_rest else 0.0,
            hold_end=hold if crossing.to_rest else 0.0,
        )  # fmt: skip
        run = replace(plain, length=length, crossing=shown)
        still = number * step + length + _GAP + length
        for layer, (share, strength) in enumerate(_CROSSED_EXPOSURES):
            shot = replace(run, id=f"{number}-{layer}", start=still - round(share * (length - 1)))
            tracks[layer].append(_faded(shot, strength))
        tracks[-1].append(replace(run, id=f"{number}-run", start=number * step))
        cards.append(Card(still, number * step, length))
    made = tuple(
        Track(id=f"layer-{n}", clips=tuple(sorted(clips, key=lambda c: c.start)))
        for n, clips in enumerate(tracks)
    )
    return _project(made, rate, _background(clip.look)), cards


def title_project(titles: list[Title], rate: Rate) -> tuple[Project, list[Card]]:
    """The project and, for each title, its card: a still of it at rest, then all of it."""
    clips, cards, start = [], [], 0
    for number, title in enumerate(titles):
        length = max(1, rate.frames(float(title.sequence.frame_rate.seconds(title.sequence.length))))
        shown_at = _title_on_card(title)
        clips.append(
            SequenceClip(
                id=f"title-{number}", sequence=f"own-{number}", start=start, length=length, transform=shown_at
            )
        )  # fmt: skip
        cards.append(Card(start + round(_AT_REST * (length - 1)), start, length))
        start += length + _GAP
    shown = tuple(
        replace(title.sequence, id=f"own-{number}", tracks=fresh_ids(title.sequence.tracks))
        for number, title in enumerate(titles)
    )
    made = _project((Track(id="titles", clips=tuple(clips)),), rate, BETWEEN)
    media = {item.id: item for title in titles for item in title.media}
    return replace(made, sequences=(*made.sequences, *shown), media=tuple(media.values())), cards


def _without_moves(sequence: Sequence) -> Sequence:
    tracks = tuple(
        replace(t, clips=tuple(replace(c, moves=()) if is_layer(c) else c for c in t.clips))
        for t in sequence.tracks
    )
    return replace(sequence, tracks=tracks)


def _title_on_card(title: Title) -> Transform:
    """What is at rest in a title in the middle of the card, as large as fits; a ground counts for nothing."""
    # Where it rests asks for no moves, which take most of the time.
    bare = _without_moves(title.sequence)
    scene, frame = Scene.of(title.project, bare), _AT_REST * (bare.length - 1)
    clips = [c for c in clips_at(bare.tracks, frame) if not isinstance(c, BackgroundClip)]
    boxes = [layer_quads(scene, c, frame - c.start, world_of(scene, c, frame)).rest for c in clips]
    corners = np.concatenate(boxes) if boxes else np.zeros((0, 2))
    corners = corners[np.isfinite(corners).all(axis=1)]
    if not len(corners):
        return Transform()
    size, fit = title.sequence.size, min(s / own for s, own in zip(SIZE, title.sequence.size, strict=True))
    low, high = corners.min(axis=0), corners.max(axis=0)
    wide, high_ = (np.maximum(high - low, 1.0) * fit).tolist()
    share = min(_ROOM * SIZE[0] / wide, _ROOM * SIZE[1] / high_, _NEAREST)
    away = ((low + high) / 2 - np.array(size) / 2) * fit * share
    return Transform(scale_x=share, scale_y=share, x=float(-away[0]), y=float(-away[1]) - _NAME_ROOM)


def _passing(length: int) -> Transform:
    ends = (Key(frame=0, value=-_WAY), Key(frame=length - 1, value=_WAY))
    return Transform(x=Keys(keys=ends))


def _shifted(tracks: list[list[TextClip]], cards: list[Card]) -> tuple[Track, ...]:
    """Stills stand a run's length after their nominal place, so that no copy reaches before it."""
    made = []
    for layer, clips in enumerate(tracks):
        placed = []
        for clip in clips:
            card = cards[int(clip.id.split("-")[0])]
            moved = clip if clip.id.endswith("run") else replace(clip, start=clip.start + card.length)
            placed.append(moved)
        ordered = sorted(placed, key=lambda clip: clip.start)
        made.append(Track(id=f"layer-{layer}", clips=tuple(ordered)))
    return tuple(made)


def _project(tracks: tuple[Track, ...], rate: Rate, ground: str = "#00000000") -> Project:
    sequence = Sequence(id="cards", size=SIZE, rate=str(rate), background=ground, tracks=tracks)
    return Project(id="shelf", sequences=(sequence,))


def _on_card(clip: TextClip) -> TextClip:
    """The words, centred and as large as fits; long words are cut to their first line."""
    text = clip.text.content.strip().split("\n")[0][:24].strip() or "Words"
    words = replace(clip.text, content=text, align="centre")
    left, top, right, bottom = lay_out(words).ink_bounds() or (0.0, 0.0, 100.0, 100.0)
    size = words.size * min(_ROOM * SIZE[0] / max(1, right - left), 0.5 * SIZE[1] / max(1, bottom - top))
    share = size / words.size
    look = scaled_look(clip.look, share)
    return TextClip(id="card", text=replace(words, size=min(20_000, size)), look=look, transform=Transform())


def _run(clip: TextClip, move: Move | None, rate: Rate) -> tuple[TextClip, str]:
    moves = (move,) if move else ()
    if move is not None and _counts(move) and not numbers_in(clip.text.content):
        # Words without a number would stand still.
        clip = replace(clip, text=replace(clip.text, content=_NUMBER, fixed_figures=True))
    length = asked_frames(clip, move, rate) if move else 1
    if move is not None and move.beats_on:
        # Two beats of every piece: the second shows how they join.
        return replace(clip, length=ceil(length * (2 + move.beats.phase)) + 1, moves=moves), "loop"
    return replace(clip, length=length + _REST, moves=moves), move.role if move else "entrance"


def _exposures(move: Move | None) -> tuple[tuple[float, float], ...]:
    """Shares of the way to rest and strengths: what goes nowhere is shown once, on its way."""
    if move is None or move.beats_on or any(d.channel in _WAYS for d in move.channels):
        return _EXPOSURES
    return ((0.4, 0.0),) * (len(_EXPOSURES) - 1) + ((0.4, 1.0),)


def _counts(move: Move) -> bool:
    return any(departure.channel == "figures" for departure in move.channels)


def _frame_at(run: TextClip, role: str, share: float, rate: Rate) -> int:
    """The frame of the run at a share of the way to rest; of a loop, of its middle beat to its end."""
    spans = clip_spans(run, rate)
    if role == "loop":
        return round((0.35 + 0.65 * share) * (run.length - 1))
    if role == "entrance":
        return round(share * spans.entrance)
    return run.length - 1 - round(share * spans.exit)


def _readable(run: TextClip) -> TextClip:
    """The run for a still: without its fade, which would hide the way that the words go."""
    moves = []
    for move in run.moves:
        going = tuple(departure for departure in move.channels if departure.channel != "opacity")
        moves.append(replace(move, channels=going or move.channels))
    return replace(run, moves=tuple(moves))


def _faded(clip: TextClip, strength: float) -> TextClip:
    return replace(clip, transform=replace(clip.transform, opacity=strength))
