"""From an empty project to a short film, counting what the gestures do."""

import shutil

import pytest
from gestures import CTRL, LEFT, NONE, at, clip, drag, row_point
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QFileDialog

from builders import project_of
from rovix.desktop.timeline.scale import Scale
from rovix.model import BackgroundClip, SoundClip, TextClip
from rovix.model.consistency import inconsistencies
from waiting import wait_for

Key = Qt.Key


class Hands:
    """Clicks, drags, chords and typed words, each counted as one action."""

    def __init__(self, window):
        self.window, self.count = window, 0

    def key(self, key, modifiers=NONE):
        self.count += 1
        self.window.timeline.canvas.setFocus()
        QTest.keyClick(self.window.timeline.canvas, key, modifiers)

    def menu(self, identity):
        """Open a menu and choose: two actions."""
        self.count += 2
        self.window._actions[identity].trigger()

    def scrub(self, frame):
        self.count += 1
        canvas = self.window.timeline.canvas
        QTest.mouseClick(canvas, LEFT, NONE, QPoint(round(canvas.scale.x(frame) + canvas.scale.px / 2), 10))

    def type(self, text):
        self.count += 1
        QTest.keyClick(self.window.viewer, Key.Key_A, CTRL)
        QTest.keyClicks(self.window.viewer, text)

    def leave_words(self):
        self.count += 1
        QTest.mouseClick(self.window.viewer, LEFT, NONE, QPoint(4, 4))

    def drag_words(self, y):
        """From the middle of the picture, where new words rest, by px of the frame down."""
        self.count += 1
        viewer, size = self.window.viewer, self.window.document.project.sequence.size
        start = viewer.view.to_view(size[0] / 2, size[1] / 2 - 12).toPoint()
        drag(viewer, start, start + QPoint(0, round(y * viewer.view.scale)))


@pytest.fixture
def files(tmp_path, demo_data):
    for name in ("hill-morning.mp4", "kite-crossing.mp4", "wind-bed.flac"):
        shutil.copy(demo_data / name, tmp_path / name)
    return [str(tmp_path / name) for name in ("hill-morning.mp4", "kite-crossing.mp4", "wind-bed.flac")]


def test_a_short_film_takes_under_forty_actions(make_test_window, tmp_path, files, monkeypatch):
    window = make_test_window(project_of(size=(640, 360)), tmp_path)
    document, gestures = window.document, Hands(window)
    monkeypatch.setattr(QFileDialog, "getOpenFileNames", lambda *_: (files, ""))
    gestures.key(Key.Key_I, CTRL)
    gestures.count += 2  # the files are marked and taken
    assert wait_for(lambda: not window.session.is_busy, 60_000)
    # The shots: the first ends at 4 s, its second half goes and the gap closes.
    shots = document.project.sequence.tracks[0]
    document.select(shots.clips[0].id)
    gestures.count += 1
    gestures.scrub(120)
    gestures.key(Key.Key_BracketRight, CTRL)
    assert clip(window, shots.clips[0].id).length in (119, 120, 121)
    document.select(shots.clips[1].id)
    gestures.count += 1
    drag(window.timeline.canvas, *moved(window, shots.clips[1].id, 120 - 270))
    gestures.count += 1
    # A ground behind them, on their track, joined.
    gestures.key(Key.Key_End)
    gestures.menu("background-plain")
    start, end = moved(window, document.selected, -29)
    up = next(n for n, track in enumerate(document.project.sequence.tracks) if track.name == "Footage")
    drag(window.timeline.canvas, start, QPoint(end.x(), row_point(window, up, 0).y()))
    gestures.count += 1  # it catches on the end of the second shot
    gestures.key(Key.Key_J, CTRL)
    # Three titles, each typed and put in its place.
    for frame, text, y in ((20, "Larkmoor", -80), (140, "Kite day", 0), (420, "Bring a string", 90)):
        gestures.scrub(frame)
        gestures.key(Key.Key_T)
        gestures.type(text)
        gestures.leave_words()
        gestures.drag_words(y)
    assert gestures.count < 40, gestures.count

    project = document.project
    every = [c for track in project.sequence.tracks for c in track.clips]
    first, second, ground = next(t for t in project.sequence.tracks if t.name == "Footage").clips
    assert first.span.end == second.start, "two shots, cut"
    assert second.span.end == ground.start
    assert isinstance(ground, BackgroundClip)
    assert ground.transition.kind == "dissolve"
    titles = [c for c in every if isinstance(c, TextClip)]
    assert [c.text.content for c in sorted(titles, key=lambda c: c.start)] == [
        "Larkmoor",
        "Kite day",
        "Bring a string",
    ]
    assert titles[0].transform.y == pytest.approx(-80, abs=3)
    assert sum(isinstance(c, SoundClip) for c in every) == 1
    assert inconsistencies(project) == []


def moved(window, identity, frames):
    """Where a drag of a clip by frames starts and ends."""
    window.timeline.canvas.set_scale(Scale(1.5, 0.0))
    here = clip(window, identity)
    start = at(window, identity, here.start + here.length / 2, 0.4)
    return start, start + QPoint(round(frames * 1.5), 0)
