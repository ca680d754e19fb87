"""The crawls and rolls that come with Rovix. Numbers are our defaults; every one can be edited."""

from __future__ import annotations

from rovix.model import Crossing

READY_CROSSINGS: dict[str, Crossing] = {
    "Crawl left": Crossing(),
    "Crawl right": Crossing(way="right"),
    "Roll up": Crossing(way="up"),
    "Roll down": Crossing(way="down"),
    "Crawl to be read": Crossing(speed=130.0, counted="words"),
    "Crisp crawl": Crossing(whole_px=True),
    "Crisp roll": Crossing(way="up", whole_px=True),
    "Crawl in, stay": Crossing(to_rest=True, hold_end=1.5),
    "Stay, crawl off": Crossing(from_rest=True, hold_start=1.5),
    "Roll up, stay": Crossing(way="up", to_rest=True, hold_end=1.5),
    "Stay, roll off": Crossing(way="up", from_rest=True, hold_start=1.5),
}
"""By the names of their cards."""
