"""What is said and read: captions, lists, quotes, a line that runs."""

from __future__ import annotations

from rovix.edit.tree import replace
from rovix.model import Crossing, Pace, Paper, PieceSound
from rovix.model.title import Title
from title_designs.parts import (
    CLAY,
    CREAM,
    FOG,
    INK,
    NIGHT,
    PLUM,
    ROSE,
    SUN,
    edged,
    filled,
    ground,
    line,
    move,
    plated,
    shape,
    title,
    words,
)


def on_a_plate() -> Title:
    said = words("caption", "The tide turns at four.", 54, 0, 390,
                 (move("Uncover", length=0.4), move("Cover", length=0.4)),
                 plated("caption", CREAM, NIGHT, 8.0, padding_x=30.0, padding_y=20.0))  # fmt: skip
    return title("Captions", said)


def word_after_word() -> Title:
    # What is under it is turned to its opposite: white words over dark shots, dark ones over light.
    bar = line("rule", "caption", CREAM, gap=16.0, thick=6.0, blend="difference", moves=(
        move("Open outwards", length=0.4), move("Fade out", length=0.3),
    ))  # fmt: skip
    said = words("caption", "Nobody hears it but us", 96, 0, 320,
                 (move("Word by word", pace=Pace(a_second=4.0, piece=0.1, stagger=0.22)),
                  move("Words off", pace=Pace(piece=0.05, stagger=0.06))),
                 filled("caption", "#ffffff"), blend="difference", family="Archivo", weight=800)  # fmt: skip
    return title("Captions", bar, said)


def three_by_a_bar() -> Title:
    bar = line("bar", "list", CLAY, "left", 14.0, 36.0, (move("Grow"), move("Press flat")))
    said = words("list", "Rope\nLamp\nDry socks", 92, -560, 0,
                 (move("Blown in", pace=Pace(piece=0.6, stagger=0.12)), move("Into a left edge")),
                 align="left", weight=600, leading=1.5, name="List")  # fmt: skip
    return title("Lists", bar, said, list={"lines": 8, "room": 0.7})


def steps_typed() -> Title:
    paper = ground(Paper(colour="#e7dcc3", strength=0.06, seed=4), (move("Fade in"), move("Fade out")))
    typed = move("Page after page", pace=Pace(a_second=24.0))
    typed = replace(typed, piece_sound=PieceSound(gain=-16.0), typing=replace(typed.typing, rhythm="even"))
    head = words("heading", "Before you go", 76, -640, -250, (move("Lines rise"), move("Fade out",
                 length=0.4)),
                 filled("heading", CLAY), align="left", family="Courier Prime", weight=700)  # fmt: skip
    said = words("steps", "1  Ask for the tide\n2  Tell someone\n3  Take the long rope", 58, -640, 0,
                 (typed, move("Fade out", length=0.4)), filled("steps", INK), align="left",
                 family="Courier Prime", leading=1.6, length=240)  # fmt: skip
    clips = [replace(clip, length=240) for clip in (paper, head, said)]
    return title("Lists", *clips, steps={"lines": 8, "room": 0.8})


def said_aloud() -> Title:
    mark = words("mark", "“", 360, -640, -110, (move("Stamp"), move("Swell and gone")),
                 edged("mark", CLAY, NIGHT), family="Playfair Display", name="Mark",
                 parent="quote")  # fmt: skip
    mark = replace(mark, transform=replace(mark.transform, x=-130.0, y=40.0))
    said = words("quote", "Nothing out here\nis in a hurry but us.", 92, -480, -30,
                 (move("Lines rise"), move("Lines sink")), family="Playfair Display",
                 align="left")  # fmt: skip
    who = words("who", "Keeper of the light", 46, -480, 150, (move("Fade in", wait=0.8), move("Blur away")),
                edged("who", SUN), align="left")  # fmt: skip
    return title("Quotes", said, who, mark, fixed=("mark",), quote={"lines": 5, "room": 0.66})


def note_by_hand() -> Title:
    said = words("note", "Meet me where\nthe path runs out", 100, 0, -20,
                 (move("Letters uncover", pace=Pace(piece=0.25, stagger=0.035)), move("Drop away")),
                 plated("note", PLUM, FOG, 6.0, padding_x=70.0, padding_y=64.0), family="Caveat", weight=600,
                 rotation_z=-2.0)  # fmt: skip
    who = words("who", "your sister", 64, 0, 210, (move("Up from below", wait=0.9), move("Fade out")),
                edged("who", ROSE, PLUM), family="Caveat", weight=700)  # fmt: skip
    return title("Quotes", said, who, note={"lines": 5, "room": 0.7})


def running_line() -> Title:
    band = shape("band", 1920, 96, NIGHT, 0, 440, (move("Fade in", length=0.4), move("Fade out", length=0.4)),
                 fill_opacity=0.86, length=420)  # fmt: skip
    rim = shape(
        "rim", 1920, 5, SUN, 0, 390, (move("Open outwards"), move("Fade out", length=0.4)), length=420
    )
    said = words("line", "Ferries every half hour until dusk, weather and the pilot's supper permitting",
                 52, 0, 440, (), filled("line", CREAM), weight=500,
                 length=420, crossing=Crossing())  # fmt: skip
    return title("Running lines", band, rim, said, rim={"under": "band"}, line={"under": "band"})


DESIGNS = {
    "Caption on a plate": on_a_plate,
    "Turned to its opposite": word_after_word,
    "Three by a bar": three_by_a_bar,
    "Steps, typed": steps_typed,
    "Said aloud": said_aloud,
    "Note by hand": note_by_hand,
    "Running line": running_line,
}
