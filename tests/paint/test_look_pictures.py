"""Looks against a picture made by Pillow, SciPy and fontTools; and what each part must leave alone."""

import itertools

import numpy as np
import pytest
import uharfbuzz as hb
from fontTools.pens.basePen import decomposeQuadraticSegment
from fontTools.pens.recordingPen import DecomposingRecordingPen
from fontTools.ttLib import TTFont
from PIL import Image, ImageDraw
from scipy.ndimage import distance_transform_edt, gaussian_filter

from builders import look_of, project_of, title
from rovix.model import (
    BackgroundClip,
    Box,
    Fill,
    Glow,
    GroupClip,
    Linear,
    LongShadow,
    Look,
    Outline,
    Plain,
    Shadow,
    Stop,
    Track,
    Transform,
)
from rovix.model.text import OwnStyle
from rovix.motion import picture_plan
from rovix.motion.ready_moves import pop, wave
from rovix.paint.painter import Painter
from rovix.paint.shades import sweep
from rovix.text.catalogue import FONTS

SIZE = (640, 360)
EM = 180.0
FINE = 6  # px of the reference for each px of the picture
PATH = str(FONTS / "outfit" / "Outfit_900Black.ttf")
EVERY_PART = {
    "fill": Fill(id="f2", paint=Plain(colour="#40c080"), opacity=0.5),
    "outline": Outline(id="o", width=7.0, colour="#c03020"),
    "inside": Outline(id="i", width=3.0, colour="#2030c0", side="inside"),
    "shadow": Shadow(id="s", x=9.0, y=12.0, blur=4.0, spread=2.0),
    "long": LongShadow(id="l", angle=30.0),
    "glow": Glow(id="g", size=9.0),
    "box": Box(id="b"),
}


def paint(project, frame=0):
    return Painter(None).paint(picture_plan(project, frame))


def words(look, text="TILE", **fields):
    return title(text, look=look, text={"size": EM, "weight": 900}, **fields)


# The reference


def contours():
    """Polygons of TILE in px of the frame, by HarfBuzz's advances and fontTools' outlines; its block."""
    font = TTFont(PATH)
    hb_font = hb.Font(hb.Face(hb.Blob.from_file_path(PATH)))
    buffer = hb.Buffer()
    buffer.add_str("TILE")
    buffer.guess_segment_properties()
    hb.shape(hb_font, buffer, {})
    scale = EM / font["head"].unitsPerEm
    width = sum(position.x_advance for position in buffer.glyph_positions) * scale
    cap = font["OS/2"].sCapHeight * scale
    pen, polygons = SIZE[0] / 2 - width / 2, []
    baseline = SIZE[1] / 2 + cap / 2
    names = font.getGlyphOrder()
    for info, position in zip(buffer.glyph_infos, buffer.glyph_positions, strict=True):
        for outline in flattened(font.getGlyphSet()[names[info.codepoint]]):
            polygons.append([(pen + x * scale, baseline - y * scale) for x, y in outline])
        pen += position.x_advance * scale
    return polygons, (SIZE[0] / 2 - width / 2, baseline - cap, SIZE[0] / 2 + width / 2, baseline)


def flattened(glyph):
    pen = DecomposingRecordingPen(None)
    glyph.draw(pen)
    found = []
    for verb, points in pen.value:
        if verb == "moveTo":
            found.append([points[0]])
        elif verb == "lineTo":
            found[-1].append(points[0])
        elif verb == "qCurveTo":
            for middle, end in decomposeQuadraticSegment(points):
                start = found[-1][-1]
                for t in np.linspace(0, 1, 13)[1:]:
                    found[-1].append(
                        tuple(
                            (1 - t) ** 2 * np.array(start)
                            + 2 * t * (1 - t) * np.array(middle)
                            + t * t * np.array(end)
                        )
                    )
    return found


def fine(draw):
    image = Image.new("L", (SIZE[0] * FINE, SIZE[1] * FINE))
    draw(ImageDraw.Draw(image))
    return np.asarray(image, dtype=np.float64) / 255


