"""What pictures that come are likely to take: by what is known of their frames, of the project now or before."""

import pytest

from rovix.engine.frame_costs import _KEPT, FrameCosts, Taken
from rovix.engine.quality import FULL, LADDER, Cost, Governor

EASY, HARD = Taken(2.0, 10.0), Taken(4.0, 200.0, 6)


def known(course):
    costs = FrameCosts()
    for frame, taken in course.items():
        costs.note(frame, taken)
    return costs


def test_frames_that_are_known_are_expected_to_take_what_they_took():
    costs = known({frame: HARD if 20 <= frame < 60 else EASY for frame in range(100)})
    assert costs.expected(range(10, 30), 0) == [EASY] * 10 + [HARD] * 10
    assert list(costs.recent) == [EASY] * 16


def test_where_little_is_known_of_them_what_was_drawn_last_counts():
    costs = known(dict.fromkeys(range(40), HARD) | dict.fromkeys(range(200, 220), EASY))
    assert costs.expected(range(100, 160), 0) == [EASY] * 16
    assert costs.expected(range(20, 59), 0) == [HARD] * 20  # 20 of 39
    assert FrameCosts().expected(range(10), 5) == []


def test_frames_that_are_ready_take_nothing():
    costs = known(dict.fromkeys(range(40), HARD))
    assert costs.expected((), 40) == []
    assert costs.expected(range(30, 40), 30) == [HARD] * 10 + [Taken()] * 30


def test_after_a_change_the_course_stays_and_what_was_drawn_since_says_how_much():
    costs = known({frame: HARD if frame >= 20 else EASY for frame in range(40)})
    costs.changed()
    # Nothing was drawn since: it is expected to be as it was.
    assert costs.expected(range(10, 30), 0) == [EASY] * 10 + [HARD] * 10
    for frame in range(4):
        costs.note(frame, Taken(2.0, 5.0))
    half = Taken(4.0, 100.0, 6)
    assert costs.expected(range(16, 24), 0) == [Taken(2.0, 5.0)] * 4 + [half] * 4
    assert costs.expected(range(4), 0) == [Taken(2.0, 5.0)] * 4


def test_many_changes_and_frames_take_no_more_room():
    costs = FrameCosts()
    for turn in range(5):
        costs.changed()
        for frame in range(turn * 1000, turn * 1000 + _KEPT):
            costs.note(frame, EASY)
    assert len(costs._now) == len(costs._before) == _KEPT
    assert costs.expected(range(4000, 4100), 0) == [EASY] * 100


def test_a_smaller_viewer_makes_all_of_it_less():
    costs = known(dict.fromkeys(range(40), HARD))
    costs.changed()
    costs.note(0, HARD)
    costs.resized(0.5)
    assert costs.expected(range(10), 0) == [Taken(4.0, 100.0, 6)] * 10
    assert list(costs.recent) == [Taken(4.0, 100.0, 6)] * 16


@pytest.mark.parametrize(
    ("start", "found"), [(0, LADDER[-1]), (60, FULL)], ids=["before the hard part", "behind it"]
)
def test_a_hard_part_that_comes_is_begun_as_low_as_it_goes_whatever_was_drawn_last(start, found):
    governor = Governor(2)
    for frame in [*range(20, 60), *range(20), *range(60, 160)]:
        hard = 20 <= frame < 60
        governor.note_cost(frame, FULL, Cost(800.0, 800.0, 8.0, 6) if hard else Cost(8.0, 8.0, 2.0))
    governor.begin(1000 / 60, range(start, start + 80))
    assert governor.quality == found


def test_what_is_ready_in_full_is_played_in_full():
    governor = Governor(2)
    for frame in range(40):
        governor.note_cost(frame, FULL, Cost(300.0, 300.0, 8.0, 6))
    governor.begin(1000 / 60, (), 40)
    assert governor.quality == FULL
    assert governor.run_up(0.25) == 0.25
    governor.begin(1000 / 60, range(40))
    assert governor.quality == LADDER[-1]
    assert governor.run_up(0.25) > 0.5


def test_what_an_edit_made_easy_is_not_begun_as_if_it_were_hard():
    governor = Governor(2)
    for frame in range(80):
        governor.note_cost(frame, FULL, Cost(300.0, 300.0, 8.0, 6))
    governor.changed()
    for frame in range(6):
        governor.note_cost(frame, FULL, Cost(9.0, 9.0, 3.0, 6))
    governor.begin(1000 / 60, range(6, 80), 6)
    assert governor.quality == FULL


def test_of_another_project_nothing_is_known():
    governor = Governor(2)
    for frame in range(80):
        governor.note_cost(frame, FULL, Cost(300.0, 300.0, 8.0, 6))
    governor.forget()
    governor.begin(1000 / 60, range(80))
    assert governor.quality == FULL
