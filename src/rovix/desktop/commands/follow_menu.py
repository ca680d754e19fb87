"""Following what moves in footage, and putting words behind it."""

from __future__ import annotations

from typing import TYPE_CHECKING

from rovix.desktop.behind import ask_behind, correct
from rovix.desktop.commands.command import Command, Run
from rovix.desktop.following import ask_area, follow_on_from_here, stick
from rovix.desktop.footage_shown import footage_here
from rovix.edit.areas import smooth_area
from rovix.edit.behind import cut_out_in
from rovix.model import AreaClip, FootageClip
from rovix.model.clip_kinds import is_layer

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame

_USUAL = 5
"""Frames that a way is smoothed over."""


def _area(window: Frame) -> bool:
    return isinstance(window.document.clip, AreaClip)


def _sticks(window: Frame) -> bool:
    clip = window.document.clip
    return is_layer(clip) and not isinstance(clip, FootageClip | AreaClip)


def _asked(grows: bool, turns: bool) -> Run:
    return lambda window: ask_area(window, grows, turns)


def _stick(window: Frame) -> None:
    clip = window.document.clip
    if clip is not None:
        stick(window, clip.id)


def _smooth(window: Frame) -> None:
    document, clip = window.document, window.document.clip
    if not isinstance(clip, AreaClip):
        return
    over = window.ask_number("Smooth the area's way", "The mean of so many frames", _USUAL, 1, 999, "f")
    if over is not None:
        document.do("Smooth the area's way", lambda p: smooth_area(p, clip.id, round(over)))


def _has_footage(window: Frame) -> bool:
    return footage_here(window.document) is not None


def _has_matte(window: Frame) -> bool:
    return cut_out_in(window.document.project, window.document.selected) is not None


_UNDER = "Follow"
_FRONT = "In front of the words"
FOLLOW = (
    Command("follow-box", "A point or box in the footage…", "Clip", "", _asked(False, False), _has_footage, under=_UNDER),
    Command("follow-grown", "With its size and turn, too…", "Clip", "", _asked(True, True), _has_footage, under=_UNDER),
    Command("follow-stick", "Stick to the footage under it", "Clip", "", _stick, _sticks, under=_UNDER),
    Command(
        "follow-on", "Follow on from here", "Clip", "", lambda window: follow_on_from_here(window, "forwards"),
        _area, under=_UNDER, ruled=True,
    ),
    Command(
        "follow-back", "Follow back from here", "Clip", "",
        lambda window: follow_on_from_here(window, "backwards"), _area, under=_UNDER,
    ),
    Command("follow-smooth", "Smooth the area's way…", "Clip", "", _smooth, _area, under=_UNDER),
    Command("behind", "Put behind a thing in the footage…", "Clip", "", ask_behind, _sticks, under=_FRONT),
    Command("behind-correct", "Correct the matte with strokes…", "Clip", "", correct, _has_matte, under=_FRONT),
)  # fmt: skip
