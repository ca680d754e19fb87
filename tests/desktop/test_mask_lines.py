"""A mask's line drawn in the picture with the pen and worked on there; each step undone again."""

import numpy as np
import pytest
from gestures import ALT, CTRL, LEFT, NONE, SHIFT, pull
from PySide6.QtCore import QEvent, QObject, QPointF, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QPushButton

from rovix.desktop.time_field import TimeField
from rovix.edit import clip_by_id
from rovix.edit.contours import is_smooth
from rovix.edit.effects import change_effect
from rovix.edit.tree import replace, replace_clip
from rovix.model import ContourKey, ContourKeys
from rovix.model.effects.mask import Mask

CORNERS = [(180, 90), (460, 100), (440, 270), (200, 250)]


@pytest.fixture
def viewer(window):
    document = window.document
    document.do("Bare", lambda p: replace_clip(p, "big", lambda c: replace(c, moves=())))
    document.select("big")
    document.seek(10)
    QTest.qWait(10)
    return window.viewer


def spot(viewer, x, y) -> QPointF:
    return viewer.view.to_view(x, y)


def click(viewer, x, y, modifiers=NONE):
    QTest.mouseClick(viewer, LEFT, modifiers, spot(viewer, x, y).toPoint())


def masks(window):
    return clip_by_id(window.document.project, "big").effects


@pytest.fixture
def drawn(window, viewer):
    window.run("mask-draw")
    for corner in CORNERS:
        click(viewer, *corner)
    QTest.keyClick(viewer, Qt.Key.Key_Return)
    return viewer


def where(viewer):
    """The points of the line in px of the frame."""
    spots = viewer.hand._to_view(viewer.view, [point[:2] for point in viewer.hand.line])
    return [viewer.view.to_frame(found) for found in spots]


def test_points_clicked_become_a_mask_in_one_step(window, drawn):
    (mask,) = masks(window)
    assert mask.form == "drawn"
    for found, wanted in zip(where(drawn), CORNERS, strict=True):
        assert found == pytest.approx(wanted, abs=2)
    assert window.document.history.undo_title == "Draw the mask"
    window.document.undo()
    assert masks(window) == ()
    assert drawn.hand is None  # what it was about is gone


def test_a_drag_bends_and_the_first_point_closes(window, viewer):
    window.run("mask-draw")
    click(viewer, *CORNERS[0])
    pull(viewer, spot(viewer, *CORNERS[1]), spot(viewer, 500, 140))
    click(viewer, *CORNERS[2])
    QTest.keyClick(viewer, Qt.Key.Key_Backspace)
    click(viewer, *CORNERS[3])
    click(viewer, *CORNERS[0])
    (mask,) = masks(window)
    assert [is_smooth(point) for point in mask.contour] == [False, True, False]


def test_escape_drops_what_is_drawn_then_the_pen(window, viewer):
    window.run("mask-draw")
    click(viewer, *CORNERS[0])
    QTest.keyClick(viewer, Qt.Key.Key_Escape)
    assert viewer.hand is not None
    QTest.keyClick(viewer, Qt.Key.Key_Return)  # nothing to close: told, and nothing added
    assert masks(window) == ()
    QTest.keyClick(viewer, Qt.Key.Key_Escape)
    assert viewer.hand is None


def test_points_are_moved_added_rounded_and_removed(window, drawn):
    before = window.document.project
    pull(drawn, spot(drawn, *CORNERS[0]), spot(drawn, 160, 80))
    assert where(drawn)[0] == pytest.approx((160, 80), abs=2)
    QTest.mouseDClick(drawn, LEFT, NONE, spot(drawn, 450, 185).toPoint())
    assert len(drawn.hand.line) == 5
    QTest.mouseDClick(drawn, LEFT, NONE, spot(drawn, *where(drawn)[3]).toPoint())
    assert is_smooth(drawn.hand.line[3])
    click(drawn, *where(drawn)[3])
    QTest.keyClick(drawn, Qt.Key.Key_Delete)
    assert len(drawn.hand.line) == 4
    assert clip_by_id(window.document.project, "big") is not None  # Delete was the hand's, not the layer's
    for _ in range(4):
        window.document.undo()
    assert window.document.project == before


def test_all_go_together_and_some_by_the_arrows(window, drawn):
    start = where(drawn)
    pull(drawn, spot(drawn, 320, 180), spot(drawn, 340, 180))
    assert [x for x, _ in where(drawn)] == pytest.approx([x + 20 for x, _ in start], abs=2)
    click(drawn, *where(drawn)[0])
    click(drawn, *where(drawn)[1], SHIFT)
    QTest.keyClick(drawn, Qt.Key.Key_Down, ALT | SHIFT)
    assert [y for _, y in where(drawn)] == pytest.approx([start[0][1] + 10, start[1][1] + 10, start[2][1], start[3][1]], abs=2)  # fmt: skip
    QTest.keyClick(drawn, Qt.Key.Key_A, CTRL)
    QTest.keyClick(drawn, Qt.Key.Key_Delete)  # all of them: refused, as a line keeps two
    assert len(drawn.hand.line) == 4


