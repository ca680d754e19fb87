"""Export: the form and the name go together; selected layers alone, over nothing."""

import numpy as np
import pytest
from msgspec.structs import replace
from PIL import Image
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from builders import project_of, title
from rovix.edit.clips import trim_end
from rovix.edit.text import change_text
from rovix.media.encoders import ENCODERS
from rovix.model.delivery import Delivery
from rovix.time import Span
from waiting import wait_for


@pytest.fixture
def export(window, tmp_path):
    window.document.select("big")
    made = window.open_export()
    made.out.setText(str(tmp_path / "kites.mp4"))
    return made


def states(window):
    return [item.state for item in window.exports.items]


def choose(export, codec):
    number = next(n for n, kind in enumerate(ENCODERS) if kind.codec == codec)
    form = export.choices.form
    form.show_data(number)
    form.activated.emit(form.currentIndex())


@pytest.mark.parametrize("kind", ENCODERS, ids=lambda kind: kind.codec)
def test_the_name_ends_as_the_form_does_and_what_it_keeps_is_said(export, tmp_path, kind):
    choose(export, kind.codec)
    assert export.out.text() == str(tmp_path / f"kites{kind.suffix}")
    said = export.said.text()
    assert ("With transparency" in said) == (kind.alpha == "full")
    assert ("Without sound" in said) == (not kind.sound)
    assert ("folder" in said) == kind.folder


def test_a_name_that_is_typed_chooses_its_form_and_keeps_a_fitting_one(export, tmp_path):
    export.out.setText(str(tmp_path / "a.webm"))
    export.out.editingFinished.emit()
    assert export.kind.codec == "vp9"
    choose(export, "av1")
    export.out.setText(str(tmp_path / "b.webm"))
    export.out.editingFinished.emit()
    assert export.kind.codec == "av1"


def test_selected_layers_are_written_alone_as_pictures_with_alpha(export, tmp_path, window):
    choose(export, "png")
    export.alone.setChecked(True)
    export.start()
    assert wait_for(lambda: states(window) == ["done"], 120_000)
    assert "written in 0:" in export.list.rows[0].state.text()
    pictures = sorted((tmp_path / "kites").iterdir())
    assert len(pictures) == window.document.project.sequence.length
    alpha = np.asarray(Image.open(pictures[40]))[..., 3]
    assert alpha.min() == 0
    assert alpha.max() == 255


def test_without_a_layer_selected_there_is_nothing_to_deliver_alone(window):
    window.document.select()
    assert not window.open_export().alone.isEnabled()


@pytest.mark.parametrize("kind", ENCODERS, ids=lambda kind: kind.codec)
def test_the_qualities_are_those_of_the_form_with_their_numbers(export, kind):
    choose(export, kind.codec)
    offered = {
        export.choices.quality.itemData(row): export.choices.quality.itemText(row)
        for row in range(export.choices.quality.count())
    }
    assert set(offered) == {quality.name for quality in kind.qualities}
    assert all(quality.said.lower() in offered[quality.name].lower() for quality in kind.qualities)
    assert export.choices.quality.currentData() == kind.quality().name
    assert export.choices.quality.isEnabled() == (len(kind.qualities) > 1)


def test_the_size_is_said_once_choices_rest_and_follows_them(export, window):
    document = window.document
    document.set_range(Span(0, 12))
    export.only_range.setEnabled(True)
    export.only_range.setChecked(True)
    assert wait_for(lambda: export.left.text().startswith("About "), 60_000)
    first = export.left.text()
    export.choices.quality.show_data("small")
    export.choices.quality.activated.emit(export.choices.quality.currentIndex())
    assert export.left.text() == ""
    assert wait_for(lambda: export.left.text().startswith("About "), 60_000)
    assert export.left.text() != first


def test_a_window_that_is_put_away_leaves_nothing_running(export):
    assert wait_for(lambda: export.left.text() == "Finding the size…", 20_000)
    process = export.weight._process
    export.close()
    assert export.left.text() == ""
    assert wait_for(lambda: process not in export.weight._leaving, 20_000)
    assert export.weight._process is None


