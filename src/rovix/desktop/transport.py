"""The bar under the picture: timecode, transport, rehearse, view toggles."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QSize
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QToolButton, QWidget

from rovix.desktop.rehearsal import rehearsed_part
from rovix.desktop.theme import font, icon
from rovix.desktop.time_field import TimeField
from rovix.model.clip_kinds import is_layer

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame


class Transport(QWidget):
    """Shows where the playhead is, and plays."""

    def __init__(self, window: Frame) -> None:
        # Long: the controls in the order in which they stand, a statement or two each.
        super().__init__()
        self._window = window
        self._time = TimeField(window)
        self._layer = QLabel("", objectName="muted", toolTip="The playhead as a frame of the selected layer.")
        self._start = self._tool("to-start", "To the start (Home)", "to-start")
        self._end = self._tool("to-end", "To the end (End)", "to-end")
        self._play = QToolButton(accessibleName="Play", toolTip="Play or pause (Space).")
        self._play.setIconSize(QSize(20, 20))
        self._play.setFixedSize(32, 32)
        self._play.setStyleSheet(_round_button())
        self._play.clicked.connect(lambda: window.run("play"))
        self._rehearse = QPushButton(
            "Rehearse", toolTip="Play the move under the playhead again and again (R)."
        )
        self._rehearse.clicked.connect(lambda: window.run("rehearse"))
        self._zoom = QPushButton(
            "", objectName="toggle", toolTip="Fit the picture (F). Wheel zooms, middle drag pans."
        )
        self._zoom.clicked.connect(lambda: window.run("fit"))
        self.safe = self._toggle("Safe", "Safe areas: action 93 %, words 90 % (Alt+S).", "safe")
        self.ghost = self._toggle("Ghost", "Rest ghost: an outline where hidden words rest (G).", "ghost")
        row = QHBoxLayout(self)
        # The bar itself decides what is left out when it is narrow.
        row.setSizeConstraint(QHBoxLayout.SizeConstraint.SetNoConstraint)
        row.setContentsMargins(12, 3, 10, 5)
        row.setSpacing(6)
        row.addWidget(self._time)
        row.addWidget(self._layer)
        row.addStretch(1)
        for widget in (self._start, self._play, self._end):
            row.addWidget(widget)
        row.addSpacing(4)
        row.addWidget(self._rehearse)
        row.addStretch(1)
        toggles = (self._zoom, self.safe, self.ghost)
        for toggle in toggles:
            row.addWidget(toggle)
        self._parts = (self._time, self._layer, self._start, self._play, self._end, self._rehearse, *toggles)
        document = window.document
        document.playhead_moved.connect(lambda _: self.refresh())
        document.project_changed.connect(self.refresh)
        document.selection_changed.connect(self.refresh)
        self.show_playing(False)
        # The bar never changes its height, or the picture above it would jump.
        self.setFixedHeight(max(40, round(3.2 * font().pixelSize())))

    def begin_typing(self) -> None:
        """Type the frame or time to go to."""
        self._time.begin_typing()

    def minimumSizeHint(self) -> QSize:
        return QSize(220, super().minimumSizeHint().height())

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._fit_parts()

    def _fit_parts(self) -> None:
        """Where there is no room, leave out what the menus and the layer's own views say too."""
        left_out: list[QWidget] = []
        for widget in (self._layer, self._zoom, self.ghost, self.safe, self._end, self._start):
            if self._needed(left_out) <= self.width():
                break
            left_out.append(widget)
        for part in self._parts:
            # Only what changes is touched: each change lays the bar out anew.
            if part.isHidden() != (part in left_out):
                part.setVisible(part not in left_out)

    def _needed(self, left_out: list[QWidget]) -> int:
        """Px that the other parts need side by side."""
        shown = [part for part in self._parts if part not in left_out]
        return sum(part.sizeHint().width() for part in shown) + 6 * len(shown) + 46

    def _tool(self, picture: str, tip: str, command: str) -> QToolButton:
        button = QToolButton(toolTip=tip, accessibleName=tip.split(" (")[0])
        button.setIcon(icon(picture, "muted"))
        button.clicked.connect(lambda: self._window.run(command))
        return button

    def _toggle(self, text: str, tip: str, command: str) -> QPushButton:
        button = QPushButton(text, objectName="toggle", checkable=True, toolTip=tip)
        button.clicked.connect(lambda: self._window.run(command))
        return button

    def show_playing(self, playing: bool) -> None:
        self._play.setIcon(icon("pause" if playing else "play", "on_accent", 20))
        self._play.setAccessibleName("Pause" if playing else "Play")

    def show_zoom(self, scale: float) -> None:
        self._zoom.setText(f"Fit {scale * 100:.0f} %")
        self._fit_parts()

    def refresh(self) -> None:
        document = self._window.document
        self._time.show_frame(document.playhead)
        if document.playing:
            return
        clip = document.clip
        inside = clip is not None and document.playhead in clip.span
        layer = f"layer frame {document.playhead - clip.start}" if clip is not None and inside else ""
        self._rehearse.setEnabled(is_layer(clip))
        part = rehearsed_part(document)
        rehearse = f"Rehearse {part}" if part else "Rehearse"
        if (self._layer.text(), self._rehearse.text()) != (layer, rehearse):
            self._layer.setText(layer)
            self._rehearse.setText(rehearse)
            self._fit_parts()


def _round_button() -> str:
    from rovix.desktop.theme import DARK

    return (
        f"QToolButton {{ background: {DARK.accent}; border-radius: 16px; padding: 0;"
        " border: 2px solid transparent; }"
        f"QToolButton:focus {{ border-color: {DARK.text}; }}"
    )
