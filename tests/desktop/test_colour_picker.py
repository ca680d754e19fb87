"""Choosing a colour: seen while it is looked for, one step when kept, nothing when left."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from rovix.desktop.sheet.colour_button import ColourButton
from rovix.desktop.sheet.colour_plane import HSV, OKLCH, from_space, to_space
from rovix.desktop.viewer.dropper import around, colour_at


def _fill(document, identity="small"):
    (found,) = [c for t in document.project.sequence.tracks for c in t.clips if c.id == identity]
    return found.look.fill.paint.colour


@pytest.fixture
def picker(window):
    window.document.select("small")
    window.document.seek(40)
    window.sheet.open_page("Look")
    QTest.qWait(60)
    buttons = window.sheet.page("Look").findChildren(ColourButton)
    (button,) = [b for b in buttons if b.accessibleName() == "Fill colour" and b.isVisibleTo(window)]
    made = button.choose()
    QTest.qWait(20)
    return made


def _type(field, text):
    field.begin_typing()
    field._edit.setText(text)
    field.finish_typing()


def test_looking_for_a_colour_is_a_draft_and_enter_keeps_it_as_one_step(window, picker):
    document = window.document
    picker._plane._go(1.0, 1.0)
    picker._hue._go(120)
    assert _fill(document) == "#00ff00"
    assert document.history.has_draft
    QTest.keyClick(picker, Qt.Key.Key_Return)
    assert not document.history.has_draft
    assert _fill(document) == "#00ff00"
    assert document.history.undo_title == "Colour the fill"
    assert window.recent_colours() == ["#00ff00"]
    document.undo()
    assert _fill(document) == "#fff8ea"
    assert document.history.undo_title is None, "it was one step"


def test_escape_leaves_everything_as_it_was(window, picker):
    picker._take("#123456")
    assert _fill(window.document) == "#123456"
    QTest.keyClick(picker, Qt.Key.Key_Escape)
    assert _fill(window.document) == "#fff8ea"
    assert window.document.history.undo_title is None
    assert window.recent_colours() == []


@pytest.mark.parametrize(
    ("typed", "text"),
    [("#1a2b3c", "#1a2b3c"), ("abc", "#aabbcc"), ("#11223344", "#11223344"), ("no colour", "#fff8ea")],
)
def test_a_colour_is_typed_in_hexadecimal(window, picker, typed, text):
    picker._hex.setText(typed)
    picker._take_hex()
    assert picker.colour == text
    assert picker._hex.text() == text


def test_opacity_stays_while_the_colour_changes(window, picker):
    _type(picker._opacity, "50")
    picker._hex.setText("#102030")
    picker._take_hex()
    assert picker.colour == "#10203080"
    assert _fill(window.document) == "#10203080"


def test_black_keeps_its_hue_while_it_is_dragged(picker):
    picker._take("#0000ff")
    picker._plane._go(1.0, 0.0)
    assert picker.colour == "#000000"
    picker._plane._go(1.0, 1.0)
    assert picker.colour == "#0000ff"


def test_numbers_of_the_other_space_show_the_same_colour_and_it_is_kept(window, picker):
    picker._take("#d04a77")
    picker._take_space("oklch")
    assert picker.colour == "#d04a77"
    lightness = picker._fields[OKLCH][0]
    assert lightness.isVisibleTo(picker)
    _type(lightness, "90")
    assert to_space(OKLCH, tuple(int(picker.colour[n : n + 2], 16) / 255 for n in (1, 3, 5)))[
        0
    ] == pytest.approx(0.9, abs=0.01)
    assert window.colour_space() == "oklch"


def test_every_selected_layer_takes_the_colour(window, picker):
    picker.hide()
    window.document.select("big", "small")
    QTest.qWait(20)
    buttons = window.sheet.page("Look").findChildren(ColourButton)
    (button,) = [b for b in buttons if b.accessibleName() == "Fill colour" and b.isVisibleTo(window)]
    shown = button.choose()
    shown._take("#456789")
    shown.hide()
    assert {_fill(window.document, name) for name in ("big", "small")} == {"#456789"}


def test_the_projects_colours_are_offered_and_back_goes_back(window, picker):
    assert "#335566" in picker._used._colours
    box = picker._used._box(picker._used._colours.index("#335566")).center().toPoint()
    QTest.mouseClick(picker._used, Qt.MouseButton.LeftButton, pos=box)
    assert picker.colour == "#335566"
    QTest.mouseClick(picker._both, Qt.MouseButton.LeftButton, pos=QPoint(5, 5))
    assert picker.colour == "#fff8ea"


def test_a_colour_from_the_picture_is_the_one_under_the_click(window, picker):
    picker._begin_dropper()
    assert not picker.isVisible()
    corner = window.viewer.view.to_view(8, 8).toPoint()
    QTest.mouseClick(window.viewer, Qt.MouseButton.LeftButton, pos=corner)
    assert picker.isVisible()
    assert picker.colour == "#335566"
    assert window.document.selected == "small", "the click took a colour and nothing else"


def test_the_dropper_left_by_escape_or_beside_the_picture_changes_nothing(window, picker):
    for leave in (
        lambda: QTest.keyClick(window.viewer, Qt.Key.Key_Escape),
        lambda: QTest.mouseClick(window.viewer, Qt.MouseButton.LeftButton, pos=QPoint(2, 2)),
    ):
        picker._begin_dropper()
        leave()
        assert picker.isVisible()
        assert picker.colour == "#fff8ea"


def test_contrast_to_the_ground_around_the_words_is_told(window, picker):
    # WCAG 2.2 by hand: luminances 0.943 and 0.082, (0.943 + 0.05) / (0.082 + 0.05) = 7.5; large words lie behind.
    assert picker._contrast.isVisibleTo(picker)
    assert "7.5 : 1, 1.0 at worst" in picker._contrast.text()
    picker._take("#335566")
    assert "little" in picker._contrast.text()


def test_colours_of_premultiplied_pixels_are_given_plain():
    pixels = np.zeros((4, 4, 4), dtype=np.uint8)
    pixels[0, 0] = (10, 20, 40, 128)
    assert colour_at(pixels, 0.0, 0.0) == "#502814"
    assert colour_at(pixels, 0.9, 0.9) is None
    assert colour_at(pixels, -0.1, 0.5) is None
    assert around(pixels, (0.2, 0.2, 0.8, 0.8)) is None


def test_both_spaces_are_whole_over_their_ranges():
    for space in (HSV, OKLCH):
        for values in np.ndindex(3, 3, 3):
            made = tuple(n / 2 * space.most(k) * 0.999 for k, n in enumerate(values))
            assert all(0 <= part <= 1 for part in from_space(space, made))
