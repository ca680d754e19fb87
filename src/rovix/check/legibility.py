"""Whether words can be read in the time that they stand, and how fast they go."""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import inf
from typing import Any

import numpy as np
from numpy.typing import NDArray

from rovix.model import TextClip
from rovix.model.identity import IdentityCache
from rovix.motion.layer import LayerMotion, layer_motion
from rovix.motion.pace import clip_spans
from rovix.motion.transform import mapped, projected
from rovix.time import Rate

Floats = NDArray[np.float64]
LETTERS_A_SECOND = 15.0
"""What most people read of short texts in a film; common practice, no source."""
FINDING = 0.4
"""Seconds until the eye has found words that come; common practice, no source."""
LEAST = 1.0
"""Seconds under which no word is read in passing; common practice, no source."""
_MOST_LETTERS = 2000  # in which the speed is looked for: beyond, only finding the pieces' ways takes seconds
_MOST = 60_000  # pieces times frames that are looked at for the speed
_WHOLE_TURN, _NEAR = 360.0, 20.0  # degrees a frame, and how near to whole turns one seems to stand still
_found: IdentityCache[Legibility] = IdentityCache()


@dataclass(frozen=True, slots=True)
class Legibility:
    """`shown` seconds between the end of the entrances and the start of the exits, after `coming` seconds in
    which they come piece by piece and are read as they do; `needed` seconds to read all `letters` and blanks.
    `fastest` is in px of the frame a frame, as far as pieces can be seen, `turning` in degrees a frame: None
    where there are too many pieces to look at, or nothing moves.
    """

    letters: int
    words: int
    shown: float
    coming: float
    needed: float
    fastest: float | None
    turning: float | None

    @property
    def is_short(self) -> bool:
        """Whether the words go before they are read."""
        return self.letters > 0 and self.coming + self.shown < self.needed

    @property
    def seems_still(self) -> bool:
        """Whether a turn comes so near to a whole one in a frame that it seems to stand still."""
        turn = abs(self.turning or 0.0)
        return turn > _WHOLE_TURN - _NEAR and abs(turn - _WHOLE_TURN * round(turn / _WHOLE_TURN)) < _NEAR

    @property
    def words_a_minute(self) -> float:
        """How fast one has to read; infinite where the words never stand."""
        return self.words / self.shown * 60 if self.shown > 0 else inf


def legibility(clip: TextClip, size: tuple[int, int], rate: Rate) -> Legibility:
    """How a text layer reads in a frame of `size`."""
    return _found.get(clip, lambda: _legibility(clip, size, rate), (size, rate))


def _legibility(clip: TextClip, size: tuple[int, int], rate: Rate) -> Legibility:
    spans = clip_spans(clip, rate)
    fastest, turning = _speeds(clip, size, rate, (spans.entrance, clip.length - 1 - spans.exit))
    return replace(reading(clip, rate), fastest=fastest, turning=turning)


def reading(clip: TextClip, rate: Rate, letters_a_second: float = LETTERS_A_SECOND) -> Legibility:
    """How a text layer reads by its times alone, without the speeds, which take longer to find."""
    spans = clip_spans(clip, rate)
    first, last = spans.entrance, clip.length - 1 - spans.exit
    content = clip.text.content
    read = len(" ".join(content.split()))
    needed = max(LEAST, FINDING + read / letters_a_second) if read else 0.0
    return Legibility(
        sum(not character.isspace() for character in content),
        len(content.split()),
        max(0.0, (last - first) / float(rate.fraction)),
        first / float(rate.fraction)
        if any(move.enters and move.pieces != "whole" for move in clip.moves)
        else 0.0,
        needed,
        None,
        None,
    )


def is_read(clip: TextClip) -> bool:
    """Whether words come to stand, to be read; what crawls or rolls never does."""
    return clip.crossing is None and bool(clip.text.content.strip())


def is_too_short(clip: TextClip, rate: Rate) -> bool:
    """Whether words that come to stand go before they are read."""
    return is_read(clip) and reading(clip, rate).is_short


def reading_facts(clip: TextClip, size: tuple[int, int], rate: Rate) -> dict[str, Any]:
    """How words read, as `describe` says it; nothing for those that never stand."""
    if not is_read(clip):
        return {}
    found = legibility(clip, size, rate)
    facts = {
        "stands": found.shown, "needs": found.needed, "short": found.is_short,
        "letters_a_second": found.letters / found.shown if found.shown else None,
        "words_a_minute": found.words_a_minute if found.shown else None,
        "px_a_frame": found.fastest, "seems_still": found.seems_still,
    }  # fmt: skip
    return {"reading": facts}


def _speeds(
    clip: TextClip, size: tuple[int, int], rate: Rate, rest: tuple[int, int]
) -> tuple[float | None, float | None]:
    """px and degrees a frame at the fastest, while the entrances and exits are under way."""
    if len(clip.text.content) > _MOST_LETTERS:
        return None, None
    motion = layer_motion(clip, size, rate)
    coming = np.arange(0, rest[0] + 1, dtype=np.float64)
    going = np.arange(max(0, rest[1]), clip.length, dtype=np.float64)
    found = [
        _steps(motion, frames)
        for frames in (coming, going)
        if 1 < len(frames) <= _MOST // max(1, len(motion.subject))
    ]
    moved = [(px, turned) for px, turned in found if px is not None]
    if not moved:
        return None, None
    return max(px for px, _ in moved), max(turned for _, turned in moved)


def _steps(motion: LayerMotion, frames: Floats) -> tuple[float | None, float]:
    state = motion.at(frames)
    ink = state.subject.ink
    middles = np.stack([(ink[:, 0] + ink[:, 2]) / 2, (ink[:, 1] + ink[:, 3]) / 2], axis=1)
    world = state.layer[:, None] @ state.local
    places = mapped(projected(world, motion.size), middles[None, :, None])[:, :, 0]
    seen = (state.opacity() > 0) & np.isfinite(places).all(axis=-1)
    both = seen[1:] & seen[:-1]
    px = np.hypot(*np.moveaxis(np.diff(places, axis=0), -1, 0))
    turned = np.abs(np.diff(state.pieces["rotation_z"], axis=0))
    if not both.any():
        return None, 0.0
    return float(px[both].max()), float(turned[both].max())
