import os
import shutil
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest
from PIL import Image

from builders import project_of
from rovix.errors import RovixError
from rovix.media.encoders import encoder_for
from rovix.media.errors import MediaError
from rovix.media.library import MediaLibrary
from rovix.media.mix import Mixer
from rovix.media.probe import digest_of, probe
from rovix.media.samples import SAMPLE_RATE, Held
from rovix.media.stills import premultiplied, read_still, straight, write_png
from rovix.media.video import VideoReader
from rovix.model import GroupClip, Media, Project, Sound, SoundClip, Track
from rovix.time import Rate, Span
from sounds import read_sound

STEADY = np.ones((SAMPLE_RATE, 2), dtype=np.float32)


@pytest.fixture
def counting(tmp_path):
    """A video of 40 frames whose grey says the frame number: 4 x n + 16."""
    path = tmp_path / "counting.mp4"
    writer = encoder_for(path).quality().begin(path, (64, 32), Rate(25), False)
    for number in range(40):
        grey = np.full((32, 64, 4), 16 + 4 * number, np.uint8)
        grey[..., 3] = 255
        writer.add_picture(grey)
    writer.close()
    return path


def number_in(pixels) -> int:
    return round((float(pixels[..., :3].mean()) - 16) / 4)


def test_every_frame_is_found_forwards_backwards_and_by_leaps(counting):
    reader = VideoReader(counting)
    for frame in [*range(40), *range(39, -1, -5), 3, 38, 0, 17, 17, 18]:
        assert number_in(reader.picture(Fraction(frame, 25))) == frame
    reader.close()


def test_between_frames_the_earlier_shows_and_beyond_the_ends_the_last(counting):
    reader = VideoReader(counting)
    assert number_in(reader.picture(Fraction(79, 250))) == 7
    assert number_in(reader.picture(Fraction(99))) == 39
    assert number_in(reader.picture(Fraction(-1))) == 0
    reader.close()


def test_probe_finds_the_facts(counting, demo_data):
    film = probe(counting, counting.parent)
    assert (film.kind, film.path, film.width, film.height, film.rate, film.length) == (
        "footage",
        "counting.mp4",
        64,
        32,
        "25",
        1.6,
    )
    assert film.digest == digest_of(counting)
    assert film.bytes == counting.stat().st_size
    sound = probe(demo_data / "whoosh.flac")
    assert (sound.kind, sound.length, sound.has_sound) == ("sound", 0.8, True)
    logo = probe(demo_data / "logo.png")
    assert (logo.kind, logo.width, logo.height) == ("still", 640, 640)


@pytest.mark.parametrize("name", ["gone.mp4", "text.mp4", "text.png", "text.flac", "empty.mp4"])
def test_what_cannot_be_read_is_named_with_the_reason(tmp_path, name):
    if not name.startswith("gone"):
        (tmp_path / name).write_text("not a film" if name.startswith("text") else "")
    with pytest.raises(MediaError, match=name):
        probe(tmp_path / name)


def test_stills_come_premultiplied_and_go_straight(tmp_path):
    straight_rgba = np.array([[[200, 100, 50, 128], [9, 8, 7, 0], [1, 2, 3, 255]]], np.uint8)
    Image.fromarray(straight_rgba, "RGBA").save(tmp_path / "a.png")
    pixels = read_still(tmp_path / "a.png")
    assert pixels[0].tolist() == [[25, 50, 100, 128], [0, 0, 0, 0], [3, 2, 1, 255]]
    write_png(tmp_path / "b.png", pixels)
    again = np.asarray(Image.open(tmp_path / "b.png"))
    assert np.abs(again.astype(int) - straight_rgba)[0, [0, 2]].max() <= 1


def test_premultiplying_and_back_loses_nothing_where_opaque():
    pixels = np.random.default_rng(5).integers(0, 256, (20, 20, 4), dtype=np.uint8)
    pixels[..., 3] = 255
    assert np.array_equal(straight(premultiplied(pixels)), pixels)


def test_a_turned_photo_stands_upright(tmp_path):
    photo = Image.new("RGB", (20, 10), "red")
    exif = photo.getexif()
    exif[0x0112] = 6  # EXIF 2.3, Orientation: to be turned clockwise
    photo.save(tmp_path / "p.jpg", exif=exif)
    assert read_still(tmp_path / "p.jpg").shape[:2] == (20, 10)
    assert probe(tmp_path / "p.jpg").width == 10


def test_sound_is_read_at_48_khz_on_two_sides(demo_data):
    samples = read_sound(demo_data / "thump.flac")
    assert samples.shape == (21600, 2)
    assert np.array_equal(samples[:, 0], samples[:, 1])
    assert 0.4 < np.abs(samples).max() <= 0.71


