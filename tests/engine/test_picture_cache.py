"""Which picture stands in which slot, and which is given up."""

from __future__ import annotations

from rovix.engine.picture_cache import Kept, PictureCache
from rovix.engine.quality import FULL, Quality


def filled(slots, frames):
    cache = PictureCache(slots)
    for frame in frames:
        cache.put((frame, None), Kept(cache.take_slot(), (), 1.0))
    return cache


def test_the_one_used_longest_ago_is_given_up_first():
    cache = filled(3, range(3))
    assert cache.get((0, None)) is not None
    cache.put((3, None), Kept(cache.take_slot(), (), 1.0))
    assert [cache.has((frame, None)) for frame in range(4)] == [True, False, True, True]


def test_what_is_due_next_outlives_what_was_shown():
    # Frames 0 to 4 were drawn ahead; 0 and 1 were shown since, which made them the newest.
    cache = filled(5, range(5))
    for shown in (0, 1):
        cache.get((shown, None))
    cache.touch((frame, None) for frame in (4, 3, 2))
    for frame in (5, 6):
        cache.put((frame, None), Kept(cache.take_slot(), (), 1.0))
    assert [cache.has((frame, None)) for frame in range(7)] == [False, False, True, True, True, True, True]


def test_a_picture_counts_for_all_that_asks_for_no_more():
    cache = PictureCache(2)
    cache.put((0, None), Kept(cache.take_slot(), (), 1.0, Quality(0.5, 4)))
    assert cache.has((0, None), Quality(0.5, 4))
    assert cache.has((0, None), Quality(1 / 3, 2))
    assert not cache.has((0, None), Quality(0.5, 8))
    assert not cache.has((0, None), FULL)
