"""Any commands and gestures, at random, over a project with everything that ties things together.

After every step the project is consistent and opens again equal; then undo comes back to the very
first and redo to the last. ROVIX_STEPS asks for more of them than the few of each test run.
"""

import os
import random

import msgspec
import pytest
from hands import drag
from PySide6.QtCore import QPoint, QSize, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QDialog

from builders import look_of, title
from rovix.desktop.commands import COMMANDS
from rovix.edit.levels import Level
from rovix.formats.project_file import parse_project, project_bytes
from rovix.model import (
    FootageClip,
    GroundClip,
    GroupClip,
    Hug,
    Join,
    Key,
    Keys,
    Marker,
    Media,
    Outline,
    Place,
    Project,
    Sequence,
    SequenceClip,
    ShapeClip,
    SoundClip,
    Strike,
    Track,
)
from rovix.model.consistency import inconsistencies
from rovix.model.treatment import Ride, Wipe
from rovix.motion.ready_moves import pop, rise_and_fade

STEPS = int(os.environ.get("ROVIX_STEPS", "70"))
SEEDS = range(int(os.environ.get("ROVIX_SEEDS", "3")))
# What opens a window of the system, ends the application, or leaves the document that is looked at.
LEFT_OUT = {"bring-in", "new", "open", "demo", "save", "save-as", "quit", "full-screen", "play", "rehearse"}
FILM = Media(
    id="film", path="film.mp4", kind="footage", length=6.0, width=64, height=36, rate="30", has_sound=True
)
HUM = Media(id="hum", path="hum.flac", kind="sound", length=4.0, has_sound=True)
replace = msgspec.structs.replace


def project() -> Project:
    """Groups, layers that follow, boxes that fit, wipes whose edge follows, sequences, joins, locks."""
    inner = Track(id="g-t", clips=(title("In", id="in", length=30, parent="in2"),), home="words")
    beside = Track(id="g-t2", clips=(title("Beside", id="in2", length=30),))
    keyed = Place(x=Keys(id="kx", keys=(Key(frame=0, value=-50.0), Key(frame=30, value=20.0, curve="ease"))))
    words = (
        title(
            "Larkmoor",
            id="big",
            length=50,
            moves=[replace(pop(), id="m1"), replace(rise_and_fade("exit"), id="m2")],
        ),
        title("Day", id="day", start=50, length=30, join=Join(id="j"), place=keyed),
    )
    tied = (
        title("Wind", id="wind", length=40, parent="big", look=look_of("#fff8ea", Outline(id="edge"))),
        title("Kite", id="kite", start=45, length=40,
              treatments=(Wipe(id="w", ride=Ride(layer="big")),),
              moves=[replace(pop(), id="m3", strike=Strike(sound="hum"))]),
    )  # fmt: skip
    tracks = (
        Track(id="ground", clips=(GroundClip(id="paper", length=90),)),
        Track(id="films", clips=(FootageClip(id="f1", media="film", length=40), FootageClip(id="f2", media="film", start=40, length=40, offset=20))),
        Track(id="boxes", clips=(ShapeClip(id="box", length=60, hug=Hug(layer="big")),)),
        Track(id="words", name="Words", clips=words),
        Track(id="tied", name="Tied", clips=tied),
        Track(id="groups", clips=(GroupClip(id="group", name="Group", start=10, length=30, tracks=(inner, beside)), SequenceClip(id="shown", sequence="second", start=45, length=20))),
        Track(id="locked", locked=True, clips=(title("Locked", id="locked-words", length=30, parent="big"),)),
        Track(id="hidden", hidden=True, clips=(title("Hidden", id="hidden-words", length=30),)),
        Track(id="sounds", kind="sound", clips=(SoundClip(id="s1", media="hum", start=5, length=40),)),
    )  # fmt: skip
    second = Sequence(
        id="second",
        name="Second",
        size=(320, 180),
        tracks=(Track(id="s-t", clips=(title("Second", id="sw", length=40),)),),
    )
    first = Sequence(
        id="first", size=(640, 360), tracks=tracks, markers=(Marker(id="mk", frame=12, name="Here"),)
    )
    return Project(id="p", sequences=(first, second), media=(FILM, HUM))


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
    window.settle()
    window.projector.stop()
    if window.document.history.has_draft:
        window.document.drop()


@pytest.mark.parametrize("seed", SEEDS)
def test_whatever_is_done_the_project_is_sound_and_undo_finds_the_first(make_test_window, seed, tmp_path):
    window = make_test_window(project(), tmp_path)
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
