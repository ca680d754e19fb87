"""What a film begins with, and its chapters."""

from __future__ import annotations

from rovix.edit.tree import replace
from rovix.model import Fill, Fits, Glow, Linear, Look, Outline, Plain, Shadow, SpeedSound, Stop
from rovix.model.effects.echo_trail import EchoTrail
from rovix.model.effects.mask import Mask
from rovix.model.effects.matte import Matte, Through
from rovix.model.effects.wipe import Follow, Wipe
from rovix.model.title import Title
from title_designs.parts import (
    CLAY,
    CREAM,
    INK,
    LEAF,
    NIGHT,
    PLUM,
    ROSE,
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
    shape,
    title,
    words,
)

DAWN = Linear(angle=90.0, stops=(Stop(at=0.0, colour=CREAM), Stop(at=1.0, colour=SUN)))
DUSK = Linear(angle=0.0, stops=(Stop(at=0.0, colour=ROSE), Stop(at=1.0, colour=SUN)))


def wide_headline() -> Title:
    headline = words("headline", "The long way home", 150, 0, -30, (move("Gather"), move("Part and fade")),
                     edged("headline", DAWN), weight=800)  # fmt: skip
    small = words("line", "a film in four parts", 48, 0, 112,
                  (move("Lines rise", wait=0.8), move("Words fade in turn")), tracking=0.16,
                  case="upper")  # fmt: skip
    return title("Openers", headline, small)


def out_of_the_mist() -> Title:
    drift = keys("headline-drift", (0, -24.0, "linear"), (179, -40.0, "linear"))
    headline = words("headline", "Low water", 190, 0, 0, (move("Depth spring"), move("Past the viewer")),
                     family="Playfair Display", weight=700)  # fmt: skip
    headline = replace(headline, transform=replace(headline.transform, y=drift))
    small = words("line", "Part one", 56, 0, -180, (move("Out of depth", wait=0.3), move("Blur away")),
                  edged("line", SUN), family="Playfair Display")  # fmt: skip
    return title("Openers", headline, small)


def once_around() -> Title:
    run = own("entrance", "Seven times round", 1.3, away("offset_x", 7.0, "frame"), away("blur_x", 70.0),
              piece_curve="quint-out")  # fmt: skip
    off = own("exit", "Round and off", 1.3, away("offset_x", -7.0, "frame"), away("blur_x", 70.0),
              away("opacity", 0.0, curve="expo-in"), piece_curve="quint-in")  # fmt: skip
    said = words("headline", "Round the point", 140, 0, 0, (run, off), edged("headline", ROSE, PLUM),
                 family="Oswald", weight=700, case="upper")  # fmt: skip
    return title("Openers", said)


def turn_and_breath() -> Title:
    turn = own("entrance", "One turn", 1.1, away("rotation_y", -360.0), away("opacity", 0.0,
               curve="expo-out"),
               piece_curve="cubic-out", pivot="block")  # fmt: skip
    said = words("headline", "Breathe out", 160, 0, 0,
                 (turn, move("Part and close", length=2.0), move("Close to the middle")),
                 edged("headline", DUSK), weight=600)  # fmt: skip
    return title("Openers", said, headline={"room": 0.7})


def between_the_strokes() -> Title:
    sliver = own("entrance", "Out of a sliver", 0.7, away("scale_x", 0.03), away("slant", 52.0),
                 piece_curve="quint-out", pivot="block", speed_sound=SpeedSound(gain=-12.0))  # fmt: skip
    rush = own("exit", "Through the strokes", 0.8, away("z", 1.4, "frame"), away("blur", 6.0),
               piece_curve="quint-in", pivot="block", speed_sound=SpeedSound(gain=-9.0))  # fmt: skip
    grown = {
        name: keys(f"headline-{name}", (0, 1.0, "linear"), (179, 1.12, "linear"))
        for name in ("scale_x", "scale_y")
    }
    said = words("headline", "Far out", 210, 0, 0, (sliver, rush), edged("headline", CREAM, SEA, 7.0),
                 family="Alfa Slab One", weight=400, **grown)  # fmt: skip
    return title("Openers", said, headline={"room": 0.7})


def slide_and_settle() -> Title:
    look = Look(parts=(
        Fill(id="headline-fill", paint=Plain(colour=CREAM)),
        Outline(id="headline-edge", width=5.0, colour=LEAF),
        Outline(id="headline-rim", width=4.0, colour=INK),
        Glow(id="headline-glow", size=18.0, strength=1.2, colour="#cfe8b0"),
        Shadow(id="headline-shadow", x=0.0, y=10.0, blur=16.0, colour="#000000", opacity=0.5),
    ))  # fmt: skip
    settle = own("entrance", "Slide and settle", 0.9, away("x", 1.0, "off-frame"), piece_curve="back-out")
    said = words("headline", "Into the reeds", 132, 0, -20, (settle, move("To the right")), look,
                 family="Nunito", weight=800)  # fmt: skip
    small = words("line", "one morning on the marsh", 50, 0, 104,
                  (move("Words pop", wait=0.6), move("Words fade in turn")), family="Nunito")  # fmt: skip
    return title("Openers", said, small)


