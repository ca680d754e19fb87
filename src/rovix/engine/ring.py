"""Slots for pictures of one size in shared memory."""

from __future__ import annotations

import os
from multiprocessing.shared_memory import SharedMemory

import numpy as np
from numpy.typing import NDArray

from rovix.errors import RovixError

Pixels = NDArray[np.uint8]


def one_thread_each() -> None:
    """Drawing processes share the cores between them; threads inside each would only get in the way."""
    import cv2  # the window makes rings, too, and draws nothing

    cv2.setNumThreads(1)


class NoRoom(RovixError):
    """Shared memory that the system does not have."""

    def __init__(self, wanted: int) -> None:
        free = os.statvfs(_PLACE).f_bavail * os.statvfs(_PLACE).f_frsize >> 20
        super().__init__(
            f"There is too little shared memory for pictures: {_PLACE} has {free} MB free, {wanted >> 20} MB "
            "are needed. Make it larger, or the picture smaller."
        )


_PLACE = "/dev/shm"


class Ring:
    """`slots` pictures of `size` (width, height); made without a name, joined by one.

    Memory is only promised by the system when a ring is made, and a process that writes where there is
    none ends at once: whoever made the ring calls :meth:`reserve` before anyone writes to a slot.
    """

    def __init__(self, slots: int, size: tuple[int, int], name: str | None = None) -> None:
        self.slots, self.size = slots, size
        self._shape = (slots, size[1], size[0], 4)
        self._owner = name is None
        self._reserved: set[int] = set()
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

    def part(self, number: int, size: tuple[int, int]) -> Pixels:
        """A picture of a smaller size (width, height) at the start of a slot, not copied."""
        width, height = size
        return self.slot(number).reshape(-1)[: width * height * 4].reshape(height, width, 4)

    @property
    def reserved(self) -> frozenset[int]:
        """The slots that have memory."""
        return frozenset(self._reserved)

    def reserve(self, number: int) -> None:
        """See to it that a slot has memory; NoRoom when there is none left. Cheap when it has."""
        if number not in self._reserved:
            length = int(np.prod(self._shape[1:]))
            try:
                os.posix_fallocate(self._memory._fd, number * length, length)  # type: ignore[attr-defined]
            except OSError as wrong:
                raise NoRoom(length) from wrong
            self._reserved.add(number)

    def close(self) -> None:
        """Let go of the memory; the one who made it also frees it. Nobody may hold a slot any more."""
        self._pixels = None
        self._memory.close()
        if self._owner:
            self._memory.unlink()
