"""From a project and a frame to the plan of its picture."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from math import floor

import numpy as np
from numpy.typing import NDArray

from rovix.model import (
    FootageClip,
    GroundClip,
    GroupClip,
    Media,
    PictureClip,
    Plain,
    Project,
    Sequence,
    SoundClip,
    StillClip,
    TextClip,
    Track,
    bgra,
)
from rovix.motion.layer import LayerState, layer_motion
from rovix.motion.plan import GlyphsPlan, GroundPlan, GroupPlan, ImagePlan, LayerPlan, PicturePlan, Stroke
from rovix.motion.subject import shown_size
from rovix.motion.transform import projected
from rovix.time import Rate

Floats = NDArray[np.float64]


@dataclass(frozen=True, slots=True, eq=False)
class Scene:
    """What every layer of a sequence is evaluated in."""

    size: tuple[int, int]
    rate: Rate
    media: dict[str, Media]

    @classmethod
    def of(cls, project: Project, sequence: Sequence | None = None) -> Scene:
        sequence = sequence or project.sequence
        return cls(sequence.size, sequence.frame_rate, {media.id: media for media in project.media})

    def file_of(self, clip: PictureClip) -> Media | None:
        return self.media.get(getattr(clip, "media", ""))

    def state(self, clip: PictureClip, frames: Floats) -> LayerState:
        """A layer's state at frames of its own clip."""
        return layer_motion(clip, self.size, self.rate, self.file_of(clip)).at(frames)


def picture_plan(project: Project, frame: float, sequence: Sequence | None = None) -> PicturePlan:
    """The plan of the picture at a frame (whole or between) of a sequence, the first by default."""
    sequence = sequence or project.sequence
    scene = Scene.of(project, sequence)
    layers = _layers(scene, sequence.tracks, frame, np.eye(4))
    return PicturePlan(sequence.size, bgra(sequence.ground), layers)


def clips_at(tracks: tuple[Track, ...], frame: float) -> list[PictureClip]:
    """The layers on visible picture tracks at a frame, from the lowest up."""
    return [
        clip
        for track in tracks
        if track.kind == "picture" and not track.hidden
        for clip in track.clips
        if frame in clip.span and not isinstance(clip, SoundClip)
    ]


def world_of(scene: Scene, tracks: tuple[Track, ...], clip: PictureClip, frame: float) -> Floats:
    """(4, 4): what the layer's parents do to it at a frame of the tracks; links hold no circle."""
    if clip.parent is None:
        return np.eye(4)
    for track in tracks:
        for other in track.clips:
            if other.id == clip.parent and not isinstance(other, SoundClip):
                local = np.clip(frame - other.start, 0, other.length - 1)
                own = scene.state(other, np.array([local])).layer[0]
                return world_of(scene, tracks, other, frame) @ own
    return np.eye(4)


def _layers(scene: Scene, tracks: tuple[Track, ...], frame: float, world: Floats) -> tuple[LayerPlan, ...]:
    plans = []
    for clip in clips_at(tracks, frame):
        outer = world @ world_of(scene, tracks, clip, frame)
        plans.append(_layer(scene, clip, frame - clip.start, outer))
    return tuple(plan for plan in plans if plan is not None)


def _layer(scene: Scene, clip: PictureClip, frame: float, world: Floats) -> LayerPlan | None:
    state = scene.state(clip, np.array([float(frame)]))
    opacity = float(state.rest["opacity"][0])
    if opacity == 0 or not state.opacity().any():
        return None
    matrices = world @ state.layer[0] @ state.local[0]
    if isinstance(clip, TextClip):
        return _glyphs(scene, clip, state, projected(matrices, scene.size), opacity)
    opacity *= float(state.opacity()[0, 0])
    if isinstance(clip, GroupClip):
        return GroupPlan(clip.id, _layers(scene, clip.tracks, frame, matrices[0]), opacity)
    matrix = projected(matrices, scene.size)[0]
    if isinstance(clip, GroundClip):
        ground = clip.ground
        fill = bgra(ground.colour) if isinstance(ground, Plain) else ground
        return GroundPlan(clip.id, fill, matrix, opacity)
    return _image(scene, clip, frame, matrix, opacity)


def _glyphs(
    scene: Scene, clip: TextClip, state: LayerState, matrices: Floats, opacity: float
) -> GlyphsPlan | None:
    subject = state.subject
    if subject.layout is None or subject.of_glyph is None or np.all(np.isnan(subject.ink)):
        return None
    strokes = tuple(
        Stroke(outline.width, bgra(outline.colour), outline.opacity, outline.side, outline.join)
        for outline in clip.look.outlines
    )
    return GlyphsPlan(
        clip.id,
        subject.layout,
        subject.of_glyph,
        matrices,
        state.opacity()[0],
        state.pieces["fill_opacity"][0] * clip.look.fill_opacity,
        state.pieces["outline_opacity"][0],
        bgra(clip.look.fill),
        strokes,
        opacity,
    )


def _image(
    scene: Scene, clip: FootageClip | StillClip, frame: float, matrix: Floats, opacity: float
) -> ImagePlan:
    media = scene.file_of(clip)
    width, height = shown_size(clip, scene.size, media)
    time = media_time(scene.rate, clip, frame) if isinstance(clip, FootageClip) else None
    crop = clip.crop if isinstance(clip, StillClip) else "none"
    return ImagePlan(clip.id, clip.media, time, width, height, matrix, crop, opacity)


def media_time(rate: Rate, clip: FootageClip, frame: float) -> Fraction:
    """Seconds into the file at a frame of the clip; footage holds through a whole frame."""
    return rate.seconds(clip.offset + floor(frame))
