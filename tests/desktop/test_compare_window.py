"""The line-up in the viewer: begun, compared, kept and left by mouse and keys."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from rovix.edit import move_of
from rovix.edit.comparing import cells, of_curve
from rovix.motion.ready_moves import wave

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def lined(window):
    window.document.select("small")
    window.shelf.apply_move(window.shelf.deck.names().index(wave().name))
    window.run("compare")
    return window.viewer.comparison


def middle(window, number):
    view, line_up = window.viewer.view, window.viewer.comparison
    left, top, width, height = cells(view.size, len(line_up.variants))[number]
    spot = view.to_view(left + width / 2, top + height / 2)
    return QPoint(round(spot.x()), round(spot.y()))


def move(window):
    return move_of(window.document.clip, "entrance")


def test_a_line_up_plays_the_moves_span_and_shows_its_bar(window, lined):
    assert lined.on
    assert window.compare_bar.isVisible()
    assert [button.text() for button in window.viewer._names.buttons] == [
        "1  back-out", "2  cubic-out", "3  expo-out", "4  sine-in-out",
    ]  # fmt: skip
    assert window.projector.playing
    assert len(window.document.picture_project.sequences) >= 5


def test_a_click_keeps_one_as_one_step(window, lined):
    before = window.document.committed
    QTest.mouseClick(window.viewer, LEFT, Qt.KeyboardModifier.NoModifier, middle(window, 2))
    assert not lined.on
    assert not window.compare_bar.isVisible()
    assert move(window).piece_curve == "expo-out"
    assert window.document.picture_project is window.document.project
    window.document.undo()
    assert window.document.committed == before


def test_keeping_the_layers_own_changes_nothing(window, lined):
    before = window.document.committed
    QTest.keyClick(window.viewer, Qt.Key.Key_1)
    assert not lined.on
    assert window.document.committed == before


def test_escape_leaves_and_nothing_changed(window, lined):
    before = window.document.committed
    QTest.keyClick(window.viewer, Qt.Key.Key_Escape)
    assert not lined.on
    assert window.document.committed is before
    assert window.document.selected == "small"


def test_what_is_compared_and_how_many_is_chosen_in_the_bar(window, lined):
    window.compare_bar.kinds.chosen.emit("lengths")
    assert [v.changes["length"] for v in lined.variants] == pytest.approx([1.0, 0.5, 0.75, 1.5])
    window.compare_bar.kinds.chosen.emit("staggers")
    assert lined.variants[1].name == "1 frame apart"
    window.compare_bar.kinds.chosen.emit("moves")
    window.compare_bar.count.committed.emit(6.0)
    assert len(lined.variants) == len(window.viewer._names.buttons) == 6
    assert lined.variants[0].name == "Wave"
    QTest.keyClick(window.viewer, Qt.Key.Key_3)
    assert move(window).name == "Fade in"


def test_another_one_can_stand_in_a_place(window, lined):
    lined.put(1, of_curve("steps(4)"))
    assert window.viewer._names.buttons[1].text() == "2  steps(4)"
    QTest.keyClick(window.viewer, Qt.Key.Key_2)
    assert move(window).piece_curve == "steps(4)"


def test_a_picture_under_the_mouse_is_marked_and_no_layer_is_taken(window, lined):
    window.projector.stop()
    QTest.mouseMove(window.viewer, middle(window, 1))
    assert window.viewer._names._under == 1
    QTest.mouseDClick(window.viewer, LEFT, Qt.KeyboardModifier.NoModifier, QPoint(2, 2))
    assert window.viewer.editor is None
    assert lined.on


def test_a_line_up_ends_when_its_move_is_gone(window, lined):
    window.document.undo()
    assert move(window) is None
    assert not lined.on
    assert window.document.picture_project is window.document.project


def test_a_project_opened_anew_is_not_lined_up(window, lined):
    document = window.document
    document.show(document.whole, document.base, document.path)
    assert not lined.on
    assert not window.compare_bar.isVisible()


def test_a_layer_without_a_move_says_what_to_do(window):
    said = []
    window.document.problem.connect(said.append)
    window.document.select("small")
    for role in ("entrance", "loop", "exit"):
        window.shelf.open_role(role)
        window.shelf.apply_move(0)
    window.run("compare")
    assert not window.viewer.comparison.on
    assert "Give the layer an entrance" in said[-1]
