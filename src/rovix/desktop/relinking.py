"""Looking for missing files in a folder, on a thread; what is found is one step."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QThread, Signal

from rovix.edit.media_list import relink
from rovix.model import Media

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame


class _Search(QThread):
    def __init__(self, missing: list[Media], folder: Path, base: Path) -> None:
        super().__init__()
        self._missing, self._folder, self._base = missing, folder, base
        self.found: dict[str, Media] = {}
        self.stopped = False

    def run(self) -> None:
        from rovix.media.relink import find_media  # the codecs load on this thread, when first asked for

        self.found = find_media(self._missing, self._folder, self._base, lambda: self.stopped)


class Relinking(QObject):
    """One search; `ended` when what it found is taken over, or it was cancelled."""

    ended = Signal()

    def __init__(self, window: Frame, missing: list[Media], folder: Path) -> None:
        super().__init__(window)
        self._window, self._missing, self._folder = window, missing, folder
        self._search = _Search(missing, folder, window.document.base)
        self._search.finished.connect(self._take_over)
        count = "one file" if len(missing) == 1 else f"{len(missing)} files"
        self.title = f"Looking for {count} in {folder.name}"
        self._message = window.offer(self.title, "Editing goes on meanwhile.", {"Cancel": self.cancel})

    def begin(self) -> None:
        self._search.start()

    def cancel(self) -> None:
        """Leave it; nothing changes."""
        self._search.stopped = True

    def wait(self) -> None:
        """Cancel, and wait until the thread has ended."""
        self.cancel()
        self._search.wait()

    def _take_over(self) -> None:
        window, found = self._window, self._search.found
        window.messages.remove(self._message)
        if not self._search.stopped:
            if found:
                window.document.do_whole("Find missing media", lambda project: relink(project, found))
                for item in window.document.whole.media:
                    if item.id in found:
                        window.thumbnails.forget(item)
            left = [item for item in self._missing if item.id not in found]
            if left:
                names = "\n".join(item.path for item in left)
                window.document.problem.emit(
                    f"{names}\nNot found in {self._folder}; choose another folder, or put the files back."
                )
            else:
                window.say(f"Found {len(found)} of {len(self._missing)}.")
        self.ended.emit()