def sequence_of(*clips, **fields):
    media = (Media(id="steady", path="s.wav", kind="sound"),)
    return project_of(*clips, media=media, **fields).sequence


def heard(sequence, start=0, end=60):
    return Mixer(sequence, lambda _: Held(STEADY)).mix(Span(start, end))


def test_gain_is_in_decibels():
    clip = SoundClip(id="c", media="steady", start=10, length=20, sound=Sound(gain=-6.0))
    total = heard(sequence_of(clip))
    assert total.shape == (96000, 2)
    assert total[16000:48000, 0] == pytest.approx(10 ** (-6 / 20))
    assert not total[:16000].any()
    assert not total[48000:].any()


def test_fades_are_lines_in_amplitude():
    clip = SoundClip(id="c", media="steady", length=30, sound=Sound(fade_in=15, fade_out=6))
    total = heard(sequence_of(clip))[:, 0]
    assert total[12000] == pytest.approx(0.5, abs=1e-3)
    assert total[24000] == pytest.approx(1.0)
    assert total[48000 - 4800] == pytest.approx(0.5, abs=1e-3)


def test_sounds_add_up_and_pieces_of_a_mix_join_without_a_seam():
    clips = (
        SoundClip(id="a", media="steady", length=50),
        SoundClip(id="b", media="steady", start=7, length=20),
    )
    sequence = sequence_of(*clips, rate="30000/1001")
    whole = heard(sequence)
    parts = [heard(sequence, frame, frame + 1) for frame in range(60)]
    assert np.array_equal(np.concatenate(parts), whole)
    assert whole[20000].tolist() == [2.0, 2.0]


def test_muted_tracks_are_silent_and_groups_are_heard_within_their_length():
    inner = Track(id="i", kind="sound", clips=(SoundClip(id="s2", media="steady", length=60),))
    sequence = sequence_of(GroupClip(id="g", start=10, length=5, tracks=(inner,)))
    total = heard(sequence)[:, 0]
    assert np.flatnonzero(total).tolist() == list(range(16000, 24000))
    muted = Track(id="m", kind="sound", muted=True, clips=(SoundClip(id="s3", media="steady", length=60),))
    assert not heard(sequence_of(GroupClip(id="g", length=50, tracks=(muted,)))).any()


def test_a_sound_ends_with_its_file():
    assert (
        np.count_nonzero(heard(sequence_of(SoundClip(id="c", media="steady", length=60, offset=15)))[:, 0])
        == 24000
    )


def test_a_library_names_what_is_missing(tmp_path, demo):
    library = MediaLibrary(demo.tree, tmp_path)
    assert len(library.missing()) == len(demo.tree.media)
    with pytest.raises(MediaError, match=r"logo\.png"):
        library.picture("logo", None)
    with pytest.raises(MediaError, match="nowhere"):
        library.picture("nowhere", None)


def test_mp4_needs_even_sides():
    with pytest.raises(RovixError, match="take 642 x 360"):
        encoder_for(Path("x.mp4")).check((641, 360))


def test_a_written_file_carries_its_tags(counting):
    with av.open(str(counting)) as container:
        context = container.streams.video[0].codec_context
        # ITU-T H.273: 1 is BT.709 for primaries, transfer and matrix; 1 is limited range in FFmpeg.
        assert (context.color_primaries, context.color_trc, context.colorspace, context.color_range) == (
            1,
            1,
            1,
            1,
        )
        assert (
            container.streams.video[0].pix_fmt == "yuv420p"
            if hasattr(container.streams.video[0], "pix_fmt")
            else True
        )


def test_files_whose_names_are_no_text_come_in_and_are_read(tmp_path, demo_data):
    """Names are bytes to the system; Python keeps those that are no UTF-8 by PEP 383."""
    folder = tmp_path / os.fsdecode(b"kites-\xff")
    folder.mkdir()
    for name in ("logo.png", "key-tap.flac", "kite-crossing.mp4"):
        path = folder / os.fsdecode(b"a\xfe-" + name.encode())
        shutil.copy(demo_data / name, path)
        media = probe(path, tmp_path)
        library = MediaLibrary(Project(media=(media,)), tmp_path)
        if media.kind == "sound":
            assert library.sound(media.id).read(0, 2000).any()
        else:
            assert library.picture(media.id, Fraction(0) if media.kind == "footage" else None).any()
        library.close()
    with pytest.raises(MediaError, match=r"gone\?\.png could not be read"):
        probe(folder / os.fsdecode(b"gone\xff.png"))
