"""Proxies of a project: found where they lie, made one after the other, shown in the window's pictures alone."""

import shutil
from fractions import Fraction

import msgspec
import numpy as np
import pytest

from builders import project_of
from listening import wanted
from made_files import plain, video
from rovix.engine.export import export
from rovix.engine.export_job import Delivery, ExportJob
from rovix.engine.local_pictures import LocalPictures
from rovix.engine.picture_service import PictureService
from rovix.engine.proxies import make_proxies
from rovix.engine.proxy_files import (
    SHARES,
    Wanted,
    can_have,
    proxies_there,
    proxy_folder,
    proxy_name,
    remove_proxies,
)
from rovix.media.probe import probe
from rovix.media.video import VideoReader
from rovix.model import FootageClip
from rovix.model.cut_out import CutOut
from rovix.time import Span

SIZE = (160, 120)


@pytest.fixture
def film(tmp_path):
    return video(tmp_path / "meadow.mp4", [plain((40, 90 + number, 40), SIZE) for number in range(30)])


@pytest.fixture
def media(film):
    return probe(film, film.parent)


@pytest.fixture
def project(media):
    return project_of(FootageClip(id="film", media=media.id, length=30), media=(media,), size=SIZE)


def wish(media, film, share=2, folder=None):
    return Wanted(media, film, share, folder or film.parent / "proxies")


def make(*wishes, progress=lambda done, total: None):
    parts = []
    return make_proxies(list(wishes), progress, parts.append), parts


def another_colour(film, media, share=2):
    """A proxy that shows something else than the footage, so that it is seen which of them is shown."""
    path = film.parent / "proxies" / proxy_name(media, share)
    path.parent.mkdir(exist_ok=True)
    video(path, [plain((200, 20, 20), (80, 60))] * 30)
    return path


def there(media, film):
    return proxies_there([media], film.parent, film.parent / "cut.rovix")


def test_one_is_made_beside_the_project_and_found_there(film, media):
    told = []
    made, parts = make(wish(media, film), progress=lambda done, total: told.append((done, total)))
    share, path = there(media, film)[media.id]
    assert (share, path.parent.name, parts) == (2, "proxies", [media.id])
    assert (made.count, made.bytes, made.refused) == (1, path.stat().st_size, ())
    assert told[-1] == (30, 30)
    assert (probe(path).width, probe(path).height) == (80, 60)


def test_the_other_share_takes_its_place(film, media):
    make(wish(media, film))
    make(wish(media, film, 4))
    assert there(media, film)[media.id][0] == 4
    assert len(list((film.parent / "proxies").iterdir())) == 1


def test_one_that_cannot_be_made_leaves_the_others(film, media, tmp_path):
    broken = msgspec.structs.replace(media, id="broken", path="gone.mp4", digest="blake2b:0")
    made, parts = make(wish(broken, tmp_path / "gone.mp4"), wish(media, film))
    assert (made.count, parts) == (1, [media.id])
    assert "gone.mp4" in made.refused[0]


def test_stopping_leaves_nothing_half_written(film, media):
    class Stopped(BaseException):
        pass

    def stop(done, total):
        if done == 12:
            raise Stopped

    with pytest.raises(Stopped):
        make(wish(media, film), progress=stop)
    assert list((film.parent / "proxies").iterdir()) == []
    assert there(media, film) == {}


def test_a_folder_that_cannot_be_written_to_is_said(film, media):
    (film.parent / "proxies").write_text("a file in its place")
    made, _ = make(wish(media, film))
    assert made.count == 0
    assert "meadow" in made.refused[0]
    assert "proxies" in made.refused[0]


def test_they_stay_when_footage_is_named_anew_and_go_when_it_changes(film, media):
    make(wish(media, film))
    assert there(msgspec.structs.replace(media, name="The meadow at noon"), film)
    assert not there(msgspec.structs.replace(media, digest="blake2b:1"), film)
    assert not there(msgspec.structs.replace(media, interlaced=True, deinterlaced=True), film)
    film.write_bytes(film.read_bytes() + b"\0")
    assert not there(media, film), "the file is another one"
    film.unlink()
    assert there(media, film), "a missing file still shows by its proxy"


