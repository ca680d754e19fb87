"""Lines of captions: none too long, none too many, nothing lost, parted at phrases."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from rovix.text.caption_lines import caption_parts

_WORD = st.builds(
    str.__add__, st.text(alphabet="abcdefgh", min_size=1, max_size=8), st.sampled_from(["", ".", ","])
)
WORDS = st.lists(_WORD, min_size=1, max_size=60).map(" ".join)


@given(WORDS, st.integers(9, 50), st.integers(1, 3))
def test_every_part_fits_and_all_words_are_there_in_order(text, letters, lines):
    parts = caption_parts(text, letters, lines)
    assert all(len(part.lines) <= lines for part in parts)
    assert all(0 < high - low <= letters for part in parts for low, high in part.lines)
    assert " ".join(part.words(text).replace("\n", " ") for part in parts).split() == text.split()


@given(WORDS, st.integers(9, 50))
def test_a_character_of_the_text_is_found_in_the_words(text, letters):
    for part in caption_parts(text, letters, 2):
        words = part.words(text)
        for low, high in part.lines:
            assert all(words[part.place(at)] == text[at] for at in range(low, high))


def test_lines_are_about_equally_long():
    (part,) = caption_parts("Kites rise over the hill and the harbour today", 38, 2)
    one, two = part.words("Kites rise over the hill and the harbour today").split("\n")
    assert abs(len(one) - len(two)) <= 6


def test_long_cues_are_parted_where_a_phrase_ends():
    text = "The kites go up at noon, whatever the weather may be, and come down again when the lamps are lit."
    parts = caption_parts(text, 30, 2)
    assert [part.words(text).replace("\n", " ")[-1] for part in parts][:-1] == [","] * (len(parts) - 1)


def test_lines_that_fit_stay_as_they_are():
    (part,) = caption_parts("Up\nand away", 20, 2)
    assert part.words("Up\nand away") == "Up\nand away"


def test_a_text_without_blanks_is_broken_as_its_script_lets_it():
    text = "凧が丘の上に上がり、一日中風が吹いています。"
    parts = caption_parts(text, 8, 2)
    assert "".join(part.words(text).replace("\n", "") for part in parts) == text
    assert all(high - low <= 8 for part in parts for low, high in part.lines)


def test_nothing_gives_nothing():
    assert caption_parts("   ", 20, 2) == []
