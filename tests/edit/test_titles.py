"""Titles: made of layers with what is between them, filled, put into other sequences."""

import pytest
from msgspec.structs import replace

from builders import look_of, project_of, title
from rovix.edit import clip_by_id
from rovix.edit.titles import filled, made_title, put_title, updated
from rovix.errors import RovixError
from rovix.formats.title_file import TITLES, SavedTitle
from rovix.model import (
    BackgroundClip,
    Fill,
    Fits,
    GroupClip,
    Look,
    Media,
    Plain,
    Project,
    Sequence,
    ShapeClip,
    StillClip,
    Track,
    Transform,
)
from rovix.model.consistency import inconsistencies
from rovix.model.on_track import every_clip
from rovix.model.title import Bend, Setting
from rovix.motion import Scene
from rovix.motion.ready_moves import pop, rise_and_fade
from rovix.motion.subject import ink_box, subject_of


@pytest.fixture
def project():
    name = title(
        "Ada", 90, id="name", name="Name", look=look_of("#ffeecc"), moves=[pop(), rise_and_fade("exit")]
    )
    other = Look(parts=(Fill(id="other", paint=Plain(colour="#ffeecc")),))
    role = title("Pilot", 60, id="role", start=20, text={"size": 40.0}, look=other)
    box = ShapeClip(id="box", length=90, fits=Fits(layer="name"), fill=Plain(colour="#224466"))
    logo = StillClip(id="logo", media="m", length=90)
    media = Media(id="m", path="logo.png", kind="still", digest="blake2b:1", width=10, height=10)
    return project_of(box, name, role, logo, media=(media,))


def made(project, tmp_path, *ids):
    return made_title(project, ids or ("box", "name", "role", "logo"), tmp_path, "Names")


def test_a_title_has_its_layers_ties_and_what_is_meant_to_be_set(project, tmp_path):
    found = made(project, tmp_path)
    clips = {clip.id: clip for track in found.sequence.tracks for clip in track.clips}
    assert clips["box"].fits.layer == "name"
    assert (found.sequence.size, found.sequence.length, found.group) == ((640, 360), 90, "Names")
    assert [(s.name, s.kind) for s in found.settings] == [
        ("Name", "words"), ("Pilot", "words"), ("Picture", "file"), ("Typeface", "family"),
        ("Colour", "colour"), ("Colour 2", "colour"),
    ]  # fmt: skip
    assert inconsistencies(found.project) == []
    with pytest.raises(RovixError, match="layers of the title"):
        made_title(Project(sequences=(Sequence(id="s"),)), (), tmp_path)


def test_words_grow_and_the_box_and_the_moves_go_along(project, tmp_path):
    found = made(project, tmp_path)
    long = filled(found, {"Name": "Ada Lovelace of Larkmoor and Hill, Esq.", "Pilot": "Flies"})
    widths = []
    for own in (found, long):
        scene = Scene.of(own.project)
        box, words = (clip_by_id(own.project, name) for name in ("box", "name"))
        block = scene.motion(box).subject.block
        ink = ink_box(scene.motion(words).subject)
        assert block[2] - block[0] > ink[2] - ink[0]
        widths.append(block[2] - block[0])
    # In a frame of 640 px: no wider than 84 % of it, the box's margins of 40 px around it.
    assert 3 * widths[0] > widths[1] > 1.5 * widths[0]
    assert widths[1] <= 0.84 * 640 + 80 + 1
    assert clip_by_id(long.project, "role").text.content == "Flies"
    assert clip_by_id(long.project, "name").moves == clip_by_id(found.project, "name").moves


