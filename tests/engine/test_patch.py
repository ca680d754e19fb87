"""What differs between two trees goes over small, and the rest stays the very same."""

import pickle

import pytest
from msgspec.structs import replace

from builders import project_of, title
from listening import wanted
from rovix.edit import change_text
from rovix.engine.delta import Known, Unreadable, apply_delta, make_delta
from rovix.engine.patch import Fields, Items, patch, patched
from rovix.engine.picture_service import PictureService
from rovix.model import ContourKey, ContourKeys, Key, Keys, Track
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


def many(count=60):
    return project_of(*[title(f"Kite {n}", id=f"c{n}", start=n * 70) for n in range(count)])


def test_many_new_clips_are_packed_and_come_as_they_are():
    ours, theirs = Known(), Known()
    project = many()
    delta = make_delta(project, ours)
    assert delta.sequences[0].packed
    assert not delta.sequences[0].changed
    assert apply_delta(pickle.loads(pickle.dumps(delta)), theirs) == project
    other = Known()
    assert make_delta(project, other, pack=False).sequences[0].packed == b""


def test_of_many_tracks_only_what_changed_goes(tmp_path):
    first = many()
    rows = [Track(id=f"t{n}", clips=tuple(title(f"{n}.{k}", id=f"{n}.{k}", start=k * 70) for k in range(9)))
            for n in range(5)]  # fmt: skip
    first = replace(first, sequences=(replace(first.sequence, tracks=tuple(rows)),))
    ours, theirs = Known(), Known()
    before = apply_delta(make_delta(first, ours), theirs)
    second = change_text(first, "3.4", content="Meadow")
    delta = make_delta(second, ours)
    assert [ids is None for ids in delta.sequences[0].order] == [True, True, True, False, True]
    after = apply_delta(delta, theirs)
    assert after == second
    assert after.sequence.tracks[0].clips is before.sequence.tracks[0].clips
    moved = with_tracks(second, lambda tracks: (replace(tracks[0], clips=tracks[0].clips[1:]), *tracks[1:4],
                                                replace(tracks[4], clips=(*tracks[4].clips, replace(tracks[0].clips[0], start=5000)))))  # fmt: skip
    assert apply_delta(make_delta(moved, ours), theirs) == moved
    assert apply_delta(make_delta(first, ours), theirs) == first


def with_tracks(project, change):
    sequence = project.sequence
    return replace(project, sequences=(replace(sequence, tracks=change(sequence.tracks)),))


def too_large_for_a_file():
    """Such as no edit lets through: read strictly, it is refused."""
    project = many()
    return with_tracks(project, lambda tracks: tuple(
        replace(track, clips=tuple(replace(clip, name="x" * 100_000) for clip in track.clips)) for track in tracks
    ))  # fmt: skip


def test_what_no_file_may_hold_is_unreadable_when_packed_and_goes_as_it_is():
    theirs = Known()
    project = too_large_for_a_file()
    with pytest.raises(Unreadable):
        apply_delta(make_delta(project, Known()), theirs)
    plain = make_delta(project, Known(), pack=False)
    assert apply_delta(pickle.loads(pickle.dumps(plain)), theirs) == project


def test_the_service_draws_it_all_the_same(tmp_path):
    service = PictureService(workers=2, memory=16 << 20)
    service.resize((64, 36))
    service.show(too_large_for_a_file(), tmp_path)
    assert wanted(service, 75).error is None
    service.close()
