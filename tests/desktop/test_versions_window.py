"""Saving keeps versions; one is shown with its time and picture, and opened as a copy."""

from datetime import UTC, datetime, timedelta

from gestures import clip
from PySide6.QtWidgets import QPushButton
from test_several_clips import told

from rovix.desktop.dialogs.versions_window import VersionsWindow, said_time
from rovix.edit import change_text
from rovix.engine.earlier_versions import keep_version, versions_of
from waiting import wait_for


def saved(window, path, words):
    window.document.do("Words", lambda p: change_text(p, "big", content=words))
    assert window.files._save_to(path)


def test_each_save_keeps_a_version_and_one_is_opened_as_a_copy(window, tmp_path):
    path = tmp_path / "kite.rovix"
    saved(window, path, "First")
    assert wait_for(lambda: len(versions_of(path)) == 1, 5000)
    keep_version(
        path, path.read_bytes().replace(b"First", b"Older"), b"", datetime(2026, 1, 2, 3, 4, tzinfo=UTC)
    )
    window.run("versions")
    dialog = window.findChild(VersionsWindow)
    assert dialog.list.count() == 2
    assert dialog.list.item(0).text().startswith("today")
    assert not dialog.list.item(0).icon().isNull(), "with the picture that was up"
    dialog.list.setCurrentRow(1)
    next(b for b in dialog.findChildren(QPushButton) if b.text() == "Open as a copy").click()
    document = window.document
    assert clip(window, "big").text.content == "Older"
    assert document.path is None
    assert document.name.startswith("kite, 2 Jan 2026")
    assert document.history.is_changed, "it is in no file"
    assert b"First" in path.read_bytes(), "the project itself stays"


def test_without_a_file_or_a_version_it_is_said(window, tmp_path):
    window.files.show_versions()
    assert "not saved yet" in told(window)
    window.document.path = tmp_path / "kite.rovix"
    window.files.show_versions()
    assert window.findChild(VersionsWindow) is None


def test_a_damaged_file_of_versions_is_told_once_and_saving_goes_on(window, tmp_path):
    path = tmp_path / "kite.rovix"
    (tmp_path / ".kite.versions.zip").write_bytes(b"no zip")
    heard = []
    window.document.told.connect(heard.append)
    saved(window, path, "One")
    saved(window, path, "Two")
    assert wait_for(lambda: heard, 5000)
    window.files.versions.wait()
    assert len(heard) == 1
    assert "cannot be read" in heard[0]
    assert b"Two" in path.read_bytes()


def test_times_are_said_as_people_say_them():
    now = datetime(2026, 11, 30, 12, 0, tzinfo=UTC).astimezone()
    assert said_time(now - timedelta(hours=1), now).startswith("today, ")
    assert said_time(now - timedelta(days=1), now).startswith("yesterday, ")
    assert "Nov 2026" in said_time(now - timedelta(days=9), now)


def test_saving_in_another_folder_is_no_step_and_undone_files_are_still_found(
    make_test_window, demo, tmp_path
):
    window = make_test_window(demo.tree, demo.base)
    document = window.document
    before = document.whole
    document.do("Words", lambda p: change_text(p, "title", content="Kites"))
    assert document.save(tmp_path / "deep" / "kite.rovix") is False, "there is no such folder"
    (tmp_path / "deep").mkdir()
    assert document.save(tmp_path / "deep" / "kite.rovix")
    assert document.history.undo_title == "Words"
    assert not document.history.is_changed
    document.undo()
    assert document.history.undo_title is None
    for old, new in zip(before.media, document.whole.media, strict=True):
        assert (document.base / new.path).resolve() == (demo.base / old.path).resolve()
    assert document.history.is_changed
    document.redo()
    assert clip(window, "title").text.content == "Kites"
