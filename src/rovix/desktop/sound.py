"""Sound as the clock that pictures follow."""

from __future__ import annotations

from typing import TYPE_CHECKING

from rovix.desktop.document import Document
from rovix.engine.player import Run, SilentClock

if TYPE_CHECKING:
    from rovix.desktop.sound_out import SoundOut


class SoundClock(SilentClock):
    """Plays the mix at true speed; where there is no device, or at other speeds, it is silent."""

    def __init__(self, document: Document) -> None:
        super().__init__()
        self._document = document
        self._out: SoundOut | None = None

    def start(self, run: Run) -> None:
        if run.speed == 1.0:
            from rovix.desktop.sound_out import SoundOut, device  # the codecs: see `loaded_later`

            found = device()
            if found is not None:
                self._out = SoundOut(found, self._document.project, self._document.base, run)
        super().start(run)  # last: what the device takes to be found is no time that has passed

    def stop(self) -> None:
        if self._out is not None:
            self._out.stop()
        self._out = None

    def seconds(self) -> float:
        return super().seconds() if self._out is None else self._out.seconds()
