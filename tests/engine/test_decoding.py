"""Footage decoded by one process for all that draw."""

import os
import signal
import socket
import time
from contextlib import suppress
from fractions import Fraction
from multiprocessing import Pipe
from pathlib import Path
from threading import Thread

import numpy as np
import pytest

from builders import project_of, title
from listening import listen, wanted
from made_files import video
from rovix.edit import change_text
from rovix.engine import decoding
from rovix.engine.checking import Gallery
from rovix.engine.delta import Known, make_delta
from rovix.engine.local_pictures import LocalPictures
from rovix.engine.picture_service import PictureService
from rovix.engine.picture_worker import Drawer
from rovix.engine.shared_footage import Drop, Dropped, SharedFootage
from rovix.media.probe import probe
from rovix.media.video import VideoReader
from rovix.model import FootageClip
from rovix.motion.ready_moves import pop

SIZE = (320, 180)


@pytest.fixture(scope="module")
def film(tmp_path_factory):
    path = tmp_path_factory.mktemp("film") / "sweep.mp4"
    ramp = np.linspace(0, 200, 640, dtype=np.float64)
    pictures = [np.repeat(np.tile(ramp + number, (360, 1))[..., None], 3, axis=2).astype(np.uint8)
                for number in range(50)]  # fmt: skip
    video(path, pictures, pix_fmt="yuv420p", g="12")
    return path


@pytest.fixture
def service():
    made = PictureService(workers=2, memory=64 << 20)
    made.resize(SIZE)
    yield made
    made.close()


@pytest.fixture
def project(film):
    media = probe(film, film.parent)
    clip = FootageClip(id="film", media=media.id, length=45)
    return project_of(clip, title("Larkmoor", moves=[pop()]), media=(media,), size=(640, 360))


@pytest.fixture
def footage(service, project, film):
    """What one asks that draws, beside the service's own."""
    service.show(project, film.parent)
    made = SharedFootage(service._decoder.address)
    yield made
    made.close()


def asked(footage, film, number, shrunk=None):
    """A picture, once the decoder listens."""
    for _ in range(200):
        found = footage.picture(film, Fraction(2 * number + 1, 60), shrunk, False)
        if found is not None:
            return found
        footage._not_before = 0.0
        time.sleep(0.05)
    raise AssertionError("no answer")


def alone(film, number, shrunk=None):
    reader = VideoReader(film)
    try:
        return reader.picture(Fraction(2 * number + 1, 60), shrunk)
    finally:
        reader.close()


@pytest.mark.parametrize("shrunk", [None, (320, 180), (213, 120), (640, 360)])
def test_pictures_are_to_the_bit_those_of_a_reader_alone(footage, film, shrunk):
    for number in (0, 1, 7, 8, 3, 30):
        assert np.array_equal(asked(footage, film, number, shrunk), alone(film, number, shrunk)), number


def test_the_picture_given_last_is_not_sent_again(footage, film):
    first = asked(footage, film, 4)
    assert asked(footage, film, 4) is first
    assert not first.flags.writeable
    kept = first.copy()
    asked(footage, film, 9)
    assert np.array_equal(first, kept), "what was given stays what it was"


