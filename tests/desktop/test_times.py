"""Times in both seconds and frames, in every field, with the one first that the user prefers."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt, QTimer
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from rovix.desktop.dialogs.number_asked import NumberAsked
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.shown_unit import FIRST, Shown


@pytest.mark.parametrize(
    ("first", "text", "other", "name"),
    [
        ("", "0.40", "12 f", "Length, s"),
        ("s", "0.40", "12 f", "Length, s"),
        ("f", "12", "0.40 s", "Length, f"),
    ],
)
def test_a_time_is_shown_in_both_units(window, first, text, other, name):
    field = NumberField("Length", "s", 0.05, 2, low=0, high=3600)
    field.setParent(window)
    field.show_value(0.4)
    window.prefer_times(first)
    assert (field.text(), field.other_text(), field.accessibleName()) == (text, other, name)


@pytest.mark.parametrize(
    ("unit", "first", "typed", "value"),
    [
        ("s", "f", "12", 0.4), ("s", "f", "0.5s", 0.5), ("s", "", "12f", 0.4), ("s", "f", "+3", 0.5),
        ("f", "s", "0.5", 15.0), ("f", "s", "12f", 12.0), ("f", "", "0.4s", 12.0), ("f", "s", "*2", 24.0),
    ],
)  # fmt: skip
def test_what_is_typed_is_in_the_unit_that_is_shown_first(window, unit, first, typed, value):
    field = NumberField("Length", unit, low=0, high=3600)
    field.setParent(window)
    field.show_value(0.4 if unit == "s" else 12.0)
    window.prefer_times(first)
    taken = []
    field.committed.connect(taken.append)
    field.begin_typing()
    field._edit.setText(typed)
    field.finish_typing()
    assert taken == [pytest.approx(value)]


def test_limits_are_those_of_the_time_in_either_unit(window):
    field = NumberField("Gap", "f", low=1, high=60)
    field.setParent(window)
    window.prefer_times("s")
    field.begin_typing()
    field._edit.setText("3")
    field.finish_typing()
    assert field.problem == "Gap goes from 0.033333 to 2 s."
    field.begin_typing()
    field._edit.setText("2")
    field.finish_typing()
    assert field.value == 60
    assert not field.problem


def test_scrubbed_whole_frames_stay_whole_whichever_comes_first(window):
    # 29.97 frames a second: seconds of two decimals could not tell all frames apart.
    for rate in (24.0, 30000 / 1001, 60.0):
        shown = Shown("f", 1.0, 0, 1.0).other(rate)
        for frames in range(200):
            assert round(shown.rounded(frames)) == frames
        back = Shown("s", 1.0, 2, 0.05).other(rate)
        assert back.text(12 / rate) == "12"


def test_what_is_preferred_is_kept_and_told_by_menus(window):
    for name, first in (("frames", "f"), ("seconds", "s"), ("own", "")):
        window.run(f"times-{name}")
        assert window.first_of_times() == first
        assert [window.action(f"times-{n}").isChecked() for n in ("own", "seconds", "frames")] == [
            first == kept for kept in FIRST
        ]


def test_the_sheet_shows_the_length_in_frames_when_asked(window):
    window.document.select("big")
    window.run("times-frames")
    QTest.qWait(30)
    fields = [field for field in window.sheet.findChildren(NumberField) if field.shown.is_time]
    assert fields
    assert {field.shown.unit for field in fields} == {"f"}
    window.run("times-own")
    assert {field.shown.unit for field in fields} == {"s", "f"}


def test_a_number_that_is_asked_for_takes_seconds_and_refuses_with_a_reason(window):
    dialog = NumberAsked(window, "Stagger", "From clip to clip", 4, 0, 60, "f")
    dialog.show()
    QTest.qWait(60)
    for typed, stays in (("9s", True), ("0.5s", False)):
        if dialog.field._edit is None:
            dialog.field.begin_typing()
        dialog.field._edit.setText(typed)
        dialog.accept()
        assert dialog.isVisible() is stays
        assert bool(dialog.field.problem) is stays
    assert dialog.field.value == 15
    dialog.deleteLater()


def test_asked_by_a_command_enter_takes_and_escape_leaves(window):
    answers = []

    def press(key):
        QTest.keyClick(QApplication.activeModalWidget(), key)

    for key in (Qt.Key.Key_Return, Qt.Key.Key_Escape):
        QTimer.singleShot(80, lambda key=key: press(key))
        answers.append(window._asked_number("Guide", "px across", 5, 0, 9, "px"))
    assert answers == [5, None]
