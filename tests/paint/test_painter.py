"""Pixels against independent drawing by Pillow and plain arithmetic."""

from fractions import Fraction

import msgspec
import numpy as np
import pytest
from PIL import Image, ImageDraw, ImageFont

from builders import look_of, project_of, psnr, title
from rovix.model import (
    BackgroundClip,
    FootageClip,
    GroupClip,
    Media,
    Outline,
    Paper,
    Plain,
    StillClip,
    Track,
    Transform,
)
from rovix.motion import describe, picture_plan
from rovix.motion.ready_moves import pop, wave
from rovix.paint.backgrounds import paper_pixels
from rovix.paint.cache import LayerCache, LayerPicture
from rovix.paint.painter import Painter
from rovix.paint.region import Region, region_of
from rovix.text.catalogue import shipped

replace = msgspec.structs.replace


class Card:
    """A picture source with one plain picture, and a note of what was asked for."""

    def __init__(self, width=40, height=20, colour=(10, 20, 200, 255)):
        self.pixels = np.full((height, width, 4), colour, dtype=np.uint8)
        self.asked = []

    def picture(self, source: str, time: Fraction | None, shrunk=None, about=False):
        self.asked.append((source, time))
        return self.pixels


def paint(project, frame=0, size=None, source=None, cache=None):
    return Painter(source or Card(), cache).paint(picture_plan(project, frame), size)


def still(**fields):
    media = Media(id="card", path="card.png", kind="still", width=40, height=20)
    return project_of(StillClip(id="c", media="card", length=10, **fields), media=(media,), size=(200, 100))


def test_a_picture_is_premultiplied_bgra_of_the_size_asked_for():
    project = project_of(title(""), background="#ff800080")
    pixels = paint(project, size=(320, 180))
    assert pixels.shape == (180, 320, 4)
    assert pixels.dtype == np.uint8
    assert pixels[5, 5].tolist() == [0, 64, 128, 128]


def test_words_are_where_pillow_would_draw_them():
    style = next(style for style in shipped()["Outfit"] if style.low == 700)
    clip = title("Kite", text={"size": 200.0, "weight": 700}, look=look_of("#ffffff"))
    pixels = paint(project_of(clip, background="#000000"))
    image = Image.new("L", (640, 360))
    font = ImageFont.truetype(style.path, 200)
    cap = 706 / 1000 * 200
    ImageDraw.Draw(image).text((320, 180 + cap / 2), "Kite", 255, font, anchor="ms")
    # FreeType fits stems to whole px, Skia does not: the shapes agree to a px of their edges.
    assert psnr(pixels[..., 0], np.asarray(image)) > 22
    assert abs(float(pixels[..., 0].sum()) / np.asarray(image, dtype=float).sum() - 1) < 0.02


def test_ink_lies_within_the_bounds_that_describe_gives():
    look = look_of("#ffffff", Outline(id="o", width=7.0, colour="#ff0000"))
    project = project_of(
        title("Kg", look=look, transform=Transform(rotation_z=30, rotation_y=40), moves=[pop()])
    )
    for frame in (0, 3, 20):
        bounds = np.add(describe(project, frame)["layers"][0]["bounds"], [320, 180, 320, 180])
        rows, columns = np.nonzero(paint(project, frame)[..., :3].sum(axis=2))
        assert columns.min() >= np.floor(bounds[0]) - 1
        assert rows.min() >= np.floor(bounds[1]) - 1
        assert columns.max() <= np.ceil(bounds[2])
        assert rows.max() <= np.ceil(bounds[3])


def test_an_outline_outside_leaves_the_fill_as_it_is_and_no_seam():
    plain = paint(project_of(title("O", look=look_of("#ffffff")), background="#ffffff"))
    outlined = look_of("#ffffff", Outline(id="o", width=8.0, colour="#ffffff"))
    assert np.array_equal(paint(project_of(title("O", look=outlined), background="#ffffff")), plain)


@pytest.mark.parametrize("side", ["outside", "centre", "inside"])
def test_outlines_lie_on_the_side_they_name(side):
    def ink(look):
        return (
            paint(project_of(title("I", text={"size": 300.0}, look=look), background="#000000"))[..., 1] > 127
        )

    fill = ink(look_of("#00ff00"))
    line = ink(look_of("#000000", Outline(id="o", width=10.0, colour="#00ff00", side=side), opacity=0.0))
    inside, outside = np.sum(line & fill), np.sum(line & ~fill)
    # An I is a plain bar: an outline of width w adds about w on each edge it covers.
    expected = {"outside": (0, 1), "centre": (0.5, 0.5), "inside": (1, 0)}[side]
    whole = inside + outside
    assert inside / whole == pytest.approx(expected[0], abs=0.06)
    assert outside / whole == pytest.approx(expected[1], abs=0.06)


def test_no_letter_lies_under_its_neighbours_outline():
    look = look_of("#ffffff", Outline(id="o", width=30.0, colour="#ff0000"))
    together = paint(project_of(title("nn", look=look), background="#000000"))
    by_letter = paint(project_of(title("nn", look=look, moves=[wave()]), background="#000000"), frame=59)
    white = lambda pixels: int(np.sum(pixels[..., :3].min(axis=2) > 250))  # noqa: E731
    # Smooth edges are laid down once or twice, so single px at them may differ.
    assert white(together) == pytest.approx(white(by_letter), rel=0.005)


