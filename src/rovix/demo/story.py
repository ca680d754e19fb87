"""The demo project: what stands where, and how it moves."""

from __future__ import annotations

from pathlib import Path

import msgspec

from rovix.media.probe import probe
from rovix.model import (
    BackgroundClip,
    Caret,
    Fill,
    Fits,
    FootageClip,
    Key,
    Keys,
    Linear,
    Look,
    LookPart,
    Marker,
    Media,
    Move,
    Outline,
    Paper,
    PieceSound,
    Plain,
    Project,
    Sequence,
    Shadow,
    ShapeClip,
    Sound,
    SoundClip,
    StillClip,
    Stop,
    Text,
    TextClip,
    Track,
    Transform,
    Transition,
    Typing,
)
from rovix.motion.ready_moves import pop, ready_moves, rise_and_fade, word_slides

FILES = (
    "hill-morning.mp4",
    "kite-crossing.mp4",
    "logo.png",
    "wind-bed.flac",
    "whoosh.flac",
    "key-tap.flac",
    "thump.flac",
)
_INK = "#1d3340"
_SUNLIT = (Stop(at=0.0, colour="#fff8ea"), Stop(at=0.55, colour="#fff8ea"), Stop(at=1.0, colour="#f6c98a"))


def demo_project(folder: Path) -> Project:
    """The project, with every id fixed, over the assets in a folder."""
    media = tuple(_media(folder, name) for name in FILES)
    tracks = (_background(), _footage(), _boxes(), _logo(), _headlines(), _lines(), _sounds())
    marks = ((12, "Title"), (210, "The crossing"), (390, "Paper"))
    markers = tuple(Marker(id=f"mark-{frame}", frame=frame, name=name) for frame, name in marks)
    sequence = Sequence(id="kite-day", name="Kite day", background="#10181c", tracks=tracks, markers=markers)
    return Project(id="larkmoor", name="Larkmoor Kite Day", sequences=(sequence,), media=media)


def _media(folder: Path, name: str) -> Media:
    return msgspec.structs.replace(probe(folder / name), id=Path(name).stem)


def _move(move: Move, identity: str, **changes: object) -> Move:
    return msgspec.structs.replace(move, id=identity, **changes)


def _loop(name: str) -> Move:
    return next(move for move in ready_moves("loop") if move.name == name)


def _background() -> Track:
    paper = BackgroundClip(id="paper", name="Paper", start=390, length=90, background=Paper(seed=7))
    return Track(id="background", name="Background", clips=(paper,))


def _footage() -> Track:
    clips = (
        FootageClip(id="hill", name="hill-morning", start=0, length=210, media="hill-morning"),
        FootageClip(
            id="crossing",
            name="kite-crossing",
            start=210,
            length=180,
            media="kite-crossing",
            offset=15,
            transition=Transition(id="into-crossing", kind="dissolve", length=0.6, curve="ease-in-out"),
        ),
    )
    return Track(id="footage", name="Footage", clips=clips)


def _boxes() -> Track:
    """A box that hugs the words about the wind, wherever these rest and whatever they say."""
    box = ShapeClip(
        id="wind-box",
        name="Box behind the wind",
        start=222,
        length=160,
        radius=40.0,
        fill=Linear(angle=90.0, stops=(Stop(at=0.0, colour="#1c2a33b3"), Stop(at=1.0, colour="#1c2a334d"))),
        fits=Fits(layer="wind", margin_x=56.0, margin_y=40.0),
        moves=(
            _move(rise_and_fade(), "box-in", length=0.5),
            _move(rise_and_fade("exit"), "box-out", length=0.5),
        ),
    )
    return Track(id="boxes", name="Boxes", clips=(box,))


def _logo() -> Track:
    turning = Keys(
        id="logo-turn",
        keys=(Key(frame=0, value=-8.0, curve="sine-in-out"), Key(frame=89, value=6.0)),
    )
    logo = StillClip(
        id="kite-logo",
        name="logo",
        start=100,
        length=90,
        media="logo",
        crop="round",
        transform=Transform(x=-720.0, y=330.0, scale_x=0.4, scale_y=0.4, rotation_z=turning),
        moves=(
            _move(pop(), "logo-in", length=0.3),
            _move(_loop("Bob"), "logo-bob"),
            _move(rise_and_fade("exit"), "logo-out", length=0.5),
        ),
    )
    return Track(id="logos", name="Logo", clips=(logo,))


