"""What keeps a layer from rolling over words is said, and undone words rest as they did."""

import pytest

from builders import project_of, title
from rovix.edit.carried_reveal import carry_reveal
from rovix.edit.tree import clip_of
from rovix.errors import RovixError
from rovix.model import Key, Keys, ShapeClip, Transform

SLIDING = Keys(keys=(Key(frame=0, value=0.0), Key(frame=9, value=5.0)))


def wheel(**fields):
    own = {"id": "wheel", "length": 120} | fields
    return ShapeClip(form="ellipse", width=40.0, height=40.0, **own)


def test_it_may_be_tilted_and_small_and_rests_as_it_did_but_for_its_place():
    place = Transform(rotation_z=12.0, scale_x=0.5, scale_y=0.5)
    made = carry_reveal(project_of(title("Kites", 120), wheel(transform=place)), "title", "wheel")
    got = clip_of(made, "wheel").transform
    assert got.rotation_z.keys[-1].value == got.rotation_z.keys[0].value == 12.0
    assert got.scale_x.keys[-1].value == 0.5
    assert got.scale_x.keys[0].value == 1.5


@pytest.mark.parametrize(("words", "fields", "said"), [
    (title("Kites", 30), {}, "together for"),
    (title("Kites", 120), {"start": 5}, "together for"),
    (title("Kites", 120), {"transform": Transform(x=SLIDING)}, "has keys already"),
    (title("Kites", 120), {"parent": "title"}, "follows another"),
    (wheel(id="title"), {}, "Select words"),
])  # fmt: skip
def test_what_cannot_be_is_said(words, fields, said):
    project = project_of(words, wheel(**fields))
    with pytest.raises(RovixError, match=said):
        carry_reveal(project, "title", "wheel")
