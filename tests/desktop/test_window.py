"""The real window, driven by mouse and keyboard."""

import av
import numpy as np
import pytest
from PySide6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PySide6.QtGui import QDropEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLineEdit

from rovix.desktop.commands import COMMANDS, MENUS
from rovix.desktop.dialogs.finder import Finder
from rovix.desktop.timeline.rows import rows_of
from rovix.edit import change_text, clip_by_id, move_of
from rovix.engine.local_pictures import LocalPictures
from rovix.engine.open_project import open_project
from rovix.formats import project_bytes, read_project, write_project
from rovix.motion import describe
from waiting import wait_for

LEFT = Qt.MouseButton.LeftButton
NONE = Qt.KeyboardModifier.NoModifier
SHIFT, CTRL = Qt.KeyboardModifier.ShiftModifier, Qt.KeyboardModifier.ControlModifier


def in_viewer(window, x, y) -> QPoint:
    """A point of the viewer by px from the frame's centre."""
    size = window.document.project.sequence.size
    return window.viewer.view.to_view(x + size[0] / 2, y + size[1] / 2).toPoint()


def in_timeline(window, identity, frame, low=False) -> QPoint:
    canvas = window.timeline.canvas
    project = window.document.project
    track = next(n for n, t in enumerate(project.sequence.tracks) for c in t.clips if c.id == identity)
    row = next(row for row in rows_of(project, canvas.lifted) if row.track == track)
    return QPoint(round(canvas.scale.x(frame)), row.bottom - 5 if low else row.top + 8)


def drag(widget, start: QPoint, end: QPoint, modifiers=NONE) -> None:
    QTest.mousePress(widget, LEFT, modifiers, start)
    for share in (0.25, 0.5, 0.75, 1.0):
        point = start + (end - start) * share
        QTest.mouseMove(widget, point)
        QTest.qWait(1)
    QTest.mouseRelease(widget, LEFT, modifiers, end)


def clip(window, identity="big"):
    return clip_by_id(window.document.project, identity)


def test_the_whole_story(make_test_window, tmp_path):
    """Types new words in the picture, takes on Pop, drags its length on the clip, plays, undoes all,
    redoes all, saves, reopens, exports, reads the file back."""
    window = make_test_window(workers=1)
    document, first = window.document, window.document.project
    document.seek(40)
    wait_for(lambda: window.viewer._picture is not None and window.viewer._picture.frame == 40, 60_000)
    QTest.mouseDClick(window.viewer, LEFT, NONE, in_viewer(window, -150, 0))
    assert window.viewer.editor is not None
    QTest.keyClick(window.viewer, Qt.Key.Key_A, CTRL)
    QTest.keyClicks(window.viewer, "Bring string")
    QTest.keyClick(window.viewer, Qt.Key.Key_Left)
    QTest.keyClick(window.viewer, Qt.Key.Key_Backspace)
    assert document.history.undo_title is None, "typing is a draft"
    QTest.mouseClick(window.viewer, LEFT, NONE, QPoint(4, 4))
    assert clip(window).text.content == "Bring strig"
    assert document.history.undo_title == "Change the words"

    document.select("small")
    window.shelf.open_role("entrance")
    QTest.mouseClick(window.shelf.card("Pop"), LEFT)
    assert move_of(clip(window, "small"), "entrance").name == "Pop"
    canvas = window.timeline.canvas
    landing = in_timeline(window, "small", 20 + 7, low=True)
    drag(canvas, landing, QPoint(round(canvas.scale.x(20 + 15)), landing.y()))
    assert document.rate.length(move_of(clip(window, "small"), "entrance").length) == 15

    document.seek(0)
    QTest.keyClick(window, Qt.Key.Key_Space)
    assert window.projector.playing
    wait_for(lambda: document.playhead > 10, 30_000)
    QTest.keyClick(window, Qt.Key.Key_K)
    assert not window.projector.playing
    assert document.playhead > 10

    last = document.project
    while document.history.undo_title:
        window.run("undo")
    assert document.project is first
    while document.history.redo_title:
        window.run("redo")
    assert document.project is last

    path = tmp_path / "kites.rovix"
    assert document.save(path)
    assert not document.history.is_changed
    assert window.files.open_path(path)
    assert project_bytes(document.project) == project_bytes(last)

    export = window.open_export()
    export.out.setText(str(tmp_path / "kites.mp4"))
    export.choices.size.setCurrentIndex(2)
    QTest.mouseClick(export.start_button, LEFT)
    assert window.exports.left == 1
    document.do("Retype while exporting", lambda p: change_text(p, "big", content="Meanwhile"))
    assert wait_for(lambda: window.exports.items[0].state == "done", 120_000)
    with av.open(str(tmp_path / "kites.mp4")) as container:
        frames = [frame.to_ndarray(format="bgr24") for frame in container.decode(video=0)]
    assert len(frames) == 90
    assert frames[0].shape == (180, 320, 3)
    with open_project(path) as opened:
        expected = opened.picture(60, (320, 180))[..., :3]
    assert np.abs(frames[60].astype(int) - expected).mean() < 6


