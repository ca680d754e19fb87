"""Each gesture of the timeline with the mouse, and again with the keyboard; the model is what counts."""

import pytest
from gestures import ALT, CTRL, LEFT, NONE, SHIFT, at, click, clip, drag, press, row_of, row_point, spans
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLineEdit, QPushButton

from builders import title
from rovix.desktop.timeline.headers import mark_box
from rovix.desktop.timeline.scale import HEADER, RULER, Scale
from rovix.model import (
    BackgroundClip,
    FootageClip,
    GroupClip,
    Media,
    Project,
    Sequence,
    ShapeClip,
    Sound,
    SoundClip,
    Track,
)
from rovix.model.consistency import inconsistencies
from rovix.motion.ready_moves import pop
from waiting import wait_for

Key = Qt.Key


def project_with_everything():
    """Footage and a ground that touch, three text layers, a hum; 150 frames."""
    film = Media(id="reel", path="reel.mp4", kind="footage", width=640, height=360, length=10.0, rate="30")
    hum = Media(id="tone", path="tone.wav", kind="sound", length=20.0)
    tracks = (
        Track(id="shots", name="Shots", clips=(
            FootageClip(id="shot", name="Shot", media="reel", length=60, offset=30),
            BackgroundClip(id="back", name="Back", start=60, length=90),
        )),
        Track(id="low", name="Low", clips=(title("One", id="one", name="One", start=10, length=30, moves=[pop()]),)),
        Track(id="high", name="High", clips=(
            title("Two", id="two", name="Two", start=20, length=30),
            title("Three", id="three", name="Three", start=90, length=30),
        )),
        Track(id="noise", name="Noise", kind="sound", clips=(
            SoundClip(id="hum", name="Hum", media="tone", start=15, length=100, sound=Sound(fade_in=10)),
        )),
    )  # fmt: skip
    sequence = Sequence(id="main", size=(640, 360), rate="30", tracks=tracks)
    return Project(id="all", sequences=(sequence,), media=(film, hum))


@pytest.fixture
def window(make_test_window):
    made = make_test_window(project_with_everything())
    made.first = made.document.project
    made.timeline.canvas.set_scale(Scale(4.0, 0.0))
    made.timeline.canvas.setFixedHeight(260)
    QTest.qWait(5)
    return made


def undone(window):
    """Undo everything, and say whether the first project is back."""
    while window.document.history.undo_title:
        window.document.undo()
    return window.document.project is window.first


def test_clips_are_selected_by_click_by_adding_and_by_rubber_band(window):
    document = window.document
    click(window, at(window, "one", 25))
    assert document.selection == ("one",)
    click(window, at(window, "two", 35), CTRL)
    assert document.selection == ("one", "two")
    click(window, at(window, "one", 25), CTRL)
    assert document.selection == ("two",)
    drag(window.timeline.canvas, row_point(window, 2, 60), row_point(window, 1, 28))
    assert set(document.selection) == {"one", "two"}
    drag(window.timeline.canvas, row_point(window, 2, 130), row_point(window, 2, 110), CTRL)
    assert set(document.selection) == {"one", "two", "three"}
    assert window.timeline.canvas.band is None
    click(window, row_point(window, 1, 140))
    assert document.selection == ()


def test_clips_are_selected_with_the_keyboard(window):
    document = window.document
    press(window, Key.Key_A, CTRL)
    assert len(document.selection) == 6
    document.seek(20)
    press(window, Key.Key_A, CTRL | SHIFT)
    assert set(document.selection) == {"back", "two", "three"}
    press(window, Key.Key_D, CTRL | SHIFT)
    assert document.selection == ()
    window.run("select-next")
    window.run("add-next")
    assert document.selection == ("shot", "one")
    window.run("select-previous")
    assert document.selection == ("shot",)


def test_several_clips_move_together(window):
    document = window.document
    document.select("one", "two")
    start = at(window, "two", 35)
    drag(window.timeline.canvas, start, start + QPoint(4 * 7, 0))
    assert (clip(window, "one").start, clip(window, "two").start) == (17, 27)
    assert document.history.undo_title == "Move 2 clips"
    press(window, Key.Key_Left, CTRL)
    press(window, Key.Key_Left, CTRL | SHIFT)
    assert (clip(window, "one").start, clip(window, "two").start) == (6, 16)
    assert undone(window)


