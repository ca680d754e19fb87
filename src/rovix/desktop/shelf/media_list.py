"""The bin: the project's files with a picture or waveform, their facts, and names to edit."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import (
    QAbstractListModel,
    QByteArray,
    QEvent,
    QMimeData,
    QModelIndex,
    QPersistentModelIndex,
    QPointF,
    QRect,
    QRectF,
    QSize,
    Qt,
)
from PySide6.QtGui import (
    QContextMenuEvent,
    QDragEnterEvent,
    QDragMoveEvent,
    QDropEvent,
    QKeyEvent,
    QPainter,
    QPen,
    QPolygonF,
)
from PySide6.QtWidgets import (
    QAbstractItemView,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListView,
    QMenu,
    QPushButton,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from rovix.desktop import making_proxies
from rovix.desktop.document import Document
from rovix.desktop.shown_proxies import ShownProxies
from rovix.desktop.theme import colour, font
from rovix.desktop.thumbnails import Thumbnails
from rovix.desktop.timeline.canvas import MEDIA_KIND
from rovix.desktop.timeline.media_painter import coarser
from rovix.edit.media_list import remove_media, rename_media, used_media
from rovix.engine.proxy_files import SHARES
from rovix.model import Media
from rovix.time import Rate

if TYPE_CHECKING:
    from collections.abc import Sequence as Several

    from rovix.desktop.frame import Frame

Index = QModelIndex | QPersistentModelIndex
_MEDIA = Qt.ItemDataRole.UserRole
_MISSING = Qt.ItemDataRole.UserRole + 1
_USES = Qt.ItemDataRole.UserRole + 2
_PROXY = Qt.ItemDataRole.UserRole + 3
_PICTURE = QSize(84, 48)


def media_facts(media: Media) -> str:
    """A file's facts on one line: size, rate, length."""
    parts = []
    if media.width and media.height:
        parts.append(f"{media.width} × {media.height}")
    if media.rate:
        parts.append(f"{Rate(media.rate).label} fps")
    if media.length:
        minutes, seconds = divmod(media.length, 60)
        parts.append(f"{int(minutes)}:{seconds:05.2f}" if minutes else f"{seconds:.2f} s")
    return " · ".join(parts) or media.kind


class _Files(QAbstractListModel):
    """The project's media whose name holds the words searched for."""

    def __init__(self, document: Document) -> None:
        super().__init__(document)
        self._document = document
        self._shown: list[Media] = []
        self._uses: dict[str, int] = {}
        self._gone: set[str] = set()
        self.wanted = ""
        self.proxies: ShownProxies | None = None
        self._known: object = None

    def refresh(self, force: bool = False) -> None:
        whole = self._document.whole
        state = (whole.media, whole.sequences, self.wanted)
        if not force and state == self._known:
            return
        self._known = state
        words = self.wanted.casefold().split()
        self.beginResetModel()
        named = [(m, f"{m.title} {m.path}".casefold()) for m in whole.media]
        self._shown = [m for m, name in named if all(word in name for word in words)]
        self._uses = used_media(whole)
        self._gone = {m.id for m in whole.media if not (self._document.base / m.path).is_file()}
        self.endResetModel()

    @property
    def missing(self) -> list[Media]:
        return [media for media in self._document.whole.media if media.id in self._gone]

    def rowCount(self, parent: Index | None = None) -> int:
        return len(self._shown)

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        media = self._shown[index.row()]
        if role in (
            Qt.ItemDataRole.DisplayRole,
            Qt.ItemDataRole.EditRole,
            Qt.ItemDataRole.AccessibleTextRole,
        ):
            return media.title
        found = {
            _MEDIA: media, _MISSING: media.id in self._gone, _USES: self._uses.get(media.id, 0),
            _PROXY: self.proxies.share_of(media.id) if self.proxies is not None else None,
        }  # fmt: skip
        if role == Qt.ItemDataRole.ToolTipRole:
            gone = "\nThe file is missing." if media.id in self._gone else ""
            return (
                f"{media.path}\n{media_facts(media)}{gone}\nDrag into the timeline, or Enter at the playhead."
            )
        return found.get(role)

    def setData(self, index: Index, value: object, role: int = Qt.ItemDataRole.EditRole) -> bool:
        media, name = self._shown[index.row()], str(value).strip()
        if not name or name == media.title:
            return False
        return self._document.do_whole(f"Rename {media.title}", lambda p: rename_media(p, media.id, name))

    def flags(self, index: Index) -> Qt.ItemFlag:
        flags = Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable
        return flags | Qt.ItemFlag.ItemIsEditable | Qt.ItemFlag.ItemIsDragEnabled

    def mimeTypes(self) -> list[str]:
        return [MEDIA_KIND]

    def mimeData(self, indexes: Several[QModelIndex]) -> QMimeData:
        data = QMimeData()
        ids = "\n".join(self._shown[index.row()].id for index in indexes)
        data.setData(MEDIA_KIND, QByteArray(ids.encode()))
        return data


