"""Moves by span and by pace, and what helps where a clip is too short for them."""

from __future__ import annotations

from collections.abc import Callable

from rovix.edit.clips import trim_end
from rovix.edit.moves import change_move, move_of
from rovix.edit.tree import clip_of, replace, replace_clip, title_of
from rovix.errors import RovixError
from rovix.model import Clip, Move, Pace, PictureClip, Project
from rovix.model.clip_kinds import has_words, is_layer
from rovix.motion import Scene
from rovix.motion.pace import asked_seconds, clip_spans, last_rank
from rovix.motion.profile import setting_off
from rovix.motion.stagger import given_starts
from rovix.motion.subject import subject_of
from rovix.time import Rate


def go_by_pace(project: Project, identity: str, which: str) -> Project:
    """Let a move go by the pace that it has now; with longer words it then takes longer."""
    clip, move = _found(project, identity, which)
    if move.pace is not None:
        return project
    return change_move(project, identity, move.id, pace=_pace_of(clip, move, project.sequence.frame_rate))


def go_by_span(project: Project, identity: str, which: str) -> Project:
    """Let a move keep the length that it has now, whatever the words become."""
    clip, move = _found(project, identity, which)
    if move.pace is None:
        return project
    length = min(3600.0, asked_seconds(clip, move, project.sequence.frame_rate))
    step = move.pace.stagger
    at_once = min(100_000.0, move.pace.piece / step) if step else move.at_once
    changes = {} if move.typing is not None else {"at_once": at_once, "stagger": None}
    return change_move(project, identity, move.id, pace=None, length=length, **changes)


def _pace_of(clip: PictureClip, move: Move, rate: Rate) -> Pace:
    """The pace at which a move's span plays the layer's words."""
    last = last_rank(move, subject_of(clip, (16, 16)) if has_words(clip) else None)
    if move.typing is not None:
        return Pace(a_second=min(1000.0, max(0.01, last / move.length))) if last and move.length else Pace()
    if not last:
        return Pace(piece=move.length)
    if move.stagger is not None:
        return Pace(piece=max(0.0, move.length - move.stagger * last), stagger=move.stagger)
    step = move.length / (last + move.at_once) if move.at_once else move.length / last
    return Pace(piece=move.at_once * step, stagger=step)


def set_starts(project: Project, identity: str, which: str, seconds: tuple[float, ...]) -> Project:
    """Let a move's pieces set off at these seconds from the clip's start, in their order; none: evenly.

    An exit then ends with its last piece, which has as long as the clip leaves it. RovixError for a loop.
    """
    clip, move = _found(project, identity, which)
    rate = project.sequence.frame_rate
    if move.beats_on:
        raise RovixError("A loop's pieces follow each other by its beats.")
    pace = move.pace or _pace_of(clip, move, rate)
    rising = sorted(max(0.0, second) for second in seconds)
    if not rising:
        return change_move(project, identity, move.id, pace=pace, starts=())
    if move.leaves:
        return _set_exit_starts(project, clip, move, pace, rising)
    # Counted from where the move begins: behind a wait, or the one before it.
    off = float(rate.seconds(clip_spans(clip, rate).start(move, rate)))
    starts = tuple(round(max(0.0, second - off), 6) for second in rising)
    return change_move(project, identity, move.id, pace=pace, starts=starts)


def _set_exit_starts(
    project: Project, clip: PictureClip, move: Move, pace: Pace, rising: list[float]
) -> Project:
    """An exit counts from its end: it waits as long as its last piece ends before the clip does."""
    rate = project.sequence.frame_rate
    end = float(rate.seconds(clip.length - 1))
    last = last_rank(move, subject_of(clip, (16, 16)) if has_words(clip) else None)
    starts = tuple(round(second - rising[0], 6) for second in rising)
    given = given_starts(replace(move, pace=pace, starts=starts), last)
    gone = rising[0] + float(given[-1])
    typed = move.typing is not None
    piece = 0.0 if typed else max(0.0, min(pace.piece, end - gone))
    made = pace if typed else replace(pace, piece=piece)
    wait = max(0.0, end - gone - piece)
    return change_move(project, clip.id, move.id, pace=made, starts=starts, wait=wait, after=False)


def move_start(project: Project, identity: str, which: str, rank: int, frame: float) -> Project:
    """Let the pieces of one rank, counted as they set off, set off on a frame of the clip.

    It stays between its neighbours; the others keep their times.
    """
    clip, move = _found(project, identity, which)
    found = next((f for f in setting_off(Scene.of(project).motion(clip)) if f.move == move.id), None)
    if found is None or not 0 <= rank < len(found.frames):
        raise RovixError(f"'{title_of(clip)}' has no such piece any more.")
    frames = found.frames.copy()
    low = frames[rank - 1] if rank else 0.0
    high = frames[rank + 1] if rank + 1 < len(frames) else clip.length - 1.0
    frames[rank] = min(max(frame, low), high)
    rate = project.sequence.frame_rate
    return set_starts(project, identity, move.id, tuple(at / float(rate.fraction) for at in frames.tolist()))


