import pytest
from hypothesis import given
from hypothesis import strategies as st

from builders import look_of, project_of, title
from rovix.edit import History, clip_by_id
from rovix.edit.look import (
    KINDS,
    add_part,
    change_part,
    move_part,
    remove_part,
    scaled_look,
    set_look,
)
from rovix.edit.paints import refilled
from rovix.errors import RovixError
from rovix.formats import read_project, write_project
from rovix.model import BackgroundClip, Linear, Look, Outline
from rovix.model.consistency import inconsistencies


def one(look=None):
    return project_of(title("Kite", look=look or look_of("#ffffff")))


def look(project):
    return clip_by_id(project, "title").look


def kinds(project):
    return [type(part).__struct_config__.tag for part in look(project).parts]


def with_every_part():
    project = one()
    for kind in KINDS:
        project = add_part(project, "title", kind)
    return project


def test_new_parts_go_where_their_kind_belongs():
    project = one()
    for kind in ("box", "glow", "outline", "long-shadow", "shadow", "outline"):
        project = add_part(project, "title", kind)
    assert kinds(project) == ["fill", "outline", "outline", "glow", "shadow", "long-shadow", "box"]
    assert [outline.width for outline in look(project).outlines] == [6.0, 12.0], "the next ring lies outside"


@pytest.mark.parametrize("kind", KINDS)
def test_every_part_is_saved_read_copied_and_undone(kind, tmp_path):
    history = History(one())
    history.do("Add", add_part(history.project, "title", kind))
    made = look(history.project)
    write_project(tmp_path / "a.rovix", history.project)
    assert read_project(tmp_path / "a.rovix") == history.project
    pasted = set_look(project_of(title("Kite", look=made), title("Day", id="other")), "other", made)
    copy = clip_by_id(pasted, "other").look
    assert [type(part) for part in copy.parts] == [type(part) for part in made.parts]
    assert not {part.id for part in copy.parts} & {part.id for part in made.parts}
    assert inconsistencies(pasted) == []
    history.undo()
    assert look(history.project) == look(one())


def test_an_outline_put_inside_is_seen_and_comes_back_under_the_fill():
    project = add_part(one(), "title", "outline")
    outline = look(project).outlines[0].id
    project = change_part(project, "title", outline, side="inside")
    assert kinds(project) == ["outline", "fill"]
    assert kinds(change_part(project, "title", outline, side="outside")) == ["fill", "outline"]


@given(st.lists(st.tuples(st.integers(0, 5), st.integers(-2, 9)), max_size=8))
def test_parts_can_stand_in_any_order_and_none_is_lost(moves):
    project = with_every_part()
    ids = sorted(part.id for part in look(project).parts)
    for number, to in moves:
        part = look(project).parts[number].id
        project = move_part(project, "title", part, to)
        assert look(project).parts[min(max(0, to), 6)].id == part
    assert sorted(part.id for part in look(project).parts) == ids


def test_parts_go_and_unknown_ones_are_named():
    project = with_every_part()
    part = look(project).parts[0].id
    assert part not in [other.id for other in look(remove_part(project, "title", part)).parts]
    with pytest.raises(RovixError, match="no part 'gone'"):
        change_part(project, "title", "gone", opacity=0.5)
    with pytest.raises(RovixError, match="no text layer"):
        add_part(project_of(BackgroundClip(id="g", length=9)), "g", "glow")


def test_a_look_goes_along_with_the_size_of_the_words():
    made = look(with_every_part())
    half = scaled_look(made, 0.5)
    widths = [(a.width, b.width) for a, b in zip(made.outlines, half.outlines, strict=True)]
    assert all(b == a / 2 for a, b in widths)
    assert scaled_look(scaled_look(made, 4.0), 0.25) == made
    assert scaled_look(Look(parts=(Outline(id="o", width=1500.0),)), 9.0).outlines[0].width == 2000, (
        "within limits"
    )
    on_small = set_look(project_of(title("Kite", text={"size": 60.0})), "title", made, size=120.0)
    assert look(on_small).outlines[0].width == made.outlines[0].width / 2


def test_a_fill_keeps_its_colour_when_it_becomes_a_gradient():
    project = one(look_of("#102030"))
    fill = look(project).fill
    project = change_part(project, "title", fill.id, paint=refilled(fill.paint, "linear"))
    assert isinstance(look(project).fill.paint, Linear)
    assert look(project).fill.paint.stops[0].colour == "#102030", "the colour passes on"
