import pytest
from hypothesis import given
from hypothesis import strategies as st

from rovix.model import Text
from rovix.text import graphemes, lay_out, pieces_of, words

KINDS = ("whole", "lines", "words", "letters")
SAMPLES = [
    "Kite Day",
    "Bring a long\nstring, please!",
    "",
    " \n ",
    "नमस्ते दुनिया",
    "مرحبا بكم",
    "👨‍👩‍👧 🇫🇷🇩🇪",
    "각각",
    "e\u0301e",
    "風の日",
]


def texts(text, kind):
    return list(pieces_of(lay_out(Text(content=text)), kind).texts)


@pytest.mark.parametrize("kind", KINDS)
@pytest.mark.parametrize("text", SAMPLES)
def test_pieces_are_the_text(text, kind):
    assert "".join(texts(text, kind)) == text


@given(st.text(max_size=25), st.sampled_from(KINDS))
def test_any_text_is_covered_exactly_once(text, kind):
    layout = lay_out(Text(content=text))
    pieces = pieces_of(layout, kind)
    assert "".join(pieces.texts) == text
    assert (pieces.of_glyph >= 0).all()
    assert (pieces.of_glyph < len(pieces)).all()


def test_words_keep_their_punctuation_and_space():
    assert texts("“Hi”, (you) — now!", "words") == ["“Hi”, ", "(you) ", "— ", "now!"]
    assert texts("don't stop 3.14", "words") == ["don't ", "stop ", "3.14"]


def test_letters_are_what_people_see():
    assert texts("e\u0301a b", "letters") == ["e\u0301", "a ", "b"]
    assert texts("👨‍👩‍👧🇫🇷", "letters") == ["👨‍👩‍👧", "🇫🇷"]


def test_syllables_that_are_drawn_as_one_stay_one():
    assert texts("स्ते", "letters") == ["स्ते"]


def test_lines_part_at_line_feeds():
    assert texts("one\n\ntwo", "lines") == ["one\n\n", "two"]


@given(st.text(max_size=40))
def test_graphemes_and_words_join_back(text):
    assert "".join(graphemes(text)) == text
    assert "".join(words(text)) == text


def test_word_boundaries_are_those_of_uax_29():
    # Examples in the text of Unicode Standard Annex #29, section 4.1.
    assert words('The quick ("brown") fox can\'t jump 32.3 feet, right?') == [
        "The", " ", "quick", " ", "(", '"', "brown", '"', ")", " ", "fox", " ", "can't", " ", "jump", " ",
        "32.3", " ", "feet", ",", " ", "right", "?",
    ]  # fmt: skip
