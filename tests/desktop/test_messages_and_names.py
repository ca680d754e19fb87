"""Messages go when their time is over and keep off the words; clips are called by their words until named."""

from gestures import clip
from PySide6.QtCore import QEvent, QPointF, QRectF, Qt
from PySide6.QtGui import QEnterEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from rovix.desktop.messages import Message
from rovix.desktop.qt import widgets_in
from rovix.edit import change_text
from rovix.model import TextClip
from rovix.model.text import Text
from waiting import wait_for


def shown(window):
    return [message for message in widgets_in(window.messages._column) if isinstance(message, Message)]


def test_a_warning_goes_after_its_time_and_an_offer_stays(window):
    window.document.problem.emit("That cannot be done.")
    window.offer("Work was left.", "", {"Open it": lambda: None})
    (offer,), (warning,) = ([m for m in shown(window) if m.stays == stays] for stays in (True, False))
    assert warning._time.isActive()
    assert warning._time.interval() > 4000, "long enough to be read"
    assert not offer._time.isActive()
    warning._time.start(30)
    assert wait_for(lambda: shown(window) == [offer], 3000)


def test_time_does_not_run_out_under_the_mouse_and_another_project_clears_warnings(window):
    window.document.problem.emit("That cannot be done.")
    (warning,) = shown(window)
    middle = QPointF(warning.rect().center())
    QApplication.sendEvent(warning, QEnterEvent(middle, middle, QPointF(warning.mapToGlobal(middle))))
    assert not warning._time.isActive()
    QApplication.sendEvent(warning, QEvent(QEvent.Type.Leave))
    assert warning._time.isActive()
    assert shown(window) == [warning]
    window.document.show(window.document.whole, window.document.base, None)
    assert shown(window) == []


def test_messages_keep_off_the_words_that_are_worked_on(window):
    window.messages.avoids = lambda: QRectF(0, 0, 4000, 60)
    window.document.problem.emit("Over the words?")
    assert window.messages.y() > window.viewer.height() / 2
    window.messages.avoids = lambda: QRectF(0, window.viewer.height() - 20, 4000, 20)
    window.messages.place()
    assert window.messages.y() == 12


def test_comparing_is_left_by_escape_and_by_taking_up_something_else(window):
    comparison = window.viewer.comparison
    window.document.select("big")
    window.run("compare")
    assert comparison.on
    window.projector.stop()
    window.viewer.setFocus()
    QTest.keyClick(window.viewer, Qt.Key.Key_Escape)
    assert not comparison.on
    assert window.document.selection == ("big",)
    window.run("compare")
    window.projector.stop()
    window.document.select("small")
    assert not comparison.on


def test_words_are_called_by_what_they_say_until_they_are_named(window):
    assert TextClip(id="a", text=Text(content="Kites\nat noon")).title == "Kites at noon"
    long = TextClip(id="a", text=Text(content="Wind fourteen knots from the west all afternoon"))
    assert (long.title[-1], len(long.title)) == ("…", 28)
    assert TextClip(id="a", name="Opening", text=Text(content="Kites")).title == "Opening"
    assert TextClip(id="a").title == "a"
    window.document.seek(85)
    window.run("add-words")
    window.viewer.finish_words()
    made = window.document.clip
    assert made.name == ""
    window.document.do("Words", lambda p: change_text(p, made.id, content="Bring string"))
    assert clip(window, made.id).title == "Bring string"
    window.sheet.open_page("Clip")
    page = window.sheet.page("Clip")
    assert (page._name.text(), page._name.placeholderText()) == ("", "Bring string")
    window.run("nudge-right")
    assert window.document.history.undo_title == "Nudge Bring string"
    page._name.setText("Rope")
    page._name.editingFinished.emit()
    assert clip(window, made.id).title == "Rope"