@pytest.fixture(scope="module")
def long(tmp_path_factory):
    """600 pictures of one group, each a grey of its own for ten."""
    path = tmp_path_factory.mktemp("long") / "long.mp4"
    video(path, [np.full((180, 320, 3), 20 + number // 3, np.uint8) for number in range(600)], g="600")
    return path


def nearby(footage, long, number, ticket=1):
    footage.begin(ticket, "at once")
    return asked(footage, long, number)


def test_at_once_there_is_one_nearby_then_the_one_itself(footage, long):
    near = nearby(footage, long, 550)
    assert footage.near
    assert near[0, 0, 0] < 60, "from the group's beginning"
    footage.begin(1, "exact")
    assert np.array_equal(asked(footage, long, 550), alone(long, 550))
    assert not footage.near
    assert np.array_equal(nearby(footage, long, 550), alone(long, 550))
    assert not footage.near, "it is decoded by now"


def test_what_is_not_wanted_any_more_is_dropped_on_the_way(service, footage, long):
    nearby(footage, long, 10)
    footage.begin(7, "exact")
    told = Thread(target=lambda: (time.sleep(0.05), service._decoder.connection.send(Drop(7))))
    told.start()
    with pytest.raises(Dropped):
        for number in (590, 5, 585, 8, 580, 11, 575) * 4:
            asked(footage, long, number)
    told.join()
    with pytest.raises(Dropped):
        asked(footage, long, 300)  # an order from before
    footage.begin(8, "exact")
    assert np.array_equal(asked(footage, long, 300), alone(long, 300))


def test_what_may_still_be_wanted_is_not_dropped(service, footage, long):
    nearby(footage, long, 10)
    service._decoder.connection.send(Drop(9, but=7))
    time.sleep(0.2)
    footage.begin(7, "exact")
    assert np.array_equal(asked(footage, long, 400), alone(long, 400))
    footage.begin(6, "exact")
    with pytest.raises(Dropped):
        asked(footage, long, 20)


@pytest.fixture
def scrubbed(long):
    media = probe(long, long.parent)
    return project_of(FootageClip(id="film", media=media.id, length=600), media=(media,), size=SIZE)


def until_exact(service, first):
    """The pictures that come until one does not stand in for another."""
    got = [first] if first is not None else []
    while not got or got[-1].stands_in:
        got.append(listen(service))
    return got


def test_who_scrubs_sees_one_nearby_and_then_the_one_itself(service, scrubbed, long):
    service.show(scrubbed, long.parent)
    wanted(service, 0)
    got = until_exact(service, service.want(570, hurried=True))
    assert [picture.frame for picture in got] == [570] * len(got)
    assert len(got) == 2
    assert got[-1].pixels[5, 5, 0] == pytest.approx(int(alone(long, 570)[5, 5, 0]), abs=1)
    assert service.is_cached(570)


def test_one_nearby_is_not_kept_as_if_it_were_the_one_itself(service, scrubbed, long):
    service.show(scrubbed, long.parent)
    wanted(service, 0)
    first = service.want(565, hurried=True) or listen(service)
    assert first.stands_in
    assert not service.is_cached(565)
    assert service.ready() == [0]


def test_a_hand_that_goes_on_sees_where_it_was_a_moment_ago(service, project, film):
    """Each step changes the words: what was drawn for the one before shows until the next is drawn."""
    service.show(project, film.parent)
    wanted(service, 20)
    shown, number, until = [], 0, time.monotonic() + 60
    while sum(picture.stands_in for picture in shown) < 3 and time.monotonic() < until:
        number += 1
        project = change_text(project, project.sequence.tracks[-1].clips[0].id, content=f"Larkmoor {number}")
        service.show(project, film.parent)
        picture = service.want(20, hurried=True)
        for worker in list(service._workers):
            picture = service.receive(worker.connection) or picture
        if picture is not None:
            shown.append(picture)
        time.sleep(0.004)
    assert sum(picture.stands_in for picture in shown) == 3, "although none of them was wanted any more"
    last = until_exact(service, service.want(20, hurried=True))[-1]
    local = LocalPictures()
    local.show(project, film.parent)
    local.resize(SIZE)
    assert np.array_equal(last.pixels, local.want(20).pixels)
    local.close()


def test_without_an_answer_whoever_asks_decodes(footage, film, tmp_path):
    asked(footage, film, 0)
    broken = tmp_path / "broken.mp4"
    broken.write_bytes(b"\0" * 4000)
    assert footage.picture(broken, Fraction(0), None, False) is None
    assert footage.picture(tmp_path / "nowhere.mp4", Fraction(0), None, False) is None
    assert footage.picture(film, Fraction(1, 2), None, False) is not None, "the decoder is up"
    elsewhere = SharedFootage(str(tmp_path / "nobody"))
    assert elsewhere.picture(film, Fraction(0), None, False) is None


@pytest.mark.parametrize("decoder", [True, False])
def test_who_decoded_for_want_of_an_answer_lets_go_of_it_at_rest(decoder, project, film, tmp_path):
    """And keeps it where nobody else could be asked."""
    drawer = Drawer(str(tmp_path / "nobody") if decoder else None)
    drawer.adopt(make_delta(project, Known()), film.parent)
    before, after = np.zeros((2, SIZE[1], SIZE[0], 4), np.uint8)
    drawer.draw(0, 20, before, SIZE)
    assert is_open(film)
    drawer.rest()
    assert is_open(film) == (not decoder)
    drawer.draw(1, 20, after, SIZE)
    assert np.array_equal(before, after)
    drawer.close()
    assert not is_open(film)


def is_open(path):
    """In this process (proc(5), fd)."""
    found = []
    for link in Path("/proc/self/fd").iterdir():
        with suppress(OSError):
            found.append(link.readlink())
    return path.resolve() in found


def test_a_file_that_changed_is_read_anew_when_told(footage, film, tmp_path):
    path = tmp_path / "changes.mp4"
    video(path, [np.full((48, 64, 3), 40, np.uint8)] * 5)
    before = asked(footage, path, 0)
    path.unlink()
    video(path, [np.full((48, 64, 3), 200, np.uint8)] * 5)
    footage.forget()
    assert abs(int(asked(footage, path, 0)[0, 0, 0]) - int(before[0, 0, 0])) > 100


def test_the_window_gets_the_pictures_that_one_process_draws(service, project, film):
    local = LocalPictures()
    local.show(project, film.parent)
    local.resize(SIZE)
    service.show(project, film.parent)
    service.fill(range(45))
    for frame in (0, 9, 17, 3, 40, 44):
        assert np.array_equal(wanted(service, frame).pixels, local.want(frame).pixels), frame
    local.close()


def test_a_decoder_that_is_killed_is_missed_by_nobody_and_replaced(service, project, film):
    service.show(project, film.parent)
    before = wanted(service, 5).pixels.copy()
    process = service._decoder.process
    os.kill(process.pid, signal.SIGKILL)
    process.join()
    assert wanted(service, 30).pixels is not None
    service.show(project, film.parent)
    assert service._decoder.process.is_alive()
    assert np.array_equal(wanted(service, 5).pixels, before)


def test_closing_leaves_neither_process_nor_folder(project, film):
    made = PictureService(workers=2, memory=16 << 20)
    made.resize(SIZE)
    made.show(project, film.parent)
    wanted(made, 5)
    pid, folder = made._decoder.process.pid, Path(made._decoder.folder.name)
    assert folder.stat().st_mode & 0o077 == 0, "for its user alone"
    made.close()
    assert not folder.exists()
    with pytest.raises(ProcessLookupError):
        os.kill(pid, 0)


def test_one_who_draws_alone_decodes_itself(project, film):
    made = PictureService(workers=1, memory=16 << 20)
    made.resize(SIZE)
    made.show(project, film.parent)
    assert made._decoder is None
    assert wanted(made, 5).pixels is not None
    made.close()


@pytest.fixture
def near_decoder(tmp_path, monkeypatch):
    """A decoder on a thread of the test's own, which rests soon."""
    monkeypatch.setattr(decoding, "_RESTS", 0.15)
    address = str(tmp_path / "decoder")
    with socket.socket(socket.AF_UNIX, socket.SOCK_STREAM) as listener:
        listener.bind(address)
        listener.listen()
        decoder, (ours, theirs) = decoding._Decoder(listener), Pipe()
        thread = Thread(target=decoder.serve, args=(theirs,))
        thread.start()
        asking = SharedFootage(address)
        yield decoder, asking
        asking.close()
        ours.close()
        thread.join(10)
        decoder.close()


def test_files_that_nobody_asks_for_are_let_go_and_opened_again(near_decoder, film):
    decoder, asking = near_decoder
    first = asked(asking, film, 7).copy()
    assert decoder._files
    until = time.monotonic() + 20
    while decoder._files and time.monotonic() < until:
        time.sleep(0.02)
    assert not decoder._files
    assert np.array_equal(asked(asking, film, 7), first)
    assert np.array_equal(asked(asking, film, 8), alone(film, 8))


def test_a_gallery_that_rested_draws_the_same_again(project, film):
    gallery = Gallery()
    gallery.open(project, film.parent)
    before = gallery.painted(project, 12, SIZE).copy()
    gallery.rest()
    assert gallery.library is None
    gallery.open(project, film.parent)
    assert np.array_equal(gallery.painted(project, 12, SIZE), before)
    gallery.close()
