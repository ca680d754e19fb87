"""Crawls and rolls, and moves by pace and in stages, by the sheet and the menus."""

from __future__ import annotations

import pytest
from gestures import drag
from PySide6.QtCore import QPoint, QRectF, Qt
from PySide6.QtTest import QTest
from test_text_page import type_into

from rovix.edit import change_text, clip_by_id, move_of
from rovix.model import Crossing
from rovix.motion import Scene, clip_spans
from rovix.motion.ready_moves import ready_moves


def clip(window, identity="big"):
    return clip_by_id(window.document.project, identity)


def choose(box, data):
    box.setCurrentIndex(box.findData(data))
    box.activated.emit(box.currentIndex())


@pytest.fixture
def page(window):
    window.document.select("big")
    window.sheet.open_page("Motion")
    return window.sheet.page("Motion")


def test_one_command_makes_all_selected_layers_roll_and_one_step_takes_it_back(window):
    window.document.select("small", "big")
    window.run("cross-up")
    assert [clip(window, name).crossing for name in ("small", "big")] == [Crossing(way="up")] * 2
    assert window.sheet.page("Motion").crossed.head.isChecked(), "its numbers are shown"
    window.document.undo()
    assert clip(window).crossing is None
    assert not window.action("cross-none").isEnabled()


def test_the_sheet_sets_way_speed_holds_and_ends(window, page):
    crossing = page.crossing
    choose(crossing.way, "left")
    way = Scene.of(window.document.project).motion(clip(window)).crossing
    crossing.by.chosen.emit("speed")
    assert clip(window).crossing.speed == pytest.approx(abs(way.step) * 30, abs=0.01), "the speed that it had"
    type_into(crossing.speed, "20")
    assert not crossing.lengthen.isHidden()
    assert "it needs" in crossing.said.text()
    crossing.lengthen.click()
    made = Scene.of(window.document.project).motion(clip(window)).crossing
    assert not made.is_short
    assert clip(window).length == made.needed + 1
    type_into(crossing.hold_start, "12f")
    assert clip(window).crossing.hold_start == pytest.approx(0.4)
    crossing.to_rest.click()
    assert clip(window).crossing.to_rest
    crossing.by.chosen.emit("length")
    assert clip(window).crossing.speed is None
    choose(crossing.way, "none")
    assert clip(window).crossing is None


def test_what_does_not_move_has_nothing_to_set(window, page):
    assert page.crossing.speed.isHidden()
    assert page.crossing.lengthen.isHidden()
    assert page.crossing.summary(None) == "none"


def test_a_card_by_pieces_goes_by_pace_and_longer_words_take_longer(window, page):
    number = window.shelf.deck.names().index("Wave")
    window.shelf.apply_move(number)
    assert move_of(clip(window), "entrance").pace is not None
    before = clip_spans(clip(window), window.document.rate).entrance
    window.document.do(
        "Retype", lambda p: change_text(p, "big", content="Larkmoor Kite Day and all that comes of it")
    )
    assert clip_spans(clip(window), window.document.rate).needed > 2 * before
    assert not page.short.isHidden()
    assert page.short._said.text().startswith("Its moves need")
    page.short.lengthen.click()
    assert page.short.isHidden()
    assert not clip_spans(clip(window), window.document.rate).shrunk


def test_pace_and_length_are_changed_for_each_other_without_a_change_to_be_seen(window, page):
    move = next(m for m in ready_moves("entrance") if m.name == "Wave")
    window.shelf.apply_move(window.shelf.deck.names().index("Wave"))
    spans = clip_spans(clip(window), window.document.rate)
    page.pace.by.chosen.emit("span")
    assert move_of(clip(window), "entrance").pace is None
    assert clip_spans(clip(window), window.document.rate).entrance == spans.entrance
    page.pace.by.chosen.emit("pace")
    assert move_of(clip(window), "entrance").pace.piece == pytest.approx(move.pace.piece, abs=0.02)
    type_into(page.pace.stagger, "0.1")
    assert move_of(clip(window), "entrance").pace.stagger == pytest.approx(0.1)


def test_a_second_entrance_comes_after_the_first(window, page):
    window.shelf.apply_move(window.shelf.deck.names().index("Fade in"), on_top=True)
    second = clip(window).moves[-1]
    window.document.tune(second.id)
    assert not page.pace.after.isHidden()
    page.pace.after.click()
    type_into(page.pace.wait, "6f")
    rate = window.document.rate
    spans = clip_spans(clip(window), rate)
    first, second = (m for m in clip(window).moves if m.role == "entrance")
    assert spans.start(second, rate) == spans.frames(first, rate) + 6
    blocks = {block.name: (block.start, block.length) for block in page._blocks(clip(window))}
    assert blocks["Fade in"][0] == spans.start(second, rate)


