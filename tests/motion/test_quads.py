import numpy as np
import pytest

from builders import project_of, title
from rovix.model import BackgroundClip, StillClip, Transform
from rovix.motion import describe
from rovix.motion.quads import layer_at, picture_quads
from rovix.motion.ready_moves import pop, wave, word_slides


def test_quads_at_rest_are_the_bounds_of_the_ink():
    project = project_of(title("Kite", transform=Transform(x=30.0, y=-20.0)))
    quads = picture_quads(project, 0)[0]
    left, top, right, bottom = np.add(describe(project, 0)["layers"][0]["bounds"], [320, 180, 320, 180])
    assert quads.rest.min(axis=0) == pytest.approx([left, top], abs=1e-3)
    assert quads.rest.max(axis=0) == pytest.approx([right, bottom], abs=1e-3)
    assert quads.pieces.shape == (1, 4, 2)


def test_rest_stays_where_it_is_while_pieces_move():
    project = project_of(title("Kite Day", moves=[word_slides()]))
    start, later = picture_quads(project, 0)[0], picture_quads(project, 40)[0]
    assert np.allclose(start.rest, later.rest)
    assert (start.pieces[:, :, 0] > 640).all()
    assert len(later.pieces) == 2


def test_what_is_not_shown_has_no_pieces():
    project = project_of(title("Kite", moves=[wave()]))
    assert len(picture_quads(project, 0)[0].pieces) == 0
    assert len(picture_quads(project, 59)[0].pieces) == 4


def test_the_pivot_is_a_share_of_the_block():
    project = project_of(title("Kite", transform=Transform(pivot_x=0.0, pivot_y=1.0, rotation_z=40.0)))
    still = project_of(title("Kite", transform=Transform(pivot_x=0.0, pivot_y=1.0)))
    assert picture_quads(project, 0)[0].pivot == pytest.approx(picture_quads(still, 0)[0].pivot)


def test_a_point_finds_the_highest_layer_whose_piece_it_is_on():
    ground = BackgroundClip(id="ground", length=10)
    low, high = title("Low", id="low"), title("High", id="high", transform=Transform(x=80.0))
    quads = picture_quads(project_of(ground, low, high), 0)
    assert layer_at(quads, (320, 180)) == "high"
    assert layer_at(quads, (240, 180)) == "low"
    assert layer_at(quads, (5, 5)) == "ground"
    assert layer_at(quads, (-5, 5)) is None
    assert layer_at((), (0, 0)) is None


def test_a_turned_box_is_hit_only_inside_its_edges():
    logo = StillClip(
        id="b", media="m", length=10, transform=Transform(rotation_z=45.0, scale_x=0.2, scale_y=0.2)
    )
    quads = picture_quads(project_of(logo), 0)
    corner = quads[0].rest.min(axis=0)
    assert layer_at(quads, (320, 180)) == "b"
    assert layer_at(quads, tuple(corner + 2)) is None


def test_a_piece_behind_the_viewer_cannot_be_hit():
    quads = picture_quads(project_of(title("Kite", transform=Transform(z=99_999.0))), 0)
    assert layer_at(quads, (320, 180)) is None


def test_profiles_meet_rest_and_away():
    from rovix.motion import Scene, layer_motion
    from rovix.motion.profile import motion_profile

    clip = title("Kite", length=61, moves=[pop(), pop("exit")])
    project = project_of(clip)
    scene = Scene.of(project)
    heights = motion_profile(layer_motion(clip, scene.size, scene.rate, None), 61)
    assert heights[0] == pytest.approx(0, abs=1e-9)
    # A pop takes 0.24 s, 7 frames at 30 fps; it is 7 % over, of the 60 % that it comes from, between two.
    assert heights[7:54] == pytest.approx(np.ones(47))
    assert heights[4] == pytest.approx(1 + 0.07 / 0.6, abs=1e-3)
    assert heights[60] == pytest.approx(0, abs=1e-9)
    still = title("Kite", id="s", length=10)
    assert motion_profile(layer_motion(still, scene.size, scene.rate, None), 10).tolist() == [1.0] * 10
