"""Splitting words into layers and joining them, by the menu."""

from rovix.desktop.commands import COMMANDS
from rovix.edit import clip_by_id
from rovix.formats import project_bytes

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
