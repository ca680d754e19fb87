"""The demo's kite cut out of its footage, by the outline that its generator draws."""

from fractions import Fraction

import av
import numpy as np
import pytest

from made_files import video
from rovix.demo import kites
from rovix.demo.kites import CROSSING_KITES
from rovix.engine.matting import Subject, write_cut_out, write_matte
from rovix.errors import RovixError
from rovix.media.probe import probe
from rovix.media.video import VideoReader
from rovix.paint.canvas import Canvas
from rovix.vision.subject_matte import Mark

WHITE = (255, 255, 255, 255)
KITE = CROSSING_KITES[2]
"""The one that crosses the frame."""


def outline(frame, rate, size):
    """(h, w): the kite's sail and tail, as its generator draws them; the string does not count."""
    canvas = Canvas(*size)
    seconds = frame / float(rate)
    middle, turn = KITE.place(seconds)
    matrix = kites._placed(middle, turn, KITE.height)
    foot = tuple((matrix @ np.array([0.0, 0.62, 1.0]))[:2])
    canvas.draw_path(kites._tail(foot, KITE, seconds), np.eye(3), WHITE)
    sail = kites._polygon([(0.0, -0.38), (0.3, -0.06), (0.0, 0.62), (-0.3, -0.06)])
    canvas.draw_path(sail, matrix, WHITE)
    return canvas.pixels[..., 3] > 127


@pytest.fixture(scope="module")
def shortened(tmp_path_factory):
    """Thirty frames of the kite's crossing, lossless."""
    from rovix.demo import DATA

    path = tmp_path_factory.mktemp("film") / "crossing.mkv"
    with av.open(str(DATA / "kite-crossing.mp4")) as source, av.open(str(path), "w") as made:
        rate = source.streams.video[0].average_rate
        stream = made.add_stream("ffv1", rate=rate)
        stream.width, stream.height, stream.pix_fmt = 1920, 1080, "yuv420p"
        for number, frame in enumerate(source.decode(video=0)):
            if 105 <= number < 135:
                frame.pts, frame.time_base = number - 105, 1 / rate
                made.mux(stream.encode(frame))
        made.mux(stream.encode(None))
    return path


def test_the_kite_is_cut_out_from_one_box_on_one_frame(shortened, tmp_path):
    media = probe(shortened)
    rate, size = Fraction(media.rate), (media.width, media.height)
    (x, y), _ = KITE.place(120 / float(rate))
    box = (x - 0.4 * KITE.height, y - 0.44 * KITE.height, 0.8 * KITE.height, min(1.5 * KITE.height, size[1] - y + 0.43 * KITE.height))  # fmt: skip
    told = []
    write_matte(shortened, 15, box, tmp_path / "matte.mkv", lambda done, total: told.append((done, total)))
    assert told[-1] == (30, 30)
    with av.open(str(tmp_path / "matte.mkv")) as container:
        stream = container.streams.video[0]
        assert (stream.codec_context.name, stream.codec_context.pix_fmt) == ("ffv1", "gray")
        assert stream.average_rate == rate
        found = [frame.to_ndarray() for frame in container.decode(stream)]
    assert len(found) == 30
    overlaps = []
    for number, grey in enumerate(found):
        true = outline(105 + number, rate, size)
        overlaps.append(((grey > 127) & true).sum() / ((grey > 127) | true).sum())
    assert np.mean(overlaps) >= 0.96
    assert min(overlaps) >= 0.85


def test_the_kite_is_cut_out_from_one_stroke_on_one_frame(shortened, tmp_path):
    media = probe(shortened)
    rate, size = Fraction(media.rate), (media.width, media.height)
    middle, turn = KITE.place(120 / float(rate))
    matrix = kites._placed(middle, turn, KITE.height)
    own = [(0.0, -0.25), (-0.12, 0.0), (0.12, 0.05), (0.0, 0.3), (0.0, 0.5)]
    points = np.array([(matrix @ np.array([*point, 1.0]))[:2] for point in own])
    out = tmp_path / "matte.mkv"
    subject = Subject(15, None, ((15, Mark(points, 12.0)),), 10, 21)
    seen = []
    write_cut_out(shortened, subject, out, lambda done, total: None, seen.append)
    assert sorted(number for number, _ in seen) == list(range(10, 22))
    overlaps, reader = [], VideoReader(out)
    for number in range(30):
        grey = reader.picture(number / rate)[..., 0] > 127
        if 10 <= number < 22:
            true = outline(105 + number, rate, size)
            overlaps.append((grey & true).sum() / (grey | true).sum())
        else:
            assert not grey.any()  # it was not looked for there
    reader.close()
    assert np.mean(overlaps) >= 0.96
    assert min(overlaps) >= 0.85


def test_strokes_in_other_frames_count_from_half_way_there(tmp_path):
    """A square of two halves, of which the stroke in the picked frame says that one does not belong."""
    film = video(tmp_path / "film.mkv", [halves(n) for n in range(21)], codec="ffv1", pix_fmt="bgr0")
    red = Mark(np.array([[40.0, 40.0], [50.0, 70.0]]), 6.0)
    no = Mark(np.array([[70.0, 38.0], [80.0, 74.0]]), 6.0, belongs=False)
    at = 3.0 * 20
    yes = Mark(np.array([[70.0 + at, 38.0], [80.0 + at, 74.0]]), 6.0)
    subject = Subject(0, None, ((0, red), (0, no), (20, yes)))
    told = []
    write_cut_out(film, subject, tmp_path / "m.mkv", lambda *far: told.append(far))
    reader = VideoReader(tmp_path / "m.mkv")
    shares = [(reader.picture(Fraction(n, 30))[..., 0] > 127).sum() / (60 * 50) for n in range(21)]
    reader.close()
    assert max(shares[:11]) < 0.6
    assert min(shares[11:]) > 0.9
    assert told[-1][0] == told[-1][1] == 21 + 9
    first = (tmp_path / "m.mkv").read_bytes()
    write_cut_out(film, subject, tmp_path / "m.mkv", lambda *far: None)
    assert (tmp_path / "m.mkv").read_bytes() == first


def halves(n):
    picture = np.full((120, 200, 3), (90, 150, 200), np.uint8)
    picture[90:] = (60, 120, 60)
    picture[30:80, 30 + 3 * n : 60 + 3 * n] = (220, 60, 40)
    picture[30:80, 60 + 3 * n : 90 + 3 * n] = (240, 230, 230)
    return picture


def test_stopping_and_what_cannot_be_leave_nothing(shortened, tmp_path):
    def stop(done, total):
        if done == 3:
            raise KeyboardInterrupt

    with pytest.raises(KeyboardInterrupt):
        write_matte(shortened, 0, (500, 300, 200, 200), tmp_path / "a.mkv", stop)
    for frame, box, out, said in (
        (0, (500, 300, 200, 200), "a.mp4", "should end in .mkv"), (40, (500, 300, 200, 200), "a.mkv", "no frame 40"),
        (0, (500, 300, 2000, 200), "a.mkv", "beyond the picture"),
    ):  # fmt: skip
        with pytest.raises(RovixError, match=said):
            write_matte(shortened, frame, box, tmp_path / out)
    assert list(tmp_path.iterdir()) == []
