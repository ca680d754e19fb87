"""Every command, run from the one table; and the flows of files."""

from collections import Counter

import msgspec
import pytest
from PySide6.QtCore import QMimeData, QPointF, Qt, QUrl
from PySide6.QtGui import QDropEvent, QKeySequence
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QDialog, QFileDialog

from rovix.desktop.commands import COMMANDS, MENUS, command
from rovix.desktop.dialogs.new_project import NewProject
from rovix.desktop.rehearsal import rehearse_span
from rovix.edit import change_text, clip_by_id, move_of
from rovix.formats import read_project, write_project
from rovix.model.consistency import inconsistencies
from rovix.time import Span
from waiting import wait_for

replace = msgspec.structs.replace
ASKING = {"import", "new", "open", "demo", "save", "save-as", "quit"}


@pytest.mark.parametrize("menu", MENUS)
def test_commands_run_with_a_layer_selected_and_undo_takes_them_back(window, menu):
    document, before = window.document, window.document.project
    for item in COMMANDS:
        if item.menu != menu or item.id in ASKING:
            continue
        document.select("small")
        document.seek(45)
        window.run(item.id)
        window.viewer.finish_words()
        window.projector.stop()
        for dialog in window.findChildren(QDialog):
            dialog.close()
        while document.history.undo_title:
            document.undo()
        assert document.project == before, item.id


def test_what_cannot_be_done_now_does_nothing(window):
    document = window.document
    document.select(None)
    idle = [item for item in COMMANDS if not item.when(window)]
    for item in idle:
        window.run(item.id)
        assert document.history.undo_title is None, item.id
        assert not window._actions[item.id].isEnabled(), item.id
    assert len(idle) > 30
    for item in COMMANDS:
        assert not item.shortcut or not QKeySequence(item.shortcut).isEmpty(), item.id


def test_no_two_commands_have_one_id():
    ids = Counter(item.id for item in COMMANDS)
    assert [identity for identity, times in ids.items() if times > 1] == []


def test_undo_and_redo_say_what(window):
    window.document.select("small")
    window.run("nudge-right")
    assert command("undo").said(window) == "Undo: Nudge Kite day"
    window.run("undo")
    assert command("redo").said(window) == "Redo: Nudge Kite day"
    assert clip_by_id(window.document.project, "small").start == 20


def test_copy_cut_and_paste_at_the_playhead(window, qapp, tmp_path, demo):
    document = window.document
    document.select("small")
    window.run("copy")
    assert qapp.clipboard().text() == "Kite day"
    document.seek(75)
    window.run("paste")
    copy = document.clip
    assert (copy.start, copy.text.content, copy.look.outlines[0].width) == (75, "Kite day", 6.0)
    assert copy.id != "small"
    assert inconsistencies(document.project) == []
    window.run("cut")
    assert clip_by_id(document.project, copy.id) is None
    assert document.history.undo_title.startswith("Cut")

    document.show(demo.tree, demo.base, None)
    document.select("kite-logo")
    window.run("copy")
    document.show(change_text(window.document.project, "title", content="Other"), tmp_path, None)
    document.seek(300)
    window.run("paste")
    pasted = document.project
    assert document.clip.media == "logo", "the same file, by its digest"
    assert len(pasted.media) == len(demo.tree.media)


def test_a_damaged_clipboard_is_said_and_changes_nothing(window, qapp):
    data = QMimeData()
    data.setData("application/x-rovix-project+json", b"{broken")
    qapp.clipboard().setMimeData(data)
    window.run("paste")
    assert window.document.history.undo_title is None
    assert "not opened" in window.messages._column.itemAt(0).widget().accessibleName()


def test_an_entrance_is_reversed_for_the_exit(window):
    window.document.select("big")
    window.run("reverse-entrance")
    leaving = move_of(clip_by_id(window.document.project, "big"), "exit")
    assert (leaving.name, leaving.role) == ("Pop", "exit")


