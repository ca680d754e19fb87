"""What each channel of a move does, read from `describe` and from pictures."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import look_of, project_of, title
from rovix.curve.transfer import light_to_srgb, srgb_to_light
from rovix.model import (
    Amount,
    Chance,
    Departure,
    Echoes,
    Fill,
    Glow,
    Look,
    Move,
    Plain,
    ShapeClip,
    Text,
    Transform,
)
from rovix.motion import describe, picture_plan, plan_key
from rovix.motion.departure_keys import departure_keys
from rovix.motion.figures import numbers_in
from rovix.motion.layer import LayerMotion
from rovix.motion.random import draws, splitmix64
from rovix.paint.painter import Painter
from rovix.text import lay_out
from rovix.time import Rate


def away(channel, value=0.0, unit="px", **fields):
    return Departure(channel=channel, amount=Amount(value=value, unit=unit), **fields)


def move(*channels, **fields):
    return Move(channels=channels, **({"role": "entrance", "length": 1.0, "piece_curve": "linear"} | fields))


def painted(project, frame):
    return Painter(None).paint(picture_plan(project, frame)).astype(int)


def layer(project, frame):
    return describe(project, frame)["layers"][0]


def seen(picture):
    """Columns and rows in which anything is to be seen."""
    return np.flatnonzero(picture[..., :3].max(axis=(0, 2)) > 8), np.flatnonzero(
        picture[..., :3].max(axis=(1, 2)) > 8
    )


@pytest.mark.parametrize("align", ["left", "centre", "right"])
@pytest.mark.parametrize("text", ["Larkmoor Kites", "wind\nfrom the west", "שלום kites", "ab", ""])
def test_tracking_parts_letters_as_setting_them_with_it_would(align, text):
    words = {"size": 50.0, "align": align}
    project = project_of(title(text, text=words, moves=[move(away("tracking", 0.3))]))
    moved = picture_plan(project, 0).layers
    tracked = lay_out(Text(content=text, tracking=0.3, size=50.0, align=align), ligatures=False)
    if not moved:
        assert not text
        return
    plan = moved[0]
    x = plan.layout.x + plan.matrices[plan.of_glyph, 0, 2] - 320
    inked = np.isfinite(tracked.ink[:, 0])
    assert x[inked] == pytest.approx(tracked.x[inked], abs=1e-6)
    assert layer(project, 0)["pieces"][0]["tracking"] == pytest.approx(0.3)
    assert layer(project, 30)["pieces"][0]["tracking"] == 0


def test_what_letters_turn_about_goes_with_their_tracking():
    both = move(
        away("tracking", 0.5), away("rotation_z", 180.0), pivot="letter", pieces="letters", at_once=100.0
    )
    project = project_of(title("oo", text={"size": 80.0}, moves=[both]))
    columns, _ = seen(painted(project, 0))
    alone = project_of(title("oo", text={"size": 80.0, "tracking": 0.5}))
    assert abs(columns - seen(painted(alone, 0))[0]).max() <= 1  # an o turned about is an o


def test_blurs_of_layer_and_move_add_as_variances_do():
    soft = Transform(blur_x=6.0)
    project = project_of(title(transform=soft, moves=[move(away("blur_x", 8.0))]))
    assert layer(project, 0)["pieces"][0]["blur_x"] == pytest.approx(10.0)
    as_one = project_of(title(transform=Transform(blur_x=10.0)))
    assert plan_key(picture_plan(project, 0)) == plan_key(picture_plan(as_one, 0))


def test_letters_sharpen_one_by_one():
    by_letter = move(away("blur", 12.0), pieces="letters", at_once=1.0)
    project = project_of(title("lll lll", text={"size": 90.0}, moves=[by_letter]))
    picture, sharp = painted(project, 15), painted(project, 30)
    columns, _ = seen(sharp)
    third = (columns.max() - columns.min()) // 3 + columns.min()
    assert (picture[:, :third] == sharp[:, :third]).all()
    assert np.abs(picture[:, -third:] - sharp[:, -third:]).max() > 60


def test_a_wipe_of_half_shows_half_of_each_piece():
    bar = ShapeClip(id="bar", length=60, width=200, height=100, moves=(move(away("wipe", 0.0, angle=0.0)),))
    half = painted(project_of(bar), 15)
    columns, rows = seen(half)
    assert (columns.min(), columns.max()) == (220, 319)  # half of the bar, the room around it aside
    assert len(rows) == 100
    assert layer(project_of(bar), 15)["pieces"][0]["wipe"] == 0.5
    words = project_of(
        title("HH", text={"size": 100.0}, moves=[move(away("wipe"), pieces="letters", at_once=100.0)])
    )
    whole, part = (painted(words, frame)[..., :3].sum() for frame in (30, 15))
    assert 0.3 < part / whole < 0.8


def test_letters_rise_out_of_an_unseen_edge_under_them():
    slot = move(away("y", 1.0, "piece"), away("open_bottom"), pieces="letters", at_once=2.0)
    project = project_of(title("Kites", text={"size": 100.0}, moves=[slot], look=look_of("#ffffff")))
    assert layer(project, 0)["bounds"] is None
    assert not painted(project, 0)[..., :3].any()
    middle, rest = painted(project, 15), painted(project, 30)
    # The edge lies a px beyond the ink, so that it never cuts what rests.
    assert seen(middle)[1].max() <= seen(rest)[1].max() + 1
    assert seen(middle)[1].max() >= seen(rest)[1].max() - 1
    bounds = layer(project, 15)["bounds"]
    assert bounds[3] == pytest.approx(layer(project, 30)["bounds"][3] + 1)
    assert plan_key(picture_plan(project, 30)) == plan_key(
        picture_plan(project_of(title("Kites", text={"size": 100.0}, moves=[move(pieces="letters")], look=look_of("#ffffff"))), 30)
    )  # fmt: skip


def test_an_offset_wraps_round_the_frame():
    small = {"size": 60.0}
    turned = project_of(
        title("Kite", text=small, moves=[move(away("offset_x", 0.25, "frame"))]), size=(400, 200)
    )
    still = painted(project_of(title("Kite", text=small), size=(400, 200)), 0)
    # numpy.roll is the reference for whole px.
    assert np.abs(painted(turned, 0) - np.roll(still, 100, axis=1)).max() <= 2
    assert layer(turned, 0)["offset"] == [100, 0]
    many = project_of(title("Kite", text=small, moves=[move(away("offset_x", 12, "frame"))]), size=(400, 200))
    assert layer(many, 15)["offset"] == pytest.approx([2400, 0])
    assert (painted(many, 30) == still).all()


def test_a_colour_is_mixed_in_code_values_or_in_light():
    for mix, between in (("srgb", lambda a, b: (a + b) / 2), ("linear", None)):
        red = away("colour", 1.0, colour="#ff0000", mix=mix)
        project = project_of(title("H", moves=[move(red)], look=look_of("#ffffff")))
        fill = next(part for part in picture_plan(project, 15).layers[0].parts)
        assert float(fill.mixes[0].shares[0]) == 0.5
        middle = painted(project, 15).reshape(-1, 4)[:, 1].max()
        # CSS Color Level 4, section 12: halfway between the components, linear light after decoding.
        expected = (
            between(255, 0) if between else 255 * light_to_srgb((srgb_to_light(1.0) + srgb_to_light(0.0)) / 2)
        )
        assert middle == pytest.approx(float(expected), abs=1)


def test_two_colours_lie_over_each_other_in_the_order_of_the_moves():
    red, blue = (move(away("colour", 1.0, colour=colour)) for colour in ("#ff0000", "#0000ff"))
    project = project_of(title("H", moves=[red, blue], look=look_of("#ffffff")))
    brightest = painted(project, 15).reshape(-1, 4).max(axis=0)
    # (white over red by half) under blue by half: b 255·.25 + 127.5, g 63.75, r 255·.25 + 63.75.
    assert brightest[:3] == pytest.approx([191, 64, 128], abs=1)


def test_shapes_and_pictures_take_colours_too():
    bar = ShapeClip(
        id="bar",
        length=60,
        fill=Plain(colour="#ffffff"),
        moves=(move(away("colour", 1.0, colour="#000000")),),
    )
    assert painted(project_of(bar), 15)[180, 320, 0] == pytest.approx(127.5, abs=1)


def test_letters_are_typed_by_count():
    project = project_of(title("Kite day", moves=[move(away("typed", 0.0))]))
    counts = [sum(p["shown"] for p in layer(project, frame)["pieces"]) for frame in range(31)]
    assert counts[0] == 0
    assert counts[30] == 7
    assert counts == sorted(counts)
    assert counts[15] == 3  # floor(0.5 · 7): the blank belongs to the letter before it


def test_swapped_letters_settle_and_keep_their_places():
    swap = away("letters", 1.0, chance=Chance(rate=10, seed=3))
    project = project_of(
        title("Kite 42 אב", moves=[move(swap, pieces="letters", at_once=2.0)], look=look_of())
    )
    texts = ["".join(p["text"] for p in layer(project, frame)["pieces"]) for frame in range(31)]
    assert texts[30] == "Kite 42 אב"
    assert len({text[1] for text in texts[:6]}) > 1
    first = texts[0]
    assert (first[0].isupper(), first[1:4].islower(), first[5:7].isdigit()) == (True, True, True)
    assert all(a != b for a, b in zip(first, "Kite 42 אב", strict=True) if b != " ")
    # Drawn ten times a second, a letter stays for three frames of thirty.
    assert texts[0][3] == texts[1][3] == texts[2][3]
    swapped, rest = (picture_plan(project, frame).layers[0].layout for frame in (0, 30))
    assert middles(swapped) == pytest.approx(rest.x + rest.advance / 2, abs=3)  # but for kerning


def middles(layout):
    """The middle of each glyph's own advance, by HarfBuzz, where it stands."""
    faces = [layout.faces[face] for face in layout.face.tolist()]
    pairs = zip(faces, layout.glyph.tolist(), strict=True)
    own = [face.hb_font.get_glyph_h_advance(glyph) / face.upem for face, glyph in pairs]
    return layout.x + np.array(own) * layout.em / 2


