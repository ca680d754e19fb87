"""Equal dependencies mean equal pictures, and an edit of what a picture shows changes them."""

import msgspec
import pytest

from builders import project_of, title
from rovix.edit.tree import replace_clip, with_track
from rovix.media.mix import mix_dependencies
from rovix.model import (
    BackgroundClip,
    Fits,
    Media,
    Move,
    PieceSound,
    Project,
    Sequence,
    SequenceClip,
    ShapeClip,
    Shutter,
    StillClip,
    Transform,
)
from rovix.model.effects.wipe import Follow, Wipe
from rovix.motion.dependencies import PictureDependencies

replace = msgspec.structs.replace


def depends(project, frame=20):
    return PictureDependencies(project).at(frame)


def changed(project, identity, **fields):
    return replace_clip(project, identity, lambda clip: replace(clip, **fields))


def with_sequence(project, **fields):
    return replace(project, sequences=(replace(project.sequence, **fields), *project.sequences[1:]))


def tied_to(**fields) -> Project:
    """Layers tied to one that is over before the frame that is asked for."""
    gone = title("Hill", id="hill", length=5)
    return project_of(gone, title("Wind", id="wind", **fields))


@pytest.mark.parametrize(
    "project",
    [
        tied_to(parent="hill"),
        tied_to(effects=(Wipe(id="w", follows=Follow(layer="hill")),)),
        project_of(
            title("Hill", id="hill", length=5), ShapeClip(id="box", length=60, fits=Fits(layer="hill"))
        ),
    ],
    ids=["follows", "wipe", "box"],
)
def test_a_layer_off_screen_that_another_is_tied_to_counts(project):
    moved = changed(project, "hill", transform=Transform(x=40.0))
    assert depends(moved) != depends(project)
    hidden = with_track(project, 0, replace(project.sequence.tracks[0], hidden=True))
    assert depends(with_track(moved, 0, replace(moved.sequence.tracks[0], hidden=True))) != depends(hidden)


def test_a_layer_off_screen_that_nobody_names_does_not_count():
    project = tied_to()
    assert depends(changed(project, "hill", transform=Transform(x=40.0))) == depends(project)


@pytest.mark.parametrize(
    "fields",
    [{"shutter": Shutter(on=True)}, {"blur_while_editing": False}, {"size": (320, 180)}, {"rate": "25"}, {"background": "#123456"}],
    ids=lambda fields: next(iter(fields)),
)  # fmt: skip
def test_what_the_sequence_says_counts(fields):
    project = project_of(title())
    assert depends(with_sequence(project, **fields)) != depends(project)


def test_a_sequence_that_is_shown_counts_with_all_that_it_shows():
    deep = Sequence(id="deep", tracks=project_of(BackgroundClip(id="g", length=9)).sequence.tracks)
    inner = Sequence(
        id="inner", tracks=project_of(SequenceClip(id="d", sequence="deep", length=9)).sequence.tracks
    )
    project = project_of(SequenceClip(id="c", sequence="inner", length=60), title(id="t"))
    project = replace(project, sequences=(project.sequence, inner, deep, Sequence(id="beside")))
    other = replace(
        project, sequences=(*project.sequences[:2], replace(deep, background="#ffffff"), project.sequences[3])
    )
    assert depends(other) != depends(project)
    # One that is not shown does not.
    beside = replace(project, sequences=(*project.sequences[:3], Sequence(id="beside", name="New")))
    assert depends(beside) == depends(project)


def test_files_count_for_the_layers_that_show_them_and_not_for_others():
    logo = Media(id="logo", path="logo.png", kind="still", width=40, height=40)
    hum = Media(id="hum", path="hum.flac", kind="sound")
    shown = project_of(StillClip(id="s", media="logo", length=60), media=(logo, hum))
    assert depends(replace(shown, media=(replace(logo, width=80), hum))) != depends(shown)
    assert depends(replace(shown, media=(logo, replace(hum, name="Hum")))) == depends(shown)


def test_the_mix_depends_on_what_moves_strike_and_on_hidden_tracks():
    hits = title(id="t", moves=(Move(id="m", role="entrance", piece_sound=PieceSound(sound="key")),))
    project = project_of(hits, title(id="quiet"))
    louder = changed(
        project, "t", moves=(replace(hits.moves[0], piece_sound=PieceSound(sound="key", gain=0.0)),)
    )
    assert mix_dependencies(louder) != mix_dependencies(project)
    hidden = with_track(project, 0, replace(project.sequence.tracks[0], hidden=True))
    assert mix_dependencies(hidden) != mix_dependencies(project)
    assert mix_dependencies(changed(project, "quiet", transform=Transform(x=9.0))) == mix_dependencies(
        project
    )
    retyped = changed(project, "t", text=replace(hits.text, content="Kites"))
    assert mix_dependencies(retyped) != mix_dependencies(project), "more letters, more strikes"
