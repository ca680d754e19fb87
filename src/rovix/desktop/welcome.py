"""The strip of the first run: what one can begin with."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame


class Welcome(QFrame):
    """Offers New, Open, the demo and the projects opened last; goes away when one is taken."""

    def __init__(self, window: Frame) -> None:
        super().__init__(objectName="panel")
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 6, 10, 6)
        row.setSpacing(8)
        row.addWidget(QLabel("Welcome. This is the demo: change anything, or begin with", objectName="muted"))
        for text, command in (("a new project", "new"), ("a project of yours", "open")):
            button = QPushButton(text, objectName="link")
            button.clicked.connect(lambda _=False, c=command: window.run(c))
            row.addWidget(button)
        for path in window.files.recent()[:3]:
            button = QPushButton(path.stem, objectName="link", toolTip=str(path))
            button.clicked.connect(
                lambda _=False, p=path: window.files.may_leave() and window.files.open_path(p)
            )
            row.addWidget(button)
        row.addStretch(1)
        close = QPushButton("Close", objectName="link", toolTip="Put this strip away.")
        close.clicked.connect(self.hide)
        row.addWidget(close)
        window.document.opened.connect(self.hide)
