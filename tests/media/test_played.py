"""Clips that play their sound at other speeds, and how loud they are."""

import numpy as np
import pytest
from scipy.signal import resample_poly

from builders import project_of
from rovix.media.level import fade_level, gain_factors, pan_factors
from rovix.media.mix import Mixer
from rovix.media.played import at_speed, played_samples
from rovix.media.samples import Held
from rovix.model import FootageClip, GroupClip, Key, Keys, Media, Playing, Sound, SoundClip, Track
from rovix.time import Rate, Span

RATE = Rate(30)


def noise(seconds=1.0, seed=3):
    """Noise without what lies above 8 kHz, so that resampling it has one right answer."""
    chance = np.random.default_rng(seed)
    rough = chance.normal(0, 0.2, (int(16_000 * seconds), 2))
    return resample_poly(rough, 3, 1, axis=0).astype(np.float32)


@pytest.mark.parametrize(("speed", "up", "down"), [(0.5, 2, 1), (1.5, 2, 3), (2.0, 1, 2), (0.8, 5, 4)])
def test_another_speed_against_scipy(speed, up, down):
    samples = noise()
    material = at_speed(Held(samples), speed)
    ours, theirs = (
        material.read(0, len(material)),
        resample_poly(samples, up, down, axis=0, window=("kaiser", 10.0)),
    )
    assert len(ours) == pytest.approx(len(samples) / speed, abs=2)
    inner = slice(2000, min(len(ours), len(theirs)) - 2000)
    error = np.sqrt(np.mean((ours[inner] - theirs[inner]) ** 2)) / np.sqrt(np.mean(theirs[inner] ** 2))
    assert 20 * np.log10(error) < -45, "dB below the signal; both filters' own edges are in it"


def sound(length=30, **fields):
    return SoundClip(id="c", media="m", length=length, **fields)


def test_a_clip_plays_backwards_again_and_there_and_back_to_the_sample():
    samples = noise(2.0)
    plain = played_samples(sound(), Held(samples), RATE, 0, 48_000)
    assert np.array_equal(plain, samples[:48_000])
    back = played_samples(sound(playing=Playing(backwards=True)), Held(samples), RATE, 0, 48_000)
    assert np.array_equal(back, plain[::-1])
    again = played_samples(sound(playing=Playing(span=10)), Held(samples), RATE, 0, 48_000)
    assert np.array_equal(again, np.tile(samples[:16_000], (3, 1)))
    there = played_samples(sound(playing=Playing(span=10, and_back=True)), Held(samples), RATE, 0, 31_998)
    assert np.array_equal(there[:16_000], samples[:16_000])
    assert np.array_equal(there[16_000:], samples[1:15_999][::-1])
    still = played_samples(sound(playing=Playing(speed=0.0)), Held(samples), RATE, 0, 1000)
    assert not still.any()
    offset = played_samples(sound(offset=15), Held(samples), RATE, 100, 200)
    assert np.array_equal(offset, samples[24_100:24_200])


def test_parts_of_a_clip_are_parts_of_the_whole():
    samples = noise(2.0)
    clip = sound(playing=Playing(speed=1.37, backwards=True))
    material = Held(samples)
    whole = played_samples(clip, material, RATE, 0, 48_000)
    parts = [played_samples(clip, material, RATE, at, at + 4_000) for at in range(0, 48_000, 4_000)]
    assert np.array_equal(np.concatenate(parts), whole)


def test_gain_pan_and_fades_by_formula():
    frames = np.arange(30.0)
    assert gain_factors(-6.0, frames) == pytest.approx([10 ** (-6 / 20)])
    keyed = Keys(keys=(Key(frame=0, value=-20.0), Key(frame=20, value=0.0)))
    each = gain_factors(keyed, np.arange(48_000) / 1600)
    assert each[[0, 16_000, 40_000]] == pytest.approx([0.1, 10 ** (-0.5), 1.0])
    assert np.abs(each[:31_900] - 10 ** ((np.arange(31_900) / 1600 - 20) / 20)).max() < 1e-4
    # Constant power (common practice, no source): the squares of both sides sum to 2 wherever it is.
    for pan in (-1.0, -0.4, 0.0, 0.7, 1.0):
        left, right = pan_factors(pan, frames)[0]
        assert left**2 + right**2 == pytest.approx(2.0)
        assert np.arctan2(right, left) == pytest.approx((pan + 1) * np.pi / 4)
    assert pan_factors(0.0, frames)[0] == pytest.approx([1.0, 1.0])
    shaped = Sound(fade_in=10, fade_out=10, fade_in_curve="quad-in", fade_out_curve="quad-in")
    level = fade_level(shaped, frames, 30)
    assert level[[0, 5, 10, 20, 25]] == pytest.approx([0, 0.25, 1, 1, 0.25])


def heard(*clips, solo=(), muted=(), samples=None):
    project = project_of(*clips, media=(Media(id="m", path="m.wav", kind="sound"),))
    tracks = tuple(
        Track(id=t.id, kind=t.kind, clips=t.clips, solo=n in solo, muted=n in muted)
        for n, t in enumerate(project.sequence.tracks)
    )
    from msgspec.structs import replace

    steady = np.full((96_000, 2), 0.25, dtype=np.float32) if samples is None else samples
    return Mixer(replace(project.sequence, tracks=tracks), lambda _: Held(steady)).mix(Span(0, 30))


def test_solo_silences_the_others_but_not_what_is_muted():
    clips = [sound(), SoundClip(id="d", media="m", length=30, sound=Sound(gain=-20.0))]
    assert heard(*clips).max() == pytest.approx(0.275)
    assert heard(*clips, solo={1}).max() == pytest.approx(0.025)
    assert heard(*clips, solo={1}, muted={1}).max() == 0


def test_footage_fades_and_pans_like_a_sound():
    clip = FootageClip(id="f", media="m", length=30, sound=Sound(pan=1.0, fade_in=15))
    out = heard(clip)
    assert not out[:, 0].round(6).any()
    assert out[12_000, 1] == pytest.approx(0.25 * np.sqrt(2) * 0.5, rel=1e-3)


def test_a_group_that_plays_backwards_sounds_backwards():
    samples = noise(2.0)
    inner = Track(id="in", kind="sound", clips=(sound(),))
    plain = GroupClip(id="g", length=30, tracks=(inner,))
    turned = GroupClip(id="g", length=30, tracks=(inner,), playing=Playing(backwards=True))
    assert np.array_equal(heard(turned, samples=samples), heard(plain, samples=samples)[::-1])
