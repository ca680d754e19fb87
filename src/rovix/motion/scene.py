"""What the layers of some tracks are evaluated in, and what the layers that they are tied to do."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from fractions import Fraction
from math import floor

import numpy as np
from numpy.typing import NDArray

from rovix.model import (
    Media,
    PictureClip,
    Project,
    Sequence,
    SequenceClip,
    ShapeClip,
    Shutter,
    Track,
)
from rovix.model.clip_kinds import holds_tracks, is_layer
from rovix.model.on_track import clip_at, clip_named
from rovix.model.track import NestingClip
from rovix.motion.at_frame import is_changing, layer_at
from rovix.motion.layer import LayerMotion, LayerState, layer_motion
from rovix.motion.material import material_frame
from rovix.motion.subject import block_pivots, fitted_middle, scaled_to_fit
from rovix.motion.transform import affine, projected, scaled, shifted
from rovix.time import Rate

Floats = NDArray[np.float64]
_CLOSED = Shutter()


@dataclass(frozen=True, slots=True, eq=False)
class Scene:
    """What the layers of some tracks are evaluated in.

    `tracks` are those of a sequence of the project `whole`, or of a group in it. Where the sequence is shown
    in another, `outward` (3, 3) takes px of its own frame to px of the picture, whose size is `frame`.
    """

    whole: Project
    size: tuple[int, int]
    rate: Rate
    media: dict[str, Media]
    sequences: dict[str, Sequence]
    tracks: tuple[Track, ...]
    frame: tuple[int, int]
    outward: Floats | None = None
    shutter: Shutter = _CLOSED
    exposes: bool = True
    """Whether the shutter counts: not while one exposure is made of moments, nor where it is left out."""
    samples: int | None = None
    """At most so many moments make an exposure, whatever the shutter says."""
    run: int = 1
    """So many frames, from this one on and `step` apart, are likely to be asked for in a row."""
    step: int = 1
    by_depth: bool = False
    """Whether layers lie over each other by their depth."""
    mattes: tuple[str, ...] = ()
    """Layers that are planned only to show others where they are, from the outermost in."""
    worlds: dict[tuple[int, float], Floats] = field(default_factory=dict)
    states: dict[tuple[int, float], LayerState] = field(default_factory=dict)
    """What :func:`world_of` and :meth:`state` have found, by the clip's identity and the frame: layers that
    follow each other ask again and again."""

    @classmethod
    def of(cls, project: Project, sequence: Sequence | None = None) -> Scene:
        sequence = sequence or project.sequence
        media = {media.id: media for media in project.media}
        sequences = {other.id: other for other in project.sequences}
        size, rate = sequence.size, sequence.frame_rate
        return cls(
            project, size, rate, media, sequences, sequence.tracks, size, shutter=sequence.shutter,
            by_depth=sequence.by_depth,
        )  # fmt: skip

    @property
    def scale(self) -> float:
        """How many px of the picture a px of this scene's frame is."""
        out = self.outward
        return 1.0 if out is None else float(np.sqrt(abs(np.linalg.det(out[:2, :2]))))

    def file_of(self, clip: PictureClip) -> Media | None:
        return self.media.get(getattr(clip, "media", ""))

    def state(self, clip: PictureClip, frames: Floats) -> LayerState:
        """A layer's state at frames of its own clip. Not to be written to."""
        if len(frames) == 1:
            key = (id(clip), float(frames[0]))
            found = self.states.get(key)
            if found is None:
                found = self.states[key] = self.motion(clip, key[1]).at(frames)
            return found
        if self.changes(clip):
            return LayerState.joined([self.state(clip, frames[n : n + 1]) for n in range(len(frames))])
        return self.motion(clip, float(frames[0])).at(frames)

    def prepare(self, clip: PictureClip, frames: Iterable[float]) -> None:
        """Evaluate a layer and those it follows at frames of its own clip, all of them at once, for
        :meth:`state` to give one by one."""
        if self.changes(clip):
            return
        motion = self.motion(clip)
        asked = [
            frame for frame in frames
            if (id(clip), frame) not in self.states and not motion.is_foreseen(np.array([frame]))
        ]  # fmt: skip
        if len(asked) < 2:
            return
        whole = motion.at(np.array(asked))
        for number, frame in enumerate(asked):
            self.states[id(clip), frame] = whole.part(slice(number, number + 1))
        followed = self.layer(clip.parent) if clip.parent is not None else None
        if followed is not None:
            self.prepare(followed, dict.fromkeys(local_frame(followed, clip.start + f) for f in asked))

    def changes(self, clip: PictureClip) -> bool:
        """Whether a layer's words, look or shape change, so that each moment is laid out by itself."""
        fitted = self._fitted(clip)
        return is_changing(clip) or (fitted is not None and is_changing(fitted))

    def motion(self, clip: PictureClip, frame: float = 0.0) -> LayerMotion:
        """A layer's motion, with its words, look or shape as they are at a frame of it."""
        shown = self.sequences.get(clip.sequence) if isinstance(clip, SequenceClip) else self.file_of(clip)
        fitted = self._fitted(clip)
        if fitted is not None:
            fitted = layer_at(fitted, local_frame(fitted, clip.start + frame))
        return layer_motion(clip, self.size, self.rate, shown, fitted, frame)

    def _fitted(self, clip: PictureClip) -> PictureClip | None:
        return self.layer(clip.fits.layer) if isinstance(clip, ShapeClip) and clip.fits else None

    def layer(self, identity: str) -> PictureClip | None:
        """The layer of that id on these tracks."""
        clip = clip_named(self.tracks, identity)
        return clip if is_layer(clip) else None

    def project(self, world: Floats) -> Floats:
        """(..., 3, 3): from a flat thing's own px to px of the picture's frame, corner origin."""
        flat = projected(world, self.size)
        return flat if self.outward is None else self.outward @ flat


