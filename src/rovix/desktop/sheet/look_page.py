"""The sheet's Look page: the parts of the words' look, in the order in which they lie."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QMenu, QPushButton, QVBoxLayout, QWidget

from rovix.desktop.document import Document
from rovix.desktop.sheet.look_parts import NAMES, PartCard, kind_of, text_parts
from rovix.desktop.sheet.page import Page
from rovix.desktop.sheet.parts import heading
from rovix.edit import clip_by_id
from rovix.edit.look import add_part, change_part, move_part, remove_part
from rovix.model import LookPart, Project, TextClip
from rovix.motion.settle import settled


class LookPage(Page):
    """Parts can be added, switched off, dragged and taken away; open ones show their fields."""

    def __init__(self, document: Document) -> None:
        super().__init__(document)
        self._cards: list[PartCard] = []
        self._open: set[str] = set()
        self._folded: set[str] = set()
        self._list = QVBoxLayout()
        self._list.setSpacing(6)
        self._mark = QFrame(self)
        self._mark.setObjectName("dropmark")
        self._mark.setFixedHeight(2)
        self._mark.hide()
        self._empty = QLabel("Nothing is drawn: add a fill or an outline.", objectName="muted", wordWrap=True)
        self._column.addWidget(heading("Look", "the first lies on top"))
        self._column.addLayout(self._list)
        self._column.addWidget(self._empty)
        self._column.addWidget(self.rings.note)
        self._column.addWidget(self._adding())
        self._column.addStretch(1)

    def _adding(self) -> QWidget:
        row = QWidget()
        box = QHBoxLayout(row)
        box.setContentsMargins(0, 0, 0, 0)
        self.adding = QPushButton("Add a part", toolTip="Another fill, outline, shadow, glow or box.")
        self.menu = QMenu(self.adding)
        for kind, name in NAMES.items():
            self.menu.addAction(name, lambda k=kind: self.add(k))
        self.adding.setMenu(self.menu)
        box.addWidget(self.adding)
        box.addStretch(1)
        return row

    def card(self, kind: str, number: int = 0) -> PartCard:
        """The card of the so-manieth part of a kind."""
        return [card for card in self._cards if card.kind == kind][number]

    def part_of(self, project: Project, identity: str) -> LookPart:
        """A part of the selected layer in a project."""
        parts = text_parts(clip_by_id(project, self._document.selected))
        return next(part for part in parts if part.id == identity)

    def committed_part(self, identity: str) -> LookPart | None:
        """A part as it was at the last step, whatever is being tried."""
        parts = text_parts(clip_by_id(self._document.committed, self._document.selected))
        found = next((part for part in parts if part.id == identity), None)
        return None if found is None else settled(found, self._document.clip_frame)

    def add(self, kind: str) -> None:
        """Add a part and open it."""
        before = {part.id for part in text_parts(self._document.clip)}
        self._do(f"Add {_an(NAMES[kind])}", lambda project: add_part(project, self._id, kind))
        self._open |= {part.id for part in text_parts(self._document.clip)} - before
        self.look_again()

    def look_again(self) -> None:
        clip = self._document.shown_layer
        if not isinstance(clip, TextClip):
            return
        parts = clip.look.parts
        if [card.identity for card in self._cards] != [part.id for part in parts]:
            self._rebuild(parts)
        for card, part in zip(self._cards, parts, strict=True):
            card.show_part(part, self._is_open(part))
        self.rings.look_again()
        self._empty.setVisible(not any(part.shown for part in parts))

    def _is_open(self, part: LookPart) -> bool:
        # What most want to change first, the fill, is open until it is folded.
        return part.id in self._open or (kind_of(part) == "fill" and part.id not in self._folded)

    def _rebuild(self, parts: tuple[LookPart, ...]) -> None:
        kept = {card.identity: card for card in self._cards}
        self._cards = [kept.pop(part.id, None) or self._new_card(part) for part in parts]
        self.rings.forget(lambda pip: any(card.isAncestorOf(pip) for card in kept.values()))
        for card in kept.values():
            card.hide()
            card.deleteLater()
        for number, card in enumerate(self._cards):
            self._list.removeWidget(card)
            self._list.insertWidget(number, card)

    def _new_card(self, part: LookPart) -> PartCard:
        card = PartCard(self, part)
        name, identity, head = NAMES[card.kind].lower(), part.id, card.head
        head.opened.connect(lambda: self._fold(identity))
        head.shown.connect(lambda on: self._do(
            f"{'Show' if on else 'Hide'} the {name}",
            lambda p: change_part(p, self._id, identity, shown=on),
        ))  # fmt: skip
        head.removed.connect(
            lambda: self._do(f"Remove the {name}", lambda p: remove_part(p, self._id, identity))
        )
        head.stepped.connect(lambda way: self._move(identity, self._index(identity) + way))
        head.dragged.connect(self._show_mark)
        head.dropped.connect(lambda y: self._drop(identity, y))
        return card

    def _fold(self, identity: str) -> None:
        part = self.part_of(self._document.project, identity)
        if self._is_open(part):
            self._open.discard(identity)
            self._folded.add(identity)
        else:
            self._open.add(identity)
        self.look_again()

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

    def _move(self, identity: str, to: int) -> None:
        to = min(max(0, to), len(self._cards) - 1)
        if to != self._index(identity):
            self._do("Change the order of the look", lambda p: move_part(p, self._id, identity, to))
            card = self._cards[self._index(identity)]
            card.head.setFocus(Qt.FocusReason.OtherFocusReason)


def _an(name: str) -> str:
    return f"{'an' if name[0] in 'AEIOU' else 'a'} {name.lower()}"
