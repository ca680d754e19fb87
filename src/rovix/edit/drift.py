"""A slow change through the stay, so that the middle is not dead."""

from __future__ import annotations

from rovix.edit.transform import layer_transform
from rovix.edit.tree import replace, replace_clip
from rovix.errors import RovixError
from rovix.model import Clip, Key, Keys, Project
from rovix.model.clip_kinds import is_layer
from rovix.motion import clip_spans


def drift(project: Project, identity: str, growth: float) -> Project:
    """Let a layer grow evenly by a share of its size (0.04: 4 %) from where it lands to where it leaves.

    RovixError where its scale is animated already, or it does not stay for two frames.
    """
    rate = project.sequence.frame_rate

    def change(clip: Clip) -> Clip:
        place = layer_transform(clip)
        assert is_layer(clip)
        spans = clip_spans(clip, rate)
        first, last = spans.entrance, clip.length - 1 - spans.exit
        scales = {name: getattr(place, name) for name in ("scale_x", "scale_y")}
        if any(isinstance(scale, Keys) for scale in scales.values()):
            raise RovixError("Its scale has keys already; take them away first, or change them by hand.")
        if last - first < 1:
            raise RovixError(
                "It does not stay long enough to drift: make the clip longer or its moves shorter."
            )
        ends = {name: ((first, scale), (last, scale * (1 + growth))) for name, scale in scales.items()}
        made = {n: Keys(keys=tuple(Key(frame=f, value=v) for f, v in pair)) for n, pair in ends.items()}
        return replace(clip, transform=replace(place, **made))

    return replace_clip(project, identity, change)
