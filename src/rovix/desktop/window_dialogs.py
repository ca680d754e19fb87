"""The windows that commands open."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from platformdirs import user_data_path
from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QDialog,
    QFileDialog,
    QPlainTextEdit,
    QVBoxLayout,
)

from rovix.desktop.clipboard import copied_clips
from rovix.desktop.commands.keys_menu import chosen_keys
from rovix.desktop.dialogs.number_asked import asked_number
from rovix.desktop.frame import Frame
from rovix.desktop.sheet.text_page import TextPage
from rovix.edit.inner_keys import set_inner_curves
from rovix.edit.keys import keys_of, set_curves
from rovix.engine.kept_shelf import PresetShelf
from rovix.model import Project

# Each window is loaded when it is first opened: all of them together take a fifth of the start.
if TYPE_CHECKING:
    from rovix.desktop.dialogs.credits_window import CreditsWindow
    from rovix.desktop.dialogs.curve_picker import CurvePicker
    from rovix.desktop.dialogs.drift_window import DriftWindow
    from rovix.desktop.dialogs.export_window import ExportWindow
    from rovix.desktop.dialogs.find_words import FindWords
    from rovix.desktop.dialogs.font_picker import FontPicker
    from rovix.desktop.dialogs.guide_window import GuideWindow
    from rovix.desktop.dialogs.paste_attributes import PasteAttributes


class WindowDialogs(Frame):
    """Opens windows over the main one."""

    _export: ExportWindow | None = None

    def show_text(self, title: str, text: str) -> None:
        """A long list in a window of its own, to read and copy."""
        dialog = QDialog(self, windowTitle=title)
        dialog.resize(640, 420)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        box = QPlainTextEdit(text, readOnly=True, accessibleName=title)
        column = QVBoxLayout(dialog)
        column.addWidget(box)
        dialog.open()

    def open_checks(self) -> None:
        """The list of what checks have found; it stays open beside editing."""
        from rovix.desktop.dialogs.checks_window import ChecksWindow

        known = self.findChild(ChecksWindow)
        opened = known if isinstance(known, ChecksWindow) else ChecksWindow(self, self.checks)
        self.checks.begin()
        opened.show()
        opened.raise_()

    def open_finder(self) -> None:
        from rovix.desktop.dialogs.finder import Finder

        self.finish_typing()
        Finder(self).open()

    def pick_font(self) -> FontPicker:
        """Choose the words' typeface from the list of all."""
        from rovix.desktop.dialogs.font_picker import FontPicker

        page = self.sheet.page("Text")
        assert isinstance(page, TextPage)
        picker = FontPicker(page, self.document, self.settings, self)
        picker.wants_fonts.connect(self.files.bring_fonts)
        self.fonts_changed.connect(picker.search_again)
        picker.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        picker.open()
        return picker

    def paste_attributes(self) -> PasteAttributes | None:
        """Ask what of the copied clip the selected ones are to take on."""
        from rovix.desktop.dialogs.paste_attributes import PasteAttributes

        self.finish_typing()
        clips = copied_clips(self.document)
        if not clips:
            return None
        dialog = PasteAttributes(self, clips[-1])
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.open()
        return dialog

    def find_words(self) -> FindWords:
        """Find and replace in the words of all layers."""
        from rovix.desktop.dialogs.find_words import FindWords

        self.finish_typing()
        dialog = self.findChild(FindWords) or FindWords(self.document, self)
        dialog.show()
        dialog.raise_()
        dialog.wanted.setFocus()
        dialog.wanted.selectAll()
        dialog.look()
        return dialog

    def open_shortcuts(self) -> None:
        from rovix.desktop.dialogs.shortcuts_window import Shortcuts

        dialog = Shortcuts(self)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.open()

    def open_guide(self, page: str = "") -> GuideWindow:
        """The guide beside the work, on a page by its short name."""
        from rovix.desktop.dialogs.guide_window import GuideWindow, guide_pages

        shown = self.findChild(GuideWindow)
        made = shown or GuideWindow(self)
        if page or shown is None:
            made.open_page(page or guide_pages()[0].name)
        made.show()
        made.raise_()
        return made

    def open_drift(self) -> DriftWindow:
        """Ask how the selected layers are to change while they stay."""
        from rovix.desktop.dialogs.drift_window import DriftWindow

        self.finish_typing()
        dialog = DriftWindow(self)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.open()
        return dialog

    def open_credits(self) -> CreditsWindow:
        from rovix.desktop.dialogs.credits_window import CreditsWindow

        made = CreditsWindow(self)
        made.open()
        return made

    def pick_curve(self) -> CurvePicker:
        """Choose the way on from the selected keys, or from all of the layer's; tried on while looking."""
        from rovix.desktop.dialogs.curve_picker import CurvePicker

        inner = self.document.inner
        moved = {clip: inner.of(clip) for clip in inner.clips()}
        chosen = {} if moved else chosen_keys(self)
        curves = {key.curve for key in keys_of(self.document.project, chosen)}
        text = curves.pop() if len(curves) == 1 else "linear"
        picker = CurvePicker(text, self.document.clip, "The way from each key to the next", self)

        def edit(project: Project) -> Project:
            for identity, own in chosen.items():
                project = set_curves(project, identity, own, picker.text)
            for identity, inner_ones in moved.items():
                project = set_inner_curves(project, identity, inner_ones, picker.text)
            return project

        picker.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        picker.tried.connect(lambda _: self.document.try_on(edit))
        picker.taken.connect(lambda text: self.document.do(f"Go on by {text}", edit))
        picker.rejected.connect(self.document.drop)
        picker.open()
        return picker

    def open_export(self) -> ExportWindow:
        """The export window, anew for what is open and selected now."""
        from rovix.desktop.dialogs.export_window import ExportWindow

        self.finish_typing()
        if self._export is not None:
            self._export.stop()
            self._export.close()
            self._export.deleteLater()
        presets = PresetShelf(user_data_path("rovix") / "presets")
        self._export = ExportWindow(self.document, self.exports, presets, self)
        self._export.show()
        self._export.raise_()
        return self._export

    def _asked_number(
        self, title: str, label: str, value: float, low: float, high: float, unit: str
    ) -> float | None:
        return asked_number(self, title, label, value, low, high, unit)

    def _asked_folder(self, title: str) -> Path | None:
        chosen = QFileDialog.getExistingDirectory(self, title, str(self.document.base))
        return Path(chosen) if chosen else None
