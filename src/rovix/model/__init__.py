"""The project as an immutable tree of plain, typed structs."""

from rovix.model.channel import Channel, ColourKey, ColourKeys, Key, Keys, constant
from rovix.model.colour import Colour, bgra
from rovix.model.ground import Ground, Linear, Paper, Plain, Radial, ShapeFill, Stop
from rovix.model.join import Join
from rovix.model.look import Box, Fill, Glow, LongShadow, Look, LookPart, Outline, Shadow
from rovix.model.media import Media
from rovix.model.move import (
    Amount,
    Beats,
    Caret,
    Chance,
    Departure,
    Echoes,
    InnerKey,
    Move,
    Strike,
    Typing,
    Whoosh,
)
from rovix.model.node import Node, new_id
from rovix.model.path import Path, PathKey
from rovix.model.place import Place
from rovix.model.playing import Playing
from rovix.model.project import Guide, Marker, Project, Sequence
from rovix.model.shape import Hug
from rovix.model.shutter import Shutter
from rovix.model.sound import Sound
from rovix.model.track import (
    Clip,
    FootageClip,
    GroundClip,
    GroupClip,
    PictureClip,
    SequenceClip,
    ShapeClip,
    SoundClip,
    StillClip,
    TextClip,
    TimedClip,
    Track,
)
from rovix.model.words import Words

__all__ = [
    "Amount",
    "Beats",
    "Box",
    "Caret",
    "Chance",
    "Channel",
    "Clip",
    "Colour",
    "ColourKey",
    "ColourKeys",
    "Departure",
    "Echoes",
    "Fill",
    "FootageClip",
    "Glow",
    "Ground",
    "GroundClip",
    "GroupClip",
    "Guide",
    "Hug",
    "InnerKey",
    "Join",
    "Key",
    "Keys",
    "Linear",
    "LongShadow",
    "Look",
    "LookPart",
    "Marker",
    "Media",
    "Move",
    "Node",
    "Outline",
    "Paper",
    "Path",
    "PathKey",
    "PictureClip",
    "Place",
    "Plain",
    "Playing",
    "Project",
    "Radial",
    "Sequence",
    "SequenceClip",
    "Shadow",
    "ShapeClip",
    "ShapeFill",
    "Shutter",
    "Sound",
    "SoundClip",
    "StillClip",
    "Stop",
    "Strike",
    "TextClip",
    "TimedClip",
    "Track",
    "Typing",
    "Whoosh",
    "Words",
    "bgra",
    "constant",
    "new_id",
]
