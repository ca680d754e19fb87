"""Typed words are kept whichever way typing ends; Escape gives every drag up without a step."""

import pytest
from gestures import CTRL, LEFT, NONE
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtTest import QTest

from rovix.edit import clip_by_id
from rovix.edit.tree import replace, replace_clip

KEY = Qt.Key


def text_of(window):
    return clip_by_id(window.document.project, "big").text.content


def ends_by_key(key, modifier):
    return lambda window, box: QTest.keyClick(box, key, modifier)


def ends_by_click(window, box):
    QTest.mouseClick(window.timeline.canvas, LEFT, NONE, QPoint(600, 8))
    window.timeline.canvas.setFocus()


ENDS = {
    "Escape": ends_by_key(KEY.Key_Escape, NONE),
    "Ctrl+Enter": ends_by_key(KEY.Key_Return, CTRL),
    "a click elsewhere": ends_by_click,
}


@pytest.mark.parametrize("end", ENDS)
@pytest.mark.parametrize("place", ["picture", "sheet"])
def test_words_are_kept_as_one_step(window, place, end):
    document = window.document
    document.seek(40)
    document.select("big")
    if place == "picture":
        window.viewer.edit_words()
        box = window.viewer
    else:
        window.sheet.open_page("Text")
        box = window.sheet.page("Text")._text
        box.selectAll()
    box.setFocus()
    QTest.keyClicks(box, "Kites")
    assert text_of(window) == "Kites"
    assert document.history.undo_title is None, "a draft so far"
    ENDS[end](window, box)
    assert text_of(window) == "Kites"
    assert document.history.undo_title == "Change the words"
    assert not document.typing
    window.run("undo")
    assert text_of(window) == "Larkmoor"
    assert document.history.undo_title is None


def test_escape_in_the_sheet_leaves_the_box(window):
    window.document.select("big")
    window.sheet.open_page("Text")
    box = window.sheet.page("Text")._text
    box.setFocus()
    QTest.keyClick(box, KEY.Key_Escape)
    assert not box.hasFocus()
    assert window.document.history.undo_title is None, "nothing was typed, so there is no step"


def held(window, widget, start: QPoint, end: QPoint):
    """Press and move, without letting go."""
    QTest.mousePress(widget, LEFT, NONE, start)
    for share in (0.5, 1.0):
        QTest.mouseMove(widget, start + (end - start) * share)
        QTest.qWait(2)


def gives_up(window, widget, end: QPoint, before):
    assert window.document.project != before, "the drag shows"
    QTest.keyClick(widget, KEY.Key_Escape)
    assert window.document.project == before
    QTest.mouseMove(widget, end + QPoint(9, 4))
    QTest.mouseRelease(widget, LEFT, NONE, end)
    assert window.document.project == before
    assert not window.document.history.has_draft


def test_escape_gives_up_the_drag_of_a_paths_point(window):
    document, viewer = window.document, window.viewer
    document.do("Bare", lambda p: replace_clip(p, "big", lambda c: replace(c, moves=())))
    document.select("big")
    window.run("path-make")
    document.seek(0)
    QTest.qWait(10)
    before = document.project
    start = viewer.view.to_view(*viewer._path.points()[79].tolist()).toPoint()
    held(window, viewer, start, start + QPoint(-20, 15))
    gives_up(window, viewer, start + QPoint(-20, 15), before)


def test_escape_gives_up_scrubbing_a_number(window):
    document = window.document
    document.select("big")
    window.sheet.open_page("Transform")
    field = next(f for f in window.sheet.page("Transform").findChildren(type(_field())) if f.isVisible())
    field.setFocus()
    before = document.project
    start = QPointF(field.rect().center()).toPoint()
    held(window, field, start, start + QPoint(14, 0))
    gives_up(window, field, start + QPoint(14, 0), before)
    assert field.value == 0.0


def _field():
    from rovix.desktop.sheet.number_field import NumberField

    return NumberField("Any", "px")


def test_escape_gives_up_dragging_a_moves_length(window):
    document = window.document
    document.select("big")
    window.shelf.open_role("entrance")
    QTest.qWait(10)
    strip = window.sheet.page("Motion").strip
    strip.setFocus()
    before = document.project
    edge = strip.box_of(strip.tuned).right()
    held(window, strip, QPoint(round(edge), 8), QPoint(strip.width() - 8, 8))
    gives_up(window, strip, QPoint(strip.width() - 8, 8), before)