@pytest.mark.parametrize(
    ("frame", "expected"),
    # The layer is 80 frames with an entrance of 6 and an exit of 18; the run-up is 15 frames.
    [(2, Span(0, 22)), (40, Span(0, 80)), (70, Span(47, 87))],
)
def test_rehearsal_takes_the_move_under_the_playhead(window, frame, expected):
    window.document.select("big")
    window.document.seek(frame)
    assert rehearse_span(window.document) == expected


def test_a_new_project_is_empty_after_asking(window, monkeypatch):
    window.document.do("Change", lambda p: change_text(p, "big", content="x"))
    monkeypatch.setattr(NewProject, "exec", lambda self: True)
    window.ask.answers = ["stay", "leave"]
    window.run("new")
    assert window.document.project.sequence.tracks
    window.run("new")
    assert window.document.project.sequence.tracks == ()
    assert window.document.path is None
    window.run("demo")
    assert window.document.project.name == "Larkmoor Kite Day"


def test_a_new_project_has_the_size_and_rate_that_were_chosen(qapp):
    dialog = NewProject()
    dialog.fields.size_box.setCurrentText("Portrait, 1080 × 1920")
    dialog.fields.rate_box.setCurrentText("29.97")
    dialog.name.setText("Kites")
    made = dialog.project()
    assert (made.name, made.sequence.size, made.sequence.rate) == ("Kites", (1080, 1920), "30000/1001")
    dialog.fields.size_box.setCurrentText("Own size")
    dialog.fields.width_box.setValue(640)
    dialog.fields.rate_box.setCurrentText("fast")
    dialog._create()
    assert dialog.result() == 0
    assert "no rate" in dialog._problem.text() or "not a rate" in dialog._problem.text()
    assert dialog.fields.width_box.isEnabled()
    dialog.deleteLater()


def test_open_save_and_save_as_go_through_their_windows(window, tmp_path, monkeypatch):
    path = tmp_path / "first.rovix"
    write_project(path, window.document.project)
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(path), ""))
    window.run("open")
    assert window.document.path == path
    window.document.do("Change", lambda p: change_text(p, "big", content="Saved"))
    window.run("save")
    assert clip_by_id(read_project(path), "big").text.content == "Saved"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(tmp_path / "second"), ""))
    window.run("save-as")
    assert window.document.path == tmp_path / "second.rovix"
    assert [p.name for p in window.files.recent()] == ["second.rovix", "first.rovix"]
    window.refresh_commands()
    assert [action.text() for action in window._recent.actions()] == ["second.rovix", "first.rovix"]
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: ("", ""))
    window.document.show(window.document.project, tmp_path, None)
    assert not window.files.save()


def test_media_is_brought_in_by_menu_and_by_dropping(window, tmp_path, monkeypatch, demo_data):
    document = window.document
    document.seek(12)
    bad = tmp_path / "notes.mp4"
    bad.write_text("no film")
    chosen = [str(demo_data / name) for name in ("hill-morning.mp4", "logo.png", "thump.flac")] + [str(bad)]
    monkeypatch.setattr(QFileDialog, "getOpenFileNames", lambda *_: (chosen, ""))
    window.run("import")
    assert wait_for(lambda: not window.session.is_busy, 60_000)
    assert document.history.undo_title == "Import 3 files"
    project = document.project
    assert [media.kind for media in project.media] == ["footage", "still", "sound"]
    placed = {clip.name: clip for track in project.sequence.tracks for clip in track.clips}
    assert placed["hill-morning"].start == placed["thump"].start == 12
    assert placed["logo"].start == 12 + 270, "pictures follow one another"
    assert placed["hill-morning"].length == 270
    assert placed["logo"].fit == "fit", "larger than the frame"
    assert inconsistencies(project) == []
    said = " ".join(
        window.messages._column.itemAt(n).widget().accessibleName()
        for n in range(window.messages._column.count())
    )
    assert "notes.mp4 could not be read" in said
    assert window.viewer._picture.pixels is not None

    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(demo_data / "logo.png"))])
    where = (
        QPointF(5, 5),
        Qt.DropAction.CopyAction,
        data,
        Qt.MouseButton.LeftButton,
        Qt.KeyboardModifier.NoModifier,
    )
    window.dropEvent(QDropEvent(*where))
    assert wait_for(lambda: not window.session.is_busy, 60_000)
    assert len(document.project.media) == 3, "the same file is used again"
    assert document.clip.name == "logo"


