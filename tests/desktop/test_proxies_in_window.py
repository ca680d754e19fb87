"""Proxies made from the window: beside editing, shown at once, said, turned off, deleted."""

from fractions import Fraction

import numpy as np
import pytest

from builders import project_of, title
from made_files import plain, video
from rovix.edit.tree import replace
from rovix.engine.proxy_files import proxies_there, proxy_name
from rovix.formats import write_project
from rovix.media.probe import probe
from rovix.media.video import VideoReader
from rovix.model import FootageClip
from waiting import wait_for

SIZE = (320, 180)


@pytest.fixture(autouse=True)
def own_data(tmp_path, monkeypatch):
    monkeypatch.setattr("rovix.engine.proxy_files.user_data_path", lambda *_: tmp_path / "data")


def fields(number):
    """Stripes a px wide, which no smaller picture can show, and a grey for each frame."""
    picture = plain((60, 60 + 2 * number, 60), SIZE)
    picture[:, ::2] = (200, 60 + 2 * number, 60)
    return picture


@pytest.fixture
def films(tmp_path):
    made = []
    for name in ("meadow", "brook"):
        path = video(tmp_path / f"{name}.mp4", [fields(n) for n in range(30)])
        made.append(replace(probe(path, tmp_path), id=name))
    return tuple(made)


@pytest.fixture
def window(make_test_window, tmp_path, films):
    clips = [FootageClip(id="one", media="meadow", length=30), title("Kite", id="words", start=5, length=20)]
    second = FootageClip(id="two", media="brook", start=30, length=30)
    project = project_of(*clips, second, media=films, size=SIZE, rate="30")
    path = tmp_path / "cut.rovix"
    write_project(path, project)
    window = make_test_window(project, tmp_path, path)
    window.said = []
    window.document.problem.connect(window.said.append)
    return window


def done(window):
    assert wait_for(lambda: not window.session.is_busy, 30_000)
    return sorted(path.name for path in (window.document.base / "proxies").glob("*"))


def shown(window):
    return window.projector.picture.pixels


def stripes(pixels):
    """How much the picture's columns differ from each other, in its lowest tenth."""
    return float(np.abs(np.diff(pixels[-12:, :, 2].astype(float), axis=1)).mean())


def test_of_what_is_selected_and_shown_as_soon_as_it_is_there(window, films):
    window.projector.resize(SIZE)
    window.document.seek(2)
    sharp = stripes(shown(window))
    window.document.select("one")
    window.run("proxies-half")
    assert done(window) == [proxy_name(films[0], 2)]
    assert stripes(shown(window)) < sharp / 3, "the proxy is on screen"
    assert window.proxies.said == "proxies at half size"
    window.run("proxies-show")
    assert stripes(shown(window)) == pytest.approx(sharp), "and the footage again"
    assert window.proxies.said == ""
    assert window.action("proxies-show").isEnabled()
    assert not window.action("proxies-show").isChecked()


def test_with_nothing_selected_all_footage_gets_one(window, films):
    window.document.select()
    window.run("proxies-quarter")
    assert done(window) == sorted(proxy_name(media, 4) for media in films)
    window.status._look()
    assert "proxies at quarter size" in window.status._facts.text()
    window.run("proxies-quarter")
    assert not window.session.is_busy, "they are there"
    window.run("proxies-half")
    assert done(window) == sorted(proxy_name(media, 2) for media in films)


def test_it_changes_nothing_of_the_project(window):
    before = window.document.whole
    window.run("proxies-half")
    done(window)
    assert window.document.whole is before
    assert not window.document.history.is_changed


def test_frames_stay_at_their_time(window, films):
    window.run("proxies-half")
    done(window)
    _, path = proxies_there(films, window.document.base, window.document.path)["meadow"]
    proxy = VideoReader(path)
    for number in (0, 7, 29):
        green = proxy.picture(Fraction(number, 30))[20:-20, 20:-20, 1].mean()
        assert green == pytest.approx(60 + 2 * number, abs=4)


def test_cancel_leaves_nothing(window, tmp_path):
    long = video(tmp_path / "long.mp4", [fields(n % 30) for n in range(900)])
    media = replace(probe(long, tmp_path), id="meadow")
    window.document.do_whole("Take a long one", lambda p: replace(p, media=(media, p.media[1])))
    window.document.select("one")
    window.run("proxies-half")
    assert wait_for(lambda: (window.document.base / "proxies").exists(), 20_000)
    window.session._jobs[0].cancel()
    assert done(window) == []
    assert not window.said
    assert window.proxies.said == ""


def test_another_project_meanwhile_has_none_of_it(window, tmp_path, films):
    window.run("proxies-half")
    window.begin_session()
    window.document.show(project_of(title("New")), tmp_path / "elsewhere", None)
    assert window.proxies.said == ""
    assert not window.proxies


def test_what_cannot_be_made_is_said_and_the_rest_is_made(window, films):
    (window.document.base / films[0].path).unlink()
    window.run("proxies-half")
    assert done(window) == [proxy_name(films[1], 2)]
    assert any("meadow" in said for said in window.said)


def test_a_project_without_a_file_keeps_them_in_the_users_data_until_it_has_one(
    make_test_window, films, tmp_path
):
    project = project_of(FootageClip(id="one", media="meadow", length=30), media=films, size=SIZE)
    window = make_test_window(project, tmp_path)
    window.run("proxies-half")
    done(window)
    assert len(list((tmp_path / "data" / "proxies").iterdir())) == 2
    window.document.save(tmp_path / "named.rovix")
    assert window.proxies.share_of("meadow") == 2
    window.run("proxies-delete")
    assert not (tmp_path / "data" / "proxies").exists()
    assert window.proxies.said == ""


def test_deleting_those_of_one_clip_leaves_the_others(window, films):
    window.run("proxies-half")
    done(window)
    window.document.select("two")
    window.run("proxies-delete")
    assert done(window) == [proxy_name(films[0], 2)]


def test_they_are_found_when_the_project_opens_and_the_choice_is_kept(window, make_test_window, films):
    window.run("proxies-half")
    done(window)
    window.run("proxies-show")
    other = make_test_window(window.document.whole, window.document.base, window.document.path)
    assert other.proxies.share_of("meadow") == 2
    assert not other.proxies.on


def test_the_list_of_files_says_so_and_makes_them(window):
    window.shelf.open_media()
    media = window.shelf.media
    index = media.files.index(0, 0)
    media.view.setCurrentIndex(index)
    media.make_proxies(2)
    done(window)
    assert window.proxies.share_of(media.chosen()[0].id) == 2
    picture = media.view.grab().toImage()
    window.run("proxies-delete")
    window.document.select()
    assert media.view.grab().toImage() != picture


def test_a_project_of_words_alone_offers_none(make_test_window):
    window = make_test_window()
    window.refresh_commands()
    assert not window.action("proxies-half").isEnabled()
    assert not window.action("proxies-delete").isEnabled()
