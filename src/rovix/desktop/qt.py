"""What PySide's stubs say may be None, and is not where it is asked for: said once, here."""

from __future__ import annotations

from collections.abc import Iterator

from PySide6.QtCore import QCoreApplication
from PySide6.QtWidgets import QComboBox, QLayout, QLineEdit, QWidget


def application() -> QCoreApplication:
    """The application, which is there as long as there are widgets."""
    found = QCoreApplication.instance()
    assert found is not None
    return found


def parent_of(widget: QWidget) -> QWidget:
    """The parent of a widget that has one."""
    found = widget.parentWidget()
    assert found is not None
    return found


def line_of(box: QComboBox) -> QLineEdit:
    """The line that an editable box is typed into."""
    found = box.lineEdit()
    assert found is not None
    return found


def widgets_in(layout: QLayout) -> Iterator[QWidget]:
    """The widgets of a layout in their order; spaces are left out."""
    for number in range(layout.count()):
        item = layout.itemAt(number)
        widget = None if item is None else item.widget()
        if widget is not None:
            yield widget
