"""What a clip has under a head of the sheet, given to another or put back."""

import pytest

from builders import project_of, title
from rovix.desktop.clip_views import CLIP_VIEWS
from rovix.edit.attributes import FIELDS, attributes_of, give_attributes, reset_attributes
from rovix.edit.keys import all_keys
from rovix.edit.tree import clip_of, replace, replace_clip
from rovix.errors import RovixError
from rovix.model import (
    Amount,
    Departure,
    Fill,
    Key,
    Keys,
    Look,
    Move,
    Outline,
    ShapeClip,
    SoundClip,
    Text,
    Transform,
)
from rovix.model.consistency import inconsistencies
from rovix.model.effects.wipe import Follow, Wipe
from rovix.model.text import OwnStyle

SOURCE = title(
    "Larkmoor", id="one", name="One", length=80,
    text={"size": 200.0, "family": "Oswald", "tracking": 0.1},
    look=Look(parts=(Fill(id="f"), Outline(id="o", width=10.0))),
    transform=Transform(x=Keys(keys=(Key(frame=0, value=5.0), Key(frame=9, value=50.0)))), blend="screen",
    moves=[Move(id="m", role="entrance", channels=(
        Departure(channel="y", amount=Amount(value=100.0, unit="px")),
        Departure(channel="x", amount=Amount(value=0.5, unit="frame")),
        Departure(channel="rotation_z", amount=Amount(value=90.0, unit="px")),
    ))],
    effects=(Wipe(id="w", share=0.4, follows=Follow(layer="box")),),
)  # fmt: skip


@pytest.fixture
def project():
    two = title("Kite day", id="two", name="Two", start=20, length=50, text={"size": 50.0})
    two = replace(two, text=replace(two.text, styles=(OwnStyle(start=0, end=4, italic=True),)))
    return project_of(SOURCE, two, ShapeClip(id="box", name="Box", length=30))


def given(project, identity, *names, share=None):
    made = give_attributes(project, identity, clip_of(project, "one"), names, share)
    assert inconsistencies(made) == []
    return clip_of(made, identity)


def test_every_head_has_its_fields_and_no_field_two(project):
    assert set(FIELDS) == {name for view in CLIP_VIEWS.values() for name in view.pages}
    fields = [field for own in FIELDS.values() for field in own]
    assert len(fields) == len(set(fields))
    structs = {field for kind in CLIP_VIEWS for field in kind.__struct_fields__}
    kept = {"id", "name", "start", "length", "extra", "parent", "transition", "media", "offset", "playing", "tracks",
            "sequence", "fits", "confidence", "seen_in", "grows", "turns", "made_of"}  # fmt: skip
    assert structs == set(fields) | kept, "what a clip has goes with a head, or is its own"
    for clip in project.sequence.tracks[2].clips:
        assert attributes_of(clip) == ("Shape", "Transform", "Motion", "Effects", "Clip")


def test_the_style_of_words_goes_on_and_the_words_stay(project):
    made = given(project, "two", "Text")
    assert (made.text.size, made.text.family, made.text.tracking) == (200.0, "Oswald", 0.1)
    assert (made.text.content, made.text.styles) == ("Kite day", clip_of(project, "two").text.styles)
    assert made.look == clip_of(project, "two").look


def test_px_of_looks_and_moves_go_with_the_words_size_or_stay(project):
    scaled, same = given(project, "two", "Look", "Motion"), given(project, "two", "Look", "Motion", share=1.0)
    assert [made.look.outlines[0].width for made in (scaled, same)] == [2.5, 10.0]
    amounts = [[d.amount.value for d in made.moves[0].channels] for made in (scaled, same)]
    assert amounts == [[25.0, 0.5, 90.0], [100.0, 0.5, 90.0]], "shares and turns stay"
    together = given(project, "two", "Text", "Look")
    assert together.look.outlines[0].width == 10.0, "with the text its size comes, too"


def test_what_is_given_has_ids_of_its_own_and_keys_at_the_same_frames(project):
    made = given(project, "two", "Look", "Motion", "Effects", "Transform")
    assert not {part.id for part in made.look.parts} & {"f", "o"}
    assert made.moves[0].id != "m"
    assert made.effects[0].id != "w"
    assert all_keys(made)["transform.x"] == (0, 9)
    assert made.blend == "screen"
    assert (made.start, made.length, made.name) == (20, 50, "Two")


def test_ties_stay_where_their_layer_is_here(project):
    assert given(project, "two", "Effects").effects[0].follows.layer == "box"
    gone = project_of(clip_of(project, "two"))
    made = clip_of(give_attributes(gone, "two", clip_of(project, "one"), ("Effects",)), "two")
    assert made.effects[0].follows is None
    assert made.effects[0].share == 0.4


def test_a_clip_takes_what_it_has_and_refuses_what_it_has_not(project):
    made = given(project, "box", "Text", "Look", "Effects")
    assert (made.effects[0].share, made.form) == (0.4, "box")
    with pytest.raises(RovixError, match="'Box' has nothing of that kind"):
        given(project, "box", "Text", "Look")
    sound = SoundClip(id="hum", media="m", length=30)
    assert attributes_of(sound) == ("Sound",)


@pytest.mark.parametrize("name", FIELDS)
def test_a_head_is_put_back_to_what_a_new_one_has(project, name):
    identity = "box" if name == "Shape" else "one"
    changed = replace_clip(project, "box", lambda clip: replace(clip, form="ellipse", width=10.0))
    made, before = clip_of(reset_attributes(changed, identity, (name,)), identity), clip_of(changed, identity)
    if name == "Text":
        assert made.text == replace(Text(), content="Larkmoor")
    elif name == "Shape":
        assert (made.form, made.width) == ("box", 600.0)
    elif name == "Transform":
        assert (made.transform, made.blend) == (Transform(), "normal")
    elif name in ("Motion", "Effects"):
        assert getattr(made, FIELDS[name][0]) == ()
    elif name == "Look":
        assert [type(part) for part in made.look.parts] == [type(part) for part in Look().parts]
    others = {field for own in FIELDS for field in FIELDS[own] if own != name}
    assert all(getattr(made, field) == getattr(before, field) for field in others if hasattr(made, field))
