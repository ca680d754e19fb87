"""Captions brought in by the window and written by it."""

from __future__ import annotations

import pytest
from PySide6.QtWidgets import QFileDialog

from rovix.desktop.dialogs.captions_window import CaptionsWindow
from rovix.edit import clip_by_id
from rovix.time import timecode
from waiting import wait_for

SRT = (
    "1\n00:00:00,500 --> 00:00:01,500\nKites rise at noon\n\n2\n00:00:02,000 --> 00:00:03,000\nand stay up\n"
)
VTT = "WEBVTT\n\n00:00.500 --> 00:02.000\n<00:00.500>One <00:01.000>two <00:01.400>three\n"


def dialog_of(window, path):
    window.import_media([path])
    assert wait_for(lambda: window.findChild(CaptionsWindow), 4000)
    return window.findChild(CaptionsWindow)


@pytest.fixture
def srt(tmp_path):
    path = tmp_path / "kites.srt"
    path.write_text(SRT)
    return path


def test_a_file_dropped_becomes_layers_like_the_selected_one_in_one_step(window, srt):
    window.document.select("big")
    dialog = dialog_of(window, srt)
    assert dialog.like.currentData().id == "big"
    assert dialog.shown.count() == 2
    dialog.accept()
    document = window.document
    made = [clip_by_id(document.project, identity) for identity in document.selection]
    assert [clip.text.content for clip in made] == ["Kites rise at noon", "and stay up"]
    assert [(clip.start, clip.length) for clip in made] == [(15, 30), (60, 30)]
    assert [move.name for move in made[0].moves] == ["Pop", "Rise and fade"]
    assert document.history.undo_title == "Bring in 2 captions"
    document.undo()
    assert document.history.undo_title is None


def test_letters_a_line_part_what_is_longer_and_are_remembered(window, srt):
    dialog = dialog_of(window, srt)
    dialog.letters.begin_typing()
    dialog.letters._edit.setText("6")
    dialog.letters.finish_typing()
    dialog.lines.begin_typing()
    dialog.lines._edit.setText("1")
    dialog.lines.finish_typing()
    assert dialog.shown.count() > 4
    dialog.accept()
    again = CaptionsWindow(window, srt, dialog._captions)
    assert (again.options.letters, again.options.lines) == (6, 1)
    again.reject()


def test_words_with_times_set_off_on_them(window, tmp_path):
    path = tmp_path / "timed.vtt"
    path.write_text(VTT)
    window.document.select("big")
    dialog = dialog_of(window, path)
    assert dialog.timed.isChecked()
    dialog.accept()
    assert window.document.clip.moves[0].starts == (0.0, 0.5, 0.9)


def test_what_holds_no_captions_is_told_and_nothing_is_asked(window, tmp_path):
    path = tmp_path / "odd.srt"
    path.write_text("nothing of the kind")
    told = []
    window.document.problem.connect(told.append)
    window.bring_captions(path)
    assert wait_for(lambda: told, 4000)
    assert "odd.srt" in told[0]
    assert window.findChild(CaptionsWindow) is None


def test_another_document_gives_up_what_is_being_read(window, srt):
    window.bring_captions(srt)
    window.begin_session()
    window._ended_sessions[-1].wait()
    assert window.findChild(CaptionsWindow) is None


@pytest.mark.parametrize("name", ["out.vtt", "out"])
def test_words_are_written_as_captions(window, tmp_path, monkeypatch, name):
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(tmp_path / name), ""))
    window.run("captions-out")
    (written,) = tmp_path.glob("out.*")
    assert written.suffix == (".vtt" if name.endswith("vtt") else ".srt")
    text = written.read_text()
    assert "Larkmoor" in text
    assert "Kite day" in text


def test_what_is_shown_beforehand_is_what_comes(window, tmp_path):
    path = tmp_path / "long.srt"
    long = "The kites go up at noon, whatever the weather may be, and come down again when the lamps are lit."
    path.write_text(f"1\n00:00:01,000 --> 00:00:03,000\n{long}\n")
    dialog = dialog_of(window, path)
    rows = [dialog.shown.item(number).text() for number in range(dialog.shown.count())]
    dialog.accept()
    made = [clip_by_id(window.document.project, identity) for identity in window.document.selection]
    rate = window.document.rate
    assert len(made) > 1
    assert rows == [
        f"{timecode(clip.start, rate)}   {clip.text.content}".replace("\n", " ⏎ ") for clip in made
    ]
