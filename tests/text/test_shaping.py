"""Against HarfBuzz itself, called plainly."""

from pathlib import Path

import numpy as np
import pytest
import uharfbuzz as hb
from hypothesis import given
from hypothesis import strategies as st

from rovix.model import Text
from rovix.text import families, lay_out, match_face, missing_families
from rovix.text.bidi import base_level, levels, visual_order
from rovix.text.catalogue import shipped


def harfbuzz_width(path: str, text: str, size: float, features=None) -> float:
    font = hb.Font(hb.Face(hb.Blob.from_file_path(path)))
    buffer = hb.Buffer()
    buffer.add_str(text)
    buffer.guess_segment_properties()
    hb.shape(font, buffer, features or {})
    return sum(position.x_advance for position in buffer.glyph_positions) * size / font.face.upem


@pytest.mark.parametrize("family", ["Outfit", "Oswald", "Playfair Display", "Nunito", "Inter", "Heebo"])
def test_line_widths_are_harfbuzz_widths(family):
    style = shipped()[family][0]
    line = "AVAST! Kite Day, 14 knots – To"
    layout = lay_out(Text(content=line, family=family, weight=style.low, size=97.0))
    assert layout.lines[0].width == pytest.approx(harfbuzz_width(style.path, line, 97.0), abs=1e-6)


def test_kerning_brings_letters_together():
    together = lay_out(Text(content="AV", family="Inter", weight=700)).lines[0].width
    apart = sum(lay_out(Text(content=letter, family="Inter", weight=700)).lines[0].width for letter in "AV")
    assert together < apart - 5


def test_ligatures_go_when_letters_part():
    joined = lay_out(Text(content="ffi", family="Playfair Display"))
    parted = lay_out(Text(content="ffi", family="Playfair Display"), ligatures=False)
    assert len(joined.glyph) < 3
    assert len(parted.glyph) == 3


def test_tracking_stands_between_letters_only():
    plain = lay_out(Text(content="KITE", size=100.0))
    wide = lay_out(Text(content="KITE", size=100.0, tracking=0.1))
    assert wide.lines[0].width == pytest.approx(plain.lines[0].width + 3 * 10)


def test_tracking_leaves_joined_scripts_joined():
    plain, wide = (lay_out(Text(content="مرحبا", tracking=tracking)) for tracking in (0.0, 0.3))
    assert wide.lines[0].width == pytest.approx(plain.lines[0].width)


def test_arabic_joins_and_runs_right_to_left():
    layout = lay_out(Text(content="بيت"))
    alone = [lay_out(Text(content=letter)).glyph[0] for letter in "بيت"]
    assert layout.cluster.tolist() == sorted(layout.cluster.tolist(), reverse=True)
    assert not set(layout.glyph.tolist()) & set(alone), "letters take their joined forms"


def test_a_mark_stays_on_its_letter():
    layout = lay_out(Text(content="e\u0301", family="Inter"))
    assert set(layout.cluster.tolist()) == {0}
    assert layout.lines[0].width == pytest.approx(
        lay_out(Text(content="e", family="Inter")).lines[0].width, rel=0.02
    )


def test_mixed_scripts_take_the_faces_that_have_them():
    layout = lay_out(Text(content="Kite שלום नमस्ते مرحبا αβγ 🪁"))
    names = [face.key.path.rsplit("/", 1)[-1].split("_")[0].split("[")[0] for face in layout.faces]
    assert names[0] == "Outfit"
    assert {"Heebo", "Mukta", "Vazirmatn", "Inter", "Twemoji.ttf"} <= set(names)
    assert 0 not in layout.glyph, "no letter falls to the missing glyph"


def test_a_letter_that_no_font_has_still_shows_a_box():
    layout = lay_out(Text(content="\U000f0000"))  # private use
    assert layout.glyph.tolist() == [0]
    assert layout.ink_bounds() is not None