def test_a_half_faded_outlined_letter_shows_no_outline_through_its_fill():
    look = look_of("#ffffff", Outline(id="o", width=10.0, colour="#000000"))
    pixels = paint(
        project_of(
            title("I", text={"size": 300.0}, look=look, transform=Transform(opacity=0.5)),
            background="#808080",
        )
    )
    assert pixels[180, 320, :3].tolist() == pytest.approx([192] * 3, abs=1)


def test_pictures_of_files_fit_fill_or_stay_as_they_are():
    for fit, (width, height) in {"as-is": (40, 20), "fit": (200, 100), "fill": (200, 100)}.items():
        red = paint(still(fit=fit))[..., 2] == 200
        assert int(red.sum()) == width * height


def test_an_image_moves_by_parts_of_a_px():
    pixels = paint(still(transform=Transform(x=0.5)))[50, :, 2].astype(int)
    assert pixels[80] == pytest.approx(100, abs=3)
    assert pixels[81] == 200
    assert pixels[120] == pytest.approx(100, abs=3)


def test_a_round_crop_is_a_disc():
    source = Card(100, 100)
    pixels = paint(still(crop="round", fit="fit"), source=source)
    covered = pixels[..., 2].astype(float).sum() / 200
    assert covered == pytest.approx(np.pi * 50**2, rel=0.01)


def test_a_tipped_picture_is_narrower_at_its_far_edge():
    red = paint(still(fit="fit", transform=Transform(rotation_x=50.0)))[..., 2] > 100
    rows = np.flatnonzero(red.any(axis=1))
    widths = red.sum(axis=1)
    assert widths[rows[2]] != widths[rows[-3]]
    assert len(rows) < 80


def test_what_is_behind_the_viewer_is_not_drawn():
    assert not paint(still(transform=Transform(z=5000.0)))[..., 2].any()
    partly = paint(still(fit="fit", transform=Transform(rotation_x=89.0, z=130.0)))
    assert partly.shape == (100, 200, 4)


def test_footage_is_asked_for_by_the_clips_own_time():
    media = Media(id="film", path="f.mp4", kind="footage", width=40, height=20)
    clip = FootageClip(id="c", media="film", start=10, length=50, offset=15)
    source = Card()
    paint(project_of(clip, media=(media,)), frame=25, source=source)
    assert source.asked == [("film", Fraction(1))]


def test_layers_are_laid_over_each_other_source_over():
    below = BackgroundClip(id="b", length=10, background=Plain(colour="#ff0000"))
    above = BackgroundClip(
        id="a", length=10, background=Plain(colour="#0000ff"), transform=Transform(opacity=0.25)
    )
    assert paint(project_of(below, above))[0, 0].tolist() == pytest.approx([64, 0, 191, 255], abs=1)


def test_a_faded_group_fades_as_one():
    inner = tuple(
        Track(id=f"t{n}", clips=(BackgroundClip(id=f"g{n}", length=10, background=Plain(colour="#ffffff")),))
        for n in (1, 2)
    )
    group = GroupClip(id="g", length=10, tracks=inner, transform=Transform(opacity=0.5))
    assert paint(project_of(group, background="#000000"))[0, 0, 0] == pytest.approx(128, abs=1)


def test_a_frame_of_other_proportions_is_fitted_and_the_rest_is_ground():
    project = project_of(
        BackgroundClip(id="g", length=5, background=Plain(colour="#ffffff")),
        background="#0000ff",
        size=(200, 100),
    )
    pixels = paint(project, size=(200, 200))
    assert pixels[100, 100, :3].tolist() == [255, 255, 255]
    assert pixels[10, 100, :3].tolist() == [255, 0, 0]


def test_the_layer_cache_changes_no_pixel_and_stays_in_its_bound():
    project = project_of(title("Larkmoor", moves=[wave()]), title("Day", id="two"))
    cache = LayerCache(300_000)
    for frame in (0, 5, 40, 41, 5):
        assert np.array_equal(paint(project, frame), paint(project, frame, cache=cache))
        assert cache.held <= cache.limit
    assert len(cache) >= 1


def test_a_cache_drops_what_was_used_longest_ago():
    cache = LayerCache(200)
    small = LayerPicture(np.zeros((5, 5, 4), np.uint8), 0, 0)
    for key in (b"a", b"b"):
        cache.put(key, small)
    cache.get(b"a")
    cache.put(b"c", small)
    assert (cache.get(b"a"), cache.get(b"b"), cache.get(b"c")) == (small, None, small)
    cache.put(b"huge", LayerPicture(np.zeros((50, 50, 4), np.uint8), 0, 0))
    assert cache.get(b"huge") is None


def test_paper_is_the_same_again_and_other_by_seed():
    one, again, other = (paper_pixels(Paper(seed=seed), (320, 180)) for seed in (1, 1, 2))
    assert np.array_equal(one, again)
    assert not np.array_equal(one, other)
    assert np.abs(one[..., :3].mean(axis=(0, 1)) - [0xC8, 0xDF, 0xE9]).max() < 3


def test_regions_step_by_eight_and_stay_inside():
    assert region_of(np.array([[9.5, 9.5], [20.0, 30.0]]), (100, 100)) == Region(8, 8, 24, 32)
    assert region_of(np.array([[-50.0, -50.0], [500.0, 500.0]]), (100, 90)) == Region(0, 0, 100, 90)
    assert region_of(np.array([[200.0, 0.0], [300.0, 10.0]]), (100, 100)) is None
    assert region_of(np.array([[np.nan, 0.0]]), (100, 100)) == Region(0, 0, 100, 100)
