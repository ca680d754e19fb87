"""References are a type: what names what is known from the types alone."""

import ast
from pathlib import Path

import msgspec
import pytest

import rovix.edit
from builders import project_of, title
from rovix.edit.clips import remove_clip
from rovix.edit.fresh import fresh_ids
from rovix.edit.groups import group_clips, ungroup
from rovix.edit.media_list import used_media
from rovix.edit.paste import copied, pasted
from rovix.edit.selected_clips import duplicate_clips
from rovix.edit.ties import freed
from rovix.errors import RovixError
from rovix.model import (
    Fits,
    FootageClip,
    GroupClip,
    Media,
    Move,
    PieceSound,
    Project,
    Sequence,
    SequenceClip,
    ShapeClip,
    SoundClip,
    SpeedSound,
    Track,
)
from rovix.model.consistency import following_depths, inconsistencies
from rovix.model.effects.reveal_box import RevealBox
from rovix.model.effects.wipe import Follow, Wipe
from rovix.model.references import let_go, references, renamed, targets
from rovix.model.structure import field_types, reference_fields
from tree_changes import every_struct

replace = msgspec.structs.replace
ROOT = Path("/")
KNOCK = Media(id="knocks", path="knock.flac", kind="sound", length=1.0, digest="blake2b:" + "0" * 32, bytes=9)


def riding(identity, layer, **fields):
    return title(
        identity, id=identity, effects=(Wipe(id=f"{identity}-w", follows=Follow(layer=layer)),), **fields
    )


def tied() -> Project:
    """A title that another follows, a box that fits it, and a wipe whose edge goes by it."""
    return project_of(
        title("Hill", id="hill"),
        title("Wind", id="wind", parent="hill"),
        ShapeClip(id="box", length=60, fits=Fits(layer="hill")),
        riding("ride", "hill"),
    )


def test_no_id_in_a_field_is_left_without_saying_what_it_names():
    """Text of an id's form is the struct's own id, or a reference: nothing between."""
    loose = [
        f"{struct.__name__}.{field.name}"
        for struct in every_struct()
        for field in field_types(struct)
        if field.name != "id"
        and "max_length=64" in repr(field.type)
        and "StructType" not in repr(field.type)
        and field.name not in {known.name for known in reference_fields(struct)}
    ]
    assert loose == []


def test_the_kinds_of_reference_that_a_project_has_are_found():
    found = {
        (struct.__name__, field.name, field.reference.kind)
        for struct in every_struct()
        for field in reference_fields(struct)
    }
    assert {
        ("Follow", "layer", "layer"),
        ("Fits", "layer", "layer"),
        ("TextClip", "parent", "layer"),
        ("FootageClip", "media", "media"),
        ("PieceSound", "sound", "media"),
        ("SpeedSound", "sound", "media"),
        ("SequenceClip", "sequence", "sequence"),
        ("Track", "home", "track"),
    } <= found


def test_nothing_in_edit_names_a_field_that_holds_a_reference():
    """But for where its own feature is edited: files by which they are listed, layers by their boxes."""
    own = {
        "following.py": {"parent"}, "effects.py": {"follows"}, "shapes.py": {"fits"}, "groups.py": {"home"},
        "behind.py": {"parent"}, "title_fit.py": {"parent", "fits"}, "titles.py": {"media"},
    }  # fmt: skip
    names = {field.name for struct in every_struct() for field in reference_fields(struct)} | {
        "fits",
        "follows",
    }
    # Of every project there is a first sequence, of every state a layer: those are no references.
    names -= {"sequence", "layer"}
    for path in Path(rovix.edit.__file__).parent.glob("*.py"):
        tree = ast.parse(path.read_text(encoding="utf-8"))
        said = {
            node.attr
            for node in ast.walk(tree)
            if isinstance(node, ast.Attribute) and not (node.attr == "media" and _is_project(node.value))
        }
        assert said & names - {"sound"} <= own.get(path.name, set()), path.name


def _is_project(value: ast.expr) -> bool:
    return isinstance(value, ast.Name) and value.id in ("project", "source", "small", "title")


def test_each_reference_has_its_place_in_the_file():
    assert [(named.path, named.target) for named in references(tied())] == [
        ("$.sequences[0].tracks[1].clips[0].parent", "hill"),
        ("$.sequences[0].tracks[2].clips[0].fits.layer", "hill"),
        ("$.sequences[0].tracks[3].clips[0].effects[0].follows.layer", "hill"),
    ]


def test_copies_name_each_other_and_keep_names_of_others():
    clips = (title(id="a"), riding("b", "a"), title(id="c", parent="elsewhere"))
    first, second, third = fresh_ids(clips)
    assert len({first.id, second.id, third.id, "a", "b", "c"}) == 6
    assert targets(second, "layer") == [first.id]
    assert third.parent == "elsewhere"


def test_the_home_of_a_groups_tracks_goes_along_with_a_copy():
    home = Track(id="home")
    inner = Track(id="inner", home="home", clips=(title(id="t"),))
    sequence = Sequence(id="s", tracks=(home, Track(id="on", clips=(GroupClip(id="g", tracks=(inner,)),))))
    copy = fresh_ids(sequence)
    assert copy.tracks[1].clips[0].tracks[0].home == copy.tracks[0].id != "home"


def test_sounds_of_ours_are_no_references():
    move = Move(
        id="m", role="entrance", piece_sound=PieceSound(sound="key"), speed_sound=SpeedSound(sound="rush")
    )
    assert references(move) == []
    assert targets(replace(move, piece_sound=PieceSound(sound="knocks")), "media") == ["knocks"]


