import pytest
from hypothesis import given
from hypothesis import strategies as st

from rovix.model import Text
from rovix.text import lay_out
from rovix.text.caret import caret_at, index_at, line_of, selection_boxes, step, step_line


def layout_of(text):
    return lay_out(Text(content=text, align="left", size=100.0))


def test_the_caret_stands_at_the_letters_edges():
    layout = layout_of("Kite")
    edges = [caret_at(layout, index)[0] for index in range(5)]
    assert edges[0] == pytest.approx(0)
    assert edges[-1] == pytest.approx(layout.lines[0].width)
    assert edges == sorted(edges)


def test_right_to_left_words_run_the_other_way():
    layout = layout_of("שלום")
    edges = [caret_at(layout, index)[0] for index in range(5)]
    assert edges == sorted(edges, reverse=True)


def test_a_point_finds_the_nearest_edge():
    layout = layout_of("Kite\nDay")
    for index in range(9):
        x, top, _, bottom = caret_at(layout, index)
        assert index_at(layout, x, (top + bottom) / 2) == index


def test_a_ligature_is_shared_out():
    layout = lay_out(Text(content="ffi", family="Playfair Display", align="left"))
    edges = [caret_at(layout, index)[0] for index in range(4)]
    assert len({round(edge, 3) for edge in edges}) == 4


def test_lines_and_steps():
    layout = layout_of("ab\n\ncd")
    assert [line_of(layout, index) for index in (0, 2, 3, 4, 6)] == [0, 0, 1, 2, 2]
    assert step_line(layout, 1, 1) == 3
    assert step_line(layout, 0, -1) == 0
    assert step_line(layout, 5, 1) == 6


def test_steps_go_by_whole_letters():
    layout = layout_of("e\u0301👨‍👩‍👧b")
    stops, at = [0], 0
    while at < len(layout.text):
        at = step(layout, at, 1)
        stops.append(at)
    assert stops == [0, 2, 7, 8]
    assert step(layout, 7, -1) == 2


def test_a_selection_covers_its_letters():
    layout = layout_of("Kite Day")
    boxes = selection_boxes(layout, 0, 4)
    assert len(boxes) == 4
    assert max(box[2] for box in boxes) == pytest.approx(caret_at(layout, 4)[0])
    assert selection_boxes(layout, 3, 3) == []


@given(st.text(max_size=20), st.integers(0, 20))
def test_the_caret_has_a_place_in_any_text(text, index):
    layout = layout_of(text)
    x, top, _, bottom = caret_at(layout, min(index, len(text)))
    assert top < bottom
    assert 0 <= index_at(layout, x, top) <= len(text)
