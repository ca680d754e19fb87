"""A layer that rolls over words and back, and uncovers them behind it."""

from __future__ import annotations

from math import pi

import numpy as np
from numpy.typing import NDArray

from rovix.edit.effects import add_effects
from rovix.edit.moves import stack_move
from rovix.edit.transform import transform_value
from rovix.edit.tree import clip_of, replace, replace_clip, title_of
from rovix.errors import RovixError
from rovix.model import Key, Keys, Move, PictureClip, Project, TextClip, Transform
from rovix.model.clip_kinds import has_words, is_layer
from rovix.model.consistency import followed_by
from rovix.model.effects.wipe import Follow, Wipe
from rovix.motion import Scene
from rovix.motion.quads import layer_quads
from rovix.motion.scene import world_of

_SHRINK, _OUT, _BACK = 0.5, 0.7, 1.0
"""Seconds in which it shrinks, rolls to the words' end, and back: our own."""
_LARGE = 3.0
"""Times its size at first."""
_WAY = "sine-in-out"
_CHANGED = ("x", "y", "rotation_z", "scale_x", "scale_y")


def carry_reveal(project: Project, words: str, wheel: str) -> Project:
    """Let a layer shrink from large at the start of words, roll to their end and back; they show behind it.

    It rolls without slipping, as a wheel of its height does. RovixError where the words are none, the layer
    is not there as long, follows another, or has keys of its place already.
    """
    rate = project.sequence.frame_rate
    first, far, end = (rate.frames(s) for s in (_SHRINK, _SHRINK + _OUT, _SHRINK + _OUT + _BACK))
    text, layer = _both(project, words, wheel, end)
    begin = text.start - layer.start
    place = _rolled(project, text, layer, (begin, begin + first, begin + far, begin + end))
    project = replace_clip(project, wheel, lambda clip: replace(clip, transform=place))
    # Until it turns back nothing of the words is to be seen; a wait keeps that through later changes.
    wait = float(rate.seconds(far))
    hidden = Move(name="Uncovered", role="entrance", length=0.0, before="hidden", wait=wait, at_once=0.0)
    project = stack_move(project, words, hidden)
    return add_effects(project, words, (Wipe(angle=180.0, follows=Follow(layer=wheel)),))


def _both(project: Project, words: str, wheel: str, end: int) -> tuple[TextClip, PictureClip]:
    """The words and the layer that rolls; RovixError where it cannot."""
    text, layer = clip_of(project, words), clip_of(project, wheel)
    if not has_words(text) or not is_layer(layer) or words == wheel:
        raise RovixError("Select words, and with them the layer that is to roll over them.")
    name = title_of(layer)
    if layer.start > text.start or layer.end < text.start + end + 1 or text.length <= end:
        need = float(project.sequence.frame_rate.seconds(end + 1))
        raise RovixError(f"'{name}' and the words have to be there together for {need:.2f} s.")
    if followed_by(layer):
        raise RovixError(f"'{name}' follows another layer; free it first.")
    place = layer.transform
    if place.path is not None or any(isinstance(getattr(place, name), Keys) for name in _CHANGED):
        raise RovixError(f"The place of '{name}' has keys already; take them away first.")
    return text, layer


def _rolled(project: Project, text: TextClip, layer: PictureClip, at: tuple[int, int, int, int]) -> Transform:
    """The place of the layer that rolls: shrunk from the first frame to the second, far at the third."""
    begin, first, far, end = at
    words, own = _rest(project, text, end - begin), _rest(project, layer, begin)
    low, high, size = words.min(axis=0), words.max(axis=0), np.ptp(own, axis=0)
    left, right = float(low[0] - size[0] / 2), float(high[0] + size[0] / 2)
    turn = (right - left) / (pi * max(1.0, float(size[1]))) * 360.0
    place, middle = layer.transform, own.mean(axis=0)
    rest = {name: transform_value(place, name, 0) for name in _CHANGED}
    x, y, tilt = rest["x"] - float(middle[0]), rest["y"] - float(middle[1]), rest["rotation_z"]
    scales = {
        name: _keys((begin, rest[name] * _LARGE, "cubic-out"), (first, rest[name], "linear"))
        for name in ("scale_x", "scale_y")
    }
    return replace(
        place, **scales, y=y + float(low[1] + high[1]) / 2,
        x=_keys((first, x + left, _WAY), (far, x + right, _WAY), (end, x + left, "linear")),
        rotation_z=_keys((first, tilt, _WAY), (far, tilt + turn, _WAY), (end, tilt, "linear")),
    )  # fmt: skip


def _rest(project: Project, clip: PictureClip, frame: int) -> NDArray[np.float64]:
    """(4, 2): the corners of a layer's ink where it rests, px from the frame's left top."""
    scene = Scene.of(project)
    return layer_quads(scene, clip, frame, world_of(scene, clip, clip.start + frame)).rest


def _keys(*points: tuple[int, float, str]) -> Keys:
    return Keys(keys=tuple(Key(frame=frame, value=value, curve=curve) for frame, value, curve in points))
