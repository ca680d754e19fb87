"""Working on keys: laws that hold for any keys, and what meets what."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from builders import project_of, title
from rovix.curve import reversed_easing
from rovix.edit import clip_by_id
from rovix.edit.address import held_at
from rovix.edit.drift import Drift, drift
from rovix.edit.keys import (
    all_keys,
    mirror_keys,
    move_keys,
    remove_keys,
    repeat_keys,
    reverse_keys,
    set_key_curve,
    spread_keys,
    stretch_keys,
    thin_keys,
    toggle_keys,
)
from rovix.errors import RovixError
from rovix.model import Key, Keys, ShapeClip, Transform
from rovix.motion import move_spans
from rovix.motion.ready_moves import pop, rise_and_fade
from rovix.motion.rest import channel_at

CURVES = (
    "linear",
    "ease-in",
    "back-out",
    "cubic-bezier(0.2, 0.1, 0.7, 1.2)",
    "spring(mass 1 stiffness 170 damping 18)",
    "hold",
)


def keys(*triples):
    return Keys(id="k", keys=tuple(Key(frame=f, value=v, curve=c) for f, v, c in triples))


def of(project, name="x"):
    return getattr(clip_by_id(project, "title").transform, name)


def triples(project, name="x"):
    return [(key.frame, key.value, key.curve) for key in of(project, name).keys]


def moving(x=None, **channels):
    x = x or keys((0, -100.0, "back-out"), (10, 20.0, "linear"), (30, 0.0, "linear"))
    return project_of(title(length=90, transform=Transform(x=x, **channels)))


@st.composite
def any_keys(draw):
    frames = sorted(draw(st.sets(st.integers(0, 80), min_size=2, max_size=7)))
    return keys(*((f, draw(st.floats(-500, 500)), draw(st.sampled_from(CURVES[:5]))) for f in frames))


@given(any_keys())
def test_reversing_twice_is_identity(channel):
    project = moving(channel)
    chosen = all_keys(clip_by_id(project, "title"))
    once = reverse_keys(project, "title", chosen)
    frames = np.linspace(channel.keys[0].frame, channel.keys[-1].frame, 57)
    mirrored = channel_at(of(once), channel.keys[0].frame + channel.keys[-1].frame - frames)
    np.testing.assert_allclose(mirrored, channel_at(channel, frames), atol=1e-6)
    twice = reverse_keys(once, "title", all_keys(clip_by_id(once, "title")))
    np.testing.assert_allclose(channel_at(of(twice), frames), channel_at(channel, frames), atol=1e-6)
    assert [(k.frame, k.value) for k in of(twice).keys] == [(k.frame, k.value) for k in channel.keys]


@given(any_keys(), st.integers(1, 6), st.integers(-40, 120))
def test_stretching_and_back_is_identity(channel, times, anchor):
    project = moving(channel)
    longer = stretch_keys(project, "title", all_keys(clip_by_id(project, "title")), anchor, float(times))
    back = stretch_keys(longer, "title", all_keys(clip_by_id(longer, "title")), anchor, 1 / times)
    assert triples(back) == triples(project)


@given(any_keys(), st.integers(-30, 30))
def test_moving_there_and_back_is_identity(channel, frames):
    project = moving(channel)
    moved = move_keys(project, "title", all_keys(clip_by_id(project, "title")), frames)
    assert [f for f, _, _ in triples(moved)] == [f + frames for f, _, _ in triples(project)]
    assert triples(move_keys(moved, "title", all_keys(clip_by_id(moved, "title")), -frames)) == triples(
        project
    )


@given(any_keys())
def test_mirroring_values_twice_is_identity_and_a_key_has_its_value_exactly(channel):
    project = moving(channel)
    chosen = all_keys(clip_by_id(project, "title"))
    once = mirror_keys(project, "title", chosen)
    assert [v for _, v, _ in triples(once)] == [-v for _, v, _ in triples(project)]
    assert triples(mirror_keys(once, "title", chosen)) == triples(project)
    for key in channel.keys:
        assert channel_at(channel, np.array([float(key.frame)]))[0] == key.value


@given(any_keys(), st.floats(0, 0.3))
def test_thinning_out_stays_within_its_tolerance(channel, tolerance):
    project = moving(channel)
    made = of(thin_keys(project, "title", all_keys(clip_by_id(project, "title")), tolerance))
    frames = np.arange(channel.keys[0].frame, channel.keys[-1].frame + 1.0)
    assert len(made.keys) <= len(channel.keys)
    before = channel_at(channel, frames)
    assert np.abs(channel_at(made, frames) - before).max() <= tolerance * np.ptp(before) + 1e-9


def test_keys_on_a_straight_line_go():
    straight = keys(*((f, 3.0 * f, "linear") for f in range(0, 31, 5)))
    project = moving(straight)
    thinned = thin_keys(project, "title", {"transform.x": tuple(range(0, 31, 5))}, 1e-6)
    assert [f for f, _, _ in triples(thinned)] == [0, 30]


def test_curves_turn_round_with_their_keys():
    project = reverse_keys(moving(), "title", {"transform.x": (0, 10, 30)})
    assert triples(project) == [
        (0, 0.0, "linear"),
        (20, 20.0, reversed_easing("back-out")),
        (30, -100.0, "linear"),
    ]


def test_several_channels_turn_about_the_span_they_have_together():
    project = moving(rotation_z=keys((10, 5.0, "linear"), (50, 0.0, "linear")))
    turned = reverse_keys(project, "title", all_keys(clip_by_id(project, "title")))
    assert [f for f, _, _ in triples(turned)] == [20, 40, 50]
    assert [f for f, _, _ in triples(turned, "rotation_z")] == [0, 40]


def test_repeating_and_spacing():
    project = repeat_keys(moving(), "title", {"transform.x": (0, 10, 30)}, 3, 2)
    assert [f for f, _, _ in triples(project)] == [0, 10, 30, 32, 42, 62, 64, 74, 94]
    assert [f for f, _, _ in triples(spread_keys(moving(), "title", {"transform.x": (0, 10, 30)}))] == [
        0,
        15,
        30,
    ]
    with pytest.raises(RovixError, match="one frame apart"):
        repeat_keys(moving(), "title", {"transform.x": (0,)}, 2, 0)


def test_keys_do_not_meet_and_the_work_stays_as_it_was():
    with pytest.raises(RovixError, match="frame 10"):
        move_keys(moving(), "title", {"transform.x": (0,)}, 10)
    with pytest.raises(RovixError, match="Two keys of 'X'"):
        stretch_keys(moving(), "title", {"transform.x": (0, 10, 30)}, 0, 0.01)
    with pytest.raises(RovixError, match="above 0"):
        stretch_keys(moving(), "title", {"transform.x": (0, 10, 30)}, 0, -1.0)


def test_a_key_is_set_with_the_value_that_is_there_and_taken_away_again():
    project = toggle_keys(moving(), "title", 20, ("transform.x", "transform.y"))
    assert triples(project)[2] == (20, 10.0, "linear")
    assert triples(project, "y") == [(20, 0.0, "linear")]
    back = toggle_keys(project, "title", 20, ("transform.x", "transform.y"))
    assert triples(back) == triples(moving())
    assert of(back, "y") == 0.0


def test_the_way_on_is_that_of_the_key_before():
    project = set_key_curve(
        moving(), "title", 17, ("transform.x", "transform.y"), "spring(mass 1 stiffness 170 damping 18)"
    )
    assert [c for _, _, c in triples(project)] == [
        "back-out",
        "spring(mass 1 stiffness 170 damping 18)",
        "linear",
    ]


def test_without_keys_a_channel_stays_at_its_first():
    project = remove_keys(moving(), "title", {"transform.x": (0, 10, 30)})
    assert of(project) == -100.0
    assert [f for f, _, _ in triples(remove_keys(moving(), "title", {"transform.x": (10,)}))] == [0, 30]
    assert all_keys(title()) == {}


def test_a_drift_fills_the_stay_and_keeps_both_ends_at_rest():
    clip = title(length=90, moves=[pop(), rise_and_fade("exit")], transform=Transform(scale_x=2.0))
    project = drift(project_of(clip), "title", Drift(growth=0.04))
    spans = move_spans(clip.moves, 90, project.sequence.frame_rate)
    first, last = spans.entrance, 89 - spans.exit
    assert triples(project, "scale_x") == [(first, 2.0, "linear"), (last, 2.08, "linear")]
    assert [v for _, v, _ in triples(project, "scale_y")] == [1.0, 1.04]
    with pytest.raises(RovixError, match="keys already"):
        drift(project, "title", Drift(growth=0.04))
    with pytest.raises(RovixError, match="long enough"):
        drift(project_of(title(length=1)), "title", Drift(growth=0.04))


def test_a_drift_slides_turns_and_spreads_and_its_ramps_join_without_a_jump_of_speed():
    """With ramps the speed rises evenly, stays, falls evenly: `numpy.gradient` of the keyed channels."""
    way = Drift(x=120.0, y=-30.0, turn=4.0, spread=0.1, ramp_in=0.5, ramp_out=1.0)
    project = drift(project_of(title(length=91)), "title", way)
    frames = np.linspace(0, 90, 9001)
    for address, far in (
        ("transform.x", 120.0),
        ("transform.y", -30.0),
        ("transform.rotation_z", 4.0),
        ("text.tracking", 0.1),
    ):
        values = channel_at(held_at(clip_by_id(project, "title"), address), frames)
        assert values[-1] - values[0] == pytest.approx(far)
        speed = np.gradient(values, frames) / far
        most = 1 / (90 - (15 + 30) / 2)
        assert speed[1500:6000] == pytest.approx(np.full(4500, most), rel=1e-3)
        assert np.abs(np.diff(speed)).max() < most / 500
        assert speed[[0, -1]] == pytest.approx([0, 0], abs=most / 100)


def test_ramps_longer_than_the_stay_share_it_and_what_cannot_drift_is_said():
    project = drift(project_of(title(length=31)), "title", Drift(x=90.0, ramp_in=4.0, ramp_out=2.0))
    assert [f for f, _, _ in triples(project)] == [0, 20, 30]
    assert [v for _, v, _ in triples(project)] == pytest.approx([0.0, 60.0, 90.0])
    with pytest.raises(RovixError, match="no letters"):
        drift(project_of(ShapeClip(id="title", length=40)), "title", Drift(spread=0.1))
