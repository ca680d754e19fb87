"""What the window needs only later: loaded once the first picture is up, so that nobody waits for it then.

Whoever uses one of these imports it where it is used. A test compares: none is there at the first picture.
"""

from __future__ import annotations

from importlib import import_module
from threading import Thread

LATER = (
    "rovix.media.mix", "rovix.desktop.sound_out", "rapidfuzz.process", "rovix.desktop.dialogs.finder",
)  # fmt: skip
"""In the order in which they are likely to be wanted."""


class LoadedLater(Thread):
    """Imports all of it; :meth:`stop` ends after what is being loaded."""

    def __init__(self) -> None:
        super().__init__(daemon=True, name="loading")
        self._given_up = False

    def run(self) -> None:
        for name in LATER:
            if self._given_up:
                return
            import_module(name)

    def stop(self) -> None:
        """Load no more, and wait for what is on its way."""
        self._given_up = True
        if self.is_alive():
            self.join()
