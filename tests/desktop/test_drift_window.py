"""Drift: fields that show in the picture what they do, one step for all, nothing when left."""

import pytest
from test_text_page import type_into

from rovix.edit.address import animated_of
from rovix.edit.tree import replace, replace_clip


@pytest.fixture
def dialog(window):
    for name in ("big", "small"):
        window.document.do(
            "Still", lambda p, name=name: replace_clip(p, name, lambda c: replace(c, moves=()))
        )
    window.document.select("small", "big")
    return window.open_drift()


def animated(window):
    project = window.document.project
    return {c.id: sorted(animated_of(c)) for t in project.sequence.tracks for c in t.clips if animated_of(c)}


def test_it_is_shown_at_once_and_left_without_a_trace(window, dialog, qapp):
    before = window.document.committed
    qapp.processEvents()
    assert not dialog._answers.button(dialog._answers.StandardButton.Ok).isEnabled()
    type_into(dialog.fields["growth"], "4")
    assert animated(window) == {n: ["transform.scale_x", "transform.scale_y"] for n in ("big", "small")}
    type_into(dialog.fields["growth"], "0")
    type_into(dialog.fields["x"], "60")
    assert animated(window) == {n: ["transform.x"] for n in ("big", "small")}
    dialog.reject()
    assert window.document.project == before


def test_it_is_one_step_for_all_that_are_selected(window, dialog):
    before = window.document.committed
    for name, value in (("growth", "0"), ("turn", "3"), ("spread", "0.05"), ("ramp_in", "0.5")):
        type_into(dialog.fields[name], value)
    dialog.accept()
    assert animated(window) == {n: ["text.tracking", "transform.rotation_z"] for n in ("big", "small")}
    assert window.document.history.undo_title == "Let drift, 2 clips"
    window.document.undo()
    assert window.document.project == before


def test_what_cannot_be_is_said_and_cannot_be_taken(window, dialog):
    type_into(dialog.fields["growth"], "4")
    dialog.accept()
    again = window.open_drift()
    type_into(again.fields["growth"], "5")
    assert "keys already" in again._why.text()
    assert not again._answers.button(again._answers.StandardButton.Ok).isEnabled()
    type_into(again.fields["growth"], "0")
    assert not again._answers.button(again._answers.StandardButton.Ok).isEnabled()
    type_into(again.fields["y"], "-20")
    assert again._answers.button(again._answers.StandardButton.Ok).isEnabled()
    again.reject()
