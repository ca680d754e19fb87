"""Keys against the keyframe model of Web Animations Level 1, written out from the published algorithm."""

from math import floor

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from builders import project_of, title
from rovix.curve import Track, easing
from rovix.edit.address import held_at
from rovix.edit.keys import repeat_keys, turned_round
from rovix.edit.tree import clip_of
from rovix.model import Key, Keys, Transform

CURVES = [
    "linear",
    "ease",
    "ease-in",
    "ease-in-out",
    "cubic-bezier(0.3, -0.4, 0.2, 1.6)",
    "steps(4)",
    "steps(3, start)",
]


def effect_value(keyframes, progress):
    """Section 5.3.4, 'The effect value of a keyframe effect': the interval whose start offset is the
    last not above the progress, its own timing function on the share of it, then interpolation."""
    offsets = [offset for offset, _, _ in keyframes]
    if progress < 0:
        start = 0
    elif progress >= 1:
        start = len(keyframes) - 2
    else:
        start = max(n for n, offset in enumerate(offsets[:-1]) if offset <= progress)
    (low, value, curve), (high, following, _) = keyframes[start], keyframes[start + 1]
    share = float(easing(curve)((progress - low) / (high - low)))
    return value + share * (following - value)


def directed_progress(time, duration, iterations, direction):
    """Sections 4.9.2 to 4.10.2: overall progress, simple iteration progress, current iteration, directed."""
    overall = min(max(time / duration, 0.0), iterations)
    simple = overall % 1.0
    if simple == 0.0 and overall == iterations and iterations > 0:
        simple = 1.0
    current = floor(overall) - 1 if simple == 1.0 else floor(overall)
    backwards = direction == "alternate" and current % 2 == 1
    return 1.0 - simple if backwards else simple


@st.composite
def animations(draw):
    """Keys from frame 0 on, and the same as keyframes with offsets."""
    inner = sorted(draw(st.sets(st.integers(1, 39), max_size=4)))
    frames = [0, *inner, 40]
    values = [draw(st.floats(-300, 300)) for _ in frames]
    curves = [draw(st.sampled_from(CURVES)) for _ in frames]
    keys = tuple(Key(frame=f, value=v, curve=c) for f, v, c in zip(frames, values, curves, strict=True))
    return keys, [(f / 40, v, c) for f, v, c in zip(frames, values, curves, strict=True)]


def track(keys):
    return Track((key.frame, key.value, key.curve) for key in keys)


@given(animations(), st.floats(0, 50))
def test_each_key_has_its_own_easing_to_the_next(animation, time):
    keys, keyframes = animation
    expected = effect_value(keyframes, directed_progress(time, 40, 1, "normal"))
    # On the very moment of a step rounding decides from which side one comes.
    found = track(keys)([time - 1e-9, time, time + 1e-9])
    assert np.abs(found - expected).min() < 1e-5


@given(animations(), st.integers(0, 80))
def test_there_and_back_is_alternate(animation, frame):
    keys, keyframes = animation
    back = turned_round(keys, 80)
    whole = (*keys[:-1], *(b for b in back))
    if frame in {key.frame for key in whole} and any("steps" in key.curve for key in keys):
        # On the very frame of a step it depends on the side from which one comes.
        return
    expected = effect_value(keyframes, directed_progress(frame, 40, 2, "alternate"))
    # A step seen from its other end is taken on the other side of the very moment; others agree.
    found = track(whole)([frame - 1e-9, frame, frame + 1e-9])
    assert np.abs(found - expected).min() < 1e-5


@given(animations(), st.integers(1, 4), st.integers(1, 9), st.data())
def test_repeating_is_iterations_with_a_rest_between(animation, times, gap, data):
    keys, _ = animation
    resting = (*keys[:-1], Key(frame=40, value=keys[-1].value, curve="hold"))
    place = Transform(x=Keys(id="x", keys=resting))
    project = project_of(title(length=400, transform=place))
    chosen = {"transform.x": tuple(key.frame for key in resting)}
    made = held_at(clip_of(repeat_keys(project, "title", chosen, times, gap), "title"), "transform.x")
    duration = 40 + gap
    # The rest between is a last keyframe of the same value.
    keyframes = [(k.frame / duration, k.value, k.curve) for k in resting] + [
        (1.0, resting[-1].value, "linear")
    ]
    frame = data.draw(st.integers(0, times * duration - gap))
    expected = effect_value(keyframes, directed_progress(frame, duration, times, "normal"))
    # On the very frame of a step rounding decides from which side one comes.
    found = track(made.keys)([frame - 1e-9, frame, frame + 1e-9])
    assert np.abs(found - expected).min() < 1e-5
