"""`make titles`: the ready titles, written as files, and a picture of each for docs/titles.md."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import cv2
import numpy as np

from rovix.edit.titles import settings_of
from rovix.edit.tree import replace
from rovix.engine.titles import READY
from rovix.formats.title_file import TITLES, SavedTitle
from rovix.model import (
    BackgroundClip,
    Box,
    Clip,
    Fill,
    Fits,
    Linear,
    Look,
    Move,
    Plain,
    Sequence,
    Shadow,
    ShapeClip,
    Stop,
    Text,
    TextClip,
    Track,
    Transform,
)
from rovix.model.title import Title
from rovix.motion import picture_plan
from rovix.motion.ready_moves import ready_moves
from rovix.paint.painter import Painter

CREAM, INK, SEA, CLAY, SUN = "#f6efe2", "#17242b", "#1f6f78", "#c8553d", "#f0b94a"
PICTURE = Path(__file__).parents[1] / "docs" / "titles.png"
LENGTH = 120


def move(name: str, **changes: Any) -> Move:
    found = next(m for role in ("entrance", "loop", "exit") for m in ready_moves(role) if m.name == name)  # type: ignore[arg-type]
    return replace(found, id=f"{name.lower().replace(' ', '-')}", **changes)


def words(
    identity: str,
    content: str,
    size: float,
    x: float = 0.0,
    y: float = 0.0,
    moves: tuple[Move, ...] = (),
    look: Look | None = None,
    **fields: Any,
) -> TextClip:
    own = {
        name: fields.pop(name) for name in ("family", "weight", "align", "tracking", "case") if name in fields
    }
    numbered = tuple(replace(m, id=f"{identity}-{n}") for n, m in enumerate(moves))
    return TextClip(
        id=identity,
        name=fields.pop("name", identity.capitalize()),
        length=LENGTH,
        text=Text(content=content, size=size, **own),
        look=look or plain(identity),
        moves=numbered,
        transform=Transform(x=x, y=y),
        **fields,
    )


def plain(identity: str, colour: str = CREAM, *under: Any) -> Look:
    return Look(parts=(Fill(id=f"{identity}-fill", paint=Plain(colour=colour)), *under))


def title(group: str, *clips: Clip) -> Title:
    """Each on a track of its own, the first lowest."""
    tracks = tuple(Track(id=f"track-{n}", name=clip.title, clips=(clip,)) for n, clip in enumerate(clips))
    sequence = Sequence(id="title", name="Title", background="#00000000", tracks=tracks)
    return Title(group=group, sequence=sequence, settings=settings_of(clips))


def line(
    identity: str, layer: str, colour: str, side: str = "under", thick: float = 8.0, **fields: Any
) -> ShapeClip:
    return ShapeClip(
        id=identity,
        name="Line",
        length=LENGTH,
        form="box",
        height=thick,
        fill=Plain(colour=colour),
        fits=Fits(layer=layer, margin_x=0.0, margin_y=18.0, side=side),
        **fields,  # type: ignore[arg-type]
    )


def name_on_a_line() -> Title:
    grow = (move("Open outwards", length=0.6), move("Close to the middle", length=0.5))
    name = words(
        "name",
        "Mira Okonedo",
        84,
        -760,
        300,
        (move("Lines out of edges"), move("Back into edges")),
        align="left",
        weight=700,
    )
    role = words(
        "role",
        "Harbour pilot",
        44,
        -760,
        386,
        (move("Fade in", length=0.5, wait=0.5), move("Blur away")),
        align="left",
    )
    return title(
        "Names",
        line("rule", "name", SUN, moves=tuple(replace(m, id=f"rule-{n}") for n, m in enumerate(grow))),
        name,
        role,
    )


def card_with_name() -> Title:
    ground = Box(id="name-box", paint=Plain(colour=SEA), padding_x=44.0, padding_y=26.0, radius=14.0)
    name = words(
        "name",
        "Tomas Lind",
        76,
        0,
        330,
        (move("From the left"), move("To the left")),
        plain("name", CREAM, ground),
        weight=600,
    )
    return title("Names", name)


def opener() -> Title:
    shadow = Shadow(id="headline-shadow", x=0.0, y=10.0, blur=26.0, colour="#000000", opacity=0.45)
    sky = Linear(angle=90.0, stops=(Stop(at=0.0, colour=CREAM), Stop(at=1.0, colour=SUN)))
    look = Look(parts=(Fill(id="headline-fill", paint=sky), shadow))
    headline = words(
        "headline",
        "The long way home",
        150,
        0,
        -30,
        (move("Gather"), move("Part and fade")),
        look,
        weight=800,
    )
    small = words(
        "line",
        "a film in four parts",
        48,
        0,
        110,
        (move("Lines rise", wait=0.8), move("Words fade in turn")),
        tracking=0.18,
        case="upper",
    )
    return title("Openers", headline, small)


def caption() -> Title:
    ground = Box(
        id="caption-box",
        paint=Plain(
            colour="#101418",
        ),
        opacity=0.78,
        padding_x=30.0,
        padding_y=16.0,
        radius=8.0,
    )
    said = words(
        "caption",
        "The tide turns at four.",
        54,
        0,
        400,
        (move("Uncover", length=0.4), move("Cover", length=0.4)),
        plain("caption", CREAM, ground),
    )
    return title("Captions", said)


def list_of_three() -> Title:
    clips: list[Clip] = []
    for number, said in enumerate(("Rope", "Lamp", "Dry socks")):
        wait = 0.35 * number
        moves = (move("Words out of edges", wait=wait), move("Into a left edge"))
        clips.append(
            words(
                f"item {number + 1}".replace(" ", "-"),
                said,
                92,
                -520,
                -150 + 150 * number,
                moves,
                align="left",
                weight=600,
                name=f"Item {number + 1}",
            )
        )
    bar = ShapeClip(
        id="bar",
        name="Bar",
        length=LENGTH,
        width=14.0,
        height=440.0,
        fill=Plain(colour=CLAY),
        transform=Transform(x=-600.0, y=0.0),
        moves=(replace(move("Press flat"), id="bar-out"),),
    )
    return title("Lists", bar, *clips)


def quote() -> Title:
    mark = words(
        "mark",
        "“",
        420,
        -640,
        -40,
        (move("Stamp"), move("Swell and gone")),
        plain("mark", CLAY),
        family="Playfair Display",
        name="Mark",
    )
    said = words(
        "quote",
        "Nothing out here\nis in a hurry but us.",
        96,
        -480,
        -30,
        (move("Lines rise"), move("Lines sink")),
        family="Playfair Display",
        align="left",
    )
    who = words(
        "who",
        "Keeper of the light",
        44,
        -480,
        190,
        (move("Fade in", wait=1.0), move("Blur away")),
        plain("who", SUN),
        align="left",
    )
    return title("Quotes", said, who, mark)


def corner_mark() -> Title:
    dot = ShapeClip(
        id="dot",
        name="Dot",
        length=LENGTH,
        form="ellipse",
        width=26.0,
        height=26.0,
        fill=Plain(colour=CLAY),
        transform=Transform(x=850.0, y=-440.0),
        moves=(replace(move("Wink"), id="dot-wink"),),
    )
    live = words(
        "mark",
        "On the water",
        40,
        816,
        -440,
        (move("Fade in"), move("Blur away")),
        align="right",
        weight=600,
        name="Mark",
    )
    return title("Corner marks", dot, live)


def end_card() -> Title:
    ground = BackgroundClip(
        id="ground",
        name="Ground",
        length=LENGTH,
        background=Plain(colour=INK),
        moves=(replace(move("Fade in"), id="ground-in"),),
    )
    thanks = words(
        "thanks",
        "Thank you",
        170,
        0,
        -50,
        (move("Letters rain"),),
        plain("thanks", SUN),
        family="Alfa Slab One",
    )
    more = words("more", "More on Sundays", 52, 0, 130, (move("Letter by letter", wait=0.9),))
    return title(
        "End cards",
        ground,
        line(
            "rule", "thanks", CLAY, thick=6.0, moves=(replace(move("Open outwards"), id="rule-in", wait=0.6),)
        ),
        thanks,
        more,
    )


DESIGNS = {
    "Name on a line": name_on_a_line,
    "Name on a card": card_with_name,
    "Wide headline": opener,
    "Caption on a plate": caption,
    "Three by a bar": list_of_three,
    "Said aloud": quote,
    "Mark in the corner": corner_mark,
    "Goodbye": end_card,
}


def main() -> None:
    READY.mkdir(exist_ok=True)
    pictures = []
    for name, design in DESIGNS.items():
        made = design()
        TITLES.write(READY / f"{name.lower().replace(' ', '-')}.json", SavedTitle(name, made))
        pictures.append(_shown(made))
    rows = [np.hstack(pictures[n : n + 2]) for n in range(0, len(pictures), 2)]
    cv2.imwrite(str(PICTURE), np.vstack(rows))


def _shown(made: Title) -> np.ndarray:
    """A title at rest over a dusky ground, a third as large."""
    ground = replace(made.sequence, background="#33414a")
    plan = picture_plan(replace(made.project, sequences=(ground,)), 70)
    found: np.ndarray = cv2.resize(
        Painter(_NoPictures()).paint(plan)[..., :3], (640, 360), interpolation=cv2.INTER_AREA
    )
    return cv2.copyMakeBorder(found, 4, 4, 4, 4, cv2.BORDER_CONSTANT, value=(26, 26, 27))


class _NoPictures:
    """None of the titles shows a file."""

    def picture(self, *_: Any, **__: Any) -> Any:
        raise AssertionError("a ready title shows no file")


if __name__ == "__main__":
    main()
