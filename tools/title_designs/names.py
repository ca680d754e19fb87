"""Names of those who speak."""

from __future__ import annotations

from rovix.model import Pace, PieceSound
from rovix.model.title import Title
from title_designs.parts import (
    CLAY,
    CREAM,
    INK,
    SEA,
    SUN,
    edged,
    line,
    move,
    plated,
    title,
    words,
)

LETTERS = Pace(piece=0.32, stagger=0.025)
KEYS = Pace(a_second=22.0)


def on_a_line() -> Title:
    rule = line("rule", "name", SUN, moves=(
        move("Open outwards", length=0.6), move("Close to the middle", length=0.5),
    ))  # fmt: skip
    name = words("name", "Mira Okonedo", 84, -740, 290,
                 (move("Lines out of edges"), move("Back into edges")), align="left", weight=700)  # fmt: skip
    role = words("role", "Harbour pilot", 46, -740, 392,
                 (move("Fade in", length=0.5, wait=0.5), move("Blur away")), align="left")  # fmt: skip
    return title("Names", rule, name, role)


def on_a_card() -> Title:
    name = words("name", "Tomas Lind", 76, 0, 330, (move("From the left"), move("To the left")),
                 plated("name", CREAM, SEA, 14.0, padding_x=44.0, padding_y=28.0), weight=600)  # fmt: skip
    return title("Names", name)


def out_of_a_slot() -> Title:
    slot = {"pace": LETTERS}
    name = words("name", "Ines Barreto", 88, 0, 268,
                 (move("Out of the slot", **slot), move("Back into the slot", **slot)), edged("name", SUN),
                 family="Archivo", weight=800)  # fmt: skip
    role = words("role", "Keeper of the beacon", 42, 0, 384,
                 (move("Out of a left edge", wait=0.5), move("Into a right edge")),
                 plated("role", INK, CREAM, 4.0, padding_x=26.0, padding_y=18.0), weight=500)  # fmt: skip
    return title("Names", name, role)


def typed_on_paper() -> Title:
    look = plated("name", INK, CREAM, 2.0, padding_x=36.0, padding_y=30.0)
    clicks = move("Typed", pace=KEYS, piece_sound=PieceSound(gain=-12.0))
    name = words("name", "J. Halloran", 70, 720, 300,
                 (clicks, move("Press flat")), look, align="right",
                 family="Courier Prime", weight=700)  # fmt: skip
    role = words("role", "wrote it all down", 44, 720, 414,
                 (move("Fade in", wait=1.0), move("Fade out", length=0.4)),
                 plated("role", CREAM, CLAY, 2.0, padding_x=24.0, padding_y=18.0), align="right",
                 family="Courier Prime")  # fmt: skip
    return title("Names", name, role)


DESIGNS = {
    "Name on a line": on_a_line,
    "Name on a card": on_a_card,
    "Name out of a slot": out_of_a_slot,
    "Name typed on paper": typed_on_paper,
}
