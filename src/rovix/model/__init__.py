"""The project as an immutable tree of plain, typed structs."""

from rovix.model.background import Background, Linear, Paper, Plain, Radial, ShapeFill, Stop
from rovix.model.channel import Channel, ColourKey, ColourKeys, Key, Keys, constant
from rovix.model.colour import Colour, bgra
from rovix.model.contour import ContourKey, ContourKeys
from rovix.model.crossing import Crossing
from rovix.model.cut import Cut
from rovix.model.look import Box, Fill, Glow, LongShadow, Look, LookPart, Outline, Shadow
from rovix.model.media import Media
from rovix.model.motion_path import MotionPath, PathKey
from rovix.model.move import (
    Amount,
    Beats,
    Caret,
    Chance,
    Departure,
    Echoes,
    InnerKey,
    Move,
    Pace,
    PieceSound,
    SpeedSound,
    Typing,
)
from rovix.model.node import Node, new_id
from rovix.model.playing import Playing
from rovix.model.project import Guide, Marker, Project, Sequence
from rovix.model.shape import Fits
from rovix.model.shutter import Shutter
from rovix.model.sound import Sound
from rovix.model.text import Text
from rovix.model.track import (
    AreaClip,
    BackgroundClip,
    Clip,
    FootageClip,
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
from rovix.model.transform import Transform
from rovix.model.transition import Transition

__all__ = [
    "Amount",
    "AreaClip",
    "Background",
    "BackgroundClip",
    "Beats",
    "Box",
    "Caret",
    "Chance",
    "Channel",
    "Clip",
    "Colour",
    "ColourKey",
    "ColourKeys",
    "ContourKey",
    "ContourKeys",
    "Crossing",
    "Cut",
    "Departure",
    "Echoes",
    "Fill",
    "Fits",
    "FootageClip",
    "Glow",
    "GroupClip",
    "Guide",
    "InnerKey",
    "Key",
    "Keys",
    "Linear",
    "LongShadow",
    "Look",
    "LookPart",
    "Marker",
    "Media",
    "MotionPath",
    "Move",
    "Node",
    "Outline",
    "Pace",
    "Paper",
    "PathKey",
    "PictureClip",
    "PieceSound",
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
    "SpeedSound",
    "StillClip",
    "Stop",
    "Text",
    "TextClip",
    "TimedClip",
    "Track",
    "Transform",
    "Transition",
    "Typing",
    "bgra",
    "constant",
    "new_id",
]
