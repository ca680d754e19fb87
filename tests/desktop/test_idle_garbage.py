"""All garbage is looked for only while hands rest and nothing plays."""

import gc

import pytest
from PySide6.QtCore import QEvent, QObject

from rovix.desktop import idle_garbage
from rovix.desktop.idle_garbage import IdleGarbage


@pytest.fixture
def idle(qapp, monkeypatch):
    clock = [100.0]
    monkeypatch.setattr(idle_garbage.time, "monotonic", lambda: clock[0])
    monkeypatch.setattr(idle_garbage.gc, "get_count", lambda: (0, 0, 50))
    parent, busy, before = QObject(), [False], gc.get_threshold()
    made = IdleGarbage(parent, lambda: busy[0])
    made.clock, made.busy_now, made.kept = clock, busy, parent
    yield made
    gc.set_threshold(*before)


def test_it_waits_for_hands_and_for_playing_to_end(idle):
    idle.look()
    assert idle.collected == 0
    idle.clock[0] += 5
    idle.busy_now[0] = True
    idle.look()
    assert idle.collected == 0
    idle.busy_now[0] = False
    idle.look()
    assert idle.collected == 1


def test_a_hand_puts_it_off_and_nothing_is_taken_from_anyone(idle):
    idle.clock[0] += 5
    assert idle.eventFilter(idle, QEvent(QEvent.Type.MouseMove)) is False
    idle.look()
    assert idle.collected == 0
    assert idle.eventFilter(idle, QEvent(QEvent.Type.Timer)) is False
    idle.clock[0] += 5
    idle.look()
    assert idle.collected == 1


def test_little_is_not_looked_for(idle, monkeypatch):
    monkeypatch.setattr(idle_garbage.gc, "get_count", lambda: (0, 0, 0))
    idle.clock[0] += 5
    idle.look()
    assert idle.collected == 0


def test_begun_it_leaves_the_old_alone(idle):
    idle.begin()
    assert gc.get_threshold()[2] >= 1000
