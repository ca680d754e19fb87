"""The font picker: the layer's own words in every face."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import (
    QAbstractItemModel,
    QEvent,
    QModelIndex,
    QObject,
    QPersistentModelIndex,
    QRect,
    QSettings,
    QSize,
    Qt,
    QTimer,
    Signal,
)
from PySide6.QtGui import QImage, QKeyEvent, QMouseEvent, QPainter, QPixmap, QStandardItem, QStandardItemModel
from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListView,
    QPushButton,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from rovix.desktop.document import Document
from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.text_page import TextPage
from rovix.desktop.theme import colour, font
from rovix.edit.tree import replace
from rovix.engine.type_sample import type_sample
from rovix.model import Text
from rovix.model.clip_kinds import has_words
from rovix.text import families, match_face
from rovix.text.catalogue import source_of
from rovix.text.scripts import known_scripts, scripts_of, writes

_FAVOURITES, _RECENT = "fonts/favourites", "fonts/recent"
_MOST_RECENT = 6
_SAID_OF = {"shipped": "", "project": "this project", "system": "system", "": "not here"}
_ROW = 54
_DRAWN_AT_ONCE = 4
Index = QModelIndex | QPersistentModelIndex


class FontPicker(QDialog):
    """Moving through the list tries a face on in the viewer; Enter or a double-click takes it on."""

    wants_fonts = Signal()

    def __init__(self, page: TextPage, document: Document, settings: QSettings, parent: QWidget) -> None:
        super().__init__(parent, windowTitle="Typeface")
        self._page, self._document, self._settings = page, document, settings
        clip = document.clip
        self._words = clip.text if has_words(clip) else Text()
        self.resize(460, 560)
        self._search = QLineEdit(placeholderText="Search by name", clearButtonEnabled=True)
        self._search.setAccessibleName("Search by name")
        self._script = DropDown(accessibleName="Script", toolTip="Only faces that can write this script.")
        self._favourites = QCheckBox("Favourites", toolTip="Only the faces with a star.")
        self.list = QListView(uniformItemSizes=True, accessibleName="Typefaces")
        self._model = QStandardItemModel(self)
        self.list.setModel(self._model)
        self._samples = Samples(self._words, self.list)
        self.list.setItemDelegate(_Rows(self, self._samples))
        self._nothing = QLabel(
            "No face matches. Clear the search or take another script.", objectName="muted"
        )
        self._star = QPushButton(
            "Favourite", checkable=True, toolTip="Keep this face among the favourites (Ctrl+B)."
        )
        self._star.setShortcut("Ctrl+B")
        self._bring = QPushButton(
            "Bring in…", toolTip="Font files from elsewhere, for this project or for all."
        )
        self._bring.clicked.connect(self.wants_fonts)
        self._take = QPushButton("Use it", objectName="primary", default=True)
        self._fill_scripts()
        self._lay_out()
        self._connect()
        self.search_again()

    def _lay_out(self) -> None:
        column = QVBoxLayout(self)
        column.addWidget(self._search)
        row = QHBoxLayout()
        row.addWidget(QLabel("Writes"))
        row.addWidget(self._script, 1)
        row.addWidget(self._favourites)
        column.addLayout(row)
        column.addWidget(self.list, 1)
        column.addWidget(self._nothing)
        foot = QHBoxLayout()
        foot.addWidget(self._star)
        foot.addWidget(self._bring)
        foot.addStretch(1)
        leave = QPushButton("Cancel")
        leave.clicked.connect(self.reject)
        foot.addWidget(leave)
        foot.addWidget(self._take)
        column.addLayout(foot)

    def _connect(self) -> None:
        self._search.textChanged.connect(self.search_again)
        self._script.currentIndexChanged.connect(self.search_again)
        self._favourites.toggled.connect(self.search_again)
        self._search.installEventFilter(self)
        self.list.selectionModel().currentChanged.connect(lambda *_: self._try())
        self.list.doubleClicked.connect(lambda _: self.accept())
        self._star.clicked.connect(lambda: self.toggle_favourite(self.current))
        self._take.clicked.connect(self.accept)
        self.finished.connect(self._finish)

    def _fill_scripts(self) -> None:
        own = scripts_of(self._words.content)
        self._script.addItem("Any script", ())
        if own:
            names = known_scripts()
            self._script.addItem(f"These words ({', '.join(names[code] for code in own)})", tuple(own))
        for code, name in known_scripts().items():
            self._script.addItem(name, (code,))

    @property
    def current(self) -> str:
        """The family that is chosen; empty when none is."""
        index = self.list.currentIndex()
        return str(index.data()) if index.isValid() else ""

    def favourites(self) -> set[str]:
        return set(_names(self._settings.value(_FAVOURITES, [])))

    def recent(self) -> list[str]:
        """The families that were taken on last, the latest first."""
        return _names(self._settings.value(_RECENT, []))

    def said_recent(self, family: str) -> str:
        """A word for a family that was taken lately."""
        return "used lately" if family in self.recent() else ""

    def toggle_favourite(self, family: str) -> None:
        """Give a family a star, or take it away."""
        if family:
            self._settings.setValue(_FAVOURITES, sorted(self.favourites() ^ {family}))
            self._star.setChecked(self.current in self.favourites())
            self.list.viewport().update()

    def search_again(self) -> None:
        """List the families that match the search, the script and the stars; favourites first, then those
        taken last."""
        stars, here = self.favourites(), self.current or self._words.family
        recent = {name: place for place, name in enumerate(self.recent())}
        found = [name for name in families() if self._matches(name, stars)]
        found.sort(key=lambda name: (name not in stars, recent.get(name, _MOST_RECENT)))
        self._model.clear()
        for name in found:
            self._model.appendRow(QStandardItem(name))
        self._nothing.setVisible(not found)
        self._take.setEnabled(bool(found))
        if found:
            row = found.index(here) if here in found else 0
            self.list.setCurrentIndex(self._model.index(row, 0))
            self.list.scrollTo(self._model.index(row, 0), QListView.ScrollHint.PositionAtCenter)

    def _matches(self, name: str, stars: set[str]) -> bool:
        if self._search.text().strip().lower() not in name.lower():
            return False
        if self._favourites.isChecked() and name not in stars:
            return False
        return all(writes(match_face(name, 400).face, code) for code in self._script.currentData() or ())

    def _try(self) -> None:
        family = self.current
        self._star.setChecked(family in self.favourites())
        if family:
            self._page.try_style(family=family)

    def _finish(self, result: int) -> None:
        self._samples.stop()
        self._document.drop()
        if result and self.current:
            names = [self.current, *(name for name in self.recent() if name != self.current)]
            self._settings.setValue(_RECENT, names[:_MOST_RECENT])
            self._page.set_style("Change the family", family=self.current)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        moves = (Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_PageUp, Qt.Key.Key_PageDown)
        if event.type() == QEvent.Type.KeyPress and isinstance(event, QKeyEvent) and event.key() in moves:
            self.list.keyPressEvent(event)  # the list moves while the search has the focus
            return True
        return super().eventFilter(watched, event)


class Samples(QObject):
    """The words in each face as pixmaps, a few drawn at a time so that the list stays quick."""

    def __init__(self, words: Text, view: QListView) -> None:
        super().__init__(view)
        self._words, self._view = words, view
        self._drawn: dict[tuple[str, int], QPixmap] = {}
        self._wanted: list[tuple[str, int]] = []
        self._timer = QTimer(self, interval=0)
        self._timer.timeout.connect(self._draw_some)

    def stop(self) -> None:
        self._timer.stop()

    def pixmap(self, family: str, width: int) -> QPixmap | None:
        """The sample if it is drawn, else None, and it will be."""
        key = (family, width)
        if key not in self._drawn and key not in self._wanted:
            self._wanted.append(key)
            self._timer.start()
        return self._drawn.get(key)

    def _draw_some(self) -> None:
        # What is asked for last is what is now to be seen.
        for key in [self._wanted.pop() for _ in range(min(_DRAWN_AT_ONCE, len(self._wanted)))]:
            self._drawn[key] = self._draw(*key)
        if not self._wanted:
            self._timer.stop()
        self._view.viewport().update()

    def _draw(self, family: str, width: int) -> QPixmap:
        ratio = self._view.devicePixelRatioF()
        size = round(width * ratio), round((_ROW - 22) * ratio)
        pixels = np.ascontiguousarray(
            type_sample(replace(self._words, family=family), size, colour("text").name())
        )
        form = QImage.Format.Format_ARGB32_Premultiplied
        image = QImage(pixels.data, size[0], size[1], size[0] * 4, form).copy()
        image.setDevicePixelRatio(ratio)
        return QPixmap.fromImage(image)


class _Rows(QStyledItemDelegate):
    """A row: the words in the face, its name below, a star to click at its right."""

    def __init__(self, picker: FontPicker, samples: Samples) -> None:
        super().__init__(picker)
        self._picker, self._samples = picker, samples

    def sizeHint(self, option: QStyleOptionViewItem, index: Index) -> QSize:
        return QSize(200, _ROW + font(0.9).pixelSize() - 11)

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: Index) -> None:
        box, family = option.rect, str(index.data())
        if option.state & QStyle.StateFlag.State_Selected:
            painter.fillRect(box, colour("lifted"))
        sample = self._samples.pixmap(family, box.width() - 56)
        if sample is not None:
            painter.drawPixmap(box.left() + 12, box.top() + 4, sample)
        painter.setFont(font(0.9))
        painter.setPen(colour("muted"))
        said = " · ".join(
            filter(None, (family, _SAID_OF[source_of(family)], self._picker.said_recent(family)))
        )
        painter.drawText(
            box.adjusted(12, 0, -44, -4), Qt.AlignmentFlag.AlignBottom | Qt.AlignmentFlag.AlignLeft, said
        )
        starred = family in self._picker.favourites()
        painter.setFont(font(1.4))
        painter.setPen(colour("accent" if starred else "muted"))
        painter.drawText(_star_box(box), Qt.AlignmentFlag.AlignCenter, "★" if starred else "☆")

    def editorEvent(
        self, event: QEvent, model: QAbstractItemModel, option: QStyleOptionViewItem, index: Index
    ) -> bool:
        if (
            event.type() == QEvent.Type.MouseButtonRelease
            and isinstance(event, QMouseEvent)
            and _star_box(option.rect).contains(event.position().toPoint())
        ):
            self._picker.toggle_favourite(str(index.data()))
            return True
        return super().editorEvent(event, model, option, index)


def _star_box(box: QRect) -> QRect:
    return QRect(box.right() - 40, box.top(), 36, box.height())


def _names(kept: object) -> list[str]:
    """Names as the settings keep them: a list, or one alone."""
    return [str(name) for name in kept] if isinstance(kept, list) else [str(kept)] if kept else []
