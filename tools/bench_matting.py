"""Cutting out's part of `make bench`: time per picture for a thing in 1080p, as the window has it done.

The shots are made up: a textured thing that moves and turns over a texture like its own, which drifts, with
noise and blur, coded as H.264. The work goes on in a process of its own that gives way to others.
"""

from __future__ import annotations

import statistics
import tempfile
import time
from math import cos, sin, sqrt
from pathlib import Path

import av
import cv2
import numpy as np
from measured import measured
from numpy.typing import NDArray

from rovix.engine.long_job import LongJob
from rovix.engine.matting import Subject

SIZE = (1920, 1080)
PICTURES = 40
SHARES = {"a tenth": (0.1, 1000 / 6), "a quarter": (0.25, 1000 / 3)}
"""Of the frame that the thing fills, and the most ms that a picture may take."""
RUNS = 3


def main() -> None:
    print("\ncutting a thing out of 1080p")
    with tempfile.TemporaryDirectory() as folder:
        for name, (share, limit) in SHARES.items():
            side = round(sqrt(share * SIZE[0] * SIZE[1]))
            film = Path(folder) / f"{name}.mp4"
            _write(film, side)
            times = [_per_picture(film, side, Path(folder) / "out.mkv") for _ in range(RUNS)]
            measured(f"cutting out {name} of the frame, a picture", statistics.median(times), "ms", limit)


def _texture(seed: int, size: tuple[int, int], grain: float) -> NDArray[np.float32]:
    """(h, w) of 0 to 255: noise of one grain."""
    noise = np.random.default_rng(seed).normal(0, 1, size[::-1]).astype(np.float32)
    made = cv2.GaussianBlur(noise, (0, 0), grain)
    return np.asarray((made - made.min()) / (made.max() - made.min()) * 255, dtype=np.float32)


def _write(path: Path, side: int) -> None:
    ground, thing = _texture(1, (SIZE[0] + 200, SIZE[1]), 12.0), _texture(2, (side, side), 9.0)
    chance = np.random.default_rng(3)
    with av.open(str(path), "w") as out:
        stream = out.add_stream("libx264", rate=25, options={"crf": "18", "preset": "veryfast"})
        stream.width, stream.height, stream.pix_fmt = *SIZE, "yuv420p"
        for number in range(PICTURES):
            grey = _picture(ground[:, number * 2 : number * 2 + SIZE[0]], thing, number)
            grey = np.clip(cv2.GaussianBlur(grey, (0, 0), 1.2) + chance.normal(0, 3, grey.shape), 0, 255)
            # Another colour as well as another texture, as things in pictures have.
            colours = np.stack([grey, grey * 0.9 + 10, grey * 0.8 + 20], axis=2)
            frame = av.VideoFrame.from_ndarray(colours.astype(np.uint8), format="rgb24")
            out.mux(stream.encode(frame))
        out.mux(stream.encode(None))


def _picture(ground: NDArray[np.float32], thing: NDArray[np.float32], number: int) -> NDArray[np.float32]:
    side, turn = len(thing), 0.01 * number
    middle = np.array([SIZE[0] / 2 + 60 * sin(number / 9) - 40, SIZE[1] / 2 + 20 * cos(number / 7) - 20])
    turned = np.array([[cos(turn), -sin(turn)], [sin(turn), cos(turn)]])
    matrix = np.column_stack([turned, middle - turned @ np.full(2, side / 2)])
    laid = cv2.warpAffine(thing * 0.7 + 75, matrix, SIZE)
    mask = cv2.warpAffine(_disc(side), matrix, SIZE)
    return np.asarray(ground * 0.6 * (1 - mask) + laid * mask, dtype=np.float32)


def _disc(side: int) -> NDArray[np.float32]:
    """A square with round corners, which fills nearly all of its box."""
    made = np.zeros((side, side), np.float32)
    edge = side // 6
    cv2.rectangle(made, (edge, edge), (side - edge, side - edge), 1.0, edge * 2)
    cv2.rectangle(made, (edge, edge), (side - edge, side - edge), 1.0, -1)
    return cv2.GaussianBlur(made, (0, 0), 1.5)


def _per_picture(film: Path, side: int, out: Path) -> float:
    """ms for one picture, all told: decoding, finding, coding, and starting the process."""
    box = ((SIZE[0] - side) // 2 - 50, (SIZE[1] - side) // 2 - 10, side + 20, side + 20)
    out.unlink(missing_ok=True)
    start = time.perf_counter()
    job = LongJob("rovix.engine.matting:write_cut_out", film, Subject(0, box), out)
    while not job.look():
        time.sleep(0.02)
    took = time.perf_counter() - start
    refused = job.refused
    job.close()
    if refused or not out.exists():
        raise SystemExit(f"It was not cut out: {refused}")
    return took / PICTURES * 1000


if __name__ == "__main__":
    main()
