"""Channels, typing, sounds and stacks of moves, by mouse and keys in the shelf."""

from typing import get_args

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from rovix.desktop.channel_facts import moved_fact
from rovix.desktop.sheet.motion.channel_rows import _GROUPS
from rovix.desktop.sheet.number_field import NumberField
from rovix.edit import change_transform, move_of
from rovix.edit.moves import moves_of
from rovix.model.move import MovedChannel
from rovix.model.move_channels import MOVE_CHANNELS
from rovix.motion import describe

LEFT = Qt.MouseButton.LeftButton
SHIFT = Qt.KeyboardModifier.ShiftModifier


@pytest.fixture
def controls(window):
    window.document.select("small")
    QTest.mouseClick(window.shelf.card("Fade in"), LEFT)
    found = window.sheet.page("Motion")
    for fold in (found.moving, found.typed, found.sounding):
        fold.open()
    return found


def move(window):
    return move_of(window.document.clip, "entrance")


def field(owner, name):
    return next(f for f in owner.findChildren(NumberField) if f.accessibleName().startswith(name))


def test_channels_are_added_tuned_and_taken_away_in_steps(window, controls):
    assert [row.said for row in controls.channels.rows] == ["Opacity"]
    controls.channels._fill_menu()
    groups = {action.text(): action.menu() for action in controls.channels.menu.actions()}
    assert set(groups) == {"Way", "Seen", "Soft", "Edges", "Letters"}
    offered = {a.text(): a.isEnabled() for menu in groups.values() for a in menu.actions()}
    assert not offered["Opacity"]
    next(a for a in groups["Soft"].actions() if a.text() == "Blur").trigger()
    assert [d.channel for d in move(window).channels] == ["opacity", "blur"]
    row = controls.channels.rows[1]
    row.amount.committed.emit(30.0)
    assert move(window).channels[1].amount.value == 30.0
    row.shake.trigger()
    assert move(window).channels[1].chance.smooth
    row = controls.channels.rows[1]
    field(row, "Draws").committed.emit(5.0)
    assert move(window).channels[1].chance.rate == 5.0
    row.remove()
    assert [d.channel for d in move(window).channels] == ["opacity"]
    window.document.undo()
    assert [d.channel for d in move(window).channels] == ["opacity", "blur"]


def test_every_channel_of_moves_has_a_name_and_a_place_in_the_menu():
    assert list(MOVE_CHANNELS) == list(get_args(MovedChannel))
    assert sorted(c for channels in _GROUPS.values() for c in channels) == sorted(MOVE_CHANNELS)
    assert all(moved_fact(channel).said == row.label for channel, row in MOVE_CHANNELS.items())


def test_an_amount_keeps_its_way_in_another_unit(window, controls):
    controls.channels.add("y")
    row = controls.channels.rows[1]

    def away():
        layers = describe(window.document.project, window.document.clip.start)["layers"]
        return next(layer for layer in layers if layer["id"] == "small")["pieces"][0]["y"]

    before = away()
    for unit in ("frame", "block", "px", "piece"):
        row = controls.channels.rows[1]
        row.unit.setCurrentIndex(row.unit.findData(unit))
        row.unit.activated.emit(row.unit.currentIndex())
        assert move(window).channels[1].amount.unit == unit
        assert away() == pytest.approx(before, abs=0.1)


def test_colours_angles_and_echoes_have_their_own_fields(window, controls):
    for channel in ("colour", "wipe", "echo"):
        controls.channels.add(channel)
    rows = {row.said: row for row in controls.channels.rows}
    field(rows["Wipe"], "Angle").committed.emit(90.0)
    field(rows["Echo trail"], "Copies").committed.emit(7.0)
    field(rows["Echo trail"], "Gap").committed.emit(0.05)
    opacity, colour, wipe, echo = move(window).channels
    assert (wipe.angle, echo.echoes.copies, echo.echoes.gap) == (90.0, 7, 0.05)
    assert colour.colour == "#f2b13c"
    assert opacity.channel == "opacity"


