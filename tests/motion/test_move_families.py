"""Each ready move has a family by what the eye sees, and none is left nearly empty."""

import pytest

from rovix.model import Amount, Departure, Move, Typing
from rovix.model.roles import ROLES
from rovix.motion.families import FAMILIES, family_of
from rovix.motion.ready_moves import ready_moves


def moving(*channels, unit="px", **fields):
    departures = tuple(
        Departure(channel=channel, amount=Amount(value=0.5, unit=unit)) for channel in channels
    )
    return Move(role="entrance", channels=departures, **fields)


@pytest.mark.parametrize(
    ("move", "family"),
    [
        (moving("opacity"), "Calm"),
        (moving("y", "opacity", unit="em"), "Calm"),
        (moving("y", unit="em", piece_curve="back-out"), "Lively"),
        (moving("scale"), "Lively"),
        (moving("x", unit="off-frame"), "Across the frame"),
        (moving("blur", "opacity"), "Soft"),
        (moving("wipe", "blur"), "Revealed"),
        (moving("z", "opacity"), "Through depth"),
        (moving("scale", pieces="letters"), "Piece by piece"),
        (moving(pieces="letters"), "Written"),
        (moving("opacity", pieces="letters", typing=Typing()), "Written"),
        (moving("figures"), "Written"),
    ],
)
def test_what_strikes_most_gives_the_family(move, family):
    assert family_of(move) == family


def test_every_ready_move_has_one_and_each_family_has_several():
    counts = dict.fromkeys(FAMILIES, 0)
    for role in ROLES:
        for move in ready_moves(role):
            counts[family_of(move)] += 1
    assert all(count >= 4 for count in counts.values()), counts
    assert max(counts.values()) < sum(counts.values()) / 3, "no family is most of them"
