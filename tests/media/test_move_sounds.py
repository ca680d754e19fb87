"""Sounds of moves: to the sample, varied by the seed, as loud as the move is fast."""

import msgspec
import numpy as np
import pytest

from builders import project_of, title
from rovix.edit.media_list import remove_media, used_media
from rovix.edit.paste import copied, pasted
from rovix.engine.export import export
from rovix.engine.export_job import ExportJob
from rovix.errors import RovixError
from rovix.formats import ProjectFileError, project_bytes, read_project
from rovix.media.mix import Mixer
from rovix.media.move_sounds import sounding
from rovix.media.own_sounds import own_sound
from rovix.media.samples import Held
from rovix.media.sound import SAMPLE_RATE
from rovix.media.sound_names import PIECE_SOUNDS, SPEED_SOUNDS
from rovix.model import (
    Amount,
    Beats,
    Departure,
    GroupClip,
    Media,
    Move,
    PieceSound,
    SpeedSound,
    Track,
    Typing,
)
from rovix.model.consistency import inconsistencies
from rovix.model.move import OWN_PIECE_SOUNDS, OWN_SPEED_SOUNDS
from rovix.time import Span
from sounds import read_sound

replace = msgspec.structs.replace
PLAIN = PieceSound(gain=0.0, level_spread=0.0, pitch_spread=0.0)
FADE = (Departure(channel="opacity", amount=Amount(value=0.0)),)


def mixed(project, start=0, end=None, sound_of=lambda _: None):
    span = Span(start, end or project.sequence.length)
    return Mixer(project.sequence, sound_of, project.sequences).mix(span)


def click(_):
    """One sample of full scale: wherever it lies, it is heard at exactly that sample."""
    made = np.zeros((1, 2), dtype=np.float32)
    made[0] = 1.0
    return Held(made)


def struck_at(project, **given):
    return np.flatnonzero(mixed(project, sound_of=click, **given)[:, 0]).tolist()


def clicking(rate="30", **fields):
    fields = {
        "role": "entrance",
        "length": 1.0,
        "pieces": "letters",
        "at_once": 2.0,
        "channels": FADE,
    } | fields
    move = Move(piece_sound=replace(PLAIN, sound="click", at=fields.pop("at", "start")), **fields)
    return project_of(title("abcd", length=150, start=7, moves=[move]), rate=rate)


@pytest.mark.parametrize("rate", ["30", "25", "60000/1001"])
def test_strikes_lie_on_the_sample_on_which_pieces_start_and_land(rate):
    # Four letters, two at once: E = g K + d with d = 2 g, so g = E / 5.
    project = clicking(rate)
    fps = float(project.sequence.frame_rate.fraction)
    span = project.sequence.frame_rate.length(1.0)
    starts = [7 + span / 5 * k for k in range(4)]
    assert struck_at(project) == [int(s * SAMPLE_RATE / fps + 0.5) for s in starts]
    landing = clicking(rate, at="landing")
    assert struck_at(landing) == [int((s + 2 * span / 5) * SAMPLE_RATE / fps + 0.5) for s in starts]


def test_recipe_9_a_key_sound_on_each_typed_letter():
    typed = Move(
        role="entrance",
        length=0.5,
        pieces="letters",
        typing=Typing(),
        piece_sound=replace(PLAIN, sound="click"),
    )
    project = project_of(title("wind", length=60, moves=[typed]))
    # 15 frames, three gaps: frames 0, 5, 10, 15; 1,600 samples each.
    assert struck_at(project) == [0, 8000, 16000, 24000]


def test_a_loop_strikes_on_each_beat_and_blanks_do_not():
    beat = Move(role="loop", length=0.5, channels=(Departure(channel="y", amount=Amount(value=9.0)),),
                beats=Beats(count=3), piece_sound=replace(PLAIN, sound="click"))  # fmt: skip
    assert struck_at(project_of(title("a", length=61, moves=[beat]))) == [0, 24_000, 48_000]
    blanks = Move(
        role="entrance", length=1.0, pieces="words", at_once=0.0, piece_sound=replace(PLAIN, sound="click")
    )
    assert len(struck_at(project_of(title("  a b ", length=60, moves=[blanks])))) == 2


def test_a_mix_in_parts_is_the_mix_of_the_whole():
    rush = Move(role="exit", length=0.7, channels=FADE, speed_sound=SpeedSound())
    key = Move(
        role="entrance", length=1.0, pieces="letters", at_once=3.0, piece_sound=PieceSound(sound="thump")
    )
    project = project_of(title("kite day", length=75, moves=[key, rush]))
    whole = mixed(project)
    parts = np.concatenate([mixed(project, at, at + 5) for at in range(0, 75, 5)])
    assert np.abs(whole - parts).max() < 1e-6
    assert np.abs(whole).max() > 0.05


def test_level_and_pitch_vary_by_the_seed_within_their_spread():
    def levels(seed):
        move = Move(role="entrance", length=1.0, pieces="letters", at_once=1.0,
                    piece_sound=PieceSound(gain=-6.0, level_spread=3.0, pitch_spread=2.0, seed=seed))  # fmt: skip
        project = project_of(title("abcdefghijkl", length=60, moves=[move]))
        return sounding(project.sequence.tracks[0].clips[0], project.sequence)[0][0]

    one, again, other = levels(1), levels(1), levels(2)
    decibels = 20 * np.log10(one.levels)
    assert -9 <= decibels.min() < decibels.max() <= -3
    assert np.ptp(decibels) > 1
    assert np.abs(one.pitches).max() <= 8
    assert len(set(one.pitches.tolist())) > 3
    assert (one.levels == again.levels).all()
    assert (one.levels != other.levels).any()


