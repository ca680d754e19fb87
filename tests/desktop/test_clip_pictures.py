"""Clips are painted once and laid down again; the budget of a round never starves one."""

import msgspec
import pytest
from PySide6.QtCore import QRectF
from PySide6.QtGui import QColor, QPainter, QPixmap

from builders import title
from rovix.desktop.theme import colour
from rovix.desktop.timeline import clip_pictures
from rovix.desktop.timeline.clip_painter import Setting, key_frames, paint_clip
from rovix.desktop.timeline.clip_pictures import ClipPictures
from rovix.model import Key, Keys, ShapeClip, SoundClip, Transform
from rovix.motion.ready_moves import pop, rise_and_fade
from rovix.time import Rate

replace = msgspec.structs.replace


class NoThumbnails:
    version = 0

    def waveform(self, media):
        return None


@pytest.fixture
def painted(qapp, monkeypatch):
    """The ids of clips as they are really painted."""
    found, real = [], clip_pictures.paint_clip
    monkeypatch.setattr(
        clip_pictures,
        "paint_clip",
        lambda painter, clip, *rest: (found.append(clip.id), real(painter, clip, *rest)),
    )
    return found


SETTING = Setting((640, 360), Rate(30), {}, NoThumbnails(), (150.0, 900.0))


def a_round(pictures, clips, left=200.0, width=80.0):
    pixmap = QPixmap(900, 60)
    painter = QPainter(pixmap)
    pictures.begin()
    for number, clip in enumerate(clips):
        pictures.paint(painter, clip, QRectF(left + number * 90, 5, width, 35), SETTING, False)
    painter.end()
    return pictures.is_behind


def test_a_clip_that_only_moves_is_not_painted_again(painted, monkeypatch):
    monkeypatch.setattr(clip_pictures, "_BUDGET", 10.0)
    pictures, clip = ClipPictures(), title("Kite", id="k")
    assert not a_round(pictures, [clip])
    a_round(pictures, [replace(clip, start=40, transform=Transform(x=9.0))], left=320.0)
    assert painted == ["k"]
    a_round(pictures, [clip], width=120.0)
    a_round(pictures, [replace(clip, name="Other")])
    a_round(pictures, [replace(clip, text=replace(clip.text, content="Gust"))])
    assert painted == ["k"] * 4, "width, name and words show"


def test_a_clip_that_reaches_out_of_view_is_painted_for_what_is_seen(painted, monkeypatch):
    monkeypatch.setattr(clip_pictures, "_BUDGET", 10.0)
    pictures, clip = ClipPictures(), title("Kite", id="k")
    a_round(pictures, [clip], left=-5000.0, width=9000.0)
    a_round(pictures, [clip], left=-4900.0, width=9000.0)
    assert painted == ["k", "k"]
    assert max(kept.pixmap.width() for kept in pictures._kept.values()) < 1000


def test_with_no_time_at_all_one_more_is_painted_in_each_round(painted, monkeypatch):
    monkeypatch.setattr(clip_pictures, "_BUDGET", 0.0)
    pictures = ClipPictures()
    clips = [title(f"K{n}", id=f"k{n}") for n in range(3)] + [SoundClip(id="hum", media="m", length=60)]
    behind = [a_round(pictures, clips) for _ in range(4)]
    assert behind == [True, True, True, False]
    assert painted == ["k0", "k1", "k2", "hum"]
    assert a_round(pictures, clips, width=60.0), "stale pictures stand in, stretched"
    assert len(painted) == 5


def test_menus_stay_whole_when_the_window_is_narrow(window):
    bar = window.top_bar
    window.resize(1600, 800)
    assert bar._facts.isVisibleTo(bar)
    window.resize(900, 800)
    bar._fit_facts()
    assert not bar._facts.isVisibleTo(bar)
    assert bar._menus.width() >= bar._menus.sizeHint().width()


def test_in_a_hurry_no_motion_is_evaluated_for_a_clip(painted):
    from rovix.motion.ready_moves import pop

    pictures = ClipPictures()
    clips = [title("Fresh", id="fresh", moves=[pop()]), SoundClip(id="hum", media="m", length=60)]
    pixmap = QPixmap(900, 60)
    for hurried, expected in ((True, ["hum"]), (False, ["hum", "fresh"]), (True, ["hum", "fresh"])):
        painter = QPainter(pixmap)
        pictures.begin(hurried)
        for number, clip in enumerate(clips):
            pictures.paint(painter, clip, QRectF(200 + number * 90, 5, 80, 35), SETTING, False)
        painter.end()
        assert painted == expected


def colours_in(clip, chosen=False):
    """All colours of a painted clip, as the theme names them."""
    pixmap = QPixmap(300, 60)
    pixmap.fill(QColor("black"))
    painter = QPainter(pixmap)
    paint_clip(painter, clip, QRectF(10, 5, 280, 50), SETTING, chosen)
    painter.end()
    image = pixmap.toImage()
    return {image.pixelColor(x, y).name() for x in range(300) for y in range(60)}


def test_whatever_moves_shows_its_grips_and_whatever_has_keys_their_dots(qapp):
    entrance, leaving, accent = (colour(role).name() for role in ("entrance", "exit", "accent"))
    box = ShapeClip(id="b", length=60)
    assert not {entrance, leaving, accent} & colours_in(box)
    moving = replace(box, moves=(pop(), rise_and_fade("exit")))
    assert {entrance, leaving} <= colours_in(moving)
    keyed = replace(
        box, transform=Transform(x=Keys(keys=(Key(frame=5, value=1.0), Key(frame=40, value=9.0))))
    )
    assert accent in colours_in(keyed)
    assert key_frames(keyed) == (5, 40)


def test_a_clip_whose_keys_changed_is_painted_again(painted):
    pictures, clip = ClipPictures(), title("Kite", id="k")
    a_round(pictures, [clip])
    keyed = replace(clip, transform=Transform(x=Keys(keys=(Key(frame=1, value=1.0),))))
    a_round(pictures, [keyed])
    a_round(pictures, [replace(keyed, start=4)])
    assert painted == ["k", "k"]
