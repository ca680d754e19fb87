"""One edit of several clips, and what stands in one clip for a thing of another."""

import pytest

from builders import project_of, title
from rovix.edit.counterparts import address_on, counterpart, items_at
from rovix.edit.each import Left, edited_each
from rovix.edit.text import change_text
from rovix.edit.tree import clip_of, replace, with_sequence
from rovix.errors import RovixError
from rovix.model import Fill, Glow, Look, Outline, ShapeClip
from rovix.motion.ready_moves import pop, rise_and_fade


def bigger(project, identity):
    return change_text(project, identity, size=200.0)


@pytest.fixture
def project():
    return project_of(
        title(
            "One", id="one", name="One", look=Look(parts=(Fill(id="f1"), Outline(id="o1"), Outline(id="o2")))
        ),
        title("Two", id="two", name="Two", look=Look(parts=(Glow(id="g2"), Outline(id="o3"), Fill(id="f2")))),
        ShapeClip(id="box", name="Box", length=30),
    )


def locked(project, number):
    tracks = list(project.sequence.tracks)
    tracks[number] = replace(tracks[number], locked=True)
    return with_sequence(project, replace(project.sequence, tracks=tuple(tracks)))


def test_each_that_can_take_part_changes_and_the_others_are_named(project):
    left = Left()
    made = edited_each(project, ["one", "box", "two"], bigger, left)
    assert [clip_of(made, name).text.size for name in ("one", "two")] == [200.0, 200.0]
    assert clip_of(made, "box") is clip_of(project, "box")
    assert left.names == ["Box"]
    assert left.said().splitlines()[-1] == "Left as it was: Box."
    assert "text" in left.said().splitlines()[0] or "words" in left.said().splitlines()[0]


def test_a_locked_one_is_left_and_all_locked_are_refused(project):
    left = Left()
    shut = locked(project, 0)
    made = edited_each(shut, ["one", "two"], bigger, left)
    assert (left.names, clip_of(made, "two").text.size) == (["One"], 200.0)
    with pytest.raises(RovixError, match="locked"):
        edited_each(locked(shut, 1), ["one", "two"], bigger, left)


def test_what_stayed_is_counted_where_it_is_much():
    left = Left([f"Box {n}" for n in range(9)], "Is no text.")
    assert left.said() == "Is no text.\nLeft as it was: Box 0, Box 1, Box 2, Box 3 and 5 more."
    assert Left().said() == ""


def test_a_part_stands_for_that_of_its_kind_and_number(project):
    one, two = clip_of(project, "one"), clip_of(project, "two")
    assert counterpart(one, "look.parts", "f1", two) == "f2"
    assert counterpart(one, "look.parts", "o1", two) == "o3"
    assert counterpart(one, "look.parts", "o2", one) == "o2", "in its own clip it is itself"
    with pytest.raises(RovixError, match="'Two' has no such outline"):
        counterpart(one, "look.parts", "o2", two)
    assert address_on(one, "look.parts.f1.paint.colour", two) == "look.parts.f2.paint.colour"
    assert address_on(one, "transform.x", two) == "transform.x"
    assert items_at(clip_of(project, "box"), "look.parts") == ()


def test_a_move_stands_for_that_of_its_role():
    project = project_of(
        title("One", id="one", moves=[pop(), rise_and_fade("exit")]),
        title("Two", id="two", moves=[rise_and_fade("exit")]),
    )
    one, two = clip_of(project, "one"), clip_of(project, "two")
    assert counterpart(one, "moves", one.moves[1].id, two) == two.moves[0].id
    with pytest.raises(RovixError, match="no such entrance"):
        counterpart(one, "moves", one.moves[0].id, two)
