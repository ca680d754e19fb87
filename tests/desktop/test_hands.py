"""What an editor does all day: go to a time, nudge, paste attributes, reset, begin in a style."""

import pytest
from gestures import ALT, LEFT, SHIFT, clip
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from test_several_clips import told

from rovix.desktop.dialogs.paste_attributes import PasteAttributes
from rovix.edit import move_of
from rovix.edit.tree import replace
from rovix.model import Glow
from waiting import wait_for

Key = Qt.Key


def type_time(window, text):
    field = window.transport._time
    QTest.mouseClick(field, LEFT)
    QTest.keyClicks(field, text)
    QTest.keyClick(field, Key.Key_Return)
    return field


@pytest.mark.parametrize(
    ("typed", "frame"), [("1:05", 35), ("40f", 40), ("+15", 25), ("-20", 0), ("2s", 60), ("999", 89)]
)
def test_the_playhead_goes_where_is_typed(window, typed, frame):
    window.document.seek(10)
    field = type_time(window, typed)
    assert window.document.playhead == frame
    assert field.text() == f"00:00:0{frame // 30}:{frame % 30:02d}"
    assert window.focusWidget() is window.timeline.canvas


def test_what_is_no_time_is_said_and_escape_leaves_the_field(window):
    window.document.seek(10)
    field = type_time(window, "soon")
    assert "is no time" in told(window)
    assert (window.document.playhead, field.text()) == (10, "soon")
    QTest.keyClick(field, Key.Key_Escape)
    assert field.text() == "00:00:00:10"
    window.run("go-to")
    assert window.focusWidget() is field
    assert field.selectedText() == "00:00:00:10"
    window.document.seek(20)
    assert field.text() == "00:00:00:10", "what is being typed is not taken away"
    QTest.keyClick(field, Key.Key_Escape)
    assert field.text() == "00:00:00:20"


def test_arrows_step_frames_in_the_viewer_and_with_alt_move_what_is_selected(window):
    document, viewer = window.document, window.viewer
    document.select("big", "small")
    document.seek(40)
    viewer.setFocus()
    QTest.keyClick(viewer, Key.Key_Right)
    assert document.playhead == 41
    QTest.keyClick(viewer, Key.Key_Right, ALT)
    QTest.keyClick(viewer, Key.Key_Up, ALT | SHIFT)
    places = [clip(window, name).transform for name in ("big", "small")]
    assert [(place.x, place.y) for place in places] == [(1.0, -10.0), (1.0, -10.0)]
    assert document.history.undo_title == "Move, 2 clips"
    window.run("undo")
    window.run("undo")
    assert clip(window, "big").transform.x == 0


def pasting(window, source, *targets):
    window.document.select(source)
    window.run("copy")
    window.document.select(*targets)
    window.run("paste-attributes")
    return window.findChild(PasteAttributes)


def test_attributes_are_chosen_and_pasted_to_all_selected_as_one_step(window):
    document = window.document
    document.do("Dress", lambda p: _with_glow(p))
    steps = document.history.undo_title
    dialog = pasting(window, "small", "big", "ground")
    assert list(dialog.boxes) == ["Text", "Look", "Transform", "Motion", "Effects", "Clip"]
    assert dialog.taken == ["Text", "Look", "Motion", "Effects"]
    dialog.boxes["Motion"].setChecked(False)
    assert not dialog.scaled.isEnabled(), "with the text its size comes, too"
    dialog.accept()
    big = clip(window, "big")
    assert (big.text.size, big.text.content) == (40.0, "Larkmoor")
    assert [type(part).__name__ for part in big.look.parts] == ["Glow", "Fill", "Outline"]
    assert move_of(big, "entrance").name == "Pop", "what is not ticked stays"
    assert document.history.undo_title == "Paste text, look, effects, 2 clips"
    window.run("undo")
    assert document.history.undo_title == steps
    again = pasting(window, "small", "big")
    assert again.taken == ["Text", "Look", "Effects"], "what was chosen last is ticked again"
    again.reject()


def _with_glow(project):
    from rovix.edit.tree import replace_clip

    def glowing(clip):
        return replace(clip, look=replace(clip.look, parts=(Glow(id="g"), *clip.look.parts)))

    return replace_clip(project, "small", glowing)


def test_nothing_to_paste_is_said_and_nothing_ticked_is_no_answer(window, qapp):
    qapp.clipboard().clear()
    window.document.select("big")
    window.run("paste-attributes")
    assert window.findChild(PasteAttributes) is None
    assert "no clip on the clipboard" in told(window)
    dialog = pasting(window, "small", "big")
    for box in dialog.boxes.values():
        box.setChecked(False)
    ok = dialog._answers.button(dialog._answers.StandardButton.Ok)
    assert not ok.isEnabled()
    assert ok.icon().isNull(), "whatever the desktop's theme shows on buttons"
    dialog.reject()