def test_a_length_a_colour_a_family_and_a_file_are_set(project, tmp_path):
    found = made(project, tmp_path)
    other = Media(id="x", path="other.png", kind="still", digest="blake2b:2", width=5, height=5)
    values = {"length": "5", "Colour": "#112233", "Typeface": "Oswald", "Picture": "other.png"}
    done = filled(found, values, lambda path: other)
    clips = {clip.id: clip for track in done.sequence.tracks for clip in track.clips}
    assert [clips[n].length for n in ("box", "name", "role", "logo")] == [150, 150, 60, 150]
    assert clips["name"].text.family == clips["role"].text.family == "Oswald"
    was = {s.name: s.now for s in found.settings}["Colour"]
    changed = clips["name"].look.parts[0].paint.colour if was == "#ffeecc" else clips["box"].fill.colour
    assert changed == "#112233"
    assert clips["logo"].media == "x"
    assert inconsistencies(done.project) == []


@pytest.mark.parametrize(
    ("values", "why"),
    [({"Nam": "x"}, "nothing called 'Nam'"), ({"length": "long"}, "no length"), ({"length": "0"}, "cannot be made"),
     ({"length": "0.5"}, "begins only there"), ({"Colour": "red"}, "write #rrggbb"), ({"Picture": "a.png"}, "No file")],
)  # fmt: skip
def test_what_cannot_be_set_is_refused_with_the_reason(project, tmp_path, values, why):
    with pytest.raises(RovixError, match=why):
        filled(made(project, tmp_path), values)


def test_a_title_is_put_into_another_sequence_as_one_group_and_twice(project, tmp_path):
    found = made(project, tmp_path)
    other = Project(id="o", sequences=(Sequence(id="s", size=(1280, 720), rate="30"),))
    once, first = put_title(other, "Names", found, 30)
    twice, second = put_title(once, "Names", found, 200)
    assert inconsistencies(twice) == []
    groups = [clip_by_id(twice, identity) for identity in (first, second)]
    assert all(isinstance(group, GroupClip) for group in groups)
    assert [(g.start, g.length, g.transform.scale_x) for g in groups] == [(30, 90, 2.0), (200, 90, 2.0)]
    assert len(twice.media) == 1
    ids = [clip.id for group in groups for track in group.tracks for clip in track.clips]
    assert len(set(ids)) == len(ids)
    on = put_title(twice, "Names", found, 400, 0)[0]
    assert len(on.sequence.tracks[0].clips) == 2


def test_titles_are_files_that_are_checked(project, tmp_path):
    saved = SavedTitle("Names", made(project, tmp_path))
    TITLES.write(tmp_path / "names.json", saved)
    assert TITLES.read(tmp_path / "names.json") == saved
    twice = replace(saved.title, settings=(*saved.title.settings, Setting(name="Name", layers=("name",))))
    gone = replace(saved.title, settings=(Setting(name="Words", layers=("nobody",)),))
    for wrong, why in ((twice, "also that of another"), (gone, "no layer with the id 'nobody'")):
        TITLES.write(tmp_path / "wrong.json", SavedTitle("Wrong", wrong))
        with pytest.raises(RovixError, match=why):
            TITLES.read(tmp_path / "wrong.json")


def test_words_and_pictures_within_groups_are_set_too(project, tmp_path):
    inner = title("Within", 40, id="within", name="Within")
    group = GroupClip(
        id="group", name="Group", length=90, tracks=(Track(id="own", clips=(inner,), locked=True),)
    )
    whole = project_of(group, title("Outside", 90, id="out", name="Outside"))
    found = made_title(whole, ("group", "out"), tmp_path)
    assert [s.name for s in found.settings if s.kind == "words"] == ["Within", "Outside"]
    TITLES.write(tmp_path / "g.json", SavedTitle("G", found))
    assert TITLES.read(tmp_path / "g.json").title == found
    done = filled(found, {"Within": "Said", "Typeface": "Oswald"})
    clips = {c.id: c for c in every_clip(done.sequence.tracks)}
    assert clips["within"].text.content == "Said"
    assert {clips[n].text.family for n in ("within", "out")} == {"Oswald"}
    other = Project(id="o", sequences=(Sequence(id="s", size=(640, 360), rate="30"),))
    put, identity = put_title(other, "G", done, 0)
    longer = replace(found, version=2, sequence=replace(found.sequence, background="#000000"))
    again = updated(put, identity, longer)
    said = [c.text.content for c in every_clip(clip_by_id(again, identity).tracks) if hasattr(c, "text")]
    assert said == ["Said", "Outside"]