def averaged(mask):
    return mask.reshape(SIZE[1], FINE, SIZE[0], FINE).mean(axis=(1, 3))


def over(below, colour, alpha):
    """Source over; colours (…, 3) BGR 0..255."""
    return below * (1 - alpha[..., None]) + np.asarray(colour) * alpha[..., None]


def bgr(colour):
    return [int(colour[at : at + 2], 16) for at in (5, 3, 1)]


def reference():
    polygons, block = contours()

    def letters(draw):
        for polygon in polygons:
            draw.polygon([(x * FINE - 0.5, y * FINE - 0.5) for x, y in polygon], fill=255)

    inked = fine(letters) > 0.5
    away = distance_transform_edt(~inked) / FINE
    fill, near, far = (averaged(np.asarray(m, dtype=np.float64)) for m in (inked, away <= 5, away <= 12))
    swept, row = np.zeros_like(far), np.zeros(SIZE[0])
    for number in range(SIZE[1]):
        row = np.maximum(far[number], np.concatenate([[0.0], row[:-1]]))
        swept[number] = row
    left, top, right, bottom = block[0] - 30, block[1] - 24, block[2] + 30, block[3] + 24
    box = averaged(fine(lambda draw: draw.rounded_rectangle(
        [left * FINE - 0.5, top * FINE - 0.5, right * FINE - 0.5, bottom * FINE - 0.5], 12 * FINE, fill=255)))  # fmt: skip
    moved = np.roll(far, (10, 6), axis=(0, 1))  # nothing is near the frame's edge
    picture = np.broadcast_to(np.array(bgr("#2a3a40"), dtype=np.float64), (SIZE[1], SIZE[0], 3))
    picture = over(picture, bgr("#506a5a"), box)
    picture = over(picture, bgr("#16222a"), swept)
    picture = over(picture, bgr("#0b1014"), gaussian_filter(moved, 6.0, truncate=6) * 0.8)
    picture = over(picture, bgr("#ff8040"), np.minimum(gaussian_filter(far, 20.0, truncate=6) * 1.2, 1))
    picture = over(picture, bgr("#ffe080"), np.minimum(gaussian_filter(far, 7.0, truncate=6) * 1.5, 1) * 0.7)
    picture = over(picture, bgr("#fff8ea"), far)
    picture = over(picture, bgr("#40201a"), near)
    share = np.clip((np.arange(SIZE[1]) + 0.5 - block[1]) / (block[3] - block[1]), 0, 1)[:, None, None]
    return over(picture, np.array(bgr("#fff2c0")) * (1 - share) + np.array(bgr("#e0522a")) * share, fill)


def test_a_whole_look_is_the_picture_that_others_draw():
    ramp = (Stop(at=0, colour="#fff2c0"), Stop(at=1, colour="#e0522a"))
    look = Look(
        parts=(
            Fill(id="f", paint=Linear(angle=90, stops=ramp)),
            Outline(id="o1", width=5.0, colour="#40201a"),
            Outline(id="o2", width=12.0, colour="#fff8ea"),
            Glow(id="g1", size=7.0, strength=1.5, colour="#ffe080", opacity=0.7),
            Glow(id="g2", size=20.0, strength=1.2, colour="#ff8040"),
            Shadow(id="s", x=6.0, y=10.0, blur=6.0, colour="#0b1014", opacity=0.8),
            LongShadow(id="l", angle=45.0, colour="#16222a"),
            Box(id="b", paint=Plain(colour="#506a5a"), padding_x=30.0, padding_y=24.0, radius=12.0),
        )
    )
    got = paint(project_of(words(look), background="#2a3a40"))[..., :3].astype(np.float64)
    difference = np.abs(got - reference())
    # On average under one code value, eight parts being laid over each other in 8 bits; the edges, which
    # each rasterizer smooths in its own way, differ by at most a third of full scale, and on under one
    # px in 80 by more than a tenth.
    assert difference.mean() < 0.8
    assert difference.max() < 85
    assert (difference.max(axis=-1) > 26).mean() < 0.0125
    even = difference.max(axis=-1)[:, :80]
    assert even.max() <= 3, "away from edges blurs and colours agree"


