"""From a project and a frame to the plan of its picture."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
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
    Project,
    Sequence,
    SequenceClip,
    ShapeClip,
    SoundClip,
    StillClip,
    TextClip,
    Track,
    bgra,
)
from rovix.motion.dress import glyph_parts, paint_of, stroke_of
from rovix.motion.joins import Joined, joined_at
from rovix.motion.layer import LayerMotion, LayerState, layer_motion
from rovix.motion.material import material_frame, media_time
from rovix.motion.plan import (
    GlyphsPlan,
    GroundPlan,
    GroupPlan,
    ImagePlan,
    JoinPlan,
    LayerPlan,
    PicturePlan,
    ShapePlan,
)
from rovix.motion.rest import rest_at
from rovix.motion.settle import is_changing, settled_layer
from rovix.motion.subject import block_pivots, ink_middle, scaled_to_fit, shown_size
from rovix.motion.transform import affine, projected, scaled, shifted
from rovix.time import Rate

Floats = NDArray[np.float64]


@dataclass(frozen=True, slots=True, eq=False)
class Scene:
    """What the layers of some tracks are evaluated in.

    `tracks` are those of the sequence or of a group in it. Where the sequence is shown in another,
    `outward` (3, 3) takes px of its own frame to px of the picture, whose size is `frame`.
    """

    size: tuple[int, int]
    rate: Rate
    media: dict[str, Media]
    sequences: dict[str, Sequence]
    tracks: tuple[Track, ...]
    frame: tuple[int, int]
    outward: Floats | None = None

    @classmethod
    def of(cls, project: Project, sequence: Sequence | None = None) -> Scene:
        sequence = sequence or project.sequence
        media = {media.id: media for media in project.media}
        sequences = {other.id: other for other in project.sequences}
        return cls(sequence.size, sequence.frame_rate, media, sequences, sequence.tracks, sequence.size)

    def file_of(self, clip: PictureClip) -> Media | None:
        return self.media.get(getattr(clip, "media", ""))

    def state(self, clip: PictureClip, frames: Floats) -> LayerState:
        """A layer's state at frames of its own clip."""
        hugged = self._hugged(clip)
        if len(frames) > 1 and (is_changing(clip) or (hugged is not None and is_changing(hugged))):
            return LayerState.joined([self.state(clip, frames[n : n + 1]) for n in range(len(frames))])
        return self.motion(clip, float(frames[0])).at(frames)

    def motion(self, clip: PictureClip, frame: float = 0.0) -> LayerMotion:
        """A layer's motion, with its words, look or shape as they are at a frame of it."""
        shown = self.sequences.get(clip.sequence) if isinstance(clip, SequenceClip) else self.file_of(clip)
        hugged = self._hugged(clip)
        if hugged is not None:
            hugged = settled_layer(hugged, _local(hugged, clip.start + frame))
        return layer_motion(clip, self.size, self.rate, shown, hugged, frame)

    def _hugged(self, clip: PictureClip) -> PictureClip | None:
        return self.layer(clip.hug.layer) if isinstance(clip, ShapeClip) and clip.hug else None

    def layer(self, identity: str) -> PictureClip | None:
        """The layer of that id on these tracks."""
        for track in self.tracks:
            for clip in track.clips:
                if clip.id == identity and not isinstance(clip, SoundClip):
                    return clip
        return None

    def project(self, world: Floats) -> Floats:
        """(..., 3, 3): from a flat thing's own px to px of the picture's frame, corner origin."""
        flat = projected(world, self.size)
        return flat if self.outward is None else self.outward @ flat


def picture_plan(project: Project, frame: float, sequence: Sequence | None = None) -> PicturePlan:
    """The plan of the picture at a frame (whole or between) of a sequence, the first by default."""
    sequence = sequence or project.sequence
    layers = _layers(Scene.of(project, sequence), frame, np.eye(4))
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


def world_of(scene: Scene, clip: PictureClip, frame: float) -> Floats:
    """(4, 4): what the layers that a layer hugs or follows do to it at a frame of the tracks.

    Links hold no circle. A hugged layer gives its rest, its moves left out.
    """
    if isinstance(clip, ShapeClip) and clip.hug is not None:
        hugged = scene.layer(clip.hug.layer)
        if hugged is not None:
            local = np.array([_local(hugged, frame)])
            subject = scene.state(hugged, local).subject
            rest = affine(rest_at(hugged.place, local), block_pivots(subject, hugged.place, local))[0]
            return world_of(scene, hugged, frame) @ rest @ shifted(*ink_middle(subject))
    followed = scene.layer(clip.parent) if clip.parent is not None else None
    if followed is None:
        return np.eye(4)
    own = scene.state(followed, np.array([_local(followed, frame)])).layer[0]
    return world_of(scene, followed, frame) @ own


def _local(clip: PictureClip, frame: float) -> float:
    return float(np.clip(frame - clip.start, 0, clip.length - 1))


def _layers(scene: Scene, frame: float, world: Floats) -> tuple[LayerPlan, ...]:
    return tuple(plan for plan in _plans(scene, frame, world) if plan is not None)


def _plans(scene: Scene, frame: float, world: Floats) -> Iterator[LayerPlan | None]:
    for track in scene.tracks:
        if track.kind != "picture" or track.hidden:
            continue
        joined = joined_at(track, scene.rate, frame)
        if joined is not None:
            yield _join(scene, joined, frame, world)
            continue
        for clip in track.clips:
            if frame in clip.span and not isinstance(clip, SoundClip):
                yield _blended(_layer(scene, clip, frame, world), clip.blend)


def _blended(plan: LayerPlan | None, blend: str) -> LayerPlan | None:
    if plan is None or blend == "normal":
        return plan
    assert not isinstance(plan, JoinPlan), "a join is made of layers, it is none"
    return replace(plan, blend=blend)


