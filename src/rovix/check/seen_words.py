"""Where words are seen in pictures of a sequence: those within groups too, whole or on their way."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rovix.model import Project, TextClip
from rovix.model.clip_kinds import has_words, is_layer, is_nesting
from rovix.model.effects.wipe import Wipe
from rovix.model.on_track import clip_at
from rovix.motion.at_frame import at_frame
from rovix.motion.pace import clip_spans
from rovix.motion.scene import Scene, nested, world_of
from rovix.motion.subject import ink_box
from rovix.motion.transform import box_corners, mapped

Floats = NDArray[np.float64]
_NEARLY = 0.98
_LITTLE = 1e-3


@dataclass(frozen=True, slots=True, eq=False)
class SeenWords:
    """A text layer in a picture: its clip, and the one on the sequence's own tracks, `owner`, that it is or
    is in; the corners (n, 4, 2) of its pieces that are to be seen, and of all its ink at rest (4, 2), px from
    the frame's top left. It is `resting` between its entrances and its exits, and `whole` where no piece of
    it is faint, cut or not there yet."""

    clip: TextClip
    owner: str
    corners: Floats
    rest: Floats
    resting: bool
    whole: bool
    blurred: bool

    @property
    def box(self) -> tuple[float, float, float, float] | None:
        """Left, top, right, bottom of what is seen."""
        points = self.corners.reshape(-1, 2)
        points = points[np.isfinite(points).all(axis=1)]
        if not len(points):
            return None
        (left, top), (right, bottom) = points.min(axis=0).tolist(), points.max(axis=0).tolist()
        return left, top, right, bottom


def words_at(project: Project, frame: float, scene: Scene | None = None) -> list[SeenWords]:
    """All text layers of the first sequence that are there at a frame."""
    return list(_words(scene or Scene.of(project), frame, np.eye(4), ""))


def _words(scene: Scene, frame: float, world: Floats, owner: str) -> Iterator[SeenWords]:
    for track in scene.tracks:
        if track.kind != "picture" or track.hidden:
            continue
        clip = clip_at(track, frame)
        if not is_layer(clip):
            continue
        at = frame - clip.start
        if not has_words(clip) and not is_nesting(clip):
            continue
        state = scene.state(clip, np.array([float(at)]))
        rest = world @ world_of(scene, clip, frame) @ state.layer[0]
        if has_words(clip):
            yield _seen(scene, clip, state, rest, at, owner or clip.id)
            continue
        if state.rest["opacity"][0] <= 0:
            continue
        found = nested(scene, clip, at, rest @ state.local[0, 0])
        if found is not None:
            yield from _words(found.scene, found.frame, found.world, owner or clip.id)


def _seen(scene: Scene, clip: TextClip, state, rest: Floats, at: float, owner: str) -> SeenWords:  # type: ignore[no-untyped-def]
    inked = np.isfinite(state.subject.ink[:, 0])
    opacity = state.opacity()[0] * state.rest["opacity"][0]
    there = inked & (opacity > 0)
    pieces = mapped(scene.project(rest @ state.local[0][there]), box_corners(state.subject.ink[there]))
    around = mapped(scene.project(rest), box_corners(np.array([ink_box(state.subject)])).reshape(4, 2))
    spans = clip_spans(clip, scene.rate)
    resting = spans.entrance <= at <= clip.length - 1 - spans.exit
    moved = state.pieces
    cut = sum(float(np.abs(moved[name]).max(initial=0.0)) for name in _EDGES)
    wiped = min(
        (_left(wipe, at) for wipe in clip.effects if isinstance(wipe, Wipe) and wipe.shown), default=1.0
    )
    wiped = min(wiped, float(moved["wipe"].min(initial=1.0)))
    typed = float(moved["typed"].min(initial=1.0))
    full = bool((opacity[inked] >= _NEARLY * float(opacity.max(initial=0.0))).all()) and bool(there.any())
    full = full and float(opacity.max(initial=0.0)) > _LITTLE
    whole = full and cut < _LITTLE and min(wiped, typed) >= _NEARLY
    shutter = clip.shutter or scene.shutter
    return SeenWords(clip, owner, pieces, around, resting, whole, shutter.on)


_EDGES = ("open_left", "open_top", "open_right", "open_bottom")


def _left(wipe: Wipe, frame: float) -> float:
    """The share that a wipe leaves; one that follows a layer has none of its own."""
    now = at_frame(wipe, frame)
    if now.follows is not None:
        return 1.0
    return 1.0 - now.share if now.hides else now.share
