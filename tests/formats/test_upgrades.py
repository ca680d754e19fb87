"""Files of earlier versions open as what they were."""

import json
from pathlib import Path

import numpy as np
import pytest

from rovix.demo.generate import DEMO_PROJECT
from rovix.formats import read_project, write_project
from rovix.formats.look_file import read_look
from rovix.formats.move_file import read_move
from rovix.formats.project_file import ProjectFileError
from rovix.formats.schema import VERSION
from rovix.formats.upgrades import upgraded
from rovix.model import Fill, Outline
from rovix.model.effects.fill_sweep import FillSweep
from rovix.model.effects.reveal_box import RevealBox
from rovix.motion import picture_plan
from rovix.paint.painter import Painter

LOOK = {
    "fill": "#102030",
    "fill_opacity": 0.5,
    "outlines": [
        {"id": "near", "width": 4.0, "side": "outside"},
        {"id": "in", "width": 2.0, "side": "inside"},
        {"id": "far", "width": 9.0, "side": "centre"},
    ],
    "later": 1,
}


def first_version(look):
    clip = {"kind": "text", "id": "t", "length": 30, "words": {"text": "Kite"}, "look": look}
    group = {"kind": "group", "id": "g", "start": 40, "length": 30, "tracks": [
        {"id": "inner", "clips": [clip | {"id": "deep", "look": {"fill": "#405060"}}]}]}  # fmt: skip
    track = {"id": "track", "clips": [clip, group]}
    sequence = {"id": "s", "size": [640, 360], "rate": "30", "tracks": [track]}
    return {"format": "rovix-project", "version": 1, "id": "p", "name": "Old", "sequences": [sequence]}


def opened(tmp_path, data):
    path = tmp_path / "old.rovix"
    path.write_text(json.dumps(data), encoding="utf-8")
    return read_project(path)


def test_a_look_of_the_first_version_becomes_parts(tmp_path):
    project = opened(tmp_path, first_version(LOOK))
    look = project.sequence.tracks[0].clips[0].look
    assert [part.id for part in look.parts] == ["in", "t-fill", "near", "far"]
    fill = look.fill
    assert isinstance(fill, Fill)
    assert (fill.paint.colour, fill.opacity) == ("#102030", 0.5)
    assert all(isinstance(part, Outline) for part in look.parts if part.id != "t-fill")
    assert look.extra == {"later": 1}
    deep = project.sequence.tracks[0].clips[1].tracks[0].clips[0]
    assert deep.look.fill.paint.colour == "#405060", "inside groups too"


def test_what_was_brought_up_stays_as_it_is(tmp_path):
    project = opened(tmp_path, first_version(LOOK))
    write_project(tmp_path / "new.rovix", project)
    assert read_project(tmp_path / "new.rovix") == project
    data = json.loads((tmp_path / "new.rovix").read_text(encoding="utf-8"))
    assert data["version"] == VERSION
    assert upgraded(json.loads(json.dumps(data))) == data
    one, other = (
        Painter(None).paint(picture_plan(p, 0)) for p in (project, read_project(tmp_path / "new.rovix"))
    )
    assert np.array_equal(one, other)
    assert one.any()


def test_a_damaged_look_of_the_first_version_is_still_named(tmp_path):
    path = tmp_path / "bad.rovix"
    path.write_text(json.dumps(first_version({"fill": "blue"})), encoding="utf-8")
    with pytest.raises(ProjectFileError) as wrong:
        read_project(path)
    assert "look.parts[0].paint" in str(wrong.value)
    assert "blue" in str(wrong.value)


TREATMENTS = [
    {"treatment": "opening", "id": "a", "bottom": 3.0},
    {"treatment": "sweep", "id": "b", "share": 0.25},
    {"treatment": "offset", "id": "c", "x": 0.5, "unit": "frame"},
    {"treatment": "echo", "id": "d", "kept": 0.7, "shift": 20.0},
    {"treatment": "blur", "id": "e", "across": 4.0, "down": 5.0, "x": 0.1, "y": 0.2},
    {"treatment": "edge", "id": "f", "width": 2.0},
    {"treatment": "tear", "id": "g", "bands": 7},
    {"treatment": "wipe", "id": "h", "ride": {"layer": "other", "at": "left"}, "later": 1},
    {"treatment": "glow", "id": "i", "size": 8.0, "shown": False},
]