def test_a_pip_sets_and_takes_away_a_key_by_hand_and_by_space(window):
    window.document.select("hum")
    window.document.seek(40)
    window.sheet.open_page("Sound")
    pip = window.sheet.page("Sound").pips.of("sound.gain")
    QTest.mouseClick(pip, LEFT)
    assert [key.frame for key in clip(window, "hum").sound.gain.keys] == [25]
    assert "take it away" in pip.toolTip()
    pip.setFocus()
    QTest.keyClick(pip, Key.Key_Space)
    assert clip(window, "hum").sound.gain == 0.0
    assert undone(window)


def test_the_range_of_an_open_group_is_not_the_exports(window):
    window.document.select("one")
    window.run("group")
    window.run("open-group")
    window.run("range-in")
    export = window.open_export()
    assert not export.only_range.isEnabled()
    assert not export.only_range.isChecked()
    export.hide()


def test_a_click_on_one_of_several_selects_that_one(window):
    window.document.select("one", "two")
    click(window, at(window, "one", 25))
    assert window.document.selection == ("one",)


def test_clips_go_to_other_tracks(window):
    start = at(window, "one", 25)
    drag(window.timeline.canvas, start, QPoint(start.x() + 4 * 30, at(window, "two", 25).y()))
    assert spans(window, 2) == [(20, 50), (50, 80), (90, 120)], "it caught on its neighbour's edge"
    window.run("undo")
    window.document.select("three")
    press(window, Key.Key_Down, CTRL)
    assert spans(window, 1) == [(10, 40), (90, 120)]
    press(window, Key.Key_Up, CTRL)
    assert undone(window)


def test_alt_drag_and_ctrl_d_duplicate(window):
    start = at(window, "one", 25)
    drag(window.timeline.canvas, start, start + QPoint(4 * 60, 0), ALT)
    assert spans(window, 1) == [(10, 40), (70, 100)]
    assert window.document.clip.start == 70, "the copy is selected"
    window.run("undo")
    window.document.select("one")
    press(window, Key.Key_D, CTRL)
    assert spans(window, 1) == [(10, 40), (40, 70)]
    assert undone(window)


def test_edges_are_trimmed(window):
    end = at(window, "two", 50, 0.2) - QPoint(2, 0)
    drag(window.timeline.canvas, end, end - QPoint(4 * 5, 0))
    assert clip(window, "two").span.end == 45
    start = at(window, "shot", 0, 0.7) + QPoint(2, 0)
    drag(window.timeline.canvas, start, start + QPoint(4 * 19, 0))
    shot = clip(window, "shot")
    assert (shot.start, shot.offset) == (20, 50), "it caught on another clip's edge"
    window.document.seek(30)
    window.document.select("two")
    press(window, Key.Key_BracketRight, CTRL)
    assert clip(window, "two").span.end == 30
    press(window, Key.Key_Left)
    press(window, Key.Key_BracketLeft, CTRL)
    assert clip(window, "two").start == 29
    assert undone(window)


def test_material_slips_under_a_clip(window):
    start = at(window, "shot", 30, 0.6)
    drag(window.timeline.canvas, start, start - QPoint(4 * 10, 0), CTRL | ALT)
    assert clip(window, "shot").offset == 40
    press(window, Key.Key_Period, ALT)
    press(window, Key.Key_Comma, ALT)
    press(window, Key.Key_Comma, ALT)
    assert (clip(window, "shot").start, clip(window, "shot").offset) == (0, 39)
    assert undone(window)


def test_clips_are_split(window):
    document = window.document
    document.seek(30)
    document.select("one", "two")
    press(window, Key.Key_S)
    assert (spans(window, 1), spans(window, 2)[:2]) == ([(10, 30), (30, 40)], [(20, 30), (30, 50)])
    window.run("undo")
    window.run("split-all")
    assert [len(track.clips) for track in document.project.sequence.tracks] == [3, 2, 3, 2]
    window._actions["undo"].trigger()
    document.select("shot")
    window._actions["split"].trigger()
    assert spans(window, 0)[:2] == [(0, 30), (30, 60)]
    assert undone(window)


def test_removing_leaves_or_closes_the_gap(window):
    window.document.select("two")
    press(window, Key.Key_Delete)
    assert spans(window, 2) == [(90, 120)]
    window.run("undo")
    window.document.select("two")
    press(window, Key.Key_Delete, SHIFT)
    assert spans(window, 2) == [(60, 90)]
    assert undone(window)


