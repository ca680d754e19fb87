"""Motion blur set for a layer and for the sequence."""

from test_text_page import type_into

from rovix.desktop.dialogs.sequence_settings import SequenceSettings
from rovix.edit import clip_by_id


def test_a_layer_has_the_sequences_blur_its_own_or_none(window):
    window.document.select("big")
    window.sheet.open_page("Clip")
    part = window.sheet.page("Clip")._blur
    shutter = lambda: clip_by_id(window.document.project, "big").shutter  # noqa: E731
    assert shutter() is None
    assert part._rows.isHidden()
    part._choice.chosen.emit("on")
    assert shutter().on
    assert not part._rows.isHidden()
    type_into(part._fields["angle"], "90")
    type_into(part._fields["samples"], "12")
    assert (shutter().angle, shutter().samples) == (90.0, 12)
    part._choice.chosen.emit("off")
    # What was set is there again when it is turned on.
    assert (shutter().on, shutter().angle) == (False, 90.0)
    part._choice.chosen.emit("sequence")
    assert shutter() is None
    window.document.undo()
    assert not shutter().on


def test_the_sequence_has_a_shutter(window):
    dialog = SequenceSettings(window.document.committed.sequence, "Sequence", "Change", window)
    dialog.blur.setChecked(True)
    type_into(dialog.shutter["angle"], "270")
    type_into(dialog.shutter["phase"], "-135")
    dialog.while_editing.setChecked(False)
    window.document.do("Change the sequence", dialog.edited)
    sequence = window.document.project.sequence
    assert (sequence.shutter.on, sequence.shutter.angle, sequence.shutter.phase) == (True, 270.0, -135.0)
    assert not sequence.blur_while_editing
    window.run("blur")
    assert window.document.project.sequence.blur_while_editing
    assert window.document.history.undo_title == "Show motion blur while editing"
