"""The menus under the mouse: opened by events, every entry run or greyed; and the menus above."""

import pytest
from gestures import at, clip, row_point
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QContextMenuEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QDialog, QMenu
from test_commands import ASKING

from rovix.desktop.commands import COMMANDS, MENUS, command
from rovix.desktop.context_menus import PLACES, context_menu


@pytest.fixture
def asked(window, monkeypatch):
    """Which places menus were asked for, in place of showing them."""
    heard = []
    for part in (window.timeline.canvas, window.viewer):
        part.wants_menu.disconnect()
        part.wants_menu.connect(lambda place, _: heard.append(place))
    return heard


def ask(widget, point, by_key=False):
    reason = QContextMenuEvent.Reason.Keyboard if by_key else QContextMenuEvent.Reason.Mouse
    event = QContextMenuEvent(reason, point, widget.mapToGlobal(point))
    QApplication.sendEvent(widget, event)


def test_a_right_click_chooses_what_is_under_it(window, asked):
    canvas, document = window.timeline.canvas, window.document
    document.select("big")
    ask(canvas, at(window, "small", 40))
    assert (document.selection, asked[-1]) == (("small",), "clip")
    document.select("big", "small")
    ask(canvas, at(window, "big", 70))
    assert document.selection == ("big", "small"), "what is selected stays selected together"
    ask(canvas, row_point(window, 2, 85))
    assert asked[-1] == "empty"
    ask(canvas, QPoint(round(canvas.scale.x(33)), 8))
    assert (document.playhead, asked[-1]) == (33, "ruler")
    ask(canvas, QPoint(30, at(window, "small", 40).y()))
    assert asked[-1] == "track"
    assert canvas.pointed_track is document.project.sequence.tracks[2]
    document.select("big")
    assert canvas.pointed_track is None
    ask(canvas, QPoint(0, 0), by_key=True)
    assert (document.selection, asked[-1]) == (("big",), "clip"), "by key, of what is selected"


def test_a_right_click_in_the_picture_chooses_the_layer(window, asked):
    window.document.seek(40)
    QTest.qWait(200)
    ask(window.viewer, QPoint(3, 3))
    assert asked[-1] == "picture"
    window.document.select("big")
    ask(window.viewer, QPoint(3, 3), by_key=True)
    assert asked[-1] == "layer"
    window.viewer.edit_words()
    ask(window.viewer, window.viewer.rect().center())
    assert len(asked) == 2, "while words are typed the menu would take them the keyboard"


def actions_in(menu):
    for action in menu.actions():
        if action.menu() is not None:
            yield from actions_in(action.menu())
        elif not action.isSeparator():
            yield action


@pytest.mark.parametrize("place", PLACES)
def test_every_entry_runs_or_is_greyed_for_a_reason(window, place):
    document, before = window.document, window.document.project
    names = {window.action(item.id): item.id for item in COMMANDS}

    def fresh():
        document.select("small")
        document.seek(45)
        window.timeline.canvas.point_at(document.project.sequence.tracks[2].id if place == "track" else None)
        return context_menu(window, place)

    entries = list(dict.fromkeys(names[action] for action in actions_in(fresh())))
    assert len(entries) > 5
    for identity in entries:
        menu = fresh()
        item = command(identity)
        action = window.action(identity)
        assert action in list(actions_in(menu))
        assert action.isEnabled() == item.when(window), identity
        if action.isEnabled() and identity not in ASKING:
            action.trigger()
        window.viewer.finish_words()
        window.projector.stop()
        for dialog in window.findChildren(QDialog):
            dialog.close()
        while document.history.undo_title:
            document.undo()
        assert document.project == before, identity
        menu.deleteLater()


def test_submenus_are_greyed_where_nothing_in_them_can_be_run(window):
    window.document.select("small")
    menu = context_menu(window, "clip")
    parts = {action.text(): action for action in menu.actions() if action.menu() is not None}
    assert not parts["Playing"].isEnabled(), "words play no material"
    assert parts["Transition"].isEnabled()


def test_what_places_name_is_there():
    ids = {item.id for item in COMMANDS}
    under = {(item.menu, item.under) for item in COMMANDS}
    for place, entries in PLACES.items():
        for entry in entries.split():
            if entry.startswith(">"):
                assert tuple(entry[1:].replace("_", " ").split(":")) in under, (place, entry)
            else:
                assert entry == "-" or entry.lstrip("?") in ids, (place, entry)


def test_no_menu_is_longer_than_fourteen_entries(window):
    bars = [
        menu
        for menu in window.top_bar.findChildren(QMenu)
        if menu.title() in {*MENUS} | {i.under for i in COMMANDS}
    ]
    assert len(bars) > len(MENUS)
    for menu in bars:
        shown = [action for action in menu.actions() if not action.isSeparator()]
        assert 0 < len(shown) <= 14, (menu.title(), len(shown))
    for place in PLACES:
        window.document.select("small")
        shown = [action for action in context_menu(window, place).actions() if not action.isSeparator()]
        assert len(shown) <= 22, (place, len(shown))


def test_tracks_are_changed_by_their_header_menu(window):
    document, canvas = window.document, window.timeline.canvas
    document.select("small")
    ground = document.project.sequence.tracks[0]
    canvas.point_at(ground.id)
    window.run("hide-track")
    assert document.project.sequence.tracks[0].hidden
    assert not document.project.sequence.tracks[2].hidden
    window.run("add-pictures")
    fresh = document.project.sequence.tracks[-1]
    canvas.point_at(fresh.id)
    window.run("remove-track")
    assert fresh.id not in {track.id for track in document.project.sequence.tracks}
    canvas.point_at(ground.id)
    window.run("rename-track")
    QTest.keyClicks(window.focusWidget(), "Below")
    QTest.keyClick(window.focusWidget(), Qt.Key.Key_Return)
    assert document.project.sequence.tracks[0].name == "Below"
    canvas.point_at(None)
    document.select()
    assert not command("lock-track").when(window)


def test_the_menu_that_is_shown_goes_again(window):
    window.document.select("big")
    window._show_menu("clip", QPoint(40, 40))
    shown = [menu for menu in window.findChildren(QMenu) if menu.isVisible()]
    assert len(shown) == 1
    QTest.keyClick(shown[0], Qt.Key.Key_Escape)
    QTest.qWait(20)
    assert not [menu for menu in window.findChildren(QMenu) if menu.isVisible()]
    assert clip(window, "big") is not None
