"""Captions become text layers, in a style and with moves, on their times; and captions again."""

from __future__ import annotations

from itertools import pairwise
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace

from builders import look_of, project_of, title
from rovix.edit.captions import CaptionOptions, captions_in, captions_in_titles, captions_of
from rovix.edit.titles import made_title
from rovix.edit.tree import clip_by_id, clip_of
from rovix.errors import RovixError
from rovix.exchange import CAPTION_FORMATS
from rovix.exchange.captions import Cue, CueStyle
from rovix.model import BackgroundClip, Plain
from rovix.model.consistency import inconsistencies
from rovix.motion import layer_motion
from rovix.motion.ready_moves import ready_moves
from rovix.time import Rate


def place(cues, **fields):
    ground = BackgroundClip(id="ground", length=900, background=Plain(colour="#335566"))
    project = project_of(ground, rate=fields.pop("rate", "30"))
    made, ids = captions_in(project, tuple(cues), **fields)
    assert inconsistencies(made) == []
    return made, [clip_of(made, identity) for identity in ids]


def test_cues_stand_at_their_times_on_a_track_above_all_pictures():
    made, clips = place([Cue(1.0, 2.5, "First"), Cue(3.0, 4.0, "Second")])
    assert [(clip.start, clip.length, clip.text.content) for clip in clips] == [
        (30, 45, "First"),
        (90, 30, "Second"),
    ]
    assert made.sequence.tracks[-1].name == "Captions"
    assert clips[0].transform.y > 0


def test_cues_that_overlap_stand_on_tracks_of_their_own():
    made, _ = place([Cue(0, 4, "A"), Cue(1, 2, "B"), Cue(2, 3, "C"), Cue(3.5, 5, "D")])
    names = [
        (t.name, [c.text.content for c in t.clips]) for t in made.sequence.tracks if t.name.startswith("Capt")
    ]
    assert names == [("Captions", ["A"]), ("Captions 2", ["B", "C", "D"])]


def test_style_moves_and_place_are_those_of_the_layer_that_is_chosen():
    like = title(
        "Model",
        look=look_of("#123456"),
        moves=[ready_moves("entrance")[0]],
        text={"size": 33.0, "weight": 800},
    )
    _, clips = place([Cue(0, 2, "One"), Cue(2, 4, "Two")], like=like)
    for clip in clips:
        assert (clip.text.size, clip.text.weight) == (33.0, 800)
        assert clip.look.parts[0].paint.colour == "#123456"
        assert clip.moves[0].name == like.moves[0].name
    assert len({move.id for clip in (*clips, like) for move in clip.moves}) == 3


def test_places_alignment_and_styles_are_taken_over():
    cue = Cue(0, 2, "Kites rise high", (CueStyle(6, 10, italic=True), CueStyle(11, 15, bold=True, colour="#ff0000")),
              across=0.25, down=0.1, align="left")  # fmt: skip
    _, (clip,) = place([cue])
    assert (clip.transform.x, clip.transform.y, clip.text.align) == (-0.25 * 640, -0.4 * 360, "left")
    assert [(s.start, s.end, s.italic, s.weight, s.colour) for s in clip.text.styles] == [
        (6, 10, True, None, None), (11, 15, None, 700, "#ff0000"),
    ]  # fmt: skip


def test_ten_words_with_times_set_off_on_them_within_half_a_frame():
    text = "one two three four five six seven eight nine ten"
    starts = [0.0, 0.31, 0.62, 1.07, 1.4, 1.9, 2.2, 2.75, 3.1, 3.6]
    at = np.cumsum([0, *[len(word) + 1 for word in text.split()[:-1]]]).tolist()
    cue = Cue(10.02, 15.0, text, times=tuple((i, 10.02 + s) for i, s in zip(at, starts, strict=True)))
    pop = next(move for move in ready_moves("entrance") if move.name == "Pop")
    for rate in ("24", "30", "60"):
        made, (clip,) = place([cue], like=title("Model", moves=[pop]), rate=rate)
        timing = layer_motion(clip, (640, 360), Rate(rate)).timings[0]
        found = clip.start + np.sort(np.unique(timing.times.starts))
        wanted = np.array([(10.02 + s) * float(Rate(rate).fraction) for s in starts])
        assert np.all(np.abs(found - wanted) <= 0.5)
        again = captions_of(made)[0]
        assert np.allclose([moment for _, moment in again.times], [10.02 + s for s in starts], atol=0.5 / 24)


def test_long_cues_are_parted_and_their_times_shared():
    text = "The kites go up at noon, whatever the weather may be, and come down again when the lamps are lit."
    _, clips = place([Cue(0, 6, text)], options=CaptionOptions(letters=26, lines=2))
    assert len(clips) > 1
    assert " ".join(clip.text.content.replace("\n", " ") for clip in clips) == text
    assert clips[0].start == 0
    assert clips[-1].span.end == 180
    assert all(a.span.end == b.start for a, b in pairwise(clips))


@pytest.mark.parametrize("suffix", [".srt", ".vtt"])
def test_out_and_in_again_times_words_and_styles_are_the_same(suffix):
    cues = [Cue(1.0, 2.5, "First line\nand second", (CueStyle(0, 5, italic=True),)), Cue(3.0, 4.0, "Then")]
    made, _ = place(cues)
    known = CAPTION_FORMATS[suffix]
    again = known.read(known.write(captions_of(made))).cues
    assert [(c.start, c.end, c.text, c.styles) for c in again] == [
        (c.start, c.end, c.text, c.styles) for c in cues
    ]


def test_without_words_nothing_is_made():
    with pytest.raises(RovixError, match="no captions"):
        place([])
    with pytest.raises(RovixError, match="no words"):
        captions_of(project_of(title("   ")))


def test_a_title_says_each_cue_as_long_as_it_is():
    words = title("As it was", 90, id="said", name="Said")
    made = made_title(project_of(words, size=(1280, 720)), ("said",), Path("/"))
    cues = (Cue(1.0, 3.0, "One two three"), Cue(2.0, 4.0, "At the same time"), Cue(4.0, 4.4, "Short"))
    project = project_of(title("There", 300), size=(1280, 720))
    done, ids = captions_in_titles(project, cues, "Said", made)
    assert inconsistencies(done) == []
    groups = [clip_by_id(done, identity) for identity in ids]
    rate = project.sequence.frame_rate
    assert [(g.start, g.length) for g in groups] == [
        (rate.frames(c.start), rate.frames(c.end) - rate.frames(c.start)) for c in cues
    ]
    said = [clip.text.content for g in groups for t in g.tracks for clip in t.clips]
    assert said == [c.text for c in cues]
    assert [track.name for track in done.sequence.tracks[-2:]] == ["Captions", "Captions 2"]
    assert groups[0].made_of.name == "Said"
    silent = replace(made, settings=())
    with pytest.raises(RovixError, match="no words to set"):
        captions_in_titles(project, cues, "Silent", silent)
    with pytest.raises(RovixError, match="no captions"):
        captions_in_titles(project, (), "Said", made)
