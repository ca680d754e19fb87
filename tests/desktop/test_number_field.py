import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox

from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.number_field import NumberField
from rovix.edit import move_of
from waiting import wait_for

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def field(qapp):
    made = NumberField("Opacity", "%", 1, 0, factor=100, low=0, high=100)
    made.show_value(0.5)
    made.show()
    made.heard = []
    made.tried.connect(lambda value: made.heard.append(("tried", value)))
    made.committed.connect(lambda value: made.heard.append(("set", value)))
    made.dropped.connect(lambda: made.heard.append(("dropped", None)))
    yield made
    made.hide()
    made.deleteLater()


def typed(field, text):
    field.begin_typing()
    field._edit.setText(text)
    QTest.keyClick(field._edit, Qt.Key.Key_Return)


def test_it_shows_the_value_in_its_unit(field):
    assert field.text() == "50"
    field.show_value(None)
    assert field.text() == "mixed"
    degrees = NumberField("Turn", "°", 0.5, 1)
    degrees.show_value(-3.0)
    assert degrees.text() == "−3.0"
    degrees.deleteLater()


def test_a_value_or_a_sum_is_typed(field):
    typed(field, "100/4")
    assert field.heard == [("set", 0.25)]


def test_enter_closes_the_field_and_what_was_typed_stays_as_exact_as_it_was(field):
    """Passed on, the key would open it anew, with the rounded number that it shows."""
    typed(field, "100/3")
    assert field._edit is None
    other = NumberField("Other", "px")
    other.show()
    other.setFocus()
    assert field.heard == [("set", pytest.approx(1 / 3, abs=1e-12))]
    other.hide()
    other.deleteLater()


def test_a_limit_is_named_and_nothing_changes(field):
    typed(field, "140")
    assert field.heard == []
    assert field.problem == "Opacity goes from 0 to 100 %."
    typed(field, "many")
    assert "no number" in field.problem
    assert field.value == 0.5
    typed(field, "70")
    assert field.problem == ""


def test_dragging_tries_and_letting_go_sets(field):
    start = QPoint(20, 8)
    QTest.mousePress(field, LEFT, Qt.KeyboardModifier.NoModifier, start)
    QTest.mouseMove(field, start + QPoint(10, 0))
    QTest.qWait(2)
    QTest.mouseRelease(field, LEFT, Qt.KeyboardModifier.NoModifier, start + QPoint(10, 0))
    assert field.heard[0] == ("tried", pytest.approx(0.6))
    assert field.heard[-1] == ("set", pytest.approx(0.6))


def test_keys_step_and_escape_drops(field):
    QTest.keyClick(field, Qt.Key.Key_Up)
    QTest.keyClick(field, Qt.Key.Key_Down, Qt.KeyboardModifier.ShiftModifier)
    assert [value for _, value in field.heard] == [pytest.approx(0.51), pytest.approx(0.41)]
    QTest.keyClick(field, "7")
    assert field.heard[-1] == ("set", pytest.approx(0.41)), "what was stepped to is kept before typing begins"
    assert field._edit.text() == "7"
    QTest.keyClick(field._edit, Qt.Key.Key_Escape)
    assert field.heard[-1] == ("dropped", None)
    assert field.value == pytest.approx(0.41)


def turn(field, notches):
    where = QPointF(20, 8)
    event = QWheelEvent(
        where, field.mapToGlobal(where), QPoint(), QPoint(0, 120 * notches), Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier, Qt.ScrollPhase.NoScrollPhase, False,
    )  # fmt: skip
    QApplication.sendEvent(field, event)
    return event.isAccepted()


def test_notches_that_follow_each_other_are_one_change(field):
    field.clearFocus()
    assert not turn(field, 1), "without the focus it scrolls the panel"
    field.setFocus()
    for _ in range(5):
        turn(field, 1)
    assert [kind for kind, _ in field.heard] == ["tried"] * 5
    assert wait_for(lambda: len(field.heard) > 5, 20_000)
    assert field.heard[5:] == [("set", pytest.approx(0.55))]
    turn(field, -1)
    field.clearFocus()
    assert field.heard[-1] == ("set", pytest.approx(0.54)), "leaving the field ends a change at once"
    field.setFocus()
    turn(field, 3)
    QTest.keyClick(field, Qt.Key.Key_Escape)
    field.show_value(0.54)
    QTest.qWait(650)
    assert field.heard[-1] == ("tried", pytest.approx(0.57)), "Escape leaves the window to drop it"


def test_the_wheel_changes_no_closed_list(window):
    window.document.select("big")
    for page in ("Text", "Transform", "Clip"):
        window.sheet.open_page(page)
    boxes = window.findChildren(QComboBox)
    assert len(boxes) > 10
    assert all(isinstance(box, DropDown) for box in boxes)
    box = next(box for box in boxes if box.accessibleName() == "Blend")
    before = box.currentIndex()
    box.setFocus()
    assert not turn(box, -1)
    assert box.currentIndex() == before


def test_a_length_is_typed_in_frames_of_the_document(window):
    window.document.select("big")
    rate = float(window.document.rate.fraction)
    QTest.mouseClick(window.shelf.card("Pop"), LEFT)
    field = next(f for f in window.sheet.findChildren(NumberField) if f.accessibleName() == "Length, s")
    typed(field, "15f")
    assert field.problem == ""
    assert move_of(window.document.clip, "entrance").length == pytest.approx(15 / rate)


def test_what_was_stepped_to_is_kept_where_work_is_saved_or_left(window):
    window.document.select("big")
    window.sheet.open_page("Transform")
    field = next(f for f in window.sheet.findChildren(NumberField) if f.accessibleName() == "Position Z, px")
    before = window.document.clip.transform.z
    field.setFocus()
    turn(field, 2)
    assert window.document.history.has_draft, "only tried so far"
    window.finish_typing()
    assert window.document.clip.transform.z == before + 4
    assert not window.document.history.has_draft
    window.document.undo()
    assert window.document.clip.transform.z == before, "in one step"
