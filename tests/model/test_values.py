"""Numbers are finite and within limits, texts are text: on every way in, and so what is accepted is kept."""

import math
import os
from pathlib import Path

import msgspec
import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from msgspec import inspect

from builders import project_of, title
from rovix.demo import DEMO_PROJECT
from rovix.edit import History
from rovix.errors import RovixError
from rovix.formats import read_project, write_project
from rovix.formats.project_file import ProjectFileError, parse_project, project_bytes
from rovix.model import ContourKey, ContourKeys, Key, Keys, Media, Transform
from rovix.model.consistency import inconsistencies
from rovix.model.structure import field_types
from rovix.model.values import Unkeepable, keepable, mended_text, sound_part
from tree_changes import every_struct, nodes_in, with_value

replace = msgspec.structs.replace
NASTY = st.one_of(
    st.floats(),
    st.text(st.characters(), max_size=6),
    st.sampled_from(
        ["\ud800", "a\udfffb", "\ud83d\ude00", "\x00", "", math.inf, -math.inf, math.nan, 1e300, 10**30]
    ),
)


def parts_of(kind: inspect.Type):
    if isinstance(kind, inspect.UnionType):
        return [part for inner in kind.types for part in parts_of(inner)]
    if isinstance(kind, inspect.VarTupleType):
        return parts_of(kind.item_type)
    if isinstance(kind, inspect.TupleType):
        return [part for inner in kind.item_types for part in parts_of(inner)]
    return parts_of(kind.type) if isinstance(kind, inspect.Metadata) else [kind]


def every_field():
    for struct in every_struct():
        for field in field_types(struct):
            yield from ((struct.__name__, field.name, part) for part in parts_of(field.type))


def test_every_number_and_every_text_of_the_model_has_limits():
    """The types say it, so that the check on each way in needs no list of fields."""
    endless = [
        f"{struct}.{name}"
        for struct, name, kind in every_field()
        if isinstance(kind, inspect.FloatType | inspect.IntType)
        and ((kind.ge is None and kind.gt is None) or (kind.le is None and kind.lt is None))
    ]
    endless += [
        f"{struct}.{name}"
        for struct, name, kind in every_field()
        if isinstance(kind, inspect.StrType) and kind.max_length is None and kind.pattern is None
    ]
    assert endless == []


@pytest.mark.parametrize("value", [math.inf, -math.inf, math.nan, 1e300])
def test_a_number_that_no_file_can_hold_is_refused_where_it_comes_in(value):
    project = project_of(title())
    history = History(project)
    tall = replace(project.sequence.tracks[0].clips[0], transform=Transform(scale_y=value))
    bad = project_of(tall)
    with pytest.raises(Unkeepable, match="Nothing was changed"):
        history.do("Scale", bad)
    assert history.committed is project
    keyed = project_of(title(transform=Transform(x=Keys(id="k", keys=(Key(frame=0, value=value),)))))
    with pytest.raises(Unkeepable):
        history.do("Key", keyed)


def test_a_draft_without_end_is_refused_and_the_draft_before_stays():
    history = History(project_of(title()))
    draft = project_of(title(name="Draft"))
    history.try_on(draft)
    with pytest.raises(Unkeepable):
        history.try_on(project_of(title(transform=Transform(rotation_z=math.inf))))
    assert history.project is draft


def test_halves_of_characters_become_one_that_can_be_kept():
    assert mended_text("a\ud800b") == "a\ufffdb"
    assert mended_text("\ud83d\ude00") == "😀", "two halves that belong together are a character"
    assert mended_text("Kite day ✓") == "Kite day ✓"
    history = History(project_of(title()))
    history.do("Type", project_of(title("Kite\udc00", name="\ud800")))
    clip = history.committed.sequence.tracks[0].clips[0]
    assert (clip.text.content, clip.name) == ("Kite\ufffd", "\ufffd")


