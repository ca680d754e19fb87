"""Splitting words into layers and joining them, by the menu."""

from gestures import row_of
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from rovix.desktop.commands import COMMANDS
from rovix.desktop.theme import colour
from rovix.desktop.timeline.scale import Scale
from rovix.edit import change_text, clip_by_id
from rovix.formats import project_bytes
from waiting import wait_for

COMMAND = {command.id: command for command in COMMANDS}


def run(window, name):
    command = COMMAND[name]
    assert command.when(window), name
    command.run(window)


def texts(window):
    return [clip_by_id(window.document.project, i).text.content for i in window.document.selection]


def test_words_are_split_selected_joined_and_undone_to_the_first(window):
    document = window.document
    first = project_bytes(document.project)
    document.select("small")
    run(window, "split-words")
    assert texts(window) == ["Kite", "day"]
    run(window, "join-words")
    assert texts(window) == ["Kite day"]
    run(window, "split-letters")
    assert "".join(texts(window)) == "Kiteday"
    while document.history.undo_title:
        document.undo()
    assert project_bytes(document.project) == first


def test_all_selected_words_are_split_in_one_step(window):
    document = window.document
    document.select("big", "small")
    document.do("Retype", lambda project: project)
    run(window, "split-letters")
    assert "".join(texts(window)) == "LarkmoorKiteday"
    document.undo()
    assert clip_by_id(document.project, "big").text.content == "Larkmoor"


def test_what_cannot_be_split_says_why_and_changes_nothing(window):
    document = window.document
    document.select("ground")
    assert not COMMAND["split-words"].when(window)
    document.select("big")
    before, said = document.project, []
    document.problem.connect(said.append)
    COMMAND["split-words"].run(window)
    assert document.project is before
    assert "no two words" in said[-1]
    assert not COMMAND["join-words"].when(window)


def test_words_are_split_where_they_are_tapped_in(window):
    document = window.document
    document.select("small")
    before, start = document.project, clip_by_id(document.project, "small").start
    COMMAND["split-words-tapped"].run(window)
    assert window.tapper.listening
    window.tapper._projector.player.stop()
    for frame in (6, 21):
        document.seek(start + frame)
        QTest.keyClick(window, Qt.Key.Key_Space)
    assert not window.tapper.listening
    clips = [clip_by_id(document.project, identity) for identity in document.selection]
    assert [(clip.text.content, clip.start) for clip in clips] == [("Kite", start + 6), ("day", start + 21)]
    document.undo()
    assert document.project == before
    COMMAND["split-lines-tapped"].run(window)
    assert not window.tapper.listening


def test_words_too_short_to_read_are_marked_in_the_timeline(window):
    """A disc in the problem's colour at the clip's right end, and a word under the mouse."""
    canvas, document = window.timeline.canvas, window.document
    canvas.set_scale(Scale(8.0, 0.0))
    long_words = "A whole sentence that nobody could ever read in so short a time, or could they"

    def marked():
        row = row_of(window, "small")
        clip = clip_by_id(document.project, "small")
        right = round(canvas.scale.x(clip.span.end)) - 1
        image = canvas.grab().toImage()
        return image.pixelColor(right - 18 + 2, row.top + 9) == colour("problem")

    assert not marked()
    assert "too short" not in canvas.said(clip_by_id(document.project, "small"), "move")
    document.do("Retype", lambda p: change_text(p, "small", content=long_words))
    assert wait_for(marked, 5000)
    assert "too short to be read" in canvas.said(clip_by_id(document.project, "small"), "move")
