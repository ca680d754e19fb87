"""A file the project draws on, with the facts found when it was brought in."""

from __future__ import annotations

from typing import Annotated, Literal

import msgspec

from rovix.model.node import Id, Node, new_id


class Media(Node, frozen=True, kw_only=True):
    """`path` is relative to the project file, with forward slashes.

    `digest` names the content (`blake2b:` and 32 hexadecimal digits), so a moved file can be found
    again. `width`, `height` are px as shown; `rate` frames per second; `length` seconds.
    """

    id: Id = msgspec.field(default_factory=new_id)
    path: Annotated[str, msgspec.Meta(min_length=1)]
    kind: Literal["footage", "still", "sound"]
    digest: str = ""
    bytes: Annotated[int, msgspec.Meta(ge=0)] = 0
    width: Annotated[int, msgspec.Meta(ge=0)] | None = None
    height: Annotated[int, msgspec.Meta(ge=0)] | None = None
    rate: str | None = None
    length: Annotated[float, msgspec.Meta(ge=0)] | None = None
    has_sound: bool = False
