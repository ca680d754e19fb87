"""Copying keys, tangents, paths and what is read from curves."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from builders import look_of, project_of, title
from rovix.curve import TANGENTS
from rovix.edit import clip_by_id
from rovix.edit.address import channels_of, held_at, put_held
from rovix.edit.history import History
from rovix.edit.key_clips import copied_keys, paste_keys, reversed_keys
from rovix.edit.keys import align_keys, hold_keys, stagger_keys
from rovix.edit.paths import (
    add_point,
    bend,
    drag_way,
    make_path,
    move_on_path,
    path_to_keys,
    remove_path,
    set_along,
    straighten,
)
from rovix.edit.tangents import drag_handle, even_speed, set_joined, to_tangents
from rovix.edit.values import reset_channels, set_channels
from rovix.errors import RovixError
from rovix.model import ColourKey, ColourKeys, Key, Keys, MotionPath, Outline, PathKey, ShapeClip, Transform
from rovix.motion.reading import reading, slopes_at
from rovix.motion.rest import channel_at, path_of, rest_at


def keys(*triples, identity="k"):
    return Keys(id=identity, keys=tuple(Key(frame=f, value=v, curve=c) for f, v, c in triples))


MOVING = keys((0, -100.0, "back-out"), (10, 20.0, "linear"), (30, 0.0, "linear"))


def moving(**channels):
    return project_of(title(length=90, transform=Transform(**({"x": MOVING} | channels))))


def held(project, address="transform.x"):
    return held_at(clip_by_id(project, "title"), address)


def values(project, address="transform.x", frames=np.arange(90.0)):  # noqa: B008
    return channel_at(held(project, address), frames)


ALL = {"transform.x": (0, 10, 30)}


def test_keys_are_pasted_at_a_frame_and_make_way_only_there():
    copied = copied_keys(clip_by_id(moving(), "title"), {"transform.x": (10, 30)})
    assert copied.length == 20
    pasted, placed = paste_keys(moving(), "title", copied, 30)
    assert placed == {"transform.x": (30, 50)}
    assert [(k.frame, k.value) for k in held(pasted).keys] == [(0, -100), (10, 20), (30, 20), (50, 0)]
    back, _ = paste_keys(moving(), "title", reversed_keys(copied), 60)
    assert [(k.frame, k.value) for k in held(back).keys][-2:] == [(60, 0), (80, 20)]


def test_keys_go_onto_other_channels_and_layers():
    copied = copied_keys(clip_by_id(moving(), "title"), ALL)
    turned, placed = paste_keys(moving(), "title", copied, 5, onto=("transform.rotation_z",))
    assert [k.value for k in held(turned, "transform.rotation_z").keys] == [-100, 20, 0]
    assert placed == {"transform.rotation_z": (5, 15, 35)}
    # Each channel's keys have an id of their own.
    assert held(turned, "transform.rotation_z").id != MOVING.id
    colours = ColourKeys(
        id="c", keys=(ColourKey(frame=0, value="#ff0000"), ColourKey(frame=9, value="#00ff00"))
    )
    one = title(id="one", look=look_of("#ffffff", Outline(id="edge", colour=colours)))
    two = title(id="two", look=look_of("#ffffff", Outline(id="rim")))
    copied = copied_keys(one, {"look.parts.edge.colour": (0, 9)})
    # Of another layer's look the first part that has such a channel takes them.
    made, placed = paste_keys(project_of(one, two), "two", copied, 3)
    assert list(placed.values()) == [(3, 12)]
    address = next(iter(placed))
    assert isinstance(held_at(clip_by_id(made, "two"), address), ColourKeys)
    with pytest.raises(RovixError, match="no channels of the copied kind"):
        paste_keys(project_of(one, ShapeClip(id="box", length=9)), "box", copied, 0, onto=("width",))


def test_nothing_copied_is_said():
    with pytest.raises(RovixError, match="no keys to copy"):
        copied_keys(title(), {})


def test_keys_are_aligned_held_and_shifted_against_each_other():
    both = moving(y=keys((4, 0.0, "linear"), (9, 50.0, "linear"), identity="y"))
    chosen = {"transform.x": (0, 10, 30), "transform.y": (4, 9)}
    aligned = align_keys(both, "title", chosen, 20)
    assert [k.frame for k in held(aligned).keys] == [20, 30, 50]
    assert [k.frame for k in held(aligned, "transform.y").keys] == [20, 25]
    late = stagger_keys(both, "title", chosen, 6)
    assert [k.frame for k in held(late).keys] == [0, 10, 30]
    assert [k.frame for k in held(late, "transform.y").keys] == [10, 15]
    steps = hold_keys(moving(), "title", ALL)
    assert [(k.frame, k.value) for k in held(steps).keys] == [
        (0, -100), (9, -100), (10, 20), (29, 20), (30, 0),
    ]  # fmt: skip
    assert set(values(steps).tolist()) == {-100.0, 20.0, 0.0}


@given(st.sampled_from(["linear", "ease-in", "cubic-out", "sine-in-out", "cubic-bezier(0.3, 0.1, 0.4, 1)"]))
def test_tangents_leave_and_come_in_as_the_way_did(curve):
    project = moving(x=keys((0, -100.0, curve), (20, 20.0, "linear"), (30, 0.0, "linear")))
    made = to_tangents(project, "title", {"transform.x": (0,)})
    assert held(made).keys[0].curve == TANGENTS
    for frame, side in ((0, 1), (20, 0)):
        before, after = slopes_at(held(project), frame)[side], slopes_at(held(made), frame)[side]
        assert after == pytest.approx(before, abs=0.05)
    assert values(made)[[0, 20, 30]].tolist() == [-100, 20, 0]


def test_evening_out_makes_the_speeds_at_a_key_one():
    assert reading(held(moving())).breaks == (10,)
    even = even_speed(moving(), "title", {"transform.x": (10,)})
    before, after = slopes_at(held(even), 10)
    assert before == pytest.approx(after, abs=0.02)
    assert reading(held(even)).breaks == ()
    assert values(even)[[0, 10, 30]].tolist() == [-100, 20, 0]


def test_a_handle_stays_between_its_key_and_the_next():
    tangents = to_tangents(moving(), "title", {"transform.x": (0, 10)})
    far = drag_handle(tangents, "title", "transform.x", 10, "after", (500.0, 7.0))
    assert held(far).keys[1].after == (20.0, 7.0)
    back = drag_handle(tangents, "title", "transform.x", 10, "before", (-3.0, 7.0))
    assert held(back).keys[1].before == (0.0, 7.0)
    joined = set_joined(tangents, "title", {"transform.x": (10,)}, True)
    moved = drag_handle(joined, "title", "transform.x", 10, "after", (5.0, 10.0))
    key = held(moved).keys[1]
    assert key.before[1] / key.before[0] == pytest.approx(-2)
    with pytest.raises(RovixError, match="no key on frame 11"):
        drag_handle(tangents, "title", "transform.x", 11, "after", (1.0, 0.0))


def test_tangents_need_another_key_behind():
    with pytest.raises(RovixError, match="Tangents are for numbers"):
        to_tangents(moving(), "title", {"transform.y": (0,)})


def test_overshoot_settling_speed():
    # From 40 % to 107 % and back to 100 %: of the way of 60 % that is 7 / 60 too far.
    pop = keys((0, 0.4, "linear"), (8, 1.07, "linear"), (12, 1.0, "linear"), (40, 1.0, "linear"))
    found = reading(pop)
    assert found.overshoot == pytest.approx(0.07 / 0.6)
    assert found.settles == 12
    assert found.fastest == pytest.approx(0.67 / 8)
    assert found.breaks == (8, 12)
    still = reading(keys((0, 5.0, "linear"), (9, 5.0, "linear")))
    assert (still.overshoot, still.settles, still.fastest, still.breaks) == (0.0, 0, 0.0, ())


def test_a_cut_is_no_jolt():
    assert reading(keys((0, 0.0, "hold"), (9, 5.0, "linear"), (20, 5.0, "linear"))).breaks == ()


WAY = MotionPath(id="p", keys=(PathKey(frame=0, x=-200.0, y=0.0), PathKey(frame=20, x=0.0, y=100.0), PathKey(frame=40, x=200.0, y=0.0)))  # fmt: skip


def along(project, frames=np.arange(0, 41.0)):  # noqa: B008
    rest = rest_at(clip_by_id(project, "title").transform, frames)
    return np.stack([rest["x"], rest["y"]], axis=1)


def test_keys_of_x_and_y_become_a_path_and_keys_again():
    project = moving(y=keys((0, 5.0, "linear"), (10, 25.0, "linear"), (30, 5.0, "linear"), identity="y"))
    made = make_path(project, "title")
    path = held(made, "transform.path")
    assert [(k.frame, k.x, k.y) for k in path.keys] == [(0, -100, 5), (10, 20, 25), (30, 0, 5)]
    # On a straight way a point's ease goes for both: only where both had the same is it the same way.
    back = path_to_keys(made, "title")
    assert held(back, "transform.path") is None
    np.testing.assert_allclose(along(back), along(made), atol=1e-9)
    with pytest.raises(RovixError, match="runs on a path already"):
        make_path(made, "title")


def test_a_layer_without_keys_gets_a_path_over_its_whole_time():
    made = make_path(project_of(title(length=50, transform=Transform(x=10.0, y=20.0))), "title")
    assert [(k.frame, k.x, k.y) for k in held(made, "transform.path").keys] == [(0, 10, 20), (49, 410, 20)]


def test_a_path_is_bent_straightened_and_pulled():
    project = moving(x=0.0, path=WAY)
    bent = bend(project, "title", (20,))
    key = held(bent, "transform.path").keys[1]
    assert key.joined
    assert key.before[0] * key.after[1] == pytest.approx(key.before[1] * key.after[0])
    assert path_length(held(bent, "transform.path")) > path_length(WAY) * 0.99
    pulled = drag_way(bent, "title", 20, "after", (0.0, 60.0))
    key = held(pulled, "transform.path").keys[1]
    assert key.before[0] == pytest.approx(0, abs=1e-9)
    assert key.before[1] < 0
    apart = drag_way(bent, "title", 20, "after", (0.0, 60.0), apart=True)
    assert held(apart, "transform.path").keys[1].before == held(bent, "transform.path").keys[1].before
    flat = straighten(bent, "title", (20,))
    np.testing.assert_allclose(along(flat), along(project), atol=1e-9)
    ((x, y),) = along(project, np.array([20.0]))
    moved = move_on_path(project, "title", 20, 7.0 - x, 8.0 - y)
    np.testing.assert_allclose(along(moved, np.array([20.0])), [(7, 8)], atol=1e-4)
    assert held(set_along(project, "title", True), "transform.path").along


def path_length(path):
    return path_of(path)[0].lengths.sum()


def test_a_point_put_on_a_bent_path_leaves_its_shape():
    project = bend(moving(x=0.0, path=WAY), "title", (0, 20, 40))
    more = add_point(project, "title", 7)
    assert [k.frame for k in held(more, "transform.path").keys] == [0, 7, 20, 40]
    np.testing.assert_allclose(along(more), along(project), atol=0.05)
    assert path_length(held(more, "transform.path")) == pytest.approx(
        path_length(held(project, "transform.path"))
    )
    with pytest.raises(RovixError, match="already"):
        add_point(project, "title", 20)


def test_a_bent_path_written_out_is_on_it_at_every_frame():
    project = bend(moving(x=3.0, y=4.0, path=WAY), "title", (0, 20, 40))
    written = path_to_keys(project, "title")
    np.testing.assert_allclose(along(written), along(project), atol=1e-9)
    gone = remove_path(project, "title", 20)
    np.testing.assert_allclose(along(gone), np.tile([3.0, 104.0], (41, 1)), atol=1e-9)


def test_channels_are_set_and_reset_by_their_address():
    project = project_of(title(look=look_of("#112233", Outline(id="o", width=9.0))))
    wide = set_channels(project, "title", 4, {"look.parts.o.width": 20.0, "text.tracking": 0.3})
    assert held(wide, "look.parts.o.width") == 20.0
    back = reset_channels(wide, "title", ["look.parts.o.width", "text.tracking"])
    assert (held(back, "look.parts.o.width"), held(back, "text.tracking")) == (6.0, 0.0)
    keyed = put_held(project, "title", {"look.parts.o.width": MOVING})
    set_on = set_channels(keyed, "title", 20, {"look.parts.o.width": 5.0})
    assert [k.frame for k in held(set_on, "look.parts.o.width").keys] == [0, 10, 20, 30]
    with pytest.raises(RovixError, match=r"no 'look\.parts\.gone\.width'"):
        set_channels(project, "title", 0, {"look.parts.gone.width": 1.0})
    with pytest.raises(RovixError, match=r"no 'text\.content'"):
        set_channels(project, "title", 0, {"text.content": "x"})


@given(st.data())
def test_every_channel_can_be_keyed_and_undone(data):
    project = project_of(title(look=look_of("#112233", Outline(id="o"))))
    clip = clip_by_id(project, "title")
    address = data.draw(st.sampled_from(sorted(a for a, h in channels_of(clip).items() if h is not None)))
    value = held_at(clip, address)
    changed = {
        "number": Keys(keys=(Key(frame=0, value=value), Key(frame=9, value=value)))
        if isinstance(value, float)
        else None,
        "colour": ColourKeys(keys=(ColourKey(frame=0, value=value),)) if isinstance(value, str) else None,
    }
    held_now = next(made for made in changed.values() if made is not None)
    history = History(project)
    history.do("Key", put_held(project, "title", {address: held_now}))
    assert held_at(clip_by_id(history.project, "title"), address) is held_now
    history.undo()
    assert history.project == project
