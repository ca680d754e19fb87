"""The sheet: the selected clips' pages under heads that fold."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QSettings, Qt, QTimer, Signal
from PySide6.QtWidgets import QFrame, QLabel, QMenu, QScrollArea, QVBoxLayout, QWidget

from rovix.desktop.clip_views import pages_of
from rovix.desktop.document import Document
from rovix.desktop.sheet.clip_page import ClipPage
from rovix.desktop.sheet.effects_page import EffectsPage
from rovix.desktop.sheet.look_page import LookPage
from rovix.desktop.sheet.motion.motion_page import MotionPage
from rovix.desktop.sheet.page import Page
from rovix.desktop.sheet.section import Section
from rovix.desktop.sheet.shape_page import ShapePage
from rovix.desktop.sheet.sound_page import SoundPage
from rovix.desktop.sheet.summaries import summary
from rovix.desktop.sheet.text_page import TextPage
from rovix.desktop.sheet.transform_page import TransformPage
from rovix.edit import clip_by_id
from rovix.edit.attributes import reset_attributes
from rovix.model import Clip

PAGES: tuple[type[Page], ...] = (
    TextPage, LookPage, ShapePage, TransformPage, MotionPage, EffectsPage, ClipPage, SoundPage,
)  # fmt: skip
"""In the order of the work; a test compares with the pages that clips have."""
_OPEN = "sheet/open"
_OPEN_FIRST = ("Motion",)
_DRAFT = 40  # ms between two steps of a drag that are shown


class Sheet(QFrame):
    """The pages that any of the selected clips has; what is open is remembered."""

    pick_family = Signal()
    tapping = Signal(str)
    asks_guide = Signal(str)
    """For what a head is about."""

    def __init__(self, document: Document, settings: QSettings) -> None:
        super().__init__(objectName="panel")
        self._document, self._settings = document, settings
        kept = settings.value(_OPEN, list(_OPEN_FIRST))
        self._open: set[str] = {kept} if isinstance(kept, str) else set(map(str, kept or []))
        self._sections = {kind.name: Section(kind.name, self._making(kind)) for kind in PAGES}
        self._said = QLabel("", objectName="muted", wordWrap=True)
        self._said.setContentsMargins(12, 4, 12, 2)
        self._nothing = _nothing_selected()
        self._area = QScrollArea(widgetResizable=True, accessibleName="Sheet")
        self._area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._area.setWidget(self._pages())
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 6, 0, 6)
        column.setSpacing(0)
        column.addWidget(self._said)
        column.addWidget(self._area, 1)
        column.addWidget(self._nothing, 1)
        self._shown = ""
        self._wanted: QWidget | None = None
        # When what was opened has been laid out.
        self._reaching = QTimer(self, singleShot=True, interval=0)
        self._reaching.timeout.connect(self._reach)
        document.selection_changed.connect(self._selection_changed)
        # What a hand drags changes a hundred times a second; nobody reads numbers that fast.
        self._draft = QTimer(self, singleShot=True, interval=_DRAFT)
        self._draft.timeout.connect(self._catch_up)
        self._behind = False
        document.project_changed.connect(self._project_changed)
        document.playhead_moved.connect(lambda _: None if document.playing else self.refresh())
        self._selection_changed()

    def _pages(self) -> QWidget:
        whole = QWidget()
        column = QVBoxLayout(whole)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        for name, section in self._sections.items():
            section.head.clicked.connect(lambda on, n=name: self._fold(n, on))
            section.head.asked.connect(lambda at, n=name: self.menu_of(n).popup(at))
            column.addWidget(section)
        column.addStretch(1)
        return whole

    def _making(self, kind: type[Page]) -> Callable[[], Page]:
        def make() -> Page:
            page = kind(self._document)
            if isinstance(page, TextPage):
                page.pick_family.connect(self.pick_family)
            if isinstance(page, MotionPage):
                page.tapping.connect(self.tapping)
            return page

        return make

    # Heads

    def open_page(self, name: str) -> None:
        """Open a page, Text, Look, Transform, …, and bring it into view."""
        self._keep_open(name, True)
        self._show_open()
        self._shown = name
        self._reaching.start()

    def close_page(self, name: str) -> None:
        """Fold a page away."""
        self._keep_open(name, False)
        self._show_open()

    @property
    def opened(self) -> list[str]:
        """The pages that are open and in the sheet, from above."""
        usable = self._usable()
        return [name for name, section in self._sections.items() if section.is_open and name in usable]

    def _fold(self, name: str, there: bool) -> None:
        self.open_page(name) if there else self.close_page(name)

    def menu_of(self, name: str) -> QMenu:
        """What can be done with a page, for the menu of its head."""
        menu = QMenu(self)
        menu.aboutToHide.connect(menu.deleteLater)
        is_open = self._sections[name].is_open
        menu.addAction("Fold" if is_open else "Open", lambda: self._fold(name, not is_open))
        menu.addAction("Fold all others", lambda: self._open_only(name))
        menu.addSeparator()
        menu.addAction(f"Reset {name.lower()}", lambda: self.reset(name))
        menu.addAction("In the guide…", lambda: self.asks_guide.emit(name))
        return menu

    def reset(self, name: str) -> None:
        """Put what the selected clips have on a page back to what new ones have."""
        own = [clip.id for clip in self._clips() if name in pages_of(clip)]
        edit = lambda p, i: reset_attributes(p, i, (name,))  # noqa: E731
        self._document.do_each(f"Reset {name.lower()}", own, edit)

    def _open_only(self, name: str) -> None:
        self._open = {name}
        self.open_page(name)

    def _keep_open(self, name: str, there: bool) -> None:
        self._open = self._open | {name} if there else self._open - {name}
        self._settings.setValue(_OPEN, sorted(self._open))

    def _reach(self) -> None:
        """Bring the page that was opened last into view, its head first; or the field that is wanted."""
        wanted, self._wanted = self._wanted, None
        if wanted is not None:
            self._area.ensureWidgetVisible(wanted, 0, 40)
            return
        section, bar = self._sections[self._shown], self._area.verticalScrollBar()
        top, bottom = section.y(), section.y() + section.height()
        seen = self._area.viewport().height()
        if bottom > bar.value() + seen or top < bar.value():
            bar.setValue(min(top, max(0, bottom - seen)) if section.height() <= seen else top)

    @property
    def usable(self) -> list[str]:
        """The pages that the selection has, from above."""
        usable = self._usable()
        return [name for name in self._sections if name in usable]

    def show_field(self, widget: QWidget) -> None:
        """Bring a field into view, once what was opened is laid out, and give it the keyboard."""
        widget.setFocus(Qt.FocusReason.ShortcutFocusReason)
        self._wanted = widget
        self._reaching.start()

    def page(self, name: str) -> Page:
        """The page of that name."""
        return self._sections[name].page

    def section(self, name: str) -> Section:
        """A page with its head."""
        return self._sections[name]

    def finish_typing(self) -> None:
        """Keep words that are being typed in the sheet."""
        text = self._sections["Text"]
        if text.is_made and isinstance(text.page, TextPage):
            text.page.finish_typing()

    # Showing

    def _clips(self) -> list[Clip]:
        found = (clip_by_id(self._document.project, identity) for identity in self._document.selection)
        return [clip for clip in found if clip is not None]

    def _usable(self) -> set[str]:
        return {name for clip in self._clips() for name in pages_of(clip)}

    def _selection_changed(self) -> None:
        clips = self._clips()
        usable = self._usable()
        for name, section in self._sections.items():
            section.setVisible(name in usable)
        self._nothing.setVisible(not usable)
        self._area.setVisible(bool(usable))
        self._said.setVisible(len(clips) > 1)
        self._said.setText(f"Sets {len(clips)} clips; values that differ read 'mixed'.")
        if usable and self._open and not self._open & usable:
            self._keep_open(pages_of(clips[-1])[-1], True)
        self._show_open()

    def _show_open(self) -> None:
        usable = self._usable()
        for name, section in self._sections.items():
            section.open(name in self._open and name in usable)
        self.refresh()

    def _project_changed(self) -> None:
        """Show each step at once, but those of a drag only now and then, and the last one."""
        if self._document.history.has_draft and self._draft.isActive():
            self._behind = True
            return
        self.refresh()
        if self._document.history.has_draft:
            self._draft.start()

    def _catch_up(self) -> None:
        if self._behind:
            self.refresh()
            self._draft.start()

    def refresh(self) -> None:
        """Show the selected clips on the pages that are open, and in short in all heads."""
        self._behind = False
        clips = self._clips()
        for name, section in self._sections.items():
            own = [clip for clip in clips if name in pages_of(clip)]
            if not own:
                continue
            said = {summary(name, self._document, clip) for clip in own}
            section.head.say(said.pop() if len(said) == 1 else "mixed")
            if section.is_open:
                section.page.refresh()


def _nothing_selected() -> QWidget:
    widget = QWidget()
    column = QVBoxLayout(widget)
    column.setContentsMargins(24, 24, 24, 24)
    column.addStretch(2)
    column.addWidget(QLabel("Nothing to set", objectName="heading", alignment=Qt.AlignmentFlag.AlignCenter))
    said = "Click a layer in the picture or the timeline, or press T to put words at the playhead."
    hint = QLabel(said, objectName="muted", wordWrap=True, alignment=Qt.AlignmentFlag.AlignCenter)
    column.addWidget(hint)
    column.addStretch(3)
    return widget
