"""What people call things is found by the words that stand on screen for it."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rovix.desktop.also_called import also_called, meant_by
from rovix.desktop.commands import effect_commands
from rovix.desktop.dialogs.finder import Finder
from rovix.desktop.findables import findables
from rovix.desktop.searching import Entry, corrected, found
from rovix.edit import clip_by_id, move_of
from rovix.model.effects import EFFECTS


def matching(typed, window):
    return found(findables(window), typed)


def titles(window, typed):
    return [item.title for item in matching(typed, window)]


def test_every_word_leads_to_something_that_is_there(window):
    window.document.select("small", "big")
    there = [f"{entry.title} {entry.about}".lower() for entry in findables(window)]
    lost = {
        (word, meant)
        for word, several in also_called().items()
        for meant in several
        if not any(meant in said for said in there)
    }
    # What only footage and sounds have is not in the sheet of words.
    elsewhere = {"margin", "square"}
    assert {meant for _, meant in lost} <= elsewhere | {
        "speed",
        "repeats",
        "gain",
        "pan",
        "feather",
        "fade out",
        "corner",
    }


@pytest.mark.parametrize(
    ("typed", "title"),
    [
        ("keyframe", "Set or take away keys here"),
        ("razor", "Split at the playhead"),
        ("render", "Export…"),
        ("preset", "Show the entrances"),
        ("parent", "Follow the last selected"),
        ("stroke", "Add effect: Outline"),
        ("neon", "Add effect: Glow"),
        ("nest", "Group"),
        ("delete", "Remove"),
        ("import media", "Import media…"),
        ("keyfrmae", "Set or take away keys here"),
        ("captions", "Look: Caption box"),
        ("snapping", "Snap to lines and layers"),
    ],
)
def test_the_finder_knows_the_words_people_have(window, typed, title):
    window.document.select("big", "small")
    assert title in titles(window, typed)


def test_what_is_called_so_comes_before_what_is_meant(window):
    window.document.select("small")
    assert titles(window, "split")[0].startswith("Split")
    assert titles(window, "glow")[:2] == ["Add effect: Glow", "Add to the look: Glow"]


def take(window, typed, title):
    """Take what is found under a title."""
    next(item for item in matching(typed, window) if item.title == title).run(window)


def test_what_is_found_acts_on_all_that_is_selected(window):
    document = window.document
    document.select("small", "big")
    take(window, "pulse", "Loop: Two beats")
    take(window, "glow", "Add effect: Glow")
    take(window, "multiply", "Blend: multiply")
    take(window, "border", "Add to the look: Outline")
    for name in ("small", "big"):
        clip = clip_by_id(document.project, name)
        assert move_of(clip, "loop").name == "Two beats"
        assert [effect.facts.name for effect in clip.effects] == ["Glow"]
        assert clip.blend == "multiply"
        assert len(clip.look.outlines) == (2 if name == "small" else 1)
    document.tune("entrance")
    take(window, "overshoot", "Curve back-out")
    assert move_of(clip_by_id(document.project, "big"), "entrance").piece_curve == "back-out"
    take(window, "spin", "The move changes: Rotation Z")
    assert any(
        d.channel == "rotation_z" for d in move_of(clip_by_id(document.project, "big"), "entrance").channels
    )


def test_curves_go_to_the_selected_keys(window):
    document = window.document
    document.select("big")
    window.sheet.page("Transform").pips.of("transform.z").pressed.emit()
    document.seek(20)
    window.sheet.page("Transform")._fields["z"].committed.emit(40.0)
    window.run("keys-all")
    take(window, "bounce", "Curve bounce-out")
    assert {key.curve for key in clip_by_id(document.project, "big").transform.z.keys} == {"bounce-out"}


def test_fields_are_reached_where_they_stand(window, qapp):
    window.document.select("big")
    take(window, "kerning", "Tracking")
    assert "Text" in window.sheet.opened
    assert window.focusWidget() is window.sheet.page("Text")._tracking
    take(window, "whoosh", "Sound with the speed")
    assert window.focusWidget() is window.sheet.page("Motion").sound.speed_sound
    assert not window.sheet.page("Motion").sound.speed_sound.isHidden()
    assert window.sheet.page("Motion").sounding.head.isChecked(), "the fold that it is in is open"


def test_what_cannot_be_done_now_is_found_but_not_taken(window):
    window.document.select("small")
    finder = Finder(window)
    finder.field.setText("freeze")
    assert finder._found[0].title == "Freeze the frame at the playhead"
    assert not finder._found[0].usable
    finder.take()
    assert window.document.history.undo_title is None
    finder.field.setText("qqzzxxq")
    assert finder._found == []
    finder.take()
    finder.field.setText("duplicate")
    finder.take()
    assert window.document.history.undo_title.startswith("Duplicate")
    finder.deleteLater()


def test_all_that_the_finder_finds_is_named_once_for_its_place(window):
    window.document.select("small", "big")
    there = [(entry.thing.title, entry.thing.where) for entry in findables(window)]
    assert [one for one in there if there.count(one) > 1] == []
    assert len(there) > 350
    assert {item.id for item in effect_commands()} == {f"effect-{kind}" for kind in EFFECTS}


def test_the_shelf_finds_cards_by_what_else_they_are_called(window):
    shelf = window.shelf
    window.document.select("small")
    shelf.open_role("entrance")

    def shown(typed):
        shelf._search.setText(typed)
        return [name for number, name in enumerate(shelf.deck.names()) if not shelf._cards[number].isHidden()]

    for typed, card in {"bounce": "Fall and settle", "typewriter": "Typed", "zoom": "Grow", "spin": "Whirl",
                        "fly": "From far off", "glitch": "Shaken in", "reveal": "Uncover", "overshoot": "Pop",
                        "whril": "Whirl"}.items():  # fmt: skip
        assert card in shown(typed), typed
    assert shown("qqqqqqq") == []
    assert not shelf._none.isHidden()
    shelf.open_role("loop")
    assert shelf._search.text() == "", "another tab is not searched for what was meant for this one"
    assert "Two beats" in shown("pulse")
    window.document.select("big")
    assert shelf._search.text() == ""


WORDS = [Entry(name, name) for name in ("Split at the playhead", "Opacity", "Set a keyframe", "Export")]


@pytest.mark.parametrize(
    ("typed", "meant"),
    [("slpit", "split"), ("opactiy", "opacity"), ("exprot", "export"), ("keyframme", "keyframe"), ("spli", "spli"), ("splt", "splt"),
     ("xyzw", "xyzw"), ("set", "set"), ("opacity slpit", "opacity split")],
)  # fmt: skip
def test_near_misses_are_mended(typed, meant):
    assert corrected(typed, WORDS) == meant


def test_nothing_typed_finds_all_in_their_order():
    assert found(WORDS, "  ") == [entry.thing for entry in WORDS]


@settings(max_examples=60, deadline=None)
@given(st.text(max_size=90))
def test_whatever_is_typed_is_answered(typed):
    answer = found(WORDS, typed)
    assert set(answer) <= {entry.thing for entry in WORDS}
    assert len(answer) == len(set(answer))


def test_the_beginning_of_a_word_is_enough():
    assert meant_by("typewr") == meant_by("typewriter")
    assert meant_by("ty") == ()