@settings(max_examples=200, deadline=None)
@given(st.integers(-999_999, 9_999_999), st.integers(0, 3), st.booleans(), st.floats(-1e6, 1e6))
def test_figures_are_written_as_format_writes_them(whole, decimals, grouped, value):
    # Python's format() is the reference.
    spec = f"{',' if grouped else ''}.{decimals}f"
    text = f"Wind {format(whole / 7, spec)} km"
    numbers = numbers_in(text)
    assert len(numbers) == 1
    assert text[numbers[0].start : numbers[0].end] == format(whole / 7, spec)
    if grouped and abs(whole / 7) < 999.5:
        spec = spec.lstrip(",") if abs(value) < 999.5 else spec
    if numbers[0].group or not grouped:
        written = numbers[0].written(value)
        expected = format(value, spec)
        negative_nothing = not expected.strip("-0.,")
        assert written.replace("−", "-") == (expected.lstrip("-") if negative_nothing else expected)


def test_figures_count_up_to_the_number_in_the_words():
    count = away("figures", 0.0, "number")
    project = project_of(title("Wind 1,250 m in 2026", moves=[move(count)]))
    said = ["".join(p["text"] for p in layer(project, frame)["pieces"]) for frame in (0, 15, 24, 30)]
    assert said == ["Wind 0 m in 0", "Wind 625 m in 1013", "Wind 1,000 m in 1621", "Wind 1,250 m in 2026"]
    counting, rest = (picture_plan(project, frame).layers[0].layout for frame in (15, 30))
    at = dict(zip(counting.cluster.tolist(), middles(counting), strict=True))
    own = dict(zip(rest.cluster.tolist(), (rest.x + rest.advance / 2).tolist(), strict=True))
    # Each figure of 625 stands in the middle of the place that one of 1,250 has at rest.
    assert [at[n] for n in (7, 8, 9)] == pytest.approx([own[n] for n in (7, 8, 9)], abs=1e-6)
    down = project_of(title("3", moves=[move(away("figures", 1000.0, "number"))]))
    assert layer(down, 0)["pieces"][0]["text"] == "1000"


