"""The shelf with its tabs, cards and the controls of the move."""

from __future__ import annotations

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QImage
from PySide6.QtWidgets import (
    QButtonGroup,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QScrollArea,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from rovix.desktop.document import Document
from rovix.desktop.looks import MediaLooks
from rovix.desktop.shelf.cards import CardPictures, MoveCard
from rovix.desktop.shelf.media_list import MediaList
from rovix.desktop.shelf.move_controls import MoveControls
from rovix.edit import move_of, take_on
from rovix.edit.tree import replace
from rovix.engine.picture_service import Pictures
from rovix.model import Move, SoundClip, TextClip, Words, new_id
from rovix.motion.ready_moves import READY_MOVES

_ROLES = {"entrance": "Entrance", "exit": "Exit"}
_SAMPLE = TextClip(id="sample", words=Words(text="Larkmoor", weight=900))


class Shelf(QFrame):
    """Entrances and exits on the selected layer's own words; and the project's files."""

    def __init__(self, document: Document, service: Pictures, looks: MediaLooks) -> None:
        super().__init__(objectName="panel")
        self._document = document
        self.media = MediaList(document, looks)
        self._role = "entrance"
        self._cards: list[MoveCard] = []
        self._moves: list[Move | None] = []
        self._trying: int | None = None
        self._shown_for: object = None
        self._waiting = True
        self.pictures = CardPictures(service)
        self.pictures.drawn.connect(self._card_drawn)
        self._controls = MoveControls(document)
        self._hint = QLabel(
            "Select a layer to give it an entrance or an exit.", objectName="muted", wordWrap=True
        )
        # Cards wait until typing pauses; drawing them anew at each letter would help nobody.
        self._redraw = QTimer(self, singleShot=True, interval=160)
        self._redraw.timeout.connect(self._draw_cards)
        self._build()
        document.selection_changed.connect(self.look_again)
        document.project_changed.connect(self._project_changed)
        # While a hand drags elsewhere, the shelf follows at its own, slower pace.
        self._draft_timer = QTimer(self, interval=80, singleShot=True)
        self._draft_timer.timeout.connect(self.look_again)
        self.open_role("entrance")

    def _build(self) -> None:
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 4, 0, 8)
        column.setSpacing(0)
        tabs = QHBoxLayout()
        tabs.setContentsMargins(12, 0, 12, 0)
        tabs.setSpacing(16)
        group = QButtonGroup(self)
        self._tabs: dict[str, QPushButton] = {}
        for role, text in _ROLES.items():
            tip = f"Ready {text.lower()}s, shown on the selected words."
            button = QPushButton(text, objectName="tab", checkable=True, toolTip=tip)
            button.setProperty("role", role)
            button.clicked.connect(lambda _=False, r=role: self.open_role(r))
            group.addButton(button)
            tabs.addWidget(button)
            self._tabs[role] = button
        self._media_tab = QPushButton("Media", objectName="tab", checkable=True)
        self._media_tab.setToolTip("The project's files (Ctrl+M).")
        self._media_tab.clicked.connect(self.open_media)
        group.addButton(self._media_tab)
        tabs.addWidget(self._media_tab)
        tabs.addStretch(1)
        column.addLayout(tabs)
        rule = QFrame(objectName="rule")
        rule.setFixedHeight(1)
        column.addWidget(rule)
        inside = QWidget()
        box = QVBoxLayout(inside)
        box.setContentsMargins(12, 10, 12, 4)
        box.setSpacing(10)
        self._grid = QGridLayout()
        self._grid.setSpacing(8)
        box.addLayout(self._grid)
        box.addWidget(self._hint)
        box.addWidget(self._controls)
        box.addStretch(1)
        area = QScrollArea(widgetResizable=True)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setWidget(inside)
        self._stack = QStackedWidget()
        self._stack.addWidget(area)
        self._stack.addWidget(self.media)
        column.addWidget(self._stack, 1)

    def open_media(self) -> None:
        """Show the project's files."""
        self.stop_trying()
        self._media_tab.setChecked(True)
        self._stack.setCurrentWidget(self.media)
        self.media.look_again(True)

    def open_role(self, role: str) -> None:
        """Show entrances or exits."""
        self.stop_trying()
        self._role = role
        self._tabs[role].setChecked(True)
        self._stack.setCurrentIndex(0)
        self._moves = [None, *(make(role) for make in READY_MOVES.values())]
        for card in self._cards:
            card.hide()
            card.deleteLater()
        self._cards = [MoveCard(move.name if move else "None", _ROLES[role]) for move in self._moves]
        for number, card in enumerate(self._cards):
            card.entered.connect(lambda n=number: self.try_on(n))
            card.left.connect(self.stop_trying)
            card.taken.connect(lambda n=number: self.take_on(n))
            self._grid.addWidget(card, number // 2, number % 2)
        self._shown_for = None
        self.look_again()

    def card(self, name: str) -> MoveCard:
        """The card of that name."""
        names = ["None", *READY_MOVES]
        return self._cards[names.index(name)]

    def try_on(self, number: int) -> None:
        """Play a card and show its move on the selected layer, as a draft."""
        self._trying = number
        self.pictures.play(number)
        move = self._moves[number]
        identity = self._usable()
        if identity is not None and not self._document.playing:
            self._document.try_on(lambda project: take_on(project, identity, self._role, move))

    def take_on(self, number: int) -> None:
        """Give the selected layer the card's move."""
        self._trying = None
        self.pictures.stop()
        identity, move = self._usable(), self._moves[number]
        if identity is None:
            return
        given = None if move is None else replace(move, id=new_id())
        name = move.name if move else f"no {self._role}"
        self._document.do(f"Take on {name}", lambda project: take_on(project, identity, self._role, given))

    def close_pictures(self) -> None:
        self._redraw.stop()
        self._draft_timer.stop()
        self.pictures.close()

    def stop_trying(self) -> None:
        """Drop the move that is being tried on."""
        if self._trying is not None:
            self._trying = None
            self.pictures.stop()
            self._document.drop()

    def _usable(self) -> str | None:
        clip = self._document.clip
        return None if clip is None or isinstance(clip, SoundClip) else clip.id

    def _project_changed(self) -> None:
        if self._document.history.has_draft and self._trying is None:
            if not self._draft_timer.isActive():
                self._draft_timer.start()
        else:
            self.look_again()

    def look_again(self) -> None:
        usable = self._usable() is not None
        self._hint.setVisible(not usable)
        for card in self._cards:
            card.setEnabled(usable)
        self._controls.look_again(self._role)
        move = move_of(self._document.clip, self._role)
        chosen = move.name if move else ("None" if usable else "")
        for card, shown in zip(self._cards, self._moves, strict=True):
            card.show_chosen((shown.name if shown else "None") == chosen)
        if self._card_words() != self._shown_for and not self._waiting:
            self._redraw.start()

    def begin_drawing(self) -> None:
        """Draw cards from now on: at the start the first picture comes before them."""
        if self._waiting:
            self._waiting = False
            self._redraw.start()

    def _card_words(self) -> object:
        clip = self._document.clip
        words = clip if isinstance(clip, TextClip) else _SAMPLE
        return self._role, words.words, words.look, self._document.rate

    def _draw_cards(self) -> None:
        self._shown_for = self._card_words()
        clip = self._document.clip
        words = clip if isinstance(clip, TextClip) else _SAMPLE
        self.pictures.show(words, self._moves, self._document.rate, self._document.base)

    def _card_drawn(self, number: int, image: QImage) -> None:
        if number < len(self._cards):
            self._cards[number].show_image(image)
