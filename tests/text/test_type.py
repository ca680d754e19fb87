"""Type: cases, axes, features, figures of one width, parts dressed otherwise, boxes."""

import itertools

import numpy as np
import pytest
import uharfbuzz as hb
from hypothesis import given
from hypothesis import strategies as st

from rovix.model import Text
from rovix.model.text import Axis, Feature, OwnStyle
from rovix.text import lay_out, match_face, words
from rovix.text.breaking import paragraphs, wrapped
from rovix.text.caret import caret_at, index_at
from rovix.text.casing import cased
from rovix.text.catalogue import FONTS, axes_of, shipped, weights_of

LOREM = "Bring a long string, a coat and a friend who can run; the wind at Larkmoor does the rest."


def harfbuzz_advances(path, text, size, features=None, variations=None):
    font = hb.Font(hb.Face(hb.Blob.from_file_path(path)))
    font.set_variations(variations or {})
    buffer = hb.Buffer()
    buffer.add_str(text)
    buffer.guess_segment_properties()
    hb.shape(font, buffer, features or {})
    return [position.x_advance * size / font.face.upem for position in buffer.glyph_positions]


def test_the_width_axis_is_the_fonts_own():
    path = str(FONTS / "archivo" / "Archivo[wdth,wght].ttf")
    for width in (62.0, 100.0, 125.0):
        layout = lay_out(
            Text(content="Larkmoor", family="Archivo", weight=750, axes=(Axis(tag="wdth", value=width),))
        )
        expected = harfbuzz_advances(path, "Larkmoor", 120.0, variations={"wght": 750, "wdth": width})
        np.testing.assert_allclose(layout.advance, expected, atol=1e-6)


def test_an_axis_beyond_its_range_stays_at_its_end_and_an_unknown_one_does_nothing():
    def widths(**axes):
        set_to = tuple(Axis(tag=tag, value=value) for tag, value in axes.items())
        return lay_out(Text(content="Kite", family="Archivo", axes=set_to)).advance.tolist()

    assert widths(wdth=900.0) == widths(wdth=125.0) != widths()
    assert widths(SHRP=10.0) == widths()


def test_a_family_says_its_axes_and_weights():
    assert {axis.tag: (axis.low, axis.high) for axis in axes_of("Archivo")} == {
        "wght": (100, 900),
        "wdth": (62, 125),
    }
    assert axes_of("Outfit") == ()
    assert weights_of("Oswald") == [300, 500, 700]
    assert weights_of("Archivo") == []
    assert "Italic" in match_face("Archivo", 400, italic=True).face.key.path


def test_features_reach_harfbuzz():
    style = shipped()["Inter"][-1]
    line = "12:41 – 11 affine"
    tabular = lay_out(
        Text(content=line, family="Inter", features=(Feature(tag="tnum"), Feature(tag="liga", value=0)))
    )
    expected = harfbuzz_advances(style.path, line, 120.0, {"tnum": True, "liga": False})
    np.testing.assert_allclose(tabular.advance, expected, atol=1e-6)


@pytest.mark.parametrize("family", ["Playfair Display", "Alfa Slab One", "Caveat", "Archivo", "Heebo"])
def test_figures_of_any_face_can_have_one_width(family):
    one, other = (
        lay_out(Text(content=text, family=family, weight=700, fixed_figures=True))
        for text in ("11:11", "40:88")
    )
    assert one.lines[0].width == pytest.approx(other.lines[0].width)
    assert len({round(advance, 6) for advance in np.delete(one.advance, 2)}) == 1
    middles = (one.ink[:, 0] + one.ink[:, 2]) / 2 - one.x
    assert abs(middles[0] - one.advance[0] / 2) < one.advance[0] / 3, (
        "a narrow figure stands about in its middle"
    )


def test_cases_keep_where_each_letter_came_from():
    assert cased("straße", "upper") == ("STRASSE", [0, 1, 2, 3, 4, 4, 5])
    assert cased("wind from the west", "title")[0] == "Wind From The West"
    assert cased("ΟΔΟΣ", "lower")[0] == "οδος", "the sigma at the end is the final one"
    assert cased("Kite", "as-typed") == ("Kite", [0, 1, 2, 3])


def test_capitals_are_shaped_as_if_typed_and_the_caret_stays_right():
    shown = lay_out(Text(content="Straße", case="upper", align="left"))
    typed = lay_out(Text(content="STRASSE", align="left"))
    np.testing.assert_allclose(shown.advance, typed.advance)
    assert shown.text == "Straße"
    assert caret_at(shown, 6)[0] == pytest.approx(shown.lines[0].width)


def test_a_dressed_part_has_its_own_face_size_and_colour():
    words_ = Text(
        content="Kite Day", size=100.0, align="left",
        styles=(OwnStyle(start=5, end=8, family="Oswald", weight=500, size=2.0, colour="#ff0000"),),
    )  # fmt: skip
    layout = lay_out(words_)
    path = str(FONTS / "oswald" / "Oswald_500Medium.ttf")
    np.testing.assert_allclose(layout.advance[5:], harfbuzz_advances(path, "Day", 200.0), atol=1e-6)
    assert layout.em.tolist() == [100.0] * 5 + [200.0] * 3
    assert layout.colours == ("#ff0000",)
    assert layout.tint.tolist() == [-1] * 5 + [0] * 3


