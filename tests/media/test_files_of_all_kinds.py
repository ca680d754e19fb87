"""Files as phones, cameras and other programs make them; and files that are not what they say."""

import struct
from fractions import Fraction

import av
import colour
import numpy as np
import pytest
from PIL import Image

from made_files import hostile_files, plain, video
from rovix.errors import RovixError
from rovix.media.library import MediaLibrary
from rovix.media.probe import probe
from rovix.media.stills import read_still, straight
from rovix.media.video import VideoReader
from rovix.model import Project
from sounds import read_sound


def quarters(width=64, height=48):
    """Red left top, green right top, blue left bottom, white right bottom."""
    picture = np.zeros((height, width, 3), dtype=np.uint8)
    middle, half = height // 2, width // 2
    picture[:middle, :half] = (255, 0, 0)
    picture[:middle, half:] = (0, 255, 0)
    picture[middle:, :half] = (0, 0, 255)
    picture[middle:, half:] = (255, 255, 255)
    return picture


def turned_by_header(path, clockwise):
    """Set the display matrix of a video's track header (ISO/IEC 14496-12, 8.3.2), as phones do."""
    content = bytearray(path.read_bytes())
    at = content.index(b"tkhd") + 4 + 4 + 20 + 16
    one = 1 << 16
    a, b, c, d = {90: (0, one, -one, 0), 180: (-one, 0, 0, -one), 270: (0, -one, one, 0)}[clockwise]
    content[at : at + 36] = struct.pack(">9i", a, b, 0, c, d, 0, 0, 0, 1 << 30)
    path.write_bytes(content)


def shown(path, time=Fraction(0), shrunk=None):
    reader = VideoReader(path)
    try:
        return reader.picture(time, shrunk)[..., [2, 1, 0]].astype(int)
    finally:
        reader.close()