def test_a_click_selects_the_highest_layer_under_it(window):
    window.document.seek(40)
    QTest.mouseClick(window.viewer, LEFT, NONE, in_viewer(window, 0, 0))
    assert window.document.selected == "small"
    QTest.mouseClick(window.viewer, LEFT, NONE, in_viewer(window, -200, 20))
    assert window.document.selected == "big"
    QTest.mouseClick(window.viewer, LEFT, NONE, in_viewer(window, 0, 160))
    assert window.document.selected == "ground"
    QTest.mouseClick(window.viewer, LEFT, NONE, QPoint(2, 2))
    assert window.document.selected is None


def test_a_layer_is_moved_by_hand_and_shift_keeps_one_axis(window):
    window.document.seek(40)
    window.run("snap")
    assert not window.viewer.snaps
    scale = window.viewer.view.scale
    start = in_viewer(window, -200, 20)
    drag(window.viewer, start, start + QPoint(round(50 * scale), round(20 * scale)))
    place = clip(window).transform
    assert (place.x, place.y) == (pytest.approx(50, abs=3), pytest.approx(20, abs=3))
    assert window.document.history.undo_title == "Move Larkmoor"
    window.run("undo")
    QTest.mousePress(window.viewer, LEFT, SHIFT, start)
    event_end = start + QPoint(round(60 * scale), round(12 * scale))
    window.viewer._dragged(QPointF(event_end), SHIFT)
    QTest.mouseRelease(window.viewer, LEFT, SHIFT, event_end)
    assert clip(window).transform.y == 0
    assert clip(window).transform.x == pytest.approx(60, abs=3)


def test_escape_drops_a_drag(window):
    window.document.seek(40)
    start = in_viewer(window, -200, 20)
    QTest.mousePress(window.viewer, LEFT, NONE, start)
    QTest.mouseMove(window.viewer, start + QPoint(40, 0))
    QTest.qWait(5)
    assert clip(window).transform.x != 0
    QTest.keyClick(window.viewer, Qt.Key.Key_Escape)
    QTest.mouseRelease(window.viewer, LEFT, NONE, start)
    assert clip(window).transform.x == 0
    assert window.document.history.undo_title is None


