"""A day of playing in fast simulation: the picture that is due stays with the sound that is heard.

The sound is counted as it leaves for the device, without being mixed; the clock is what was heard of it.
"""

from fractions import Fraction
from math import floor

import numpy as np
import pytest

from builders import project_of, title
from rovix.engine.player import Player, SilentClock
from rovix.engine.sample_source import SampleSource
from rovix.media.samples import SAMPLE_RATE
from rovix.time import Rate, Span

DAY = 24 * 3600  # seconds
RATES = ("25", "30000/1001", "60000/1001")


class Unmixed:
    """As many samples as a span has by itself, and none of them real: they take neither time nor room."""

    def __init__(self, rate):
        self._rate = rate

    def mix(self, span):
        first, last = (
            floor(self._rate.seconds(at) * SAMPLE_RATE + Fraction(1, 2)) for at in (span.start, span.end)
        )
        return np.broadcast_to(np.float32(0), (last - first, 2))


class Heard(SilentClock):
    """Time as a device tells it: samples heard over their rate."""

    samples = 0

    def seconds(self):
        return self.samples / SAMPLE_RATE


def rounds(source, seconds):
    """How many samples have left after each stretch that is mixed, for so long."""
    gone = 0
    while gone < seconds * SAMPLE_RATE:
        source._ready = np.zeros((0, 2), np.float32)
        assert source._mix_more()
        gone += len(source._ready)
        yield gone


def playing(rate, length, loop):
    project = project_of(title(length=length), rate=rate)
    source = SampleSource(project.sequence, Span(0, length), 0, loop, lambda identity: None)
    source._mixer = Unmixed(project.sequence.frame_rate)
    player = Player(Heard())
    player.start(0, Span(0, length), project.sequence.frame_rate, loop=loop)
    return source, player


@pytest.mark.parametrize("rate", RATES)
@pytest.mark.parametrize(("length", "seconds"), [(7, DAY / 24), (101, DAY)])
def test_a_loop_never_runs_off(rate, length, seconds):
    source, player = playing(rate, length, True)
    exact = Rate(rate).fraction
    for stretches, gone in enumerate(rounds(source, seconds)):
        frames = source._frames
        assert abs(Fraction(gone, SAMPLE_RATE) - frames / exact) * SAMPLE_RATE <= Fraction(1, 2)
        if stretches % 997 == 0:
            _is_with_its_sound(player, gone, frames, length, exact)
    assert gone >= seconds * SAMPLE_RATE


def _is_with_its_sound(player, gone, frames, length, exact):
    """The frame that is due when the next stretch begins to be heard is the one that this begins with."""
    player.clock.samples = gone + 1
    shown = player.due()
    assert shown == frames % length
    middle = (frames + Fraction(1, 2)) / exact
    assert abs(Fraction(gone + 1, SAMPLE_RATE) - middle) <= Fraction(1, 2) / exact + Fraction(1, SAMPLE_RATE)


@pytest.mark.parametrize("rate", RATES)
def test_a_day_at_a_stretch_stays_together(rate):
    exact = Rate(rate).fraction
    length = floor(DAY * exact)
    source, player = playing(rate, length, False)
    for number, gone in enumerate(rounds(source, (length - 100) / exact)):
        if number % 499 == 0:
            _is_with_its_sound(player, gone, source._frames, length, exact)
    assert player.due() > length * 0.99