def test_what_is_named_and_goes_is_let_go_as_its_type_says():
    gone = lambda to, target: target in ("hill", "knocks", "film")  # noqa: E731
    _, wind, box, ride = (track.clips[0] for track in let_go(tied(), gone).sequence.tracks)
    assert (wind.parent, box.fits) == (None, None)
    assert ride.effects[0].follows is None
    assert ride.effects[0].id == "ride-w"
    move = Move(
        id="m",
        role="entrance",
        piece_sound=PieceSound(sound="knocks", gain=-9.0),
        speed_sound=SpeedSound(sound="knocks"),
    )
    kept = let_go(move, gone)
    assert (kept.piece_sound, kept.speed_sound.sound) == (PieceSound(sound="key", gain=-9.0), "rush")
    # What cannot be without its file goes with it.
    tracks = (
        Track(
            id="t",
            clips=(FootageClip(id="f", media="film"), title(id="kept", start=5)),
        ),
    )
    assert [clip.id for clip in let_go(tracks, gone)[0].clips] == ["kept"]


def test_nothing_changes_where_nothing_is_named():
    project = tied()
    assert renamed(project, {"nobody": "somebody"}) is project
    assert let_go(project, lambda to, target: False) is project


@pytest.mark.parametrize("chosen", [["ride"], ["hill"], ["wind"], ["box"]])
def test_a_group_does_not_part_what_is_tied(chosen):
    with pytest.raises(RovixError, match="select both of them, or free it first"):
        group_clips(tied(), chosen)


def test_what_is_tied_goes_into_a_group_together_and_comes_out_again():
    project, group = group_clips(tied(), ["hill", "wind", "box", "ride"])
    assert inconsistencies(project) == []
    project, _ = ungroup(project, group)
    assert inconsistencies(project) == []
    assert len([*references(project, "layer")]) == 3


def test_a_group_that_a_wipe_goes_by_or_that_has_effects_is_not_taken_apart():
    inner = Track(id="inner", clips=(title(id="in"),))
    group = GroupClip(id="g", name="Sign", length=60, tracks=(inner,))
    with pytest.raises(RovixError, match="tied to a layer"):
        ungroup(project_of(group, riding("r", "g")), "g")
    with pytest.raises(RovixError, match="tied to a layer"):
        ungroup(
            project_of(title(id="other"), replace(group, effects=(Wipe(follows=Follow(layer="other")),))), "g"
        )
    # Effects of the group would be lost without a word.
    with pytest.raises(RovixError, match="effects"):
        ungroup(project_of(replace(group, effects=(RevealBox(top=3.0),))), "g")


def test_removing_what_is_named_frees_the_others_and_tells():
    before = tied()
    after = remove_clip(before, "hill")
    assert inconsistencies(after) == []
    assert [*references(after, "layer")] == []
    assert freed(before, after) == [
        "'Wind' no longer follows 'Hill', which is gone from these tracks.",
        "'box' no longer fits 'Hill', which is gone from these tracks.",
        "'ride' no longer follows 'Hill', which is gone from these tracks.",
    ]
    assert freed(before, before) == []


def test_pasting_calls_files_as_the_project_does_also_those_that_moves_sound_with():
    loud = title(id="t", moves=(Move(id="m", role="entrance", piece_sound=PieceSound(sound="knocks")),))
    inner = Track(id="inner", kind="sound", clips=(SoundClip(id="s", media="knocks"),))
    project = project_of(loud, GroupClip(id="g", length=9, tracks=(inner,)), media=(KNOCK,))
    small = copied(project, ["t", "g"], ROOT)
    assert used_media(small) == {"knocks": 2}
    other = project_of(title(id="x"), media=(replace(KNOCK, id="theirs"),))
    made, _ = pasted(other, small, 100, ROOT)
    assert inconsistencies(made) == []
    assert used_media(made) == {"theirs": 2}


def test_copying_one_of_two_tied_layers_lets_the_tie_go_and_duplicating_both_keeps_it():
    small = copied(tied(), ["ride", "wind"], ROOT)
    assert inconsistencies(small) == []
    assert [*references(small, "layer")] == []
    project, made = duplicate_clips(tied(), ["hill", "ride"])
    assert inconsistencies(project) == []
    copy = next(clip for track in project.sequence.tracks for clip in track.clips if clip.id == made[1])
    assert targets(copy, "layer") == [made[0]]


def test_a_file_says_what_it_names_that_is_not_there_or_of_another_kind():
    silent = Media(id="reel", path="reel.mp4", kind="footage")
    loud = title(id="t", moves=(Move(id="m", role="entrance", piece_sound=PieceSound(sound="reel")),))
    sequence = SequenceClip(id="q", sequence="nowhere", length=5)
    said = [str(problem) for problem in inconsistencies(project_of(loud, sequence, media=(silent,)))]
    assert "$.sequences[0].tracks[0].clips[0].moves[0].piece_sound.sound: 'reel.mp4' has no sound" in said
    assert "$.sequences[0].tracks[1].clips[0].sequence: there is no sequence 'nowhere' to show" in said


def test_how_deep_layers_hang_on_each_other_is_counted_and_circles_are_without_end():
    chain = [title(id="0"), *(title(id=str(n), parent=str(n - 1)) for n in range(1, 5000))]
    depths = following_depths(reversed(chain))
    assert depths["0"] == 0
    assert depths["4999"] == 4999
    circle = [
        title(id="a", parent="c"),
        title(id="b", parent="a"),
        title(id="c", parent="b"),
        title(id="d", parent="c"),
    ]
    assert set(following_depths(circle).values()) == {float("inf")}
