"""Find and replace in a real window."""

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from rovix.desktop.dialogs.find_words import FindWords
from rovix.edit import clip_by_id
from waiting import wait_for


def text(window, identity):
    return clip_by_id(window.document.project, identity).text.content


def test_places_are_listed_gone_to_and_replaced(window):
    window.run("find-words")
    dialog = window.findChild(FindWords)
    assert "All layers" in dialog.said.text(), "an empty search says what it will do"
    QTest.keyClicks(dialog.wanted, "k")
    assert wait_for(lambda: dialog.list.count() == 2, 2000)
    QTest.keyClick(dialog.wanted, Qt.Key.Key_Return)
    assert window.document.selected == "small"
    assert window.document.playhead in window.document.clip.span
    QTest.keyClicks(dialog.given, "g")
    dialog.same_case.click()
    assert dialog.list.count() == 1
    dialog.all.click()
    assert text(window, "big") == "Largmoor"
    assert text(window, "small") == "Kite day"
    assert "1 replaced" in dialog.said.text()
    assert window.document.history.undo_title == "Replace all “k”"
    window.run("undo")
    assert wait_for(lambda: dialog.list.count() == 1, 2000), "it looks again when the words change"
    dialog.one.click()
    assert text(window, "big") == "Largmoor"
    dialog.wanted.setText("zeppelin")
    dialog.look()
    assert not dialog.all.isEnabled()
    assert "Nowhere" in dialog.said.text()
    dialog.close()
    window.run("find-words")
    assert len(window.findChildren(FindWords)) == 1


def test_words_on_a_locked_track_are_shown_and_left(window):
    window.document.select("big")
    window.run("lock-track")
    window.run("find-words")
    dialog = window.findChild(FindWords)
    dialog.wanted.setText("Lark")
    dialog.look()
    assert "locked" in dialog.list.item(0).text()
    assert not dialog.all.isEnabled()
    dialog.replace_one()
    assert text(window, "big") == "Larkmoor"
