"""Loops by mouse and keys: taken on from the shelf, tuned, rehearsed, opened into lanes, cut."""

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QCheckBox, QComboBox

from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.parts import Segments
from rovix.edit import move_of, split_clip
from rovix.motion import describe

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def window(make_test_window):
    made = make_test_window()
    made.document.select("big")
    made.document.seek(30)
    QTest.mouseClick(made.shelf._tabs["loop"], LEFT)
    return made


def loop(window):
    return move_of(window.document.clip, "loop")


def field(window, name):
    found = window.sheet.page("Motion").findChildren(NumberField)
    return next(field for field in found if field.accessibleName().startswith(name))


def drawn(window, frame, name="y"):
    layers = describe(window.document.project, frame)["layers"]
    return next(layer for layer in layers if layer["id"] == "big")["pieces"][0][name]


def test_hovering_tries_a_loop_on_leaving_drops_it_and_a_click_takes_it(window):
    card = window.shelf.card("Bob")
    card.entered.emit()
    assert loop(window).name == "Bob"
    assert window.document.history.has_draft
    card.left.emit()
    assert loop(window) is None
    QTest.mouseClick(card, LEFT)
    assert card._chosen
    assert drawn(window, 30) < 0
    assert [move.role for move in window.document.clip.moves] == ["entrance", "exit", "loop"]
    window.document.undo()
    assert loop(window) is None


def test_a_loop_has_its_beat_its_span_its_number_and_its_phase(window):
    QTest.mouseClick(window.shelf.card("Ripple"), LEFT)
    field(window, "Length").committed.emit(0.5)
    field(window, "Beats").committed.emit(2)
    field(window, "Phase").committed.emit(0.5)
    over = next(
        b for b in window.sheet.page("Motion").findChildren(QComboBox) if b.accessibleName() == "Runs over"
    )
    over.setCurrentIndex(1)
    over.activated.emit(1)
    made = loop(window)
    assert (made.length, made.beats.count, made.beats.phase, made.beats.over) == (0.5, 2, 0.5, "clip")
    assert "2 × 0.50 s" in window.sheet.page("Motion")._said.text()
    ticks = window.sheet.page("Motion").findChildren(QCheckBox)
    whole = next(tick for tick in ticks if tick.text() == "Whole beats")
    QTest.mouseClick(whole, LEFT, pos=QPoint(8, whole.height() // 2))
    assert not loop(window).beats.fitted
    assert field(window, "Ramp").isEnabled()


def test_stagger_is_for_entrances_and_beats_for_loops(window):
    window.show()
    QTest.mouseClick(window.shelf.card("Ripple"), LEFT)
    assert field(window, "Stagger").isHidden()
    assert not field(window, "Phase").isHidden()
    pieces = window.sheet.page("Motion").findChild(Segments)
    pieces.chosen.emit("whole")
    assert not field(window, "Phase").isEnabled()
    QTest.mouseClick(window.shelf._tabs["entrance"], LEFT)
    assert not field(window, "Stagger").isHidden()
    assert field(window, "Phase").isHidden()


def test_the_point_of_an_order_has_its_fields(window):
    QTest.mouseClick(window.shelf.card("Ripple"), LEFT)
    assert field(window, "Point across").isHidden()
    order = next(
        b for b in window.sheet.page("Motion").findChildren(QComboBox) if b.accessibleName() == "Order"
    )
    order.setCurrentIndex(order.findData("from-point"))
    order.activated.emit(order.currentIndex())
    assert loop(window).order == "from-point"
    assert not field(window, "Point across").isHidden()
    field(window, "Point across").committed.emit(0.0)
    field(window, "Point down").tried.emit(1.0)
    assert loop(window).point == (0.0, 1.0)
    field(window, "Point down").dropped.emit()
    assert loop(window).point == (0.0, 0.5)


def test_none_takes_the_loop_off_and_leaves_the_others(window):
    QTest.mouseClick(window.shelf.card("Sway"), LEFT)
    QTest.mouseClick(window.shelf.card("None"), LEFT)
    assert [move.role for move in window.document.clip.moves] == ["entrance", "exit"]


def test_rehearsing_runs_over_the_stay_with_a_run_up(window):
    from rovix.desktop.rehearsal import rehearse_span

    QTest.mouseClick(window.shelf.card("Sway"), LEFT)
    window.document.seek(40)
    span = rehearse_span(window.document)
    # 80 frames: 6 of entrance, 18 of exit, half a second of run-up.
    assert (span.start, span.end) == (0, 77)
    assert window.transport._rehearse.text() == "Rehearse loop"


def test_a_loop_opens_into_lanes_and_its_far_key_can_be_shaped(window):
    from rovix.desktop.timeline.lanes.move_lanes import keys_of_move
    from rovix.edit.departures import set_departure_key

    QTest.mouseClick(window.shelf.card("Bob"), LEFT)
    clip, made = window.document.clip, loop(window)
    found = keys_of_move(window.document, clip, f"moves.{made.id}.0")
    assert found.fixed == (0, 2)
    # Bob's 1.4 s are 42 frames; one whole beat fits 54 frames, and its top lies in the middle.
    assert [float(key.frame) for key in found.keys.keys] == pytest.approx([7, 34, 61])
    window.document.do("Shape", lambda p: set_departure_key(p, "big", made.id, 0, 1, -0.5))
    heights = np.array([drawn(window, frame) for frame in (6, 33, 61)])
    assert heights == pytest.approx([0, -0.5 * clip.text.size, 0], rel=0.01)


def test_a_cut_layer_loops_on_both_sides(window):
    QTest.mouseClick(window.shelf.card("Bob"), LEFT)
    made = split_clip(window.document.project, "big", 40)
    halves = [clip for track in made.sequence.tracks for clip in track.clips if clip.name == "Larkmoor"]
    assert [[move.role for move in half.moves] for half in halves] == [["entrance", "loop"], ["exit", "loop"]]
    assert len({move.id for half in halves for move in half.moves}) == 4


def test_a_loop_of_the_whole_can_become_keys_with_the_same_pictures(window):
    QTest.mouseClick(window.shelf.card("Bob"), LEFT)
    before = [drawn(window, frame) for frame in range(80)]
    window.run("loop-keys")
    assert loop(window) is None
    assert [drawn(window, frame) for frame in range(80)] == pytest.approx(before, abs=1e-6)
