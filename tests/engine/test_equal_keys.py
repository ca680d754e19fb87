"""Equal keys mean equal pixels, over random edits: what a picture depends on is all that it shows."""

import random
from pathlib import Path

import msgspec
import numpy as np
import pytest

from rovix.engine.open_project import OpenProject
from rovix.model.consistency import inconsistencies
from rovix.model.structure import field_types
from rovix.model.values import Unkeepable, keepable
from rovix.motion.dependencies import PictureDependencies
from tied_project import tied_project
from tree_changes import nodes_in, with_value

SIZE = (64, 36)
FRAMES = (0, 12, 27, 46, 55)
replace = msgspec.structs.replace
_NOT_HERE = {"id", "media", "path", "digest", "rate", "text", "family", "tag"}


def leaves(project):
    """The way to every number and mark in a tree, its field, and what it is."""
    for way, node in nodes_in(project):
        for field in field_types(type(node)):
            held = getattr(node, field.name)
            if isinstance(held, bool | int | float) and field.name not in _NOT_HERE:
                yield way, field.name, held


def edited(project, drawn):
    """The project with one number or mark changed; None where that is no sound project."""
    way, field, held = drawn.choice(list(leaves(project)))
    if isinstance(held, bool):
        new = not held
    else:
        new = (
            type(held)(held + drawn.choice([-30, -1, 1, 7, 30]))
            if drawn.random() < 0.7
            else type(held)(held * 0.5)
        )
    try:
        made = keepable(with_value(project, way, field, new), project)
    except Unkeepable:
        return None
    return None if inconsistencies(made) else made


def pixels(project, frame):
    with OpenProject(project, Path("/nowhere")) as opened:
        return opened.picture(frame, SIZE)


def without_files(project):
    """Without what shows files, which are not here."""
    first = project.sequence
    tracks = tuple(track for track in first.tracks if track.id not in ("films", "sounds"))
    quiet = tuple(
        replace(t, clips=tuple(replace(c, moves=()) if c.id == "kite" else c for c in t.clips))
        for t in tracks
    )
    return replace(project, sequences=(replace(first, tracks=quiet), *project.sequences[1:]), media=())


@pytest.mark.parametrize("seed", range(3))
def test_pictures_of_equal_keys_are_equal(seed):
    drawn, seen, met = random.Random(seed), {}, 0
    project = without_files(tied_project())
    assert inconsistencies(project) == []
    for _ in range(25):
        project = edited(project, drawn) or project
        depends = PictureDependencies(project)
        for frame in FRAMES:
            key = (frame, depends.at(frame))
            picture = pixels(project, frame)
            if key in seen:
                met += 1
                assert np.array_equal(seen[key], picture), (frame, seed)
            seen[key] = picture
    assert met > 10, "some edits touch other frames only"