def test_the_export_itself_is_not_held_up_by_finding_the_size(export, tmp_path, window):
    window.document.set_range(Span(0, 6))
    export.only_range.setEnabled(True)
    export.only_range.setChecked(True)
    assert wait_for(lambda: export.left.text() == "Finding the size…", 20_000)
    export.start()
    assert export.weight._process is None
    assert wait_for(lambda: states(window) == ["done"], 120_000)
    assert (tmp_path / "kites.mp4").is_file()


def row_names(export):
    return [row.name.text() for row in export.list.rows]


def take_preset(presets, name):
    presets.list.setCurrentIndex(presets.list.findText(name))
    presets.list.activated.emit(presets.list.currentIndex())


def clicked(export, row, words):
    QTest.mouseClick(export.list.rows[row].buttons[words], Qt.MouseButton.LeftButton)


def added(export, tmp_path, *names):
    for name in names:
        export.out.setText(str(tmp_path / name))
        export.start()


def long_exports(window, export, tmp_path, count):
    """Exports that are not done in passing."""
    window.document.do("Longer", lambda p: trim_end(p, "ground", 3000))
    added(export, tmp_path, *(f"{number}.mp4" for number in range(count)))


def test_exports_wait_are_moved_paused_and_removed(export, window, tmp_path):
    long_exports(window, export, tmp_path, 3)
    assert row_names(export) == ["0.mp4", "1.mp4", "2.mp4"]
    clicked(export, 2, "Earlier")
    assert row_names(export) == ["0.mp4", "2.mp4", "1.mp4"]
    clicked(export, 0, "Later")
    assert row_names(export) == ["2.mp4", "0.mp4", "1.mp4"]
    clicked(export, 1, "Pause")
    assert states(window) == ["waiting", "paused", "waiting"]
    clicked(export, 1, "Go on")
    assert states(window) == ["waiting"] * 3
    clicked(export, 0, "Remove")
    assert row_names(export) == ["0.mp4", "1.mp4"]
    QTest.mouseClick(export.list.pause, Qt.MouseButton.LeftButton)
    assert states(window) == ["paused", "paused"]
    assert not export.list.pause.isVisible()
    QTest.mouseClick(export.list.go_on, Qt.MouseButton.LeftButton)
    assert states(window) == ["waiting", "waiting"]
    for row in (0, 0):
        clicked(export, row, "Remove")
    assert not export.list.isVisible()
    assert wait_for(lambda: not any(tmp_path.glob(".*.ranges")), 20_000)
    assert not list(tmp_path.glob("*.mp4"))


def test_how_far_it_is_is_seen_and_the_editor_goes_on(export, window, tmp_path):
    long_exports(window, export, tmp_path, 1)
    assert wait_for(lambda: export.list.rows[0].bar.value() > 20, 60_000)
    assert wait_for(lambda: " left" in export.list.rows[0].state.text(), 60_000)
    window.document.do("Retype", lambda p: change_text(p, "big", content="Meanwhile"))
    assert window.document.project != window.exports._queue.job(window.exports.items[0]).project
    asked = []
    window.files.may_leave = lambda: True
    window.ask = lambda title, *_: asked.append(title) or "stay"
    assert not window.close()
    assert asked == ["An export is not done."]
    clicked(export, 0, "Remove")


def test_what_waits_goes_on_when_rovix_is_opened_again(export, window, tmp_path, make_test_window):
    window.document.set_range(Span(0, 12))
    export.only_range.setEnabled(True)
    export.only_range.setChecked(True)
    window.exports._see_to_work = lambda: None  # as if it were closed at once
    added(export, tmp_path, "a.mp4", "b.mp4")
    window.exports.close()
    again = make_test_window()
    again.exports.begin()
    assert wait_for(lambda: states(again) == ["done", "done"], 120_000)
    assert sorted(path.name for path in tmp_path.glob("*.mp4")) == ["a.mp4", "b.mp4"]