def test_a_larger_part_makes_room_for_its_line():
    words_ = Text(content="a\nb\nc", size=100.0, leading=1.5, styles=(OwnStyle(start=2, end=3, size=2.0),))
    baselines = [line.baseline for line in lay_out(words_).lines]
    assert np.diff(baselines).tolist() == pytest.approx([300.0, 150.0])
    assert lay_out(words_).block[3] == pytest.approx(-lay_out(words_).block[1])


def test_a_colour_does_not_part_letters_that_join():
    plain = lay_out(Text(content="مرحبا"))
    coloured = lay_out(Text(content="مرحبا", styles=(OwnStyle(start=2, end=3, colour="#00ff00"),)))
    assert plain.glyph.tolist() == coloured.glyph.tolist()


def test_lines_break_to_the_box_and_blanks_hang():
    layout = lay_out(Text(content=LOREM, size=60.0, wrap=900.0, align="left"))
    assert len(layout.lines) > 2
    assert all(line.width <= 900 for line in layout.lines)
    shown = [LOREM[line.start : line.end] for line in layout.lines]
    assert " ".join(shown) == LOREM
    following = lay_out(Text(content=f"{shown[0]} {shown[1].split()[0]}", size=60.0))
    assert following.lines[0].width > 900, "no word would have fitted that is on the next line"


def test_balanced_lines_are_as_few_and_more_even():
    def widths(balance):
        return [
            line.width for line in lay_out(Text(content=LOREM, size=60.0, wrap=900.0, balance=balance)).lines
        ]

    plain, even = widths(False), widths(True)
    assert len(plain) == len(even)
    assert np.ptp(even) < np.ptp(plain)
    assert max(even) <= 900


def test_a_word_wider_than_the_box_is_broken_between_letters():
    layout = lay_out(Text(content="Drachenflugveranstaltung 🇫🇷🇩🇪", size=100.0, wrap=300.0))
    assert all(line.width <= 300 for line in layout.lines)
    ends = [line.end for line in layout.lines]
    assert ends[-1] == len(layout.text)
    assert 26 not in ends, "a flag's two characters stay together"


def test_justified_lines_fill_the_box_but_a_paragraphs_last():
    layout = lay_out(Text(content=f"{LOREM}\nSo be it.", size=60.0, wrap=900.0, align="justify"))
    *soft, last, short = layout.lines
    ends = [layout.x[layout.line == n].max() + layout.advance[layout.line == n][-1] for n in range(len(soft))]
    np.testing.assert_allclose(ends, 450.0)
    assert max(last.width, short.width) < 900
    assert {line.left for line in layout.lines} == {-450.0}


def test_a_line_feed_can_part_paragraphs_further():
    words_ = Text(content="Kites and strings\nand wind", size=50.0, wrap=260.0, leading=1.0, paragraph=0.5)
    layout = lay_out(words_)
    steps = np.diff([line.baseline for line in layout.lines]).tolist()
    assert [line.soft for line in layout.lines] == [True, False, False]
    assert steps == pytest.approx([50.0, 75.0])


def test_the_caret_finds_its_place_in_broken_lines():
    layout = lay_out(Text(content=LOREM, size=60.0, wrap=900.0, align="left"))
    second = layout.lines[1].start
    assert index_at(layout, 2000.0, layout.lines[0].baseline) == second - 1, "before the blank that hangs"
    assert caret_at(layout, second)[1] > caret_at(layout, second - 2)[1]


@given(st.text(alphabet="ab  \n,-ノ風नि", max_size=40), st.floats(10, 300), st.booleans())
def test_broken_lines_hold_the_text_once(text, width, balance):
    for part in paragraphs(text):
        inside = text[part.start : part.end]
        lines = wrapped(inside, [30.0] * len(inside), width, balance)
        assert lines[0].start == 0
        assert lines[-1].next == len(inside)
        for before, line in itertools.pairwise(lines):
            assert before.next == line.start
            assert inside[before.end : before.next].isspace() or before.end == before.next


def test_emoji_are_in_colour_unless_the_text_or_the_face_says_outlines():
    # Unicode Technical Standard #51: selector 15 asks for text style, 16 for emoji style.
    def names(text, **fields):
        return [face.key.path.rsplit("/", 1)[-1][:7] for face in lay_out(Text(content=text, **fields)).faces]

    assert names("🪁") == ["Twemoji"]
    assert names("🪁\ufe0e") == ["NotoEmo"]
    assert names("🪁", family="Noto Emoji") == ["NotoEmo"]
    assert names("❤\ufe0f") == ["Twemoji"]
    assert names("❤") != ["Twemoji"]
    assert names("1") == ["Outfit_"]


def test_words_of_a_thai_line_are_found():
    assert "".join(words("ลมแรงมาก")) == "ลมแรงมาก"