def turned_card() -> Title:
    tip, untip = away("rotation_x", 96.0), away("rotation_x", -96.0)
    frame = replace(
        shape("frame", 100, 100, "#17242b", moves=(
            own("entrance", "Card tips in", 0.8, tip, piece_curve="cubic-out", pivot="block"),
            own("exit", "Card tips out", 0.6, untip, piece_curve="cubic-in", pivot="block"),
        ), fits=Fits(layer="chapter", margin_x=70.0, margin_y=54.0)),
        outline=Outline(id="frame-edge", width=6.0, colour=SUN, side="inside"), fill_opacity=0.86,
    )  # fmt: skip
    said = words("chapter", "Chapter two", 120, 0, 0, (
        own("entrance", "Words tip in", 0.8, away("rotation_x", -96.0), piece_curve="cubic-out",
            pivot="block", wait=0.15),
        own("exit", "Words tip out", 0.6, away("rotation_x", 96.0), piece_curve="cubic-in", pivot="block"),
    ), filled("chapter", CREAM), family="Oswald", weight=600)  # fmt: skip
    return title("Chapters", frame, said)


def echoes_apart() -> Title:
    echoes = EchoTrail(id="echo-trail", copies=3, gap=3.0, strength=0.5)
    look = Look(parts=(Outline(id="echo-edge", width=3.0, colour=ROSE, opacity=0.8),))

    def echo(name: str, height: float) -> object:
        apart = own(
            "loop", "Apart and back", 2.4, away("offset_y", height, "frame"), piece_curve="sine-in-out"
        )
        one = words(name, "Far echo", 170, 0, 0,
                    (move("Fade in"), apart, move("Fade out", length=0.5)), look, effects=(
                        replace(echoes, id=f"{name}-trail"),), weight=800)  # fmt: skip
        return replace(one, look=Look(parts=(replace(look.parts[0], id=f"{name}-edge"),)))

    said = words("chapter", "Far echo", 170, 0, 0, (move("Come sharp"), move("Blur away")),
                 edged("chapter", CREAM, PLUM), weight=800)  # fmt: skip
    made = title("Chapters", echo("upper", -0.3), echo("lower", 0.3), said, fixed=("upper", "lower"))  # type: ignore[arg-type]
    return _as_one(made, "chapter", "upper", "lower")


def _as_one(made: Title, *layers: str) -> Title:
    """Layers that say the same, one over the other, set by one setting."""
    first = replace(made.settings[0], layers=layers)
    bends = tuple(replace(bend, under="") if bend.layer in layers else bend for bend in made.bends)
    return replace(made, settings=(first, *made.settings[1:]), bends=bends)


def through_the_letters() -> Title:
    stripes = Linear(angle=0.0, stops=tuple(
        Stop(at=n / 8, colour=(SUN, ROSE)[n % 2]) for n in range(9)
    ))  # fmt: skip
    window = Mask(id="paint-window", form="ellipse", pin="frame", width=2600.0, height=1500.0, feather=60.0)
    paint = replace(
        ground(stripes), id="paint", name="Paint",
        effects=(window, Matte(id="paint-matte", through=Through(layer="chapter"))),
    )  # fmt: skip
    rim = line("rule", "chapter", SUN, gap=34.0, moves=(move("Open outwards", wait=0.5), move("Fade out")))
    open_, shut = move("Uncover", length=1.0), move("Cover")
    face = {"family": "Archivo", "weight": 900}
    under = words("edge", "Undertow", 230, 0, 0, (open_, shut), edged("edge", NIGHT, NIGHT, 8.0), **face)
    said = words("chapter", "Undertow", 230, 0, 0, (open_, shut), filled("chapter", SUN), **face)
    made = title(
        "Chapters", under, said, paint, rim, fixed=("edge",), chapter={"room": 0.76}, edge={"room": 0.76}
    )
    return _as_one(made, "chapter", "edge")


def wheel_over_words() -> Title:
    # It goes on behind the frame's edge until it comes back and takes the words along.
    way = ((0, -1.0, "sine-in-out"), (48, 1.0, "linear"), (142, 1.0, "sine-in-out"), (179, -1.0, "linear"))
    wheel = shape("wheel", 150, 150, CLAY, form="ellipse",
                  x=keys("wheel-x", *((f, v * 1100.0, c) for f, v, c in way)),
                  rotation_z=keys("wheel-turn", *((f, v * 840.0, c) for f, v, c in way)),
                  outline=Outline(id="wheel-rim", width=18.0, colour=CREAM, side="inside"))  # fmt: skip
    opened = Wipe(id="chapter-wipe", angle=0.0, follows=Follow(layer="wheel"), pin="frame")
    said = words("chapter", "Along the dyke", 150, 0, 0, (), edged("chapter", SUN), effects=(opened,),
                 family="Nunito", weight=900)  # fmt: skip
    return title("Chapters", said, wheel)


DESIGNS = {
    "Wide headline": wide_headline,
    "Out of the mist": out_of_the_mist,
    "Once around": once_around,
    "A turn and a breath": turn_and_breath,
    "Between the strokes": between_the_strokes,
    "Slide and settle": slide_and_settle,
    "Turned card": turned_card,
    "Echoes apart": echoes_apart,
    "Through the letters": through_the_letters,
    "Wheel over words": wheel_over_words,
}