def test_fades_and_moves_are_set_by_grips_and_at_the_playhead(window):
    canvas = window.timeline.canvas
    window.document.select("hum")
    grip = at(window, "hum", 25, 0.1)
    drag(canvas, grip, grip + QPoint(4 * 20, 0))
    assert clip(window, "hum").sound.fade_in == 30
    grip = at(window, "hum", 115, 0.1) - QPoint(3, 0)
    drag(canvas, grip, grip - QPoint(4 * 22, 0))
    assert clip(window, "hum").sound.fade_out == 22
    window.document.seek(60)
    press(window, Key.Key_BracketLeft, ALT)
    assert clip(window, "hum").sound.fade_in == 45
    press(window, Key.Key_BracketRight, ALT)
    assert clip(window, "hum").sound.fade_out == 55
    grip = at(window, "one", 16, 0.9)
    drag(canvas, grip, grip + QPoint(4 * 7, 0))
    assert clip(window, "one").moves[0].length == pytest.approx(14 / 30)
    window.document.seek(20)
    press(window, Key.Key_BracketLeft, SHIFT)
    assert clip(window, "one").moves[0].length == pytest.approx(10 / 30)
    assert undone(window)


def test_clips_are_joined_and_the_join_is_dragged(window):
    window.document.select("shot")
    window.document.seek(50)
    press(window, Key.Key_J, CTRL)
    assert (window.document.selected, clip(window, "back").transition.kind) == ("back", "dissolve")
    # 0.5 s are 15 frames, 8 of them behind the cut.
    edge = at(window, "back", 68, 0.25)
    drag(window.timeline.canvas, edge, edge + QPoint(4 * 7, 0))
    assert clip(window, "back").transition.length == pytest.approx(1.0)
    page = window.sheet.page("Clip")
    window.sheet.open_page("Clip")
    page._transition._kind.setCurrentIndex(page._transition._kind.findData("wipe"))
    page._transition._set_kind()
    page._transition._feather.committed.emit(80.0)
    page._transition._curve.chosen.emit("ease-in")
    join = clip(window, "back").transition
    assert (join.kind, join.feather, join.curve) == ("wipe", 80.0, "ease-in")
    window.run("transition-cut")
    assert clip(window, "back").transition is None
    window.document.select("three")
    window.run("transition-dissolve")
    assert "No clip touches" in said(window)
    assert undone(window)


def said(window):
    """What the messages over the viewer say."""
    column = window.messages._column
    return " ".join(column.itemAt(n).widget().accessibleName() for n in range(column.count()))


def test_layers_cascade_in_either_order_and_start_on_landings(window):
    window.document.select("one", "two")
    window.ask_number = lambda *_: 4
    window.run("stagger-clips")
    assert (clip(window, "one").start, clip(window, "two").start) == (10, 14)
    window.ask_number = lambda *_: 3
    window.run("stagger-clips-down")
    assert (clip(window, "one").start, clip(window, "two").start) == (17, 14)
    window.run("undo")
    window.run("chain")
    assert (clip(window, "one").start, clip(window, "two").start) == (10, 17)
    window.ask_number = lambda *_: None
    window.run("stagger-clips")
    assert window.document.history.undo_title == "Start on landings 2 clips"
    assert undone(window)


def test_a_group_is_made_opened_changed_closed_and_taken_apart(window):
    document = window.document
    document.select("one", "two")
    press(window, Key.Key_G, CTRL)
    group = document.clip
    assert isinstance(group, GroupClip)
    assert (group.start, group.length) == (10, 40)
    document.seek(25)
    QTest.mouseDClick(window.timeline.canvas, LEFT, NONE, at(window, group.id, 30))
    assert [track.name for track in document.project.sequence.tracks] == ["Low", "High"]
    assert document.playhead == 15, "the same moment, in the group's time"
    around = [clip.id for track in document.picture_project.sequence.tracks for clip in track.clips]
    assert {"shot", "one", "two"} <= set(around), "what surrounds the group is in the picture"
    assert document.picture_project is document.picture_project
    document.select("two")
    press(window, Key.Key_Right, CTRL)
    assert clip(window, "two").start == 11
    crumbs = window.timeline.trail.findChildren(QPushButton)
    assert [button.text() for button in crumbs] == ["Sequence"]
    QTest.mouseClick(crumbs[0], LEFT)
    assert document.selected == group.id
    assert clip(window, group.id).length == 41, "it goes on showing all of itself"
    document.select(group.id)
    press(window, Key.Key_Return, CTRL)
    assert document.level.groups == (group.id,)
    window.run("undo")
    assert document.level.groups, "undo stays where one is"
    press(window, Key.Key_Backspace, CTRL)
    document.select(group.id)
    press(window, Key.Key_G, CTRL | SHIFT)
    assert (clip(window, "one").start, clip(window, "two").start) == (10, 20)
    assert undone(window)


