"""Unicode's own rules: its published test file, and ICU as another's reading of them."""

from itertools import groupby
from pathlib import Path

import pytest
from bidi import get_display
from hypothesis import given
from hypothesis import strategies as st
from icu4py.breakers import CharacterBreaker, LineBreaker, WordBreaker

from rovix.text import graphemes, words
from rovix.text.bidi import levels, visual_order
from rovix.text.segments import line_units

# GraphemeBreakTest of Unicode 10 (© 2017 Unicode, Inc., terms of use in the file), as the npm package
# grapheme-splitter carries it.
CASES = Path(__file__).parent.parent / "data" / "GraphemeBreakTest-10.0.0.txt"
# Later versions of the annex changed two rules: an emoji modifier joins any letter before it (GB9, as
# Extend), and a joiner joins only pictographs (GB11).
CHANGED = {"1F3FB", "1F3FF", "200D"}
SCRIPTS = "aZ9 .,'\"-()!?:/%$\u00e9\u0301жΩ風のンगतิ가ا ل\u05d0🇫🇷👨👩\u200d\ufe0f"


def published_cases():
    for line in CASES.read_text(encoding="utf-8").splitlines():
        marks = line.split("#")[0].split()
        if marks and not CHANGED & set(marks):
            letters = "".join(marks).strip("÷").split("÷")
            yield ["".join(chr(int(code, 16)) for code in letter.split("×")) for letter in letters]


def test_letters_are_those_of_unicodes_own_test_file():
    # A lone surrogate is no character of a text.
    cases = [case for case in published_cases() if not any("\ud800" <= c <= "\udfff" for c in "".join(case))]
    wrong = [letters for letters in cases if graphemes("".join(letters)) != letters]
    assert len(cases) > 550
    assert not wrong


@given(st.text(alphabet=SCRIPTS, max_size=30))
def test_letters_are_icus(text):
    assert graphemes(text) == _parts(text, CharacterBreaker(text, "en"))


# Words of Thai, Hangul and ideographs come from a dictionary in ICU; the default rules know none.
@given(st.text(alphabet="aZ9 .,'\"-()!?:/_\u00e9\u0301жΩगतिا ل\u05d0👨\u200d", max_size=30))
def test_words_are_icus(text):
    assert words(text) == _parts(text, WordBreaker(text, "en"))


@pytest.mark.parametrize(
    "text",
    [
        "Bring a long string, a coat and a friend who can run.",
        "12:41 – wind 7,5 m/s (gusts: 14 kn); see https://larkmoor.example/kites?day=1",
        "„Drachen“ steigen – hoch hinaus!",
        "風の日に、凧を揚げる。",
        "Le cerf-volant : « haut » !",
        "नमस्ते दुनिया आज हवा तेज है",
        "Wait… what?! Yes — no.",
    ],
)
def test_lines_may_end_where_icu_says(text):
    assert line_units(text) == _parts(text, LineBreaker(text, "en"))


@given(st.text(alphabet="abc 12,.-%(\u05d0\u05d1\u05d2\u0627\u0628\u0661\u0662", max_size=24))
def test_letters_stand_in_the_order_of_the_unicode_bidi_crate(text):
    # python-bidi's compiled half is another implementation of UAX #9 than the one we call.
    text = text.strip()
    levels_ = levels(text)
    order = [at for part in visual_order_of(levels_) for at in part]
    shown = "".join(text[at] for at in order)
    assert [c for c in shown if c.isalnum()] == [c for c in get_display(text) if c.isalnum()]


def visual_order_of(levels_):
    """The characters of each run in visual order, its own characters turned where it runs leftwards."""
    runs, at = [], 0
    for level, group in groupby(levels_):
        end = at + len(list(group))
        runs.append((level, list(range(at, end))))
        at = end
    order = visual_order([level for level, _ in runs])
    return [runs[n][1][::-1] if runs[n][0] % 2 else runs[n][1] for n in order]


def _parts(text, breaker):
    data = text.encode("utf-16-le")
    return [data[2 * a : 2 * b].decode("utf-16-le") for a, b in breaker.segments()] if text else []