def test_corners_scale_and_the_stalk_turns(window):
    from rovix.desktop.viewer.geometry import stalk_handles

    document, viewer = window.document, window.viewer
    document.seek(40)
    document.select("small")
    QTest.qWait(5)
    quads = viewer._quads()
    pivot = viewer.view.to_view(*quads.pivot.tolist())
    corner = viewer.view.to_view(*quads.rest[2].tolist())
    drag(viewer, corner.toPoint(), (pivot + (corner - pivot) * 2).toPoint())
    assert clip(window, "small").transform.scale_x == pytest.approx(2, rel=0.06)
    assert clip(window, "small").transform.scale_y == clip(window, "small").transform.scale_x
    QTest.qWait(5)
    _, handle = stalk_handles(viewer.view, viewer._quads())["rotation_z"]
    way = handle - pivot
    drag(viewer, handle.toPoint(), (pivot + QPointF(-way.y(), way.x())).toPoint())
    assert clip(window, "small").transform.rotation_z == pytest.approx(90, abs=3)
    assert document.history.undo_title == "Rotate Kite day"


def test_arrows_step_frames_wherever_the_keyboard_is(window):
    window.document.seek(40)
    window.document.select("big")
    for part in (window.viewer, window.timeline.canvas):
        part.setFocus()
        QTest.keyClick(part, Qt.Key.Key_Right)
        QTest.keyClick(part, Qt.Key.Key_Left, SHIFT)
    assert window.document.playhead == 40 + 1 - 10 + 1 - 10
    assert clip(window).transform.x == 0


def test_words_are_edited_with_caret_selection_clipboard_and_undo(window, qapp):
    document, viewer = window.document, window.viewer
    document.seek(40)
    document.select("big")
    QTest.keyClick(window, Qt.Key.Key_F2)
    editor = viewer.editor
    QTest.keyClick(viewer, Qt.Key.Key_End)
    QTest.keyClicks(viewer, "s")
    QTest.keyClick(viewer, Qt.Key.Key_Return)
    qapp.clipboard().setText("plain\r\ntext")
    QTest.keyClick(viewer, Qt.Key.Key_V, CTRL)
    assert editor.text == "Larkmoors\nplain\ntext"
    QTest.keyClick(viewer, Qt.Key.Key_Left, CTRL | SHIFT)
    QTest.keyClick(viewer, Qt.Key.Key_X, CTRL)
    assert (editor.text, qapp.clipboard().text()) == ("Larkmoors\nplain\n", "text")
    QTest.keyClick(viewer, Qt.Key.Key_Z, CTRL)
    assert editor.text == "Larkmoors\nplain\ntext"
    assert clip(window).text.content == editor.text
    assert document.picture_project is not document.project, "moves are suspended in the picture alone"
    assert move_of(clip(window), "entrance") is not None
    QTest.keyClick(viewer, Qt.Key.Key_Escape)
    assert clip(window).text.content == "Larkmoors\nplain\ntext", "Escape ends typing and keeps the words"
    assert document.history.undo_title == "Change the words"
    assert document.picture_project is document.project
    document.undo()
    assert clip(window).text.content == "Larkmoor"


def test_an_input_method_composes_before_it_commits(window):
    from PySide6.QtGui import QInputMethodEvent

    window.document.seek(40)
    window.document.select("small")
    window.viewer.edit_words()
    QTest.keyClick(window.viewer, Qt.Key.Key_End)
    window.viewer.inputMethodEvent(QInputMethodEvent("かぜ", []))
    assert clip(window, "small").text.content == "Kite dayかぜ"
    assert window.viewer.editor.text == "Kite day"
    done = QInputMethodEvent()
    done.setCommitString("風")
    window.viewer.inputMethodEvent(done)
    window.viewer.finish_words()
    assert clip(window, "small").text.content == "Kite day風"


def test_single_letters_are_words_while_words_are_typed(window):
    window.document.seek(40)
    window.document.select("big")
    window.viewer.edit_words()
    QTest.keyClicks(window.viewer, "JKL st")
    assert not window.projector.playing
    assert window.viewer.editor.text == "JKL st"
    assert len(window.document.project.sequence.tracks) == 3


def test_t_puts_words_at_the_playhead(window):
    window.document.seek(33)
    window.timeline.canvas.setFocus()
    QTest.keyClick(window.timeline.canvas, Qt.Key.Key_T)
    QTest.keyClicks(window.viewer, "Launch")
    window.viewer.finish_words()
    added = window.document.clip
    assert (added.text.content, added.start, added.length) == ("Launch", 33, 120)


