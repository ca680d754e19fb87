"""Timelines for other programs: written from the window, opened in it, what is lost said."""

import opentimelineio as otio
import pytest
from PySide6.QtWidgets import QFileDialog

from rovix.edit.text import change_text
from rovix.formats.project_file import project_bytes


def message_text(window):
    column = window.messages._column
    return " ".join(column.itemAt(n).widget().accessibleName() for n in range(column.count()))


@pytest.fixture
def chosen(monkeypatch):
    def choose(path):
        for name in ("getSaveFileName", "getOpenFileName"):
            monkeypatch.setattr(QFileDialog, name, lambda *_: (str(path), ""))

    return choose


def test_it_is_written_and_opened_again_whole(window, tmp_path, chosen):
    window.document.do("Retype", lambda p: change_text(p, "big", content="Harbour"))
    before = project_bytes(window.document.project)
    chosen(tmp_path / "cut")
    window.run("exchange-out")
    assert (tmp_path / "cut.otio").is_file()
    assert "generators" in message_text(window)
    window.document.do("Retype", lambda p: change_text(p, "big", content="Gone"))
    chosen(tmp_path / "cut.otio")
    window.files.may_leave = lambda: True
    window.run("exchange-in")
    assert project_bytes(window.document.project) == before
    assert window.document.path is None
    assert window.document.history.is_changed


def test_what_is_lost_and_what_cannot_be_read_is_said(window, tmp_path, chosen):
    timeline = otio.schema.Timeline("Cut")
    clip = otio.schema.Clip("Theirs", otio.schema.GeneratorReference(generator_kind="text"))
    clip.source_range = otio.opentime.TimeRange(
        otio.opentime.RationalTime(0, 25), otio.opentime.RationalTime(9, 25)
    )
    timeline.tracks.append(otio.schema.Track("V1", [clip], kind="Video"))
    otio.adapters.write_to_file(timeline, str(tmp_path / "cut.otio"))
    window.files.may_leave = lambda: True
    chosen(tmp_path / "cut.otio")
    window.run("exchange-in")
    assert "Not all of cut.otio could be taken over" in message_text(window)
    assert window.document.rate.fraction == 25
    before = window.document.project
    (tmp_path / "bad.otio").write_text("{}")
    chosen(tmp_path / "bad.otio")
    window.run("exchange-in")
    assert "bad.otio" in message_text(window)
    assert window.document.project is before
