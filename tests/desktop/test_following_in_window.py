"""Following from the picture: areas, what sticks to them, what was lost, mending by hand; and its Cancel."""

import numpy as np
import pytest
from gestures import LEFT, NONE, pull
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QPushButton

from builders import project_of, title
from made_shots import COUNT, SIZE, film_of, shot
from rovix.desktop.messages import Message
from rovix.edit import clip_by_id
from rovix.edit.areas import smooth_area
from rovix.edit.tree import replace, replace_clip
from rovix.edit.values import set_channels
from rovix.formats import read_project, write_project
from rovix.media.probe import probe
from rovix.model import AreaClip, FootageClip, Keys, Transform
from rovix.motion import Scene
from rovix.motion.quads import layer_quads
from rovix.motion.rest import channel_at
from rovix.motion.scene import world_of
from rovix.vision.alignment import similarity
from waiting import wait_for

PX = 1.5  # of the frame, 640 x 360, that one of the film is, 320 x 240, fitted into it


def place(frame):
    """Where the thing is in the film, how large and how turned."""
    return 90 + 2.5 * frame, 110 + 10 * np.sin(frame / 9), 1 + frame / 200, frame / 2


def true_way(frame):
    """The same in px from the middle of the frame."""
    x, y, _, _ = place(frame)
    return float((x - SIZE[0] / 2) * PX), float((y - SIZE[1] / 2) * PX)


def matrix(frame):
    x, y, scale, turn = place(frame)
    return similarity(x, y, scale, np.radians(turn))


@pytest.fixture(scope="module")
def films(tmp_path_factory):
    folder = tmp_path_factory.mktemp("films")
    film_of(folder / "film.mkv", shot(matrix))
    film_of(folder / "hidden.mkv", shot(matrix, hidden=range(25, COUNT)))
    return folder


@pytest.fixture
def opened(make_test_window, films):
    def make(name="film.mkv"):
        media = replace(probe(films / name, films), id="m")
        film = FootageClip(id="film", media="m", start=5, length=COUNT)
        words = title("Kite", id="words", length=70, transform=Transform(x=-70.0, y=-30.0))
        project = project_of(film, words, media=(media,), rate="25")
        window = make_test_window(project, base=films)
        window.document.select("film")
        window.document.seek(5 + 10)
        window.told = []
        window.document.problem.connect(window.told.append)
        return window

    return make


def drag_box(window, frame, half=45.0):
    """Drag a box about the thing in the picture."""
    x, y = (way + side / 2 for way, side in zip(true_way(frame), (640, 360), strict=True))
    view = window.viewer.view
    pull(window.viewer, view.to_view(x - half, y - half), view.to_view(x + half, y + half))


def followed(window):
    assert wait_for(lambda: not window.session.is_busy, 30_000), window.told
    return window.document.clip


def test_a_box_dragged_out_becomes_an_area_in_one_step(opened):
    window = opened()
    before = window.document.whole
    window.run("follow-grown")
    assert window.viewer.hand is not None
    drag_box(window, 10)
    assert window.viewer.hand is None
    area = followed(window)
    assert isinstance(area, AreaClip)
    assert (area.start, area.length, area.seen_in) == (5, COUNT, "film")
    assert (area.width, area.height) == pytest.approx((90, 90), abs=2)
    frames = np.arange(4.0, COUNT - 4)
    found = np.stack([channel_at(getattr(area.transform, name), frames) for name in ("x", "y")])
    wanted = np.array([true_way(frame) for frame in frames]).T
    # The box was dragged by hand: it stays as far off all along, turned and grown with the thing.
    assert np.abs(found - wanted).max() < 3 * PX
    scales, turns = (channel_at(getattr(area.transform, name), frames) for name in ("scale_x", "rotation_z"))
    assert np.abs(scales - np.array([place(f)[2] / place(10)[2] for f in frames])).max() < 0.03
    assert np.abs(turns - (frames - 10) / 2).max() < 1.0
    assert window.document.history.undo_title == "Follow in the footage"
    window.document.undo()
    assert window.document.whole == before


def test_what_was_followed_is_kept_in_a_file(opened, tmp_path):
    window = opened()
    window.run("follow-box")
    drag_box(window, 10)
    area = followed(window)
    assert not isinstance(area.transform.scale_x, Keys)
    write_project(tmp_path / "a.rovix", window.document.whole)
    assert read_project(tmp_path / "a.rovix") == window.document.whole


def test_a_layer_sticks_to_what_is_under_it(opened):
    window = opened()
    x, y = true_way(10)
    small = title("OO", id="words", length=70, text={"size": 60.0}, transform=Transform(x=x, y=y))
    window.document.do("Put it over the thing", lambda p: replace_clip(p, "words", lambda _: small))
    window.document.select("words")
    window.run("follow-stick")
    clip = followed(window)
    assert clip.id == "words"
    assert isinstance(clip_by_id(window.document.project, clip.parent), AreaClip)
    scene = Scene.of(window.document.project)
    for frame in (10, 6, 25, 40):
        quads = layer_quads(scene, clip, 5 + frame, world_of(scene, clip, 5 + frame))
        middle = quads.rest.mean(axis=0) - (320, 180)
        assert np.hypot(*(middle - true_way(frame))) < 4, frame
    window.document.undo()
    assert window.document.clip.parent is None


