"""What goes beyond the limits is one sentence, however far beyond; up to them it is read and described."""

import json
from pathlib import Path

import msgspec
import pytest

from builders import project_of, title
from rovix.formats.project_file import ProjectFileError, parse_project, project_bytes
from rovix.model import GroupClip, Project, Sequence, SequenceClip, Track
from rovix.model.consistency import inconsistencies
from rovix.model.limits import DEEPEST, MOST_CLIPS
from rovix.motion import describe

replace = msgspec.structs.replace


def said(project):
    return [str(problem) for problem in inconsistencies(project)]


def nested(depth: int) -> Project:
    clip = title(id="words", length=30)
    for number in range(depth):
        clip = GroupClip(id=f"g{number}", length=30, tracks=(Track(id=f"t{number}", clips=(clip,)),))
    return project_of(clip)


def chain(count: int) -> Project:
    return project_of(*(title(id=str(n), parent=str(n - 1) if n else None, length=30) for n in range(count)))


def doubling(depth: int, uses: int = 2) -> Project:
    """Sequences each shown so many times by the next."""
    first = Sequence(id="q0", tracks=(Track(id="q0t", clips=(title(id="q0c", length=30),)),))
    made = [first]
    for n in range(1, depth):
        tracks = tuple(
            Track(id=f"q{n}t{u}", clips=(SequenceClip(id=f"q{n}c{u}", sequence=f"q{n - 1}", length=30),))
            for u in range(uses)
        )
        made.append(Sequence(id=f"q{n}", tracks=tracks))
    return Project(id="p", sequences=tuple(reversed(made)))


def test_groups_and_chains_up_to_the_limit_are_described():
    for project in (nested(DEEPEST), chain(DEEPEST + 1), doubling(DEEPEST, 1)):
        assert said(project) == []
        assert parse_project(Path("a"), project_bytes(project)) == project
        assert describe(project, 10)["layers"]


@pytest.mark.parametrize(
    ("project", "text"),
    [
        (nested(DEEPEST + 1), "its groups stand 65 deep"),
        (chain(DEEPEST + 2), "follows through 65 layers"),
        (chain(2000), "follows through 1999 layers"),
        (doubling(DEEPEST + 2, 1), "more than 64 deep"),
        (doubling(20), "it shows 1572862 clips"),
        (project_of(*(title(id=f"c{n}") for n in range(MOST_CLIPS + 1))), f"it has {MOST_CLIPS + 1} clips"),
    ],
    ids=["groups", "chain", "long chain", "sequences", "doubling", "clips"],
)
def test_beyond_a_limit_it_is_one_sentence(project, text):
    assert any(text in problem for problem in said(project))


def test_sequences_in_a_circle_are_named_as_such():
    inner = Sequence(id="b", name="B", tracks=(Track(id="bt", clips=(SequenceClip(id="bc", sequence="a"),)),))
    outer = Sequence(id="a", name="A", tracks=(Track(id="at", clips=(SequenceClip(id="ac", sequence="b"),)),))
    assert any("would show itself" in problem for problem in said(Project(id="p", sequences=(outer, inner))))


@pytest.mark.parametrize("depth", [100, 400, 5000])
def test_a_file_nested_too_deeply_is_a_sentence(depth):
    inner = '{"kind": "group", "id": "g%d", "length": 5, "tracks": [{"id": "t%d", "clips": ['
    groups = "".join(inner % (n, n) for n in range(depth)) + "]}]}" * depth
    head = json.loads(project_bytes(project_of()))
    head["sequences"][0]["tracks"] = [{"id": "top", "clips": ["HERE"]}]
    content = json.dumps(head).replace('"HERE"', groups).encode()
    with pytest.raises(ProjectFileError, match="deep"):
        parse_project(Path("a.rovix"), content)


def test_outlines_that_are_no_list_in_a_file_of_version_1_do_no_harm():
    data = json.loads(project_bytes(project_of(title())))
    data["version"] = 1
    data["sequences"][0]["tracks"][0]["clips"][0]["look"] = {"outlines": 1}
    clip = parse_project(Path("a.rovix"), json.dumps(data).encode()).sequence.tracks[0].clips[0]
    assert clip.look.extra == {"outlines": 1}, "what it does not know it keeps"
