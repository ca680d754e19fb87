"""Roles and names in columns: either side of the middle, heads on it."""

import numpy as np
import pytest
from msgspec.structs import replace

from builders import project_of, title
from rovix.edit.credits_roll import add_credits
from rovix.edit.text_clips import split_text
from rovix.errors import RovixError
from rovix.model import Text
from rovix.motion import describe, picture_plan
from rovix.paint.painter import Painter
from rovix.text import lay_out
from rovix.text.caret import caret_at, index_at

CREDITS = "Larkmoor Kite Day\n\nWind\tAsta Bergqvist\nLines and knots\tJonas\nTea"


def columns(content=CREDITS, **fields):
    return Text(content=content, size=40.0, align="columns", **fields)


def halves(layout, line):
    """Right end of what stands before the tab, left end of what stands behind it, px."""
    box = layout.lines[line]
    text = layout.text[box.start : box.end]
    tab = box.start + text.index("\t")
    mine = layout.line == line
    before, behind = mine & (layout.cluster < tab), mine & (layout.cluster > tab)
    ends = layout.x + layout.advance
    return ends[before].max(), layout.x[behind].min()


@pytest.mark.parametrize("gap", [0.0, 0.8, 3.0])
@pytest.mark.parametrize("tracking", [0.0, 0.2])
def test_roles_end_and_names_begin_half_a_gap_from_the_middle(gap, tracking):
    layout = lay_out(columns(column_gap=gap, tracking=tracking))
    for line in (2, 3):
        left, right = halves(layout, line)
        assert left == pytest.approx(-gap * 20, abs=tracking * 40 + 0.01)
        assert right == pytest.approx(gap * 20, abs=0.01)


def test_heads_and_lines_without_a_tab_are_centred():
    layout = lay_out(columns())
    for line in (0, 4):
        assert layout.lines[line].left == pytest.approx(-layout.lines[line].width / 2)


@pytest.mark.parametrize("words", ["רוח\tאסתר", "ريح\tأسماء"], ids=["Hebrew", "Arabic"])
def test_words_from_right_to_left_have_the_role_on_the_right(words):
    layout = lay_out(columns(words))
    tab = words.index("\t")
    ends = layout.x + layout.advance
    assert layout.x[layout.cluster < tab].min() == pytest.approx(16.0, abs=0.01)
    assert ends[layout.cluster > tab].max() == pytest.approx(-16.0, abs=0.01)


@pytest.mark.parametrize("content", ["", "\t", "a\t", "\tb", "a\tb\tc", "\t\t"])
def test_empty_sides_and_more_tabs_are_laid_out_and_the_caret_goes_through(content):
    layout = lay_out(columns(content))
    assert np.isfinite(layout.x).all()
    places = [caret_at(layout, index)[0] for index in range(len(content) + 1)]
    assert places == sorted(places)
    y = layout.lines[0].baseline - layout.lines[0].cap / 2
    for x in places:
        assert places[index_at(layout, x, y)] == x


def test_other_alignments_take_a_tab_for_a_blank_as_before():
    blank, tab = (lay_out(Text(content=f"Wind{c}Asta", size=40.0, align="left")) for c in " \t")
    assert np.array_equal(blank.x, tab.x)


def test_split_into_lines_columns_stay_where_they_were():
    project = project_of(title(CREDITS, text={"size": 40.0, "align": "columns"}))
    made, _ = split_text(project, "title", "lines")
    one, other = (Painter(None).paint(picture_plan(p, 5)) for p in (project, made))
    apart = np.abs(one.astype(int) - other.astype(int))
    assert apart.max() <= 6
    assert apart.mean() < 0.01


def test_credits_come_in_from_text_roll_and_are_gone_at_both_ends():
    style = title("", id="credits", text={"size": 30.0})
    made = add_credits(project_of(title()), 10, "\n\nHead \r\nRole\tName\n" + "Kites\tJonas\n" * 30, style)
    (clip,) = (c for t in made.sequence.tracks for c in t.clips if c.id == "credits")
    assert clip.text.content.startswith("Head\nRole\tName\nKites")
    assert (clip.text.align, clip.crossing.way, clip.start) == ("columns", "up", 10)
    for frame in (10, clip.end - 1):
        assert (
            not Painter(None)
            .paint(
                picture_plan(
                    replace(made, sequences=(replace(made.sequence, tracks=made.sequence.tracks[-1:]),)),
                    frame,
                )
            )[..., :3]
            .any()
        )
    steps = np.diff([describe(made, f)["layers"][-1]["pieces"][0]["y"] for f in range(20, 60)])
    assert np.allclose(steps, steps[0])
    assert steps[0] == round(steps[0]) < 0
    with pytest.raises(RovixError, match="no words"):
        add_credits(project_of(title()), 0, " \n\n", style)
    with pytest.raises(RovixError, match="too many"):
        add_credits(project_of(title()), 0, "k" * 100_001, style)
