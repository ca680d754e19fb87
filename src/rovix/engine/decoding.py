"""Footage decoded once, by one process, for all that draw.

Whoever draws asks for a picture through a socket, and finds it in memory that it shares with the decoder.
Where there is no answer, it decodes by itself.
"""

from __future__ import annotations

import os
import socket
import time
from collections import OrderedDict
from contextlib import suppress
from dataclasses import dataclass
from fractions import Fraction
from multiprocessing.connection import Connection, wait
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from rovix.engine.ring import Ring, one_thread_each
from rovix.errors import RovixError
from rovix.media.shared_video import SharedVideo

Pixels = NDArray[np.uint8]
Size = tuple[int, int]
_OPEN = 6  # files
_PATIENCE = 10.0  # seconds that one who asks waits for an answer
_START = 0.5  # seconds in which a decoder that was just started is to listen
_AGAIN = 2.0  # seconds after which one who was left alone tries again


@dataclass(frozen=True, slots=True)
class _Ask:
    """A picture as :meth:`VideoReader.picture` is asked for it."""

    path: Path
    time: Fraction
    shrunk: Size | None
    about: bool
    deinterlace: bool = False


@dataclass(frozen=True, slots=True)
class _Here:
    """The picture stands in the one slot of a ring; without a `ring` it is the one given last."""

    ring: tuple[int, Size, str] | None


class SharedFootage:
    """Pictures of footage from the process at an `address`."""

    def __init__(self, address: str) -> None:
        self._address = address
        self._connection: Connection | None = None
        self._not_before, self._patience = 0.0, _START
        self._ring: Ring | None = None
        self._last: Pixels | None = None

    def picture(
        self, path: Path, moment: Fraction, shrunk: Size | None, about: bool, deinterlace: bool = False
    ) -> Pixels | None:
        """As :meth:`VideoReader.picture` gives it; None where whoever asks has to decode it."""
        if self._connection is None and not self._connect():
            return None
        try:
            answer = self._asked(_Ask(path, moment, shrunk, about, deinterlace))
        except (EOFError, OSError):
            self._leave()
            return None
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

    def _asked(self, ask: _Ask) -> _Here | None:
        assert self._connection is not None
        self._connection.send(ask)
        if not self._connection.poll(_PATIENCE):
            raise EOFError
        answer: _Here | None = self._connection.recv()
        return answer

    def _taken(self, here: _Here) -> Pixels | None:
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


@dataclass(eq=False)
class _Client:
    """One that draws: its own slot, and which picture stands in it."""

    connection: Connection
    ring: Ring | None = None
    given: object = None

    def close(self) -> None:
        self.connection.close()
        if self.ring is not None:
            self.ring.close()


class _Decoder:
    def __init__(self, listener: socket.socket) -> None:
        self._listener = listener
        self._clients: dict[Connection, _Client] = {}
        self._files: OrderedDict[tuple[Path, bool], SharedVideo] = OrderedDict()

    def serve(self, until: Connection) -> None:
        """Answer whoever asks until a pipe closes; decode ahead meanwhile."""
        waiting = True
        while True:
            ready = wait([until, self._listener, *self._clients], None if waiting else 0)
            if until in ready:
                return
            for one in ready:
                if isinstance(one, Connection):
                    self._hear(self._clients[one])
                else:
                    taken, _ = self._listener.accept()
                    connection = Connection(taken.detach())
                    self._clients[connection] = _Client(connection)
            waiting = not self._look_ahead()

    def close(self) -> None:
        for client in self._clients.values():
            client.close()
        self._forget()

    def _look_ahead(self) -> bool:
        # In the file asked for last alone: one that is over has no more to come.
        newest = next(reversed(self._files.values()), None)
        with suppress(Exception):  # whoever asks for that frame is told
            return newest is not None and newest.look_ahead()
        return False

    def _hear(self, client: _Client) -> None:
        try:
            ask = client.connection.recv()
            if ask is None:
                self._forget()
            else:
                client.connection.send(self._answer(client, ask))
        except (EOFError, OSError):
            del self._clients[client.connection]
            client.close()

    def _answer(self, client: _Client, ask: _Ask) -> _Here | None:
        try:
            pixels = self._file(ask.path, ask.deinterlace).picture(ask.time, ask.shrunk, ask.about)
            if pixels is client.given:
                return _Here(None)
            height, width = pixels.shape[:2]
            slot = self._slot(client, (width, height))
        except Exception:  # gone, damaged, no memory: whoever asks meets it by itself, and says so
            return None
        slot.slot(0)[:] = pixels
        client.given = pixels
        return _Here(slot.key)

    def _slot(self, client: _Client, size: Size) -> Ring:
        if client.ring is None or client.ring.size != size:
            made = Ring(1, size)
            try:
                made.reserve(0)
            except RovixError:
                made.close()
                raise
            if client.ring is not None:
                client.ring.close()
            client.ring = made
        return client.ring

    def _file(self, path: Path, deinterlace: bool) -> SharedVideo:
        key = path, deinterlace
        found = self._files.pop(key, None) or SharedVideo(path, deinterlace)
        self._files[key] = found
        if len(self._files) > _OPEN:
            self._files.popitem(last=False)[1].close()
        return found

    def _forget(self) -> None:
        for file in self._files.values():
            file.close()
        self._files.clear()


def work(until: Connection, address: str) -> None:
    """Decode for whoever connects to the address until the pipe closes."""
    one_thread_each()
    os.nice(5)
    with socket.socket(socket.AF_UNIX, socket.SOCK_STREAM) as listener:
        listener.bind(address)
        listener.listen()
        decoder = _Decoder(listener)
        try:
            decoder.serve(until)
        finally:
            decoder.close()
