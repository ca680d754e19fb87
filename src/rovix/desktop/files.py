"""New, Open, Save, Recent: what the window does with files, and what it asks."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QBuffer, QIODevice, QSettings, Qt
from PySide6.QtWidgets import QFileDialog, QMessageBox

from rovix.demo import DATA, DEMO_PROJECT
from rovix.desktop.dialogs.left_work_window import LeftWorkWindow, said_of, wrong_with
from rovix.desktop.dialogs.new_project import NewProject
from rovix.desktop.dialogs.versions_window import PICTURE, VersionsWindow, said_time
from rovix.desktop.recovery import Recovery, work_folder
from rovix.desktop.version_keeper import VersionKeeper
from rovix.edit.captions import captions_of
from rovix.edit.key_clips import copied_keys
from rovix.edit.keys import all_keys
from rovix.edit.tree import replace
from rovix.engine.earlier_versions import Version, versions_of
from rovix.engine.timelines import TIMELINE_SUFFIX, write_timeline
from rovix.engine.unsaved_work import LeftWork, left_work, older_work, tidy
from rovix.errors import RovixError
from rovix.exchange import CAPTION_FORMATS
from rovix.formats import SUFFIX, read_project, write_whole
from rovix.formats.keys_csv import keys_csv
from rovix.media.suffixes import MEDIA_SUFFIXES
from rovix.model import Project
from rovix.text.font_files import SUFFIXES

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame

_FILTER = f"Rovix projects (*{SUFFIX})"
_MEDIA = f"Media ({' '.join(f'*{suffix}' for suffix in sorted(MEDIA_SUFFIXES))});;All files (*)"
_FONTS = f"Fonts ({' '.join(f'*{suffix}' for suffix in SUFFIXES)})"
_KEY_TABLES = "CSV (*.csv *.tsv)"
_TIMELINES = "OpenTimelineIO (*.otio)"
_CAPTIONS = f"Captions ({' '.join(f'*{suffix}' for suffix in CAPTION_FORMATS)})"
_RECENT = 8


def _older_untitled() -> Path:
    """Where earlier versions kept work on a project without a file."""
    return work_folder().parent / "untitled.recovery"


class Files:
    """The file commands of a window."""

    def __init__(self, window: Frame, settings: QSettings) -> None:
        self._window = window
        self._document = window.document
        self._settings = settings
        self.recovery = Recovery(window.document)
        self.versions = VersionKeeper(window.document)
        self.versions.refused.connect(window.document.told)

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
        self._offer_work_on(path.resolve())
        return True

    def import_media(self) -> None:
        """Ask for media files and put them at the playhead."""
        folder = str(self._document.path.parent if self._document.path else Path.home())
        paths, _ = QFileDialog.getOpenFileNames(self._window, "Import media", folder, _MEDIA)
        self._window.import_media([Path(path) for path in paths])

    def bring_fonts(self) -> None:
        """Ask for font files and bring them in."""
        paths, _ = QFileDialog.getOpenFileNames(self._window, "Bring in fonts", str(Path.home()), _FONTS)
        self._window.bring_fonts([Path(path) for path in paths])

    def bring_credits(self) -> None:
        """Ask for a text file and let it roll as credits, at the playhead."""
        path, _ = QFileDialog.getOpenFileName(
            self._window, "Credits from a text file", self._folder(), "Text (*.txt *.tsv);;All files (*)"
        )
        if path:
            self._window.bring_credits(Path(path))

    def write_keys(self) -> None:
        """Ask for a place and write the selected keys of the layer, or all of them, there as CSV."""
        document, clip = self._document, self._document.clip
        chosen = document.keys.of(clip.id) if clip is not None else {}
        if clip is None:
            return
        try:
            copied = copied_keys(clip, chosen or all_keys(clip))
        except RovixError as wrong:
            document.problem.emit(str(wrong))
            return
        start = Path(self._folder()) / f"{clip.title} keys.csv"
        path, _ = QFileDialog.getSaveFileName(self._window, "Write keys as CSV", str(start), _KEY_TABLES)
        if path:
            frames = [frame for own in (chosen or all_keys(clip)).values() for frame in own]
            table = keys_csv(copied, min(frames), document.rate)
            count = table.count("\n") - 1
            self._write_said(Path(path), table, f"{count} keys written to {Path(path).name}.")

    def _write_said(self, path: Path, text: str, said: str) -> None:
        """Write text whole and say so; a place that takes none is named, with the way on."""
        try:
            write_whole(path, text.encode())
        except OSError as wrong:
            reason = f"{path} could not be written: {wrong.strerror}. Take another place."
            self._document.problem.emit(reason)
            return
        self._window.say(said)

    def bring_keys(self) -> None:
        """Ask for a CSV of keys and put them into the selected layer, on the frames that they say."""
        path, _ = QFileDialog.getOpenFileName(
            self._window, "Bring in keys from CSV", self._folder(), _KEY_TABLES
        )
        if path:
            self._window.bring_keys(Path(path))

    def bring_captions(self) -> None:
        """Ask for a file of captions and bring it in."""
        path, _ = QFileDialog.getOpenFileName(self._window, "Bring in captions", self._folder(), _CAPTIONS)
        if path:
            self._window.bring_captions(Path(path))

    def write_captions(self) -> None:
        """Ask for a place and write the words of the open sequence there as captions."""
        self._window.finish_typing()
        try:
            cues = captions_of(self._document.project)
        except RovixError as wrong:
            self._document.problem.emit(str(wrong))
            return
        start = Path(self._folder()) / f"{self._document.name.lower().replace(' ', '-')}.srt"
        chosen, _ = QFileDialog.getSaveFileName(self._window, "Write captions", str(start), _CAPTIONS)
        if not chosen:
            return
        path = Path(chosen)
        known = CAPTION_FORMATS.get(path.suffix.lower())
        path, known = (
            (path, known) if known else (path.with_name(f"{path.name}.srt"), CAPTION_FORMATS[".srt"])
        )
        self._write_said(path, known.write(cues), f"{len(cues)} captions written to {path.name}.")

    def open_timeline(self) -> None:
        """Ask for a timeline of OpenTimelineIO and show it as a project without a file."""
        path, _ = QFileDialog.getOpenFileName(self._window, "Open a timeline", self._folder(), _TIMELINES)
        if path and self.may_leave():
            self.show_timeline(Path(path))

    def show_timeline(self, path: Path) -> None:
        """Show a timeline as a project without a file; what could not be taken over is said."""
        from rovix.formats.timeline_in import read_timeline  # its library is large, and seldom wanted

        try:
            project, told = read_timeline(path)
        except RovixError as wrong:
            self._document.problem.emit(str(wrong))
            return
        self._show(project, path.parent, None)
        self._document.history.mark_unsaved()
        self._document.file_changed.emit()
        if told:
            self._document.told.emit("\n".join([*told, f"Not all of {path.name} could be taken over."]))

    def write_timeline(self) -> None:
        """Ask for a place and write the open sequence there for other programs."""
        self._window.finish_typing()
        document = self._document
        start = Path(self._folder()) / f"{document.name.lower().replace(' ', '-')}{TIMELINE_SUFFIX}"
        chosen, _ = QFileDialog.getSaveFileName(self._window, "Write the timeline", str(start), _TIMELINES)
        if not chosen:
            return
        path = Path(chosen)
        path = path if path.suffix == TIMELINE_SUFFIX else path.with_name(path.name + TIMELINE_SUFFIX)
        try:
            told = write_timeline(document.delivered, document.base, path)
        except RovixError as wrong:
            document.problem.emit(str(wrong))
            return
        document.told.emit("\n".join([*told, f"{path.name} is written; opened here again it is whole."]))

    def _folder(self) -> str:
        return str(self._document.path.parent if self._document.path else Path.home())

    def save(self) -> bool:
        """Save to the project's file, or ask for one."""
        self._window.finish_typing()
        path = self._document.path
        return self._save_to(path) if path is not None else self.save_as()

    def save_as(self) -> bool:
        """Ask for a place and save there."""
        self._window.finish_typing()
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
        self._window.finish_typing()
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
            self.recovery.clear()
        return answer == "leave"

    def recent(self) -> list[Path]:
        """Projects opened last that are still there, newest first."""
        kept = self._settings.value("recent", [])
        names = [kept] if isinstance(kept, str) else list(kept or [])
        return [Path(name) for name in names if Path(name).is_file()]

    def offer_left_work(self) -> None:
        """At the start: offer all that crashes left, of whatever project."""
        tidy(work_folder())
        self._offer([*left_work(work_folder()), *older_work(_older_untitled(), "an untitled project", None)])

    def show_left_work(self) -> None:
        """All unsaved work that was left, to take over or discard."""
        works = left_work(work_folder())
        if works:
            LeftWorkWindow(works, self.recover, self._window).open()
        else:
            self._window.say("No unsaved work is left.")

    def recover(self, work: LeftWork) -> None:
        """Take unsaved work over, as a step of its project where that can be opened."""
        document = self._document
        if not self.may_leave():
            return
        try:
            if work.project is None or not self._opened(work.project):
                project = work.read(Path.home())
                name = f"{work.name}, recovered"
                self._show(replace(project, name=name), Path.home(), None)
                document.history.mark_unsaved()
            else:
                found = work.read(document.base)
                document.do_whole("Recover unsaved work", lambda _: found)
        except RovixError as wrong:
            document.problem.emit(str(wrong))
            return
        document.file_changed.emit()
        # What was left goes only when the work is kept anew.
        if self.recovery.write():
            work.discard()

    def _opened(self, path: Path) -> bool:
        """Whether a project is open now, being opened where it was not."""
        if self._document.path is not None and self._document.path.resolve() == path:
            return True
        try:
            project = read_project(path)
        except RovixError:
            return False
        self._show(project, path.parent, path)
        self._remember(path)
        return True

    def _save_to(self, path: Path) -> bool:
        if not self._document.save(path):
            return False
        self.recovery.clear()
        self._remember(path)
        self._window.say(f"{path.name} is saved.")
        self.versions.keep(path, self._picture())
        return True

    def _picture(self) -> bytes:
        """What the viewer shows, small, as a PNG; nothing where there is no picture yet."""
        image = self._window.viewer.image
        if image is None:
            return b""
        small = image.scaled(
            PICTURE, Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode.SmoothTransformation
        )
        buffer = QBuffer()
        buffer.open(QIODevice.OpenModeFlag.WriteOnly)
        small.convertToFormat(small.Format.Format_RGB32).save(buffer, "PNG")
        return bytes(buffer.data().data())

    def show_versions(self) -> None:
        """The earlier versions of the open project, to open one as a copy."""
        path = self._document.path
        if path is None:
            self._document.problem.emit("This project was not saved yet, so it has no earlier versions.")
            return
        try:
            versions = versions_of(path)
        except RovixError as wrong:
            self._document.problem.emit(str(wrong))
            return
        if versions:
            take = lambda version: self.open_version(path, version)  # noqa: E731
            VersionsWindow(path.stem, versions, take, self._window).open()
        else:
            self._window.say("No earlier version is kept; each save keeps one from now on.")

    def open_version(self, path: Path, version: Version) -> None:
        """Show a version as a copy: a project without a file, so that saving asks where."""
        if not self.may_leave():
            return
        try:
            project = version.read(path)
        except RovixError as wrong:
            self._document.problem.emit(str(wrong))
            return
        name = f"{path.stem}, {said_time(version.when)}"
        self._show(replace(project, name=name), path.parent, None)
        self._document.history.mark_unsaved()
        self._document.file_changed.emit()

    def _show(self, project: Project, base: Path, path: Path | None) -> None:
        self._window.projector.stop()
        self._window.begin_session()
        self._document.show(project, base, path)
        self._window.timeline.canvas.fit()
        self._window.viewer.fit()

    def _offer_work_on(self, path: Path) -> None:
        works = [work for work in left_work(work_folder()) if work.project == path]
        self._offer([*works, *older_work(path.with_name(f".{path.name}.recovery"), path.stem, path)])

    def _offer(self, works: list[LeftWork]) -> None:
        """Offer the newest, or the list of them; what says no more than the open project goes."""
        works = [work for work in works if not self._says_nothing_new(work)]
        if not works:
            return
        newest, more = works[0], len(works) - 1
        wrong = wrong_with(newest)
        text = (
            f"It cannot be read: {wrong}"
            if wrong
            else f"The application ended before it was saved: {said_of(newest)}."
        )
        choices: dict[str, Callable[[], None]] = {}
        if not wrong:
            choices["Recover it"] = lambda: self.recover(newest)
        if more or wrong:
            choices[f"Show all {more + 1}…" if more else "Show it…"] = lambda: LeftWorkWindow(
                works, self.recover, self._window
            ).open()
        if not more and not wrong:
            choices["Discard it"] = newest.discard
        choices["Later"] = lambda: None
        self._window.offer(f"There is unsaved work on {newest.name}", text, choices)

    def _says_nothing_new(self, work: LeftWork) -> bool:
        document = self._document
        if work.project is None or document.path is None or document.path.resolve() != work.project:
            return False
        try:
            same = work.read(document.base) == document.history.committed
        except RovixError:
            return False
        if same:
            work.discard()
        return same

    def _remember(self, path: Path) -> None:
        names = [str(path.resolve()), *(str(other) for other in self.recent() if other != path.resolve())]
        self._settings.setValue("recent", names[:_RECENT])
        self._window.refresh_commands()

    def _forget(self, path: Path) -> None:
        self._settings.setValue("recent", [str(other) for other in self.recent() if other != path.resolve()])


def asked(window: Frame, title: str, text: str, choices: dict[str, str]) -> str:
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
