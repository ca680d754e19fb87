"""Masks drawn and edited in the picture."""

from __future__ import annotations

from typing import TYPE_CHECKING

from rovix.desktop.commands.command import Command, layer
from rovix.desktop.viewer.cut_hand import CutHand
from rovix.desktop.viewer.line_hand import LineHand
from rovix.desktop.viewer.lined import CutLine, MaskLine
from rovix.edit.contours import key_line
from rovix.model import Clip, PictureClip
from rovix.model.clip_kinds import is_layer
from rovix.model.effects.mask import Mask

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame

_STEP = "masks/step"
_USUAL = 5


def _masks(clip: Clip | None) -> list[Mask]:
    return [effect for effect in clip.effects if isinstance(effect, Mask)] if is_layer(clip) else []


def _drawn(window: Frame) -> Mask | None:
    """The mask whose line is edited, else the last of the selected layer that is drawn."""
    hand = window.viewer.hand
    masks = [mask for mask in _masks(window.document.clip) if mask.form == "drawn"]
    line = hand.lined if isinstance(hand, LineHand) else None
    if isinstance(line, MaskLine):
        return next((mask for mask in masks if mask.id == line.effect), None)
    return masks[-1] if masks else None


def _draw(window: Frame) -> None:
    document, clip = window.document, window.document.clip
    if not is_layer(clip):
        return
    _into(window, clip)
    window.sheet.open_page("Effects")
    window.viewer.take_up(LineHand(document, clip.id, MaskLine(document, clip.id, None), fresh=True))


def _edit(window: Frame) -> None:
    clip, mask = window.document.clip, _drawn(window)
    if is_layer(clip) and mask is not None:
        _into(window, clip)
        window.viewer.take_up(LineHand(window.document, clip.id, MaskLine(window.document, clip.id, mask.id)))


def _into(window: Frame, clip: PictureClip) -> None:
    """Show the layer, where the playhead is beside it."""
    window.document.seek(min(max(window.document.playhead, clip.start), clip.end - 1))


def _step(window: Frame) -> int:
    kept = window.settings.value(_STEP, _USUAL)
    return int(kept) if str(kept).isdigit() else _USUAL


def _key_on(window: Frame) -> None:
    """Give the line a key, and go on by so many frames."""
    document, clip, mask = window.document, window.document.clip, _drawn(window)
    if not is_layer(clip) or mask is None:
        return
    frame, address = document.clip_frame, f"effects.{mask.id}.contour"
    document.do("Key the mask's line", lambda p: key_line(p, clip.id, address, frame))
    document.seek(min(document.playhead + _step(window), clip.end - 1))


def _ask_step(window: Frame) -> None:
    step = window.ask_number(
        "Key the mask's line and go on", "Frames to go on by", _step(window), 1, 500, "f"
    )
    if step is not None:
        window.settings.setValue(_STEP, round(step))


def _edit_cut(window: Frame) -> None:
    clip = window.document.clip
    if is_layer(clip):
        _into(window, clip)
        window.viewer.take_up(LineHand(window.document, clip.id, CutLine(window.document, clip.id)))


def _place_in_cut(window: Frame) -> None:
    clip = window.document.clip
    if is_layer(clip):
        _into(window, clip)
        window.viewer.take_up(CutHand(window.document, clip.id))


def _cut(window: Frame) -> bool:
    return getattr(window.document.clip, "cut", None) is not None


def _cut_by_line(window: Frame) -> bool:
    cut = getattr(window.document.clip, "cut", None)
    return cut is not None and cut.form == "drawn"


_UNDER = "Masks"


def _has_drawn(window: Frame) -> bool:
    return _drawn(window) is not None


MASKS = (
    Command("mask-draw", "Draw a mask in the picture", "Clip", "", _draw, layer, under=_UNDER, ruled=True),
    Command("mask-edit", "Edit the mask's line", "Clip", "", _edit, _has_drawn, under=_UNDER),
    Command(
        "mask-key-on", lambda window: f"Key the mask's line and go on {_step(window)} f", "Clip", "Alt+A",
        _key_on, _has_drawn, under=_UNDER,
    ),
    Command("mask-step", "Frames to go on by…", "Clip", "", _ask_step, under=_UNDER),
    Command(
        "cut-place", "Place the picture within its form", "Clip", "", _place_in_cut, _cut, under=_UNDER, ruled=True
    ),
    Command("cut-edit", "Edit the form's line", "Clip", "", _edit_cut, _cut_by_line, under=_UNDER),
)  # fmt: skip
