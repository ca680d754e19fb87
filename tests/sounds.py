"""Whole sounds, for tests of short ones."""

from __future__ import annotations

from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from rovix.media.sound import SoundFile


def read_sound(path: Path) -> NDArray[np.float32]:
    """(n, 2) float32 at 48 kHz, full scale 1, as a whole."""
    file = SoundFile(path)
    try:
        return file.read(0, len(file))
    finally:
        file.close()
