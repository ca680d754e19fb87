"""Words and type by mouse and keys: whole layers, selected letters, the font picker."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from rovix.edit import clip_by_id
from waiting import wait_for

LEFT = Qt.MouseButton.LeftButton


def words(window, identity="big"):
    return clip_by_id(window.document.project, identity).text


@pytest.fixture
def page(window):
    window.document.select("big")
    window.document.seek(40)
    window.sheet.open_page("Text")
    return window.sheet.page("Text")


def type_into(field, text):
    field.setFocus()
    field.begin_typing()
    field._edit.setText(text)
    QTest.keyClick(field._edit, Qt.Key.Key_Return)


def test_fields_take_sums_and_boxes_and_choices(window, page):
    type_into(page._size, "1920/20")
    type_into(page._paragraph, "50")
    QTest.mouseClick(page._wrap._buttons["box"], LEFT)
    type_into(page._width, "300")
    QTest.mouseClick(page._balance, LEFT, pos=QPoint(6, page._balance.height() // 2))
    QTest.mouseClick(page._case._buttons["upper"], LEFT)
    QTest.mouseClick(page._align._buttons["justify"], LEFT)
    QTest.mouseClick(page._fixed, LEFT, pos=QPoint(6, page._fixed.height() // 2))
    got = words(window)
    assert (got.size, got.paragraph, got.wrap, got.balance) == (96.0, 0.5, 300.0, True)
    assert (got.case, got.align, got.fixed_figures) == ("upper", "justify", True)
    for _ in range(8):
        window.run("undo")
    assert words(window) == type(got)(content="Larkmoor")


def test_only_weights_axes_and_features_that_the_face_has_are_offered(window, page):
    offered = [page._weight.itemData(n) for n in range(page._weight.count())]
    assert offered == [400, 500, 700, 900]
    page.set_style("Change the family", family="Archivo")
    assert page._weight.isHidden()
    assert not page._any_weight.isHidden()
    type_into(page._axes.field("wdth"), "62")
    type_into(page._any_weight, "333")
    page._features.box("tnum").click()
    page._features.box("liga").click()
    got = words(window)
    assert [(axis.tag, axis.value) for axis in got.axes] == [("wdth", 62.0)]
    assert got.weight == 333
    assert [(feature.tag, feature.value) for feature in got.features] == [("liga", 0), ("tnum", 1)]
    page._features.box("liga").click()
    assert [feature.tag for feature in words(window).features] == ["tnum"]
    type_into(page._axes.field("wdth"), "300")
    assert page._axes.field("wdth").problem, "beyond the axis is refused with a reason"


def test_letters_selected_in_the_picture_are_dressed_alone(window, page):
    viewer = window.viewer
    viewer.edit_words()
    QTest.keyClick(viewer, Qt.Key.Key_Home)
    for _ in range(4):
        QTest.keyClick(viewer, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    assert window.document.letters == (0, 4)
    assert "“Lark”" in page._styled_note.text()
    page._colour.chosen.emit("#ff0000")
    page._weight.setCurrentIndex(3)
    page._weight.activated.emit(3)
    type_into(page._size, "240")
    assert viewer.editor is not None, "the caret stays while its letters are dressed"
    (style,) = words(window).styles
    assert (style.start, style.end, style.colour, style.weight) == (0, 4, "#ff0000", 900)
    assert style.size == pytest.approx(2.0)
    viewer.setFocus()
    QTest.keyClick(viewer, Qt.Key.Key_End)
    QTest.keyClicks(viewer, "s")
    QTest.keyClick(viewer, Qt.Key.Key_Escape)
    assert words(window).content == "Larkmoors", "Escape keeps what was typed"
    assert words(window).styles == (style,)
    window.run("undo")
    assert words(window).content == "Larkmoor"
    window.run("undo")
    window.run("undo")
    window.run("undo")
    assert words(window).styles == ()


def test_with_nothing_selected_the_whole_layer_is_dressed_and_a_dressing_comes_off(window, page):
    page._text.setFocus()
    cursor = page._text.textCursor()
    cursor.setPosition(4)
    cursor.setPosition(8, cursor.MoveMode.KeepAnchor)
    page._text.setTextCursor(cursor)
    assert window.document.letters == (4, 8)
    page._italic.click()
    assert [(d.start, d.end, d.italic) for d in words(window).styles] == [(4, 8, True)]
    page._plain.click()
    assert words(window).styles == ()
    cursor.clearSelection()
    page._text.setTextCursor(cursor)
    page._italic.click()
    assert words(window).italic


def test_typing_and_dressing_are_steps_of_their_own(window, page):
    page._text.setFocus()
    page._text.setPlainText("Kites")
    page._align.chosen.emit("left")
    assert window.document.history.undo_title == "Align the words"
    window.run("undo")
    assert (words(window).content, words(window).align) == ("Kites", "centre")
    window.run("undo")
    assert words(window).content == "Larkmoor"


def test_what_was_typed_is_undone_by_words(window, page):
    viewer = window.viewer
    viewer.edit_words()
    QTest.keyClick(viewer, Qt.Key.Key_End)
    QTest.keyClicks(viewer, " kite day")
    assert words(window).content == "Larkmoor kite day"
    undo = Qt.KeyboardModifier.ControlModifier
    shown = []
    for _ in range(3):
        QTest.keyClick(viewer, Qt.Key.Key_Z, undo)
        shown.append(words(window).content)
    assert shown == ["Larkmoor kite ", "Larkmoor ", "Larkmoor"]
    QTest.keyClick(viewer, Qt.Key.Key_Z, undo | Qt.KeyboardModifier.ShiftModifier)
    assert words(window).content == "Larkmoor "


def test_arrows_go_where_they_point_in_words_that_run_leftwards(window, page):
    page.set_style("Type", content="שלום")
    viewer = window.viewer
    viewer.edit_words()
    QTest.keyClick(viewer, Qt.Key.Key_Home)
    before = viewer.editor.caret_line()[0].x()
    QTest.keyClick(viewer, Qt.Key.Key_Left)
    assert viewer.editor.caret == 1
    assert viewer.editor.caret_line()[0].x() < before


@pytest.fixture
def picker(window, page):
    page.family.click()
    (found,) = [child for child in window.children() if type(child).__name__ == "FontPicker"]
    return found


def test_the_font_picker_tries_on_and_takes_on(window, page, picker):
    QTest.keyClicks(picker._search, "osw")
    assert picker.current == "Oswald"
    assert words(window).family == "Oswald", "the viewer shows it"
    assert window.document.committed is not window.document.project
    picker.reject()
    assert words(window).family == "Outfit"
    page.family.click()
    again = [child for child in window.children() if type(child).__name__ == "FontPicker"][-1]
    QTest.keyClicks(again._search, "playfair")
    QTest.keyClick(again._search, Qt.Key.Key_Return)
    assert words(window).family == "Playfair Display"
    assert window.document.history.undo_title == "Change the family"


def test_the_font_picker_keeps_favourites_and_finds_scripts(window, page, picker):
    picker._search.setText("Caveat")
    picker._star.click()
    picker._search.setText("")
    assert picker._model.item(0).text() == "Caveat", "favourites come first"
    picker._favourites.setChecked(True)
    assert picker._model.rowCount() == 1
    picker._favourites.setChecked(False)
    picker._script.setCurrentIndex(picker._script.findText("Devanagari"))
    assert "Mukta" in [picker._model.item(n).text() for n in range(picker._model.rowCount())]
    assert "Oswald" not in [picker._model.item(n).text() for n in range(picker._model.rowCount())]
    picker._search.setText("no such face")
    assert not picker._nothing.isHidden()
    picker.close()
    page.family.click()
    assert window.settings.value("fonts/favourites") in ("Caveat", ["Caveat"])


def test_samples_show_the_layers_own_words(window, page, picker):
    picker.show()
    assert wait_for(lambda: len(picker._samples._drawn) > 4, 4000)
    families = {family for family, _ in picker._samples._drawn}
    assert len(families) > 4
    images = [pixmap.toImage() for pixmap in picker._samples._drawn.values()]
    assert all(
        any(
            image.pixelColor(x, y).alpha()
            for x in range(0, image.width(), 3)
            for y in range(0, image.height(), 3)
        )
        for image in images
    )
