"""The project as an immutable tree of plain, typed structs."""

from rovix.model.channel import Channel, Key, Keys, constant
from rovix.model.colour import Colour, bgra
from rovix.model.ground import Ground, Paper, Plain
from rovix.model.look import Look, Outline
from rovix.model.media import Media
from rovix.model.move import Amount, Departure, InnerKey, Move
from rovix.model.node import Node, new_id
from rovix.model.place import Place
from rovix.model.project import Project, Sequence
from rovix.model.track import (
    Clip,
    FootageClip,
    GroundClip,
    GroupClip,
    PictureClip,
    SoundClip,
    StillClip,
    TextClip,
    Track,
)
from rovix.model.words import Words

__all__ = [
    "Amount",
    "Channel",
    "Clip",
    "Colour",
    "Departure",
    "FootageClip",
    "Ground",
    "GroundClip",
    "GroupClip",
    "InnerKey",
    "Key",
    "Keys",
    "Look",
    "Media",
    "Move",
    "Node",
    "Outline",
    "Paper",
    "PictureClip",
    "Place",
    "Plain",
    "Project",
    "Sequence",
    "SoundClip",
    "StillClip",
    "TextClip",
    "Track",
    "Words",
    "bgra",
    "constant",
    "new_id",
]
