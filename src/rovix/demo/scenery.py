"""Sky, clouds and a hill, painted from formulas and seeds."""

from __future__ import annotations

from dataclasses import dataclass
from math import pi

import cv2
import numpy as np
from numpy.typing import NDArray

from rovix.paint.noise import white_noise

SIZE = (1920, 1080)
Pixels = NDArray[np.uint8]
Picture = NDArray[np.float32]


@dataclass(frozen=True, slots=True)
class Light:
    """The colours of a time of day, BGR 0..255, and the height of the horizon as a share."""

    zenith: tuple[int, int, int]
    haze: tuple[int, int, int]
    far: tuple[int, int, int]
    near: tuple[int, int, int]
    horizon: float


MORNING = Light((196, 150, 98), (222, 222, 204), (128, 150, 112), (62, 118, 78), 0.66)
AFTERNOON = Light((186, 126, 70), (196, 214, 222), (112, 138, 108), (54, 106, 88), 0.80)


class Scenery:
    """A still sky and hill with clouds that drift over them."""

    def __init__(self, light: Light, seed: int) -> None:
        self._sky = _sky(light, seed)
        self._clouds = _clouds(seed)
        self._hill, self._cover = _hills(light, seed)

    def at(self, seconds: float) -> Pixels:
        """Opaque BGRA of the scene without kites."""
        shift = -30.0 * seconds
        cloud = cv2.warpAffine(
            self._clouds, np.array([[1.0, 0.0, shift], [0.0, 1.0, 0.0]]), SIZE, borderMode=cv2.BORDER_WRAP
        )
        picture = self._sky + (np.array([244, 248, 250], np.float32) - self._sky) * cloud[..., None]
        picture += (self._hill - picture) * self._cover[..., None]
        pixels = np.full((SIZE[1], SIZE[0], 4), 255, dtype=np.uint8)
        pixels[..., :3] = np.clip(np.rint(picture), 0, 255)
        return pixels


def _sky(light: Light, seed: int) -> Picture:
    height = np.linspace(0.0, 1.0, SIZE[1], dtype=np.float32)[:, None, None]
    share = np.clip(height / light.horizon, 0, 1) ** 1.3
    colour = np.array(light.zenith, np.float32) * (1 - share) + np.array(light.haze, np.float32) * share
    # A still grain of less than one step keeps the gradient free of bands.
    return colour + 0.6 * white_noise(seed, SIZE)[..., None]


def _clouds(seed: int) -> Picture:
    """Cover 0..1 of a strip of sky that joins its own left edge."""
    cover = np.zeros((SIZE[1], SIZE[0]), dtype=np.float32)
    for octave, (step, weight) in enumerate(((320, 1.0), (160, 0.5), (80, 0.25), (40, 0.12))):
        across, down = SIZE[0] // step, max(2, SIZE[1] * 2 // step)
        noise = white_noise(seed + octave, (across, down))
        wide = cv2.resize(np.hstack([noise] * 3), (SIZE[0] * 3, SIZE[1]), interpolation=cv2.INTER_CUBIC)
        cover += weight * wide[:, SIZE[0] : 2 * SIZE[0]]
    height = np.linspace(0.0, 1.0, SIZE[1], dtype=np.float32)[:, None]
    band = np.exp(-(((height - 0.26) / 0.2) ** 2))
    return cv2.GaussianBlur(np.clip((cover - 0.25) * 1.4, 0, 0.9) * band, (0, 0), 5)


def _hills(light: Light, seed: int) -> tuple[Picture, Picture]:
    across = np.linspace(0.0, 1.0, SIZE[0], dtype=np.float32)
    down = np.linspace(0.0, 1.0, SIZE[1], dtype=np.float32)[:, None]
    far = light.horizon - 0.035 * np.sin(across * pi * 2.3 + 0.6) - 0.02 * np.sin(across * pi * 5.1)
    near = light.horizon + 0.16 - 0.10 * np.sin(across * pi * 0.9 + 0.35)
    soft = 1.2 / SIZE[1]
    far_cover = np.clip((down - far) / soft, 0, 1)
    near_cover = np.clip((down - near) / soft, 0, 1)
    blades = cv2.GaussianBlur(white_noise(seed + 9, SIZE), (0, 0), sigmaX=1.2, sigmaY=5)
    far_colour = np.array(light.far, np.float32) * (1.06 - 0.25 * (down - light.horizon))[..., None]
    near_colour = np.array(light.near, np.float32) * (1.1 - 0.45 * (down - light.horizon))[..., None]
    near_colour = near_colour + 26 * blades[..., None]
    hill = far_colour + (near_colour - far_colour) * near_cover[..., None]
    return hill.astype(np.float32), np.maximum(far_cover, near_cover).astype(np.float32)
