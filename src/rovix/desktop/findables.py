"""All that the finder finds, from the tables that there are: commands, effects, cards, curves, fields."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtGui import QAccessible
from PySide6.QtWidgets import QScrollArea, QWidget

from rovix.curve import easing_names
from rovix.desktop.channel_facts import PART_NAMES
from rovix.desktop.commands import COMMANDS, Command, effect_commands
from rovix.desktop.commands.keys_menu import chosen_keys
from rovix.desktop.searching import Entry
from rovix.desktop.sheet.cards_page import CardsPage
from rovix.desktop.sheet.motion.fold import Fold
from rovix.desktop.sheet.motion.motion_page import MotionPage
from rovix.desktop.sheet.page import Page
from rovix.edit.keys import set_curves
from rovix.edit.transform import set_blend
from rovix.model import Project
from rovix.model.blend import BLEND_MODES
from rovix.model.clip_kinds import has_words, is_layer
from rovix.model.effects import EFFECTS
from rovix.model.move_channels import MOVE_CHANNELS

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame


@dataclass(frozen=True, slots=True)
class Findable:
    """What is found: where it belongs, and what taking it does with the selection."""

    title: str
    where: str
    run: Callable[[Frame], None]
    shortcut: str = ""
    usable: bool = True
    """Whether it can be done now; what cannot is found all the same, and shown so."""


def findables(window: Frame) -> list[Entry[Findable]]:
    """All that can be done with the selection as it is now."""
    sources = (_commands, _effects, _parts, _cards, _fields, _channels, _curves, _blends)
    there = [entry for source in sources for entry in source(window)]
    # Of what is meant alike, what can be done now stands first.
    return sorted(there, key=lambda entry: not entry.thing.usable)


def _entry(found: Findable, about: str = "") -> Entry[Findable]:
    return Entry(found, found.title, f"{found.where} {about}")


def _commands(window: Frame) -> Iterator[Entry[Findable]]:
    for item in COMMANDS:
        if item.id != "find":
            where = f"{item.menu}, {item.under.lower()}" if item.under else item.menu
            usable = item.when(window)
            yield _entry(
                Findable(item.said(window), where, partial(_run, item), window.shortcut_of(item.id), usable)
            )


def _run(item: Command, window: Frame) -> None:
    window.run(item.id) if item.menu != "Effects" else item.run(window)


def _effects(window: Frame) -> Iterator[Entry[Findable]]:
    for item, struct in zip(effect_commands(), EFFECTS.values(), strict=True):
        rows = " ".join(getattr(row, "label", "") for row in struct.facts.rows)
        run = partial(_run, item)
        yield _entry(Findable(item.said(window), "Effects", run, usable=item.when(window)), rows)


def _blends(window: Frame) -> Iterator[Entry[Findable]]:
    """How the layers are laid over what is below."""
    if is_layer(window.document.clip):
        for mode in BLEND_MODES:
            found = Findable(f"Blend: {mode}", "Transform", partial(_take_blend, mode))
            yield _entry(found, mode.replace("-", " "))


def _take_blend(mode: str, window: Frame) -> None:
    document = window.document
    document.do_each(f"Blend by {mode}", document.selection, lambda p, i: set_blend(p, i, mode))


def _parts(window: Frame) -> Iterator[Entry[Findable]]:
    """Parts of a look, for words."""
    if has_words(window.document.clip):
        for kind, name in PART_NAMES.items():
            yield _entry(Findable(f"Add to the look: {name}", "Look", partial(_add_part, kind)))


def _add_part(kind: str, window: Frame) -> None:
    window.sheet.open_page("Look")
    page = window.sheet.page("Look")
    assert isinstance(page, CardsPage)
    page.add(kind)


def _cards(window: Frame) -> Iterator[Entry[Findable]]:
    """The shelf's cards, where the selection can take them."""
    for role, deck in window.shelf.decks.items():
        if not window.shelf.takers(role):
            continue
        for number, name in enumerate(deck.names()):
            if role == "effects" and not deck.is_own(number):
                continue  # a new effect of a kind is among the commands
            found = Findable(f"{deck.title}: {name}", "Cards", partial(_take_card, role, number))
            yield Entry(found, name, f"{deck.title} {deck.about(number)}")


def _take_card(role: str, number: int, window: Frame) -> None:
    window.shelf.open_role(role)
    window.shelf.apply_move(number)


def _channels(window: Frame) -> Iterator[Entry[Findable]]:
    """What the move that is tuned may change on the way, too."""
    move = window.document.tuned
    if move is not None:
        there = {departure.channel for departure in move.channels}
        for name, row in MOVE_CHANNELS.items():
            if name not in there and (row.group != "Letters" or has_words(window.document.clip)):
                title = f"The move changes: {row.label}"
                yield _entry(Findable(title, "Motion, what moves", partial(_add_channel, name)))


def _motion(window: Frame) -> MotionPage:
    window.sheet.open_page("Motion")
    page = window.sheet.page("Motion")
    assert isinstance(page, MotionPage)
    return page


def _add_channel(name: str, window: Frame) -> None:
    page = _motion(window)
    page.moving.open()
    page.channels.add(name)


def _curves(window: Frame) -> Iterator[Entry[Findable]]:
    """Curves, for the selected keys, else for the move that is tuned."""
    keyed, tuned = bool(window.document.keys), window.document.tuned is not None
    if keyed or tuned:
        of = "of the selected keys" if keyed else "of the move's pieces"
        for name in easing_names():
            yield _entry(Findable(f"Curve {name}", of, partial(_take_curve, name)), name.replace("-", " "))


def _take_curve(name: str, window: Frame) -> None:
    document = window.document
    if not document.keys:
        page = _motion(window)
        page.give(f"Change the piece curve to {name}", lambda _: {"piece_curve": name})
        return
    chosen = chosen_keys(window)

    def edit(project: Project) -> Project:
        for identity, own in chosen.items():
            project = set_curves(project, identity, own, name)
        return project

    document.do(f"Go on by {name}", edit)


def _fields(window: Frame) -> Iterator[Entry[Findable]]:
    """What can be set in the sheet, by the names that it has for assistive technology."""
    for name in window.sheet.usable:
        page = window.sheet.page(name)
        page.refresh()
        for said, widget in _named(page):
            title = said[:1].upper() + said[1:]
            yield _entry(Findable(title, f"Field of {name}", partial(_reach, name, widget)))


def _named(page: Page) -> Iterator[tuple[str, QWidget]]:
    """The fields of a page by their names without unit or choice, each name once."""
    seen = set()
    for widget in page.findChildren(QWidget):
        said = _called(widget).split(",")[0].split(":")[0].strip()
        focusable = widget.focusPolicy() != Qt.FocusPolicy.NoFocus and not said.startswith("Key of")
        if said and focusable and said not in seen and not isinstance(widget, QScrollArea):
            seen.add(said)
            yield said, widget


def _called(widget: QWidget) -> str:
    """What a field is called: its name, else what stands on it."""
    if widget.accessibleName():
        return widget.accessibleName()
    named = QAccessible.queryAccessibleInterface(widget)
    return named.text(QAccessible.Text.Name) if named else ""


def _reach(name: str, widget: QWidget, window: Frame) -> None:
    """Open the page, and the fold that a field is in, and give it the keyboard."""
    window.sheet.open_page(name)
    above = widget.parentWidget()
    while above is not None and above is not window.sheet:
        if isinstance(above, Fold):
            above.open()
        above = above.parentWidget()
    window.sheet.show_field(widget)
