"""What a film ends with and what is around it: credits, end cards, waiting screens, marks, a countdown."""

from __future__ import annotations

from rovix.edit.tree import replace
from rovix.model import (
    Crossing,
    Fill,
    Fits,
    Glow,
    Linear,
    LongShadow,
    Look,
    Outline,
    Pace,
    PieceSound,
    Plain,
    Radial,
    Stop,
)
from rovix.model.effects.fill_sweep import FillSweep
from rovix.model.effects.glow import Glow as GlowEffect
from rovix.model.title import Title
from title_designs.parts import (
    CLAY,
    CREAM,
    FOG,
    INK,
    NIGHT,
    PLUM,
    SEA,
    SUN,
    away,
    edged,
    filled,
    ground,
    keys,
    line,
    move,
    own,
    plated,
    shape,
    title,
    words,
)

_ROLL = 480
QUICK = Pace(piece=0.45, stagger=0.02)
NIGHT_SKY = Linear(angle=90.0, stops=(Stop(at=0.0, colour=NIGHT), Stop(at=1.0, colour="#22323c")))


def rolling_names() -> Title:
    dark = replace(ground(NIGHT_SKY, (move("Fade in"), move("Fade out"))), length=_ROLL)
    names = "Pilot\tMira Okonedo\nKeeper\tInes Barreto\nRopes\tTomas Lind\nSoup\tJ. Halloran\nDog\tBiscuit"
    said = words("names", names, 60, 0, 0, (), filled("names", CREAM), align="columns", leading=1.7,
                 weight=500, length=_ROLL, crossing=Crossing(way="up", whole_px=True))  # fmt: skip
    return title("Credits", dark, said)


def count_to_three() -> Title:
    ring = replace(
        shape("ring", 420, 420, None, 0, 0, (move("Stamp"),), form="ellipse", length=135),
        outline=Outline(id="ring-edge", width=14.0, colour=SUN),
    )  # fmt: skip
    pop = own("entrance", "Lands", 0.25, away("scale", 1.9), away("opacity", 0.0), piece_curve="quart-out",
              pivot="block", piece_sound=PieceSound(sound="thump", gain=-10.0))  # fmt: skip
    gone = own("exit", "Falls in", 0.2, away("scale", 0.3), away("opacity", 0.0), piece_curve="quad-in",
               pivot="block")  # fmt: skip
    figures = [
        words(f"figure-{n}", str(n), 240, 0, 0, (pop, gone), edged(f"figure-{n}"), family="Alfa Slab One",
              weight=400, start=45 * (3 - n), length=45)
        for n in (3, 2, 1)
    ]  # fmt: skip
    now = words("now", "Now", 240, 0, 0, (move("Grow"), move("Past the lens")),
                edged("now", SUN, CLAY, 8.0), family="Alfa Slab One", weight=400, start=135,
                length=150)  # fmt: skip
    made = title("Countdowns", ring, *figures, now, fixed=("figure-3", "figure-2", "figure-1"))
    return replace(made, bends=tuple(replace(bend, under="") for bend in made.bends))


def mark_in_the_corner() -> Title:
    mark = words("mark", "On the water", 40, 790, -430, (move("Fade in"), move("Blur away")),
                 plated("mark", CREAM, NIGHT, 24.0, padding_x=26.0, padding_y=18.0), align="right",
                 weight=600)  # fmt: skip
    dot = line("dot", "mark", CLAY, "over", 8.0, 30.0, (move("Wink"),))
    return title("Corner marks", mark, dot, mark={"room": 0.5})


def lit_seal() -> Title:
    glow = GlowEffect(id="seal-glow", size=16.0, strength=1.0, colour=SUN)
    seal = replace(
        shape("seal", 176, 176, SEA, -770, -380, (move("Grow"), move("Whirl off")), form="ellipse"),
        outline=Outline(id="seal-edge", width=8.0, colour=SUN, side="inside"), effects=(glow,),
    )  # fmt: skip
    letter = words("letter", "H", 96, 0, 0, (move("Doors"), move("Turntable", length=4.0), move("Fade out")),
                   filled("letter", CREAM), family="Playfair Display", weight=700, parent="seal")  # fmt: skip
    name = words("place", "Holm ferry", 44, -650, -380, (move("Out of a left edge", wait=0.4),
                 move("Fade out")),
                 align="left", weight=600)  # fmt: skip
    return title("Corner marks", seal, letter, name, fixed=("letter",), place={"room": 0.6, "under": "seal"})


def goodbye() -> Title:
    wave = own("entrance", "Wave", 1.2, away("scale", 0.0), away("rotation_z", -70.0),
               away("opacity", 0.0, curve="expo-out"), piece_curve="back-out", pieces="letters",
               pace=Pace(piece=0.5, stagger=0.03))  # fmt: skip
    look = filled("thanks", SUN, LongShadow(id="thanks-shade", angle=52.0, colour="#12424a"))
    thanks = words("thanks", "Thank you", 190, 0, -50, (wave,), look, family="Alfa Slab One", weight=400)
    more = words("more", "More on Sundays", 54, 0, 132, (move("Letter by letter", wait=0.9, pace=QUICK),),
                 filled("more", CREAM))  # fmt: skip
    return title("End cards", ground(SEA, (move("Fade in"),)), thanks, more)


