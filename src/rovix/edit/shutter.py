"""Motion blur of the sequence, and of layers that have their own."""

from __future__ import annotations

from typing import Any

from rovix.edit.transform import layer_transform
from rovix.edit.tree import replace, replace_clip, with_sequence
from rovix.model import Clip, Project, Shutter


def change_shutter(project: Project, **changes: Any) -> Project:
    """Change the sequence's shutter: on, angle, phase, samples."""
    sequence = project.sequence
    return with_sequence(project, replace(sequence, shutter=replace(sequence.shutter, **changes)))


def blur_while_editing(project: Project, blurs: bool) -> Project:
    """Whether motion blur is drawn while editing; an export has it in any case."""
    return with_sequence(project, replace(project.sequence, blur_while_editing=blurs))


def set_layer_blur(project: Project, identity: str, choice: str) -> Project:
    """Blur a layer's motion as the `sequence` does, always (`on`) or never (`off`)."""
    own = replace(project.sequence.shutter, on=choice == "on") if choice != "sequence" else None

    def change(clip: Clip) -> Clip:
        layer_transform(clip)
        before = getattr(clip, "shutter", None)
        kept = replace(before, on=choice == "on") if before is not None and own is not None else own
        return replace(clip, shutter=kept)

    return replace_clip(project, identity, change)


def change_layer_shutter(project: Project, identity: str, **changes: Any) -> Project:
    """Change a layer's own shutter, which it gets if it has none: angle, phase, samples."""
    start = replace(project.sequence.shutter, on=True)

    def change(clip: Clip) -> Clip:
        layer_transform(clip)
        own: Shutter = getattr(clip, "shutter", None) or start
        return replace(clip, shutter=replace(own, **changes))

    return replace_clip(project, identity, change)
