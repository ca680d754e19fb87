"""Footage as those who draw ask for it: from a process that decodes for all of them.

Where there is no answer, whoever asks decodes by itself.
"""

from __future__ import annotations

import socket
import time
from dataclasses import dataclass
from fractions import Fraction
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from rovix.engine.ring import Ring

Pixels = NDArray[np.uint8]
Size = tuple[int, int]
Manner = Literal["at once", "exact", "ahead"]
"""How a picture is asked for: at once, be it one nearby where decoding takes; exactly that one; or some
frames before it is due, by one of several who ask in turn."""
_PATIENCE = 60.0  # seconds that one who asks waits for an answer: a group of pictures of 4K may take as long
_START = 0.5  # seconds in which a decoder that was just started is to listen
_AGAIN = 2.0  # seconds after which one who was left alone tries again


class Dropped(Exception):
    """Nobody wants that picture any more."""


@dataclass(frozen=True, slots=True)
class Ask:
    """A picture as :meth:`VideoReader.picture` is asked for it."""

    path: Path
    time: Fraction
    shrunk: Size | None
    about: bool
    deinterlace: bool = False
    manner: Manner = "ahead"
    ticket: int = 0
    """The order that it is drawn for."""


@dataclass(frozen=True, slots=True)
class Here:
    """The picture stands in the one slot of a ring; without a `ring` it is the one given last."""

    ring: tuple[int, Size, str] | None
    near: bool = False
    """Whether it is another picture, nearby, as that one takes longer."""


@dataclass(frozen=True, slots=True)
class Drop:
    """Pictures for orders up to a ticket are not wanted any more, but for one that may be."""

    upto: int
    but: int | None = None


class SharedFootage:
    """Pictures of footage from the process at an `address`."""

    def __init__(self, address: str) -> None:
        self._address = address
        self._connection: Connection | None = None
        self._not_before, self._patience = 0.0, _START
        self._ring: Ring | None = None
        self._last: Pixels | None = None
        self._ticket = 0
        self._manner: Manner = "ahead"
        self.near = False
        """Whether any picture since an order began was one nearby."""

    def begin(self, ticket: int, manner: Manner) -> None:
        """What is asked for from now on is for an order."""
        self._ticket, self._manner, self.near = ticket, manner, False

    def picture(
        self, path: Path, moment: Fraction, shrunk: Size | None, about: bool, deinterlace: bool = False
    ) -> Pixels | None:
        """As :meth:`VideoReader.picture` gives it; None where whoever asks has to decode it. Dropped where
        the order is not wanted any more."""
        if self._connection is None and not self._connect():
            return None
        try:
            answer = self._asked(Ask(path, moment, shrunk, about, deinterlace, self._manner, self._ticket))
        except (EOFError, OSError):
            self._leave()
            return None
        if isinstance(answer, Drop):
            raise Dropped
        return None if answer is None else self._taken(answer)

    def forget(self) -> None:
        """Files may have changed: they are opened anew."""
        if self._connection is not None:
            try:
                self._connection.send(None)
            except OSError:
                self._leave()

    def close(self) -> None:
        self._leave()
        if self._ring is not None:
            self._ring.close()
            self._ring = None

    def _asked(self, ask: Ask) -> Here | Drop | None:
        assert self._connection is not None
        self._connection.send(ask)
        if not self._connection.poll(_PATIENCE):
            raise EOFError
        answer: Here | Drop | None = self._connection.recv()
        return answer

    def _taken(self, here: Here) -> Pixels | None:
        self.near |= here.near
        if here.ring is None:
            return self._last
        if self._ring is None or self._ring.key != here.ring:
            if self._ring is not None:
                self._ring.close()
            self._ring = Ring(*here.ring)
        self._last = self._ring.slot(0).copy()
        self._last.setflags(write=False)
        return self._last

    def _connect(self) -> bool:
        if time.monotonic() < self._not_before:
            return False
        # Both were started at the same time: what is waited now is not decoded twice.
        last = time.monotonic() + self._patience
        self._patience = 0.0
        while self._connection is None:
            try:
                self._connection = _connected(self._address)
            except OSError:
                if time.monotonic() >= last:
                    self._not_before = time.monotonic() + _AGAIN
                    return False
                time.sleep(0.005)
        return True

    def _leave(self) -> None:
        if self._connection is not None:
            self._connection.close()
        self._connection, self._last = None, None
        self._not_before = time.monotonic() + _AGAIN


def _connected(address: str) -> Connection:
    made = socket.socket(socket.AF_UNIX, socket.SOCK_STREAM)
    try:
        made.connect(address)
    except OSError:
        made.close()
        raise
    return Connection(made.detach())