def _blurred(scene: Scene, plan: LayerPlan | None, state: LayerState) -> LayerPlan | None:
    blur = float(state.rest["blur_across"][0]), float(state.rest["blur_down"][0])
    if plan is None or blur == (0.0, 0.0):
        return plan
    assert not isinstance(plan, JoinPlan), "a join is made of layers, it is none"
    # Shown in another sequence, the px of this one are as large as it is drawn there.
    scale = 1.0 if scene.outward is None else float(np.sqrt(abs(np.linalg.det(scene.outward[:2, :2]))))
    return replace(plan, blur=(blur[0] * scale, blur[1] * scale))


def _join(scene: Scene, joined: Joined, frame: float, world: Floats) -> JoinPlan:
    join = joined.join
    return JoinPlan(
        join.id,
        join.kind,
        joined.share(frame),
        _layer(scene, joined.before, frame, world),
        _layer(scene, joined.after, frame, world),
        scene.size,
        join.angle,
        join.feather,
        bgra(join.colour),
    )


def _layer(scene: Scene, clip: PictureClip, at: float, world: Floats) -> LayerPlan | None:
    """The plan of a layer at a frame of its tracks."""
    frame = at - clip.start
    state = scene.state(clip, np.array([float(frame)]))
    opacity = float(state.rest["opacity"][0])
    if opacity == 0 or not state.opacity().any():
        return None
    matrices = world @ world_of(scene, clip, at) @ state.layer[0] @ state.local[0]
    return _blurred(scene, _sharp(scene, clip, state, frame, matrices, opacity), state)


def _sharp(
    scene: Scene, clip: PictureClip, state: LayerState, frame: float, matrices: Floats, opacity: float
) -> LayerPlan | None:
    """A layer's plan before its blur."""
    if isinstance(state.content, TextClip):
        return _glyphs(state.content, state, scene.project(matrices), opacity)
    opacity *= float(state.opacity()[0, 0])
    if isinstance(clip, GroupClip):
        return _group(scene, clip, frame, matrices[0], opacity)
    if isinstance(clip, SequenceClip):
        return _sequence(scene, clip, frame, matrices[0], opacity)
    return _flat(scene, state.content, state, frame, scene.project(matrices)[0], opacity)


def _flat(
    scene: Scene, clip: PictureClip, state: LayerState, frame: float, matrix: Floats, opacity: float
) -> LayerPlan:
    if isinstance(clip, GroundClip):
        across, down = map(float, scene.size)
        return GroundPlan(clip.id, paint_of(clip.ground), across, down, matrix, opacity)
    if isinstance(clip, ShapeClip):
        return _shape(clip, state, matrix, opacity)
    assert isinstance(clip, FootageClip | StillClip)
    width, height = shown_size(clip, scene.size, scene.file_of(clip))
    time = media_time(scene.rate, clip, frame) if isinstance(clip, FootageClip) else None
    crop = clip.crop if isinstance(clip, StillClip) else "none"
    return ImagePlan(clip.id, clip.media, time, width, height, matrix, crop, opacity)


def _group(scene: Scene, clip: GroupClip, frame: float, matrix: Floats, opacity: float) -> GroupPlan:
    inside = replace(scene, tracks=clip.tracks)
    inner = float(material_frame(clip, Fraction(frame)))
    return GroupPlan(clip.id, _layers(inside, inner, matrix), opacity)


def inner_scene(
    scene: Scene, clip: SequenceClip, frame: float, matrix: Floats
) -> tuple[Scene, int, Floats] | None:
    """The scene of a sequence shown in another, its frame then, and the way (3, 3) from its px out."""
    inner = scene.sequences.get(clip.sequence)
    if inner is None:
        return None
    seconds = scene.rate.seconds(material_frame(clip, Fraction(floor(frame))))
    (across, down), (width, height) = scaled_to_fit(inner.size, scene.size, clip.fit), inner.size
    flat = scene.project(matrix @ scaled(across / width, down / height))
    outward = flat @ np.array([[1.0, 0.0, -width / 2], [0.0, 1.0, -height / 2], [0.0, 0.0, 1.0]])
    made = replace(scene, size=inner.size, rate=inner.frame_rate, tracks=inner.tracks, outward=outward)
    return made, floor(inner.frame_rate.position(seconds)), outward


def _sequence(
    scene: Scene, clip: SequenceClip, frame: float, matrix: Floats, opacity: float
) -> GroupPlan | None:
    found = inner_scene(scene, clip, frame, matrix)
    if found is None:
        return None
    inside, inner, outward = found
    return GroupPlan(clip.id, _layers(inside, inner, np.eye(4)), opacity, inside.size, outward)


def _glyphs(clip: TextClip, state: LayerState, matrices: Floats, opacity: float) -> GlyphsPlan | None:
    subject = state.subject
    if subject.layout is None or subject.of_glyph is None or np.all(np.isnan(subject.ink)):
        return None
    parts = glyph_parts(clip.look, state, matrices)
    if not parts:
        return None
    return GlyphsPlan(clip.id, subject.layout, subject.of_glyph, matrices, state.opacity()[0], parts, opacity)


def _shape(clip: ShapeClip, state: LayerState, matrix: Floats, opacity: float) -> ShapePlan:
    left, top, right, bottom = state.subject.block
    return ShapePlan(
        clip.id,
        clip.form,
        right - left,
        bottom - top,
        clip.radius,
        None if clip.fill is None else paint_of(clip.fill),
        clip.fill_opacity * float(state.pieces["fill_opacity"][0, 0]),
        None if clip.outline is None else stroke_of(clip.outline),
        float(state.pieces["outline_opacity"][0, 0]),
        matrix,
        opacity,
    )
