"""Moves rebuilt with the timing model of Web Animations Level 1, written out from the published text."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import brentq

from builders import project_of, title
from rovix.model import Amount, Beats, Departure, InnerKey, Move
from rovix.motion import Scene

# The control points of CSS Easing Level 1's keywords (section 2.2), and a curve that goes beyond.
BEZIERS = {
    "ease": (0.25, 0.1, 0.25, 1.0),
    "ease-in": (0.42, 0.0, 1.0, 1.0),
    "ease-out": (0.0, 0.0, 0.58, 1.0),
    "ease-in-out": (0.42, 0.0, 0.58, 1.0),
    "cubic-bezier(0.3, -0.4, 0.2, 1.6)": (0.3, -0.4, 0.2, 1.6),
}


def bezier(curve, progress):
    """CSS Easing Level 1, section 2.2: the y of the curve whose x is the progress; solved by SciPy."""
    if curve == "linear":
        return progress
    x1, y1, x2, y2 = BEZIERS[curve]

    def at(a, b, t):
        return 3 * a * t * (1 - t) ** 2 + 3 * b * t**2 * (1 - t) + t**3

    t = brentq(lambda t: at(x1, x2, t) - progress, 0.0, 1.0, xtol=1e-15)
    return at(y1, y2, t)


def active_progress(local, delay, duration):
    """Sections 4.5.5 to 4.8: phase by the local time, `fill: both`, one iteration; its progress."""
    if local < delay:
        active = 0.0  # before phase, filled backwards
    elif local >= delay + duration:
        active = duration  # after phase, filled forwards
    else:
        active = local - delay
    if duration == 0:
        return 0.0 if local < delay else 1.0
    return active / duration


curves = st.sampled_from(["linear", *BEZIERS])


@settings(max_examples=120, deadline=None)
@given(
    st.integers(1, 12), st.integers(1, 45), st.floats(0.2, 8.0), curves, st.floats(-300, 300), st.floats(0, 3),
    st.integers(0, 60),
)  # fmt: skip
def test_an_entrance_is_an_animation_for_each_piece_with_a_delay(
    count, span, at_once, curve, far, scale, frame
):
    away = (
        Departure(channel="y", amount=Amount(value=far)),
        Departure(channel="scale", amount=Amount(value=scale)),
    )
    move = Move(
        role="entrance", length=span / 30, pieces="letters", at_once=at_once, piece_curve=curve, channels=away
    )
    project = project_of(title("abcdefghijkl"[:count], length=100, moves=[move]))
    clip = project.sequence.tracks[0].clips[0]
    state = Scene.of(project).motion(clip).at(np.array([float(frame)]))
    # E = g K + d with d = a g; one piece takes the whole span.
    stagger = span / (count - 1 + at_once) if count > 1 else 0.0
    duration = at_once * stagger if count > 1 else float(span)
    for piece in range(count):
        progress = active_progress(frame, piece * stagger, duration)
        eased = bezier(curve, progress)
        # Two keyframes, from away to neutral; composite: add for y, multiplied for scale.
        assert state.pieces["y"][0, piece] == pytest.approx(far + (0 - far) * eased, abs=1e-4)
        assert state.pieces["scale_x"][0, piece] == pytest.approx(
            max(0.0, scale + (1 - scale) * eased), abs=1e-5
        )


@settings(max_examples=80, deadline=None)
@given(
    st.lists(st.integers(1, 99), min_size=1, max_size=4, unique=True), st.lists(st.floats(-200, 200), min_size=5, max_size=5),
    st.lists(curves, min_size=6, max_size=6), st.integers(0, 40),
)  # fmt: skip
def test_inner_keys_are_keyframes_with_offsets(places, values, ways, frame):
    offsets = [0.0, *(place / 100 for place in sorted(places)), 1.0]
    amounts = [*values[: len(offsets) - 1], 0.0]
    keys = tuple(
        InnerKey(at=at, amount=Amount(value=value), curve=curve)
        for at, value, curve in zip(offsets, amounts, ways, strict=False)
    )
    move = Move(role="entrance", length=1.0, channels=(Departure(channel="y", keys=keys),))
    project = project_of(title("ab", length=60, moves=[move]))
    clip = project.sequence.tracks[0].clips[0]
    found = Scene.of(project).motion(clip).at(np.array([float(frame)])).pieces["y"][0, 0]
    progress = active_progress(frame, 0.0, 30.0)
    # Section 5.3.4: the interval whose start offset is the last not above the progress.
    start = (
        len(offsets) - 2 if progress >= 1 else max(n for n, at in enumerate(offsets[:-1]) if at <= progress)
    )
    share = (progress - offsets[start]) / (offsets[start + 1] - offsets[start])
    expected = amounts[start] + bezier(ways[start], share) * (amounts[start + 1] - amounts[start])
    assert found == pytest.approx(0.0 if progress >= 1 else expected, abs=1e-3)


@settings(max_examples=60, deadline=None)
@given(st.integers(1, 5), st.integers(2, 20), curves, st.integers(0, 119))
def test_a_loop_is_an_alternating_animation_of_half_a_beat(beats, half, curve, frame):
    beat = 2 * half
    move = Move(role="loop", length=beat / 30, piece_curve=curve, beats=Beats(count=beats),
                channels=(Departure(channel="y", amount=Amount(value=50.0)),))  # fmt: skip
    project = project_of(title("ab", length=400, moves=[move]))
    clip = project.sequence.tracks[0].clips[0]
    found = Scene.of(project).motion(clip).at(np.array([float(frame)])).pieces["y"][0, 0]
    # `iterations: 2 x beats`, `direction: alternate`; sections 4.9.2 to 4.10.2.
    overall = min(frame / half, 2.0 * beats)
    simple = overall % 1.0
    current = int(overall)
    if simple == 0.0 and overall == 2 * beats:
        simple, current = 1.0, current - 1
    directed = 1.0 - simple if current % 2 else simple
    assert found == pytest.approx(50.0 * bezier(curve, directed), abs=1e-4)
