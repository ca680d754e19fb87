"""What the designs are put together from: colours, moves, words, shapes and grounds."""

from __future__ import annotations

from typing import Any

from rovix.edit.title_fit import bends_of
from rovix.edit.titles import settings_of
from rovix.edit.tree import replace
from rovix.model import (
    Amount,
    BackgroundClip,
    Box,
    Clip,
    Departure,
    Fill,
    Fits,
    Key,
    Keys,
    Look,
    Move,
    Outline,
    Plain,
    Sequence,
    Shadow,
    ShapeClip,
    Text,
    TextClip,
    Track,
    Transform,
)
from rovix.model.roles import ROLES
from rovix.model.title import Title
from rovix.motion.ready_moves import ready_moves

CREAM, INK, SEA, CLAY, SUN = "#f6efe2", "#17242b", "#1b626b", "#b2452f", "#f0b94a"
PLUM, LEAF, FOG, NIGHT, ROSE = "#4d2f52", "#4c7a3f", "#dfe6e4", "#0f151b", "#eeb4a6"
LENGTH = 180
FADED = Move(
    role="exit", name="Fade out", length=0.5,
    channels=(Departure(channel="opacity", amount=Amount(value=0.0), curve="sine-in-out"),),
)  # fmt: skip
SIZE = (1920, 1080)


def move(name: str, **changes: Any) -> Move:
    """A ready move by its name, or the plain fade, with changes."""
    ready = (*(m for role in ROLES for m in ready_moves(role)), FADED)
    return replace(next(m for m in ready if m.name == name), **changes)


def own(role: str, name: str, length: float, *channels: Departure, **fields: Any) -> Move:
    """A move of our own."""
    return Move(role=role, name=name, length=length, channels=channels, **fields)  # type: ignore[arg-type]


def away(channel: str, value: float, unit: str = "px", **fields: Any) -> Departure:
    return Departure(channel=channel, amount=Amount(value=value, unit=unit), **fields)  # type: ignore[arg-type]


def words(
    identity: str, content: str, size: float, x: float = 0.0, y: float = 0.0,
    moves: tuple[Move, ...] = (), look: Look | None = None, **fields: Any,
) -> TextClip:  # fmt: skip
    """A text layer; what is of its text by name goes there."""
    of_text = set(Text.__struct_fields__)
    text = {name: fields.pop(name) for name in list(fields) if name in of_text}
    place = {name: fields.pop(name) for name in list(fields) if name in Transform.__struct_fields__}
    return TextClip(
        id=identity, name=fields.pop("name", identity.capitalize().replace("-", " ")),
        length=fields.pop("length", LENGTH), text=Text(content=content, size=size, **text),
        look=look or edged(identity), moves=_named(identity, moves), transform=Transform(x=x, y=y, **place),
        **fields,
    )  # fmt: skip


def _named(identity: str, moves: tuple[Move, ...]) -> tuple[Move, ...]:
    return tuple(replace(m, id=f"{identity}-{n}") for n, m in enumerate(moves))


def filled(identity: str, paint: Any, *under: Any) -> Look:
    """Letters of a colour or a gradient over what is under them."""
    paint = Plain(colour=paint) if isinstance(paint, str) else paint
    return Look(parts=(Fill(id=f"{identity}-fill", paint=paint), *under))


def edged(identity: str, paint: Any = CREAM, edge: str = INK, width: float = 5.0) -> Look:
    """Letters that can be read on any footage: a dark edge around them and a soft shadow under it."""
    return filled(
        identity, paint, Outline(id=f"{identity}-edge", width=width, colour=edge),
        Shadow(id=f"{identity}-shadow", x=0.0, y=6.0, blur=12.0, colour="#000000", opacity=0.5),
    )  # fmt: skip


def plated(identity: str, paint: Any, plate: Any, radius: float = 10.0, **box: Any) -> Look:
    """Letters on a plate that is as large as they are."""
    plate = Plain(colour=plate) if isinstance(plate, str) else plate
    sizes = {"padding_x": 34.0, "padding_y": 24.0} | box
    return filled(identity, paint, Box(id=f"{identity}-plate", paint=plate, radius=radius, **sizes))


def shape(identity: str, width: float, height: float, colour: Any, x: float = 0.0, y: float = 0.0,
          moves: tuple[Move, ...] = (), **fields: Any) -> ShapeClip:  # fmt: skip
    """A drawn form."""
    place = {name: fields.pop(name) for name in list(fields) if name in Transform.__struct_fields__}
    fill = Plain(colour=colour) if isinstance(colour, str) else colour
    return ShapeClip(
        id=identity, name=identity.capitalize().replace("-", " "), length=fields.pop("length", LENGTH),
        width=width, height=height, fill=fill, transform=Transform(x=x, y=y, **place),
        moves=_named(identity, moves), **fields,
    )  # fmt: skip


def line(identity: str, layer: str, colour: str, side: str = "under", thick: float = 8.0,
         gap: float = 18.0, moves: tuple[Move, ...] = (), **fields: Any) -> ShapeClip:  # fmt: skip
    """A bar along a side of words, as long as they are."""
    fits = Fits(layer=layer, margin_x=gap if side in ("left", "right") else 0.0,
                margin_y=0.0 if side in ("left", "right") else gap,
                side=side)  # type: ignore[arg-type]  # fmt: skip
    return shape(identity, 100.0, thick, colour, moves=moves, fits=fits, **fields)


def ground(background: Any, moves: tuple[Move, ...] = ()) -> BackgroundClip:
    """What fills the frame."""
    background = Plain(colour=background) if isinstance(background, str) else background
    return BackgroundClip(
        id="ground", name="Ground", length=LENGTH, background=background, moves=_named("ground", moves)
    )


def keys(identity: str, *points: tuple[int, float, str]) -> Keys:
    """A channel's keys: frame, value, and the curve on to the next."""
    return Keys(id=identity, keys=tuple(Key(frame=f, value=v, curve=c) for f, v, c in points))


def title(group: str, *clips: Clip, fixed: tuple[str, ...] = (), **bends: dict[str, Any]) -> Title:
    """Each on a track of its own, the first lowest. `fixed` words are not to be set; `bends` by a layer's id,
    its hyphens underscores, change how that goes with longer words and other frames."""
    tracks = tuple(Track(id=f"track-{n}", name=clip.title, clips=(clip,)) for n, clip in enumerate(clips))
    sequence = Sequence(id="title", name="Title", size=SIZE, background="#00000000", tracks=tracks)
    told = tuple(
        replace(bend, **bends.get(bend.layer.replace("-", "_"), {})) for bend in bends_of(clips, SIZE)
    )
    meant = settings_of(clip for clip in clips if clip.id not in fixed)
    return Title(group=group, sequence=sequence, settings=meant, bends=told)
