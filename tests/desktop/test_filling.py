"""A title filled from a table in the window: rows looked at, put on the timeline, made as files."""

import json
from contextlib import suppress
from itertools import pairwise

import numpy as np
import pytest
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QDialog, QDialogButtonBox, QFileDialog

from rovix.desktop.dialogs.table_window import MOST_PUT, TableWindow
from rovix.desktop.filling import fill_from_table
from rovix.engine.still_picture import still
from rovix.media.library import MediaLibrary
from rovix.model import GroupClip
from rovix.model.consistency import inconsistencies
from rovix.motion import picture_plan
from rovix.paint.painter import Painter

TEN = ["Name,Role,length", *(f"Person {n},Role {n},{3 + n / 10}" for n in range(1, 11))]


@pytest.fixture
def table(tmp_path):
    def write(lines):
        path = tmp_path / "people.csv"
        path.write_text("\n".join(lines), encoding="utf-8")
        return path

    return write


@pytest.fixture
def opened(window, table):
    made = []

    def open_(lines):
        made.append(fill_from_table(window, table(lines), window.shelf.decks["title"].items))
        return made[-1]

    yield open_
    for dialog in made:
        with suppress(RuntimeError):  # it went when it was answered
            dialog.close()


def groups(window):
    return [c for t in window.document.project.sequence.tracks for c in t.clips if isinstance(c, GroupClip)]


def drawn(dialog):
    for _ in range(400):
        if not dialog.picture.pixmap().isNull():
            return dialog.picture.pixmap().toImage()
        QTest.qWait(20)
    raise AssertionError(dialog.picture.text())


def test_ten_rows_are_on_the_timeline_after_four_actions(window, table, monkeypatch):
    """Counted: the command, the table, the title (the one that has its columns is proposed), the button."""
    path = table(TEN)
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(path), ""))
    before = window.document.whole
    window.document.seek(30)
    window.run("fill-titles")
    dialog = next(child for child in window.findChildren(TableWindow) if child.isVisible())
    assert dialog.item.saved.name in ("Name on a line", "Name out of a slot", "Name typed on paper")
    dialog.put.click()
    made = groups(window)
    assert [(g.start, g.length) for g in made][:2] == [(30, 93), (123, 96)]
    assert len(made) == 10
    assert all(a.end == b.start for a, b in pairwise(made))
    words = {c.text.content for t in made[9].tracks for c in t.clips if hasattr(c, "text")}
    assert words == {"Person 10", "Role 10"}
    assert inconsistencies(window.document.whole) == []
    assert len(window.document.selection) == 10
    window.document.undo()
    assert window.document.whole == before


def test_bad_rows_are_told_before_anything_is_made(opened):
    dialog = opened(["Name,length,Colour", "Ada,3,#ff0000", "Bea,never,", "Cleo,3,red", "Dana,,,,more"])
    assert [bool(problem) for problem in dialog.problems] == [False, True, True, True]
    assert "no length" in dialog.problems[1]
    assert "no colour" in dialog.problems[2]
    assert "5 fields" in dialog.problems[3]
    assert dialog._answers.button(QDialogButtonBox.StandardButton.Ok).text() == "Make 1 file"
    last = dialog.table.columnCount() - 1
    assert dialog.table.item(1, last).text() == dialog.problems[1]
    assert not dialog.table.isColumnHidden(last)
    dialog.table.selectRow(1)
    assert "no length" in dialog.picture.text()


def test_the_chosen_row_is_seen_and_another_title_shows_another_picture(opened):
    dialog = opened(TEN)
    first = drawn(dialog)
    dialog.table.selectRow(4)
    dialog.picture.setPixmap(dialog.picture.pixmap().__class__())
    second = drawn(dialog)
    assert first != second
    names = [item.saved.name for item in dialog._items]
    dialog.picture.say("")
    dialog.which.setCurrentIndex(names.index("Goodbye"))
    assert all(dialog.problems)  # it has other things to set
    assert "nothing called 'Name'" in dialog.picture.text()
    assert not dialog.put.isEnabled()


def test_an_empty_table_and_one_that_is_none_are_said(window, opened, table, tmp_path):
    dialog = opened(["Name,Role"])
    assert "no rows" in dialog.picture.text()
    assert not dialog._answers.button(QDialogButtonBox.StandardButton.Ok).isEnabled()
    told = []
    window.document.problem.connect(told.append)
    wrong = tmp_path / "wrong.csv"
    wrong.write_bytes(b"\xff\xfe\x00")
    assert fill_from_table(window, wrong, window.shelf.decks["title"].items) is None
    assert "not UTF-8" in told[0]


def test_more_rows_than_a_timeline_should_get_are_files(opened):
    dialog = opened(["Name", *(f"N{n}" for n in range(MOST_PUT + 1))])
    assert not dialog.put.isEnabled()
    assert dialog._answers.button(QDialogButtonBox.StandardButton.Ok).isEnabled()


def test_files_are_made_beside_editing_and_told(window, opened, tmp_path):
    dialog = opened(["Name,length", "Ada,0.2", "Bea,x"])
    names = [item.saved.name for item in dialog._items]
    dialog.which.setCurrentIndex(names.index("Name on a card"))
    dialog.choices.form.setCurrentIndex(
        next(n for n in range(dialog.choices.form.count()) if "PNG" in dialog.choices.form.itemText(n))
    )
    dialog.choices._follow_form()
    out = tmp_path / "out"
    dialog.folder.setText(str(out))
    offered = []
    before_offer = window.offer
    window.offer = lambda *said: offered.append(said) or before_offer(*said)
    dialog.done(QDialog.DialogCode.Accepted)
    for _ in range(600):
        if any("made" in said[0] for said in offered):
            break
        QTest.qWait(30)
    (head, text, _) = next(said for said in offered if "made" in said[0])
    assert head == "1 of 2 files made"
    assert "Row 3: 'x' is no length" in text
    report = json.loads((out / "report.json").read_text())
    assert [one["file"].startswith(name) for one, name in zip(report, ("Ada", "Bea"), strict=True)] == [
        True
    ] * 2


def test_work_goes_with_the_document(window, opened, tmp_path):
    dialog = opened(["Name", *(f"N{n}" for n in range(60))])
    dialog.folder.setText(str(tmp_path / "out"))
    dialog.done(QDialog.DialogCode.Accepted)
    QTest.qWait(300)
    assert window.session.is_busy
    window.session.end()
    window.session.wait()
    assert not window.session.is_busy
    count = len(list((tmp_path / "out").glob("*.mp4")))
    QTest.qWait(600)
    assert len(list((tmp_path / "out").glob("*.mp4"))) == count < 60


def test_a_still_is_the_frame_that_the_painter_draws(window):
    project = window.document.project
    found = still(project, window.document.base, 30, project.sequence.size, lambda *_: None, None)
    asked = Painter(MediaLibrary(project, window.document.base)).paint(picture_plan(project, 30))
    assert np.array_equal(found, asked)


def test_of_a_long_table_the_first_rows_are_listed_and_all_are_made(opened):
    dialog = opened(["Name", *(f"N{n}" for n in range(1500))])
    assert dialog.table.rowCount() == 1000
    assert len(dialog.good) == 1500
    assert "The first 1000 are listed" in dialog._said.text()
