"""A real window over a small project, drawn in process unless a test asks for workers."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import QSettings
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QFileDialog

from builders import look_of, project_of, title
from rovix.desktop.app import make_application
from rovix.desktop.dialogs.sequence_settings import SequenceSettings
from rovix.desktop.dialogs.title_asked import TitleAsked
from rovix.desktop.document import Document
from rovix.desktop.window import Window
from rovix.engine.local_pictures import LocalPictures
from rovix.engine.picture_service import Picture, PictureService
from rovix.model import BackgroundClip, Outline, Plain
from rovix.motion.ready_moves import pop, rise_and_fade


@pytest.fixture(scope="session")
def qapp():
    application = make_application()
    yield application
    # What Python put on the clipboard must not outlive it: Qt lets it go when the process exits.
    application.clipboard().clear()


def small_project():
    """A ground and two layers of words, 90 frames at 640 x 360."""
    ground = BackgroundClip(id="ground", name="Ground", length=90, background=Plain(colour="#335566"))
    big = title("Larkmoor", id="big", name="Larkmoor", length=80, moves=[pop(), rise_and_fade("exit")])
    small = title("Kite day", id="small", name="Kite day", start=20, length=50, text={"size": 40.0},
                  look=look_of("#fff8ea", Outline(id="edge")))  # fmt: skip
    return project_of(ground, big, small)


class Answers:
    """Stands in for the question window: gives the prepared answers in turn, and keeps what was asked."""

    def __init__(self, *answers):
        self.answers, self.asked = list(answers), []

    def __call__(self, title, text, choices):
        self.asked.append(title)
        answer = self.answers.pop(0) if self.answers else list(choices.values())[-1]
        assert answer in choices.values()
        return answer


class BlankCards(LocalPictures):
    """Cards without their pictures: drawing all of them takes seconds in each test that selects a layer."""

    def _drawn(self, frame):
        return Picture(frame, np.zeros((self._size[1], self._size[0], 4), np.uint8), (), 0.0)


@pytest.fixture
def make_test_window(qapp, tmp_path, monkeypatch):
    """Makes windows and shuts them down; state and settings go to the test's own folder."""
    monkeypatch.setattr("rovix.desktop.recovery.user_state_path", lambda *_, **__: tmp_path)
    monkeypatch.setattr("rovix.desktop.exports.user_state_path", lambda *_, **__: tmp_path)
    for module in ("shelf.shelf", "window_dialogs"):
        monkeypatch.setattr(f"rovix.desktop.{module}.user_data_path", lambda *_, **__: tmp_path)
    # Windows that wait for an answer are left at once; tests that need one give it.
    monkeypatch.setattr(SequenceSettings, "exec", lambda self: False)
    monkeypatch.setattr(TitleAsked, "exec", lambda self: False)
    # The system's own dialogs would wait for ever.
    for name, nothing in (("getOpenFileName", ""), ("getOpenFileNames", []), ("getSaveFileName", "")):
        monkeypatch.setattr(QFileDialog, name, lambda *_, nothing=nothing: (nothing, ""))
    windows = []

    def make(project=None, base=None, path=None, workers=0, cards=None):
        document = Document(project or small_project(), base or tmp_path, path)
        service = PictureService(workers, memory=64 << 20) if workers else LocalPictures()
        settings = QSettings(str(tmp_path / "settings.ini"), QSettings.Format.IniFormat)
        window = Window(document, service, cards or BlankCards(), settings)
        window.ask = Answers()
        window.ask_number = lambda *_: None
        window.ask_folder = lambda *_: None
        window.shelf.keeping.ask_name = lambda *_: None
        window.resize(1280, 800)
        window.show()
        QTest.qWait(20)
        windows.append(window)
        return window

    yield make
    for window in windows:
        window.viewer.finish_words()
        window.shut_down()
        window.hide()
        window.deleteLater()
    QTest.qWait(10)


@pytest.fixture
def window(make_test_window):
    return make_test_window()
