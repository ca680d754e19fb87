"""Whole pictures: laws that hold to the bit or within a stated tolerance."""

import msgspec
import numpy as np
import pytest

from builders import project_of, psnr, title
from rovix.engine.open_project import OpenProject
from rovix.model import BackgroundClip, GroupClip, Paper, Plain, Track, Transform
from rovix.motion.ready_moves import READY_MOVES
from rovix.motion.reversal import reversed_move

replace = msgspec.structs.replace
SIZE = (320, 180)


def pictures(project, frames, tmp_path):
    with OpenProject(project, tmp_path) as opened:
        return [opened.picture(frame, SIZE) for frame in frames]


@pytest.mark.parametrize("name", READY_MOVES)
def test_a_reversed_exit_shows_the_entrances_very_pictures(name, tmp_path):
    entrance = READY_MOVES[name]("entrance")
    length = 60
    forward = project_of(title("Kite Day", length=length, moves=[entrance]))
    backward = project_of(title("Kite Day", length=length, moves=[reversed_move(entrance)]))
    frames = range(0, 34, 3)
    one = pictures(forward, frames, tmp_path)
    other = pictures(backward, [length - 1 - frame for frame in frames], tmp_path)
    for a, b in zip(one, other, strict=True):
        # The same positions come from 1 - x instead of x, so the last bits of edges may differ.
        assert np.abs(a.astype(int) - b).max() <= 2


@pytest.mark.parametrize("name", READY_MOVES)
def test_at_rest_a_moved_layer_is_the_still_one_to_the_bit(name, tmp_path):
    move = READY_MOVES[name]("entrance")
    still = title("Kite Day", length=90)
    moved = title("Kite Day", length=90, moves=[move])
    plain, rested = (pictures(project_of(clip), [60], tmp_path)[0] for clip in (still, moved))
    if move.pieces == "whole":
        assert np.array_equal(plain, rested)
    else:
        # Drawn piece by piece, where letters touch their smooth edges are laid down twice.
        assert psnr(plain, rested) > 45


def test_frame_0_of_a_move_from_off_the_frame_has_no_words_in_it(tmp_path):
    clip = title("Wind from the west", moves=[READY_MOVES["Word slides"]("entrance")])
    empty, first = (pictures(project_of(c), [0], tmp_path)[0] for c in (title(""), clip))
    assert np.array_equal(empty, first)


def test_a_group_at_rest_is_its_layers(tmp_path):
    layers = (
        title("Kite", id="a", transform=Transform(x=40.0, rotation_z=12.0)),
        title("Day", id="b", transform=Transform(y=50.0)),
    )
    tracks = tuple(Track(id=f"t-{clip.id}", clips=(clip,)) for clip in layers)
    grouped = GroupClip(id="g", length=60, tracks=tracks)
    assert np.array_equal(
        *(pictures(project_of(*clips), [10], tmp_path)[0] for clips in (layers, (grouped,)))
    )


def test_moving_a_group_moves_its_layers(tmp_path):
    inner = Track(id="i", clips=(title("Kite", id="a"),))
    group = GroupClip(id="g", length=60, tracks=(inner,), transform=Transform(x=64.0, y=-20.0))
    plain = project_of(title("Kite", id="a", transform=Transform(x=64.0, y=-20.0)))
    assert np.array_equal(pictures(project_of(group), [5], tmp_path)[0], pictures(plain, [5], tmp_path)[0])


def test_a_small_picture_is_the_large_one_made_small(tmp_path):
    import cv2

    project = project_of(BackgroundClip(id="g", length=60, background=Paper()), title("Kite Day"))
    with OpenProject(project, tmp_path) as opened:
        large, small = opened.picture(5, (640, 360)), opened.picture(5, SIZE)
    assert psnr(cv2.resize(large, SIZE, interpolation=cv2.INTER_AREA), small) > 34


def test_a_clip_ends_before_its_end_frame(tmp_path):
    red = BackgroundClip(id="r", start=0, length=10, background=Plain(colour="#ff0000"))
    blue = BackgroundClip(id="b", start=10, length=10, background=Plain(colour="#0000ff"))
    project = project_of()
    project = replace(
        project, sequences=(replace(project.sequence, tracks=(Track(id="t", clips=(red, blue)),)),)
    )
    last, first = pictures(project, [9, 10], tmp_path)
    assert last[0, 0].tolist() == [0, 0, 255, 255]
    assert first[0, 0].tolist() == [255, 0, 0, 255]
