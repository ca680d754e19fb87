"""Which frames of a file footage shows, against the exact arithmetic of fractions; boxes there and back."""

from fractions import Fraction
from math import floor

import numpy as np
import pytest

from builders import project_of
from rovix.model import FootageClip, Media, Playing, Transform
from rovix.motion import Scene
from rovix.motion.material import media_time
from rovix.motion.seen import file_box, file_frames, footage_matrix


@pytest.mark.parametrize("rate", ["24", "24000/1001", "25", "30000/1001", "60"])
@pytest.mark.parametrize(
    "fields",
    [{}, {"offset": 7}, {"playing": Playing(speed=0.5)}, {"playing": Playing(backwards=True)},
     {"playing": Playing(speed=2.0, span=30, and_back=True)}],
)  # fmt: skip
def test_frames_are_those_of_exact_times(rate, fields):
    media = Media(id="m", path="a.mp4", kind="footage", rate=rate, length=20.0, width=64, height=36)
    clip = FootageClip(id="f", media="m", length=300, **fields)
    scene = Scene.of(project_of(clip, media=(media,), rate="30000/1001"))
    own = Fraction(rate)
    last = round(20 * own) - 1
    exact = [
        min(max(0, floor(media_time(scene.rate, clip, n) * own + Fraction(1, 1000))), last)
        for n in range(300)
    ]
    assert file_frames(scene, clip, media).tolist() == exact


def test_a_box_of_the_picture_is_one_of_the_file_within_it_or_none_behind_the_viewer():
    media = Media(id="m", path="a.mp4", kind="footage", rate="25", length=2.0, width=320, height=180)
    clip = FootageClip(id="f", media="m", length=50)
    scene = Scene.of(project_of(clip, media=(media,), size=(640, 360)))
    back = np.linalg.inv(footage_matrix(scene, clip, media, 0))
    assert file_box(back, media, (100.0, 40.0, 300.0, 140.0)) == pytest.approx((50, 20, 100, 50))
    assert file_box(back, media, (-50.0, 40.0, 100.0, 140.0)) == pytest.approx((0, 20, 50, 50))
    tipped = FootageClip(id="f", media="m", length=50, transform=Transform(rotation_y=80.0))
    beyond = np.linalg.inv(footage_matrix(scene, tipped, media, 0))
    far = file_box(beyond, media, (-90_000.0, 0.0, 90_000.0, 360.0))
    assert far is None or np.isfinite(far).all()
