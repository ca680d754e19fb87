"""The main window: puts the parts together and runs the commands."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QPoint, QSettings, Qt, QTimer
from PySide6.QtGui import (
    QAction,
    QCloseEvent,
    QDragEnterEvent,
    QDropEvent,
    QKeyEvent,
    QKeySequence,
    QResizeEvent,
)
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QMenu,
    QMenuBar,
    QVBoxLayout,
    QWidget,
)

from rovix.desktop.commands import COMMANDS, MENUS, Command, command
from rovix.desktop.commands.key_steps import SNAP_TO_KEYS
from rovix.desktop.commands.titles_menu import put_dropped
from rovix.desktop.context_menus import context_menu
from rovix.desktop.dialogs.guide_window import PAGE_OF
from rovix.desktop.document import Document
from rovix.desktop.exports import Exports, exports_folder
from rovix.desktop.files import Files, asked
from rovix.desktop.font_watcher import FontWatcher
from rovix.desktop.live_checks import LiveChecks
from rovix.desktop.loaded_later import LoadedLater
from rovix.desktop.messages import Message, Messages
from rovix.desktop.places import Places, framed
from rovix.desktop.projector import FULL_PLAYING, Projector
from rovix.desktop.session import Session
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.sheet import Sheet
from rovix.desktop.shelf import Shelf
from rovix.desktop.shown_proxies import ShownProxies
from rovix.desktop.status import Status
from rovix.desktop.tapping import Tapper
from rovix.desktop.theme import give_sheet
from rovix.desktop.thumbnails import Thumbnails
from rovix.desktop.timeline import Timeline
from rovix.desktop.top_bar import TopBar
from rovix.desktop.transport import Transport
from rovix.desktop.viewer import Viewer
from rovix.desktop.viewer.compare_view import CompareBar
from rovix.desktop.welcome import Welcome
from rovix.desktop.window_colours import WindowColours
from rovix.desktop.window_dialogs import WindowDialogs
from rovix.desktop.window_levels import WindowLevels
from rovix.desktop.window_media import WindowMedia
from rovix.engine.export_queue import Waiting
from rovix.engine.picture_service import Picture, Pictures
from rovix.engine.player import Player, SilentClock
from rovix.engine.thumbnails import LocalThumbnailMaker, ThumbnailMaker
from rovix.errors import RovixError
from rovix.formats import SUFFIX

_SHORTCUT = "shortcuts/"
_PICTURE_SIZE = "viewer/picture"
_FIRST_SIZE = (566, 318)


class Window(WindowDialogs, WindowLevels, WindowMedia, WindowColours):
    """Rovix's window over one document."""

    files: Files
    shelf: Shelf
    transport: Transport
    later: LoadedLater | None = None
    """What still loads behind the first picture."""

    def __init__(
        self,
        document: Document,
        pictures: Pictures,
        cards: Pictures,
        settings: QSettings,
        clock: SilentClock | None = None,
        thumbnails: ThumbnailMaker | None = None,
        ahead: bool = False,
    ) -> None:
        # Long: parts are made in the order in which they know each other.
        super().__init__()
        # What has no parent outlives the window: its connections hold the window, unseen by Python.
        document.setParent(self)
        self.document = document
        self.settings = settings
        self.setAcceptDrops(True)
        self.projector = Projector(document, pictures, Player(clock))
        self.projector.governed = settings.value(FULL_PLAYING, False, bool) is False
        self.proxies = ShownProxies(document, self.projector, settings)
        if ahead:
            # Drawn while all else is built; the viewer then asks for the size that it has.
            self.projector.resize(_usual_size(settings))
        self.thumbnails = Thumbnails(
            document, thumbnails or LocalThumbnailMaker(), lambda: self.projector.begins
        )
        self.viewer = Viewer(document)
        self.compare_bar = CompareBar(self.viewer.comparison)
        self.timeline = Timeline(document, self.projector, self.thumbnails)
        self.timeline.canvas.snaps_to_keys = settings.value(SNAP_TO_KEYS, True, bool) is True
        self.sheet = Sheet(document, settings)
        self.viewer.styling_sheet = self.sheet
        self.shelf = Shelf(document, self.projector, cards, self.thumbnails, settings)
        self.shelf.media.window_ = self
        self.shelf.media.show_proxies(self.proxies)
        self.shelf.keeping.ask = lambda *words: self.ask(*words)
        self.files = Files(self, settings)
        self.messages = Messages(self.viewer)
        self.messages.avoids = self.viewer.words_box
        self.status = Status(document, self.projector, self.proxies)
        self.checks = LiveChecks(document, self.projector, settings)
        self.checks.changed.connect(self._show_checks)
        self.font_watcher = FontWatcher(document)
        self.font_watcher.changed.connect(self.look_for_fonts)
        self.tapper = Tapper(document, self.projector)
        self.tapper.told.connect(self.say)
        self.sheet.tapping.connect(self.tapper.begin)
        self.transport = Transport(self)
        self._actions: dict[str, QAction] = {}
        self.session = Session(self.messages, self)
        self._ended_sessions: list[Session] = []
        self.exports = Exports(exports_folder(), self)
        self.exports.problem.connect(self.messages.problem)
        self.exports.ended.connect(self._tell_of_export)
        self.ask: Callable[[str, str, dict[str, str]], str] = lambda *words: asked(self, *words)
        self.ask_number: Callable[..., float | None] = self._asked_number
        self.ask_folder: Callable[[str], Path | None] = self._asked_folder
        self._build()
        give_sheet(self)
        self._connect()
        self.refresh_commands()

    # Parts

    def _build(self) -> None:
        # Long: parts are put into each other from the top of the window down.
        self.top_bar = TopBar(self, self._menus())
        self.welcome = Welcome(self)
        middle = QFrame(objectName="panel")
        column = QVBoxLayout(middle)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.compare_bar)
        column.addWidget(self.viewer, 1)
        column.addWidget(self.transport)
        lower = QFrame(objectName="panel")
        below = QVBoxLayout(lower)
        below.setContentsMargins(0, 2, 0, 0)
        below.setSpacing(0)
        below.addWidget(self.timeline, 1)
        below.addWidget(self.status)
        self.places = Places(self.sheet, middle, self.shelf, lower, self.settings)
        whole = QWidget()
        stack = QVBoxLayout(whole)
        stack.setContentsMargins(0, 0, 0, 0)
        stack.setSpacing(6)
        stack.addWidget(self.top_bar)
        strip = QHBoxLayout()
        strip.setContentsMargins(10, 0, 10, 0)
        strip.addWidget(self.welcome)
        stack.addLayout(strip)
        stack.addWidget(framed(self.places, 10, 0, 10, 8), 1)
        self.setCentralWidget(whole)
        self.timeline.canvas.setFocus()

    def scale_panels(self, text_scale: float) -> None:
        """Give the side panels the room that larger text needs."""
        self.places.scale(text_scale)
        self.places.arrange()

    def _menus(self) -> QMenuBar:
        bar = QMenuBar()
        for name in MENUS:
            menu = bar.addMenu(name)
            menu.aboutToShow.connect(self.refresh_commands)
            under: dict[str, QMenu] = {}
            for item in COMMANDS:
                if item.menu == name:
                    self._put_in_menu(menu, under, item)
        return bar

    def _put_in_menu(self, menu: QMenu, under: dict[str, QMenu], item: Command) -> None:
        """Put a command into its menu, or the submenu that it belongs under, made where its first stands."""
        if item.under and item.under not in under:
            under[item.under] = menu.addMenu(item.under)
        place = under.get(item.under, menu)
        if item.ruled and not place.isEmpty():
            place.addSeparator()
        place.addAction(self._action(item.id))
        if item.id == "open":
            self._recent = menu.addMenu("Open recent")

    def shortcut_of(self, identity: str) -> str:
        """The keys of a command, the user's own or those that it came with, as portable text."""
        return str(self.settings.value(_SHORTCUT + identity, command(identity).shortcut))

    def set_shortcut(self, identity: str, keys: str) -> str | None:
        """Give a command keys, empty for none; gives the id of the command that lost them to it."""
        same = lambda item: keys and item.id != identity and self.shortcut_of(item.id) == keys  # noqa: E731
        lost = next((item.id for item in COMMANDS if same(item)), None)
        for changed, text in ((lost, ""), (identity, keys)):
            if changed is None:
                continue
            if text == command(changed).shortcut:
                self.settings.remove(_SHORTCUT + changed)
            else:
                self.settings.setValue(_SHORTCUT + changed, text)
            self._actions[changed].setShortcut(QKeySequence(text))
        return lost

    def reset_shortcuts(self) -> None:
        """Give every command the keys that it came with."""
        for item in COMMANDS:
            self.settings.remove(_SHORTCUT + item.id)
            self._actions[item.id].setShortcut(QKeySequence(item.shortcut))

    def action(self, identity: str) -> QAction:
        """What runs a command from menus."""
        return self._actions[identity]

    def _action(self, identity: str) -> QAction:
        item = command(identity)
        action = QAction(item.said(self) if isinstance(item.title, str) else item.id.capitalize(), self)
        action.setShortcut(QKeySequence(self.shortcut_of(identity)))
        action.setCheckable(item.checked is not None)
        action.triggered.connect(lambda _=False: self.run(identity))
        self.addAction(action)
        self._actions[identity] = action
        return action

    def _connect(self) -> None:
        document, viewer, projector = self.document, self.viewer, self.projector
        viewer.wants_size.connect(lambda width, height: projector.resize((width, height)))
        viewer.zoom_changed.connect(self.transport.show_zoom)
        viewer.editing_changed.connect(lambda _: self.sheet.refresh())
        self.sheet.pick_family.connect(self.pick_font)
        self.sheet.asks_guide.connect(lambda head: self.open_guide(PAGE_OF[head]))
        projector.picture_shown.connect(viewer.show_picture)
        projector.picture_shown.connect(self._picture_shown)
        projector.play_changed.connect(self._play_changed)
        self.timeline.canvas.title_dropped.connect(
            lambda path, start, track: put_dropped(self, path, start, track)
        )
        self.timeline.canvas.open_words.connect(lambda: viewer.edit_words())
        self.timeline.canvas.open_clip.connect(lambda _: self.open_selected())
        for part in (self.timeline.canvas, viewer):
            part.wants_menu.connect(self._show_menu)
        document.keys.changed.connect(self.refresh_commands)
        self.proxies.changed.connect(self.refresh_commands)
        document.inner.changed.connect(self.refresh_commands)
        document.opened.connect(self.messages.forget)
        document.opened.connect(self._say_missing)
        document.problem.connect(self.messages.problem)
        document.told.connect(self.messages.notice)
        for signal in (
            document.file_changed,
            document.selection_changed,
            document.range_changed,
            document.level_changed,
        ):
            signal.connect(self.refresh_commands)
        document.file_changed.connect(self._show_title)
        self._show_title()

    def _picture_shown(self, picture: Picture | None) -> None:
        if picture is not None:
            self.shelf.begin_drawing()

    def _play_changed(self, playing: bool) -> None:
        self.transport.show_playing(playing)
        if not playing:
            self.sheet.refresh()
            self.transport.refresh()
            self.timeline.canvas.redraw()
        self.viewer.update()

    def _show_checks(self) -> None:
        """Mark clips, and count what was found in the top bar."""
        self.top_bar.show_checks(self.checks)
        self.timeline.canvas.mark(self.checks.findings)

    def _show_title(self) -> None:
        mark = "*" if self.document.history.is_changed else ""
        self.setWindowTitle(f"{self.document.name}{mark} – Rovix")

    # Commands

    def run(self, identity: str) -> None:
        """Run a command if it can be run now."""
        item = command(identity)
        if item.when(self):
            try:
                item.run(self)
            except RovixError as wrong:
                self.document.problem.emit(str(wrong))
            self.refresh_commands()

    def refresh_commands(self) -> None:
        """Show titles, marks and what can be run."""
        for identity, action in self._actions.items():
            item = command(identity)
            action.setText(item.said(self))
            action.setEnabled(item.when(self))
            if item.checked is not None:
                action.setChecked(item.checked(self))
        self.transport.safe.setChecked(self.viewer.show_safe)
        self.transport.ghost.setChecked(self.viewer.show_ghost)
        self._fill_recent(self._recent)

    def _fill_recent(self, menu: QMenu) -> None:
        menu.clear()
        paths = self.files.recent()
        menu.setEnabled(bool(paths))
        for path in paths:
            action = menu.addAction(path.name)
            action.setToolTip(str(path))
            action.triggered.connect(
                lambda _=False, p=path: self.files.may_leave() and self.files.open_path(p)
            )

    def finish_typing(self) -> None:
        """Put an end to drafts: what is only tried goes, what was typed or stepped to is kept."""
        focused = self.focusWidget()
        if isinstance(focused, NumberField):
            focused.end_steps()
        self.shelf.stop_trying()
        self.viewer.finish_words()
        self.sheet.finish_typing()

    def say(self, text: str) -> None:
        """A short note in the status line."""
        self.status.say(text)

    def offer(self, title: str, text: str, choices: dict[str, Callable[[], None]]) -> Message:
        """A message with choices over the viewer."""
        return self.session.offer(title, text, choices)

    def begin_session(self) -> None:
        """Another document comes: what goes on for this one is given up, and its offers go."""
        given_up = self.session.end()
        self._ended_sessions = [s for s in self._ended_sessions if s.is_busy]
        self._ended_sessions.append(self.session)
        self.session = Session(self.messages, self)
        for title in given_up:
            self.messages.notice(f"Another project was opened meanwhile.\n{title} was given up.")

    def _show_menu(self, place: str, at: QPoint) -> None:
        """What can be done with what is under the mouse."""
        menu = context_menu(self, place)
        menu.aboutToHide.connect(menu.deleteLater)
        menu.popup(at)

    def clip_at(self, point: QPoint) -> str | None:
        """The clip at a point of the screen, in the timeline or in the picture."""
        canvas, viewer = self.timeline.canvas, self.viewer
        here = canvas.mapFromGlobal(point)
        if canvas.rect().contains(here):
            found = canvas.clip_under(here.toPointF())
            return None if found is None else found[0].id
        here = viewer.mapFromGlobal(point)
        return viewer.layer_under(here.toPointF()) if viewer.rect().contains(here) else None

    # The window itself

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.messages.place()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        # What a hand was dragging has let Escape through, having let go itself.
        if event.key() == Qt.Key.Key_Escape and not self.document.typing:
            if self.viewer.comparison.on and not self.document.history.has_draft:
                self.viewer.comparison.end()
            self.document.drop()
        else:
            super().keyPressEvent(event)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if _dropped(event):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        paths = _dropped(event)
        project = next((path for path in paths if path.suffix == SUFFIX), None)
        if project is None:
            self.import_media(paths)
        elif self.files.may_leave():
            self.files.open_path(project)

    def closeEvent(self, event: QCloseEvent) -> None:
        if not self.files.may_leave():
            event.ignore()
            return
        if self.exports.left and not self._may_leave_exports():
            event.ignore()
            return
        self.shut_down()
        event.accept()

    def _may_leave_exports(self) -> bool:
        count = self.exports.left
        title = "An export is not done." if count == 1 else f"{count} exports are not done."
        text = "What is written of it is kept: it goes on when Rovix is opened again."
        return self.ask(title, text, {"Close": "close", "Stay": "stay"}) == "close"

    def _tell_of_export(self, item: Waiting) -> None:
        if item.state == "done":
            self.messages.notice(f"{item.said}\n{item.path.name} is exported.")
        else:
            self.messages.problem(f"{item.said}\n{item.path.name} could not be exported.")

    def shut_down(self) -> None:
        """End every process, thread and timer of this window."""
        if self.later is not None:
            self.later.stop()
        self.places.keep()
        if self.projector.size is not None:
            self.settings.setValue(_PICTURE_SIZE, "{} {}".format(*self.projector.size))
        if self._export is not None:
            self._export.stop()
        self.exports.close()
        for session in (*self._ended_sessions, self.session):
            session.wait()
        self.files.recovery.clear()
        self.files.versions.wait()
        self.checks.close()
        self.viewer.contrast.close()
        self.projector.stop()
        self.projector.close()
        self.shelf.close_pictures()
        self.thumbnails.close()
        # By their type, not by name: a part that is added later keeps no closed window awake.
        for timer in self.findChildren(QTimer):
            timer.stop()


def _usual_size(settings: QSettings) -> tuple[int, int]:
    """The size of pictures when the window was closed last; at first that in a window as it comes."""
    sides = str(settings.value(_PICTURE_SIZE, "")).split()
    if len(sides) == 2 and all(side.isdecimal() and 16 <= int(side) <= 16384 for side in sides):
        return int(sides[0]), int(sides[1])
    return _FIRST_SIZE


def _dropped(event: QDropEvent) -> list[Path]:
    """The files that are dragged in."""
    return [Path(url.toLocalFile()) for url in event.mimeData().urls() if url.isLocalFile()]