def test_undoing_a_group_while_it_is_open_leads_back_out(window):
    window.document.select("one")
    window.run("group")
    window.run("open-group")
    assert window.document.level.groups
    window.run("undo")
    assert window.document.level.groups == ()
    assert undone(window)


def test_markers_are_put_named_moved_and_removed(window):
    document, canvas = window.document, window.timeline.canvas
    document.seek(70)
    press(window, Key.Key_M)
    (marker,) = document.project.sequence.markers
    assert (marker.frame, marker.name) == (70, "Marker 1")
    flag = QPoint(round(canvas.scale.x(70)) + 2, RULER - 8)
    drag(canvas, flag, flag + QPoint(4 * 11, 0))
    assert document.project.sequence.markers[0].frame == 81
    QTest.mouseDClick(canvas, LEFT, NONE, QPoint(round(canvas.scale.x(81)) + 2, RULER - 8))
    edit = canvas.findChild(QLineEdit)
    edit.setText("Gust")
    QTest.keyClick(edit, Key.Key_Return)
    assert document.project.sequence.markers[0].name == "Gust"
    document.seek(5)
    press(window, Key.Key_PageDown, ALT)
    assert document.playhead == 81
    drag(canvas, at(window, "one", 35), at(window, "one", 35) + QPoint(4 * 70 + 5, 0))
    assert clip(window, "one").start == 81, "an edge caught on the marker"
    press(window, Key.Key_M, ALT | SHIFT)
    assert document.project.sequence.markers == ()
    assert undone(window)


def test_a_marker_can_be_put_while_it_plays(window):
    window.run("play")
    assert window.projector.playing
    assert wait_for(lambda: window.document.playhead >= 3, 20_000)
    press(window, Key.Key_M)
    assert window.projector.playing
    assert window.document.project.sequence.markers[0].frame >= 3
    window.projector.stop()
    assert undone(window)


def test_tracks_are_reordered_and_resized(window):
    canvas, document = window.timeline.canvas, window.document
    names = lambda: [track.name for track in document.project.sequence.tracks]  # noqa: E731
    low, high = row_of(window, "one"), row_of(window, "two")
    drag(canvas, QPoint(40, low.top + 12), QPoint(40, high.top + 12))
    assert names() == ["Shots", "High", "Low", "Noise"]
    document.select("one")
    window.run("track-down")
    assert names() == ["Shots", "Low", "High", "Noise"]
    high = row_of(window, "two")
    drag(canvas, QPoint(60, high.bottom), QPoint(60, high.bottom + 21))
    assert row_of(window, "two").height == high.height + 21
    press(window, Key.Key_Equal, ALT)
    assert document.project.sequence.tracks[0].height == 44
    press(window, Key.Key_Minus, ALT)
    assert undone(window)


def test_tracks_are_heard_alone_and_muted(window):
    canvas, row = window.timeline.canvas, row_of(window, "hum")
    click(window, mark_box(row, 0, 3).center().toPoint())
    assert window.document.project.sequence.tracks[3].solo
    window.document.select("hum")
    press(window, Key.Key_O, ALT)
    assert not window.document.project.sequence.tracks[3].solo
    click(window, mark_box(row, 1, 3).center().toPoint())
    assert window.document.project.sequence.tracks[3].muted
    assert "Mute" in canvas._tip(QPointF(mark_box(row, 1, 3).center()))
    assert undone(window)


def test_names_are_typed_over_clips(window):
    window.document.select("shot")
    press(window, Key.Key_F2, SHIFT)
    edit = window.timeline.canvas.findChild(QLineEdit)
    edit.setText("Hill")
    QTest.keyClick(edit, Key.Key_Return)
    assert clip(window, "shot").name == "Hill"
    page = window.sheet.page("Clip")
    page._name.setText("Hilltop")
    page._name.editingFinished.emit()
    assert clip(window, "shot").name == "Hilltop"
    assert undone(window)


def test_clips_play_backwards_there_and_back_again_slower_and_frozen(window):
    page = window.sheet.page("Clip")
    window.document.select("hum")
    window.sheet.open_page("Clip")
    page._playing._backwards.click()
    assert clip(window, "hum").playing.backwards
    window.run("backwards")
    assert not clip(window, "hum").playing.backwards
    page._playing._speed.committed.emit(2.0)
    assert clip(window, "hum").length == 50
    page._playing._frames.committed.emit(100.0)
    assert clip(window, "hum").playing.speed == pytest.approx(1.0)
    window.ask_number = lambda *_: 3.0
    window.run("times")
    assert (clip(window, "hum").length, page._playing._times.value) == (300, pytest.approx(3.0))
    page._playing._and_back.click()
    assert clip(window, "hum").playing.and_back
    window.document.select("shot")
    window.document.seek(20)
    window.run("freeze")
    assert spans(window, 0) == [(0, 20), (20, 80), (80, 120), (120, 210)]
    assert undone(window)


