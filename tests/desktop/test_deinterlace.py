"""Interlaced footage in the window: offered when it comes in, a command afterwards, undone like all else."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QPushButton

from builders import project_of
from interlaced_film import write_fields
from rovix.model import FootageClip, Media
from waiting import wait_for

LACED = Media(
    id="m", path="fields.mpg", kind="footage", width=320, height=180, rate="25", length=2.0, interlaced=True
)


@pytest.fixture
def laced(make_test_window):
    plain = Media(id="p", path="plain.mp4", kind="footage", width=320, height=180, rate="25", length=2.0)
    clips = [FootageClip(id="c", media="m", length=25), FootageClip(id="d", media="p", length=25)]
    return make_test_window(project_of(*clips, media=(LACED, plain)))


def is_deinterlaced(window):
    return window.document.project.media[0].deinterlaced


def offered(window):
    return [b for b in window.messages.findChildren(QPushButton) if b.text() == "Deinterlace"]


def test_the_command_is_for_interlaced_footage_alone_and_is_undone(laced):
    laced.document.select("d")
    laced.refresh_commands()
    assert not laced.action("deinterlace").isEnabled()
    laced.document.select("c")
    laced.refresh_commands()
    assert laced.action("deinterlace").isEnabled()
    laced.run("deinterlace")
    assert is_deinterlaced(laced)
    laced.refresh_commands()
    assert laced.action("deinterlace").isChecked()
    laced.run("undo")
    assert not is_deinterlaced(laced)


def test_it_is_offered_when_it_comes_in(window, tmp_path):
    write_fields(tmp_path / "fields.mpg")
    window.import_media([tmp_path / "fields.mpg"])
    assert wait_for(lambda: offered(window), 60_000)
    QTest.mouseClick(offered(window)[0], Qt.MouseButton.LeftButton)
    assert is_deinterlaced(window)
    window.run("undo")
    assert not is_deinterlaced(window)
    assert len(window.document.project.media) == 1
