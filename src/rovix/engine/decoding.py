"""The process that decodes footage, once, for all that draw.

Whoever draws asks for a picture through a socket, and finds it in memory that it shares with this process.
Decoding goes on frame by frame, and who asks is heard in between: what is not wanted any more is dropped on
the way, and who wants one at once gets the nearest one there is.
"""

from __future__ import annotations

import socket
from collections import OrderedDict, deque
from contextlib import suppress
from dataclasses import dataclass
from multiprocessing.connection import Connection, wait
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from rovix.engine.ring import Ring, one_thread_each
from rovix.engine.shared_footage import Ask, Drop, Here
from rovix.errors import RovixError
from rovix.media.shared_video import SharedVideo
from rovix.processes import Behind, give_back_memory, give_way

Pixels = NDArray[np.uint8]
Size = tuple[int, int]
_OPEN = 6  # files
_RESTS = 10.0  # seconds without anyone who asks


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
        self._pending: deque[tuple[_Client, Ask]] = deque()
        self._drop = Drop(-1)

    def serve(self, until: Connection) -> None:
        """Answer whoever asks until a pipe closes, and drop what it says; decode ahead meanwhile."""
        waiting = True
        while True:
            ready = wait([until, self._listener, *self._clients], _RESTS if waiting else 0)
            if waiting and not ready:
                self._rest()
                ready = wait([until, self._listener, *self._clients])
            if until in ready and not self._take_drop(until):
                return
            for one in ready:
                if one is self._listener:
                    taken, _ = self._listener.accept()
                    connection = Connection(taken.detach())
                    self._clients[connection] = _Client(connection)
                elif isinstance(one, Connection) and one in self._clients:
                    self._hear(self._clients[one])
            waiting = not self._go_on()

    def close(self) -> None:
        for client in self._clients.values():
            client.close()
        self._forget()

    def _take_drop(self, until: Connection) -> bool:
        """What is not wanted any more; False where nobody is there to want anything."""
        try:
            self._drop = until.recv()
        except (EOFError, OSError):
            return False
        for client, ask in list(self._pending):
            if self._is_dropped(ask):
                self._pending.remove((client, ask))
                self._say(client, self._drop)
        return True

    def _is_dropped(self, ask: Ask) -> bool:
        return 0 < ask.ticket <= self._drop.upto and ask.ticket != self._drop.but

    def _go_on(self) -> bool:
        """Decode one frame, towards what is asked for or ahead of it; False where there is none to decode."""
        if self._pending:
            client, ask = self._pending[0]
            if self._is_there(ask):
                self._pending.popleft()
                self._say(client, self._answer(client, ask))
            return True
        # In the file asked for last alone: one that is over has no more to come.
        newest = next(reversed(self._files.values()), None)
        with suppress(Exception):  # whoever asks for that frame is told
            return newest is not None and newest.look_ahead()
        return False

    def _is_there(self, ask: Ask) -> bool:
        """Whether a picture can be given, after one frame more; what fails is asked for once more."""
        try:
            return self._file(ask).come_nearer(ask.time, lags=ask.manner == "ahead")
        except Exception:
            return True

    def _is_at_hand(self, ask: Ask) -> bool:
        try:
            return ask.manner == "ahead" and self._file(ask).is_at_hand(ask.time)
        except Exception:  # which is met where it is asked for
            return True

    def _hear(self, client: _Client) -> None:
        try:
            ask = client.connection.recv()
        except (EOFError, OSError):
            self._leave(client)
            return
        if ask is None:
            self._forget()
        elif ask.manner == "at once":
            self._say(client, self._nearby(client, ask))
        elif self._is_dropped(ask):
            self._say(client, self._drop)
        elif self._is_at_hand(ask):
            # Measured: in turn with those that take longer, playing has many pictures late.
            self._say(client, self._answer(client, ask))
        else:
            self._pending.append((client, ask))

    def _say(self, client: _Client, answer: Here | Drop | None) -> None:
        try:
            client.connection.send(answer)
        except OSError:
            self._leave(client)

    def _leave(self, client: _Client) -> None:
        self._clients.pop(client.connection, None)
        self._pending = deque(one for one in self._pending if one[0] is not client)
        client.close()

    def _nearby(self, client: _Client, ask: Ask) -> Here | None:
        try:
            pixels, exact = self._file(ask).nearest(ask.time, ask.shrunk, ask.about)
            return self._given(client, pixels, not exact)
        except Exception:  # as below
            return None

    def _answer(self, client: _Client, ask: Ask) -> Here | None:
        try:
            return self._given(client, self._file(ask).picture(ask.time, ask.shrunk, ask.about), False)
        except Exception:  # gone, damaged, no memory: whoever asks meets it by itself, and says so
            return None

    def _given(self, client: _Client, pixels: Pixels, near: bool) -> Here:
        if pixels is client.given:
            return Here(None, near)
        height, width = pixels.shape[:2]
        slot = self._slot(client, (width, height))
        slot.slot(0)[:] = pixels
        client.given = pixels
        return Here(slot.key, near)

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

    def _file(self, ask: Ask) -> SharedVideo:
        key = ask.path, ask.deinterlace
        found = self._files.pop(key, None) or SharedVideo(*key)
        self._files[key] = found
        if len(self._files) > _OPEN:
            self._files.popitem(last=False)[1].close()
        return found

    def _rest(self) -> None:
        """Nobody asks for a while: a file that is open holds dozens of frames."""
        self._forget()
        give_back_memory()

    def _forget(self) -> None:
        for file in self._files.values():
            file.close()
        self._files.clear()


def work(until: Connection, address: str) -> None:
    """Decode for whoever connects to the address until the pipe closes."""
    one_thread_each()
    with socket.socket(socket.AF_UNIX, socket.SOCK_STREAM) as listener:
        listener.bind(address)
        listener.listen()
        give_way(Behind.PICTURES)  # not before it can be heard: who draws would decode for itself
        decoder = _Decoder(listener)
        try:
            decoder.serve(until)
        finally:
            decoder.close()