def test_a_pitch_an_octave_up_halves_the_period():
    tone = np.sin(2 * np.pi * 500 * np.arange(9600) / SAMPLE_RATE).astype(np.float32)
    stereo = np.stack([tone, tone], axis=1)
    from rovix.media.move_sounds import _pitched

    higher = _pitched(stereo, 48)[:, 0]  # 48 quarters of a semitone are twelve semitones
    spectrum = np.abs(np.fft.rfft(higher))
    # Equal temperament: an octave doubles the frequency (common practice, no source).
    assert np.fft.rfftfreq(len(higher), 1 / SAMPLE_RATE)[int(spectrum.argmax())] == pytest.approx(
        1000, rel=0.02
    )


def test_a_whoosh_is_loudest_where_the_move_is_fastest_and_silent_at_its_end():
    slide = Departure(channel="x", amount=Amount(value=-500.0))
    move = Move(
        role="entrance",
        length=1.0,
        piece_curve="sine-in-out",
        channels=(slide,),
        speed_sound=SpeedSound(gain=0.0),
    )
    project = project_of(title("kite", length=60, moves=[move]))
    sound = np.abs(mixed(project)[:, 0])
    parts = sound[:48_000].reshape(20, -1).mean(axis=1)
    assert 8 <= int(parts.argmax()) <= 11  # a sine in and out is fastest in its middle
    assert parts[0] < 0.15 * parts.max()
    assert not sound[48_000:].any()
    assert sound[47_990:48_000].max() < 0.01
    # The speed of cos is a sine: each part's level goes with it.
    expected = np.sin(np.pi * (np.arange(20) + 0.5) / 20)
    assert np.corrcoef(parts, expected)[0, 1] > 0.97


def test_hidden_muted_and_outsoloed_tracks_do_not_strike():
    project = clicking()
    track = project.sequence.tracks[0]

    def with_track(**changes):
        other = Track(id="other", solo=changes.pop("other_solo", False))
        sequence = replace(project.sequence, tracks=(replace(track, **changes), other))
        return replace(project, sequences=(sequence,))

    assert len(struck_at(with_track())) == 4
    assert struck_at(with_track(hidden=True)) == []
    assert struck_at(with_track(muted=True)) == []
    assert struck_at(with_track(other_solo=True)) == []


def test_moves_strike_within_groups_and_only_what_is_heard_of_them():
    clip = clicking().sequence.tracks[0].clips[0]
    inner = Track(id="inner", clips=(clip,))
    group = GroupClip(id="g", start=20, length=25, offset=0, tracks=(inner,))
    project = project_of(group)
    # Starts at frames 27, 33, 39 and 45 of the sequence; the group is gone at 45.
    assert struck_at(project) == [27 * 1600, 33 * 1600, 39 * 1600]


def test_sounds_of_our_own_are_named_alike_everywhere():
    assert set(PIECE_SOUNDS) == set(OWN_PIECE_SOUNDS)
    assert set(SPEED_SOUNDS) == set(OWN_SPEED_SOUNDS)
    for name in PIECE_SOUNDS:
        sound = own_sound(name)
        assert 0.2 < np.abs(sound).max() <= 1.0
        assert len(sound) < SAMPLE_RATE
        assert np.abs(sound[[0, -1]]).max() == 0


def test_a_file_that_moves_strike_counts_as_used_and_goes_along(tmp_path):
    file = Media(id="tap", path="tap.wav", kind="sound", length=0.1)
    move = Move(role="entrance", length=1.0, piece_sound=PieceSound(sound="tap"))
    project = replace(project_of(title("a", moves=[move])), media=(file,))
    assert used_media(project) == {"tap": 1}
    with pytest.raises(RovixError, match="stays on the list"):
        remove_media(project, "tap")
    small = copied(project, ["title"], tmp_path)
    there, made = pasted(project_of(title("b", id="b", start=100)), small, 200, tmp_path)
    assert [item.path for item in there.media] == ["tap.wav"]
    clip = next(c for t in there.sequence.tracks for c in t.clips if c.id == made[0])
    assert clip.moves[0].piece_sound.sound == there.media[0].id
    assert not inconsistencies(there)


def test_a_sound_that_is_not_there_is_a_clear_problem(tmp_path):
    move = Move(role="entrance", length=1.0, piece_sound=PieceSound(sound="bang"))
    (tmp_path / "a.rovix").write_bytes(project_bytes(project_of(title("a", moves=[move]))))
    with pytest.raises(
        ProjectFileError, match=r"moves\[0\]\.piece_sound\.sound.*no sound 'bang'.*drop, key, knock"
    ):
        read_project(tmp_path / "a.rovix")


def test_strikes_are_exported_to_the_sample(tmp_path):
    project = clicking(at_once=0.0)
    piece_sound = replace(PLAIN, sound="tick")
    clip = project.sequence.tracks[0].clips[0]
    clip = replace(clip, moves=(replace(clip.moves[0], piece_sound=piece_sound),))
    project = project_of(clip, size=(64, 36))
    export(ExportJob(project, tmp_path, tmp_path / "a.mp4", Span(0, 67)), workers=1)
    heard = read_sound(tmp_path / "a.mp4")[:, 0]
    expected = mixed(project)[:, 0]
    count = min(len(heard), len(expected))
    # AAC is lossy, so each strike is found by where it agrees best with what was mixed.
    for frame in (7, 17, 27, 37):
        window = slice(frame * 1600 - 400, frame * 1600 + 2000)
        agreed = np.correlate(heard[:count][window], expected[:count][window], "full")
        assert abs(int(agreed.argmax()) - 2399) <= 1
