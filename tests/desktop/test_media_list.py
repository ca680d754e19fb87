"""The bin, missing files, and files of all kinds brought in through the window."""

import shutil

import pytest
from gestures import LEFT, NONE, clip
from PySide6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PySide6.QtGui import QDropEvent, QGuiApplication
from PySide6.QtTest import QTest

from builders import loud_project
from made_files import hostile_files, square_wave
from rovix.desktop.shelf.media_list import media_facts
from rovix.desktop.timeline.canvas import MEDIA_KIND
from rovix.desktop.timeline.scale import Scale
from rovix.edit.importing import with_media
from rovix.media.probe import probe
from rovix.model import Media, Project
from waiting import wait_for


@pytest.fixture
def folder(tmp_path, demo_data):
    """A folder of one's own with a few files."""
    for name in ("logo.png", "thump.flac", "whoosh.flac"):
        shutil.copy(demo_data / name, tmp_path / name)
    return tmp_path


@pytest.fixture
def window(make_test_window, folder):
    project = Project(id="p")
    for name in ("logo.png", "thump.flac", "whoosh.flac"):
        project, _ = with_media(project, probe(folder / name, folder))
    made = make_test_window(project, folder)
    made.run("media-list")
    return made


def names(window):
    files = window.shelf.media.files
    return [files.data(files.index(row, 0)) for row in range(files.rowCount())]


def choose(window, *rows):
    view = window.shelf.media.view
    view.clearSelection()
    for row in rows:
        view.selectionModel().select(
            window.shelf.media.files.index(row, 0), view.selectionModel().SelectionFlag.Select
        )


def test_files_are_listed_with_their_facts_and_found_by_name(window):
    assert names(window) == ["logo", "thump", "whoosh"]
    assert media_facts(window.document.whole.media[0]) == "640 × 640"
    assert media_facts(
        Media(path="a.mp4", kind="footage", width=64, height=36, rate="30000/1001", length=75.5)
    ) == ("64 × 36 · 29.97 fps · 1:15.50")
    tip = window.shelf.media.files.data(window.shelf.media.files.index(1, 0), Qt.ItemDataRole.ToolTipRole)
    assert "thump.flac" in tip
    window.shelf.media._search.setText("oos")
    assert names(window) == ["whoosh"]
    assert window.shelf.media.grab().toImage().width() > 100


def test_a_name_is_typed_in_the_list_and_undone(window):
    files = window.shelf.media.files
    assert files.setData(files.index(0, 0), "Round logo")
    assert names(window)[0] == "Round logo"
    assert window.document.history.undo_title == "Rename logo"
    window.run("undo")
    assert names(window)[0] == "logo"
    assert not files.setData(files.index(0, 0), "  ")


def test_files_are_put_in_by_enter_by_the_button_and_by_dragging(window):
    document, view = window.document, window.shelf.media.view
    document.seek(0)
    choose(window, 0)
    view.setFocus()
    QTest.keyClick(view, Qt.Key.Key_Return)
    assert (document.clip.name, document.clip.start) == ("logo", 0)
    choose(window, 1, 2)
    QTest.mouseClick(window.shelf.media._put, LEFT)
    assert len(document.selection) == 2
    first, second = (clip(window, identity) for identity in document.selection)
    assert second.start == first.span.end
    canvas = window.timeline.canvas
    canvas.set_scale(Scale(4.0, 0.0))
    files = window.shelf.media.files
    data = files.mimeData([files.index(2, 0)])
    assert data.hasFormat(MEDIA_KIND)
    row = next(row for row in canvas.rows() if document.project.sequence.tracks[row.track].kind == "sound")
    where = QPointF(canvas.scale.x(80), row.top + 5)
    buttons = (Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier)
    canvas.dropEvent(QDropEvent(where, Qt.DropAction.CopyAction, data, *buttons))
    assert (document.clip.name, document.clip.start) == ("whoosh", 80)
    while document.history.undo_title:
        document.undo()
    assert document.project.sequence.length == 0


def test_a_file_in_use_stays_on_the_list_with_the_reason(window):
    choose(window, 0)
    window.shelf.media.put_in()
    view = window.shelf.media.view
    view.setFocus()
    choose(window, 0, 1)
    QTest.keyClick(view, Qt.Key.Key_Delete)
    assert names(window) == ["logo", "whoosh"]
    assert "one clip plays it" in window.messages._column.itemAt(0).widget().accessibleName()


def test_files_dropped_on_the_list_join_it_without_a_clip(window, demo_data):
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(demo_data / "hill-morning.mp4"))])
    buttons = (Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier)
    window.shelf.media.view.dropEvent(QDropEvent(QPointF(9, 9), Qt.DropAction.CopyAction, data, *buttons))
    assert wait_for(lambda: not window.session.is_busy, 60_000)
    assert names(window)[-1] == "hill-morning"
    assert window.document.project.sequence.length == 0


def test_files_are_pasted_from_the_file_manager(window, demo_data):
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(demo_data / "hill-morning.mp4"))])
    QGuiApplication.clipboard().setMimeData(data)
    window.run("paste")
    assert wait_for(lambda: not window.session.is_busy, 60_000)
    assert window.document.clip.name == "hill-morning"