def third_version(treatments):
    """Two layers, the second in a group, with what version 3 called treatments."""
    words = {"kind": "text", "length": 30, "words": {"text": "Kite"}}
    inner = {
        "id": "inner",
        "clips": [words | {"id": "deep", "treatments": [{"treatment": "opening", "id": "k"}]}],
    }
    sweep = {"treatment": "sweep", "id": "l"}
    group = {"kind": "group", "id": "group", "length": 30, "tracks": [inner], "treatments": [sweep]}
    tracks = [
        {"id": "t1", "clips": [words | {"id": "t", "treatments": treatments}]},
        {"id": "t2", "clips": [words | {"id": "other"}]},
        {"id": "t3", "clips": [group]},
    ]
    sequence = {"id": "s", "size": [640, 360], "rate": "30", "tracks": tracks}
    return {"format": "rovix-project", "version": 3, "id": "p", "name": "Old", "sequences": [sequence]}


def test_treatments_of_the_third_version_become_effects_with_all_they_hold(tmp_path):
    tracks = opened(tmp_path, third_version(TREATMENTS)).sequence.tracks
    effects = tracks[0].clips[0].effects
    assert [effect.id for effect in effects] == list("abcdefghi")
    box, sweep, wrap, echo, blur, outline, glitch, wipe, glow = effects
    assert (box.bottom, sweep.share, wrap.x, wrap.unit) == (3.0, 0.25, 0.5, "frame")
    assert (echo.strength, echo.hue) == (0.7, 20.0)
    assert (blur.x, blur.y, blur.point_x, blur.point_y) == (4.0, 5.0, 0.1, 0.2)
    assert (outline.width, glitch.bands, glow.size, glow.shown) == (2.0, 7, 8.0, False)
    assert (wipe.follows.layer, wipe.follows.at, wipe.extra) == ("other", "left", {"later": 1})
    group = tracks[2].clips[0]
    assert isinstance(group.effects[0], FillSweep)
    assert isinstance(group.tracks[0].clips[0].effects[0], RevealBox)


@pytest.mark.parametrize(
    "wrong", ["none", [1], [{"treatment": 5, "id": "a"}], [{"treatment": "lamp", "id": "a"}]]
)
def test_treatments_that_are_none_are_named(tmp_path, wrong):
    with pytest.raises(ProjectFileError) as caught:
        opened(tmp_path, third_version(wrong))
    assert "clips[0].effects" in str(caught.value)


def fourth_version():
    """Every name that version 5 changed, on clips in the sequence and in a group."""
    move = {
        "id": "m", "role": "entrance", "sequence_curve": "spring(1, 170, 17)", "piece_curve": "mirrored(spring(2,80,9,1))",
        "strike": {"sound": "tick"}, "whoosh": {"sound": "rumble"},
        "channels": [{"channel": name} for name in ("turn", "tip", "swing", "depth", "blur_across", "blur_down", "x")],
    }  # fmt: skip
    keys = {"keys": [{"frame": 0, "value": 1.0, "curve": "spring(1, 100, 10)"}, {"frame": 9, "value": 2.0}]}
    place = {
        "depth": 5.0,
        "turn": keys,
        "tip": 3.0,
        "swing": 4.0,
        "blur_across": 6.0,
        "blur_down": 7.0,
        "x": 8.0,
    }
    words = {"text": "Kite", "tracking": 0.1, "dressings": [{"start": 0, "end": 2, "weight": 400}]}
    title = {"kind": "text", "id": "t", "length": 30, "words": words, "place": place, "moves": [move]}
    title |= {"start": 20, "shutter": {"on": True, "most": 9}, "join": {"id": "j", "kind": "wipe"}}
    box = {"kind": "shape", "id": "b", "length": 30, "hug": {"layer": "t2"}}
    ground = {
        "kind": "ground",
        "id": "g",
        "length": 20,
        "ground": {"fill": "plain", "colour": "#123456"},
        "later": 1,
    }
    inner = [
        {
            "id": "i1",
            "clips": [
                ground | {"id": "g2"},
                title | {"id": "t2", "moves": [move | {"id": "m2"}], "join": {"id": "j2", "kind": "wipe"}},
            ],
        },
        {"id": "i2", "clips": [box]},
    ]
    tracks = [
        {"id": "1", "clips": [ground, title]},
        {
            "id": "2",
            "clips": [{"kind": "group", "id": "gr", "length": 60, "tracks": inner, "place": {"tip": 1.0}}],
        },
    ]
    sequence = {
        "id": "s",
        "size": [640, 360],
        "rate": "30",
        "ground": "#445566",
        "shutter": {"most": 7},
        "tracks": tracks,
    }
    return {"format": "rovix-project", "version": 4, "id": "p", "name": "Old", "sequences": [sequence]}


