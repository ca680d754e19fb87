"""A title: layers that are kept whole, with what is meant to be set in them."""

from __future__ import annotations

from typing import Annotated, Literal

import msgspec

from rovix.model.limits import Name
from rovix.model.media import Media
from rovix.model.node import Node
from rovix.model.project import Project, Sequence


class Setting(Node, frozen=True, kw_only=True):
    """Something that is meant to be set, by a `name`: the words of text layers, a colour wherever the
    title has it, a family of letters, or the file of a still. `layers` are ids on the title's tracks; of a
    colour or a family `now` is the one that it has."""

    name: Annotated[str, msgspec.Meta(min_length=1, max_length=200)]
    kind: Literal["words", "colour", "family", "file"] = "words"
    layers: tuple[Annotated[str, msgspec.Meta(min_length=1, max_length=64)], ...] = ()
    now: Name = ""


class Bend(Node, frozen=True, kw_only=True):
    """How a layer goes with longer words and with a frame of another shape.

    It keeps its share of the way from the frame's middle to its edges, held by its own top, middle or bottom;
    or, `under` another layer, its distance from that: when one grows, all that stand under each other make
    room. Words take at most `room` of the frame's width and at most so many `lines`: where they are longer
    they are parted, and then their letters are smaller.
    """

    layer: Annotated[str, msgspec.Meta(min_length=1, max_length=64)]
    down: Literal["top", "middle", "bottom"] = "middle"
    under: Annotated[str, msgspec.Meta(max_length=64)] = ""
    room: Annotated[float, msgspec.Meta(gt=0, le=1)] = 0.84
    lines: Annotated[int, msgspec.Meta(ge=1, le=100)] = 2


class Title(Node, frozen=True, kw_only=True):
    """A `sequence` with what it draws on, its files beside the title's own; of a `group` such as Names.

    `version` grows by one each time that it is kept anew."""

    group: Name = ""
    version: Annotated[int, msgspec.Meta(ge=1, le=1_000_000)] = 1
    sequence: Sequence
    media: tuple[Media, ...] = ()
    settings: tuple[Setting, ...] = ()
    bends: tuple[Bend, ...] = ()

    @property
    def project(self) -> Project:
        """A project of the title alone."""
        return Project(name=self.group or "Title", sequences=(self.sequence,), media=self.media)