def test_missing_files_are_named_and_found_in_a_folder(window, folder):
    from rovix.formats import write_project

    path = folder / "kites.rovix"
    write_project(path, window.document.whole)
    moved = folder / "moved"
    moved.mkdir()
    shutil.move(folder / "thump.flac", moved / "other name.flac")
    shutil.move(folder / "whoosh.flac", moved / "whoosh.flac")
    window.document.history.mark_saved(window.document.history.committed)
    window.files.open_path(path)
    column = window.messages._column
    assert "2 files are missing" in column.itemAt(0).widget().accessibleName()
    assert [media.title for media in window.missing_media()] == ["thump", "whoosh"]
    assert window.shelf.media._missing.isVisibleTo(window.shelf.media)
    window.ask_folder = lambda *_: moved
    window.run("find-media")
    assert wait_for(lambda: not window.session.is_busy, 60_000)
    assert window.missing_media() == []
    assert [m.path for m in window.document.whole.media][1:] == ["moved/other name.flac", "moved/whoosh.flac"]
    assert window.document.history.undo_title == "Find missing media"
    window.run("undo")
    window.shelf.media.refresh(True)
    assert len(window.missing_media()) == 2


def test_what_is_not_found_is_named(window, folder, tmp_path):
    (folder / "thump.flac").unlink()
    nothing = folder / "nothing"
    nothing.mkdir()
    window.ask_folder = lambda *_: nothing
    window.relink_missing()
    assert wait_for(lambda: not window.session.is_busy, 60_000)
    assert "Not found" in window.messages._column.itemAt(0).widget().accessibleName()


def test_a_folder_of_hostile_files_leaves_the_window_up(make_test_window, tmp_path):
    window = make_test_window(base=tmp_path)
    paths = hostile_files(tmp_path)
    window.import_media(paths)
    assert wait_for(lambda: not window.session.is_busy, 90_000)
    known = {media.path for media in window.document.whole.media}
    assert {"whole.mp4", "one.png", "wide.png"} <= known
    message = window.messages._column.itemAt(0).widget()
    refused = len(paths) - len(known)
    # The same content under two names is one file on the list.
    assert f" of {len(paths)} files were not imported" in message.accessibleName()
    assert refused > 20
    window.document.seek(0)
    QTest.qWait(30)
    assert window.viewer._picture is not None
    window.run("media-list")
    assert window.grab().toImage().width() > 800
    window.run("undo")
    assert window.document.whole.media == ()


def test_sequences_are_added_opened_shown_and_left(make_test_window, monkeypatch):
    from rovix.desktop.dialogs.sequence_settings import SequenceSettings

    window = make_test_window()
    document = window.document

    def answered(dialog):
        dialog.name.setText("Tall")
        dialog.fields.size_box.setCurrentText("Portrait, 1080 × 1920")
        dialog.fields.rate_box.setCurrentText("25")
        dialog.choose_background("#123456")
        return True

    monkeypatch.setattr(SequenceSettings, "exec", answered)
    window.run("new-sequence")
    tall = document.project.sequence
    assert (tall.name, tall.size, tall.rate, tall.background) == ("Tall", (1080, 1920), "25", "#123456")
    assert window.timeline.trail.isVisibleTo(window.timeline)
    window.run("put-in-sequence")
    assert document.clip.length == 75, "90 frames of 30 a second are 75 of 25"
    dialog = window.open_sequences()
    assert dialog.list.count() == 2
    dialog.list.setCurrentRow(0)
    dialog.open_chosen()
    assert document.project.sequence.name == "Sequence"
    dialog.copy_chosen()
    dialog.list.item(2).setText("Third")
    assert [s.name for s in document.whole.sequences] == ["Sequence", "Tall", "Third"]
    dialog.list.setCurrentRow(1)
    dialog.put_in_chosen()
    assert "would show itself" in window.messages._column.itemAt(0).widget().accessibleName()
    dialog.list.setCurrentRow(2)
    dialog.remove_chosen()
    assert len(document.whole.sequences) == 2
    dialog.accept()
    monkeypatch.setattr(
        SequenceSettings, "exec", lambda self: self.follow.setCurrentIndex(1) or answered(self)
    )
    window.run("sequence-settings")
    assert document.project.sequence.size == (1080, 1920)
    while document.history.undo_title:
        document.undo()
    assert len(document.whole.sequences) == 1
    assert document.level.sequence == "s"


def test_a_wrong_rate_is_said_in_the_window_itself(qapp):
    from rovix.desktop.dialogs.sequence_settings import SequenceSettings
    from rovix.model import Sequence

    dialog = SequenceSettings(Sequence(id="s"), "Sequence", "Change")
    dialog.fields.rate_box.setCurrentText("quick")
    dialog._take()
    assert "not a rate" in dialog._problem.text()
    dialog.deleteLater()


def test_the_meter_shows_the_frame_and_keeps_clipping_marked(make_test_window, tmp_path):
    square_wave(tmp_path / "a.wav", 1.0)
    window = make_test_window(loud_project(12.0), tmp_path)
    meter = window.timeline.meter
    assert wait_for(lambda: len(window.thumbnails.levels) == 30, 20_000)
    assert meter.decibels().tolist() == [-48.0, -48.0]
    window.document.seek(15)
    # 0.5 at 12 dB and panned hard left: 20 lg(0.5) + 12 + 3.01 dB.
    assert meter.decibels()[0] == pytest.approx(-6.02 + 12 + 3.01, abs=0.02)
    assert meter.clipped.tolist() == [True, False]
    window.document.seek(0)
    assert meter.clipped[0], "it stays lit"
    assert window.timeline.grab().toImage().width() > 100
    QTest.mouseClick(meter, LEFT, NONE, QPoint(5, 5))
    assert not meter.clipped.any()