class _Row(QStyledItemDelegate):
    """Paints a file: its picture or waveform, name, facts, how often it is used."""

    def __init__(self, thumbnails: Thumbnails, parent: QWidget) -> None:
        super().__init__(parent)
        self._thumbnails = thumbnails

    def sizeHint(self, option: QStyleOptionViewItem, index: Index) -> QSize:
        return QSize(200, max(_PICTURE.height() + 10, 3 * option.fontMetrics.height() + 12))

    def createEditor(self, parent: QWidget, option: QStyleOptionViewItem, index: Index) -> QWidget:
        return QLineEdit(parent, accessibleName="Name")

    def updateEditorGeometry(self, editor: QWidget, option: QStyleOptionViewItem, index: Index) -> None:
        box = self._words_box(option.rect)
        editor.setGeometry(box.left() - 4, box.top() - 2, box.width() + 4, option.fontMetrics.height() + 8)

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: Index) -> None:
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        chosen = bool(option.state & option.state.State_Selected)
        box = QRectF(option.rect).adjusted(2, 2, -2, -2)
        painter.setPen(QPen(colour("text"), 1.4) if chosen else Qt.PenStyle.NoPen)
        painter.setBrush(colour("lifted") if chosen else colour("raised"))
        painter.drawRoundedRect(box, 6, 6)
        media = index.data(_MEDIA)
        picture = QRectF(
            option.rect.left() + 8, option.rect.top() + 6, _PICTURE.width(), option.rect.height() - 12
        )
        self._paint_look(painter, media, picture, index.data(_MISSING))
        self._paint_words(painter, media, self._words_box(option.rect), index)
        painter.restore()

    def _words_box(self, rect: QRect) -> QRect:
        return rect.adjusted(_PICTURE.width() + 18, 7, -10, -5)

    def _paint_look(self, painter: QPainter, media: Media, box: QRectF, missing: bool) -> None:
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("sound") if media.kind == "sound" else colour("ground"))
        painter.drawRoundedRect(box, 4, 4)
        if missing:
            painter.setPen(colour("problem"))
            painter.setFont(font(0.9))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, "missing")
        elif media.kind == "sound":
            self._paint_wave(painter, media, box)
        else:
            self._paint_picture(painter, media, box)

    def _paint_picture(self, painter: QPainter, media: Media, box: QRectF) -> None:
        strip = self._thumbnails.strip(media)
        if strip:
            picture = strip[len(strip) // 3]
            scale = min(box.width() / picture.width(), box.height() / picture.height())
            width, height = picture.width() * scale, picture.height() * scale
            middle = box.center()
            target = QRectF(middle.x() - width / 2, middle.y() - height / 2, width, height)
            painter.drawPixmap(target, picture, QRectF(picture.rect()))

    def _paint_wave(self, painter: QPainter, media: Media, box: QRectF) -> None:
        peaks = self._thumbnails.waveform(media)
        if peaks is None:
            return
        known = coarser(peaks, max(1, round(len(peaks) / box.width())))
        x = np.linspace(box.left() + 2, box.right() - 2, len(known))
        middle, half = box.center().y(), box.height() / 2 - 4
        upper = [
            QPointF(*point) for point in zip(x.tolist(), (middle - known[:, 1] * half).tolist(), strict=True)
        ]
        lower = [
            QPointF(*point) for point in zip(x.tolist(), (middle - known[:, 0] * half).tolist(), strict=True)
        ]
        painter.setPen(QPen(colour("text", 0.6), 1))
        painter.setBrush(colour("text", 0.3))
        painter.drawPolygon(QPolygonF([*upper, *reversed(lower)]))

    def _paint_words(self, painter: QPainter, media: Media, box: QRect, index: Index) -> None:
        painter.setFont(font())
        line = painter.fontMetrics().height() + 2
        elide = Qt.TextElideMode.ElideRight
        painter.setPen(colour("text"))
        title = painter.fontMetrics().elidedText(media.title, elide, box.width())
        painter.drawText(box, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop, title)
        painter.setFont(font(0.88))
        painter.setPen(colour("muted"))
        uses = index.data(_USES)
        used = "not used" if not uses else "used once" if uses == 1 else f"used {uses} times"
        share = index.data(_PROXY)
        if share:
            used += f" · proxy at {SHARES[share]} size"
        for number, said in enumerate((media_facts(media), used), start=1):
            shown = painter.fontMetrics().elidedText(said, elide, box.width())
            painter.drawText(
                box.adjusted(0, number * line, 0, 0),
                Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop,
                shown,
            )


class _View(QListView):
    """Enter puts the chosen files in, Delete takes them off the list; files dropped here join it."""

    def __init__(self, page: MediaList) -> None:
        super().__init__()
        self._page = page
        self.setAccessibleName("Media")
        self.setSelectionMode(QAbstractItemView.SelectionMode.ExtendedSelection)
        self.setEditTriggers(
            QAbstractItemView.EditTrigger.DoubleClicked | QAbstractItemView.EditTrigger.EditKeyPressed
        )
        self.setDragEnabled(True)
        self.setAcceptDrops(True)
        self.setUniformItemSizes(True)
        self.setMouseTracking(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        editing = self.state() == QAbstractItemView.State.EditingState
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and not editing:
            self._page.put_in()
        elif event.key() == Qt.Key.Key_Delete and not editing:
            self._page.remove()
        else:
            super().keyPressEvent(event)

    def event(self, event: QEvent) -> bool:
        # Delete, Enter and F2 are this list's while it has the focus, whatever the menus say.
        own = (Qt.Key.Key_Delete, Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_F2)
        if (
            event.type() == QEvent.Type.ShortcutOverride
            and isinstance(event, QKeyEvent)
            and event.key() in own
        ):
            event.accept()
        return super().event(event)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        menu = QMenu(self)
        menu.addAction("Add at the playhead", self._page.put_in)
        menu.addAction("Rename", lambda: self.edit(self.currentIndex()))
        for share, name in SHARES.items():
            menu.addAction(f"Make proxies at {name} size", partial(self._page.make_proxies, share))
        menu.addAction("Find missing files…", self._page.window_.relink_missing)
        menu.addAction("Remove from the list", self._page.remove)
        menu.setEnabled(self.currentIndex().isValid())
        menu.exec(event.globalPos())
        menu.deleteLater()

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dragMoveEvent(self, event: QDragMoveEvent) -> None:
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        self._page.window_.list_files(event.mimeData().urls())
        event.acceptProposedAction()


class MediaList(QWidget):
    """The files, a search, and what can be done with them."""

    def __init__(self, document: Document, thumbnails: Thumbnails) -> None:
        super().__init__()
        self._document = document
        self.window_: Frame
        self.files = _Files(document)
        self.view = _View(self)
        self.view.setModel(self.files)
        self.view.setItemDelegate(_Row(thumbnails, self.view))
        self._search = QLineEdit(accessibleName="Search the media", clearButtonEnabled=True)
        self._search.setPlaceholderText("Search by name")
        self._search.textChanged.connect(self._searched)
        self._empty = QLabel(
            "No files yet. Bring some in, or drag them here from the file manager.",
            objectName="muted", wordWrap=True, alignment=Qt.AlignmentFlag.AlignCenter,
        )  # fmt: skip
        self._missing = QPushButton("", objectName="link", toolTip="Look for missing files in a folder.")
        self._missing.clicked.connect(lambda: self.window_.relink_missing())
        import_files = QPushButton("Import…", toolTip="Import files and add them at the playhead (Ctrl+I).")
        import_files.clicked.connect(lambda: self.window_.run("import"))
        self._put = QPushButton(
            "Add to the timeline", toolTip="Add the chosen files at the playhead (Enter)."
        )
        self._put.clicked.connect(self.put_in)
        row = QHBoxLayout()
        row.addWidget(import_files)
        row.addWidget(self._put)
        row.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 10, 10, 2)
        column.setSpacing(8)
        for widget in (self._search, self._missing, self._empty, self.view):
            column.addWidget(widget, 1 if widget is self.view else 0)
        column.addLayout(row)
        document.project_changed.connect(self.refresh)
        document.opened.connect(lambda: self.refresh(True))
        thumbnails.changed.connect(self.view.viewport().update)
        self.view.selectionModel().selectionChanged.connect(lambda *_: self._show_buttons())
        self.refresh()

    def show_proxies(self, proxies: ShownProxies) -> None:
        """Say which files have a proxy."""
        self.files.proxies = proxies
        proxies.changed.connect(self.view.viewport().update)

    def make_proxies(self, share: int) -> None:
        """Make proxies of the selected files that are footage."""
        making_proxies.make(self.window_, share, self.chosen())

    def refresh(self, force: bool = False) -> None:
        """Show the list as it is; also after files came or went on the disk when forced."""
        # Looking means asking the disk for every file: only while the list is seen, or when told to.
        if force or (self.isVisible() and not self._document.history.has_draft):
            self.files.refresh(force)
        count = len(self.files.missing)
        self._missing.setVisible(count > 0)
        self._missing.setText(
            "One file is missing: find it…" if count == 1 else f"{count} files are missing: find them…"
        )
        self._empty.setVisible(not self._document.whole.media)
        self._search.setVisible(len(self._document.whole.media) > 3)
        self._show_buttons()

    def chosen(self) -> list[Media]:
        """The selected files, from the top down."""
        rows = sorted(self.view.selectionModel().selectedIndexes(), key=lambda index: index.row())
        return [index.data(_MEDIA) for index in rows]

    def put_in(self) -> None:
        """Put the selected files in at the playhead, one after the other."""
        ids = [media.id for media in self.chosen()]
        if ids:
            self.window_.timeline.canvas.put_in(ids, self._document.playhead)

    def remove(self) -> None:
        """Take the selected files off the list; those in use stay, with the reason."""
        for media in self.chosen():
            self._document.do_whole(f"Remove {media.title}", partial(remove_media, identity=media.id))

    def _searched(self, text: str) -> None:
        self.files.wanted = text
        self.refresh()

    def _show_buttons(self) -> None:
        self._put.setEnabled(self.view.selectionModel().hasSelection())
