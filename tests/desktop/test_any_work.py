"""Any commands and gestures, at random, over a project with everything that ties things together.

After every step the project is consistent and opens again equal; then undo comes back to the very
first and redo to the last. ROVIX_STEPS asks for more of them than the few of each test run.
"""

import os
import random

import pytest
from gestures import drag
from PySide6.QtCore import QPoint, QSize, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QDialog

from rovix.desktop.commands import COMMANDS
from rovix.edit.levels import Level
from rovix.formats.project_file import parse_project, project_bytes
from rovix.model import GroupClip
from rovix.model.consistency import inconsistencies
from tied_project import tied_project

STEPS = int(os.environ.get("ROVIX_STEPS", "70"))
SEEDS = range(int(os.environ.get("ROVIX_SEEDS", "3")))
# What opens a window of the system, ends the application, or leaves the document that is looked at.
LEFT_OUT = {"import", "new", "open", "demo", "save", "save-as", "quit", "full-screen", "play", "rehearse"}


class Deeds:
    """What a hand may do: each draws from the same seeded stream."""

    def __init__(self, window, seed):
        self.window, self.drawn = window, random.Random(seed)
        self.document = window.document
        self.commands = [item for item in COMMANDS if item.id not in LEFT_OUT]
        window.ask_number = lambda *_: self.drawn.choice([None, 1.0, 5.0, 12.0])
        window.ask = lambda title, text, choices: self.drawn.choice(list(choices.values()))

    def ids(self):
        return [clip.id for track in self.document.project.sequence.tracks for clip in track.clips]

    def one(self):
        """Do something; its name, for when it goes wrong."""
        deed = self.drawn.choices(
            [self.command, self.select, self.seek, self.gesture, self.type, self.level, self.back],
            [12, 6, 3, 5, 1, 2, 3],
        )[0]
        said = f"{deed.__name__} {deed()}"
        for dialog in self.window.findChildren(QDialog):
            dialog.close()
        if QApplication.activePopupWidget() is not None:
            QApplication.activePopupWidget().close()
        return said

    def command(self):
        item = self.drawn.choice(self.commands)
        self.window.run(item.id)
        return item.id

    def select(self):
        ids = self.ids()
        chosen = self.drawn.sample(ids, min(len(ids), self.drawn.choice([0, 1, 1, 1, 2, 5])))
        self.document.select(*chosen)
        return chosen

    def seek(self):
        self.document.seek(self.drawn.randrange(100))
        return self.document.playhead

    def gesture(self):
        canvas = self.window.timeline.canvas
        width, height = max(2, canvas.width()), max(2, canvas.height())
        start = QPoint(self.drawn.randrange(width), self.drawn.randrange(height))
        end = start + QPoint(self.drawn.randint(-120, 120), self.drawn.randint(-60, 60))
        modifiers = self.drawn.choice(
            [Qt.KeyboardModifier.NoModifier] * 3 + [Qt.KeyboardModifier.AltModifier]
        )
        if self.drawn.random() < 0.2:
            QTest.mousePress(canvas, Qt.MouseButton.LeftButton, modifiers, start)
            QTest.mouseMove(canvas, end)
            QTest.keyClick(canvas, Qt.Key.Key_Escape)
            QTest.mouseRelease(canvas, Qt.MouseButton.LeftButton, modifiers, end)
        else:
            drag(canvas, start, end, modifiers)
        return start.toTuple(), end.toTuple()

    def type(self):
        self.window.viewer.edit_words()
        QTest.keyClicks(self.window.viewer, self.drawn.choice(["a", "Kite", "two words", ""]))
        QTest.keyClick(self.window.viewer, Qt.Key.Key_Escape)
        return self.document.selected

    def level(self):
        groups = [
            c.id for t in self.document.project.sequence.tracks for c in t.clips if isinstance(c, GroupClip)
        ]
        if groups and self.drawn.random() < 0.6:
            self.window.viewer.finish_words()
            self.document.open_group(self.drawn.choice(groups))
        else:
            self.document.open_level(Level(self.drawn.choice(self.document.whole.sequences).id))
        return self.document.level

    def back(self):
        name = self.drawn.choice(["undo", "undo", "redo"])
        self.window.run(name)
        return name


def settle(window):
    window.finish_typing()
    window.projector.stop()
    if window.document.history.has_draft:
        window.document.drop()


@pytest.mark.parametrize("seed", SEEDS)
def test_whatever_is_done_the_project_is_sound_and_undo_finds_the_first(make_test_window, seed, tmp_path):
    window = make_test_window(tied_project(), tmp_path)
    window.resize(QSize(1100, 760))
    document, first = window.document, window.document.whole
    assert inconsistencies(first) == []
    deeds = Deeds(window, seed)
    done = []
    for _ in range(STEPS):
        done.append(deeds.one())
        settle(window)
        whole = document.whole
        assert inconsistencies(whole) == [], done[-3:]
        assert parse_project(tmp_path / "a.rovix", project_bytes(whole)) == whole, done[-3:]
    while document.history.redo_title is not None:
        document.redo()
    last, steps = document.history.committed, []
    while document.history.undo_title is not None:
        steps.append(document.history.undo_title)
        document.undo()
    assert document.history.committed == first
    assert document.history.committed is first
    while document.history.redo_title is not None:
        document.redo()
    assert document.history.committed is last
    assert steps or STEPS < 20
