"""Footage as it is shown: which frames of its file, and where in the picture."""

from __future__ import annotations

from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from rovix.desktop.document import Document
from rovix.edit.tree import clip_of
from rovix.model import FootageClip, Media, Project
from rovix.model.fields import is_animated
from rovix.motion import Scene
from rovix.motion.at_frame import is_changing
from rovix.motion.scene import clips_at
from rovix.motion.seen import file_frames, footage_matrix

Floats = NDArray[np.float64]


class FootageShown:
    """A footage clip of a project's open tracks; paths count from `base`."""

    def __init__(self, project: Project, base: Path, footage: str) -> None:
        clip = clip_of(project, footage)
        assert isinstance(clip, FootageClip)
        self.clip, self.scene = clip, Scene.of(project)
        self.media: Media = self.scene.media[clip.media]
        self.path = base / self.media.path
        self.files: list[int] = file_frames(self.scene, clip, self.media).tolist()
        """The frame of the file that each frame of the clip shows."""
        tied = clip.parent is not None or clip.crossing is not None
        self._moves = tied or is_animated(clip.transform) or is_changing(clip)
        self._matrices: dict[int, Floats] = {}

    def matrix(self, frame: int) -> Floats:
        """(3, 3): from px of the file to px of the picture at a frame of the clip."""
        # Most footage stands still; thousands of frames then ask for the same.
        at = frame if self._moves else 0
        if at not in self._matrices:
            self._matrices[at] = footage_matrix(self.scene, self.clip, self.media, at)
        return self._matrices[at]

    def back(self, frame: int) -> Floats | None:
        """(3, 3): from px of the picture to px of the file; None where the footage is edge on."""
        try:
            return np.asarray(np.linalg.inv(self.matrix(frame)), dtype=np.float64)
        except np.linalg.LinAlgError:
            return None


def footage_here(document: Document) -> FootageClip | None:
    """The footage that is seen at the playhead: the selected one, else the highest."""
    own = document.clip
    if isinstance(own, FootageClip) and document.playhead in own.span:
        return own
    shown = clips_at(document.project.sequence.tracks, document.playhead)
    return next((clip for clip in reversed(shown) if isinstance(clip, FootageClip)), None)
