"""The ready titles with short and long words, in three shapes of frame, on dark and on light shots.

Safe area: EBU R 95 keeps graphics 5 % of the frame from its edges. Contrast: WCAG 2.2 asks for 3:1 of large
letters. Reading speeds are common practice, no source.
"""

from functools import cache

import numpy as np
import pytest
from msgspec.structs import replace

from rovix.check.edges import edges
from rovix.check.legibility import reading
from rovix.edit.titles import filled
from rovix.engine.titles import READY, TitleShelf
from rovix.model import BackgroundClip, Fill, GroupClip, Look, Plain, TextClip
from rovix.model.consistency import inconsistencies
from rovix.motion import picture_plan
from rovix.motion.pace import clip_spans
from rovix.motion.quads import picture_quads
from rovix.paint.painter import Painter

SHAPES = ((1920, 1080), (1080, 1920), (1080, 1080))
LENGTHS = ("Io", "Grey harbour", "Wind over the western hill until evening")
SAFE, LARGE = 0.05, 3.0
DARK, LIGHT = "#14181b", "#e6ebee"
NAMES = sorted(path.stem for path in READY.glob("*.json"))
# What is turned to its opposite on purpose cannot have a colour that its edge stands out by on every shot.
OPPOSITE = {"turned-to-its-opposite"}


class NoPictures:
    def picture(self, *_, **__):
        raise AssertionError("a ready title shows no file")


@cache
def titles(tmp="nowhere"):
    return {item.path.stem: item.saved.title for item in TitleShelf(READY / tmp).all()}


def saying(name, words, like):
    title = titles()[name]
    said = {setting.name: words for setting in title.settings if setting.kind == "words"}
    return filled(title, said, like=like)


def set_layers(title):
    """Its words that are meant to be set and that come to stand."""
    ids = {layer for setting in title.settings if setting.kind == "words" for layer in setting.layers}
    clips = [clip for track in title.sequence.tracks for clip in track.clips]
    return [c for c in clips if isinstance(c, TextClip) and c.id in ids and c.crossing is None]


def rest_frame(clip, rate):
    """The frame of the sequence in the middle of a layer's stay."""
    spans = clip_spans(clip, rate)
    return clip.start + (spans.entrance + clip.length - 1 - spans.exit) // 2


def painted(title, frame, ground=None):
    sequence = title.sequence if ground is None else replace(title.sequence, background=ground)
    plan = picture_plan(replace(title.project, sequences=(sequence,)), frame)
    return Painter(NoPictures()).paint(plan)


def test_there_are_thirty_of_many_kinds():
    found = titles()
    assert len(found) == 30
    assert len({title.group for title in found.values()}) >= 8
    for name, title in found.items():
        assert inconsistencies(title.project) == [], name
        assert any(setting.kind == "words" for setting in title.settings), name


@pytest.mark.parametrize("name", NAMES)
def test_words_stay_in_the_safe_area_and_can_be_read_in_their_time(name):
    for like in SHAPES:
        for words in LENGTHS:
            title = saying(name, words, like)
            rate, size = title.sequence.frame_rate, np.array(title.sequence.size)
            low, high = size * SAFE, size * (1 - SAFE)
            for clip in set_layers(title):
                assert not reading(clip, rate).is_short, (words, clip.id)
                quads = {quad.id: quad for quad in picture_quads(title.project, rest_frame(clip, rate))}
                corners = quads[clip.id].pieces.reshape(-1, 2)
                assert len(corners), (like, words, clip.id)
                assert (corners >= low).all(), (like, words, clip.id)
                assert (corners <= high).all(), (like, words, clip.id)