def test_numbers_count_in_their_own_figures():
    project = project_of(title("हवा १२ मील", moves=[move(away("figures", 0.0, "number"))]))
    said = ["".join(p["text"] for p in layer(project, frame)["pieces"]) for frame in (15, 30)]
    assert said == ["हवा ६ मील", "हवा १२ मील"]


def test_a_lane_of_figures_shows_the_number_that_is_said():
    clip = title("Wind 1,250 m", length=60, moves=[move(away("figures", 250.0, "number"))])
    found = departure_keys(LayerMotion(clip, (640, 360), Rate(30)), 0, 0, 0)
    assert [key.value for key in found.keys.keys] == [250.0, 1250.0]
    assert found.unit == 1.0


def test_shaking_is_drawn_from_the_seed_and_stays_within_its_amount():
    def ways(seed, smooth=False):
        shake = away("x", 20.0, chance=Chance(rate=15, seed=seed, smooth=smooth))
        project = project_of(title("Kite", moves=[move(shake, pieces="letters", stagger=0.0)]))
        return np.array([[p["x"] for p in layer(project, f)["pieces"]] for f in range(31)])

    one, again, other, smooth = ways(1), ways(1), ways(2), ways(1, smooth=True)
    assert (one == again).all()
    assert (one != other).any()
    assert np.abs(one).max() <= 20
    assert (one[30] == 0).all()
    assert len(set(one[0])) == 4
    assert one[0] / 30 == pytest.approx(one[1] / 29)  # held for two frames, ebbing
    assert np.abs(np.diff(smooth, axis=0)).max() < np.abs(np.diff(one, axis=0)).max()


