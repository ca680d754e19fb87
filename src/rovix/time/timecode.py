"""Timecode labels, non-drop and drop-frame, as SMPTE ST 12-1 counts them."""

from __future__ import annotations

import re
from fractions import Fraction

from rovix.time.rate import Rate

_LABEL = re.compile(r"(\d{2}):([0-5]\d):([0-5]\d)([:;])(\d{2,4})", re.ASCII)
_HOURS = 24


def timecode(frame: int, rate: Rate | Fraction | int | str, drop: bool = False) -> str:
    """The label ``HH:MM:SS:FF`` of a frame counted from 0; drop-frame writes ``HH:MM:SS;FF``.

    Drop-frame leaves out labels, never frames: the first 2 (at 30000/1001; 4 at 60000/1001) of
    each minute but every tenth. Raises ValueError below frame 0, from 24 hours on, and for a
    drop-frame label at a rate that has none.
    """
    rate = Rate(rate)
    label = frame + (_dropped_before_frame(frame, rate) if drop else 0)
    if frame < 0 or label >= _HOURS * 3600 * rate.nominal:
        raise ValueError(f"Frame {frame} has no timecode: labels run from 0 to just below 24 hours.")
    seconds, frames = divmod(label, rate.nominal)
    minutes, seconds = divmod(seconds, 60)
    hours, minutes = divmod(minutes, 60)
    mark = ";" if drop else ":"
    return f"{hours:02d}:{minutes:02d}:{seconds:02d}{mark}{frames:0{_frame_digits(rate)}d}"


def frame_of(text: str, rate: Rate | Fraction | int | str) -> int:
    """The frame number behind a label; ``;`` before the frames says drop-frame.

    Raises ValueError for text that is no label and for labels that do not exist: too many
    frames or hours, or one that drop-frame leaves out.
    """
    rate = Rate(rate)
    match = _LABEL.fullmatch(text.strip())
    if match is None:
        raise ValueError(f"'{text}' is no timecode. Write HH:MM:SS:FF, or HH:MM:SS;FF for drop-frame.")
    hours, minutes, seconds, frames = (int(match[group]) for group in (1, 2, 3, 5))
    if hours >= _HOURS or frames >= rate.nominal:
        raise ValueError(f"The label {text} does not exist at {rate.label} frames per second.")
    label = ((hours * 60 + minutes) * 60 + seconds) * rate.nominal + frames
    if match[4] == ":":
        return label
    dropped = _labels_dropped(rate)
    if minutes % 10 and seconds == 0 and frames < dropped:
        raise ValueError(f"The label {text} does not exist: drop-frame leaves it out.")
    total_minutes = hours * 60 + minutes
    return label - dropped * (total_minutes - total_minutes // 10)


_PARTS = re.compile(r"(?:(?:(\d+)[:;])?(\d+)[:;])?(\d+)[:;](\d+)", re.ASCII)
_COUNT = re.compile(r"(\d+(?:[.,]\d+)?)\s*(f|s|ms)?", re.ASCII)


def frame_from(text: str, rate: Rate | Fraction | int | str, now: int = 0) -> int:
    """The frame that is typed: a whole label, its last parts (``1:12`` is 1 s and 12 frames), frames
    (``350``, ``350f``) or seconds (``2.5s``); ``+`` and ``-`` before it go on or back from frame `now`.

    The frame may lie before 0 or after any end. ValueError, with the reason, for anything else.

    >>> frame_from("1:12", 25), frame_from("350f", 25)
    (37, 350)
    >>> frame_from("+15", 25, 100), frame_from("-0.4s", 25, 100)
    (115, 90)
    """
    rate, typed = Rate(rate), text.strip().replace("−", "-")
    way = {"+": 1, "-": -1}.get(typed[:1], 0)
    plain = typed[1:].strip() if way else typed
    frames = _frames_typed(plain, rate, text)
    return now + way * frames if way else frames


def _frames_typed(plain: str, rate: Rate, text: str) -> int:
    if _LABEL.fullmatch(plain):
        return frame_of(plain, rate)
    parts = _PARTS.fullmatch(plain)
    if parts is not None:
        hours, minutes, seconds, frames = (int(part or 0) for part in parts.groups())
        return ((hours * 60 + minutes) * 60 + seconds) * rate.nominal + frames
    count = _COUNT.fullmatch(plain)
    if count is None:
        raise ValueError(
            f"'{text.strip()}' is no time. Write 1:12, 350f, 2.5s, or +15 to go on by 15 frames."
        )
    number, unit = Fraction(count[1].replace(",", ".")), count[2] or "f"
    return round(number if unit == "f" else number * rate.fraction / (1000 if unit == "ms" else 1))


def _labels_dropped(rate: Rate) -> int:
    """How many labels a minute leaves out; ValueError where drop-frame is not defined."""
    if rate.fraction.denominator != 1001 or rate.nominal % 30:
        raise ValueError(f"There is no drop-frame timecode at {rate.label} frames per second.")
    return rate.nominal // 15


def _dropped_before_frame(frame: int, rate: Rate) -> int:
    dropped = _labels_dropped(rate)
    minute = rate.nominal * 60 - dropped
    ten_minutes = minute * 10 + dropped
    tens, rest = divmod(frame, ten_minutes)
    # The first minute of each ten keeps all its labels, so it is longer by `dropped` frames.
    return dropped * (9 * tens + max(0, rest - dropped) // minute)


def _frame_digits(rate: Rate) -> int:
    return max(2, len(str(rate.nominal - 1)))
