"""Credits: a text file that rolls in columns, and tabs typed in the picture."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from rovix.edit import clip_by_id
from rovix.edit.tree import replace, replace_clip


def test_a_text_file_becomes_credits_that_roll_in_one_step(window, tmp_path):
    before = window.document.project
    file = tmp_path / "credits.txt"
    file.write_bytes("Larkmoor\r\nWind\tAsta\r\nKn\u00f6ten\tJonas\r\n".encode("cp1252"))
    window.bring_credits(file)
    clip = window.document.clip
    assert clip.text.content == "Larkmoor\nWind\tAsta\nKn\u00f6ten\tJonas"
    assert (clip.text.align, clip.crossing.way) == ("columns", "up")
    page = window.sheet.page("Text")
    window.sheet.open_page("Text")
    assert page._gap_rows.isVisible()
    page._gap.committed.emit(2.0)
    assert window.document.clip.text.column_gap == 2.0
    window.document.undo()
    window.document.undo()
    assert window.document.project == before


@pytest.mark.parametrize(("content", "said"), [(b"\n \n", "no words"), (b"\0\xff\xfe\x00", "no text")])
def test_what_holds_no_words_is_said(window, tmp_path, content, said):
    told, before = [], window.document.project
    window.document.problem.connect(told.append)
    file = tmp_path / "credits.txt"
    file.write_bytes(content)
    window.bring_credits(file)
    window.bring_credits(tmp_path / "gone.txt")
    assert said in told[0]
    assert "gone.txt could not be opened" in told[1]
    assert window.document.project == before


def test_tab_is_typed_where_words_stand_in_columns_and_leaves_elsewhere(window):
    window.document.select("big")
    window.viewer.edit_words()
    QTest.keyClick(window.viewer, Qt.Key.Key_Tab)
    assert "\t" not in clip_by_id(window.document.project, "big").text.content
    window.viewer.finish_words()
    columns = lambda c: replace(c, text=replace(c.text, align="columns"))  # noqa: E731
    window.document.do("Columns", lambda p: replace_clip(p, "big", columns))
    window.viewer.edit_words()
    QTest.keyClick(window.viewer, Qt.Key.Key_End)
    QTest.keyClick(window.viewer, Qt.Key.Key_Tab)
    QTest.keyClicks(window.viewer, "Asta")
    window.viewer.finish_words()
    assert clip_by_id(window.document.project, "big").text.content.endswith("\tAsta")