def _look(name: str, colour: str, *parts: LookPart) -> Look:
    return Look(parts=(Fill(id=f"{name}-fill", paint=Plain(colour=colour)), *parts))


def _headlines() -> Track:
    title = TextClip(
        id="title",
        name="Larkmoor",
        start=12,
        length=180,
        text=Text(content="LARKMOOR", family="Outfit", weight=900, size=260.0, tracking=0.02),
        look=Look(
            parts=(
                Fill(id="title-fill", paint=Linear(angle=90.0, stops=_SUNLIT)),
                Outline(id="title-edge", width=9.0, colour=_INK),
                Shadow(id="title-shadow", x=0.0, y=14.0, blur=12.0, colour="#0b1a22", opacity=0.55),
            )
        ),
        transform=Transform(y=-64.0),
        moves=(
            _move(pop(), "title-in", pieces="letters", length=0.7, at_once=3.0),
            _move(rise_and_fade("exit"), "title-out", length=0.6),
        ),
    )
    string = TextClip(
        id="string",
        name="Bring a long string",
        start=396,
        length=84,
        text=Text(
            content="Bring a long\nstring", family="Courier Prime", weight=700, size=150.0, leading=1.15
        ),
        look=_look("string", "#2c2a28"),
        moves=(_typed(), _move(rise_and_fade("exit"), "string-out", length=0.5)),
    )
    return Track(id="text-1", name="Text 1", clips=(title, string))


def _typed() -> Move:
    """Letters in an uneven rhythm, each with the sound of a key."""
    return Move(
        id="string-in",
        name="By hand, unevenly",
        role="entrance",
        length=1.2,
        pieces="letters",
        before="hidden",
        at_once=0.0,
        typing=Typing(rhythm="uneven", caret=Caret(shape="block")),
        piece_sound=PieceSound(sound="key-tap", gain=-6.0),
    )


def _lines() -> Track:
    date = TextClip(
        id="date",
        name="Sunday 7 September",
        start=42,
        length=150,
        text=Text(
            content="KITE DAY · SUNDAY 7 SEPTEMBER", family="Oswald", weight=500, size=84.0, tracking=0.06
        ),
        look=_look("date", "#fff8ea", Outline(id="date-edge", width=5.0, colour=_INK)),
        transform=Transform(y=128.0),
        moves=(
            _move(rise_and_fade(), "date-in", pieces="words", length=0.9, at_once=2.0),
            _move(rise_and_fade("exit"), "date-out"),
        ),
    )
    wind = TextClip(
        id="wind",
        name="Wind",
        start=222,
        length=160,
        text=Text(
            content="Wind 14 knots\nfrom the west\nall afternoon",
            family="Nunito",
            weight=900,
            size=132.0,
            align="left",
            leading=1.1,
        ),
        look=_look("wind", "#fff8ea", Outline(id="wind-edge", width=6.0, colour=_INK)),
        transform=Transform(x=-780.0, y=60.0),
        moves=(
            _move(word_slides(), "wind-in", length=1.4),
            _move(word_slides("exit"), "wind-out", length=0.8),
        ),
    )
    return Track(id="text-2", name="Text 2", clips=(date, wind))


def _sounds() -> Track:
    clips = (
        SoundClip(
            id="bed",
            name="wind bed",
            start=33,
            length=327,
            media="wind-bed",
            sound=Sound(gain=-8.0, fade_in=20, fade_out=60),
        ),
        SoundClip(id="tap", name="key tap", start=396, length=2, media="key-tap", sound=Sound(gain=-6.0)),
    )
    first = (
        SoundClip(id="thump-in", name="thump", start=14, length=13, media="thump", sound=Sound(gain=-4.0)),
        *clips[:1],
        SoundClip(
            id="whoosh-out",
            name="whoosh",
            start=362,
            length=24,
            media="whoosh",
            sound=Sound(gain=-9.0),
        ),
        *clips[1:],
    )
    return Track(id="sounds", name="Sound", kind="sound", clips=first)
