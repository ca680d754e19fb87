"""At every size of window and text that is promised, nothing is cut off, out of reach or over its neighbour."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint, QRect
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QAbstractButton, QAbstractScrollArea, QCheckBox, QLabel, QWidget

from rovix.desktop.sheet.section import Head
from rovix.desktop.theme import apply_theme
from rovix.model.effects import EFFECTS
from waiting import wait_for

SIZES = [(1024, 700, 1.0), (1280, 800, 1.0), (1920, 1080, 1.0), (1280, 800, 1.5)]


@pytest.fixture(params=SIZES, ids=lambda size: f"{size[0]}x{size[1]} at {size[2]:.0%}")
def window(request, qapp, make_test_window):
    width, height, scale = request.param
    apply_theme(qapp, scale)
    made = make_test_window()
    made.scale_panels(scale)
    made.resize(width, height)
    QTest.qWait(60)
    yield made
    apply_theme(qapp)


def said(widget: QWidget) -> str:
    if isinstance(widget, QLabel) and not widget.wordWrap():
        return widget.text()
    return widget.text() if isinstance(widget, QAbstractButton) and not isinstance(widget, Head) else ""


def cut(window: QWidget) -> list[str]:
    """Visible texts that have less room than they need, and widgets that reach out at the side."""
    found = []
    for widget in window.findChildren(QWidget):
        if not widget.isVisible() or widget.window() is not window:
            continue
        words = said(widget).replace("&", "")
        room = widget.width() - (20 if isinstance(widget, QCheckBox) else 0)
        needed = max((widget.fontMetrics().horizontalAdvance(line) for line in words.split("\n")), default=0)
        if words and needed > room + 1:
            found.append(f"'{words}' needs {needed} px and has {room}")
        if words and widget.height() + 2 < widget.fontMetrics().height():
            found.append(f"'{words}' is {widget.height()} px high")
        if reaches_out(widget):
            found.append(
                f"{type(widget).__name__} '{words or widget.accessibleName()}' reaches out of its panel"
            )
    return found


def reaches_out(widget: QWidget) -> bool:
    """Whether a widget is cut at a side of the scroll area, or the window, that it stands in."""
    above = widget.parentWidget()
    while (
        above is not None
        and not isinstance(above.parentWidget(), QAbstractScrollArea)
        and not above.isWindow()
    ):
        above = above.parentWidget()
    if above is None:
        return False
    place = QRect(widget.mapTo(above, QPoint(0, 0)), widget.size())
    return place.left() < -1 or place.right() > above.width() + 1


def settled(window) -> list[str]:
    """What is cut once all is laid out: a label that was only just filled gets its room a little later."""
    wait_for(lambda: not cut(window), 600)
    return cut(window)


def test_the_window_takes_the_size(window, request):
    width, height, _ = request.node.callspec.params["window"]
    assert (window.width(), window.height()) == (width, height)


def test_no_page_of_the_sheet_is_cut(window):
    for identity in ("small", "ground"):
        window.document.select(identity)
        for name in window.sheet.usable:
            for other in window.sheet.opened:
                window.sheet.close_page(other)
            window.sheet.open_page(name)
            assert settled(window) == [], (identity, name)


def test_no_field_of_an_effect_a_part_or_a_move_is_cut(window):
    window.document.select("big")
    for page, kinds in (("Effects", EFFECTS), ("Look", ("outline", "shadow", "long-shadow", "glow", "box"))):
        window.sheet.open_page(page)
        for kind in kinds:
            window.sheet.page(page).add(kind)
            assert settled(window) == [], kind
            window.run("undo")
    window.sheet.open_page("Motion")
    motion = window.sheet.page("Motion")
    for card in ("Typed with clicks", "Shaken in", "From the middle", "Count up"):
        window.shelf.apply_move(window.shelf.deck.names().index(card))
        for fold in (motion.moving, motion.typed, motion.sounding):
            fold.open()
        assert settled(window) == [], card
    window.shelf.apply_move(window.shelf.deck.names().index("Wave"), on_top=True)
    window.document.tune(window.document.clip.moves[-1].id)
    for way in ("left", "up"):
        window.run(f"cross-{way}")
        motion.crossing.by.chosen.emit("speed")
        assert settled(window) == [], way


def test_no_tab_of_the_shelf_is_cut(window):
    window.document.select("small")
    for role in window.shelf.decks:
        window.shelf.open_role(role)
        assert settled(window) == [], role
    window.shelf.open_media()
    assert settled(window) == []
    window.places.turn_tall("sheet")
    window.places.turn_tall("shelf")
    assert settled(window) == []
