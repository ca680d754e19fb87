"""A page of the sheet rests while what it does not show is dragged, and shows all of it when the hand lets go."""

import pytest

from rovix.desktop.sheet.sheet import PAGES
from rovix.edit import change_transform
from rovix.edit.moves import change_move
from rovix.model import TextClip


@pytest.fixture
def shown(window, monkeypatch):
    """How often the page of moves was shown."""
    window.document.select("big")
    window.document.seek(5)
    page = window.sheet._sections["Motion"].page
    assert window.sheet._sections["Motion"].is_open
    calls = []
    real = page.show_clip
    monkeypatch.setattr(page, "show_clip", lambda clip: (calls.append(clip), real(clip)))
    window.sheet._draft.setInterval(0)
    return calls


def drag(window, steps=4):
    for step in range(steps):
        window.document.try_on(lambda p, x=step: change_transform(p, "big", 0, x=float(10 + x)))
        window.sheet._catch_up()


def test_a_layer_that_is_dragged_leaves_its_moves_alone(window, shown):
    drag(window)
    assert len(shown) <= 1, "the first step shows what it was"
    window.document.keep("Move")
    assert shown[-1].transform.x == 13.0


def test_a_move_that_is_tried_is_shown(window, shown):
    move = window.document.clip.moves[0]
    window.document.try_on(lambda p: change_move(p, "big", move.id, length=move.length * 2))
    assert shown
    assert shown[-1].moves[0].length == move.length * 2


def test_another_clip_or_frame_is_shown_even_while_something_is_tried(window, shown):
    drag(window)
    before = len(shown)
    window.document.seek(12)
    assert len(shown) > before


def test_fields_that_pages_rest_for_are_fields_of_clips():
    for page in PAGES:
        assert page.rests_for <= set(TextClip.__struct_fields__), page.name