def test_draws_begin_as_splitmix64_does():
    for seed in (0, 1, 42, 2**53):
        assert int(draws(seed)) == next(splitmix64(seed))
    drawn = draws(7, np.arange(20_000)) >> np.uint64(11)
    shares = drawn.astype(float) * 2.0**-53
    # Pearson's chi squared over 20 bins: 43.8 is passed by one in a thousand (from memory).
    counts = np.histogram(shares, bins=20, range=(0, 1))[0]
    assert (((counts - 1000) ** 2) / 1000).sum() < 43.8


def test_echoes_trail_a_move_and_are_gone_at_rest():
    trail = away("echo", 0.5, curve="hold", echoes=Echoes(copies=3, gap=0.1))
    project = project_of(title("Kite", moves=[move(away("x", -300.0), trail)]))
    found = layer(project, 9)["echoes"]
    assert [(e["frame"], e["strength"]) for e in found] == [(6, 0.5), (3, 0.25), (0, 0.125)]
    assert "echoes" not in layer(project, 30)
    plan = picture_plan(project, 9).layers[0]
    assert len(plan.copies) == 4
    assert [float(copy.matrices[0][0, 2]) for copy, _ in plan.copies] == pytest.approx(
        [320 - 300 + 10 * frame for frame in (0, 3, 6, 9)]
    )


def test_glows_and_shadows_go_by_the_piece():
    look = Look(parts=(Fill(), Glow(size=10.0, colour="#ff8000")))
    by_letter = move(away("glow_opacity", 0.0), pieces="letters", at_once=0.0)
    project = project_of(title("l        l", text={"size": 90.0}, look=look, moves=[by_letter]))
    first, last = painted(project, 10), painted(project, 30)
    assert first[:, 320:].sum() < last[:, 320:].sum()
    assert (first[:, :320] == last[:, :320]).all()


def test_draws_hold_through_whole_frames():
    swap = move(away("letters", 1.0), away("x", 9.0, chance=Chance(rate=30)))
    project = project_of(title("Kite", moves=[swap]))
    held = [plan_key(picture_plan(project, at).layers[0].layout) for at in (4, 4.5, 4.9)]
    assert len(set(held)) == 1
