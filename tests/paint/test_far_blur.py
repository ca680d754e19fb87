"""What is very soft is drawn small and brought up: as a Gaussian would have it, whatever its size."""

import numpy as np
import pytest
from scipy.ndimage import gaussian_filter
from scipy.special import erf

from builders import look_of, project_of, title
from rovix.model import Fill, Glow, Look, Plain, Shadow, ShapeClip, Transform
from rovix.motion import picture_plan
from rovix.paint.blur import brought_up
from rovix.paint.painter import Painter

SIZE = (640, 360)


def painted(project, size=None):
    return Painter(None).paint(picture_plan(project, 0), size)


def bar(**place):
    return ShapeClip(
        id="bar",
        length=9,
        width=200.0,
        height=90.0,
        fill=Plain(colour="#ffffff"),
        transform=Transform(**place),
    )


def blurred_bar(middle, length, count, sigma):
    """What a Gaussian makes of a bar along one side, at the middles of px: a difference of error functions."""
    at = np.arange(count) + 0.5 - middle
    return (erf((at + length / 2) / (sigma * np.sqrt(2))) - erf((at - length / 2) / (sigma * np.sqrt(2)))) / 2


@pytest.mark.parametrize("sigma", [40.0, 60.0, 130.0, 300.0])
@pytest.mark.parametrize("x", [0.0, 250.0, 420.0])
def test_a_far_blur_is_the_gaussian_of_the_picture(sigma, x):
    # SciPy's error function is the reference; what lies beyond the frame blurs in.
    across, down = blurred_bar(320 + x, 200, 640, sigma), blurred_bar(180, 90, 360, sigma)
    expected = 255 * down[:, None] * across
    found = painted(project_of(bar(x=x, blur_x=sigma, blur_y=sigma), size=SIZE))[..., 0]
    assert np.abs(found - expected).max() <= 2


@pytest.mark.parametrize("size", [SIZE, (320, 180), (641, 361)])
def test_a_far_blur_stays_in_its_place_at_any_size(size):
    picture = painted(project_of(bar(x=-60.0, blur_x=90.0, blur_y=90.0), size=SIZE), size)[..., 0]
    rows, columns = np.indices(picture.shape)
    weight = picture.astype(float)
    middle = (columns * weight).sum() / weight.sum() + 0.5, (rows * weight).sum() / weight.sum() + 0.5
    # The frame cuts off more on the near side, a little.
    assert middle[0] / size[0] == pytest.approx((320 - 60) / 640, abs=0.03)
    assert middle[1] / size[1] == pytest.approx(0.5, abs=0.003)


def test_a_far_glow_is_the_gaussian_of_the_letters():
    words, sigma = {"size": 200.0}, 60.0
    shape = painted(project_of(title("H", text=words, look=look_of("#ffffff")), size=(1240, 960)))[..., 0]
    # SciPy's Gaussian is the reference.
    expected = gaussian_filter(shape.astype(float), sigma, mode="constant")[300:-300, 300:-300]
    glow = Look(parts=(Glow(size=sigma, strength=1.0, colour="#ffffff"), Fill(opacity=1.0)))
    whole = painted(project_of(title("H", text=words, look=glow), size=SIZE))[..., 0].astype(float)
    # Over the letter the glow lies on its fill; beside it, it is alone.
    beside = shape[300:-300, 300:-300] == 0
    assert np.abs(whole - expected)[beside].max() <= 3


def test_words_that_fly_past_the_viewer_cost_no_more_than_the_picture():
    # 300,000 times as large, the shadow alone would be 14 million px wide.
    look = Look(parts=(Fill(), Shadow(), Glow(size=300.0)))
    for scale in (300.0, 300_000.0):
        project = project_of(
            title("KITE", look=look, transform=Transform(scale_x=scale, scale_y=scale)), size=SIZE
        )
        assert painted(project).shape == (360, 640, 4)


def test_bringing_up_goes_along_straight_lines():
    small = np.array([[0.0, 10.0], [20.0, 30.0]], dtype=np.float32)
    large = brought_up(small, 4, (0, 0), (8, 8))
    # Middles of small px lie at 2 and 6; between them the values rise evenly, beyond they hold.
    assert large[0].tolist() == [0, 0, 1.25, 3.75, 6.25, 8.75, 10, 10]
    assert large[:, 0].tolist() == [0, 0, 2.5, 7.5, 12.5, 17.5, 20, 20]
    assert (brought_up(small, 4, (3, 2), (4, 3)) == large[2:5, 3:7]).all()
