"""Made-up shots whose every place is known: a textured thing that moves over another texture."""

from __future__ import annotations

from collections.abc import Callable

import av
import cv2
import numpy as np

SIZE = (320, 240)
COUNT = 48
SIDE = 70
_SHARP = 4
"""Px of the picture are averages of so many squared, so that places between px are true."""


def texture(seed, size, grain):
    """(h, w) float32 from 0 to 255: noise of two grains."""
    chance = np.random.default_rng(seed)
    made = np.zeros(size[::-1], np.float32)
    for step, share in ((grain, 1.0), (grain / 3, 0.6)):
        made += (
            share * cv2.GaussianBlur(chance.normal(0, 1, size[::-1]).astype(np.float32), (0, 0), step) * step
        )
    made -= made.min()
    return made / made.max() * 255


def shot(matrix_of: Callable[[int], np.ndarray], noise=0.0, blur=0.0, light=lambda n: (1.0, 0.0), hidden=(), seed=1,
         slant=lambda n: 0.0, drift=0.0):  # fmt: skip
    """Pictures, (h, w) uint8: the thing under a (3, 3) matrix from its own px, counted from its middle, to px from
    the picture's left top corner; behind a plain board in frames `hidden`, before a ground that drifts so many
    px a frame."""
    width, height = SIZE
    ground = cv2.resize(texture(seed + 50, (width, height), 9), (width * _SHARP, height * _SHARP))
    thing = texture(seed, (SIDE * _SHARP, SIDE * _SHARP), 3 * _SHARP)
    chance = np.random.default_rng(seed + 9)
    pictures = []
    for number in range(COUNT):
        # The centre of px 0 is half a px from the corner that places are counted from.
        up = np.array([[_SHARP, 0, -0.5], [0, _SHARP, -0.5], [0, 0, 1.0]])
        corner = 0.5 / _SHARP - SIDE / 2
        own = np.array([[1 / _SHARP, 0, corner], [0, 1 / _SHARP, corner], [0, 0, 1.0]])
        tip = np.eye(3)
        tip[2, 0] = slant(number)
        matrix = up @ matrix_of(number) @ tip @ own
        big = (width * _SHARP, height * _SHARP)
        laid = cv2.warpPerspective(thing, matrix, big, flags=cv2.INTER_LINEAR)
        mask = cv2.warpPerspective(np.ones_like(thing), matrix, big, flags=cv2.INTER_LINEAR)
        behind = np.roll(ground, round(drift * number * _SHARP), axis=1)
        made = behind * 0.4 * (1 - mask) + laid * mask
        if number in hidden:
            x, y = (matrix_of(number)[:2, 2] * _SHARP).astype(int)
            cv2.rectangle(made, (x - 220, y - 220), (x + 220, y + 220), 90.0, -1)
        made = cv2.resize(made, SIZE, interpolation=cv2.INTER_AREA)
        if blur:
            made = cv2.GaussianBlur(made, (0, 0), blur * (number % 12) / 12 + 0.01)
        gain, bias = light(number)
        made = made * gain + bias + chance.normal(0, noise, made.shape)
        pictures.append(np.clip(np.round(made), 0, 255).astype(np.uint8))
    return pictures


def film_of(path, pictures, rate=25):
    """Write grey pictures, (h, w) uint8, as a video without loss; its path."""
    with av.open(str(path), "w") as container:
        stream = container.add_stream("ffv1", rate=rate)
        stream.height, stream.width = pictures[0].shape
        stream.pix_fmt = "yuv420p"
        for picture in pictures:
            frame = av.VideoFrame.from_ndarray(picture, format="gray").reformat(format="yuv420p")
            container.mux(stream.encode(frame))
        container.mux(stream.encode(None))
    return path
