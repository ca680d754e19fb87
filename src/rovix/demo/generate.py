"""`make assets`: draws the demo's footage, logo and sounds, and writes its project.

Everything comes from formulas and seeds, so the same program makes the same pictures again.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from fractions import Fraction
from math import cos, pi, sin
from pathlib import Path

import av
import numpy as np
import skia
from av import AudioFrame
from av.video.reformatter import VideoReformatter
from numpy.typing import NDArray

from rovix.demo import DATA, DEMO_PROJECT, sounds
from rovix.demo.kites import CROSSING_KITES, MORNING_KITES, Kite, draw_kite
from rovix.demo.scenery import AFTERNOON, MORNING, SIZE, Scenery
from rovix.demo.story import demo_project
from rovix.formats import write_project
from rovix.media.encoders.container import as_coded, video_stream
from rovix.media.encoders.mp4 import H264
from rovix.media.samples import SAMPLE_RATE
from rovix.media.stills import write_png
from rovix.paint.canvas import Canvas
from rovix.time import Rate

RATE = Rate(30)
Pixels = NDArray[np.uint8]


def main() -> None:
    """Write all assets, then the project that uses them."""
    DATA.mkdir(exist_ok=True)
    write_footage(DATA / "hill-morning.mp4", scene_pictures(Scenery(MORNING, 3), MORNING_KITES, 270))
    write_footage(DATA / "kite-crossing.mp4", scene_pictures(Scenery(AFTERNOON, 21), CROSSING_KITES, 240))
    write_png(DATA / "logo.png", logo())
    for name, samples in (
        ("wind-bed", sounds.wind_bed()),
        ("whoosh", sounds.whoosh()),
        ("key-tap", sounds.key_tap()),
        ("thump", sounds.thump()),
    ):
        write_sound(DATA / f"{name}.flac", samples)
    write_project(DEMO_PROJECT, demo_project(DATA))


def scene_pictures(scenery: Scenery, kites: tuple[Kite, ...], count: int) -> Iterator[Pixels]:
    """The pictures of a clip, one after the other."""
    for frame in range(count):
        seconds = float(RATE.seconds(frame))
        canvas = Canvas(*SIZE)
        canvas.replace_pixels(scenery.at(seconds), 0, 0)
        for kite in kites:
            draw_kite(canvas, kite, seconds)
        yield canvas.pixels


def write_footage(path: Path, pictures: Iterator[Pixels]) -> None:
    """Encode small: key pictures twice a second, so that scrubbing stays quick."""
    options = {"crf": "24", "preset": "slow", "g": "15", "threads": "1"}
    with av.open(str(path), "w", format="mp4", options={"movflags": "+faststart"}) as container:
        stream = video_stream(container, SIZE, RATE, replace(H264, options=options))
        reformatter = VideoReformatter()
        for number, pixels in enumerate(pictures):
            frame = as_coded(pixels, H264.pixels, reformatter)
            frame.pts, frame.time_base = number, 1 / RATE.fraction
            container.mux(stream.encode(frame))
        container.mux(stream.encode(None))


def write_sound(path: Path, samples: NDArray[np.float64]) -> None:
    """16-bit mono FLAC."""
    whole = np.rint(np.clip(samples, -1, 1) * 32767).astype(np.int16)
    with av.open(str(path), "w", format="flac") as container:
        stream = container.add_stream("flac", rate=SAMPLE_RATE, layout="mono")
        stream.codec_context.format = "s16"
        frame = AudioFrame.from_ndarray(whole[None], format="s16", layout="mono")
        frame.sample_rate, frame.pts, frame.time_base = SAMPLE_RATE, 0, Fraction(1, SAMPLE_RATE)
        resampler = av.AudioResampler(format="s16", layout="mono", rate=SAMPLE_RATE, frame_size=4096)
        for part in [*resampler.resample(frame), *resampler.resample(None)]:
            container.mux(stream.encode(part))
        container.mux(stream.encode(None))


def logo(side: int = 640) -> Pixels:
    """A round logo: a kite over two hills, in a ring; clear outside."""
    canvas = Canvas(side, side)
    middle = side / 2
    for radius, colour in (
        (0.5, (46, 44, 196, 255)),
        (0.455, (234, 248, 255, 255)),
        (0.43, (214, 190, 140, 255)),
    ):
        canvas.draw_path(_circle(middle, radius * side), np.eye(3), colour)
    for height, colour in ((0.60, (120, 152, 110, 255)), (0.70, (72, 118, 78, 255))):
        with canvas.clipped(np.eye(3), inside=[_circle(middle, 0.43 * side)], outside=[]):
            canvas.draw_path(_hill(side, height), np.eye(3), colour)
    kite = Kite(
        ((62, 178, 240, 255), (46, 44, 196, 255)),
        side * 0.36,
        (middle, side * 0.36),
        (0, 0),
        (0, 0),
        1,
        0.6,
        (side * 0.42, side * 0.76),
    )
    draw_kite(canvas, kite, 0.0)
    return canvas.pixels


def _circle(middle: float, radius: float) -> skia.Path:
    path = skia.Path()
    path.addCircle(middle, middle, radius)
    return path


def _hill(side: int, height: float) -> skia.Path:
    path = skia.Path()
    path.moveTo(0, side)
    for step in range(65):
        across = step / 64
        path.lineTo(
            across * side, side * (height - 0.05 * sin(across * pi * 2 + height * 9) - 0.01 * cos(across * 7))
        )
    path.lineTo(side, side)
    path.close()
    return path


if __name__ == "__main__":
    main()
