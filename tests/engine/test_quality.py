"""How well pictures are drawn while playing: the ladder, the governor, and the service that draws by it."""

from __future__ import annotations

import time
from collections import deque
from itertools import pairwise

import numpy as np
import pytest

from builders import project_of, title
from rovix.engine.picture_service import PictureService
from rovix.engine.quality import ALL, FULL, LADDER, Cost, Governor, Quality
from rovix.model import Key, Keys, Shutter, Transform
from rovix.motion import ExposurePlan, picture_plan


def test_the_ladder_goes_down_and_never_below_what_still_shows_motion():
    for better, worse in pairwise(LADDER):
        assert better.covers(worse)
        assert not worse.covers(better)
    assert LADDER[0] == FULL
    assert min(quality.scale for quality in LADDER) == pytest.approx(1 / 3)
    assert min(quality.samples for quality in LADDER) == 2
    assert all(quality.samples >= 4 for quality in LADDER[:-1])


@pytest.mark.parametrize("full", [(676, 380), (1316, 740), (1001, 563), (31, 47)])
def test_smaller_pictures_are_of_even_width_and_fill_the_frame(full):
    for quality in LADDER[1:]:
        width, height = quality.size(full)
        if quality.scale < 1:
            assert width % 2 == 0
        assert width / full[0] == pytest.approx(quality.scale, abs=1.01 / full[0])
        assert abs(height - full[1] * width / full[0]) <= 0.5, "no bar is left beside or above it"


def played(governor, cost_of, frames, frame_time, processes=2, jitter=0.0, depth=32):
    """Plays frames in simulated time: processes draw in order as long as they may; gives what was late."""
    rng = np.random.default_rng(5)
    governor.begin(frame_time)
    free, done, late, qualities = [0.0] * processes, {}, 0, []
    asked = 0
    for due in range(frames):
        now = due * frame_time + _RUN_UP
        while asked < min(frames, due + 48) and min(free) <= now:
            worker = free.index(min(free))
            fixed, drawing = cost_of(governor.quality)
            drawing *= max(0.1, 1 + jitter * rng.standard_normal())
            free[worker] += fixed + drawing
            done[asked] = free[worker]
            governor.note_cost(asked, governor.quality, Cost(fixed + drawing, fixed + drawing, fixed))
            asked += 1
        late += done.get(due, np.inf) > now
        ahead = 0
        while ahead < depth and done.get(due + 1 + ahead, np.inf) <= now:
            ahead += 1
        governor.note_due(ahead, min(depth, frames - due - 1))
        qualities.append(governor.quality)
    return late, qualities


def cost(drawing, fixed=6.0):
    """Part of the drawing stays however small a picture is."""
    return lambda quality: (fixed, drawing * (0.3 + 0.7 * quality.scale**2))


_RUN_UP = 250.0  # ms


def test_what_can_be_drawn_in_time_is_drawn_full():
    late, qualities = played(Governor(2), cost(20.0), 300, 1000 / 30, jitter=0.2)
    assert late == 0
    assert set(qualities) == {FULL}


@pytest.mark.parametrize("full", [40.0, 60.0])
def test_what_would_come_late_is_drawn_smaller_and_comes_in_time(full):
    governor = Governor(2)
    late, qualities = played(governor, cost(full), 600, 1000 / 60, jitter=0.2)
    assert late <= 6  # 1 %
    assert qualities[-1].scale < 1
    # Known from the first time, the second is right from its start.
    late, again = played(governor, cost(full), 600, 1000 / 60, jitter=0.2)
    assert late == 0
    assert again[0].scale < 1


def test_where_it_gets_easier_it_goes_up_again_without_hunting():
    governor = Governor(2)
    played(governor, cost(60.0), 300, 1000 / 60)
    easy = governor.step
    assert easy > 0
    _, qualities = played(governor, cost(10.0), 600, 1000 / 60)
    assert qualities[-1] == FULL
    changes = sum(a != b for a, b in pairwise(qualities))
    assert changes <= len(LADDER)


def test_at_its_worst_it_stays_and_nothing_breaks():
    governor = Governor(1)
    _, qualities = played(governor, lambda _: (10.0, 500.0), 300, 1000 / 60, processes=1)
    assert qualities[-1].scale == LADDER[-1].scale


def moving():
    x = Keys(id="x", keys=(Key(frame=0, value=-200.0), Key(frame=20, value=200.0)))
    return project_of(title(transform=Transform(x=x)), size=(320, 180), shutter=Shutter(on=True))


def test_motion_blur_has_at_most_so_many_samples_and_is_never_left_out():
    full, few = (picture_plan(moving(), 10, samples=most).layers[0] for most in (None, 2))
    assert isinstance(full, ExposurePlan)
    assert isinstance(few, ExposurePlan)
    assert len(full.moments) > len(few.moments) == 2
    assert picture_plan(moving(), 10, samples=ALL).layers[0].moments[0].opacity == full.moments[0].opacity


def wait_for_picture(service, frame, good, seconds=30.0):
    picture, end = service.want(frame), time.monotonic() + seconds
    waiting = deque(worker.connection for worker in service._workers)
    while (picture is None or not good(picture)) and time.monotonic() < end:
        waiting.rotate()
        found = service.receive(waiting[0])
        picture = found or service.want(frame)
        time.sleep(0.002)
    return picture


