"""What differs between two trees goes over small, and the rest stays the very same."""

import pickle

import pytest
from msgspec.structs import replace

from builders import project_of, title
from rovix.engine.delta import Known, apply_delta, make_delta
from rovix.engine.patch import Fields, Items, patch, patched
from rovix.model import ContourKey, ContourKeys, Key, Keys
from rovix.model.effects.mask import Mask


def masked(points=200, count=100):
    def line(frame):
        return tuple((float(n + frame), float(-n), 1.0, 2.0, 3.0, 4.0) for n in range(points))

    keys = ContourKeys(keys=tuple(ContourKey(frame=n, value=line(n)) for n in range(count)))
    return title("Far", 200, id="far", effects=(Mask(id="mask", form="drawn", contour=keys),))


def with_key(clip, number, frame=None):
    (mask,) = clip.effects
    keys = list(mask.contour.keys)
    moved = tuple((x + 1, *rest) for x, *rest in keys[number].value)
    keys[number] = replace(keys[number], value=moved)
    return replace(clip, effects=(replace(mask, contour=replace(mask.contour, keys=tuple(keys))),))


def test_one_key_of_a_long_line_goes_over_alone():
    old = masked()
    new = with_key(old, 40)
    change = patch(old, new)
    assert len(pickle.dumps(change)) < len(pickle.dumps(new)) / 40
    made = patched(old, pickle.loads(pickle.dumps(change)))
    assert made == new
    for number in (0, 39, 41, 99):
        assert made.effects[0].contour.keys[number] is old.effects[0].contour.keys[number]
    assert made.text is old.text


@pytest.mark.parametrize(
    "change",
    [
        lambda c: replace(c, name="Other"),
        lambda c: replace(c, effects=()),
        lambda c: replace(c, effects=(*c.effects, Mask(id="more"))),
        lambda c: replace(c, transform=replace(c.transform, x=Keys(id="k", keys=(Key(frame=0, value=1.0),)))),
        lambda c: replace(c, extra={"unknown": [1, 2]}),
        lambda c: c,
    ],
)
def test_any_change_comes_out_as_it_went_in(change):
    old = masked(4, 3)
    new = change(old)
    assert patched(old, patch(old, new)) == new


def test_a_plain_tuple_of_which_most_is_other_goes_over_whole():
    assert patch((1.0, 2.0, 3.0, 4.0), (5.0, 6.0, 7.0, 4.0)) == (5.0, 6.0, 7.0, 4.0)
    assert isinstance(patch(("a",) * 9, ("b", *("a",) * 8)), Items)
    assert patch(None, (1.0,)) == (1.0,)


def test_a_worker_gets_of_a_clip_what_has_changed_and_keeps_the_rest():
    old = masked()
    ours, theirs = Known(), Known()
    first = project_of(old)
    before = apply_delta(pickle.loads(pickle.dumps(make_delta(first, ours))), theirs)
    second = project_of(with_key(old, 3))
    delta = make_delta(second, ours)
    (part,) = delta.sequences
    assert isinstance(part.changed["far"], Fields)
    after = apply_delta(pickle.loads(pickle.dumps(delta)), theirs)
    assert after == second
    was, now = (p.sequence.tracks[0].clips[0] for p in (before, after))
    assert now.look is was.look
    assert now.effects[0].contour.keys[4] is was.effects[0].contour.keys[4]
