"""Footage as it is shown: which frames of its file, and where in the picture."""

from __future__ import annotations

from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from rovix.desktop.document import Document
from rovix.edit.tree import clip_of
from rovix.model import FootageClip, Media, Project
from rovix.model.on_track import clip_at
from rovix.motion import Scene
from rovix.motion.seen import file_frame, footage_matrix

Floats = NDArray[np.float64]


class FootageShown:
    """A footage clip of a project's open tracks; paths count from `base`."""

    def __init__(self, project: Project, base: Path, footage: str) -> None:
        clip = clip_of(project, footage)
        assert isinstance(clip, FootageClip)
        self.clip, self.scene = clip, Scene.of(project)
        self.media: Media = self.scene.media[clip.media]
        self.path = base / self.media.path
        self.files = [file_frame(self.scene, clip, self.media, n) for n in range(clip.length)]
        """The frame of the file that each frame of the clip shows."""

    def matrix(self, frame: int) -> Floats:
        """(3, 3): from px of the file to px of the picture at a frame of the clip."""
        return footage_matrix(self.scene, self.clip, self.media, frame)

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
    tracks = document.project.sequence.tracks
    shown = (track for track in reversed(tracks) if track.kind == "picture" and not track.hidden)
    found = (clip_at(track, document.playhead) for track in shown)
    return next((clip for clip in found if isinstance(clip, FootageClip)), None)