def test_a_head_and_a_part_are_put_back_by_their_menus(window):
    document = window.document
    document.select("small")
    window.sheet.open_page("Look")
    page = window.sheet.page("Look")
    outline = page.card("outline")
    page.card("outline").fields._numbers["width"].committed.emit(30.0)
    entries = {action.text(): action for action in page.menu_of(outline.identity).actions()}
    entries["Duplicate"].trigger()
    assert [type(part).__name__ for part in clip(window, "small").look.parts] == [
        "Fill",
        "Outline",
        "Outline",
    ]
    assert len({part.id for part in clip(window, "small").look.parts}) == 3
    entries = {action.text(): action for action in page.menu_of("edge").actions()}
    entries["Reset the outline"].trigger()
    widths = {part.id: part.width for part in clip(window, "small").look.outlines}
    assert widths["edge"] != 30.0
    assert 30.0 in widths.values()
    assert document.history.undo_title == "Reset the outline"
    entries["Move up"].trigger()
    assert clip(window, "small").look.parts[1].id == "edge"
    heads = {action.text(): action for action in window.sheet.menu_of("Look").actions()}
    heads["Reset look"].trigger()
    assert len(clip(window, "small").look.parts) == 1
    window.document.select("big", "small")
    window.sheet.reset("Motion")
    assert (clip(window, "big").moves, clip(window, "small").moves) == ((), ())
    heads = {action.text(): action for action in window.sheet.menu_of("Motion").actions()}
    window.sheet.open_page("Text")
    heads["Fold all others"].trigger()
    assert window.sheet.opened == ["Motion"]


def test_effects_are_duplicated_and_put_back(window):
    window.document.select("big")
    window.sheet.open_page("Effects")
    page = window.sheet.page("Effects")
    page.add("wipe")
    page.card("wipe").fields._numbers["share"].committed.emit(0.3)
    first = clip(window, "big").effects[0]
    page.duplicate(first.id)
    assert [effect.share for effect in clip(window, "big").effects] == [0.3, 0.3]
    assert len({effect.id for effect in clip(window, "big").effects}) == 2
    next(a for a in page.menu_of(first.id).actions() if a.text() == "Reset the wipe").trigger()
    shares = [effect.share for effect in clip(window, "big").effects]
    assert shares[1] == 0.3
    assert shares[0] != 0.3


def test_new_words_begin_in_a_style_that_was_chosen(window):
    document = window.document
    document.select("small")
    page = window.sheet.page("Text")
    page.set_style("Change the family", family="Oswald")
    window.run("style-new")
    document.seek(85)
    window.run("add-words")
    window.viewer.finish_words()
    made = document.clip
    assert (made.text.family, made.text.size, made.text.content) == ("Oswald", 40.0, "New words")
    assert made.look.outlines[0].width == 6.0
    assert (made.moves, made.transform.x) == ((), 0.0)
    window.run("style-plain")
    document.seek(2)
    window.run("add-words")
    window.viewer.finish_words()
    assert document.clip.text.family == "Outfit"


def test_a_kept_style_that_cannot_be_read_is_passed_over(window):
    window.settings.setValue("text/new_style", "{ not a project")
    window.document.seek(2)
    window.run("add-words")
    assert window.document.clip.text.family == "Outfit"


def test_commands_act_on_every_selected_clip_and_name_those_left(window):
    document = window.document
    document.select("small", "big")
    document.seek(75)
    window.run("exit-here")
    assert "Left as it was: Kite day" in told(window), "the playhead is behind its end"
    length = document.rate.length(move_of(clip(window, "big"), "exit").length)
    assert length == 80 - 1 - 75
    document.seek(40)
    document.select("small", "big", "ground")
    window.run("path-make")
    assert all(clip(window, name).transform.path is not None for name in ("small", "big", "ground"))


@pytest.mark.parametrize("leave", ["search", "curve", "words"])
def test_a_click_out_of_a_number_takes_the_keyboard_along(window, leave):
    window.activateWindow()
    assert wait_for(window.isActiveWindow, 3000)
    window.document.select("big")
    window.sheet.open_page("Text")
    QTest.qWait(80)
    field = window.sheet.page("Motion")._length
    QTest.mouseClick(field, LEFT)
    QTest.keyClicks(field._edit, "0.6")
    target = {
        "search": window.shelf._search,
        "curve": window.sheet.page("Motion")._piece_curve._box.lineEdit(),
        "words": window.sheet.page("Text")._text.viewport(),
    }[leave]
    QTest.mouseClick(target, LEFT)
    wanted = window.sheet.page("Text")._text if leave == "words" else target
    assert window.focusWidget() in (wanted, wanted.parentWidget())
    assert move_of(clip(window, "big"), "entrance").length == 0.6, "what was typed is kept"
    steps = window.document.history.undo_title
    QTest.keyClicks(window.focusWidget(), "s")
    if leave != "words":
        assert window.document.history.undo_title == steps, "and runs no command"


def test_stretched_keys_stay_selected_and_those_behind_the_end_are_told(window):
    document = window.document
    document.select("small")
    document.seek(25)
    window.sheet.page("Transform").pips.of("transform.z").pressed.emit()
    document.seek(45)
    window.sheet.page("Transform")._fields["z"].committed.emit(40.0)
    document.keys.set([("small", "transform.z", 5), ("small", "transform.z", 25)])
    window.ask_number = lambda *_: 150.0
    window.run("keys-stretch")
    assert document.keys.of("small") == {"transform.z": (5, 35)}
    assert told(window) == ""
    window.ask_number = lambda *_: 200.0
    window.run("keys-stretch")
    assert document.keys.of("small") == {"transform.z": (5, 65)}
    assert "behind the end of Kite day" in told(window)
    window.run("undo")
    window.run("undo")
    assert [key.frame for key in clip(window, "small").transform.z.keys] == [5, 25]
