"""How a file is made that is delivered."""

from __future__ import annotations

from typing import Annotated

from msgspec import Meta

from rovix.model.node import Node

Side = Annotated[int, Meta(ge=16, le=16384)]
Lufs = Annotated[float, Meta(ge=-40.0, le=-5.0)]


class Delivery(Node, frozen=True, omit_defaults=True):
    """`size` of the pictures in px, that of the sequence if None; `codec` and `quality` as a kind of file has
    them, the usual if None; `loudness` in LUFS that the sound is brought to, None as it is."""

    size: tuple[Side, Side] | None = None
    codec: str | None = None
    quality: str | None = None
    loudness: Lufs | None = None
