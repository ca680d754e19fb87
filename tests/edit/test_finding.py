import itertools

import pytest
from hypothesis import given
from hypothesis import strategies as st

from builders import project_of, title
from rovix.edit.finding import Wanted, find_words, places_in, replace_words
from rovix.edit.own_style import styled
from rovix.edit.tree import replace
from rovix.errors import RovixError
from rovix.model import GroupClip, Sequence, Text, Track


def full_project():
    """A layer, one in a group, one in another sequence, one on a locked track."""
    inner = Track(id="inner", clips=(title("kite Kites", id="deep"),))
    project = project_of(
        title("Kite day, kite", id="a"),
        GroupClip(id="g", length=60, tracks=(inner,)),
        title("Kite", id="shut"),
    )
    sequence = project.sequence
    tracks = (*sequence.tracks[:2], replace(sequence.tracks[2], locked=True))
    other = Sequence(id="other", name="Other", tracks=(Track(id="t", clips=(title("A kite", id="b"),)),))
    return replace(project, sequences=(replace(sequence, tracks=tracks), other))


def texts(project):
    inner = project.sequence.tracks[1].clips[0].tracks[0].clips[0]
    return [project.sequence.tracks[0].clips[0].text.content, inner.text.content,
            project.sequence.tracks[2].clips[0].text.content, project.sequences[1].tracks[0].clips[0].text.content]  # fmt: skip


@pytest.mark.parametrize(
    ("wanted", "count"),
    [
        (Wanted("kite"), 6),
        (Wanted("kite", same_case=True), 3),
        (Wanted("kite", whole_words=True), 5),
        (Wanted(""), 0),
        (Wanted("."), 0),
    ],
)
def test_words_are_found_everywhere(wanted, count):
    assert len(find_words(full_project(), wanted)) == count


def test_places_say_where_they_are():
    found = find_words(full_project(), Wanted("kite"))
    deep = [place for place in found if place.identity == "deep"]
    assert deep[0].level.groups == ("g",)
    assert [place.locked for place in found if place.identity == "shut"] == [True]
    assert {place.level.sequence for place in found} == {"s", "other"}


def test_all_are_replaced_but_what_is_locked():
    project, count = replace_words(full_project(), Wanted("kite"), "Wind")
    assert count == 5
    assert texts(project) == ["Wind day, Wind", "Wind Winds", "Kite", "A Wind"]


def test_one_place_alone_is_replaced():
    first = find_words(full_project(), Wanted("kite"))[0]
    project, count = replace_words(full_project(), Wanted("kite"), "Wind", first)
    assert (count, texts(project)[0]) == (1, "Wind day, kite")


def test_dressed_letters_stay_dressed():
    words = styled(Text(content="A kite day"), 2, 6, colour="#ff0000")
    project = project_of(replace(title(id="a"), text=words))
    made, _ = replace_words(project, Wanted("kite"), "dragon")
    (dressing,) = made.sequence.tracks[0].clips[0].text.styles
    assert (dressing.start, dressing.end) == (2, 8)


def test_nothing_found_is_the_same_project_and_too_long_is_refused():
    project = full_project()
    assert replace_words(project, Wanted("zeppelin"), "x") == (project, 0)
    assert replace_words(project, Wanted("zeppelin"), "x")[0] is project
    with pytest.raises(RovixError, match=r"100,000"):
        replace_words(project_of(title("ab" * 30_000, id="a")), Wanted("a"), "xxxx")


@given(st.text(alphabet="abA é", max_size=30), st.text(alphabet="abA", min_size=1, max_size=3), st.booleans())
def test_places_do_not_overlap_and_hold_what_was_asked(text, wanted, same):
    places = places_in(text, Wanted(wanted, same_case=same))
    for start, end in places:
        part = text[start:end]
        assert part == wanted if same else part.lower() == wanted.lower()
    assert all(a[1] <= b[0] for a, b in itertools.pairwise(places))
