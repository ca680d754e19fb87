"""Painted layers, kept within a bound of memory."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rovix.paint.region import Region, part_of


@dataclass(frozen=True, slots=True, eq=False)
class LayerPicture:
    """A painted layer without its own opacity: premultiplied BGRA pixels, and where they lie.

    `opaque` when it is known that nothing shines through.
    """

    pixels: NDArray[np.uint8]
    left: int
    top: int
    opaque: bool = False


def around(pictures: Sequence[LayerPicture]) -> Region | None:
    """The px that any of some pictures covers; None for none."""
    if not pictures:
        return None
    return Region(
        min(picture.left for picture in pictures),
        min(picture.top for picture in pictures),
        max(picture.left + picture.pixels.shape[1] for picture in pictures),
        max(picture.top + picture.pixels.shape[0] for picture in pictures),
    )


def cut(picture: LayerPicture | None, within: Region | None) -> LayerPicture | None:
    """What of a picture lies within a region, all where that is None, not copied."""
    if picture is None or within is None:
        return picture
    height, width = picture.pixels.shape[:2]
    whole = Region(picture.left, picture.top, picture.left + width, picture.top + height)
    common = whole.common(within)
    if common is None:
        return None
    return LayerPicture(part_of(picture.pixels, whole, common), common.left, common.top, picture.opaque)


class LayerCache:
    """The layers painted last, oldest out first, together never above `limit` bytes."""

    def __init__(self, limit: int) -> None:
        self.limit = limit
        self.held = 0
        self._kept: OrderedDict[bytes, LayerPicture] = OrderedDict()

    def get(self, key: bytes) -> LayerPicture | None:
        kept = self._kept.get(key)
        if kept is not None:
            self._kept.move_to_end(key)
        return kept

    def put(self, key: bytes, picture: LayerPicture) -> None:
        """Keep a layer; one that alone is above the limit is not kept."""
        if picture.pixels.nbytes > self.limit or key in self._kept:
            return
        self._kept[key] = picture
        self.held += picture.pixels.nbytes
        while self.held > self.limit:
            _, oldest = self._kept.popitem(last=False)
            self.held -= oldest.pixels.nbytes

    def clear(self) -> None:
        """Give all of them up."""
        self._kept.clear()
        self.held = 0

    def __len__(self) -> int:
        return len(self._kept)