def test_bringing_in_can_be_cancelled(window, demo_data):
    window.import_media([demo_data / "hill-morning.mp4"] * 3)
    window.session._jobs[0].cancel()
    assert wait_for(lambda: not window.session.is_busy, 60_000)
    assert window.document.project.media == ()


def test_a_recent_project_that_is_gone_is_not_offered(window, tmp_path):
    path = tmp_path / "gone.rovix"
    write_project(path, window.document.project)
    window.files.open_path(path)
    path.unlink()
    assert window.files.recent() == []
    assert not window.files.open_path(path)


def test_the_welcome_strip_goes_when_something_is_opened(window):
    assert window.welcome.isVisible()
    window.run("demo")
    assert not window.welcome.isVisible()


def test_the_top_bar_shows_name_mark_and_facts(window):
    assert window.top_bar._name.text() == "Untitled"
    window.document.select("small")
    window.run("nudge-left")
    assert window.top_bar._name.text() == "Untitled •"
    assert window.windowTitle() == "Untitled* – Rovix"
    assert "640 × 360" in window.top_bar._facts.text()
    assert "Nudge Kite day" in window.top_bar._undo.toolTip()


def test_the_transport_shows_where_the_playhead_is(window):
    window.document.select("small")
    window.document.seek(31)
    assert window.transport._time.text() == "00:00:01:01"
    assert window.transport._layer.text() == "layer frame 11"
    window.document.seek(5)
    assert window.transport._layer.text() == ""


def test_the_status_counts_late_frames(window):
    window.projector.player.late, window.projector.player.played = 3, 90
    window.status._look()
    assert "late 3 of 90" in window.status._facts.text()


def test_zoom_and_pan_keep_their_limits(window):
    viewer = window.viewer
    viewer.zoom_to(100)
    assert viewer.view.scale == 8.0
    viewer.zoom_to(0.0001)
    assert viewer.view.scale == 0.1
    window.run("zoom-100")
    assert viewer.view.scale == 1.0
    left = viewer.view.left
    middle = Qt.MouseButton.MiddleButton
    QTest.mousePress(viewer, middle, pos=viewer.rect().center())
    QTest.mouseMove(viewer, viewer.rect().center() + viewer.rect().topLeft() * 0 + _right(30))
    QTest.mouseRelease(viewer, middle)
    assert viewer.view.left == pytest.approx(left + 30)
    window.run("fit")
    assert viewer._zoom is None


def _right(px):
    from PySide6.QtCore import QPoint

    return QPoint(px, 0)


def test_copying_or_cutting_a_layer_that_shows_a_sequence_says_why_not(window):
    from rovix.edit.sequences import add_sequence, put_in_sequence
    from rovix.model import Sequence

    document, said = window.document, []
    document.problem.connect(said.append)
    inner = Sequence(id="inner", name="Inner", tracks=document.project.sequence.tracks[:0])
    document.do("Add", lambda p: add_sequence(p, replace(inner, tracks=(p.sequence.tracks[0],))))
    document.do("Put in", lambda p: put_in_sequence(fresh_second(p), "inner", 0)[0])
    layer = next(c for t in document.project.sequence.tracks for c in t.clips if hasattr(c, "sequence"))
    document.select(layer.id)
    for name in ("copy", "cut"):
        window.run(name)
        assert "shows another sequence stays in its project" in said[-1]
    assert len(said) == 2
    assert clip_by_id(document.project, layer.id) == layer


def fresh_second(project):
    """The project with ids of their own in its second sequence."""
    from rovix.edit.fresh import fresh_ids

    second = replace(fresh_ids(project.sequences[1]), id="inner")
    return replace(project, sequences=(project.sequences[0], second))
