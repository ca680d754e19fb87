"""Fonts brought in by the window: dropped, checked, placed, set; and those that come by themselves."""

from __future__ import annotations

import pytest
from PySide6.QtTest import QTest

from made_fonts import FAMILY, made_font
from rovix.desktop.bringing_fonts import BringingFonts
from rovix.desktop.dialogs.bring_fonts import BringFonts
from rovix.desktop.dialogs.font_picker import FontPicker
from rovix.text import families
from rovix.text.catalogue import use_project_fonts
from waiting import wait_for


@pytest.fixture(autouse=True)
def _own_folders(tmp_path, monkeypatch):
    monkeypatch.setattr("rovix.engine.project_fonts.user_data_path", lambda *_: tmp_path / "home")
    yield
    use_project_fonts(tmp_path / "none")


def _dialog(window) -> BringFonts:
    assert wait_for(lambda: window.findChild(BringFonts), 5000)
    return window.findChild(BringFonts)


def test_a_font_dropped_goes_beside_the_project_and_is_set_at_once(make_test_window, tmp_path):
    window = make_test_window(path=tmp_path / "kite.rovix")
    (tmp_path / "from").mkdir()
    window.import_media([made_font(tmp_path / "from" / "print.ttf")])
    dialog = _dialog(window)
    assert "Made up for tests." in dialog.facts.toPlainText()
    assert dialog.beside.isChecked()
    dialog.accept()
    assert (tmp_path / "fonts" / "print.ttf").is_file()
    assert FAMILY in families()
    window.document.select("big")
    picker = window.pick_font()
    assert picker.isVisible()
    picker._search.setText(FAMILY)
    assert picker.current == FAMILY
    picker.accept()
    assert window.document.clip.text.family == FAMILY
    assert window.pick_font().recent() == [FAMILY]
    for shown in window.findChildren(FontPicker):
        shown.reject()


def test_a_project_without_a_file_takes_fonts_for_all(make_test_window, tmp_path):
    window = make_test_window()
    window.bring_fonts([made_font(tmp_path / "print.ttf")])
    dialog = _dialog(window)
    assert not dialog.beside.isEnabled()
    assert dialog.for_all.isChecked()
    dialog.accept()
    assert (tmp_path / "home" / "fonts" / "print.ttf").is_file()


def test_what_is_no_font_is_told_and_nothing_is_asked(make_test_window, tmp_path):
    window = make_test_window()
    told = []
    window.document.problem.connect(told.append)
    (tmp_path / "odd.ttf").write_bytes(b"no font")
    window.bring_fonts([tmp_path / "odd.ttf"])
    assert wait_for(lambda: told, 5000)
    assert "odd.ttf" in told[0]
    assert window.findChild(BringFonts) is None


def test_another_document_gives_up_what_is_being_checked(make_test_window, tmp_path):
    window = make_test_window()
    job = BringingFonts(window, [made_font(tmp_path / "print.ttf")])
    window.session.run(job)
    window.begin_session()
    job.wait()
    QTest.qWait(50)
    assert window.findChild(BringFonts) is None


def test_a_font_that_comes_by_itself_is_noticed(make_test_window, tmp_path):
    window = make_test_window(path=tmp_path / "kite.rovix")
    window.font_watcher.watch()
    heard = []
    window.fonts_changed.connect(lambda: heard.append(True))
    (tmp_path / "notes.txt").write_text("beside the project, and no font")
    QTest.qWait(900)
    assert not heard
    (tmp_path / "fonts").mkdir()
    QTest.qWait(900)
    assert not heard, "an empty folder is no font"
    made_font(tmp_path / "fonts" / "print.ttf")
    assert wait_for(lambda: len(heard) == 1 and FAMILY in families(), 5000)


def test_saved_in_another_folder_its_fonts_go_along(make_test_window, tmp_path):
    (tmp_path / "fonts").mkdir()
    made_font(tmp_path / "fonts" / "print.ttf")
    window = make_test_window(path=tmp_path / "kite.rovix")
    window.document.select("big")
    window.sheet.page("Text").set_style("Change the family", family=FAMILY)
    (tmp_path / "copy").mkdir()
    assert window.document.save(tmp_path / "copy" / "kite.rovix")
    assert (tmp_path / "copy" / "fonts" / "print.ttf").is_file()
    assert FAMILY in families()


def test_fonts_beside_a_project_that_is_opened_have_not_come_only_now(make_test_window, tmp_path):
    window = make_test_window(path=tmp_path / "kite.rovix")
    window.font_watcher.watch()
    heard = []
    window.fonts_changed.connect(lambda: heard.append(True))
    other = tmp_path / "other"
    (other / "fonts").mkdir(parents=True)
    made_font(other / "fonts" / "print.ttf")
    window.document.show(window.document.whole, other, other / "kite.rovix")
    window.font_watcher._look()
    assert not heard
    made_font(other / "fonts" / "second.ttf", family="Larkmoor Late")
    window.font_watcher._look()
    assert heard