def test_a_missing_family_is_named_and_drawn_with_a_stand_in():
    match = match_face("Larkmoor Grotesk", 700)
    assert match.missing
    assert match.face is match_face("Outfit", 700).face
    assert missing_families(["Inter", "Larkmoor Grotesk", "Larkmoor Grotesk"]) == ["Larkmoor Grotesk"]


def test_the_nearest_weight_is_taken_and_a_variable_face_takes_any():
    assert "900" in match_face("Outfit", 850).face.key.path
    assert match_face("Vazirmatn", 333).face.key.axes == (("wght", 333.0),)
    light, heavy = (match_face("Vazirmatn", weight).face.outline(30).box for weight in (100, 900))
    assert light != heavy


def test_an_italic_the_family_lacks_leans():
    upright, leaning = (match_face("Outfit", 700, italic).face for italic in (False, True))
    glyph = int(lay_out(Text(content="l")).glyph[0])
    assert leaning.outline(glyph).box[2] > upright.outline(glyph).box[2] + 50


@pytest.mark.parametrize(("align", "edge"), [("left", 0), ("right", 2)])
def test_words_are_set_from_their_anchor(align, edge):
    block = lay_out(Text(content="Wind\nfrom the west", align=align)).block
    assert block[edge] == pytest.approx(0)


def test_the_block_is_centred_between_capitals_and_baseline():
    layout = lay_out(Text(content="KITE\nDAY", size=100.0, leading=1.5))
    left, top, right, bottom = layout.block
    assert (left + right, top + bottom) == (pytest.approx(0), pytest.approx(0))
    assert layout.lines[1].baseline - layout.lines[0].baseline == 150
    assert bottom - top == pytest.approx(150 + layout.cap_height)


def test_ink_bounds_are_those_of_the_outlines_by_fonttools():
    from fontTools.pens.boundsPen import ControlBoundsPen
    from fontTools.ttLib import TTFont

    style = shipped()["Alfa Slab One"][0]
    font = TTFont(style.path)
    pen = ControlBoundsPen(font.getGlyphSet())
    font.getGlyphSet()[font.getBestCmap()[ord("g")]].draw(pen)
    layout = lay_out(Text(content="g", family="Alfa Slab One", size=1000.0, align="left"))
    left, _, right, bottom = layout.ink_bounds()
    assert (left, right) == pytest.approx((pen.bounds[0], pen.bounds[2]), abs=0.01)
    assert bottom - layout.lines[0].baseline == pytest.approx(-pen.bounds[1], abs=0.01)


@pytest.mark.parametrize("text", ["", "\n", "  ", "\n\nKite\n", "a\r\nb", "\t", "\u2028", "x" * 5000])
def test_any_text_can_be_laid_out(text):
    layout = lay_out(Text(content=text))
    assert len(layout.lines) == len(text.replace("\r\n", "\n").replace("\u2028", "\n").split("\n"))
    assert np.isfinite(layout.x).all()


@given(st.text(max_size=30))
def test_no_text_breaks_the_layout(text):
    layout = lay_out(Text(content=text))
    assert (layout.cluster < max(1, len(text))).all()
    assert len(layout.ink) == len(layout.glyph)


def test_levels_follow_the_bidirectional_algorithm():
    # UAX #9: digits after Hebrew stand at level 2; the space between them at 1.
    assert levels("ab שם 12") == [0, 0, 0, 1, 1, 1, 2, 2]
    assert base_level("שלום abc") == 1
    assert levels("plain") == [0] * 5


def test_visual_order_turns_the_runs_about():
    # UAX #9 rule L2, worked out by hand.
    assert visual_order([0, 1, 0]) == [0, 1, 2]
    assert visual_order([1, 2, 1]) == [2, 1, 0]
    assert visual_order([0, 1, 2, 1, 0]) == [0, 3, 2, 1, 4]
    assert visual_order([]) == []


def test_the_shipped_families_come_first_and_every_file_is_there():
    assert families()[: len(shipped())] == sorted(shipped())
    for styles in shipped().values():
        assert all(Path(style.path).stat().st_size > 10_000 for style in styles)
