"""Proxies: each picture of the footage, smaller, at its own time, and decodable by itself."""

from fractions import Fraction

import av
import numpy as np
import pytest

from builders import psnr
from interlaced_film import COUNT as FIELDS
from interlaced_film import write_fields
from made_films import CASES, COUNT, film, moving_pictures
from rovix.errors import RovixError
from rovix.media.errors import MediaError
from rovix.media.probe import probe
from rovix.media.proxy import proxy_size, write_proxy
from rovix.media.video import VideoReader


def made(source, size=(80, 44), deinterlace=False):
    """A proxy beside its source, and the numbers that were told while it was written."""
    out, told = source.parent / "proxy.mov", []
    write_proxy(source, out, size, deinterlace, told.append)
    return out, told


def times_of(path):
    """When each picture of a file stands, in seconds from the first."""
    with av.open(str(path)) as container:
        stamps = [frame.pts * frame.time_base for frame in container.decode(video=0) if frame.pts is not None]
    return [stamp - stamps[0] for stamp in stamps]


@pytest.mark.parametrize("case", CASES)
def test_at_any_time_it_shows_what_the_footage_shows(tmp_path, case):
    name, codec, options = CASES[case]
    source = film(tmp_path / name, moving_pictures(), codec, **options)
    out, told = made(source)
    assert told == list(range(1, told[-1] + 1))
    # Of several pictures at one time the last is seen.
    assert COUNT >= told[-1] >= len(set(times_of(source))) - 1
    chance = np.random.default_rng(3)
    whole, proxy = VideoReader(source), VideoReader(out)
    for moment in sorted(Fraction(int(at), 1000) for at in chance.integers(0, 2100, 24)):
        expected = whole.picture(moment, (80, 44))
        assert psnr(proxy.picture(moment)[..., :3], expected[..., :3]) > 27, (case, float(moment))
    whole.close()
    proxy.close()


def test_times_between_pictures_show_the_same_where_ticks_are_long(tmp_path):
    """AVI counts in frames: half a tick of slack is then half a frame."""
    source = film(tmp_path / "a.avi", moving_pictures(), "mpeg4", rate=Fraction(30_000, 1001))
    whole, proxy = VideoReader(source), VideoReader(made(source)[0])
    for number in range(1, 47):
        for part in (Fraction(4, 10), Fraction(6, 10)):
            moment = (number + part) * Fraction(1001, 30_000)
            assert psnr(proxy.picture(moment), whole.picture(moment, (80, 44))) > 33, float(moment)


@pytest.mark.parametrize("case", ["mkv, uneven", "ts, MPEG-2", "mp4, H.264"])
def test_no_picture_moves_by_a_tick(tmp_path, case):
    name, codec, options = CASES[case]
    source = film(tmp_path / name, moving_pictures(), codec, **options)
    assert times_of(made(source)[0]) == sorted(set(times_of(source)))


def test_each_picture_can_be_decoded_by_itself(tmp_path):
    """ITU-T H.264: an IDR picture needs none before it; so do all of ProRes."""
    source = film(tmp_path / "a.mp4", moving_pictures(), "libx264")
    with av.open(str(made(source)[0])) as container:
        packets = [packet for packet in container.demux(video=0) if packet.size]
    assert len(packets) == COUNT
    assert all(packet.is_keyframe for packet in packets)
    assert [packet.pts for packet in packets] == [packet.dts for packet in packets]


def test_what_may_be_seen_through_stays_so(tmp_path):
    source = tmp_path / "clear.mov"
    rgba = np.zeros((96, 128, 4), np.uint8)
    rgba[..., 0], rgba[:, :64, 3], rgba[:, 64:, 3] = 240, 255, 90
    with av.open(str(source), "w") as container:
        stream = container.add_stream("qtrle", rate=25)
        stream.width, stream.height, stream.pix_fmt = 128, 96, "argb"
        for _ in range(3):
            container.mux(stream.encode(av.VideoFrame.from_ndarray(rgba, "rgba").reformat(format="argb")))
        container.mux(stream.encode(None))
    out, _ = made(source, (64, 48))
    assert probe(out).alpha
    shown = VideoReader(out).picture(Fraction(1, 50)).astype(int)
    expected = VideoReader(source).picture(Fraction(1, 50), (64, 48)).astype(int)
    assert np.abs(shown[:, 8:24] - expected[:, 8:24]).max() <= 4
    assert np.abs(shown[:, 40:56] - expected[:, 40:56]).max() <= 4
    assert abs(shown[20, 50, 3] - 90) <= 2


def test_fields_are_made_whole_before_they_get_smaller(tmp_path):
    source = tmp_path / "fields.mpg"
    write_fields(source)
    out, _ = made(source, (160, 90), deinterlace=True)
    whole, combed, proxy = VideoReader(source, True), VideoReader(source), VideoReader(out)
    better = 0
    for number in range(2, FIELDS - 2):
        shown = proxy.picture(Fraction(number, 25))
        near = psnr(shown, whole.picture(Fraction(number, 25), (160, 90)))
        assert near > 30
        better += near > psnr(shown, combed.picture(Fraction(number, 25), (160, 90)))
    assert better == FIELDS - 4


def test_it_is_upright_and_its_px_are_square(tmp_path):
    source = film(tmp_path / "a.mp4", moving_pictures()[:6], "libx264", sample_aspect_ratio=Fraction(4, 3))
    media = probe(source)
    out, _ = made(source, proxy_size((media.width, media.height), 2))
    assert (probe(out).width, probe(out).height) == (106, 44)
    assert VideoReader(out).picture(Fraction(0)).shape[:2] == (44, 106)


@pytest.mark.parametrize(
    ("whole", "share", "size"),
    [((3840, 2160), 2, (1920, 1080)), ((1917, 1079), 4, (480, 270)), ((20, 3000), 4, (16, 750))],
)
def test_sides_are_even_and_never_nothing(whole, share, size):
    assert proxy_size(whole, share) == size


def test_what_is_no_video_is_said_to_be_none(tmp_path):
    (tmp_path / "no.mp4").write_bytes(b"\0" * 3000)
    with pytest.raises(MediaError, match=r"no\.mp4"):
        made(tmp_path / "no.mp4")


def test_a_folder_that_is_not_there_is_named(tmp_path):
    source = film(tmp_path / "a.mp4", moving_pictures()[:6], "libx264")
    with pytest.raises(RovixError, match="nowhere"):
        write_proxy(source, tmp_path / "nowhere" / "a.mov", (80, 44), False, lambda _: None)
