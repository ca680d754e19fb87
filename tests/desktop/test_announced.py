"""What is on screen is announced to assistive technology: names, and what fields hold."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QAccessible
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QAbstractScrollArea, QScrollBar, QWidget

from rovix.desktop.sheet.colour_button import ColourButton
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.parts import KeyPip
from rovix.desktop.sheet.sheet import PAGES


@pytest.fixture
def opened(window):
    window.document.select("small")
    window.document.seek(40)
    for page in PAGES:
        window.sheet.open_page(page.name)
    QTest.qWait(150)
    return window


def _takers(window) -> list[QWidget]:
    """What takes the keyboard in the window."""
    return [
        widget
        for widget in window.findChildren(QWidget)
        if widget.isVisible()
        and widget.focusPolicy() & Qt.FocusPolicy.TabFocus
        and not isinstance(widget, QScrollBar)
        and not (type(widget) is QAbstractScrollArea or widget.objectName() == "qt_scrollarea_viewport")
    ]


def _heard(widget, what) -> str:
    interface = QAccessible.queryAccessibleInterface(widget)
    return interface.text(what) if interface else ""


def test_all_that_takes_the_keyboard_has_a_name(opened):
    nameless = [
        f"{type(widget).__name__} in {type(widget.parentWidget()).__name__}"
        for widget in _takers(opened)
        if not _heard(widget, QAccessible.Text.Name).strip()
    ]
    assert nameless == []


def test_numbers_colours_and_keys_are_heard_as_they_are_shown(opened):
    fields = [field for field in opened.sheet.findChildren(NumberField) if field.isVisible()]
    assert len(fields) > 20
    for field in fields:
        assert _heard(field, QAccessible.Text.Description) == f"{field.text()} {field.shown.unit}".strip()
    for button in opened.sheet.findChildren(ColourButton):
        if button.isVisible():
            assert _heard(button, QAccessible.Text.Description).startswith("#")
    for pip in opened.sheet.findChildren(KeyPip):
        assert _heard(pip, QAccessible.Text.Description) in (
            "Not animated.", "Animated; no key on this frame.", "A key on this frame."
        )  # fmt: skip


def test_a_number_that_changes_is_heard_anew(opened):
    page = opened.sheet.page("Transform")
    field = page._fields["x"]
    opened.document.do("Move", lambda p: _moved(p))
    QTest.qWait(20)
    assert _heard(field, QAccessible.Text.Description) == "123 px"


def _moved(project):
    from rovix.edit import change_transform

    return change_transform(project, "small", 20, x=123.0)


def test_every_field_is_reached_by_tab_alone(opened):
    """Tab goes round all that takes the keyboard in the sheet and comes back."""
    takers = {widget for widget in _takers(opened) if opened.sheet.isAncestorOf(widget)}
    first = min(takers, key=lambda widget: widget.mapTo(opened, widget.rect().topLeft()).y())
    seen, at = set(), first
    for _ in range(2000):
        seen.add(at)
        at = at.nextInFocusChain()
        if at is first:
            break
    assert takers <= seen
