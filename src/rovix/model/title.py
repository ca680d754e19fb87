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


class Title(Node, frozen=True, kw_only=True):
    """A `sequence` with what it draws on, its files beside the title's own; of a `group` such as Names."""

    group: Name = ""
    sequence: Sequence
    media: tuple[Media, ...] = ()
    settings: tuple[Setting, ...] = ()

    @property
    def project(self) -> Project:
        """A project of the title alone."""
        return Project(name=self.group or "Title", sequences=(self.sequence,), media=self.media)