def test_where_it_is_lost_it_stops_asks_and_goes_on_from_a_key_by_hand(opened):
    window = opened("hidden.mkv")
    window.run("follow-grown")
    drag_box(window, 10)
    area = followed(window)
    end = area.start + area.length
    assert 5 + 20 < end <= 5 + 30  # hidden from frame 25 on
    offers = [message.accessibleName() for message in window.messages.findChildren(Message)]
    assert any(said.startswith("Lost forwards") for said in offers)
    window.document.seek(5 + 20)
    window.run("follow-back")
    again = followed(window)
    assert again.id == area.id
    assert window.document.history.undo_title == "Follow on"
    frames = np.arange(6.0, 20.0)
    assert np.abs(channel_at(again.transform.x, frames) - channel_at(area.transform.x, frames)).max() < 1.5
    assert (
        np.abs(
            channel_at(again.transform.rotation_z, frames) - channel_at(area.transform.rotation_z, frames)
        ).max()
        < 1.0
    )


def test_a_key_by_hand_sets_what_follows_on(opened):
    window = opened()
    window.run("follow-box")
    drag_box(window, 10)
    area = followed(window)
    window.document.seek(5 + 30)
    for name in ("x", "y"):
        now = channel_at(getattr(area.transform, name), np.array([30.0]))[0]
        field = {"x": now + 12, "y": now - 6}[name]
        window.document.do(
            "Move it", lambda p, n=name, v=field: set_channels(p, area.id, 30, {f"transform.{n}": float(v)})
        )
    window.run("follow-on")
    again = followed(window)
    before, after = (
        np.stack([channel_at(getattr(clip.transform, n), np.arange(12.0, 45.0)) for n in ("x", "y")])
        for clip in (area, again)
    )
    assert np.abs((after - before)[:, :17]).max() < 0.01  # up to there it stays
    assert np.abs((after - before)[:, 18:] - [[12], [-6]]).max() < 3 * PX


def test_smoothing_takes_the_mean_of_a_window(opened):
    window = opened()
    window.run("follow-box")
    drag_box(window, 10)
    area = followed(window)
    frames = np.arange(float(area.length))
    own = channel_at(area.transform.y, frames)
    made = clip_by_id(smooth_area(window.document.project, area.id, 5), area.id)
    found = channel_at(made.transform.y, frames)
    assert np.abs(found[2:-2] - np.convolve(own, np.ones(5) / 5, "valid")).max() < 1e-3
    assert (found[0], found[-1]) == pytest.approx((own[0], own[-1]), abs=1e-3)


def test_it_can_be_cancelled_and_ends_with_its_document(opened):
    window = opened()
    before = window.document.whole
    window.run("follow-box")
    drag_box(window, 10)
    (cancel,) = [b for b in window.messages.findChildren(QPushButton) if b.text() == "Cancel"]
    cancel.click()
    assert not window.session.is_busy
    window.run("follow-box")
    drag_box(window, 10)
    assert window.session.is_busy
    window.session.end()
    assert not window.session.is_busy
    QTest.qWait(100)
    assert window.document.whole == before


def test_escape_leaves_and_a_place_without_footage_is_told(opened):
    window = opened()
    window.run("follow-box")
    QTest.keyClick(window.viewer, Qt.Key.Key_Escape)
    assert window.viewer.hand is None
    assert not window.session.is_busy
    window.document.select("words")
    window.document.seek(60)
    window.run("follow-stick")
    assert "no footage" in window.told[-1]
    window.document.select("film")
    window.document.seek(15)
    window.run("follow-box")
    # Beside the film, which does not fill the frame.
    pull(window.viewer, window.viewer.view.to_view(2, 2), window.viewer.view.to_view(12, 14))
    assert wait_for(lambda: not window.session.is_busy, 20_000)
    assert "px" in window.told[-1]


def test_areas_are_not_in_the_way_of_what_is_clicked(opened):
    window = opened()
    window.run("follow-box")
    drag_box(window, 10)
    area = followed(window)
    window.document.select("film")
    x, y = (way + side / 2 for way, side in zip(true_way(10), (640, 360), strict=True))
    wait_for(lambda: window.viewer._picture is not None, 2000)
    QTest.mouseClick(window.viewer, LEFT, NONE, window.viewer.view.to_view(x, y).toPoint())
    assert window.document.selected != area.id


def test_what_counts_is_the_frame_that_the_box_is_dragged_on(opened):
    window = opened()
    window.run("follow-box")
    window.document.seek(5 + 20)
    drag_box(window, 20)
    area = followed(window)
    x = channel_at(area.transform.x, np.array([20.0]))[0]
    assert x == pytest.approx(true_way(20)[0], abs=3)
    window.run("follow-box")
    window.document.seek(2)
    drag_box(window, 10)
    assert "not seen at the playhead" in window.told[-1]
