"""How many actions the commonest jobs take: an action is one click, drag, shortcut or typed run."""

from __future__ import annotations

import pytest
from gestures import CTRL, LEFT, NONE, SHIFT, at, drag
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from builders import project_of, title
from rovix.desktop.dialogs.font_picker import FontPicker
from rovix.desktop.dialogs.paste_attributes import PasteAttributes
from rovix.edit import move_of
from rovix.edit.tree import clip_by_id
from rovix.model import BackgroundClip, Outline, Plain, Track
from rovix.motion.ready_moves import rise_and_fade

Key = Qt.Key


class Hands:
    """Does what an editor does, and counts it."""

    def __init__(self, window):
        self.window, self.actions = window, 0

    def click(self, widget, point=None, modifiers=NONE):
        self.actions += 1
        QTest.mouseClick(widget, LEFT, modifiers, point or widget.rect().center())
        QTest.qWait(5)

    def drag(self, widget, start, end):
        self.actions += 1
        drag(widget, start, end)

    def shortcut(self, key, modifiers=NONE):
        self.actions += 1
        QTest.keyClick(self.window.focusWidget() or self.window, key, modifiers)
        QTest.qWait(5)

    def type(self, text, enter=False):
        """A typed run into whatever has the keyboard, with Enter at its end where that belongs to it."""
        self.actions += 1
        widget = QApplication.focusWidget() or self.window.focusWidget()
        QTest.keyClicks(widget, text)
        if enter:
            QTest.keyClick(widget, Key.Key_Return)
        QTest.qWait(5)

    def answer(self, dialog):
        """Enter, for a dialog whose answer is as it should be."""
        self.actions += 1
        QTest.keyClick(dialog, Key.Key_Return)


@pytest.fixture
def hands(window):
    window.timeline.canvas.setFocus()
    return Hands(window)


@pytest.fixture
def ten(make_test_window):
    """A dressed and moving title, and ten plain ones after each other on the track above."""
    ground = BackgroundClip(id="ground", name="Ground", length=400, background=Plain(colour="#335566"))
    dressed = title("Larkmoor", id="dressed", name="Dressed", length=100, text={"family": "Oswald", "size": 60.0},
                    moves=[rise_and_fade()])  # fmt: skip
    from rovix.edit.tree import replace

    dressed = replace(dressed, look=replace(dressed.look, parts=(*dressed.look.parts, Outline(id="o"))))
    titles = tuple(
        title(f"Title {n}", id=f"t{n}", name=f"T{n}", start=110 + 28 * n, length=26) for n in range(10)
    )
    project = project_of(ground, dressed)
    sequence = project.sequence
    tracks = (*sequence.tracks, Track(id="ten", name="Ten", clips=titles))
    made = make_test_window(replace(project, sequences=(replace(sequence, tracks=tracks),)))
    made.timeline.canvas.setFocus()
    return Hands(made)


def all_ten(hands):
    return [clip_by_id(hands.window.document.project, f"t{n}") for n in range(10)]


def band(hands):
    """A band drawn over the ten titles."""
    canvas = hands.window.timeline.canvas
    start = at(hands.window, "t0", 107, 0.95)
    end = at(hands.window, "t9", 110 + 28 * 9 + 20, 0.3)
    hands.drag(canvas, start, end)
    assert set(hands.window.document.selection) == {f"t{n}" for n in range(10)}


def test_a_title_that_pops_in_takes_three(hands):
    window = hands.window
    window.document.seek(85)
    hands.shortcut(Key.Key_T)
    hands.type("Kites at noon")
    hands.click(window.shelf.card("Pop"))
    clip = window.document.clip
    assert (clip.text.content, move_of(clip, "entrance").name) == ("Kites at noon", "Pop")
    assert hands.actions <= 3


def test_style_and_motion_to_ten_titles_take_five(ten):
    window = ten.window
    ten.click(window.timeline.canvas, at(window, "dressed", 50))
    ten.shortcut(Key.Key_C, CTRL)
    band(ten)
    ten.shortcut(Key.Key_V, CTRL | SHIFT)
    ten.answer(window.findChild(PasteAttributes))
    for clip in all_ten(ten):
        assert clip.text.family == "Oswald"
        assert len(clip.look.outlines) == 1
        assert move_of(clip, "entrance").name == "Rise and fade"
        assert clip.text.content.startswith("Title")
    assert ten.actions <= 5
    window.run("undo")
    assert all(not clip.moves for clip in all_ten(ten)), "in one step"


def test_the_face_of_ten_titles_takes_three(ten):
    band(ten)
    ten.shortcut(Key.Key_T, CTRL)
    picker = ten.window.findChild(FontPicker)
    ten.actions += 1  # a typed run: the name and Enter
    QTest.keyClicks(picker._search, "oswald")
    QTest.keyClick(picker._search, Key.Key_Return)
    assert {clip.text.family for clip in all_ten(ten)} == {"Oswald"}
    assert ten.actions <= 3
    ten.window.run("undo")
    assert {clip.text.family for clip in all_ten(ten)} == {"Outfit"}


def test_typing_with_clicks_takes_four(hands):
    window = hands.window
    hands.click(window.timeline.canvas, at(window, "small", 40))
    hands.click(window.shelf._search)
    hands.type("typed with")
    hands.click(window.shelf.card("Typed with clicks"))
    move = move_of(clip_by_id(window.document.project, "small"), "entrance")
    assert move.typing is not None
    assert move.piece_sound is not None
    assert hands.actions <= 4


def test_an_entrance_with_an_overshoot_of_ones_own_takes_four(hands):
    window = hands.window
    hands.click(window.timeline.canvas, at(window, "small", 40))
    hands.click(window.shelf.card("Grow"))
    page = window.sheet.page("Motion")
    line = page._piece_curve._box.lineEdit()
    line.selectAll()
    hands.click(line, QPoint(6, line.height() // 2))
    line.selectAll()
    hands.type("cubic-bezier(0.2, 1.9, 0.4, 1)", enter=True)
    move = move_of(clip_by_id(window.document.project, "small"), "entrance")
    assert (move.name, move.piece_curve) == ("Grow", "cubic-bezier(0.2, 1.9, 0.4, 1)")
    assert hands.actions <= 4
