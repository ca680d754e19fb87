"""The shelf: tabs of cards, and the project's files."""

from __future__ import annotations

from collections.abc import Container

from platformdirs import user_data_path
from PySide6.QtCore import QSettings, Qt, QTimer
from PySide6.QtGui import QImage
from PySide6.QtWidgets import (
    QButtonGroup,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QScrollArea,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from rovix.desktop.document import Document
from rovix.desktop.projector import Projector
from rovix.desktop.searching import Entry, found
from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.section import Head
from rovix.desktop.shelf.audition import Audition
from rovix.desktop.shelf.cards import CardPictures, MoveCard
from rovix.desktop.shelf.crossing_deck import CrossingDeck
from rovix.desktop.shelf.decks import OWN, Deck, EffectDeck, LookDeck, MoveDeck
from rovix.desktop.shelf.keeping import Keeping
from rovix.desktop.shelf.media_list import MediaList
from rovix.desktop.shelf.remembered import Remembered
from rovix.desktop.shelf.title_deck import TitleDeck, title_carried
from rovix.desktop.thumbnails import Thumbnails
from rovix.edit import clip_by_id, move_of
from rovix.engine.kept_shelf import EffectShelf, LookShelf, MoveShelf
from rovix.engine.picture_service import Pictures
from rovix.engine.titles import TitleShelf
from rovix.model import Clip, Fill, Look, Move, Text, TextClip
from rovix.model.clip_kinds import has_words
from rovix.model.roles import ROLES
from rovix.motion.at_frame import layer_at
from rovix.motion.families import FAMILIES
from rovix.motion.figures import numbers_in

_SAMPLE = TextClip(id="sample", text=Text(content="Larkmoor", weight=900), look=Look(parts=(Fill(id="f"),)))


_OF_WORDS = ("Piece by piece", "Written")
"""Groups whose moves show best on words."""
_WHICH = {"all": "All", "favourites": "Favourites", "recent": "Recent", "own": "Your own"}


class Shelf(QFrame):
    """Entrances, loops, exits and looks on the selected layer's own words; and the project's files."""

    def __init__(
        self,
        document: Document,
        projector: Projector,
        service: Pictures,
        looks: Thumbnails,
        settings: QSettings,
    ) -> None:
        # Long: the controls in the order in which they stand, a statement or two each.
        super().__init__(objectName="panel")
        self._document = document
        self.remembered = Remembered(settings)
        self.audition = Audition(document, projector, settings, self)
        self.media = MediaList(document, looks)
        self.looks = LookDeck(LookShelf(user_data_path("rovix") / "looks"))
        moves = MoveShelf(user_data_path("rovix") / "moves")
        self._decks: dict[str, Deck] = {
            **{role: MoveDeck(role, moves) for role in ROLES},
            "crossing": CrossingDeck(),
            "look": self.looks,
            "effects": EffectDeck(EffectShelf(user_data_path("rovix") / "effects")),
            "title": TitleDeck(TitleShelf(), document),
        }
        self._role = "entrance"
        self._cards: list[MoveCard] = []
        self._heads: dict[str, Head] = {}
        self._trying: int | None = None
        self._shown_for: object = None
        self._waiting = True
        self._fitting = False
        self._shown_order: list[int] = []
        self.pictures = CardPictures(service, self)
        self.pictures.drawn.connect(self._card_drawn)
        self._hint = QLabel("", objectName="muted", wordWrap=True)
        self.keeping = Keeping(document, self._kept_changed)
        self.keeping.stacked = lambda number: self.apply_move(number, True)
        self._search = QLineEdit(accessibleName="Search the cards", clearButtonEnabled=True)
        self._search.setPlaceholderText("Search")
        tip = "Finds cards by name, pieces, order, channels, as in 'letters turn', or other words for them."
        self._search.setToolTip(tip)
        self._search.textChanged.connect(self._arrange)
        self._which = DropDown(accessibleName="Which cards", toolTip="Which cards are shown.")
        for which, said in _WHICH.items():
            self._which.addItem(said, which)
        self._which.activated.connect(self._arrange)
        self._none = QLabel("There is no such card here; clear the search or choose All.", objectName="muted")
        self._none.setWordWrap(True)
        # Cards wait until typing pauses; drawing them anew at each letter would help nobody.
        self._redraw = QTimer(self, singleShot=True, interval=160)
        self._redraw.timeout.connect(self._draw_cards)
        self._build()
        document.selection_changed.connect(self.refresh)
        for signal in (document.selection_changed, document.opened):
            signal.connect(self._search.clear)
        document.project_changed.connect(self._project_changed)
        # While a hand drags elsewhere, the shelf follows at its own, slower pace.
        self._draft_timer = QTimer(self, interval=80, singleShot=True)
        self._draft_timer.timeout.connect(self.refresh)
        self.open_role("entrance")

    def _build(self) -> None:
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 4, 0, 8)
        column.setSpacing(0)
        tabs = QHBoxLayout()
        # Eight of them stand side by side at the shelf's least width.
        tabs.setContentsMargins(6, 0, 2, 0)
        tabs.setSpacing(1)
        group = QButtonGroup(self)
        self._tabs: dict[str, QPushButton] = {}
        for role, deck in self._decks.items():
            tip = f"Ready {deck.title.lower()}s, shown on the selected words."
            button = QPushButton(deck.title, objectName="tab", checkable=True, toolTip=tip)
            button.setProperty("role", role)
            button.clicked.connect(lambda _=False, r=role: self.open_role(r))
            group.addButton(button)
            tabs.addWidget(button)
            tabs.addStretch(1)  # what is left of the width parts them
            self._tabs[role] = button
        self._media_tab = QPushButton("Media", objectName="tab", checkable=True)
        self._media_tab.setToolTip("The project's files (Ctrl+M).")
        self._media_tab.clicked.connect(self.open_media)
        group.addButton(self._media_tab)
        tabs.addWidget(self._media_tab)
        column.addLayout(tabs)
        rule = QFrame(objectName="rule")
        rule.setFixedHeight(1)
        column.addWidget(rule)
        self._stack = QStackedWidget()
        self._stack.addWidget(self._card_page())
        self._stack.addWidget(self.media)
        column.addWidget(self._stack, 1)

    def _card_page(self) -> QWidget:
        """What is searched for above, the cards, and below what keeps the layer's own."""
        self._grid = QGridLayout()
        self._grid.setSpacing(8)
        self._grid.setAlignment(Qt.AlignmentFlag.AlignTop)
        cards = QWidget()
        cards.setLayout(self._grid)
        self._grid.setContentsMargins(12, 2, 12, 4)
        page = QWidget()
        column = QVBoxLayout(page)
        column.setContentsMargins(0, 8, 0, 0)
        column.setSpacing(6)
        searching = QHBoxLayout()
        searching.setContentsMargins(12, 0, 12, 0)
        searching.addWidget(self._search, 1)
        searching.addWidget(self._which)
        column.addLayout(searching)
        for widget in (self._none, self._hint, self.keeping):
            widget.setContentsMargins(12, 0, 12, 0)
        column.addWidget(self._none)
        column.addWidget(self._hint)
        self._cards_area = _scrolled(cards)
        # The mouse does not leave a card that is scrolled away under it.
        self._cards_area.verticalScrollBar().valueChanged.connect(self.stop_trying)
        column.addWidget(self._cards_area, 1)
        column.addWidget(self.keeping)
        return page

    def open_media(self) -> None:
        """Show the project's files."""
        self.stop_trying()
        self._media_tab.setChecked(True)
        self._stack.setCurrentWidget(self.media)
        self.media.refresh(True)

    @property
    def decks(self) -> dict[str, Deck]:
        """All cards, by their role, the user's own as they are on the disk now."""
        for deck in self._decks.values():
            deck.read()
        return self._decks

    def card_move(self, role: str, name: str) -> Move | None:
        """The move of the card of a name among those of a role; None where there is none."""
        deck = self._decks[role]
        assert isinstance(deck, MoveDeck)
        return deck.move_named(name)

    def takers(self, role: str) -> list[Clip]:
        """The selected clips that can take a card of a role."""
        found = (clip_by_id(self._document.project, identity) for identity in self._document.selection)
        return [clip for clip in found if clip is not None and self._decks[role].usable(clip)]

    @property
    def deck(self) -> Deck:
        """The cards that are shown."""
        return self._decks[self._role]

    def open_role(self, role: str) -> None:
        """Show entrances, loops, exits or looks."""
        self.stop_trying()
        if role != self._role:
            self._search.clear()
        self._role = role
        self._tabs[role].setChecked(True)
        self._stack.setCurrentIndex(0)
        if isinstance(self.deck, MoveDeck):
            self._document.tune(role)
        self.keeping.open(self.deck)
        self._deal()

    def _deal(self) -> None:
        """Lay the deck's cards out."""
        for card in self._cards:
            card.hide()
            card.deleteLater()
        removable = self.deck.removing() is not None
        families = [self.deck.family(number) for number in range(len(self.deck.names()))]
        self._cards = [
            MoveCard(name, self.deck.title, removable and bool(family))
            for name, family in zip(self.deck.names(), families, strict=True)
        ]
        self._deal_heads(families)
        for number, card in enumerate(self._cards):
            if isinstance(self.deck, TitleDeck):
                card.carries = title_carried(self.deck.items[number].path)
            card.entered.connect(lambda n=number: self.try_on(n))
            card.left.connect(self.stop_trying)
            card.removed.connect(self.remove_card)
            card.taken.connect(lambda on_top, n=number: self.apply_move(n, on_top))
            card.starred.connect(lambda n=number: self.toggle_favourite(n))
            card.asked.connect(lambda at, n=number: self.keeping.ask_about(n, at))
        self._arrange()
        self._shown_for = None
        self.refresh()

    def _deal_heads(self, families: list[str]) -> None:
        """A head for each group of cards, which folds it."""
        for head in self._heads.values():
            head.hide()
            head.deleteLater()
        self._heads = {}
        for family in filter(None, dict.fromkeys(families)):
            head = self._heads[family] = Head(family)
            head.say(str(families.count(family)))
            head.clicked.connect(lambda _, f=family: self._fold(f))

    def _fold(self, family: str) -> None:
        self.remembered.toggle_fold(self._role, family)
        self._arrange()

    def _arrange(self) -> None:
        """Lay out the cards that are wanted, two in a row: in groups, or as they were found."""
        stars, names, wanted = self.remembered.favourites(self._role), self.deck.names(), self._wanted()
        shown: set[int] = set()
        while self._grid.count():
            self._grid.takeAt(0)
        row = 0
        for head, numbers in self._grouped(wanted):
            if head is not None:
                self._grid.addWidget(head, row, 0, 1, 2)
                row += 1
            # Put in before it is shown: without a parent it would be a window of its own.
            for place, number in enumerate(numbers):
                self._grid.addWidget(self._cards[number], row + place // 2, place % 2)
            row += (len(numbers) + 1) // 2
            shown |= set(numbers)
        for number, card in enumerate(self._cards):
            card.show_star(names[number] in stars)
            self._put_away(card, number in shown)
        self._shown_order = [number for _, numbers in self._grouped(wanted) for number in numbers]
        self._none.setVisible(not wanted)

    def _put_away(self, widget: QWidget, shown: bool) -> None:
        if widget.parentWidget() is None:
            widget.setParent(self._grid.parentWidget())
        widget.setVisible(shown)

    def _grouped(self, wanted: list[int]) -> list[tuple[Head | None, list[int]]]:
        """Heads and the cards below each, those of folded groups left out."""
        grouped = not self._search.text().strip() and self._which.currentData() == "all"
        for head in self._heads.values():
            self._put_away(head, grouped)
        if not grouped:
            return [(None, wanted)]
        folded, families = self.remembered.folded(self._role), self._families()
        groups: list[tuple[Head | None, list[int]]] = [(None, [n for n in wanted if not self.deck.family(n)])]
        for family in families:
            head = self._heads[family]
            head.setChecked(family not in folded)
            own = [number for number in wanted if self.deck.family(number) == family]
            groups.append((head, [] if family in folded else own))
        return groups

    def _families(self) -> list[str]:
        """The groups of the deck: the user's own, then those that fit what is selected."""
        order = [OWN, *FAMILIES]
        if not any(has_words(clip) for clip in self._clips()):
            order = [OWN, *(family for family in FAMILIES if family not in _OF_WORDS), *_OF_WORDS]
        rank = {family: number for number, family in enumerate(order)}
        return sorted(self._heads, key=lambda family: rank.get(family, len(rank)))

    def _wanted(self) -> list[int]:
        """The numbers of the cards of the kind chosen that match the search, the likeliest first."""
        which, typed = self._which.currentData(), self._search.text()
        kept: Container[str] | None = None
        if which == "favourites":
            kept = self.remembered.favourites(self._role)
        elif which == "recent":
            kept = self.remembered.recent(self._role)
        there = [
            Entry(number, name, self.deck.about(number))
            for number, name in enumerate(self.deck.names())
            if (kept is None or name in kept) and (which != "own" or self.deck.is_own(number))
        ]
        return found(there, typed)

    def take_keyboard(self) -> None:
        """Let what is typed next search the cards."""
        self._search.setFocus(Qt.FocusReason.ShortcutFocusReason)

    def toggle_favourite(self, number: int) -> None:
        """Give a card a star, or take it away."""
        self.remembered.toggle(self._role, self.deck.names()[number])
        self._arrange()

    def _kept_changed(self, role: str) -> None:
        self.open_role(role or self._role)

    def card(self, name: str) -> MoveCard:
        """The card of that name."""
        return self._cards[self.deck.names().index(name)]

    def try_on(self, number: int) -> None:
        """Play a card and show it on the selected layer, as a draft."""
        self.stop_trying()
        self._trying = number
        self.pictures.play(number)
        chosen = [clip.id for clip in self._clips()]
        if chosen and not self._document.playing:
            self._document.try_each(chosen, self.deck.trying(number))
            if isinstance(self.deck, MoveDeck):
                self.audition.wait(self._role)

    def _clips(self) -> list[Clip]:
        """The selected clips that can take a card of the deck."""
        return self.takers(self._role)

    def apply_move(self, number: int, on_top: bool = False) -> None:
        """Give the selected layers the card, in place of what they have or `on_top` of it."""
        self.audition.end()
        self._trying = None
        self.pictures.stop()
        chosen = [clip.id for clip in self._clips()]
        if chosen:
            title, edit = (self.deck.stacking(number) if on_top else None) or self.deck.taking(number)
            self._document.do_each(title, chosen, edit)
            self.remembered.use(self._role, self.deck.names()[number])
            self._say_what_lacks()

    def _say_what_lacks(self) -> None:
        """Say where the move that was just taken finds nothing to work on."""
        clip, move = self._document.clip, move_of(self._document.clip, self._role)
        counts = move is not None and any(departure.channel == "figures" for departure in move.channels)
        if counts and not (has_words(clip) and numbers_in(clip.text.content)):
            said = "There is no number in this layer's words to count: write one, such as 1,250."
            self._document.problem.emit(said)

    def remove_card(self) -> None:
        """Take off what the applied card gave the selected layers."""
        self.stop_trying()
        step, chosen = self.deck.removing(), [clip.id for clip in self._clips()]
        if step is not None and chosen:
            self._document.do_each(step[0], chosen, step[1])

    def close_pictures(self) -> None:
        self._redraw.stop()
        self._draft_timer.stop()
        self.pictures.close()

    def stop_trying(self) -> None:
        """Drop the move that is being tried on."""
        if self._trying is not None:
            self._trying = None
            self.audition.end()
            self.pictures.stop()
            self._document.drop()

    def _project_changed(self) -> None:
        if self._document.history.has_draft and self._trying is None:
            if not self._draft_timer.isActive():
                self._draft_timer.start()
        else:
            self.refresh()

    def refresh(self) -> None:
        clips = self._clips()
        usable = bool(clips)
        fitting = any(has_words(clip) for clip in clips)
        if fitting != self._fitting:
            self._fitting = fitting
            self._arrange()
        self._hint.setText(self.deck.hint)
        self._hint.setVisible(not usable)
        self.keeping.refresh()
        taken = {self.deck.chosen(clip) for clip in clips}
        chosen = taken.pop() if len(taken) == 1 else None
        for number, card in enumerate(self._cards):
            card.setEnabled(usable)
            card.show_chosen(number == chosen)
        if self._card_words() != self._shown_for and not self._waiting:
            self._redraw.start()

    def begin_drawing(self) -> None:
        """Draw cards from now on: at the start the first picture comes before them."""
        if self._waiting:
            self._waiting = False
            self._redraw.start()

    def _card_words(self) -> object:
        words = self._words()
        # Cards of looks show looks of their own.
        look = None if self._role == "look" else words.look
        return self._role, words.text, look, self._document.rate, self.deck.names()

    def _words(self) -> TextClip:
        clip = self._document.clip
        # What is animated is shown as it is midway, where it is most likely to be seen.
        return layer_at(clip, clip.length // 2) if has_words(clip) else _SAMPLE

    def _draw_cards(self) -> None:
        self._shown_for = self._card_words()
        project, cards = self.deck.drawn(self._words(), self._document.rate)
        self.pictures.show(project, cards, self._document.rate, self._document.base, self._shown_order)

    def _card_drawn(self, number: int, image: QImage) -> None:
        if number < len(self._cards):
            self._cards[number].show_image(image)


def _scrolled(widget: QWidget) -> QScrollArea:
    area = QScrollArea(widgetResizable=True, accessibleName="Cards")
    area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    area.setWidget(widget)
    return area
