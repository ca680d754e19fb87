"""Fonts on their way in: each is checked by another process, then the user says where they go."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QThread, Signal

from rovix.desktop.dialogs.bring_fonts import BringFonts
from rovix.engine.project_fonts import check_font
from rovix.errors import RovixError
from rovix.text.font_files import FontFile

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame


class _Checker(QThread):
    def __init__(self, paths: list[Path]) -> None:
        super().__init__()
        self._paths = paths
        self.fonts: list[FontFile] = []
        self.refused: list[str] = []
        self.stopped = False

    def run(self) -> None:
        for path in self._paths:
            if self.stopped:
                return
            try:
                self.fonts.append(check_font(path))
            except (RovixError, OSError) as wrong:
                self.refused.append(str(wrong))


class BringingFonts(QObject):
    """A job of the open document: `ended` when the fonts are looked at, or it was cancelled."""

    ended = Signal()

    def __init__(self, window: Frame, paths: list[Path]) -> None:
        super().__init__(window)
        self._window = window
        self._checker = _Checker(paths)
        self._checker.finished.connect(self._ask)
        self.title = "Bringing in a font" if len(paths) == 1 else f"Bringing in {len(paths)} fonts"

    def begin(self) -> None:
        self._window.say(f"{self.title}…")
        self._checker.start()

    def cancel(self) -> None:
        """Leave the rest; nothing is copied."""
        self._checker.stopped = True

    def wait(self) -> None:
        """Cancel, and wait until the thread has ended."""
        self.cancel()
        self._checker.wait()

    def _ask(self) -> None:
        if not self._checker.stopped:
            self._say_refused(self._checker.refused)
            if self._checker.fonts:
                dialog = BringFonts(self._window, self._checker.fonts)
                dialog.finished.connect(dialog.deleteLater)
                dialog.open()
        self.ended.emit()

    def _say_refused(self, reasons: list[str]) -> None:
        for reason in reasons[:2]:
            self._window.document.problem.emit(reason)
        if len(reasons) > 2:
            title = f"{len(reasons)} fonts were not taken"
            show = {"Show all": lambda: self._window.show_text(title, "\n".join(reasons))}
            self._window.messages.refusal(title, "\n".join(reasons[2:4]), show)