def test_keys_are_set_step_by_step_and_a_change_makes_one(window, drawn):
    window.run("mask-key-on")
    assert window.document.playhead == 15
    pull(drawn, spot(drawn, 320, 180), spot(drawn, 360, 180))
    held = masks(window)[0].contour
    assert isinstance(held, ContourKeys)
    assert [key.frame for key in held.keys] == [10, 15]
    assert held.keys[1].value[0][0] == pytest.approx(held.keys[0].value[0][0] + 40, abs=2)
    window.document.seek(12)
    assert held.keys[0].value[0][0] < drawn.hand.line[0][0] < held.keys[1].value[0][0]


def test_a_locked_layer_is_told_and_left(window, drawn):
    before = masks(window)
    window.run("lock-track")
    said = []
    window.document.problem.connect(said.append)
    assert window.document.is_locked
    pull(drawn, spot(drawn, 320, 180), spot(drawn, 360, 180))
    assert masks(window) == before
    assert "locked" in said[0]


def test_the_card_shows_the_line_for_drawn_masks_alone_and_takes_it_up(window, drawn):
    QTest.keyClick(drawn, Qt.Key.Key_Return)
    assert drawn.hand is None
    window.sheet.open_page("Effects")
    page = window.sheet.page("Effects")
    QTest.mouseClick(page.card("mask").head, LEFT)
    fields = page.card("mask").fields
    (button,) = [b for b in fields.findChildren(QPushButton) if b.text() == "Edit in the picture"]
    assert button.isVisibleTo(fields)
    button.click()
    assert drawn.hand is not None
    window.document.do("A box", lambda p: change_effect(p, "big", masks(window)[0].id, form="box"))
    assert not button.isVisibleTo(fields)


@pytest.fixture
def long_line(window, viewer):
    """A mask of 200 points in 3 keys, its line open in the viewer."""
    turns = np.linspace(0, 2 * np.pi, 200, endpoint=False)
    ring = np.stack([150 * np.cos(turns), 90 * np.sin(turns)], axis=1)
    lines = [tuple((x + at, y, 0.0, 0.0, 0.0, 0.0) for x, y in ring.tolist()) for at in range(3)]
    keys = ContourKeys(keys=tuple(ContourKey(frame=8 * n, value=line) for n, line in enumerate(lines)))
    mask = Mask(id="mask", form="drawn", contour=keys)
    window.document.do("Mask", lambda p: replace_clip(p, "big", lambda c: replace(c, effects=(mask,))))
    window.run("mask-edit")
    return viewer


def hold(viewer, start, way):
    """Press and move twice, without letting go."""
    QTest.mousePress(viewer, LEFT, NONE, start.toPoint())
    for share in (0.5, 1.0):
        QTest.mouseMove(viewer, (start + way * share).toPoint())


def test_a_long_line_follows_the_hand_and_is_what_is_kept(window, long_line):
    viewer, document = long_line, window.document
    hand, before = viewer.hand, viewer.hand.line
    start = hand._to_view(viewer.view, np.array([before[50][:2]]))[0]
    hold(viewer, start, QPointF(18, 12))
    assert hand.line == hand.lined.line() != before  # what is shown is what the project says
    assert hand.line[:50] == before[:50]
    assert hand.line[51:] == before[51:]
    shown = hand._to_view(viewer.view, np.array([hand.line[50][:2]]))[0] - start
    assert (shown.x(), shown.y()) == pytest.approx((18, 12), abs=1.5)
    QTest.keyClick(viewer, Qt.Key.Key_Escape)
    assert hand.line == hand.lined.line() == before
    QTest.mouseRelease(viewer, LEFT, NONE, start.toPoint())

    pull(viewer, start, start + QPointF(18, 12))
    kept = hand.line
    assert kept == hand.lined.line() != before
    document.seek(document.playhead + 1)
    assert hand.line == hand.lined.line() != kept
    document.undo()
    assert hand.line == hand.lined.line()


class Painted(QObject):
    """Counts how often widgets are painted."""

    def __init__(self, *widgets):
        super().__init__()
        self.times = dict.fromkeys(widgets, 0)
        for widget in widgets:
            widget.installEventFilter(self)

    def eventFilter(self, widget, event):  # noqa: N802
        self.times[widget] += event.type() == QEvent.Type.Paint
        return False


def test_a_step_of_the_hand_paints_the_picture_but_no_timecode(window, long_line):
    viewer, time = long_line, window.findChild(TimeField)
    start = viewer.hand._to_view(viewer.view, np.array([viewer.hand.line[50][:2]]))[0]
    hold(viewer, start, QPointF(9, 9))
    QTest.qWait(50)
    painted = Painted(viewer, time)
    for step in range(5):
        QTest.mouseMove(viewer, (start + QPointF(12 + step, 9)).toPoint())
        QTest.qWait(20)
    assert painted.times[viewer] >= 5
    assert painted.times[time] == 0
    QTest.keyClick(viewer, Qt.Key.Key_Escape)
    QTest.mouseRelease(viewer, LEFT, NONE, start.toPoint())
    window.document.seek(window.document.playhead + 1)
    QTest.qWait(50)
    assert painted.times[time] >= 1