def test_smaller_pictures_stand_in_until_the_full_one_is_there(tmp_path):
    service = PictureService(1, memory=16 << 20)
    try:
        costs = []
        service.on_cost = lambda frame, quality, cost: costs.append((quality, cost))
        service.show(moving(), tmp_path)
        service.resize((320, 180))
        half = Quality(0.5, 4)
        service.draw_at(half)
        small = wait_for_picture(service, 10, lambda p: True)
        assert small.quality == half
        assert small.pixels.shape == (90, 160, 4)
        assert small.pixels.flags.c_contiguous
        assert service.ahead([10, 11]) == 1
        assert service.ready() == [], "only full pictures count as ready"
        service.draw_at(FULL)
        assert service.want(10).quality == half, "it stands in meanwhile"
        whole = wait_for_picture(service, 10, lambda p: p.quality == FULL)
        assert whole.pixels.shape == (180, 320, 4)
        assert service.ready() == [10]
        service.draw_at(half)
        assert service.want(10).quality == FULL, "what was drawn full is used"
        assert [quality for quality, _ in costs] == [half, FULL]
        assert all(0 < cost.fixed < cost.busy <= cost.whole + 1 for _, cost in costs)
        assert costs[0][1].moments == 4
        assert costs[1][1].moments > 4
    finally:
        service.close()


def test_what_was_drawn_smaller_is_drawn_in_full_when_there_is_time(tmp_path):
    service = PictureService(1, memory=16 << 20)
    try:
        service.show(moving(), tmp_path)
        service.resize((320, 180))
        service.draw_at(Quality(0.5, 4), LADDER[-1])
        service.fill(range(5, 9))
        drawn_until(service, lambda: service.ahead(range(5, 9)) == 4)
        assert service.ready() == []
        service.improve(range(5, 9))
        drawn_until(service, lambda: service.ready() == [5, 6, 7, 8])
        service.improve(range(5000))
        assert service._to_improve == [], "more than can be kept would only push each other out"
    finally:
        service.close()


def drawn_until(service, done, seconds=30.0):
    end = time.monotonic() + seconds
    while not done() and time.monotonic() < end:
        for worker in service._workers:
            service.receive(worker.connection)
        time.sleep(0.002)
    assert done()


def test_what_is_due_and_not_begun_is_left_out_and_the_latest_before_it_stands_in(tmp_path):
    service = PictureService(1, memory=16 << 20)
    try:
        service.show(moving(), tmp_path)
        service.resize((320, 180))
        service.fill([3, 5])
        drawn_until(service, lambda: service.ahead([3, 5]) == 2)
        assert service.hope(7, range(6, 2, -1)).frame == 5
        assert service.hope(7) is None
        assert [worker.job for worker in service._workers] == [None], "it was not begun"
        service.fill([9])
        assert service.hope(9) is None
        shown, until = [], time.monotonic() + 30.0
        while not receive_into(shown, service) and time.monotonic() < until:
            time.sleep(0.002)
        assert shown[0].frame == 9, "it was under way, and comes when it is there"
    finally:
        service.close()


def receive_into(shown, service):
    found = [service.receive(worker.connection) for worker in service._workers]
    shown += [picture for picture in found if picture is not None]
    return bool(shown)


def test_the_clock_waits_longer_only_where_drawing_is_known_to_hang_behind():
    easy, hard, unknown = Governor(2), Governor(2), Governor(2)
    for _ in range(20):
        easy.note_cost(0, FULL, Cost(12.0, 12.0, 4.0))
        hard.note_cost(0, FULL, Cost(160.0, 160.0, 10.0, 6))
    for governor in (easy, hard, unknown):
        governor.begin(1000 / 60)
    assert easy.run_up(0.25) == unknown.run_up(0.25) == 0.25
    assert 0.25 < hard.run_up(0.25) <= 0.7


def begun_after(cost, played=0):
    """The step that playing begins at after pictures of one cost; so many of them were drawn while playing."""
    governor = Governor(2)
    for frame in range(60):
        governor.note_cost(frame, FULL, cost)
        if frame < played:
            governor.note_due(30, 30)
    governor.begin(1000 / 60, range(60))
    return governor.step


def test_time_in_which_others_have_the_cores_is_not_taken_for_drawing_but_while_playing():
    # Beside cards that are drawn, which make way once it plays, a picture takes three times as long.
    alone, beside_cards = Cost(12.0, 12.0, 2.0, 6), Cost(36.0, 12.0, 2.0, 6)
    assert begun_after(alone) == begun_after(beside_cards) == 0
    assert begun_after(alone, played=60) == 0
    assert begun_after(beside_cards, played=60) > 0, "while playing it is so all the time"


def test_it_goes_below_half_the_size_only_when_all_is_about_to_be_gone():
    governor = Governor(2)
    for frame in range(60):
        governor.note_cost(frame, FULL, Cost(70.0, 70.0, 4.0, 6))
    governor.begin(1000 / 60, range(60))
    assert governor.quality == Quality(0.5, 4)
    for _ in range(60):
        governor.note_due(10, 32)  # of 14 at which it looks, and 6 at which it acts
    assert governor.quality == Quality(0.5, 4)
    governor.note_due(4, 32)
    assert governor.quality.scale < 0.5


def test_what_is_far_too_much_goes_below_half_before_it_is_gone():
    governor = Governor(2)
    governor.begin(1000 / 60)
    governor.step = LADDER.index(Quality(0.5, 4))
    for frame in range(20):
        governor.note_cost(frame, governor.quality, Cost(90.0, 90.0, 4.0, 4))
    for _ in range(12):
        governor.note_due(10, 32)
    assert governor.quality.scale < 0.5


def test_it_may_be_turned_on_while_it_plays_before_any_picture_was_measured():
    governor = Governor(2)
    governor.note_due(0, 32)
    assert governor.quality == FULL