def test_pieces_are_tapped_in_on_the_frames_that_are_on_screen(window, page):
    window.document.do("Retype", lambda p: change_text(p, "big", content="one two three"))
    window.shelf.apply_move(window.shelf.deck.names().index("Wave"))
    page._pieces.chosen.emit("words")
    assert not page.pace.tap.isHidden()
    page.pace.tap.click()
    assert window.tapper.listening
    window.tapper._projector.player.stop()
    start = clip(window).start
    for frame in (4, 13, 20):
        window.document.seek(start + frame)
        QTest.keyClick(window, Qt.Key.Key_Space)
    assert not window.tapper.listening
    rate = float(window.document.rate.fraction)
    assert [round(second * rate) for second in move_of(clip(window), "entrance").starts] == [4, 13, 20]
    assert not page.pace.even.isHidden()
    page.pace.even.click()
    assert move_of(clip(window), "entrance").starts == ()


def test_without_a_marker_that_is_said(window, page):
    window.shelf.apply_move(window.shelf.deck.names().index("Wave"))
    told = []
    window.document.problem.connect(told.append)
    page.pace.marked.click()
    assert "no marker" in told[0]


def ends(window):
    viewer = window.viewer
    return viewer._crossing.ends(viewer.view, QRectF(viewer.rect()))


def test_the_ends_are_grips_in_the_picture(window, page):
    """Dragged into the frame an end stays where it is let go; dragged out again it is off the frame."""
    window.run("cross-left")
    before, viewer = window.document.project, window.viewer
    grip = ends(window)["end"].toPoint()
    drag(viewer, grip, grip + QPoint(120, 3))
    made = clip(window).crossing
    assert made.to_rest
    assert window.document.history.undo_title == "Move the end of the crawl"
    assert ends(window)["end"].x() == pytest.approx(grip.x() + 120, abs=2)
    way = Scene.of(window.document.project).motion(clip(window)).crossing
    assert way.start + way.step * way.frames == pytest.approx(made.end)
    grip = ends(window)["end"].toPoint()
    drag(viewer, grip, QPoint(-3000, grip.y()))
    assert not clip(window).crossing.to_rest
    window.document.undo()
    window.document.undo()
    assert window.document.project == before


def test_escape_gives_a_grip_back_and_a_locked_layer_has_none(window, page):
    window.run("cross-up")
    before, viewer = window.document.project, window.viewer
    grip = ends(window)["start"].toPoint()
    QTest.mousePress(viewer, Qt.MouseButton.LeftButton, pos=grip)
    QTest.mouseMove(viewer, grip - QPoint(0, 40))
    QTest.mouseMove(viewer, grip - QPoint(0, 60))
    assert clip(window).crossing.from_rest
    QTest.keyClick(viewer, Qt.Key.Key_Escape)
    QTest.mouseRelease(viewer, Qt.MouseButton.LeftButton, pos=grip)
    assert window.document.project == before
    window.run("lock-track")
    drag(viewer, grip, grip - QPoint(0, 60))
    assert clip(window).crossing == Crossing(way="up")


def test_a_card_lets_all_selected_layers_crawl_and_its_cross_takes_it_off(window):
    window.document.select("small", "big")
    window.shelf.open_role("crossing")
    QTest.mouseClick(window.shelf.card("Crawl to be read"), Qt.MouseButton.LeftButton)
    assert [clip(window, name).crossing.counted for name in ("small", "big")] == ["words"] * 2
    assert window.shelf.deck.chosen(clip(window)) == window.shelf.deck.names().index("Crawl to be read")
    window.shelf.remove_card()
    assert [clip(window, name).crossing for name in ("small", "big")] == [None] * 2


def test_the_speed_is_counted_otherwise_and_stays_as_fast(window, page):
    window.run("cross-left")
    page.crossing.by.chosen.emit("speed")
    step = Scene.of(window.document.project).motion(clip(window)).crossing.step
    for counted in ("frame", "words", "second"):
        choose(page.crossing.counted, counted)
        assert clip(window).crossing.counted == counted
        assert Scene.of(window.document.project).motion(clip(window)).crossing.step == pytest.approx(
            step, rel=1e-3
        )
    assert "words a minute" in page.crossing.said.text()
