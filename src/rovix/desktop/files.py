"""New, Open, Save, Recent: what the window does with files, and what it asks."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QSettings
from PySide6.QtWidgets import QFileDialog, QMessageBox

from rovix.demo import DATA, DEMO_PROJECT
from rovix.desktop.dialogs.new_project import NewProject
from rovix.desktop.recovery import Recovery, recovery_path, unsaved_work
from rovix.edit.media_paths import with_base
from rovix.errors import RovixError
from rovix.formats import SUFFIX, read_project
from rovix.media.probe import MEDIA_SUFFIXES
from rovix.model import Project

if TYPE_CHECKING:
    from rovix.desktop.window import Window

_FILTER = f"Rovix projects (*{SUFFIX})"
_MEDIA = f"Media ({' '.join(f'*{suffix}' for suffix in sorted(MEDIA_SUFFIXES))});;All files (*)"
_RECENT = 8


class Files:
    """The file commands of a window."""

    def __init__(self, window: Window, settings: QSettings) -> None:
        self._window = window
        self._document = window.document
        self._settings = settings
        self.recovery = Recovery(window.document)

    def new(self) -> None:
        """Ask for size and rate, and show an empty project."""
        if not self.may_leave():
            return
        dialog = NewProject(self._window)
        if dialog.exec():
            self._show(dialog.project(), Path.home(), None)
        dialog.deleteLater()

    def open(self) -> None:
        """Ask for a project and open it."""
        if self.may_leave():
            folder = str(self._document.path.parent if self._document.path else Path.home())
            path, _ = QFileDialog.getOpenFileName(self._window, "Open a project", folder, _FILTER)
            if path:
                self.open_path(Path(path))

    def open_demo(self) -> None:
        """The demo as a project without a file, so that saving asks where."""
        if self.may_leave():
            self._show(read_project(DEMO_PROJECT), DATA, None)

    def open_path(self, path: Path) -> bool:
        """Open a project file, offering what a crash left; False, with a message, when it cannot."""
        try:
            project = read_project(path)
        except RovixError as wrong:
            self._document.problem.emit(str(wrong))
            self._forget(path)
            return False
        self._show(project, path.parent, path)
        self._remember(path)
        self._offer_recovery()
        return True

    def bring_in(self) -> None:
        """Ask for media files and put them at the playhead."""
        folder = str(self._document.path.parent if self._document.path else Path.home())
        paths, _ = QFileDialog.getOpenFileNames(self._window, "Bring in media", folder, _MEDIA)
        self._window.bring_in([Path(path) for path in paths])

    def save(self) -> bool:
        """Save to the project's file, or ask for one."""
        self._window.settle()
        path = self._document.path
        return self._save_to(path) if path is not None else self.save_as()

    def save_as(self) -> bool:
        """Ask for a place and save there."""
        self._window.settle()
        start = (
            self._document.path or Path.home() / f"{self._document.name.lower().replace(' ', '-')}{SUFFIX}"
        )
        chosen, _ = QFileDialog.getSaveFileName(self._window, "Save the project as", str(start), _FILTER)
        if not chosen:
            return False
        path = Path(chosen)
        return self._save_to(path if path.suffix == SUFFIX else path.with_name(path.name + SUFFIX))

    def may_leave(self) -> bool:
        """Ask about unsaved work; False when the user stays."""
        self._window.settle()
        if not self._document.history.is_changed:
            return True
        answer = self._window.ask(
            f"Save the changes to {self._document.name}?",
            "Without saving, what you did since the last save is lost.",
            {"Save": "save", "Don't save": "leave", "Cancel": "stay"},
        )
        if answer == "save":
            return self.save()
        if answer == "leave":
            self.recovery.clear(self._document.path)
        return answer == "leave"

    def recent(self) -> list[Path]:
        """Projects opened last that are still there, newest first."""
        kept = self._settings.value("recent", [])
        names = [kept] if isinstance(kept, str) else list(kept or [])
        return [Path(name) for name in names if Path(name).is_file()]

    def offer_untitled(self) -> None:
        """After a crash: offer work that never had a file."""
        self._offer_recovery()

    def _save_to(self, path: Path) -> bool:
        before = self._document.path
        if not self._document.save(path):
            return False
        self.recovery.clear(before)
        self._remember(path)
        self._window.say(f"{path.name} is saved.")
        return True

    def _show(self, project: Project, base: Path, path: Path | None) -> None:
        self._window.projector.stop()
        self._document.show(project, base, path)
        self._window.timeline.canvas.fit()
        self._window.viewer.fit()

    def _offer_recovery(self) -> None:
        path = self._document.path
        work = unsaved_work(path)
        if work is None or work == self._document.history.committed:
            return
        kept = recovery_path(path)
        self._window.offer(
            f"There is unsaved work on {self._document.name}",
            "The application ended before it was saved.",
            {
                "Recover it": lambda: self._recover(work, kept),
                "Discard it": lambda: kept.unlink(missing_ok=True),
            },
        )

    def _recover(self, work: Project, kept: Path) -> None:
        found = with_base(work, kept.parent, self._document.base)
        self._document.do("Recover unsaved work", lambda _: found)

    def _remember(self, path: Path) -> None:
        names = [str(path.resolve()), *(str(other) for other in self.recent() if other != path.resolve())]
        self._settings.setValue("recent", names[:_RECENT])
        self._window.refresh_commands()

    def _forget(self, path: Path) -> None:
        self._settings.setValue("recent", [str(other) for other in self.recent() if other != path.resolve()])


def asked(window: Window, title: str, text: str, choices: dict[str, str]) -> str:
    """Ask in a window of its own; gives the chosen value, the last one for Escape."""
    box = QMessageBox(window)
    box.setWindowTitle("Rovix")
    box.setText(title)
    box.setInformativeText(text)
    buttons = {
        box.addButton(said, QMessageBox.ButtonRole.ActionRole): value for said, value in choices.items()
    }
    box.setDefaultButton(next(iter(buttons)))
    box.setEscapeButton(list(buttons)[-1])
    box.exec()
    return buttons.get(box.clickedButton(), list(choices.values())[-1])
