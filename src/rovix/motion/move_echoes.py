"""The moments of a layer that trail it while a move asks for echoes."""

from __future__ import annotations

from rovix.model import Echoes, PictureClip
from rovix.motion.scene import Scene


def echo_times(scene: Scene, clip: PictureClip, echoes: Echoes, at: float) -> list[float]:
    """The frames of the tracks that the copies at a frame are of, the nearest first; none before the clip."""
    gap = float(scene.rate.position(echoes.gap))
    times = [at - number * gap for number in range(1, echoes.copies + 1)]
    return [time for time in times if time >= clip.start - 1e-9]