# Neutral parts


@pytest.mark.parametrize("name", EVERY_PART)
def test_a_part_that_is_off_changes_no_bit(name):
    part = EVERY_PART[name]
    plain = paint(project_of(words(look_of("#fff8ea"))))
    base = look_of("#fff8ea").parts
    for off in ({"shown": False}, {"opacity": 0.0}):
        hidden = type(part)(**{f: getattr(part, f) for f in part.__struct_fields__} | off)
        for parts in ((hidden, *base), (*base, hidden)):
            assert np.array_equal(paint(project_of(words(Look(parts=parts)))), plain)
    on = (part, *base) if name in ("fill", "inside") else (*base, part)
    assert not np.array_equal(paint(project_of(words(Look(parts=on)))), plain), (
        "and it does something when on"
    )


def test_a_look_with_everything_off_is_no_layer_at_all():
    parts = tuple(
        type(p)(**{f: getattr(p, f) for f in p.__struct_fields__} | {"shown": False})
        for p in EVERY_PART.values()
    )
    ground = BackgroundClip(id="ground", length=60, background=Plain(colour="#335566"))
    assert np.array_equal(paint(project_of(ground, words(Look(parts=parts)))), paint(project_of(ground)))


@pytest.mark.parametrize("name", ["shadow", "glow"])
def test_what_shines_and_shades_is_a_gaussian_of_the_letters(name):
    part = EVERY_PART[name]
    alone = paint(
        project_of(words(Look(parts=(Fill(id="f", paint=Plain(colour="#ffffff")),))), background="#00000000")
    )[..., 3]
    part = type(part)(
        id="p", **({"x": 0.0, "y": 0.0, "blur": 8.0} if name == "shadow" else {"size": 8.0, "strength": 1.0})
    )
    below = Look(parts=(Fill(id="f", paint=Plain(colour="#ffffff00")), part))
    # The letters' own fill is see-through here, so that only what they cast is left; they cast as
    # they are drawn, so a see-through one casts nothing.
    assert not paint(project_of(words(below), background="#00000000")).any()
    whole = Look(parts=(Fill(id="f", paint=Plain(colour="#ffffff")), part))
    both = paint(project_of(words(whole), background="#00000000"))[..., 3].astype(np.float64) / 255
    cast = gaussian_filter(alone.astype(np.float64) / 255, 8.0, truncate=6)
    expected = alone / 255 + cast * (1 - alone / 255)
    assert np.abs(both - expected).max() * 255 < 3


@pytest.mark.parametrize(
    ("side", "width"), [("outside", 6.0), ("outside", 14.0), ("inside", 5.0), ("centre", 8.0)]
)
def test_an_outlines_area_is_that_of_an_independent_raster(side, width):
    polygons, _ = contours()

    def letters(draw):
        for polygon in polygons:
            draw.polygon([(x * FINE - 0.5, y * FINE - 0.5) for x, y in polygon], fill=255)

    inked = fine(letters) > 0.5
    out, within = distance_transform_edt(~inked) / FINE, distance_transform_edt(inked) / FINE
    half = width / 2
    expected = {
        "outside": (out > 0) & (out <= width),
        "inside": (within > 0) & (within <= width),
        "centre": ((out > 0) & (out <= half)) | ((within > 0) & (within <= half)),
    }[side]
    outline = Outline(id="o", width=width, colour="#ffffff", side=side)
    alpha = (
        paint(project_of(words(Look(parts=(outline,))), background="#00000000"))[..., 3].astype(float) / 255
    )
    assert alpha.sum() == pytest.approx(averaged(expected.astype(float)).sum(), rel=0.012)