def test_names_of_the_fourth_version_become_the_trades(tmp_path):
    sequence = opened(tmp_path, fourth_version()).sequence
    assert (sequence.background, sequence.shutter.samples) == ("#445566", 7)
    group = sequence.tracks[1].clips[0]
    assert group.transform.rotation_x == 1.0
    assert group.tracks[1].clips[0].fits.layer == "t2"
    for track in (sequence.tracks[0], group.tracks[0]):
        background, title = track.clips
        assert (background.background.colour, background.extra) == ("#123456", {"later": 1})
        own = title.transform
        assert (own.z, own.rotation_x, own.rotation_y, own.blur_x, own.blur_y, own.x) == (
            5.0,
            3.0,
            4.0,
            6.0,
            7.0,
            8.0,
        )
        assert own.rotation_z.keys[0].curve == "spring(mass 1 stiffness 100 damping 10)"
        assert (title.text.content, title.text.tracking, title.text.styles[0].weight) == ("Kite", 0.1, 400)
        assert (title.shutter.samples, title.transition.kind) == (9, "wipe")
        (move,) = title.moves
        assert move.order_curve == "spring(mass 1 stiffness 170 damping 17)"
        assert move.piece_curve == "mirrored(spring(mass 2 stiffness 80 damping 9 velocity 1))"
        assert (move.piece_sound.sound, move.speed_sound.sound) == ("tick", "rumble")
        found = [departure.channel for departure in move.channels]
        assert found == ["rotation_z", "rotation_x", "rotation_y", "z", "blur_x", "blur_y", "x"]


def test_a_project_of_the_fourth_version_is_the_same_project():
    # The demo as that version saved it, but for what it calls itself, its logo's file and Pop's own numbers.
    old = read_project(Path(__file__).parent.parent / "data" / "version-4.rovix")
    clips = {clip.id: clip for track in old.sequence.tracks for clip in track.clips}
    for track in read_project(DEMO_PROJECT).sequence.tracks:
        for clip in track.clips:
            before = clips[{"kite-logo": "kite-badge"}.get(clip.id, clip.id)]
            for field in (
                "text",
                "look",
                "transition",
                "fits",
                "background",
                "sound",
                "effects",
                "start",
                "length",
            ):
                assert getattr(before, field, None) == getattr(clip, field, None)


def test_moves_and_looks_of_the_first_version_are_read(tmp_path):
    move = fourth_version()["sequences"][0]["tracks"][0]["clips"][1]["moves"][0]
    path = tmp_path / "old.json"
    path.write_text(
        json.dumps({"format": "rovix-move", "version": 1, "name": "Old", "move": move}), encoding="utf-8"
    )
    read = read_move(path).move
    assert (read.channels[0].channel, read.order_curve) == (
        "rotation_z",
        "spring(mass 1 stiffness 170 damping 17)",
    )
    blur = {"keys": [{"frame": 0, "value": 1.0, "curve": "spring(1, 100, 10)"}]}
    look = {"parts": [{"part": "shadow", "id": "a", "blur": blur}]}
    data = {"format": "rovix-look", "version": 1, "name": "Old", "size": 90, "look": look}
    path.write_text(json.dumps(data), encoding="utf-8")
    assert read_look(path).look.parts[0].blur.keys[0].curve == "spring(mass 1 stiffness 100 damping 10)"
