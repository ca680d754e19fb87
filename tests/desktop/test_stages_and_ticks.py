"""Ticks of pieces and stages of moves, dragged on the clip and in the strip of the sheet."""

import pytest
from gestures import LEFT, pull, row_of
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from rovix.desktop.timeline.motion_drags import tip_of
from rovix.desktop.timeline.scale import Scale
from rovix.edit import change_text, clip_by_id
from rovix.edit.stages import stage_edge
from rovix.edit.tree import replace, replace_clip
from rovix.model import Amount, Departure, Move, Pace
from rovix.motion import Scene, clip_spans
from rovix.motion.profile import setting_off

SLIDE = (Departure(channel="x", amount=Amount(value=-90.0)),)
WORDS = Move(id="words", role="entrance", pieces="words", channels=SLIDE, pace=Pace(piece=0.2, stagger=0.3))
AGAIN = Move(id="again", role="entrance", length=0.3, after=True, wait=0.2, channels=SLIDE)
OUT = Move(id="out", role="exit", length=0.3, wait=0.2, channels=SLIDE)


@pytest.fixture
def canvas(window):
    def given(project):
        project = change_text(project, "big", content="one two three")
        return replace_clip(project, "big", lambda c: replace(c, moves=(WORDS, AGAIN, OUT)))

    window.document.do("Moves", given)
    window.document.select("big")
    window.timeline.canvas.set_scale(Scale(9.0, 0.0))
    QTest.qWait(5)
    return window.timeline.canvas


def clip(window):
    return clip_by_id(window.document.project, "big")


def ticks(window):
    found = setting_off(Scene.of(window.document.project).motion(clip(window)))
    return [round(float(frame)) for one in found if one.move == "words" for frame in one.frames]


def edge(window, name):
    own = clip(window)
    move = next(move for move in own.moves if move.id == name)
    return stage_edge(own, move, clip_spans(own, window.document.rate), window.document.rate)


def at(window, frame, foot):
    row = row_of(window, "big")
    return QPoint(round(window.timeline.canvas.scale.x(frame)), row.top + (row.height - 3 if foot else 5))


def test_a_tick_is_dragged_and_the_other_pieces_stay(window, canvas):
    before = window.document.project
    assert ticks(window) == [0, 9, 18]
    pull(canvas, at(window, 9, True), at(window, 13, True))
    assert ticks(window) == [0, 13, 18]
    assert window.document.history.undo_title == "Move when a piece sets off"
    pull(canvas, at(window, 13, True), at(window, 30, True))
    assert ticks(window) == [0, 18, 18], "no later than the next"
    window.document.undo()
    window.document.undo()
    assert window.document.project == before


def test_a_stage_is_dragged_at_the_clips_head(window, canvas):
    assert (edge(window, "again"), edge(window, "out")) == (30, 73)
    pull(canvas, at(window, 30, False), at(window, 40, False))
    assert edge(window, "again") == 40
    pull(canvas, at(window, 73, False), at(window, 70, False))
    assert edge(window, "out") == 70
    pull(canvas, at(window, 40, False), at(window, 2, False))
    assert edge(window, "again") == 24, "no sooner than the one before has ended"


def test_escape_and_a_locked_track_leave_them(window, canvas):
    before = window.document.project
    QTest.mousePress(canvas, LEFT, pos=at(window, 9, True))
    QTest.mouseMove(canvas, at(window, 12, True))
    QTest.mouseMove(canvas, at(window, 14, True))
    assert ticks(window) != [0, 9, 18]
    QTest.keyClick(canvas, Qt.Key.Key_Escape)
    QTest.mouseRelease(canvas, LEFT, pos=at(window, 14, True))
    assert window.document.project == before
    window.run("lock-track")
    pull(canvas, at(window, 9, True), at(window, 14, True))
    assert ticks(window) == [0, 9, 18]


def test_what_a_tick_is_is_said(window, canvas):
    grip = canvas._grip_under(clip(window), row_of(window, "big"), at(window, 9, True).toPointF())
    assert tip_of(clip(window), grip, grip.frame) == "Entrance: piece 2 sets off at layer frame 9. Drag it."
    stage = canvas._grip_under(clip(window), row_of(window, "big"), at(window, 73, False).toPointF())
    assert tip_of(clip(window), stage, stage.frame) == "Exit ends at layer frame 73. Drag it."
    assert canvas.cursor is not None
    window.document.select("small")
    assert canvas._grip_under(clip(window), row_of(window, "big"), at(window, 9, True).toPointF()) is None


def test_a_block_of_the_strip_is_carried_to_where_its_stage_begins(window, canvas):
    window.sheet.open_page("Motion")
    strip = window.sheet.page("Motion").strip
    QTest.qWait(5)
    block = next(block for block in strip.blocks if block.id == "again")
    middle = strip.box_of(block).center().toPoint()
    QTest.mouseClick(strip, LEFT, pos=middle)
    assert window.document.tuned.id == "again"
    by = round((strip.width() - 2) / clip(window).length * 10)
    pull(strip, middle, middle + QPoint(by, 0))
    assert edge(window, "again") == pytest.approx(40, abs=1)
    assert window.document.history.undo_title == "Move a stage"
    assert clip(window).moves[1].length == 0.3