def clips_at(tracks: tuple[Track, ...], frame: float) -> list[PictureClip]:
    """The layers on visible picture tracks at a frame, from the lowest up."""
    visible = (track for track in tracks if track.kind == "picture" and not track.hidden)
    found = (clip_at(track, frame) for track in visible)
    return [clip for clip in found if is_layer(clip)]


def world_of(scene: Scene, clip: PictureClip, frame: float) -> Floats:
    """(4, 4): what the layers that a layer fits or follows do to it at a frame of the tracks.

    Links hold no circle. A fitted layer gives its rest, its moves left out. Not to be written to.
    """
    key = (id(clip), frame)
    found = scene.worlds.get(key)
    if found is None:
        found = scene.worlds[key] = _world_of(scene, clip, frame)
    return found


def _world_of(scene: Scene, clip: PictureClip, frame: float) -> Floats:
    if isinstance(clip, ShapeClip) and clip.fits is not None:
        fitted = scene.layer(clip.fits.layer)
        if fitted is not None:
            local = np.array([local_frame(fitted, frame)])
            motion = scene.motion(fitted, float(local[0]))
            turning = block_pivots(motion.subject, fitted.transform, local)
            rest, subject = affine(motion.rest(local), turning)[0], motion.subject
            own = layer_at(clip, local_frame(clip, frame))
            assert own.fits is not None
            middle = fitted_middle(layer_at(fitted, float(local[0])), subject, own.fits, own.height)
            return world_of(scene, fitted, frame) @ rest @ shifted(*middle)
    followed = scene.layer(clip.parent) if clip.parent is not None else None
    if followed is None:
        return np.eye(4)
    own = scene.state(followed, np.array([local_frame(followed, frame)])).layer[0]
    return world_of(scene, followed, frame) @ own


def local_frame(clip: PictureClip, frame: float) -> float:
    """A frame of the tracks as one of the clip, kept inside it."""
    return float(min(max(frame - clip.start, 0), clip.length - 1))


@dataclass(frozen=True, slots=True, eq=False)
class Nested:
    """What a clip shows of layers of its own: their scene, its frame then, the matrix (4, 4) that they
    stand in, and the way (3, 3) out of their frame where they are cut to it."""

    scene: Scene
    frame: float
    world: Floats
    outward: Floats | None = None


def nested(scene: Scene, clip: NestingClip, frame: float, matrix: Floats) -> Nested | None:
    """What a clip shows at a frame of its own under a matrix (4, 4); None where what it names is gone."""
    if holds_tracks(clip):
        inner = float(material_frame(clip, Fraction(frame)))
        return Nested(replace(scene, tracks=clip.tracks), inner, matrix)
    return _sequence(scene, clip, frame, matrix)


def _sequence(scene: Scene, clip: SequenceClip, frame: float, matrix: Floats) -> Nested | None:
    inner = scene.sequences.get(clip.sequence)
    if inner is None:
        return None
    seconds = scene.rate.seconds(material_frame(clip, Fraction(floor(frame))))
    (across, down), (width, height) = scaled_to_fit(inner.size, scene.size, clip.fit), inner.size
    flat = scene.project(matrix @ scaled(across / width, down / height))
    outward = flat @ np.array([[1.0, 0.0, -width / 2], [0.0, 1.0, -height / 2], [0.0, 0.0, 1.0]])
    made = replace(
        scene, size=inner.size, rate=inner.frame_rate, tracks=inner.tracks, outward=outward,
        shutter=inner.shutter, by_depth=inner.by_depth,
    )  # fmt: skip
    return Nested(made, floor(inner.frame_rate.position(seconds)), np.eye(4), outward)
