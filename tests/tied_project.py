"""A project with everything that ties things together: groups, layers that follow, boxes that fit, wipes
whose edge follows, sequences in sequences, joins, locked and hidden tracks."""

from __future__ import annotations

import msgspec

from builders import look_of, title
from rovix.model import (
    BackgroundClip,
    Fits,
    FootageClip,
    GroupClip,
    Key,
    Keys,
    Marker,
    Media,
    Outline,
    PieceSound,
    Project,
    Sequence,
    SequenceClip,
    ShapeClip,
    SoundClip,
    Track,
    Transform,
    Transition,
)
from rovix.model.effects.wipe import Follow, Wipe
from rovix.motion.ready_moves import pop, rise_and_fade

replace = msgspec.structs.replace
FILM = Media(
    id="film", path="film.mp4", kind="footage", length=6.0, width=64, height=36, rate="30", has_sound=True
)
HUM = Media(id="hum", path="hum.flac", kind="sound", length=4.0, has_sound=True)


def tied_project() -> Project:
    inner = Track(id="g-t", clips=(title("In", id="in", length=30, parent="in2"),), home="words")
    beside = Track(id="g-t2", clips=(title("Beside", id="in2", length=30),))
    keyed = Transform(
        x=Keys(id="kx", keys=(Key(frame=0, value=-50.0), Key(frame=30, value=20.0, curve="ease")))
    )
    words = (
        title(
            "Larkmoor",
            id="big",
            length=50,
            moves=[replace(pop(), id="m1"), replace(rise_and_fade("exit"), id="m2")],
        ),
        title("Day", id="day", start=50, length=30, transition=Transition(id="j"), transform=keyed),
    )
    tied = (
        title("Wind", id="wind", length=40, parent="big", look=look_of("#fff8ea", Outline(id="edge"))),
        title("Kite", id="kite", start=45, length=40,
              effects=(Wipe(id="w", follows=Follow(layer="big")),),
              moves=[replace(pop(), id="m3", piece_sound=PieceSound(sound="hum"))]),
    )  # fmt: skip
    tracks = (
        Track(id="ground", clips=(BackgroundClip(id="paper", length=90),)),
        Track(id="films", clips=(FootageClip(id="f1", media="film", length=40), FootageClip(id="f2", media="film", start=40, length=40, offset=20))),
        Track(id="boxes", clips=(ShapeClip(id="box", length=60, fits=Fits(layer="big")),)),
        Track(id="words", name="Words", clips=words),
        Track(id="tied", name="Tied", clips=tied),
        Track(id="groups", clips=(GroupClip(id="group", name="Group", start=10, length=30, tracks=(inner, beside)), SequenceClip(id="shown", sequence="second", start=45, length=20))),
        Track(id="locked", locked=True, clips=(title("Locked", id="locked-words", length=30, parent="big"),)),
        Track(id="hidden", hidden=True, clips=(title("Hidden", id="hidden-words", length=30),)),
        Track(id="sounds", kind="sound", clips=(SoundClip(id="s1", media="hum", start=5, length=40),)),
    )  # fmt: skip
    second = Sequence(
        id="second",
        name="Second",
        size=(320, 180),
        tracks=(Track(id="s-t", clips=(title("Second", id="sw", length=40),)),),
    )
    first = Sequence(
        id="first", size=(640, 360), tracks=tracks, markers=(Marker(id="mk", frame=12, name="Here"),)
    )
    return Project(id="p", sequences=(first, second), media=(FILM, HUM))