def test_clips_are_selected_moved_trimmed_split_and_removed_in_the_timeline(window):
    canvas, document = window.timeline.canvas, window.document
    grip = in_timeline(window, "small", 45)
    drag(canvas, grip, grip + QPoint(round(11 * canvas.scale.px), 0))
    assert clip(window, "small").start == pytest.approx(31, abs=1)
    window.run("undo")
    end = in_timeline(window, "small", 70) - QPoint(2, 0)
    drag(canvas, end, end - QPoint(round(20 * canvas.scale.px), 0))
    assert clip(window, "small").span.end == pytest.approx(50, abs=1)
    assert document.history.undo_title == "Trim the end of Kite day"
    window.run("undo")
    start = in_timeline(window, "small", 20) + QPoint(2, 0)
    drag(canvas, start, start + QPoint(round(9 * canvas.scale.px), 0))
    assert clip(window, "small").start == pytest.approx(29, abs=1)
    window.run("undo")
    document.seek(45)
    canvas.setFocus()
    QTest.keyClick(canvas, Qt.Key.Key_S)
    assert len(document.project.sequence.tracks[2].clips) == 2
    QTest.keyClick(canvas, Qt.Key.Key_Delete)
    assert [c.id for c in document.project.sequence.tracks[2].clips] != ["small"]
    QTest.keyClick(canvas, Qt.Key.Key_Z, CTRL)
    QTest.keyClick(canvas, Qt.Key.Key_Z, CTRL)
    document.select("small")
    QTest.keyClick(canvas, Qt.Key.Key_D, CTRL)
    assert len(document.project.sequence.tracks[2].clips) == 2


def test_a_moved_clip_catches_on_other_edges(window):
    canvas = window.timeline.canvas
    grip = in_timeline(window, "small", 45)
    near = round((80 - 70) * canvas.scale.px) - 4
    drag(canvas, grip, grip + QPoint(near, 0))
    assert clip(window, "small").span.end == 80


def test_a_clip_dragged_to_another_track_goes_there(window):
    canvas = window.timeline.canvas
    window.document.do("Make room", lambda p: p)
    grip = in_timeline(window, "small", 45)
    below = in_timeline(window, "big", 45)
    drag(canvas, grip, QPoint(grip.x() + round(60 * canvas.scale.px), below.y()))
    assert [c.id for c in window.document.project.sequence.tracks[1].clips] == ["big", "small"]


def test_headers_hide_lock_and_rename_tracks(window):
    from rovix.desktop.timeline.headers import mark_box

    canvas, document = window.timeline.canvas, window.document
    row = rows_of(document.project)[0]
    QTest.mouseClick(canvas, LEFT, NONE, mark_box(row, 0).center().toPoint())
    assert document.project.sequence.tracks[2].hidden
    assert document.history.undo_title.startswith("Hide")
    QTest.mouseClick(canvas, LEFT, NONE, mark_box(row, 1).center().toPoint())
    assert document.project.sequence.tracks[2].locked
    grip = in_timeline(window, "small", 45)
    drag(canvas, grip, grip + QPoint(40, 0))
    assert clip(window, "small").start == 20, "a locked track's clips stay"
    QTest.mouseDClick(canvas, LEFT, NONE, QPoint(30, row.top + 8))
    edit = canvas.findChild(QLineEdit)
    edit.setText("Titles")
    QTest.keyClick(edit, Qt.Key.Key_Return)
    assert document.project.sequence.tracks[2].name == "Titles"


def test_the_ruler_scrubs_and_ctrl_wheel_zooms_at_the_mouse(window):
    canvas = window.timeline.canvas
    QTest.mouseClick(canvas, LEFT, NONE, QPoint(round(canvas.scale.x(57.5)), 10))
    assert window.document.playhead == 57
    at = canvas.scale.x(57.5)
    canvas.set_scale(canvas.scale.zoomed(2.0, at))
    assert canvas.scale.frame(at) == pytest.approx(57.5)
    window.run("timeline-fit")
    assert canvas.scale.first == 0