def test_titles_bend_by_what_their_file_says(project, tmp_path):
    top = title("Name", 90, id="top", text={"size": 40.0}, transform=Transform(y=-120.0))
    under = title("Role", 90, id="under", text={"size": 20.0}, transform=Transform(y=-80.0))
    found = made_title(project_of(top, under), ("top", "under"), tmp_path)
    assert [(b.layer, b.down, b.under) for b in found.bends] == [("top", "top", ""), ("under", "top", "top")]
    long = filled(found, {"Name": "A name that goes on and on and does not fit"})
    clips = {c.id: c for c in every_clip(long.sequence.tracks)}
    boxes = {n: subject_of(clips[n], (1, 1)).block for n in clips}
    assert boxes["top"][3] - boxes["top"][1] > 40  # two lines
    assert clips["top"].transform.y + boxes["top"][1] == pytest.approx(
        -120 + subject_of(top, (1, 1)).block[1]
    )
    gap = clips["under"].transform.y + boxes["under"][1] - clips["top"].transform.y - boxes["top"][3]
    was = -80 + subject_of(under, (1, 1)).block[1] + 120 - subject_of(top, (1, 1)).block[3]
    assert gap == pytest.approx(was)
    assert filled(found, {}) == found
    upright = filled(found, {}, like=(360, 640))
    assert upright.sequence.size == (360, 640)
    assert clip_by_id(upright.project, "top").transform.y == pytest.approx(
        (-120 + subject_of(top, (1, 1)).block[1]) * 640 / 360 - subject_of(top, (1, 1)).block[1]
    )


@pytest.mark.parametrize(
    ("bends", "why"),
    [
        ((Bend(layer="nobody"),), "no layer with the id 'nobody'"),
        ((Bend(layer="name", under="role"), Bend(layer="role", under="name")), "under itself"),
    ],
)
def test_bends_are_checked(project, tmp_path, bends, why):
    saved = SavedTitle("Names", replace(made(project, tmp_path), bends=bends))
    TITLES.write(tmp_path / "wrong.json", saved)
    with pytest.raises(RovixError, match=why):
        TITLES.read(tmp_path / "wrong.json")
    filled(saved.title, {"Name": "Whoever reads it, it does not hang"})


def test_a_ground_fills_the_frame_whatever_the_group_is_scaled_by(project, tmp_path):
    ground = BackgroundClip(id="ground", length=90, background=Plain(colour="#ff0000"))
    words = title("Name", 90, id="name")
    found = made_title(project_of(ground, words), ("ground", "name"), tmp_path)
    other = Project(id="o", sequences=(Sequence(id="s", size=(320, 180), rate="30"),))
    put, identity = put_title(other, "G", found, 0)
    group = clip_by_id(put, identity)
    assert group.transform.scale_x == 0.5
    inside = next(c for c in every_clip(group.tracks) if isinstance(c, BackgroundClip))
    assert inside.transform.scale_x == pytest.approx(2.0)


@pytest.mark.parametrize(
    "words", ["", " " * 400, "\n\n", "W" * 300, "a " * 200, "שלום עולם " * 20, "🙂" * 80, "1\t2"]
)
def test_whatever_words_there_are_they_are_fitted_or_as_small_as_words_get(project, tmp_path, words):
    found = made(project, tmp_path)
    done = filled(found, {"Name": words}, like=(360, 640))
    text = clip_by_id(done.project, "name").text
    assert text.content == words
    assert text.size >= 0.25 * 0.9 * clip_by_id(found.project, "name").text.size or len(words.split()) <= 1
    assert inconsistencies(done.project) == []