def filled_by_blocks() -> Title:
    sweep = FillSweep(id="thanks-blocks", paint=Plain(colour=CLAY), way="blocks", count=7, share=keys(
        "thanks-share", (0, 0.0, "linear"), (8, 0.0, "sine-in-out"), (70, 1.0, "linear"),
    ))  # fmt: skip
    thanks = words("thanks", "Until next week", 140, 0, -30, (move("Fade in", length=0.3), move("Cover")),
                   filled("thanks", "#c9c0ae"), effects=(sweep,), family="Archivo", weight=900)  # fmt: skip
    more = words("more", "same shore, same hour", 50, 0, 96,
                 (move("Sown", wait=1.2, pace=QUICK), move("Picked out", pace=QUICK)),
                 filled("more", INK))  # fmt: skip
    return title("End cards", ground(CREAM, (move("Fade in", length=0.3), move("Fade out"))), thanks, more)


def bars_filling() -> Title:
    bars = words("bars", "▮" * 14, 60, 0, 40, (move("Letter by letter", length=4.4),), filled("bars", SUN),
                 family="Inconsolata", tracking=0.08)  # fmt: skip
    frame = replace(
        shape("frame", 100, 100, None, fits=Fits(layer="bars", margin_x=22.0, margin_y=20.0)),
        outline=Outline(id="frame-edge", width=5.0, colour=CREAM), fill=None,
    )  # fmt: skip
    wait = words("wait", "Making the tea", 64, 0, -90, (move("Fade in"), move("Wink", length=1.6)),
                 filled("wait", CREAM), weight=600)  # fmt: skip
    return title("Waiting screens", ground(PLUM), bars, frame, wait, fixed=("bars",), bars={"under": "wait"})


def struck_sign() -> Title:
    look = Look(parts=(
        Fill(id="sign-fill", paint=Plain(colour="#ffe3c4")),
        Outline(id="sign-edge", width=4.0, colour="#7c2417"),
        Glow(id="sign-near", size=10.0, strength=1.6, colour=CLAY),
        Glow(id="sign-far", size=46.0, strength=1.1, colour=CLAY),
    ))  # fmt: skip
    struck = move("Struck lights", pace=Pace(piece=1.0, stagger=0.02))
    sign = words("sign", "Back at nine", 170, 0, -20, (struck, move("Lights off", pace=QUICK)), look,
                 family="Oswald", weight=500)  # fmt: skip
    small = words("line", "the kettle is on", 52, 0, 140, (move("Sharpen in turn", wait=0.8, pace=QUICK),
                  move("Fade out")),
                  filled("line", CREAM))  # fmt: skip
    dark = ground(Radial(stops=(Stop(at=0.0, colour="#2a1d22"), Stop(at=1.0, colour=NIGHT))))
    return title("Waiting screens", dark, sign, small)


def drifting_seal() -> Title:
    x = (-700.0, 720.0, -700.0)
    y = (-330.0, 300.0, -330.0)
    at = (0, 90, 180)
    seal = replace(
        shape("seal", 150, 150, CLAY, form="ellipse",
              x=keys("seal-x", *((f, v, "sine-in-out") for f, v in zip(at, x, strict=True))),
              y=keys("seal-y", *((f, v, "linear") for f, v in zip(at, y, strict=True))),
              rotation_z=keys("seal-turn", (0, 0.0, "linear"), (90, 360.0, "linear"), (180, 0.0, "linear"))),
        outline=Outline(id="seal-edge", width=12.0, colour=SUN, side="inside"),
    )  # fmt: skip
    spoke = shape("spoke", 60, 14, CREAM, parent="seal")
    rain = (move("Letters rain", pace=QUICK), move("Ripple"), move("Letters fall", pace=QUICK))
    said = words("wait", "Starting soon", 150, 0, -20, rain, filled("wait", INK), family="Nunito", weight=900)
    small = words("line", "find a dry seat", 54, 0, 108, (move("Lines rise", wait=0.8), move("Lines sink")),
                  filled("line", PLUM), family="Nunito", weight=700)  # fmt: skip
    return title("Waiting screens", ground(FOG), seal, spoke, said, small)


DESIGNS = {
    "Rolling names": rolling_names,
    "Count to three": count_to_three,
    "Mark in the corner": mark_in_the_corner,
    "Lit seal": lit_seal,
    "Goodbye": goodbye,
    "Filled by blocks": filled_by_blocks,
    "Bars filling": bars_filling,
    "Struck sign": struck_sign,
    "Drifting seal": drifting_seal,
}
