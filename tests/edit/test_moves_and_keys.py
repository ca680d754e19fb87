"""Moves written out as keys and keys made moves: the same picture on every frame."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from builders import project_of, title
from rovix.edit import clip_by_id
from rovix.edit.keys_to_move import keys_to_move
from rovix.edit.moves_and_keys import move_to_keys
from rovix.errors import RovixError
from rovix.model import Amount, Departure, Key, Keys, Move, ShapeClip, Transform
from rovix.motion import picture_plan
from rovix.motion.ready_moves import pop, rise_and_fade

CURVES = st.sampled_from(
    ["linear", "cubic-out", "back-out", "elastic-out", "spring(mass 1 stiffness 170 damping 17)", "steps(5)"]
)
AMOUNTS = {
    "x": st.floats(-900, 900), "y": st.floats(-500, 500), "z": st.floats(-500, 200),
    "scale": st.floats(0.1, 3), "rotation_z": st.floats(-400, 400), "opacity": st.floats(0, 1),
}  # fmt: skip


@st.composite
def moves(draw, role=None):
    names = draw(st.sets(st.sampled_from(sorted(AMOUNTS)), min_size=1, max_size=4))
    channels = tuple(
        Departure(channel=name, amount=Amount(value=draw(AMOUNTS[name])), curve=draw(CURVES))
        for name in sorted(names)
    )
    return Move(
        id="m", role=role or draw(st.sampled_from(["entrance", "exit"])), length=draw(st.floats(0.05, 1.2)),
        pivot="block", channels=channels,
    )  # fmt: skip


def plans(project):
    """The layers of every frame that can be seen: a curve through zero may leave 1e-17 of an opacity."""
    frames = [picture_plan(project, frame).layers for frame in range(50)]
    return [
        [layer for layer in layers if (layer.opacity * layer.opacities > 1e-9).any()] for layers in frames
    ]


def assert_alike(one, other):
    """The same layers in the same places, to what rounding leaves, on every frame."""
    for frame, (before, after) in enumerate(zip(plans(one), plans(other), strict=True)):
        assert len(before) == len(after), frame
        for left, right in zip(before, after, strict=True):
            np.testing.assert_allclose(
                _unit(left.matrices), _unit(right.matrices), atol=1e-6, err_msg=str(frame)
            )
            # An opacity of the piece and one of the layer show the same.
            ours, theirs = left.opacity * left.opacities, right.opacity * right.opacities
            np.testing.assert_allclose(ours, theirs, atol=1e-9)


def _unit(matrices):
    """Homographies are the same up to a factor; px of a letter away count, not what is far off."""
    return matrices / matrices[:, 2:, 2:]


@settings(max_examples=60, deadline=None)
@given(moves(), st.floats(-200, 200), st.floats(-180, 180), st.floats(0.3, 2))
def test_a_move_turned_into_keys_gives_the_same_picture(move, x, turn, scale):
    clip = title(
        length=50, moves=[move], transform=Transform(x=x, rotation_z=turn, scale_x=scale, scale_y=scale)
    )
    project = project_of(clip)
    written = move_to_keys(project, "title", "m")
    assert clip_by_id(written, "title").moves == ()
    assert_alike(project, written)


@settings(max_examples=40, deadline=None)
@given(moves(), st.floats(-200, 200), st.floats(0.3, 2))
def test_keys_made_a_move_again_give_the_same_picture(move, x, scale):
    clip = title(length=50, moves=[move], transform=Transform(x=x, scale_x=scale, scale_y=scale))
    written = move_to_keys(project_of(clip), "title", "m")
    place = clip_by_id(written, "title").transform
    keyed = {
        f"transform.{name}": tuple(key.frame for key in channel.keys)
        for name in place.__struct_fields__
        if isinstance(channel := getattr(place, name), Keys) and len(channel.keys) > 1
    }
    if not keyed:
        return
    again = keys_to_move(written, "title", keyed, move.role)
    assert [m.role for m in clip_by_id(again, "title").moves] == [move.role]
    assert_alike(written, again)


def test_moves_on_footage_stills_and_shapes_are_written_out_too():
    box = ShapeClip(id="title", length=50, moves=(replace(rise_and_fade(), id="m"),))
    written = move_to_keys(project_of(box), "title", "m")
    for frame in range(50):
        before = picture_plan(project_of(box), frame).layers
        after = picture_plan(written, frame).layers
        assert len(before) == len(after)
        for one, other in zip(before, after, strict=True):
            np.testing.assert_allclose(one.matrix, other.matrix, atol=1e-6)


def test_what_keys_cannot_do_is_said():
    by_letter = project_of(title(moves=[replace(pop(), id="m", pieces="letters")]))
    with pytest.raises(RovixError, match="piece by piece"):
        move_to_keys(by_letter, "title", "m")
    whole = replace(pop(), id="m", pieces="whole", before="away")
    slanted = project_of(title(moves=[whole], transform=Transform(slant=20.0)))
    with pytest.raises(RovixError, match="rests slanted"):
        move_to_keys(slanted, "title", "m")
    with pytest.raises(RovixError, match="Select a layer with an entrance"):
        move_to_keys(project_of(title()), "title", "m")


def test_a_keyed_fly_in_becomes_an_entrance_that_hangs_on_the_clips_start():
    x = Keys(id="x", keys=(Key(frame=0, value=-500.0, curve="cubic-out"), Key(frame=15, value=40.0)))
    project = project_of(title(length=50, transform=Transform(x=x)))
    made = keys_to_move(project, "title", {"transform.x": (0, 15)}, "entrance")
    clip = clip_by_id(made, "title")
    assert clip.transform.x == 40.0
    (move,) = clip.moves
    assert move.length == 0.5
    assert [(k.at, k.amount.value, k.curve) for k in move.channels[0].keys] == [
        (0.0, -540.0, "cubic-out"), (1.0, 0.0, "linear"),
    ]  # fmt: skip
    assert_alike(project, made)


def test_keys_that_are_not_all_selected_or_are_not_of_the_place_are_refused():
    x = Keys(id="x", keys=tuple(Key(frame=f, value=float(f)) for f in (0, 10, 20)))
    project = project_of(title(transform=Transform(x=x), text={"tracking": x}))
    with pytest.raises(RovixError, match="not selected"):
        keys_to_move(project, "title", {"transform.x": (0, 10)}, "entrance")
    leading = project_of(title(text={"leading": x}))
    with pytest.raises(RovixError, match="no channel that a move has"):
        keys_to_move(leading, "title", {"text.leading": (0, 10, 20)}, "entrance")
    with pytest.raises(RovixError, match="at least two"):
        keys_to_move(project, "title", {"transform.x": (0,)}, "exit")
