"""What the Motion page says about reading the words."""

from rovix.edit import change_text, change_transform
from rovix.edit.crossing import set_crossing


def note(window):
    window.sheet.open_page("Motion")
    return window.sheet.page("Motion").reads


def test_it_says_how_long_words_stand_and_what_reading_takes(window):
    document = window.document
    document.select("big")
    shown = note(window)
    assert not shown.isHidden()
    assert shown.text().startswith("Stands ")
    document.do(
        "Retype", lambda p: change_text(p, "big", content="far too many words for so short a time " * 3)
    )
    assert shown.text().startswith("Too short to read: stands ")
    document.undo()
    assert shown.text().startswith("Stands ")
    document.select("ground")
    assert not shown.isVisible()
    document.select("big")
    document.do("Crawl", lambda p: set_crossing(p, "big", way="left"))
    assert shown.isHidden()
    document.undo()
    assert not shown.isHidden()


def test_what_is_dragged_is_looked_at_when_it_lets_go(window):
    document = window.document
    document.select("big")
    shown = note(window)
    before = shown.text()
    document.try_on(lambda p: change_text(p, "big", content="far too many words for so short a time " * 3))
    assert shown.text() == before
    document.drop()
    document.do("Move", lambda p: change_transform(p, "big", 0, x=5.0))
    assert shown.text() == before
