"""The same layer several times in one picture."""

import msgspec
import numpy as np
import pytest

from builders import project_of, title
from rovix.edit.comparing import (
    cells,
    lined_up,
    of_curve,
    of_length,
    of_stagger,
    proposed,
    usable_kind,
    varied,
)
from rovix.edit.moves import move_of
from rovix.errors import RovixError
from rovix.model import ShapeClip
from rovix.motion import describe, picture_plan
from rovix.motion.ready_moves import pop, wave
from rovix.paint.painter import Painter

replace = msgspec.structs.replace


def clip(project):
    return project.sequence.tracks[0].clips[0]


@pytest.mark.parametrize("count", range(2, 7))
def test_pictures_lie_inside_the_frame_keep_its_shape_and_do_not_touch(count):
    boxes = cells((1920, 1080), count)
    assert len(boxes) == count
    for number, (left, top, width, height) in enumerate(boxes):
        assert min(left, top) >= 0
        assert left + width <= 1920
        assert top + height <= 1080
        assert width / height == pytest.approx(16 / 9)
        for x, y, *_ in boxes[:number]:
            assert abs(x - left) >= width or abs(y - top) >= height


@pytest.mark.parametrize("kind", ["curves", "moves", "lengths", "staggers"])
def test_variants_begin_with_the_layers_own_and_all_differ(kind):
    project = project_of(title("Kite day", length=200, moves=[replace(wave(), length=2.0)]))
    found = proposed(project, "title", "entrance", kind, 6)
    assert len(found) == 6
    assert len({variant.name for variant in found}) == 6
    own = varied(project, "title", "entrance", found[0])
    assert describe(own, 9)["layers"] == describe(project, 9)["layers"]
    shown = {str(describe(varied(project, "title", "entrance", v), 9)["layers"][0]["pieces"]) for v in found}
    assert len(shown) == 6


def test_each_picture_is_that_of_its_variant_at_the_same_frame():
    project = project_of(title("KITE", moves=[wave()], text={"size": 90.0}))
    variants = [of_curve("linear"), of_length(project, 0.2), of_stagger(project, 4, "letters")]
    grid = Painter(None).paint(picture_plan(lined_up(project, "title", "entrance", variants), 7), (1280, 720))
    for variant, (left, top, width, height) in zip(variants, cells((640, 360), 3), strict=True):
        box = [round(2 * value) for value in (left, top, width, height)]
        part = grid[box[1] : box[1] + box[3], box[0] : box[0] + box[2]].astype(int)
        alone = picture_plan(varied(project, "title", "entrance", variant), 7)
        own = Painter(None).paint(alone, (part.shape[1], part.shape[0])).astype(int)
        # A px of the edge may fall otherwise, as the picture begins between px.
        assert np.abs(part - own)[3:-3, 3:-3].mean() < 4
        assert own[..., :3].max() > 100


def test_what_cannot_be_compared_is_said():
    plain = project_of(title())
    with pytest.raises(RovixError, match="Give the layer an entrance"):
        proposed(plain, "title", "entrance", "curves", 4)
    keyed = project_of(title(moves=[pop()]))
    with pytest.raises(RovixError, match="goes by keys of its own"):
        proposed(keyed, "title", "entrance", "curves", 4)
    assert usable_kind(clip(keyed), "entrance", "curves") == "moves"
    assert usable_kind(clip(project_of(title(moves=[wave()]))), "entrance", "curves") == "curves"
    shape = project_of(ShapeClip(id="s", length=60, moves=(wave(),)))
    with pytest.raises(RovixError, match="Only entrances and exits of words"):
        proposed(shape, "s", "entrance", "staggers", 4)


def test_only_lengths_and_staggers_that_fit_are_proposed():
    short = project_of(title("Kite day", length=40, moves=[wave()]))
    assert [v.changes["length"] for v in proposed(short, "title", "entrance", "lengths", 6)] == [
        1.0,
        0.5,
        0.75,
    ]
    names = [v.name for v in proposed(short, "title", "entrance", "staggers", 6)]
    assert names == ["As it is", "1 frame apart", "2 frames apart", "3 frames apart", "4 frames apart"]


def test_a_stagger_deals_the_whole_out_to_letters():
    project = project_of(title("abcd", moves=[replace(wave(), pieces="whole")]))
    found = proposed(project, "title", "entrance", "staggers", 3)
    made = move_of(clip(varied(project, "title", "entrance", found[1])), "entrance")
    assert (made.pieces, made.stagger) == ("letters", pytest.approx(1 / 30))
