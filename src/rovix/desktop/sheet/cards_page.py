"""A page of cards in an order: added, switched off, opened, dragged, taken away."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Any, ClassVar, Protocol, runtime_checkable

from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QMenu, QPushButton, QVBoxLayout, QWidget

from rovix.desktop.document import Document
from rovix.desktop.sheet.card import Card, CardFields, Item
from rovix.desktop.sheet.page import ClipEdit, Page
from rovix.desktop.window_above import window_above
from rovix.edit.counterparts import counterpart
from rovix.edit.tree import clip_of, title_of
from rovix.errors import RovixError
from rovix.model import Clip, Project
from rovix.motion.at_frame import at_frame


@runtime_checkable
class HasClips(Protocol):
    """A window that knows which clip is at a point of the screen."""

    def clip_at(self, point: QPoint) -> str | None: ...


class CardsPage(Page):
    """What a page of looks and one of effects have in common; they say what an item is and does.

    The cards are of the leading clip's items; what is done to one is done to that of the same kind and
    number of the other clips, see :func:`rovix.edit.counterparts.counterpart`.
    """

    said, place, empty, add_tip = "part", "", "", ""
    names: ClassVar[dict[str, str]]

    def __init__(self, document: Document) -> None:
        super().__init__(document)
        self._cards: list[Card] = []
        self._open: set[str] = set()
        self._folded: set[str] = set()
        self._list = QVBoxLayout()
        self._list.setSpacing(6)
        self._mark = QFrame(self)
        self._mark.setObjectName("dropmark")
        self._mark.setFixedHeight(2)
        self._mark.hide()
        self._empty = QLabel(self.empty, objectName="muted", wordWrap=True)
        self._column.addLayout(self._list)
        self._column.addWidget(self._empty)
        self._column.addWidget(self.pips.note)
        self._column.addWidget(self._adding())
        self._column.addStretch(1)

    # What items are

    def items(self, clip: Clip | None) -> tuple[Item, ...]:
        """A clip's items, in their order."""
        raise NotImplementedError

    def kind_of(self, item: Item) -> str:
        raise NotImplementedError

    def address(self, identity: str) -> str:
        """Where an item stands in its clip."""
        return f"{self.place}.{identity}"

    def fields(self, item: Item) -> CardFields:
        """The fields of an item's card."""
        raise NotImplementedError

    def opened_first(self, item: Item) -> bool:
        """Whether an item is open until it is folded."""
        return False

    def added(self, project: Project, clip: str, kind: str) -> Project:
        raise NotImplementedError

    def changed(self, project: Project, clip: str, identity: str, **changes: Any) -> Project:
        raise NotImplementedError

    def removed(self, project: Project, clip: str, identity: str) -> Project:
        raise NotImplementedError

    def moved(self, project: Project, clip: str, identity: str, to: int) -> Project:
        raise NotImplementedError

    def duplicated(self, project: Project, clip: str, identity: str) -> Project:
        raise NotImplementedError

    def put_back(self, project: Project, clip: str, identity: str) -> Project:
        raise NotImplementedError

    def given(self, project: Project, clip: str, item: Item) -> Project:
        """The project in which a clip has a copy of another's item."""
        raise NotImplementedError

    # Cards

    def _adding(self) -> QWidget:
        row = QWidget()
        box = QHBoxLayout(row)
        box.setContentsMargins(0, 0, 0, 0)
        self.adding = QPushButton(f"Add {_an(self.said)}", toolTip=self.add_tip)
        self.menu = QMenu(self.adding)
        for kind, name in self.names.items():
            self.menu.addAction(name, partial(self.add, kind))
        self.adding.setMenu(self.menu)
        box.addWidget(self.adding)
        box.addStretch(1)
        return row

    def card(self, kind: str, number: int = 0) -> Card:
        """The card of the so-manieth item of a kind."""
        return [card for card in self._cards if card.kind == kind][number]

    def item_of(self, clip: Clip, identity: str) -> Item:
        """What stands in a clip for an item of the leading one; RovixError where it has none."""
        lead = self.clip
        own = identity if lead is None else counterpart(lead, self.place, identity, clip)
        found = next((item for item in self.items(clip) if item.id == own), None)
        if found is None:
            raise RovixError(f"'{title_of(clip)}' has no such {self.said} any more.")
        return found

    def of_item(self, identity: str, edit: Callable[[Project, str, Item], Project]) -> ClipEdit:
        """The edit of each clip's item for one of the leading clip."""
        return lambda project, clip: edit(project, clip, self.item_of(clip_of(project, clip), identity))

    def changing(self, identity: str, **changes: Any) -> ClipEdit:
        """The edit that changes plain fields of an item."""
        return self.of_item(identity, lambda p, clip, item: self.changed(p, clip, item.id, **changes))

    def add(self, kind: str) -> None:
        """Add an item and open it."""
        before = {item.id for item in self.items(self.clip)}
        self._do(f"Add {_an(self.names[kind])}", lambda project, clip: self.added(project, clip, kind))
        self._open |= {item.id for item in self.items(self.clip)} - before
        self.refresh()

    def show_clip(self, clip: Clip) -> None:
        items = tuple(at_frame(item, self.frame) for item in self.items(clip))
        if [card.identity for card in self._cards] != [item.id for item in items]:
            self._rebuild(items)
        for card, item in zip(self._cards, items, strict=True):
            card.show_item(item, self._is_open(item))
        self._empty.setVisible(not any(item.shown for item in items))

    def _is_open(self, item: Item) -> bool:
        return item.id in self._open or (self.opened_first(item) and item.id not in self._folded)

    def _rebuild(self, items: tuple[Item, ...]) -> None:
        kept = {card.identity: card for card in self._cards}
        self._cards = [kept.pop(item.id) if item.id in kept else self._new_card(item) for item in items]
        for card in kept.values():
            self.forget(card)
            card.hide()
            card.deleteLater()
        for number, card in enumerate(self._cards):
            self._list.removeWidget(card)
            self._list.insertWidget(number, card)

    def _new_card(self, item: Item) -> Card:
        kind = self.kind_of(item)
        card = Card(item.id, kind, self.names[kind], self.fields(item))
        name, identity, head = self.names[kind].lower(), item.id, card.head
        head.opened.connect(lambda: self._fold(identity))
        head.shown.connect(lambda on: self._do(
            f"{'Show' if on else 'Hide'} the {name}", self.changing(identity, shown=on)
        ))  # fmt: skip
        away = self.of_item(identity, lambda p, clip, own: self.removed(p, clip, own.id))
        head.removed.connect(lambda: self._do(f"Remove the {name}", away))
        head.asked.connect(lambda at: self.menu_of(identity).popup(at))
        head.stepped.connect(lambda way: self._move(identity, self._index(identity) + way))
        head.dragged.connect(self._show_mark)
        head.dropped.connect(lambda y: self._drop(identity, y))
        head.carried.connect(lambda at: self._carry(identity, at))
        return card

    def menu_of(self, identity: str) -> QMenu:
        """What can be done with an item, for the menu of its head."""
        card = self._cards[self._index(identity)]
        item = next(item for item in self.items(self.clip) if item.id == identity)
        name, at = self.names[card.kind].lower(), self._index(identity)
        menu = QMenu(self)
        menu.aboutToHide.connect(menu.deleteLater)
        menu.addAction("Fold" if self._is_open(item) else "Open", lambda: self._fold(identity))
        menu.addAction("Hide" if item.shown else "Show", lambda: card.head.shown.emit(not item.shown))
        menu.addAction("Duplicate", lambda: self.duplicate(identity))
        menu.addAction(
            f"Reset the {name}", lambda: self._item_step(f"Reset the {name}", identity, self.put_back)
        )
        menu.addSeparator()
        menu.addAction("Move up", lambda: self._move(identity, at - 1)).setEnabled(at > 0)
        menu.addAction("Move down", lambda: self._move(identity, at + 1)).setEnabled(
            at + 1 < len(self._cards)
        )
        menu.addSeparator()
        menu.addAction("Remove", card.head.removed.emit)
        return menu

    def duplicate(self, identity: str) -> None:
        """Put a copy of an item beside it."""
        name = self.names[self._cards[self._index(identity)].kind].lower()
        self._item_step(f"Duplicate the {name}", identity, self.duplicated)

    def _item_step(self, title: str, identity: str, edit: Callable[[Project, str, str], Project]) -> None:
        self._do(title, self.of_item(identity, lambda p, clip, own: edit(p, clip, own.id)))

    def _fold(self, identity: str) -> None:
        item = next(item for item in self.items(self.clip) if item.id == identity)
        if self._is_open(item):
            self._open.discard(identity)
            self._folded.add(identity)
        else:
            self._open.add(identity)
        self.refresh()

    def _index(self, identity: str) -> int:
        return [card.identity for card in self._cards].index(identity)

    def _gap_at(self, y: int) -> int:
        """The number of cards whose heads' middle lies above a place of the page."""
        return sum(card.y() + card.head.height() / 2 < y for card in self._cards)

    def _show_mark(self, y: int) -> None:
        self._mark.setVisible(y >= 0)
        gap = self._gap_at(y)
        below = self._cards[gap] if gap < len(self._cards) else None
        last = self._cards[-1].geometry().bottom() + 3
        at = below.y() - 4 if below is not None else last
        self._mark.setGeometry(self._cards[0].x(), at, self._cards[0].width(), 2)
        self._mark.raise_()

    def _drop(self, identity: str, y: int) -> None:
        self._mark.hide()
        at, gap = self._index(identity), self._gap_at(y)
        self._move(identity, gap - 1 if gap > at else gap)

    def _carry(self, identity: str, at: QPoint) -> None:
        """Give a copy of an item to the clip at a point of the screen."""
        self._mark.hide()
        window = window_above(self, HasClips)  # type: ignore[type-abstract]
        target = None if window is None else window.clip_at(at)
        item = next((item for item in self.items(self.clip) if item.id == identity), None)
        if target is None or item is None:
            return
        name = self.names[self.kind_of(item)].lower()
        self._document.do_each(f"Give the {name}", [target], lambda p, clip: self.given(p, clip, item))

    def _move(self, identity: str, to: int) -> None:
        to = min(max(0, to), len(self._cards) - 1)
        if to != self._index(identity):
            title = f"Change the order of the {self.name.lower()}"
            self._do(title, self.of_item(identity, lambda p, clip, own: self.moved(p, clip, own.id, to)))
            self._cards[self._index(identity)].head.setFocus(Qt.FocusReason.OtherFocusReason)


def _an(name: str) -> str:
    return f"{'an' if name[0] in 'AEIOUaeiou' else 'a'} {name.lower()}"