def test_a_single_picture_is_the_frame_at_the_playhead(export, window, tmp_path):
    choose(export, "picture")
    window.document.seek(33)
    assert "at the playhead" in export.said.text()
    export.start()
    assert wait_for(lambda: states(window) == ["done"], 60_000)
    assert (window.exports.items[0].first, window.exports.items[0].end) == (33, 34)
    with Image.open(tmp_path / "kites.png") as picture:
        assert picture.size == (640, 360)


def test_what_cannot_be_done_is_said_and_not_put_in_the_list(export, window, tmp_path):
    for name, said in (("a.avi", "should end in one of .mp4"), ("none/a.mp4", "does not exist")):
        added(export, tmp_path, name)
        assert said in export.said.text()
    assert window.exports.items == []
    long_exports(window, export, tmp_path, 1)
    added(export, tmp_path, "0.mp4")
    assert "waits to be exported already" in export.said.text()
    clicked(export, 0, "Remove")


def test_a_failed_one_says_why_and_can_be_tried_again(export, window, tmp_path):
    folder = tmp_path / "there"
    folder.mkdir()
    window.document.set_range(Span(0, 6))
    export.only_range.setEnabled(True)
    export.only_range.setChecked(True)
    see_to_work, window.exports._see_to_work = window.exports._see_to_work, lambda: None
    added(export, folder, "a.mp4")
    folder.rmdir()
    window.exports._see_to_work = see_to_work
    window.exports.begin()
    assert wait_for(lambda: states(window) == ["failed"], 60_000)
    assert "does not exist" in export.list.rows[0].state.text()
    folder.mkdir()
    clicked(export, 0, "Try again")
    assert wait_for(lambda: states(window) == ["done"], 60_000)


def test_every_sequence_is_a_file_of_its_own(window, tmp_path):
    document = window.document
    other = project_of(title("Wind", id="wind", length=30)).sequence
    other = replace(other, id="two", name="Short cut", tracks=(replace(other.tracks[0], id="over"),))
    document.do("Another", lambda p: replace(p, sequences=(*p.sequences, other)))
    window.exports._see_to_work = lambda: None
    export = window.open_export()
    export.out.setText(str(tmp_path / "kites.mp4"))
    export.every.setChecked(True)
    assert not export.alone.isEnabled()
    export.start()
    names = [item.path.name for item in window.exports.items]
    assert names == ["kites-sequence.mp4", "kites-short-cut.mp4"]
    jobs = [window.exports._queue.job(item) for item in window.exports.items]
    assert [job.project.sequence.name for job in jobs] == [document.project.sequences[0].name, "Short cut"]


def test_a_preset_says_form_quality_size_and_loudness_and_ones_own_is_kept(export, window, tmp_path):
    presets = export.presets
    take_preset(presets, "For the web")
    assert export.choices.how == Delivery(codec="h264", quality="good", loudness=-14.0)
    assert not presets.remove.isEnabled()
    choose(export, "av1")
    assert presets.list.currentIndex() == -1
    export.choices.size.setCurrentIndex(2)
    presets.ask_name = lambda: "Half, open"
    QTest.mouseClick(presets.keep, Qt.MouseButton.LeftButton)
    assert presets.list.currentText() == "Half, open"
    again = window.open_export()
    take_preset(again.presets, "Half, open")
    assert again.choices.how == Delivery((320, 180), "av1", "good", -14.0)
    assert again.out.text().endswith(".webm")
    QTest.mouseClick(again.presets.remove, Qt.MouseButton.LeftButton)
    assert again.presets.list.findText("Half, open") == -1
    assert again.choices.how.codec == "av1"


def test_the_preset_of_another_size_is_offered_as_it_is(export):
    export.choices.show_how(Delivery((1080, 1920), "h265", "small", -18.0))
    assert export.choices.how == Delivery((1080, 1920), "h265", "small", -18.0)
    choose(export, "png")
    assert export.choices.how.loudness is None
    assert not export.choices.loudness.isEnabled()