def test_hovering_a_card_tries_it_on_leaving_drops_it_clicking_takes_it_on(window):
    document = window.document
    document.select("small")
    card = window.shelf.card("Wave")
    card.entered.emit()
    assert move_of(clip(window, "small"), "entrance").name == "Wave"
    assert document.history.undo_title is None
    card.left.emit()
    assert move_of(clip(window, "small"), "entrance") is None
    QTest.mouseClick(card, LEFT)
    assert move_of(clip(window, "small"), "entrance").name == "Wave"
    assert document.history.undo_title == "Apply Wave"
    QTest.mouseClick(window.shelf.card("None"), LEFT)
    assert move_of(clip(window, "small"), "entrance") is None


def test_cards_show_the_selected_words(make_test_window):
    window = make_test_window(cards=LocalPictures())
    window.document.select("small")
    cards = window.shelf._cards
    assert wait_for(lambda: all(card._image is not None for card in cards), 20_000)
    assert cards[0]._image != cards[2]._image


def test_the_controls_of_a_move_tune_it(window):
    document, controls = window.document, window.sheet.page("Motion")
    document.select("small")
    window.shelf.apply_move(3)  # Wave
    controls.pace.by.chosen.emit("span")
    controls._pieces.chosen.emit("words")
    controls._order.setCurrentIndex(controls._order.findData("reversed"))
    controls._order.activated.emit(0)
    controls._at_once.committed.emit(2.0)
    controls._piece_curve.chosen.emit("back-out")
    controls._length.committed.emit(0.8)
    move = move_of(clip(window, "small"), "entrance")
    assert (move.pieces, move.order, move.at_once, move.piece_curve, move.length) == (
        "words",
        "reversed",
        2.0,
        "back-out",
        0.8,
    )
    controls._stagger.committed.emit(6.0)
    assert move_of(clip(window, "small"), "entrance").stagger == pytest.approx(0.2)
    assert controls._at_once.value == pytest.approx(24 / 6 - 1)
    controls.strip.committed.emit(12)
    assert move_of(clip(window, "small"), "entrance").length == pytest.approx(0.4)
    controls._piece_curve._box.setCurrentText("wobble")
    controls._piece_curve._take()
    assert "wobble" in message_text(window)


def message_text(window) -> str:
    column = window.messages._column
    return " ".join(column.itemAt(n).widget().accessibleName() for n in range(column.count()))


def test_the_sheet_follows_the_selection(window):
    window.document.select(None)
    assert not window.sheet._nothing.isHidden()
    assert window.sheet.opened == []
    window.document.select("ground")
    assert window.sheet.section("Text").isHidden(), "what does nothing for a ground is not offered"
    window.document.select("big")
    window.sheet.open_page("Text")
    assert window.sheet.page("Text")._text.toPlainText() == "Larkmoor"


def test_the_sheet_changes_words_look_and_place(window):
    window.document.select("big")
    window.sheet.open_page("Text")
    page = window.sheet.page("Text")
    page._text.setPlainText("Kites")
    page._text.left.emit()
    page._size.committed.emit(90.0)
    page._align.chosen.emit("left")
    page.set_style("Change the family", family="Oswald")
    words = clip(window).text
    assert (words.content, words.size, words.align, words.family) == ("Kites", 90.0, "left", "Oswald")
    place = window.sheet.page("Transform")
    place._fields["rotation_z"].tried.emit(30.0)
    assert clip(window).transform.rotation_z == 30
    place._fields["rotation_z"].dropped.emit()
    assert clip(window).transform.rotation_z == 0
    place._fields["x"].committed.emit(25.0)
    assert clip(window).transform.x == 25
    assert window.document.history.undo_title == "Change the position X"