def starts_from_markers(project: Project, identity: str, which: str) -> Project:
    """Let a move's pieces set off on the sequence's markers over the clip; RovixError without any."""
    clip, move = _found(project, identity, which)
    sequence = project.sequence
    frames = [marker.frame - clip.start for marker in sequence.markers if marker.frame in clip.span]
    if not frames:
        raise RovixError(
            f"There is no marker over '{title_of(clip)}'. Set some where its pieces are to come."
        )
    rate = sequence.frame_rate
    return set_starts(project, identity, move.id, tuple(float(rate.seconds(frame)) for frame in frames))


def lengthen_for_moves(project: Project, identity: str) -> Project:
    """Let a clip last as long as its entrances and exits need; RovixError where another is in the way."""
    clip = _too_short(project, identity)
    needed = clip_spans(clip, project.sequence.frame_rate).needed
    longer = trim_end(project, identity, clip.start + needed + 1)
    if clip_of(longer, identity).length <= needed:
        raise RovixError(f"There is no room for a longer '{title_of(clip)}'. Move the clip behind it first.")
    return longer


def speed_up_moves(project: Project, identity: str) -> Project:
    """Let entrances and exits, and what they wait for, be as much faster as the clip is too short."""
    clip = _too_short(project, identity)
    share = (clip.length - 1) / clip_spans(clip, project.sequence.frame_rate).needed
    return each_move(project, identity, lambda move: faster(move, share))


def more_at_once(project: Project, identity: str) -> Project:
    """Let the pieces of moves by pace follow each other sooner, each as fast as before, until all fits."""
    clip = _too_short(project, identity)
    rate = project.sequence.frame_rate
    spans = clip_spans(clip, rate)
    steps = {move.id: _of_steps(clip, move, rate) for move in clip.moves}
    room, lacking = sum(steps.values()), spans.needed - (clip.length - 1)
    if room <= lacking:
        raise RovixError(
            f"'{title_of(clip)}' is too short even with all pieces at once; lengthen it or speed up."
        )
    share = (room - lacking) / room
    closer = {move.id: replace(move.pace, stagger=move.pace.stagger * share)
              for move in clip.moves if move.pace is not None and steps[move.id]}  # fmt: skip
    return each_move(project, identity, lambda move: replace(move, pace=closer.get(move.id, move.pace)))


def can_be_closer(clip: PictureClip, rate: Rate) -> bool:
    """Whether more pieces at once would help a clip that is too short."""
    spans = clip_spans(clip, rate)
    return spans.shrunk and sum(_of_steps(clip, m, rate) for m in clip.moves) > spans.needed - clip.length + 1


def _of_steps(clip: PictureClip, move: Move, rate: Rate) -> float:
    """The frames of a move by pace in which pieces wait for each other."""
    if move.pace is None or move.typing is not None or move.beats_on:
        return 0.0
    return max(0.0, float(rate.position(asked_seconds(clip, move, rate) - move.pace.piece)))


def faster(move: Move, share: float) -> Move:
    """An entrance or exit that takes a share of its time; a loop as it is."""
    if move.beats_on:
        return move
    pace = move.pace and replace(
        move.pace, piece=move.pace.piece * share, stagger=move.pace.stagger * share,
        a_second=min(1000.0, move.pace.a_second / share),
    )  # fmt: skip
    return replace(move, length=move.length * share, wait=move.wait * share, pace=pace)


def each_move(project: Project, identity: str, change: Callable[[Move], Move]) -> Project:
    """Change every move of a layer."""

    def changed(clip: Clip) -> Clip:
        return replace(clip, moves=tuple(map(change, clip.moves)))  # type: ignore[union-attr]

    return replace_clip(project, identity, changed)


def _found(project: Project, identity: str, which: str) -> tuple[PictureClip, Move]:
    clip = clip_of(project, identity)
    move = move_of(clip, which)
    if move is None or not is_layer(clip):
        raise RovixError(f"'{title_of(clip)}' has no such move.")
    return clip, move


def _too_short(project: Project, identity: str) -> PictureClip:
    clip = clip_of(project, identity)
    if not is_layer(clip) or not clip_spans(clip, project.sequence.frame_rate).shrunk:
        raise RovixError(f"'{title_of(clip)}' is long enough for its moves.")
    return clip
