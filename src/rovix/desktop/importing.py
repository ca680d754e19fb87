"""Bringing files in without holding the window up: they are read on a thread, then placed as one step."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QThread, QTimer, Signal

from rovix.desktop.document import Edit
from rovix.edit import clip_by_id, import_media
from rovix.edit.importing import with_media
from rovix.edit.media_list import set_deinterlaced
from rovix.errors import RovixError
from rovix.model import Media, Project

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame

_SOON = 400  # ms after which it is worth saying that files are being read


@dataclass
class Found:
    """What the thread has read so far."""

    media: list[Media] = field(default_factory=list)
    refused: list[str] = field(default_factory=list)


class _Reader(QThread):
    """Reads the facts of files, one after the other; large ones take time for their digest."""

    def __init__(self, paths: list[Path], base: Path) -> None:
        super().__init__()
        self._paths, self._base = paths, base
        self.found = Found()
        self.stopped = False

    def run(self) -> None:
        from rovix.media.probe import probe  # the codecs load on this thread, when first asked for

        for path in self._paths:
            if self.stopped:
                return
            try:
                self.found.media.append(probe(path, self._base))
            except (RovixError, OSError, ValueError) as wrong:
                self.found.refused.append(str(wrong))


class Importing(QObject):
    """One lot of files on its way in; `ended` when they are placed or it was cancelled."""

    ended = Signal()

    def __init__(self, window: Frame, paths: list[Path], placed: bool = True) -> None:
        super().__init__(window)
        self._window, self._count, self._placed = window, len(paths), placed
        self._start = window.document.playhead
        self._reader = _Reader(paths, window.document.base)
        self._reader.finished.connect(self._place)
        self._notice = QTimer(self, interval=_SOON, singleShot=True)
        self._notice.timeout.connect(self._say)
        self._message: QObject | None = None
        said = "one file" if self._count == 1 else f"{self._count} files"
        self.title = f"Importing {said}"

    def begin(self) -> None:
        self._notice.start()
        self._reader.start()

    def cancel(self) -> None:
        """Leave the rest; what was read is not placed either."""
        self._notice.stop()
        self._reader.stopped = True

    def wait(self) -> None:
        """Cancel, and wait until the thread has ended."""
        self.cancel()
        self._notice.stop()
        self._reader.wait()

    def _say(self) -> None:
        choices: dict[str, Callable[[], None]] = {"Cancel": self.cancel}
        self._message = self._window.offer(self.title, "Editing goes on meanwhile.", choices)

    def _place(self) -> None:
        self._notice.stop()
        if self._message is not None:
            self._window.messages.remove(self._message)
        found = self._reader.found
        if not self._reader.stopped:
            self._edit(found.media)
            self._say_bright(found.media)
            self._say_interlaced(found.media)
            self._say_refused(found.refused)
        self.ended.emit()

    def _say_bright(self, media: list[Media]) -> None:
        for item in media:
            if item.transfer != "standard":
                self._window.messages.notice(
                    "Convert it to BT.709 before importing it for true colours.\n"
                    f"{item.title} is of high dynamic range ({item.transfer}); here it looks flat and pale."
                )

    def _say_interlaced(self, media: list[Media]) -> None:
        found = [item for item in media if item.interlaced]
        if not found:
            return
        names = " and ".join(item.title for item in found[:2]) + " and others" * (len(found) > 2)
        self._window.offer(
            f"Interlaced: {names}",
            "Each picture is two, taken one after the other: what moves has combs. "
            "Clip > Playing > Deinterlace undoes it and brings it back.",
            {"Deinterlace": lambda: self._deinterlace(found), "Leave it as it is": lambda: None},
        )

    def _deinterlace(self, media: list[Media]) -> None:
        def edit(project: Project) -> Project:
            for item in media:
                project = set_deinterlaced(project, item.id, True)
            return project

        self._window.document.do("Deinterlace", edit)

    def _say_refused(self, reasons: list[str]) -> None:
        """Each with its reason; many as one message that shows them all when asked."""
        document = self._window.document
        if len(reasons) <= 2:
            for reason in reasons:
                document.problem.emit(reason)
            return
        every = "\n".join(reasons)
        title = f"{len(reasons)} of {self._count} files were not imported"
        self._window.messages.refusal(
            title, "\n".join(reasons[:3]) + "\n…", {"Show all": lambda: self._window.show_text(title, every)}
        )

    def _edit(self, media: list[Media]) -> None:
        made: list[str] = []
        names = media[0].path.rsplit("/", 1)[-1] if len(media) == 1 else f"{len(media)} files"
        document = self._window.document
        edit = self._placing(media, made) if self._placed else _listing(media)
        if media and document.do(f"Import {names}", edit):
            document.select(*made)

    def _placing(self, media: list[Media], made: list[str]) -> Edit:
        """Pictures one after the other from the playhead on, sounds likewise."""

        def edit(project: Project) -> Project:
            at = {True: self._start, False: self._start}
            made.clear()
            for item in media:
                sounds = item.kind == "sound"
                project, identity = import_media(project, item, at[sounds])
                clip = clip_by_id(project, identity)
                assert clip is not None
                at[sounds] = clip.span.end
                made.append(identity)
            return project

        return edit


def _listing(media: list[Media]) -> Edit:
    """Onto the project's list, without a clip."""

    def edit(project: Project) -> Project:
        for item in media:
            project, _ = with_media(project, item)
        return project

    return edit
