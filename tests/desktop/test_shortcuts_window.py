"""Shortcuts are listed by menu, searched, changed by the user and kept; clashes are told."""

import pytest
from gestures import press
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from rovix.desktop.commands import COMMANDS, MENUS
from rovix.desktop.dialogs.shortcuts_window import Shortcuts


@pytest.fixture
def table(window):
    made = Shortcuts(window)
    yield made
    made.deleteLater()


def listed(table):
    tree = table.tree
    heads = [tree.topLevelItem(n) for n in range(tree.topLevelItemCount())]
    return {head.text(0): [head.child(n).text(0) for n in range(head.childCount())] for head in heads}


def test_every_command_is_listed_under_its_menu_and_searched(window, table):
    there = listed(table)
    assert list(there) == list(MENUS)
    assert sum(map(len, there.values())) == len(COMMANDS)
    table.search.setText("razor")
    assert listed(table)["Edit"][0] == "Split at the playhead"
    table.search.setText("ctrl+shift+v")
    assert listed(table) == {"Edit": ["Paste attributes…"]}
    table.search.setText("qqqq")
    assert listed(table) == {}
    assert not table.keys.isEnabled()


def test_a_shortcut_is_changed_works_and_is_kept(window, table, make_test_window):
    window.document.select("small")
    window.document.seek(40)
    table.choose("split")
    table.give("Y")
    press(window, Qt.Key.Key_S)
    assert window.document.history.undo_title is None
    press(window, Qt.Key.Key_Y)
    assert window.document.history.undo_title == "Split at the playhead"
    other = make_test_window()
    assert other.shortcut_of("split") == "Y"
    assert other.action("split").shortcut().toString() == "Y"
    table._usual.click()
    assert window.shortcut_of("split") == "S"


def test_what_had_the_keys_loses_them_and_is_named(window, table):
    table.choose("split")
    table.give("M")
    assert window.shortcut_of("marker") == ""
    assert "'Put a marker at the playhead' had these keys" in table.said.text()
    assert window.action("marker").shortcut().isEmpty()
    table._all.click()
    assert (window.shortcut_of("split"), window.shortcut_of("marker")) == ("S", "M")
    assert all(window.shortcut_of(item.id) == item.shortcut for item in COMMANDS)


def test_keys_are_taken_as_they_are_pressed_and_taken_off(window, table):
    table.show()
    table.choose("rename")
    table.keys.setFocus()
    QTest.keyClick(table.keys, Qt.Key.Key_R, Qt.KeyboardModifier.ControlModifier)
    QTest.qWait(1200)
    assert window.shortcut_of("rename") == "Ctrl+R"
    table._clear.click()
    assert window.shortcut_of("rename") == ""
