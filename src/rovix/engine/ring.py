"""Slots for pictures of one size in shared memory."""

from __future__ import annotations

from multiprocessing.shared_memory import SharedMemory

import cv2
import numpy as np
from numpy.typing import NDArray

Pixels = NDArray[np.uint8]


def one_thread_each() -> None:
    """Drawing processes share the cores between them; threads inside each would only get in the way."""
    cv2.setNumThreads(1)


class Ring:
    """`slots` pictures of `size` (width, height); made without a name, joined by one."""

    def __init__(self, slots: int, size: tuple[int, int], name: str | None = None) -> None:
        self.slots, self.size = slots, size
        self._shape = (slots, size[1], size[0], 4)
        self._owner = name is None
        if name is None:
            self._memory = SharedMemory(create=True, size=int(np.prod(self._shape)))
        else:
            self._memory = SharedMemory(name)
        self._pixels: Pixels | None = np.ndarray(self._shape, np.uint8, self._memory.buf)

    @property
    def name(self) -> str:
        return self._memory.name

    @property
    def key(self) -> tuple[int, tuple[int, int], str]:
        """What another process needs to join: slots, size, name."""
        return self.slots, self.size, self.name

    def slot(self, number: int) -> Pixels:
        """The pixels of a slot, not copied; gone when the ring is closed."""
        assert self._pixels is not None
        return self._pixels[number]

    def close(self) -> None:
        """Let go of the memory; the one who made it also frees it. Nobody may hold a slot any more."""
        self._pixels = None
        self._memory.close()
        if self._owner:
            self._memory.unlink()