@pytest.mark.parametrize("name", NAMES)
def test_at_rest_nothing_of_the_words_is_cut(name):
    """In the middle of the stay words are as they are without any move: in pieces, so edges may differ a bit."""
    for like in SHAPES:
        title = still(saying(name, LENGTHS[2], like))
        for clip in set_layers(title):
            frame = rest_frame(clip, title.sequence.frame_rate)
            own = alone(title, clip.id)
            moved, bare = (painted(t, frame)[..., 3].astype(int) for t in (own, without_moves(own)))
            assert (bare > 0).sum() > 500
            assert (np.abs(moved - bare) > 64).sum() < 0.005 * (bare > 0).sum(), (like, clip.id)


def still(title):
    """Without loops, which leave rest on purpose, at the frames that do not change it."""
    return changed(title, lambda c: replace(c, moves=tuple(m for m in c.moves if m.role != "loop")))


def without_moves(title):
    return changed(title, lambda c: replace(c, moves=()))


def changed(title, change):
    tracks = tuple(replace(t, clips=tuple(change(c) for c in t.clips)) for t in title.sequence.tracks)
    return replace(title, sequence=replace(title.sequence, tracks=tracks))


@pytest.mark.parametrize("name", [name for name in NAMES if name not in OPPOSITE])
def test_words_stand_out_on_dark_and_on_light_shots(name):
    title = filled(titles()[name], {})
    for clip in set_layers(title):
        frame = rest_frame(clip, title.sequence.frame_rate)
        faces = painted(alone(title, clip.id), frame)[..., 3] / 255
        for ground in (DARK, LIGHT):
            found = edges(painted(title, frame, ground)[..., 2::-1], faces)
            assert found is not None, clip.id
            assert found.tenth >= LARGE, (ground, clip.id, found.tenth)


def alone(title, identity):
    """The faces of one layer's letters alone, everything else not shown."""
    bare = Look(parts=(Fill(id="face", paint=Plain(colour="#ffffff")),))

    def change(clip):
        if clip.id == identity:
            return replace(clip, look=bare, blend="normal")
        return replace(clip, transform=replace(clip.transform, opacity=0.0))

    return changed(title, change)


@pytest.mark.parametrize("ground", [DARK, LIGHT])
def test_words_that_turn_what_is_under_them_to_its_opposite_stand_out_too(ground):
    title = filled(titles()["turned-to-its-opposite"], {})
    (clip,) = set_layers(title)
    frame = rest_frame(clip, title.sequence.frame_rate)
    faces = painted(alone(title, clip.id), frame)[..., 3] / 255
    assert edges(painted(title, frame, ground)[..., 2::-1], faces).tenth >= LARGE


def test_techniques_of_the_whole_job_are_used():
    """Each way of moving and each effect that titles are there to show is in one of them at least."""
    clips = [c for t in titles().values() for track in t.sequence.tracks for c in track.clips]
    assert not any(isinstance(c, GroupClip) for c in clips)
    assert any(isinstance(c, BackgroundClip) for c in clips)
    channels = {d.channel for c in clips for m in c.moves for d in m.channels}
    assert channels >= {
        "x", "y", "z", "scale", "scale_x", "rotation_x", "rotation_y", "rotation_z", "slant", "tracking",
        "opacity", "blur", "blur_x", "wipe", "offset_x", "offset_y", "open_bottom",
    }  # fmt: skip
    effects = {type(e).__name__ for c in clips for e in c.effects}
    assert effects >= {"EchoTrail", "FillSweep", "Mask", "Matte", "Wipe", "Glow"}
    assert {m.pieces for c in clips for m in c.moves} == {"whole", "lines", "words", "letters"}
    assert any(m.typing for c in clips for m in c.moves)
    assert any(m.piece_sound for c in clips for m in c.moves)
    assert any(m.speed_sound for c in clips for m in c.moves)
    assert {c.crossing.way for c in clips if c.crossing} == {"left", "up"}
    assert {c.blend for c in clips} >= {"normal", "difference"}
    parts = {type(p).__name__ for c in clips if isinstance(c, TextClip) for p in c.look.parts}
    assert parts == {"Fill", "Outline", "Shadow", "LongShadow", "Glow", "Box"}