@pytest.mark.parametrize("clockwise", [90, 180, 270])
def test_footage_that_a_phone_has_turned_stands_upright(tmp_path, clockwise):
    path = video(tmp_path / "phone.mp4", [quarters()] * 3)
    turned_by_header(path, clockwise)
    upright = np.rot90(quarters(), -clockwise // 90)
    media = probe(path)
    assert (media.width, media.height) == upright.shape[1::-1]
    assert np.abs(shown(path) - upright.astype(int)).max() <= 3
    small = shown(path, shrunk=(media.width // 2, media.height // 2))
    assert np.abs(small[2, 2] - upright[4, 4].astype(int)).max() <= 3


def test_an_uneven_rate_shows_each_picture_in_its_time(tmp_path):
    levels = [20, 60, 100, 140, 180, 220]
    times = [0, 33, 150, 166, 400, 410]
    path = video(tmp_path / "uneven.mkv", [plain(level) for level in levels], times=times)
    for at, level in (
        (0, 20),
        (30, 20),
        (34, 60),
        (149, 60),
        (151, 100),
        (170, 140),
        (399, 140),
        (405, 180),
        (900, 220),
    ):
        assert abs(shown(path, Fraction(at, 1000))[5, 5, 0] - level) <= 2, at
    reader = VideoReader(path)
    backwards = [reader.picture(Fraction(at, 1000))[5, 5, 0] for at in (405, 399, 151, 30)]
    reader.close()
    assert np.abs(np.array(backwards, int) - [180, 140, 100, 20]).max() <= 2


@pytest.mark.parametrize("size", [(63, 47), (1, 1), (17, 2)])
def test_odd_sizes_come_out_whole(tmp_path, size):
    path = video(tmp_path / "odd.mkv", [plain((200, 100, 50), size)] * 2, codec="ffv1", pix_fmt="bgr0")
    media = probe(path)
    assert (media.width, media.height) == size
    assert shown(path).shape == (size[1], size[0], 3)
    assert np.abs(shown(path) - [200, 100, 50]).max() <= 3


def test_ten_bits_and_their_colours_against_colour_science(tmp_path):
    # BT.709 narrow range, 10 bits, as the colour-science package codes it.
    patches = [(200, 100, 50), (10, 240, 120), (128, 128, 128), (255, 0, 0)]
    for rgb in patches:
        path = tmp_path / f"ten-{rgb[0]}.mkv"
        code = colour.RGB_to_YCbCr(
            np.array(rgb) / 255,
            K=colour.WEIGHTS_YCBCR["ITU-R BT.709"],
            in_bits=10,
            out_bits=10,
            out_legal=True,
            out_int=True,
        )
        write_planes(path, code)
        assert probe(path).kind == "footage"
        assert np.abs(shown(path)[4, 4] - rgb).max() <= 2, rgb


def write_planes(path, code):
    with av.open(str(path), "w") as container:
        stream = container.add_stream("ffv1", rate=25)
        stream.width, stream.height, stream.pix_fmt = 16, 16, "yuv444p10le"
        stream.codec_context.colorspace, stream.codec_context.color_range = 1, 1
        for number in range(2):
            frame = av.VideoFrame(16, 16, "yuv444p10le")
            for plane, value in zip(frame.planes, code, strict=True):
                values = np.full((16, plane.line_size // 2), int(value), dtype="<u2")
                plane.update(values.tobytes())
            frame.colorspace, frame.color_range, frame.pts = 1, 1, number
            container.mux(stream.encode(frame))
        container.mux(stream.encode())


@pytest.mark.parametrize("suffix", ["png", "webp", "tiff", "jpg"])
def test_stills_against_pillow(tmp_path, suffix):
    chance = np.random.default_rng(5)
    rgba = chance.integers(0, 256, (20, 30, 4), dtype=np.uint8)
    path = tmp_path / f"still.{suffix}"
    image = Image.fromarray(rgba, "RGBA")
    (image.convert("RGB") if suffix == "jpg" else image).save(
        path, **({"lossless": True} if suffix == "webp" else {})
    )
    with Image.open(path) as read:
        expected = np.asarray(read.convert("RGBA")).astype(int)
    ours = straight(read_still(path))[..., [2, 1, 0, 3]].astype(int)
    assert np.array_equal(ours[..., 3], expected[..., 3])
    # Premultiplied in 8 bits, a channel keeps alpha / 255 of its steps.
    steps = 0.5 + 128 / np.maximum(expected[..., 3:], 1)
    seen = expected[..., 3:] > 0
    assert (np.abs(ours - expected)[..., :3] <= np.where(seen, steps, 255)).all()


@pytest.mark.parametrize("turn", range(1, 9))
def test_a_photo_is_turned_as_its_exif_says(tmp_path, turn):
    exif = Image.Exif()
    exif[0x0112] = turn
    path = tmp_path / "photo.jpg"
    Image.fromarray(quarters(), "RGB").save(path, exif=exif, quality=98, subsampling=0)
    # Exif 2.3, tag 0x0112: where the 0th row and column of the stored picture are seen.
    flips = {1: lambda p: p, 2: lambda p: p[:, ::-1], 3: lambda p: p[::-1, ::-1], 4: lambda p: p[::-1],
             5: lambda p: p.transpose(1, 0, 2), 6: lambda p: np.rot90(p, -1),
             7: lambda p: p[::-1, ::-1].transpose(1, 0, 2), 8: lambda p: np.rot90(p, 1)}  # fmt: skip
    expected = flips[turn](quarters()).astype(int)
    media = probe(path)
    assert (media.width, media.height) == expected.shape[1::-1]
    ours = read_still(path)[..., [2, 1, 0]].astype(int)
    assert np.abs(ours[4, 4] - expected[4, 4]).max() < 12
    assert np.abs(ours[-5, 4] - expected[-5, 4]).max() < 12


def test_greys_of_sixteen_bits_keep_their_range(tmp_path):
    path = tmp_path / "deep.png"
    Image.fromarray(np.array([[0, 257 * 100, 65535]], dtype=np.uint16)).save(path)
    assert read_still(path)[0, :, 0].tolist() == [0, 100, 255]


def test_a_drawing_comes_at_its_own_size_with_alpha(tmp_path):
    path = tmp_path / "box.svg"
    path.write_text(
        '<svg xmlns="http://www.w3.org/2000/svg" width="40" height="20"><rect width="20" height="20" '
        'fill="#ff0000" fill-opacity="0.5"/></svg>'
    )
    media = probe(path)
    assert (media.kind, media.width, media.height) == ("still", 40, 20)
    pixels = read_still(path)
    assert pixels[10, 30].tolist() == [0, 0, 0, 0]
    assert pixels[10, 10].tolist() == pytest.approx([0, 0, 128, 128], abs=1)


def tone(path, codec, rate=48_000, seconds=0.5):
    wave_ = (0.5 * np.sin(2 * np.pi * 440 * np.arange(int(rate * seconds)) / rate)).astype(np.float32)
    with av.open(str(path), "w") as container:
        stream = container.add_stream(codec, rate=rate, layout="stereo")
        frame = av.AudioFrame.from_ndarray(np.tile(wave_, (2, 1)), format="fltp", layout="stereo")
        frame.sample_rate, frame.pts = rate, 0
        for resampled in av.AudioResampler(
            stream.format, "stereo", rate, frame_size=stream.frame_size or 1024
        ).resample(frame):
            container.mux(stream.encode(resampled))
        container.mux(stream.encode())
    return path


@pytest.mark.parametrize(
    ("name", "codec", "rate"),
    [("a.wav", "pcm_s16le", 44_100), ("a.flac", "flac", 48_000), ("a.mp3", "libmp3lame", 44_100),
     ("a.ogg", "libopus", 48_000), ("a.m4a", "aac", 48_000)],
)  # fmt: skip
def test_sounds_of_all_kinds_come_at_their_level_and_pitch(tmp_path, name, codec, rate):
    path = tone(tmp_path / name, codec, rate)
    media = probe(path)
    assert media.kind == "sound"
    assert media.length == pytest.approx(0.5, abs=0.08)
    samples = read_sound(path)
    middle = samples[8000:16_000, 0]
    assert np.abs(middle).max() == pytest.approx(0.5, abs=0.03)
    spectrum = np.abs(np.fft.rfft(middle * np.hanning(len(middle))))
    assert spectrum.argmax() * 48_000 / len(middle) == pytest.approx(440, abs=6)


def test_a_sound_with_a_cover_is_a_sound(tmp_path):
    path = tmp_path / "cover.mp3"
    with av.open(str(path), "w") as container:
        sound = container.add_stream("libmp3lame", rate=44_100)
        cover = container.add_stream("png", rate=1)
        cover.width = cover.height = 16
        cover.pix_fmt = "rgb24"
        cover.disposition = av.stream.Disposition.attached_pic
        container.start_encoding()
        container.mux(cover.encode(av.VideoFrame.from_ndarray(plain(90, (16, 16)), "rgb24")))
        quiet = av.AudioFrame.from_ndarray(np.zeros((2, 1152), np.float32), format="fltp", layout="stereo")
        quiet.sample_rate = 44_100
        for part in av.AudioResampler(sound.format, "stereo", 44_100, frame_size=1152).resample(quiet):
            container.mux(sound.encode(part))
        container.mux(sound.encode())
    assert probe(path).kind == "sound"


def taken(path, base):
    """The media of a file, or why it is none."""
    try:
        return probe(path, base)
    except RovixError as wrong:
        return str(wrong)


def test_forty_hostile_files_are_each_in_or_named_with_a_reason(tmp_path):
    paths = hostile_files(tmp_path)
    assert len(paths) >= 40
    results = {path.name: taken(path, tmp_path) for path in paths}
    known = {name: media for name, media in results.items() if not isinstance(media, str)}
    for name, reason in results.items():
        if name not in known:
            assert reason.startswith(f"{name} could not be read: "), "it is named, and the reason follows"
    assert {"whole.mp4", "one.png", "wide.png", "no-suffix"} <= set(known)
    for refused in (
        "bomb.png",
        "wide-bomb.png",
        "text.mp4",
        "list.mp4",
        "script.txt",
        "laughs.svg",
        "huge.svg",
        "zero.svg",
    ):
        assert refused not in known, refused
    assert not any(name.startswith(("empty.", "text.")) for name in known)
    # What came in can be shown or heard.
    library = MediaLibrary(Project(media=tuple(known.values())), tmp_path)
    for media in known.values():
        if media.kind == "sound":
            assert library.sound(media.id).read(0, 480).shape == (480, 2)
        else:
            time = Fraction(0) if media.kind == "footage" else None
            assert library.picture(media.id, time).shape == (media.height, media.width, 4)
    library.close()
