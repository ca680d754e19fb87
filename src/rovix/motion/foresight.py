"""Frames asked for in a row: a layer's states and exposures for a run of them, evaluated together."""

from __future__ import annotations

from collections import OrderedDict
from math import floor

import numpy as np
from numpy.typing import NDArray

from rovix.model import PictureClip
from rovix.motion.layer import LayerMotion
from rovix.motion.scene import Scene
from rovix.motion.shutter import Exposure, exposure, exposures, probes

Floats = NDArray[np.float64]
Key = tuple[object, ...]
_PIECES = 8000  # pieces times frames that are evaluated ahead at most
_LAYERS = 48  # whose runs are kept
_runs: OrderedDict[LayerMotion, dict[Key, Exposure | None]] = OrderedDict()


def exposure_in_run(scene: Scene, clip: PictureClip, at: float, world: Floats) -> Exposure | None:
    """:func:`exposure` at a frame of the tracks. Where frames are asked for in a row, and this is the first
    of a run, all that the run's pictures will ask of the layer is evaluated with it."""
    if scene.run < 2 or at != floor(at) or scene.changes(clip):
        return exposure(scene, clip, at, world)
    motion = scene.motion(clip, at - clip.start)
    if not motion.is_foreseen(np.array([float(at - clip.start)])):
        _foresee(scene, clip, motion, floor(at), world)
    key = _key(scene, clip, at, world)
    known = _runs.get(motion, {})
    return known[key] if key in known else exposure(scene, clip, at, world)


def _foresee(scene: Scene, clip: PictureClip, motion: LayerMotion, at: int, world: Floats) -> None:
    run = min(scene.run, _PIECES // max(1, len(motion.subject)))
    ats = [float(frame) for frame in range(at, clip.span.end, scene.step)[:run]]
    if len(ats) < 2:
        return
    known = _begin(motion)
    own = [np.array([frame - clip.start]) for frame in ats]
    probed = [asked for asked in (probes(scene, clip, frame) for frame in ats) if asked is not None]
    if not probed:
        motion.foresee(own)
    elif clip.parent is not None or getattr(clip, "fits", None) is not None:
        # What it follows moves it too, so that each frame is looked at by itself.
        motion.foresee([*own, *(asked - clip.start for asked in probed)])
    else:
        _expose(scene, clip, motion, (ats, own, probed), world, known)


def _expose(
    scene: Scene, clip: PictureClip, motion: LayerMotion, run: tuple[list[float], list[Floats], list[Floats]],
    world: Floats, known: dict[Key, Exposure | None],
) -> None:  # fmt: skip
    ats, own, probed = run
    state = motion.foresee([*own, np.concatenate(probed) - clip.start])[-1]
    found = exposures(scene, clip, ats, probed, state, world)
    known.update((_key(scene, clip, at, world), exposed) for at, exposed in zip(ats, found, strict=True))
    moments = [
        np.array([moment - clip.start])
        for exposed in found
        if exposed is not None
        for moment in exposed.moments
    ]
    if moments:
        motion.foresee(moments)


def _begin(motion: LayerMotion) -> dict[Key, Exposure | None]:
    """A fresh run of a layer; those of the layers asked for longest ago are let go."""
    motion.foreseen.clear()
    known: dict[Key, Exposure | None] = {}
    _runs[motion] = known
    _runs.move_to_end(motion)
    if len(_runs) > _LAYERS:
        _runs.popitem(last=False)[0].foreseen.clear()
    return known


def _key(scene: Scene, clip: PictureClip, at: float, world: Floats) -> Key:
    """What an exposure depends on beside the layer's motion."""
    shutter = clip.shutter or scene.shutter
    outward = None if scene.outward is None else scene.outward.tobytes()
    asked = (scene.exposes, shutter.on, shutter.angle, shutter.phase, shutter.samples, scene.samples)
    return at, *asked, world.tobytes(), outward
