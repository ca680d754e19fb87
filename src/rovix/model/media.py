"""A file the project draws on, with the facts found when it was brought in."""

from __future__ import annotations

from typing import Annotated, Literal

import msgspec

from rovix.model.node import Id, Node, new_id


class Media(Node, frozen=True, kw_only=True):
    """`path` is relative to the project file, with forward slashes.

    `digest` names the content (`blake2b:` and 32 hexadecimal digits), so a moved file can be found
    again. `width`, `height` are px as shown; `rate` frames per second; `length` seconds. `name` is
    what people call it; without one it is called by its file.
    """

    id: Id = msgspec.field(default_factory=new_id)
    path: Annotated[str, msgspec.Meta(min_length=1)]
    kind: Literal["footage", "still", "sound"]
    name: str = ""
    digest: str = ""
    bytes: Annotated[int, msgspec.Meta(ge=0)] = 0
    width: Annotated[int, msgspec.Meta(ge=0)] | None = None
    height: Annotated[int, msgspec.Meta(ge=0)] | None = None
    rate: str | None = None
    length: Annotated[float, msgspec.Meta(ge=0)] | None = None
    has_sound: bool = False

    @property
    def title(self) -> str:
        """What to call it: its name, or its file's without the suffix."""
        return self.name or self.path.rsplit("/", 1)[-1].rsplit(".", 1)[0]