def test_what_did_not_change_is_the_very_same_and_not_looked_at_again():
    before = project_of(title(), title(id="other"))
    assert keepable(before, before) is before
    after = replace(before, name="New")
    assert keepable(after, before) is after
    assert keepable(after, before).sequence is before.sequence


def test_a_file_whose_name_is_no_text_comes_back_as_the_system_has_it(tmp_path):
    raw = os.fsdecode(b"kite-\xff\xfe.png")
    project = project_of(title(), media=(Media(id="m", path=f"bad-{raw}/{raw}", kind="still"),))
    assert History(project_of()).do("Import", project)
    path = tmp_path / "a.rovix"
    write_project(path, project)
    assert read_project(path) == project
    assert b"\\udcff" in path.read_bytes()
    assert project.media[0].title == "kite-??", "what is shown is text"


def test_unkeepable_work_made_without_a_history_is_refused_by_saving_with_a_sentence(tmp_path):
    path = tmp_path / "a.rovix"
    write_project(path, project_of(title()))
    good = path.read_bytes()
    for bad in (
        title(transform=Transform(x=math.inf)),
        title(transform=Transform(scale_x=1e300)),
        title(parent="nobody"),
    ):
        with pytest.raises(RovixError):
            write_project(path, project_of(bad))
        assert path.read_bytes() == good
    assert [other.name for other in tmp_path.iterdir()] == ["a.rovix"]


@pytest.mark.parametrize("number", ["1e999", "-1e999", "NaN", "Infinity"])
def test_a_file_with_a_number_without_end_is_named(number, tmp_path):
    content = project_bytes(project_of(title())).replace(b'"x": 0.0', f'"x": {number}'.encode())
    with pytest.raises(ProjectFileError, match="is no number that can be kept"):
        parse_project(Path("a.rovix"), content)


def test_half_characters_in_a_file_are_mended_when_it_is_read():
    content = project_bytes(project_of(title("Kite", name="Kite"))).replace(b'"Kite"', b'"Kite\\ud800"')
    clip = parse_project(Path("a.rovix"), content).sequence.tracks[0].clips[0]
    assert (clip.name, clip.text.content) == ("Kite\ufffd", "Kite\ufffd")


DEMO = read_project(DEMO_PROJECT)
# Every number and text of the demo: the way to its struct, and its field.
LEAVES = [
    (way, field.name)
    for way, node in nodes_in(DEMO)
    for field in field_types(type(node))
    if isinstance(getattr(node, field.name), str | float | int)
]


@settings(max_examples=150)
@given(leaf=st.sampled_from(LEAVES), value=NASTY)
@example(leaf=next(leaf for leaf in LEAVES if leaf[1] == "path"), value="\ud800")
def test_whatever_is_accepted_can_be_saved_and_opens_as_it_was(leaf, value):
    try:
        kept = keepable(with_value(DEMO, *leaf, value), DEMO)
    except Unkeepable:
        return
    content = project_bytes(kept)
    problems = inconsistencies(kept)
    if problems:
        with pytest.raises(ProjectFileError) as caught:
            parse_project(Path("a.rovix"), content)
        assert caught.value.problems == problems
    else:
        assert parse_project(Path("a.rovix"), content) == kept


@pytest.mark.parametrize("wrong", [math.inf, -math.inf, math.nan])
@pytest.mark.parametrize("at", [0, 77, 199])
def test_a_number_without_end_in_a_long_line_is_refused(wrong, at):
    points = [(float(n), 0.0, 0.0, 0.0, 0.0, 0.0) for n in range(200)]
    line = ContourKeys(keys=(ContourKey(frame=0, value=tuple(points)),))
    assert sound_part(line) is line
    points[at] = (1.0, 2.0, 0.0, wrong, 0.0, 0.0)
    with pytest.raises(Unkeepable):
        sound_part(ContourKeys(keys=(ContourKey(frame=0, value=tuple(points)),)))
