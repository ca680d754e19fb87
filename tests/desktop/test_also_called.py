"""What people call things is found by the words that stand on screen for it."""

from __future__ import annotations

import pytest

from rovix.desktop.also_called import ALSO_CALLED, is_found
from rovix.desktop.commands import COMMANDS, effect_commands
from rovix.desktop.dialogs.finder import matching
from rovix.model.effects import EFFECTS
from rovix.motion.ready_moves import ready_moves


def everything(window):
    """All that a search can find: commands, effects, cards, and what fields are called."""
    said = [f"{item.said(window)} {item.menu}" for item in (*COMMANDS, *effect_commands())]
    cards = [move.name for role in ("entrance", "loop", "exit") for move in ready_moves(role)]
    fields = [
        label
        for struct in EFFECTS.values()
        for row in struct.facts.rows
        for label in [getattr(row, "label", "")]
        if label
    ]
    return [
        text.lower()
        for text in (
            *said,
            *cards,
            *fields,
            "Position Z Rotation X Rotation Y Slant Scale Tracking Opacity Pivot",
        )
    ]


@pytest.mark.parametrize("word", ALSO_CALLED)
def test_every_word_leads_to_something_that_is_there(window, word):
    there = everything(window)
    for meant in ALSO_CALLED[word]:
        assert any(meant in said for said in there), f"'{word}' stands for '{meant}', which nothing is called"


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
    ],
)
def test_the_finder_knows_the_words_people_have(window, typed, title):
    window.document.select("big", "small")
    assert title in [item.said(window) for item in matching(typed, window)]


def test_what_is_called_so_comes_before_what_is_meant(window):
    window.document.select("small")
    found = [item.said(window) for item in matching("split", window)]
    assert found[0].startswith("Split")


def test_every_effect_can_be_added_from_the_finder(window):
    window.document.select("small", "big")
    (glow,) = [item for item in matching("add effect: glow", window) if item.id]
    glow.run(window)
    clips = {clip.id: clip for track in window.document.project.sequence.tracks for clip in track.clips}
    assert [[effect.facts.name for effect in clips[i].effects] for i in ("small", "big")] == [
        ["Glow"],
        ["Glow"],
    ]
    window.run("undo")
    assert not any(
        getattr(c, "effects", ()) for t in window.document.project.sequence.tracks for c in t.clips
    )
    assert {item.id for item in effect_commands()} == {f"effect-{kind}" for kind in EFFECTS}


def test_several_words_are_each_understood():
    assert is_found("Typed, letters, entrance", "typewriter letters")
    assert not is_found("Typed, letters, entrance", "typewriter words")
    assert not is_found("Typed, letters, entrance", "ty pe wr")
    assert is_found("Keys a frame later", "keyfr")
