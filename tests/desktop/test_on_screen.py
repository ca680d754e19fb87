"""The window and its frame stay on the screen."""

import pytest
from PySide6.QtCore import QMargins, QPoint, QRect, QSize
from PySide6.QtWidgets import QWidget

from rovix.desktop.on_screen import fitted, keep_on_screen
from waiting import wait_for

SCREEN = QRect(0, 0, 1280, 800)
FRAME = QMargins(4, 28, 4, 4)


@pytest.mark.parametrize(
    ("outer", "available", "place", "inner"),
    [
        # The title bar made it taller than the screen.
        (QRect(0, 0, 1288, 832), SCREEN, (0, 0), (1272, 768)),
        # A panel takes the top 30 px.
        (QRect(0, 0, 1000, 832), QRect(0, 30, 1280, 770), (0, 30), (992, 738)),
        # Small enough, but over the lower right edge.
        (QRect(900, 500, 608, 432), SCREEN, (672, 368), (600, 400)),
        # A second screen to the left of the first.
        (QRect(-1400, 0, 608, 432), QRect(-1280, 0, 1280, 800), (-1280, 0), (600, 400)),
    ],
)
def test_it_is_no_larger_than_what_is_available_and_lies_in_it(outer, available, place, inner):
    where, size = fitted(outer, FRAME, available)
    assert where == QPoint(*place)
    assert size.size() == QSize(*inner)
    assert available.contains(QRect(where, size.marginsAdded(FRAME).size()))


class Framed(QWidget):
    """A window round which a manager puts a frame."""

    def frameGeometry(self):  # noqa: N802 - Qt's name
        return self.geometry().marginsAdded(FRAME)

    def move(self, place):
        self.setGeometry(QRect(place + QPoint(FRAME.left(), FRAME.top()), self.size()))


def test_a_window_shown_too_tall_is_fitted(qapp):
    window = Framed()
    available = window.screen().availableGeometry()
    window.resize(available.width(), available.height())
    window.show()
    keep_on_screen(window)
    assert wait_for(lambda: available.contains(window.frameGeometry()), 5_000)
    window.hide()


def test_the_main_window_can_be_as_low_as_a_small_screen(window):
    assert window.minimumSizeHint().height() <= 720