def test_the_place_page_sets_the_blend(window):
    window.document.select("big")
    window.sheet.open_page("Transform")
    page = window.sheet.page("Transform")
    page._blend.setCurrentIndex(page._blend.findData("soft-light"))
    page._set_blend()
    assert clip(window).blend == "soft-light"
    assert window.document.history.undo_title == "Blend by soft light"
    window.run("undo")
    assert (clip(window).blend, page._blend.currentData()) == ("normal", "normal")


def test_the_sound_page_sets_gain_and_fades(window, demo):
    document = window.document
    document.show(demo.tree, demo.base, None)
    document.select("bed")
    page = window.sheet.page("Sound")
    assert window.sheet.opened == ["Sound"], "of pages that are open none is a sound's, so its first is"
    page._channels["gain"].committed.emit(-20.0)
    page._fades["fade_in"].committed.emit(300.0)
    bed = clip(window, "bed")
    assert (bed.sound.gain, bed.sound.fade_in, bed.sound.fade_out) == (-20.0, 300, 27), (
        "fades together fill the clip at most"
    )
    document.select("hill")
    assert page._fades["fade_in"].isEnabled(), "footage fades its own sound"
    assert window.sheet.opened == ["Motion", "Sound"], "what was open stays so where it belongs"
    page._channels["gain"].committed.emit(-3.0)
    assert clip(window, "hill").sound.gain == -3.0


def test_every_command_has_a_menu_and_no_shortcut_twice(window):
    shortcuts = [item.shortcut for item in COMMANDS if item.shortcut]
    assert len(shortcuts) == len(set(shortcuts))
    assert {item.menu for item in COMMANDS} == set(MENUS)
    assert len({item.id for item in COMMANDS}) == len(COMMANDS)


def test_the_finder_finds_and_runs(window):
    finder = Finder(window)
    for typed, title in (("rest gh", "Rest ghost"), ("play", "Play or pause")):
        finder.field.setText(typed)
        assert finder._found[0].title == title
    finder.field.setText("to the end")
    QTest.keyClick(finder.field, Qt.Key.Key_Return)
    assert window.document.playhead == window.document.length - 1
    finder.deleteLater()


def test_ranges_and_rehearsal(window):
    document = window.document
    document.select("big")
    document.seek(10)
    window.run("range-in")
    document.seek(30)
    window.run("range-out")
    assert (document.range.start, document.range.end) == (10, 31)
    window.run("play")
    assert document.playhead in document.range
    window.run("pause")
    window.run("range-clear")
    document.seek(2)
    window.run("rehearse")
    assert window.projector.playing
    assert window.projector.player._loop
    window.run("pause")
    assert window.transport._rehearse.text() == "Rehearse entrance"


def test_j_and_l_shuttle_faster_each_time(window):
    window.document.seek(45)
    window.run("forward")
    window.run("forward")
    assert window.projector.player.speed == 2.0
    window.run("back")
    assert window.projector.player.speed == -1.0
    window.run("pause")


def test_closing_asks_and_staying_stays(make_test_window, tmp_path):
    window = make_test_window()
    window.document.do("Change", lambda p: change_text(p, "big", content="x"))
    window.ask.answers = ["stay"]
    window.close()
    assert window.isVisible()
    assert window.ask.asked == ["Save the changes to Untitled?"]
    window.document.path = tmp_path / "kept.rovix"
    window.ask.answers = ["save"]
    window.close()
    assert not window.isVisible()
    assert clip_by_id(read_project(tmp_path / "kept.rovix"), "big").text.content == "x"


