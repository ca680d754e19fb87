"""Messages over the viewer: what, why, what next. They block nothing."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QEvent, QRectF, Qt, QTimer
from PySide6.QtGui import QEnterEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from rovix.desktop.qt import parent_of, widgets_in
from rovix.desktop.theme import colour

_LEAST, _LETTER = 4000, 70  # ms that a message stays, and more for each of its letters


class Message(QFrame):
    """A strip with a title, a reason and choices; a problem has a brick edge."""

    def __init__(
        self,
        title: str,
        text: str,
        choices: dict[str, Callable[[], None]],
        problem: bool,
        stays: bool = True,
    ) -> None:
        super().__init__(objectName="panel")
        self._problem = problem
        self.stays = stays
        # Long enough to be read twice; while the mouse is on it the time does not run out.
        self._time = QTimer(self, singleShot=True, interval=_LEAST + _LETTER * len(title + text))
        self._time.timeout.connect(lambda: self._take(lambda: None))
        if not stays:
            self._time.start()
        self.setAccessibleName(f"{title}. {text}")
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 9, 12, 9)
        column.setSpacing(3)
        column.addWidget(QLabel(title, objectName="heading", wordWrap=True))
        self._text = QLabel(text, objectName="muted", wordWrap=True)
        column.addWidget(self._text)
        # Shown before it has a place it would be a window of its own, and take the keyboard.
        self._text.setVisible(bool(text))
        row = QHBoxLayout()
        for said, run in choices.items():
            button = QPushButton(said, objectName="link")
            button.clicked.connect(lambda _=False, r=run: self._take(r))
            row.addWidget(button)
        row.addStretch(1)
        column.addLayout(row)

    def say(self, text: str) -> None:
        """Say something else below the title, such as how far something is."""
        self._text.setText(text)

    def _take(self, run: Callable[[], None]) -> None:
        self.hide()
        self.deleteLater()
        run()

    def enterEvent(self, event: QEnterEvent) -> None:
        self._time.stop()
        super().enterEvent(event)

    def leaveEvent(self, event: QEvent) -> None:
        if not self.stays:
            self._time.start()
        super().leaveEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        painter = QPainter(self)
        painter.fillRect(4, 8, 3, self.height() - 16, colour("problem" if self._problem else "accent"))
        painter.end()


class Messages(QWidget):
    """The place of messages at the top of the viewer; the newest on top, at most three."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(6)
        self.avoids: Callable[[], QRectF | None] = lambda: None
        """What of the parent is to stay in view."""
        self.setAttribute(Qt.WidgetAttribute.WA_NoSystemBackground)
        self.hide()

    def problem(self, text: str) -> Message:
        """Say what went wrong. Several lines: the last is the sentence, the others its reasons."""
        return self._said(text, True)

    def notice(self, text: str) -> Message:
        """Say what else was done, in lines as of :meth:`problem`."""
        return self._said(text, False)

    def _said(self, text: str, problem: bool) -> Message:
        lines = text.strip().split("\n")
        title, detail = lines[-1], "\n".join(lines[:-1][:4])
        return self._add(Message(title, detail, {"Close": lambda: None}, problem, stays=False))

    def forget(self) -> None:
        """Take away what was said of what is there no longer; offers stay."""
        for message in list(widgets_in(self._column)):
            if isinstance(message, Message) and not message.stays:
                self._take(message)

    def offer(self, title: str, text: str, choices: dict[str, Callable[[], None]]) -> Message:
        """Offer choices; they stay until one is taken."""
        return self._add(Message(title, text, choices, False))

    def refusal(self, title: str, text: str, choices: dict[str, Callable[[], None]]) -> Message:
        """Say what went wrong, with more to ask for."""
        return self._add(Message(title, text, {**choices, "Close": lambda: None}, True))

    def remove(self, message: object) -> None:
        """Take a message away whose time is over; one that was answered has gone already."""
        for widget in widgets_in(self._column):
            if widget is message:
                self._take(widget)
                return

    def _take(self, widget: QWidget) -> None:
        self._column.removeWidget(widget)
        widget.hide()
        widget.deleteLater()

    def _add(self, message: Message) -> Message:
        for old in list(widgets_in(self._column))[2:]:
            self._take(old)
        self._column.insertWidget(0, message)
        message.destroyed.connect(lambda: QTimer.singleShot(0, self._settle))
        self._settle()
        return message

    def _settle(self) -> None:
        try:
            self.setVisible(self._column.count() > 0)
            self.place()
        except RuntimeError:
            return  # the window has gone already

    def place(self) -> None:
        """Along the top of the parent."""
        parent = parent_of(self)
        width = min(520, parent.width() - 24)
        height = 0
        for message in widgets_in(self._column):
            # Wrapped text is as high as its width makes it; the layout has to be asked for that width.
            tall = max(40, message.heightForWidth(width))
            message.setFixedSize(width, tall)
            height += tall + self._column.spacing()
        self.setFixedSize(width, max(1, height))
        left, top = (parent.width() - width) // 2, 12
        kept_free = self.avoids()
        # The words that are worked on stay in view: over them, messages stand at the bottom.
        if kept_free is not None and kept_free.intersects(QRectF(left, top, width, height)):
            top = parent.height() - height - 12
        self.move(left, top)
        self.raise_()