def test_the_wheel_zooms_at_the_mouse_scrolls_and_lifts(window):
    canvas = window.timeline.canvas
    at_frame = canvas.scale.frame(600)
    wheel(canvas, QPoint(600, 60), 120, CTRL)
    assert canvas.scale.px == pytest.approx(5.0)
    assert canvas.scale.frame(600) == pytest.approx(at_frame)
    wheel(canvas, QPoint(600, 60), -120, SHIFT)
    assert canvas.scale.first > 0
    first = canvas.scale.first
    canvas.lift(1000)
    assert canvas.lifted >= 0
    press(window, Key.Key_F, SHIFT)
    assert canvas.scale.first == 0 != first
    window.run("timeline-in")
    assert not canvas.is_fitted


def wheel(widget, point, turn, keys):
    where = QPointF(point)
    event = QWheelEvent(
        where, widget.mapToGlobal(where), QPoint(), QPoint(0, turn), Qt.MouseButton.NoButton, keys,
        Qt.ScrollPhase.NoScrollPhase, False,
    )  # fmt: skip
    widget.wheelEvent(event)


def test_the_timeline_follows_the_playhead_or_stays(window):
    canvas = window.timeline.canvas
    canvas.set_scale(Scale(30.0, 0.0))
    window.document.seek(140)
    assert HEADER <= canvas.scale.x(140) < canvas.width()
    window.run("follow")
    canvas.set_scale(Scale(30.0, 0.0))
    window.document.seek(139)
    assert canvas.scale.first == 0.0
    assert not canvas.follows


def test_escape_gives_a_drag_up(window):
    canvas, start = window.timeline.canvas, at(window, "one", 25)
    QTest.mousePress(canvas, LEFT, NONE, start)
    QTest.mouseMove(canvas, start + QPoint(60, 0))
    assert clip(window, "one").start != 10
    QTest.keyClick(canvas, Key.Key_Escape)
    QTest.mouseRelease(canvas, LEFT, NONE, start + QPoint(60, 0))
    assert clip(window, "one").start == 10
    assert window.document.history.undo_title is None


def test_every_part_of_a_full_timeline_paints(window):
    document = window.document
    document.select("shot")
    window.run("transition-dissolve")
    for identity, command in (("one", "group"), ("hum", "backwards"), ("shot", "and-back")):
        document.select(identity)
        window.run(command)
    document.seek(33)
    window.run("marker")
    window.run("range-in")
    for width in (1280, 700):
        window.resize(width, 800)
        QTest.qWait(10)
        picture = window.timeline.grab().toImage()
        assert picture.width() > 100
    assert inconsistencies(document.whole) == []


def test_shapes_and_grounds_are_put_in_and_dressed(window):
    document = window.document
    document.select("one")
    press(window, Key.Key_B)
    box = document.clip
    assert isinstance(box, ShapeClip)
    assert (box.fits.layer, box.start, box.length) == ("one", 10, 30)
    page = window.sheet.page("Shape")
    window.sheet.open_page("Shape")
    page._form._margins[0].committed.emit(55.0)
    page._fill._paint._kind.chosen.emit("linear")
    page._fill._paint._stops._add_stop()
    page._fill._paint._angle.committed.emit(30.0)
    page._outline._add.click()
    page._outline._width.committed.emit(9.0)
    box = clip(window, box.id)
    assert (box.fits.margin_x, box.fill.angle, len(box.fill.stops), box.outline.width) == (55.0, 30.0, 3, 9.0)
    page._form._fitted.setCurrentIndex(0)
    page._form._fitted.chosen.emit(None)
    page._form._width.committed.emit(320.0)
    assert (clip(window, box.id).fits, clip(window, box.id).width) == (None, 320.0)
    for name in (
        "shape-box",
        "shape-rounded",
        "shape-ellipse",
        "shape-line",
        "background-radial",
        "background-paper",
    ):
        window.run(name)
    assert inconsistencies(document.project) == []
    page._fill._paint._seed.committed.emit(7.0)
    assert document.clip.background.seed == 7
    assert undone(window)