def test_made_before_the_project_had_a_file_they_are_found_once_it_has(film, media):
    make(wish(media, film, folder=proxy_folder(None)))
    assert there(media, film)[media.id][1].parent == proxy_folder(None)
    assert proxies_there([media], film.parent, None)
    assert remove_proxies([media], (proxy_folder(None), film.parent / "proxies")) > 0
    assert not there(media, film)
    assert not proxy_folder(None).exists(), "an empty folder is not left behind"


@pytest.mark.parametrize("share", SHARES)
def test_removing_frees_what_they_take(film, media, share):
    made, _ = make(wish(media, film, share))
    assert remove_proxies([media], [film.parent / "proxies"]) == made.bytes
    assert remove_proxies([media], [film.parent / "proxies"]) == 0


def test_a_title_as_long_as_a_title_may_be_is_no_trouble(film, media):
    long = film.with_name("草" * 80 + ".mp4")
    shutil.copy(film, long)
    made, _ = make(wish(probe(long, film.parent), long))
    assert made.count == 1


def test_mattes_stills_and_sounds_have_none(media):
    assert can_have(media)
    assert not can_have(msgspec.structs.replace(media, kind="still"))
    assert not can_have(msgspec.structs.replace(media, kind="sound", width=None))
    assert not can_have(msgspec.structs.replace(media, cut_out=CutOut(footage="f", digest="", frame=0)))


def middle(pixels):
    return pixels[100, 10, :3].astype(int).tolist()


@pytest.fixture
def service():
    made = PictureService(workers=2, memory=32 << 20)
    made.resize(SIZE)
    yield made
    made.close()


def test_pictures_show_them_and_the_footage_again_without_drawing_it_twice(service, project, media, film):
    path = another_colour(film, media)
    service.show(project, film.parent)
    plain_ = wanted(service, 3).pixels.copy()
    service.use_proxies({media.id: path})
    assert not service.is_cached(3)
    shown = middle(wanted(service, 3).pixels)
    assert shown[2] > 150, "the proxy is red"
    service.use_proxies({})
    again = service.want(3)
    assert again is not None
    assert np.array_equal(again.pixels, plain_)
    service.use_proxies({media.id: path})
    assert middle(service.want(3).pixels) == shown


def test_a_change_of_the_project_keeps_them(service, project, media, film):
    service.use_proxies({media.id: another_colour(film, media)})
    service.show(project, film.parent)
    wanted(service, 3)
    service.show(msgspec.structs.replace(project, id="other"), film.parent)
    assert middle(wanted(service, 5).pixels)[2] > 150


@pytest.mark.parametrize("content", [None, b"no video at all" * 50])
def test_one_that_is_gone_or_damaged_is_not_missed(project, media, film, content):
    path = another_colour(film, media)
    local = LocalPictures()
    local.show(project, film.parent)
    local.resize(SIZE)
    expected = local.want(3).pixels.copy()
    if content is None:
        path.unlink()
    else:
        path.write_bytes(content)
    local.use_proxies({media.id: path})
    picture = local.want(3)
    assert picture.error is None
    assert np.array_equal(picture.pixels, expected)
    local.close()


def test_one_that_breaks_off_is_left_for_the_footage(service, project, media, film):
    path = another_colour(film, media)
    whole = path.read_bytes()
    service.show(project, film.parent)
    expected = wanted(service, 25).pixels.copy()
    path.write_bytes(whole[: len(whole) // 3] + b"\0" * (len(whole) - len(whole) // 3))
    service.use_proxies({media.id: path})
    picture = wanted(service, 25)
    assert picture.error is None
    assert np.array_equal(picture.pixels, expected)


def test_exports_never_show_them(project, media, film, tmp_path):
    """The proxy is red, the footage green; with proxies in the window or without, what is written is green."""
    another_colour(film, media)
    out = tmp_path / "out.mp4"
    export(ExportJob(project, film.parent, out, Span(0, 30), Delivery()), workers=1)
    green = VideoReader(out).picture(Fraction(1, 2))
    assert middle(green)[1] > 80
    assert middle(green)[2] < 60
