"""What is asked of tracks of thousands of clips is found without asking each."""

from builders import title
from rovix.model import GroupClip, Track
from rovix.model.on_track import clip_at, clip_named, edges_on, place_on

CLIPS = tuple(title(f"{n}", id=f"c{n}", start=n * 100, length=60) for n in range(40))


def test_a_place_is_that_of_the_first_with_the_id():
    track = Track(clips=CLIPS)
    assert [place_on(track, clip.id) for clip in CLIPS] == list(range(40))
    assert place_on(track, "nobody") is None
    few = Track(clips=CLIPS[:3])
    assert [place_on(few, clip.id) for clip in CLIPS[:4]] == [0, 1, 2, None]
    twice = Track(clips=(*CLIPS, title("again", id="c3", start=9000)))
    assert place_on(twice, "c3") == 3


def test_another_tuple_of_clips_is_looked_through_anew():
    track = Track(clips=CLIPS)
    assert place_on(track, "c39") == 39
    assert place_on(Track(clips=CLIPS[1:]), "c39") == 38
    assert place_on(Track(clips=CLIPS[:-1]), "c39") is None


def test_a_name_is_looked_for_on_all_tracks_but_not_in_groups():
    group = GroupClip(id="group", start=0, length=50, tracks=(Track(clips=(title("in", id="in"),)),))
    tracks = (Track(clips=(group,)), Track(clips=CLIPS))
    assert clip_named(tracks, "c7") is CLIPS[7]
    assert clip_named(tracks, "group") is group
    assert clip_named(tracks, "in") is None


def test_edges_are_those_of_all_clips_in_order():
    assert edges_on(Track(clips=CLIPS[:2])) == (0, 60, 100, 160)
    touching = (title("a", id="a", start=0, length=10), title("b", id="b", start=10, length=5))
    assert edges_on(Track(clips=touching)) == (0, 10, 15)
    assert edges_on(Track()) == ()


def test_the_end_of_a_track_is_that_of_its_last_clip():
    assert Track(clips=CLIPS).length == 39 * 100 + 60
    assert Track().length == 0
    assert clip_at(Track(clips=CLIPS), 3959) is CLIPS[-1]
