"""The sheet with its tabs; it follows the selection."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QButtonGroup,
    QFrame,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QScrollArea,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from rovix.desktop.clip_views import pages_of
from rovix.desktop.document import Document
from rovix.desktop.sheet.clip_page import ClipPage
from rovix.desktop.sheet.effects_page import EffectsPage
from rovix.desktop.sheet.look_page import LookPage
from rovix.desktop.sheet.page import Page
from rovix.desktop.sheet.shape_page import ShapePage
from rovix.desktop.sheet.sound_page import SoundPage
from rovix.desktop.sheet.text_page import TextPage
from rovix.desktop.sheet.transform_page import TransformPage


class Sheet(QFrame):
    """The pages of the selected clip: Text, Look or Shape, Transform, Effects, Clip and Sound."""

    def __init__(self, document: Document) -> None:
        super().__init__(objectName="panel")
        self._document = document
        self._words = TextPage(document)
        self.pick_family = self._words.pick_family
        self._pages: dict[str, Page] = {
            "Text": self._words, "Look": LookPage(document), "Shape": ShapePage(document),
            "Transform": TransformPage(document), "Effects": EffectsPage(document),
            "Clip": ClipPage(document),
            "Sound": SoundPage(document),
        }  # fmt: skip
        self._buttons: dict[str, QPushButton] = {}
        self._stack = QStackedWidget()
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 4, 0, 4)
        column.setSpacing(0)
        column.addLayout(self._tabs())
        rule = QFrame(objectName="rule")
        rule.setFixedHeight(1)
        column.addWidget(rule)
        column.addWidget(self._stack, 1)
        for page in self._pages.values():
            area = QScrollArea(widgetResizable=True)
            area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
            area.setWidget(page)
            self._stack.addWidget(area)
        self._nothing = _nothing_selected()
        self._stack.addWidget(self._nothing)
        self._tab = "Transform"
        document.selection_changed.connect(self._selection_changed)
        document.project_changed.connect(self.refresh)
        document.playhead_moved.connect(lambda _: None if document.playing else self.refresh())
        self._selection_changed()

    def _tabs(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setContentsMargins(10, 0, 6, 0)
        row.setSpacing(5)
        group = QButtonGroup(self)
        for name in self._pages:
            button = QPushButton(
                name, objectName="tab", checkable=True, toolTip=f"The layer's {name.lower()}."
            )
            button.clicked.connect(lambda _=False, n=name: self.open_page(n))
            group.addButton(button)
            row.addWidget(button)
            self._buttons[name] = button
        row.addStretch(1)
        return row

    def open_page(self, name: str) -> None:
        """Show a page: Text, Look, Transform, …"""
        self._tab = name
        self._selection_changed()

    def finish_typing(self) -> None:
        """Keep words that are being typed in the sheet."""
        self._words.finish_typing()

    def page(self, name: str) -> Page:
        return self._pages[name]

    def _selection_changed(self) -> None:
        usable = pages_of(self._document.clip)
        for name, button in self._buttons.items():
            button.setEnabled(name in usable)
            # Text has a look, shapes and backgrounds a shape: one or the other has its place in the row.
            button.setVisible(name != ("Look" if "Shape" in usable else "Shape"))
        if not usable:
            self._stack.setCurrentWidget(self._nothing)
        else:
            # The page that was open stays, where the clip has it.
            tab = self._tab if self._tab in usable else usable[-1]
            self._buttons[tab].setChecked(True)
            self._stack.setCurrentIndex(list(self._pages).index(tab))
        self.refresh()

    def refresh(self) -> None:
        """Show the selected clip on the page that is open; the others look when they are opened."""
        at = self._stack.currentIndex()
        pages = list(self._pages.values())
        if at < len(pages):
            pages[at].refresh()  # type: ignore[attr-defined]


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
