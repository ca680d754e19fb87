"""Each effect by its controls: added, changed, keyed, undone, saved, copied, put in order."""

import pytest
from gestures import LEFT
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QCheckBox, QPushButton
from test_text_page import type_into

from rovix.desktop.channel_facts import fact_of
from rovix.edit import clip_by_id
from rovix.edit.address import animated_of, channels_of
from rovix.formats import read_project
from rovix.model import Keys
from rovix.model.effects import EFFECTS
from rovix.motion import picture_plan, plan_key

NUMBERS = {
    "reveal-box": ("bottom", "12"), "crop": ("left", "30"), "wipe": ("share", "40"), "fill-sweep": ("share", "70"),
    "wrap-around": ("x", "0.75"), "echo-trail": ("strength", "50"), "blur": ("y", "20"), "glow": ("size", "33"),
    "shadow": ("blur", "9"), "long-shadow": ("angle", "80"), "outline": ("width", "11"), "tone": ("saturation", "40"),
    "glitch": ("shift", "90"), "grain": ("amount", "30"), "mask": ("width", "120"),
    "colour-key": ("tolerance", "30"), "light-key": ("threshold", "60"),
}  # fmt: skip


@pytest.fixture
def page(window):
    window.document.select("big")
    window.document.seek(30)
    window.sheet.open_page("Effects")
    return window.sheet.page("Effects")


def effects(window, identity="big"):
    return clip_by_id(window.document.project, identity).effects


def shown(window):
    return plan_key(picture_plan(window.document.project, 30))


@pytest.mark.parametrize("kind", NUMBERS)
def test_each_effect_is_added_changed_keyed_undone_saved_and_copied(window, page, kind, tmp_path):
    document, start = window.document, window.document.project
    plain = shown(window)
    page.add(kind)
    (made,) = effects(window)
    assert shown(window) != plain
    card = page.card(kind)
    assert not card.fields.isHidden()
    name, text = NUMBERS[kind]
    type_into(card.fields._numbers[name], text)
    changed = getattr(effects(window)[0], name)
    assert changed != getattr(made, name)
    address = f"effects.{made.id}.{name}"
    QTest.mouseClick(page.pips.of(address), LEFT)
    document.seek(50)
    type_into(card.fields._numbers[name], "1")
    held = getattr(effects(window)[0], name)
    assert isinstance(held, Keys)
    assert [key.frame for key in held.keys] == [30, 50]
    assert address in animated_of(clip_by_id(document.project, "big"))
    assert EFFECTS[kind].facts.name in fact_of(clip_by_id(document.project, "big"), address).said
    document.save(tmp_path / "t.rovix")
    saved = read_project(tmp_path / "t.rovix").sequence
    assert next(c for t in saved.tracks for c in t.clips if c.id == "big").effects == effects(window)
    window.run("duplicate")
    copy = document.clip
    assert copy.id != "big"
    assert [type(t) for t in copy.effects] == [type(made)]
    # A copy's effect and its keys have ids of their own.
    assert copy.effects[0].id != made.id
    assert getattr(copy.effects[0], name).id != held.id
    while document.history.undo_title:
        document.undo()
    assert document.project == start


def test_effects_are_hidden_ordered_and_taken_away(window, page):
    for kind in ("echo-trail", "wipe", "wrap-around"):
        page.add(kind)
    # Each came where its kind belongs.
    assert [type(t).__name__ for t in effects(window)] == ["Wipe", "WrapAround", "EchoTrail"]
    head = page.card("echo-trail").head
    head.stepped.emit(-1)
    assert [type(t).__name__ for t in effects(window)] == ["Wipe", "EchoTrail", "WrapAround"]
    assert window.document.history.undo_title == "Change the order of the effects"
    before = shown(window)
    page.card("wipe").head.eye.click()
    assert not effects(window)[0].shown
    assert shown(window) != before
    page.card("wipe").head.setFocus()
    QTest.keyClick(page.card("wipe").head, Qt.Key.Key_Delete)
    assert len(effects(window)) == 2


def test_a_wipes_edge_follows_a_layer_by_the_sheet(window, page):
    page.add("wipe")
    layers = page.card("wipe").fields.findChildren(type(window.sheet.page("Transform")._follows))[0]
    layers.setCurrentIndex(layers.findData("small"))
    layers.chosen.emit("small")
    assert effects(window)[0].follows.layer == "small"
    assert window.document.history.undo_title == "Edge follows Kite day"
    # With the followed layer gone the wipe goes by its share again.
    window.document.select("small")
    window.run("remove")
    assert effects(window)[0].follows is None


def test_a_reveal_boxs_edges_are_there_or_not(window, page):
    page.add("reveal-box")
    fields = page.card("reveal-box").fields
    assert effects(window)[0].bottom == 0.0
    assert fields._numbers["left"].isHidden()
    boxes = {box.accessibleName(): box for box in fields.findChildren(QCheckBox)}
    boxes["Left edge"].click()
    assert effects(window)[0].left == 0.0
    assert not fields._numbers["left"].isHidden()
    boxes["Bottom edge"].click()
    assert effects(window)[0].bottom is None


def test_choices_and_whole_numbers(window, page):
    page.add("echo-trail")
    fields = page.card("echo-trail").fields
    type_into(fields._numbers["copies"], "7")
    assert fields._numbers["gap"].accessibleName().endswith(", f")
    fields._choices["unit"].chosen.emit("px")
    assert fields._numbers["gap"].accessibleName().endswith(", px")
    (echo,) = effects(window)
    assert (echo.copies, echo.unit) == (7, "px")
    assert fact_of(window.document.clip, f"effects.{echo.id}.gap").unit == "px"
    page.add("glitch")
    page.card("glitch").fields.findChildren(QPushButton)[-1].click()
    assert effects(window)[0].seed == 2


def test_effects_of_a_ground_and_an_empty_page(window, page):
    window.document.select("ground")
    window.sheet.open_page("Effects")
    assert not page._empty.isHidden()
    page.add("grain")
    assert effects(window, "ground")[0].amount > 0
    assert page._empty.isHidden()
    assert {a for a in channels_of(window.document.clip) if a.startswith("effects")} == {
        f"effects.{effects(window, 'ground')[0].id}.amount"
    }
