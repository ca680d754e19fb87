"""A field that names another thing says so in its type, with what kind of thing it may name."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

import msgspec

Kind = Literal["layer", "part", "media", "sequence", "track"]


@dataclass(frozen=True, slots=True)
class Reference:
    """What a field names.

    A *layer* stands on the same tracks as the one that names it, and is another; with `places` its
    rest decides where the naming one rests, so circles are refused. A *part* is a layer within the group
    or the sequence that names it. *media* are of one of the kinds in
    `files`, with `heard` such as have sound; the names in `own` are sounds that come with Rovix. A
    `loose` name may outlive what it names. `verb` says what the naming one does, as in 'it would
    follow itself'.
    """

    kind: Kind
    verb: str
    places: bool = False
    files: tuple[str, ...] = ()
    heard: bool = False
    own: frozenset[str] = frozenset()
    loose: bool = False


def refers(kind: Kind, verb: str, **facts: Any) -> msgspec.Meta:
    """The mark of an id that names another thing; the facts are those of :class:`Reference`."""
    return msgspec.Meta(min_length=1, max_length=64, extra={"reference": Reference(kind, verb, **facts)})