def test_a_project_is_dropped_in_and_a_bad_one_says_why(window, tmp_path):
    path = tmp_path / "in.rovix"
    write_project(path, change_text(window.document.project, "big", content="Dropped"))

    def drop(file):
        data = QMimeData()
        data.setUrls([QUrl.fromLocalFile(str(file))])
        window.dropEvent(QDropEvent(QPointF(5, 5), Qt.DropAction.CopyAction, data, LEFT, NONE))

    drop(path)
    assert window.document.path == path
    assert [p.name for p in window.files.recent()] == ["in.rovix"]
    (tmp_path / "bad.rovix").write_text("{")
    drop(tmp_path / "bad.rovix")
    assert window.document.path == path, "the work stays as it was"
    assert "not opened" in message_text(window)


def test_saving_elsewhere_keeps_the_media(window, tmp_path, demo):
    window.document.show(demo.tree, demo.base, None)
    (tmp_path / "deep").mkdir()
    assert window.document.save(tmp_path / "deep" / "day.rovix")
    with open_project(tmp_path / "deep" / "day.rovix") as opened:
        assert opened.picture(10, (320, 180)).any()


def test_a_save_that_fails_says_so_and_loses_nothing(window, tmp_path):
    window.document.do("Change", lambda p: change_text(p, "big", content="x"))
    assert not window.document.save(tmp_path / "none" / "a.rovix")
    assert window.document.history.is_changed
    assert "could not be saved" in message_text(window)


def test_the_profile_is_the_motion_that_describe_gives(window):
    from rovix.desktop.timeline.profile_painter import profile_of

    project, document = window.document.project, window.document
    heights = profile_of(clip(window), project.sequence.size, document.rate).heights
    for frame in (0, 2, 4, 6, 40, 61, 70, 79):
        piece = describe(project, frame)["layers"][1]["pieces"][0]
        entrance = (piece["scale_x"] - 0.4) / 0.6 if frame < 10 else piece["opacity"]
        index = round(frame / 79 * (len(heights) - 1))
        assert heights[index] == pytest.approx(entrance, abs=0.09)
    assert heights.max() > 1.05, "the overshoot stands above rest"


def test_widgets_have_names_and_the_keyboard_reaches_them(window):
    from PySide6.QtWidgets import QAbstractButton, QComboBox, QLineEdit

    for kind in (QAbstractButton, QComboBox):
        for widget in window.findChildren(kind):
            if widget.isVisible() and not isinstance(widget.parent(), QLineEdit):
                assert (
                    widget.accessibleName() or widget.text()
                    if kind is QAbstractButton
                    else widget.accessibleName()
                )
                assert (
                    widget.focusPolicy() != Qt.FocusPolicy.NoFocus
                    or widget.metaObject().className() == "QToolButton"
                )


@pytest.mark.parametrize(("size", "scale"), [((1280, 800), 1.0), ((1920, 1080), 1.0), ((1280, 800), 1.5)])
def test_nothing_is_cut_off(make_test_window, qapp, size, scale):
    from PySide6.QtWidgets import QLabel, QPushButton

    from rovix.desktop.theme import apply_theme

    apply_theme(qapp, scale)
    try:
        window = make_test_window()
        window.scale_panels(scale)
        window.resize(*size)
        window.document.select("small")
        QTest.qWait(60)
        qapp.processEvents()  # what a timer changed last is laid out too
        qapp.processEvents()
        assert (window.width(), window.height()) == size
        for widget in [*window.findChildren(QLabel), *window.findChildren(QPushButton)]:
            if not widget.isVisible() or not widget.text():
                continue
            wrapped = isinstance(widget, QLabel) and widget.wordWrap()
            room = widget.fontMetrics().horizontalAdvance(widget.text())
            assert wrapped or widget.width() >= room, f"{widget.text()!r} has {widget.width()} of {room} px"
    finally:
        apply_theme(qapp, 1.0)


def test_an_emptied_project_says_what_to_do(make_test_window):
    from builders import project_of

    window = make_test_window(project_of())
    assert window.document.length == 1
    window.run("play")
    window.run("pause")
    QTest.keyClick(window, Qt.Key.Key_T)
    assert window.viewer.editor is not None
