"""Shapes that fit a layer, or one side of it."""

import pytest

from builders import look_of, project_of, title
from rovix.edit import change_text
from rovix.model import Fits, Outline, ShapeClip
from rovix.motion import describe

GAP, THICK = 12.0, 6.0


def bounds(words, side, **fields):
    clip = title(words, length=60, text={"size": 60.0}, **fields)
    line = ShapeClip(
        id="line",
        length=60,
        form="line",
        height=THICK,
        fits=Fits(layer="title", margin_x=GAP, margin_y=GAP, side=side),
    )
    return both(project_of(line, clip))


def both(project):
    line, words = (layer["bounds"] for layer in describe(project, 30)["layers"])
    return line, words


@pytest.mark.parametrize(
    "look", [None, look_of("#ffffff", Outline(id="o", width=8.0))], ids=["plain", "outlined"]
)
@pytest.mark.parametrize("words", ["Larkmoor", "gypsy kites\nTwo"])
def test_a_shape_lies_along_a_side_the_margin_away_and_as_thick_as_it_is(words, look):
    fields = {} if look is None else {"look": look}
    for side in ("under", "over", "left", "right"):
        (left, top, right, bottom), (x0, y0, x1, y1) = bounds(words, side, **fields)
        if side in ("under", "over"):
            assert (left, right) == pytest.approx((x0 - GAP, x1 + GAP), abs=0.6)
            assert bottom - top == pytest.approx(THICK)
            assert (top - y1 if side == "under" else y0 - bottom) == pytest.approx(GAP, abs=0.6)
        else:
            assert (top, bottom) == pytest.approx((y0 - GAP, y1 + GAP), abs=0.6)
            assert right - left == pytest.approx(THICK)
            assert (x0 - right if side == "left" else left - x1) == pytest.approx(GAP, abs=0.6)


def test_it_goes_along_when_the_words_change():
    clip = title("Kite", length=60, text={"size": 60.0})
    line = ShapeClip(id="line", length=60, height=THICK, fits=Fits(layer="title", margin_x=0.0, side="under"))
    project = project_of(line, clip)
    for content in ("A longer line of words", "K"):
        project = change_text(project, "title", content=content)
        (left, _, right, _), (x0, _, x1, _) = both(project)
        assert (left, right) == pytest.approx((x0, x1), abs=0.6)
