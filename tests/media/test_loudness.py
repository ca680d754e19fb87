"""Loudness: the test signals of EBU Tech 3341, and pyloudnorm on sound of all kinds."""

import math

import numpy as np
import pyloudnorm
import pytest

from rovix.media.loudness import Loudness, measured
from rovix.media.samples import SAMPLE_RATE


def tone(level, seconds, hertz=1000.0):
    """(n, 2) of a sine whose peak is at a level in dBFS on both sides."""
    at = np.arange(round(seconds * SAMPLE_RATE)) / SAMPLE_RATE
    wave = 10 ** (level / 20) * np.sin(2 * np.pi * hertz * at)
    return np.stack([wave, wave], axis=1).astype(np.float32)


def in_stretches(samples, length=1601):
    return (samples[at : at + length] for at in range(0, len(samples), length))


@pytest.mark.parametrize(
    ("levels", "integrated"),
    [
        # EBU Tech 3341, table 1, minimum requirements test signals 1 to 5: level in dBFS, seconds.
        ([(-23, 20)], -23.0),
        ([(-33, 20)], -33.0),
        ([(-36, 10), (-23, 60), (-36, 10)], -23.0),
        ([(-72, 10), (-36, 10), (-23, 60), (-36, 10), (-72, 10)], -23.0),
        ([(-26, 20), (-20, 20.1), (-26, 20)], -23.0),
    ],
)
def test_the_integrated_loudness_of_ebus_signals(levels, integrated):
    samples = np.concatenate([tone(level, seconds) for level, seconds in levels])
    assert measured(in_stretches(samples)).integrated == pytest.approx(integrated, abs=0.1)


@pytest.mark.parametrize(
    ("part", "degrees", "amplitude", "peak"),
    [(4, 0, 0.5, -6.0), (4, 45, 0.5, -6.0), (6, 60, 0.5, -6.0), (8, 67.5, 0.5, -6.0), (4, 45, 1.41, 3.0)],
)
def test_the_true_peak_of_ebus_signals(part, degrees, amplitude, peak):
    """EBU Tech 3341, table 1, signals 15 to 19: sines of a part of the rate; +0.2 and -0.4 dB are allowed.

    Faded in and out, as EBU's own are: cut off, they would swing over.
    """
    at = np.arange(SAMPLE_RATE)
    amplitude = amplitude * np.interp(at, [0, 4800, SAMPLE_RATE - 4800, SAMPLE_RATE], [0, 1, 1, 0])
    wave = amplitude * np.sin(2 * np.pi * at / part + np.radians(degrees))
    found = measured(in_stretches(np.stack([wave, wave], axis=1).astype(np.float32))).peak
    assert peak - 0.4 <= found <= peak + 0.2


@pytest.mark.parametrize("seed", range(6))
def test_it_agrees_with_another_meter_on_noise_that_comes_and_goes(seed):
    chance = np.random.default_rng(seed)
    levels = np.repeat(chance.uniform(-40, -6, 24), SAMPLE_RATE // 2)
    samples = (chance.normal(0, 0.3, (len(levels), 2)) * 10 ** (levels[:, None] / 20)).astype(np.float32)
    asked = pyloudnorm.Meter(SAMPLE_RATE).integrated_loudness(samples.astype(float))
    # Measured: its filters differ from BS.1770's own coefficients by some hundredths.
    assert measured(in_stretches(samples)).integrated == pytest.approx(asked, abs=0.2)


@pytest.mark.parametrize(
    "samples", [np.zeros((0, 2), np.float32), np.zeros((96_000, 2), np.float32), tone(-80, 4)]
)
def test_silence_is_silent_and_left_alone(samples):
    found = measured(in_stretches(samples))
    assert found.is_silent
    assert found.gain_to(-14) == 0.0


def test_stretches_of_any_length_are_one_sound():
    samples = tone(-20, 3.33)
    assert (
        measured([samples]) == measured(in_stretches(samples, 7001)) == measured(in_stretches(samples, 333))
    )


def test_the_gain_stops_where_peaks_reach_the_ceiling():
    assert Loudness(-23.0, -10.0).gain_to(-16.0) == 7.0
    assert Loudness(-23.0, -4.0).gain_to(-16.0) == 3.0
    assert Loudness(-12.0, 0.5).gain_to(-23.0) == -11.0
    assert Loudness(-14.0, 0.5).gain_to(-14.0) == -1.5
    assert Loudness(-math.inf, -math.inf).gain_to(-14.0) == 0.0
