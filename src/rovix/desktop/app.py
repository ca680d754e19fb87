"""Starting the application."""

from __future__ import annotations

import gc
import os
import signal
import sys
from pathlib import Path

from PySide6.QtCore import QSettings, QTimer
from PySide6.QtWidgets import QApplication

from rovix.demo import DATA, DEMO_PROJECT
from rovix.desktop.document import Document
from rovix.desktop.idle_garbage import IdleGarbage
from rovix.desktop.loaded_later import LoadedLater
from rovix.desktop.on_screen import keep_on_screen
from rovix.desktop.sound import SoundClock
from rovix.desktop.theme import apply_theme, icon
from rovix.desktop.window import Window
from rovix.engine.picture_service import Picture, PictureService
from rovix.engine.thumbnails import ThumbnailProcess
from rovix.formats import read_project
from rovix.processes import Behind

SIZE = (1280, 800)


def make_application(text_scale: float = 1.0) -> QApplication:
    """The application in its dress; the one that runs already if there is one."""
    # Qt looks for every sound system there is and says which it did not find.
    os.environ.setdefault("QT_LOGGING_RULES", "qt.multimedia.symbolsresolver=false")
    application = QApplication.instance() or QApplication(sys.argv[:1])
    assert isinstance(application, QApplication)
    application.setApplicationName("Rovix")
    application.setOrganizationName("rovix")
    application.setWindowIcon(icon("rovix", "accent", 64))
    apply_theme(application, text_scale)
    return application


def make_window(workers: int | None = None, ahead: bool = True) -> Window:
    """A window over the demo; `ahead`, its first picture is begun before the window is built."""
    document = Document(read_project(DEMO_PROJECT), DATA)
    count = workers or max(1, min(4, (os.cpu_count() or 2)))
    pictures = PictureService(count)
    cards = PictureService(1, memory=64 << 20, layers=4 << 20, far=Behind.CARDS)
    window = Window(document, pictures, cards, QSettings(), SoundClock(document), ThumbnailProcess(), ahead)
    window.resize(*SIZE)
    return window


def load_the_rest(window: Window) -> None:
    """Once the first picture is up, load the rest, and let go of what is made for nothing again."""
    later = LoadedLater()
    window.later = later

    def begin(picture: Picture | None) -> None:
        if picture is not None and not later.is_alive():
            window.projector.picture_shown.disconnect(begin)
            gc.freeze()
            gc.enable()
            _collect_when_idle(window)
            later.start()
            window.exports.begin()
            window.checks.begin()

    window.projector.picture_shown.connect(begin)


def _collect_when_idle(window: Window) -> None:
    application = QApplication.instance()
    idle = IdleGarbage(window, lambda: window.document.playing)
    assert application is not None
    application.installEventFilter(idle)
    idle.begin()


def run(path: Path | None = None) -> int:
    """Open the window, on a project or on the demo, and run until it is closed."""
    scale = float(os.environ.get("ROVIX_TEXT_SCALE", "1"))
    application = make_application(scale)
    window = make_window(ahead=path is None)
    window.scale_panels(scale)
    window.show()
    keep_on_screen(window)
    if path is not None:
        window.files.open_path(path)
    else:
        window.files.offer_left_work()
    load_the_rest(window)
    # Python sees Ctrl+C only when it gets to run; a slow beat lets it.
    signal.signal(signal.SIGINT, lambda *_: window.close())
    beat = QTimer(application, interval=300)
    beat.timeout.connect(lambda: None)
    beat.start()
    return application.exec()
