"""A file the project draws on, with the facts found when it was brought in."""

from __future__ import annotations

from typing import Annotated, Literal

import msgspec

from rovix.model.cut_out import CutOut
from rovix.model.limits import Name
from rovix.model.node import Id, Node, new_id

_NO_NUL = "^[^\\x00]*$"
Extent = Annotated[int, msgspec.Meta(ge=0, le=1_000_000)]


def shown_name(path: str) -> str:
    """A file's path as text that can be shown: bytes that are no UTF-8 become question marks."""
    return path.encode("utf-8", "replace").decode()


class Media(Node, frozen=True, kw_only=True):
    """`path` is relative to the project file, with forward slashes.

    `digest` names the content (`blake2b:` and 32 hexadecimal digits), so a moved file can be found
    again. `width`, `height` are px as shown; `rate` frames per second; `length` seconds. `name` is
    what people call it; without one it is called by its file. `transfer` is how footage writes light
    down; other than standard it is of high dynamic range. Footage with
    `alpha` may be seen through. Of `interlaced` footage each picture is two fields, taken one after the
    other; `deinterlaced` it is shown by the first of them, made whole. A matte of ours says how it was
    `cut_out`.
    """

    id: Id = msgspec.field(default_factory=new_id)
    path: Annotated[str, msgspec.Meta(min_length=1, max_length=4096, pattern=_NO_NUL)]
    kind: Literal["footage", "still", "sound"]
    name: Name = ""
    digest: Name = ""
    bytes: Annotated[int, msgspec.Meta(ge=0, le=2**53)] = 0
    width: Extent | None = None
    height: Extent | None = None
    rate: Name | None = None
    length: Annotated[float, msgspec.Meta(ge=0, le=100_000_000)] | None = None
    has_sound: bool = False
    transfer: Literal["standard", "PQ", "HLG"] = "standard"
    alpha: bool = False
    interlaced: bool = False
    deinterlaced: bool = False
    cut_out: CutOut | None = None

    @property
    def title(self) -> str:
        """What to call it: its name, or its file's without the suffix."""
        return self.name or shown_name(self.path.rsplit("/", 1)[-1].rsplit(".", 1)[0])