def test_shadows_grow_with_the_words_and_the_light_stays():
    shadow = Shadow(id="s", x=20.0, y=0.0, blur=0.0, colour="#00ff00")
    look = Look(parts=(Fill(id="f", paint=Plain(colour="#ff0000")), shadow))

    def shift(**place):
        picture = paint(
            project_of(
                title("I", look=look, text={"size": 120.0}, transform=Transform(**place)),
                background="#000000",
            )
        )
        red, green = picture[..., 2] > 128, picture[..., 1] > 128
        return np.argwhere(green).max(axis=0) - np.argwhere(red).max(axis=0)

    assert shift().tolist() == [0, 20]
    assert shift(scale_x=0.5, scale_y=0.5).tolist() == [0, 10]
    assert np.abs(shift(rotation_z=90.0) - [0, 20]).max() <= 1


def test_an_outline_only_look_casts_its_ring():
    ring = Look(parts=(Outline(id="o", width=4.0, colour="#ffffff"), Glow(id="g", size=3.0, strength=1.0)))
    picture = paint(project_of(title("I", look=ring, text={"size": 300.0}), background="#00000000"))
    middle = picture[SIZE[1] // 2, SIZE[0] // 2, 3]
    assert middle < 40, "the letter's inside stays open"


def test_gradients_run_over_the_block_or_over_each_letter():
    paint_ = Linear(angle=0, stops=(Stop(at=0, colour="#000000"), Stop(at=1, colour="#ffffff")))

    def first_and_last(over):
        clip = words(Look(parts=(Fill(id="f", paint=paint_, over=over),)), text="IIII")
        picture = paint(project_of(clip, background="#ff000000"))[SIZE[1] // 2]
        inked = np.flatnonzero(picture[:, 3] == 255)
        edges = np.flatnonzero(np.diff(inked) > 1)
        return picture[inked[: edges[0]], 1].astype(int), picture[inked[edges[-1] + 1 :], 1].astype(int)

    block, letter = first_and_last("block"), first_and_last("letter")
    assert block[0].max() < 60
    assert block[1].min() > 190
    for part in letter:
        assert part.min() < 30
        assert part.max() > 225


def test_coloured_letters_keep_their_colour_in_a_gradient():
    ramp = Linear(angle=0, stops=(Stop(at=0, colour="#000000"), Stop(at=1, colour="#000000")))
    clip = title("II", look=Look(parts=(Fill(id="f", paint=ramp),)),
                 text={"size": 200.0, "styles": (OwnStyle(start=1, end=2, colour="#00ff00"),)})  # fmt: skip
    row = paint(project_of(clip, background="#00000000"))[SIZE[1] // 2]
    solid = row[row[:, 3] == 255]
    assert {tuple(px) for px in solid.tolist()} == {(0, 0, 0, 255), (0, 255, 0, 255)}


def test_boxes_stand_behind_each_line_as_wide_as_it():
    box = Box(id="b", paint=Plain(colour="#00ff00"), padding_x=10.0, padding_y=6.0, radius=0.0, over="line")
    look = Look(parts=(Fill(id="f", paint=Plain(colour="#00ff00")), box))
    picture = paint(
        project_of(
            title("WIDE LINE\nI", look=look, text={"size": 60.0, "leading": 1.6}), background="#000000"
        )
    )
    rows = np.flatnonzero((picture[..., 1] == 255).any(axis=1))
    parts = np.split(rows, np.flatnonzero(np.diff(rows) > 1) + 1)
    widths = [int((picture[part[len(part) // 2], :, 1] == 255).sum()) for part in parts]
    assert len(parts) == 2
    assert widths[0] > 4 * widths[1] > 80


def test_a_box_goes_with_its_words():
    look = Look(parts=(*look_of("#ffffff").parts, Box(id="b", paint=Plain(colour="#00ff00"))))
    for move in (pop(), wave()):
        clip = title("Kite", moves=[move], look=look)
        still = picture_plan(project_of(title("Kite", look=look)), 0).layers[0].parts[0]
        at_rest, away = (picture_plan(project_of(clip), frame).layers[0] for frame in (59, 1))
        assert np.array_equal(at_rest.parts[0].matrices, still.matrices)
        assert away is None or not np.array_equal(away.parts[0].matrices, still.matrices)


@pytest.mark.parametrize("angle", [0, 17, 45, 90, 133, 180, 250, 315])
def test_a_sweep_goes_its_way_to_the_edge(angle):
    mask = np.zeros((120, 160), np.uint8)
    mask[55:66, 70:91] = 255
    swept = sweep(mask, angle)
    ys, xs = np.mgrid[0:120, 0:160]
    x, y = np.cos(np.radians(angle)), np.sin(np.radians(angle))
    expected = np.zeros(mask.shape, bool)
    for step in np.arange(0, 220, 0.25):
        back_x, back_y = xs - step * x, ys - step * y
        expected |= (back_x >= 69.5) & (back_x < 90.5) & (back_y >= 54.5) & (back_y < 65.5)
    wrong = (swept > 127) != expected
    near = distance_transform_edt(expected) + distance_transform_edt(~expected)
    assert not (wrong & (near > 1.8)).any(), "nothing but the edge px differs"


def test_a_blur_is_the_gaussian_of_the_layer_and_reaches_in_from_outside():
    def alpha(**fields):
        return paint(project_of(words(look_of("#ffffff"), **fields), background="#00000000"))[..., 3].astype(
            float
        )

    sharp, soft = alpha(), alpha(transform=Transform(blur_x=9.0, blur_y=3.0))
    assert np.abs(soft - gaussian_filter(sharp, (3.0, 9.0), truncate=6)).max() < 3
    out = alpha(transform=Transform(x=-440.0, blur_x=20.0))
    wide = project_of(
        words(look_of("#ffffff"), transform=Transform(x=-440.0)), size=(1240, 360), background="#00000000"
    )
    whole = gaussian_filter(paint(wide)[..., 3].astype(float), (0, 20.0), truncate=6)[:, 300:940]
    assert np.abs(out - whole).max() < 3


def test_a_group_is_blurred_as_one():
    inside = (Track(id="a", clips=(words(look_of("#ffffff"), id="w"),)),)
    group = GroupClip(id="g", length=60, tracks=inside, transform=Transform(blur_x=5.0, blur_y=5.0))
    alone = words(look_of("#ffffff"), transform=Transform(blur_x=5.0, blur_y=5.0))
    difference = paint(project_of(group)).astype(int) - paint(project_of(alone)).astype(int)
    assert np.abs(difference).max() <= 1


def test_emoji_are_pictures_that_turn_fade_and_cast():
    look = look_of("#ffffff")
    red = title("🟥", look=look, text={"size": 200.0}, transform=Transform(rotation_z=45.0, opacity=0.5))
    picture = paint(project_of(red, background="#00000000"))
    middle = picture[SIZE[1] // 2, SIZE[0] // 2]
    assert middle[3] == 128 or middle[3] == 127
    assert middle[2] > 2 * middle[1], "it is red, whatever the fill"
    glowing = Look(parts=(*look.parts, Glow(id="g", size=8.0)))
    around = paint(project_of(title("🟥", look=glowing, text={"size": 200.0}), background="#00000000"))
    assert (around[..., 3] > 0).sum() > 1.2 * (
        paint(project_of(title("🟥", look=look, text={"size": 200.0}), background="#00000000"))[..., 3] > 0
    ).sum()


def test_parts_lie_in_the_order_of_the_look():
    fill, line = (
        Fill(id="f", paint=Plain(colour="#0000ff")),
        Outline(id="o", width=12.0, colour="#ff0000", side="centre"),
    )
    blue = [
        int((paint(project_of(words(Look(parts=parts))))[..., 0] > 128).sum())
        for parts in itertools.permutations((fill, line))
    ]
    assert blue[0] > blue[1], "the outline on the edge covers the fill when it is above it"
