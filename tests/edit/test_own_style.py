import pytest
from hypothesis import given
from hypothesis import strategies as st

from builders import project_of, title
from rovix.edit import change_text, clip_by_id
from rovix.edit.own_style import common_style, retyped, style_at, styled
from rovix.edit.text import set_style
from rovix.model import Text
from rovix.model.consistency import inconsistencies
from rovix.model.text import OwnStyle

TEXT = "Larkmoor Kite Day"


def red(start, end, text=TEXT):
    return styled(Text(content=text), start, end, colour="#ff0000")


def parts(words):
    return [(words.content[d.start : d.end], d.colour, d.weight) for d in words.styles]


def test_style_twice_splits_and_joins():
    words = styled(red(0, 8), 4, 13, weight=900)
    assert parts(words) == [("Lark", "#ff0000", None), ("moor", "#ff0000", 900), (" Kite", None, 900)]
    assert parts(styled(words, 0, 13, weight=None)) == [("Larkmoor", "#ff0000", None)]
    assert styled(words, 0, 17, weight=None, colour=None).styles == ()


def test_what_letters_have_in_common():
    words = red(0, 8)
    assert common_style(words, 2, 5, "colour") == "#ff0000"
    assert common_style(words, 9, 12, "colour") is None
    with pytest.raises(ValueError, match="differ in colour"):
        common_style(words, 5, 12, "colour")


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("The Larkmoor Kite Day", "Kite"),  # typed before
        ("Larkmoor Kitte Day", "Kitte"),  # inside
        ("Larkmoor Kites Day", "Kites"),  # right behind
        ("Larkmoor Day", None),  # taken out
        ("Larkmoor String Day", "String"),  # in its place
        ("Larkmoor Kite", "Kite"),  # after it
    ],
)
def test_a_style_stays_with_its_letters(text, expected):
    words = retyped(red(9, 13), text)
    assert [part for part, _, _ in parts(words)] == ([] if expected is None else [expected])


@given(
    st.lists(
        st.tuples(st.integers(0, 17), st.integers(0, 17), st.sampled_from([None, "#010203", "#ffffff"])),
        max_size=6,
    ),
    st.text(max_size=24),
)
def test_styles_are_always_in_order_and_inside(steps, text):
    words = Text(content=TEXT)
    for start, end, colour in steps:
        words = styled(words, start, end, colour=colour)
        for at in range(min(start, end), end):
            assert getattr(style_at(words, at), "colour", None) == colour
    for made in (words, retyped(words, text)):
        clip = title(made.content)
        assert not inconsistencies(project_of(type(clip)(id="t", length=9, text=made)))


def test_retyping_a_layer_keeps_its_styles():
    project = set_style(project_of(title(TEXT)), "title", 9, 13, family="Oswald")
    project = change_text(project, "title", content="Larkmoor Big Kite Day")
    words = clip_by_id(project, "title").text
    assert [(words.content[d.start : d.end], d.family) for d in words.styles] == [("Kite", "Oswald")]


def test_styles_that_overlap_or_leave_the_text_are_named():
    words = Text(
        content="Kite", styles=(OwnStyle(start=0, end=3), OwnStyle(start=2, end=4), OwnStyle(start=3, end=9))
    )
    clip = title()
    found = [str(p) for p in inconsistencies(project_of(type(clip)(id="t", length=9, text=words)))]
    assert any("styles[1].start: 2 lies in the style before it" in problem for problem in found)
    assert any("styles[2]: it is no part of a text of 4 characters" in problem for problem in found)