def test_typing_is_switched_on_tuned_and_off(window, controls):
    controls._pieces.chosen.emit("letters")
    controls.typing.on.click()
    assert move(window).typing.rhythm == "even"
    controls.typing._rhythm.chosen.emit("uneven")
    field(controls.typed, "Least").committed.emit(2.0)
    caret = controls.typing._caret
    caret.setCurrentIndex(caret.findData("block"))
    caret.activated.emit(caret.currentIndex())
    field(controls.typed, "Stays").committed.emit(1.5)
    typing = move(window).typing
    assert (typing.rhythm, typing.least, typing.caret.shape, typing.caret.stays) == (
        "uneven",
        2,
        "block",
        1.5,
    )
    seed = move(window).seed
    controls.typing._again.click()
    assert move(window).seed == seed + 2
    window.document.do("Lower", lambda project: change_transform(project, "small", 0, y=50.0))
    controls.typing._height.click()
    controls.typing._middle.click()
    assert window.document.history.undo_title == "Last line to mid height"
    assert not controls._at_once.isVisibleTo(controls)
    controls.typing.on.click()
    assert move(window).typing is None
    assert controls._at_once.isVisibleTo(controls)


def test_a_rhythm_is_tapped_in_while_the_layer_plays(window, controls):
    controls._pieces.chosen.emit("letters")
    controls.typing.on.click()
    controls.typing._rhythm.chosen.emit("tapped")
    clock = iter((10.0, 10.2, 10.3, 10.9))
    window.tapper.now = lambda: next(clock)
    controls.typing.tap.click()
    assert window.tapper.listening
    assert window.document.playhead == window.document.clip.start
    for _ in range(4):
        QTest.keyClick(window, Qt.Key.Key_Space)
    QTest.keyClick(window, Qt.Key.Key_Escape)
    assert not window.tapper.listening
    assert move(window).typing.taps == (0.0, 0.2, 0.3, 0.9)
    assert move(window).length == 0.9
    window.document.undo()
    assert move(window).typing.taps == ()
    # Space is play again.
    QTest.keyClick(window, Qt.Key.Key_Space)
    assert window.projector.playing
    window.projector.stop()


def test_one_tap_is_no_rhythm(window, controls):
    controls._pieces.chosen.emit("letters")
    controls.typing.on.click()
    controls.typing._rhythm.chosen.emit("tapped")
    controls.typing.tap.click()
    QTest.keyClick(window, Qt.Key.Key_Space)
    QTest.keyClick(window, Qt.Key.Key_Escape)
    assert "at least twice" in window.status._said.text()
    assert move(window).typing.taps == ()


def test_a_strike_and_a_whoosh_are_chosen_and_tuned(window, controls):
    for box, sound in ((controls.sound.piece_sound, "knock"), (controls.sound.speed_sound, "rush")):
        box.setCurrentIndex(box.findData(sound))
        box.activated.emit(box.currentIndex())
    controls.sound._at.chosen.emit("landing")
    field(controls.sounding, "Pitch").committed.emit(3.0)
    piece_sound = move(window).piece_sound
    assert (piece_sound.sound, piece_sound.at, piece_sound.pitch_spread) == ("knock", "landing", 3.0)
    assert move(window).speed_sound.sound == "rush"
    controls.sound.piece_sound.setCurrentIndex(0)
    controls.sound.piece_sound.activated.emit(0)
    assert move(window).piece_sound is None


def test_moves_are_stacked_with_shift_and_each_is_tuned(window, controls):
    QTest.mouseClick(window.shelf.card("Whirl"), LEFT, SHIFT)
    assert [m.name for m in moves_of(window.document.clip, "entrance")] == ["Fade in", "Whirl"]
    entrances = [block for block in controls.strip.blocks if block.role == "entrance"]
    assert [block.name for block in entrances] == ["Fade in", "Whirl"]
    QTest.mouseClick(controls.strip, LEFT, pos=controls.strip.box_of(entrances[0]).center().toPoint())
    controls._length.committed.emit(0.3)
    assert [m.length for m in moves_of(window.document.clip, "entrance")] == [0.3, 0.8]
    QTest.mouseClick(controls._off, LEFT)
    assert [m.name for m in moves_of(window.document.clip, "entrance")] == ["Whirl"]
    assert len([block for block in controls.strip.blocks if block.role == "entrance"]) == 1
    QTest.mouseClick(window.shelf.card("Pop"), LEFT)
    assert [m.name for m in moves_of(window.document.clip, "entrance")] == ["Pop"]


def test_counting_gives_the_words_figures_of_one_width(window):
    window.document.select("small")
    QTest.mouseClick(window.shelf.card("Count up"), LEFT)
    assert window.document.clip.text.fixed_figures
    window.document.undo()
    assert not window.document.clip.text.fixed_figures
    assert QApplication.activeModalWidget() is None
