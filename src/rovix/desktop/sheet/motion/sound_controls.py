"""The controls of a move's sounds: a strike on each piece, a rush that follows the speed."""

from __future__ import annotations

from functools import partial
from typing import Any

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QComboBox, QPushButton, QWidget

from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.motion.move_page import MovePage
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.parts import Rows, Segments
from rovix.edit.tree import replace
from rovix.media.sound_names import PIECE_SOUNDS, SPEED_SOUNDS
from rovix.model import Media, Move, PieceSound, SpeedSound

_AT = {"start": "As it starts", "landing": "As it lands"}


SOUND_NAMES = {"piece_sound": "Sound on each piece", "speed_sound": "Sound with the speed"}
"""What the sounds of a move are called, by its field."""


class SoundControls(QObject):
    """Rows that show and set how the move that is tuned sounds."""

    def __init__(self, page: MovePage, rows: Rows) -> None:
        # Long: the controls in the order in which they stand, a statement or two each.
        super().__init__(rows)
        self._page = page
        self.piece_sound = DropDown(
            accessibleName="Sound on each piece", toolTip="A sound on each piece of the move."
        )
        self.piece_sound.activated.connect(
            lambda _: self._choose("piece_sound", PieceSound, self.piece_sound)
        )
        self._at = Segments(_AT, "Sounds")
        self._at.chosen.connect(lambda value: self._give("piece_sound", "Change when it sounds", at=value))
        page.show_each(lambda move: move.piece_sound.at, self._at.show_choice)
        self._gain = self._number("piece_sound", "Gain", "dB", "gain", -120, 60, "How loud, 0 dB as it is.")
        self._level = self._number(
            "piece_sound", "Level ±", "dB", "level_spread", 0, 60, "How far levels are apart at most."
        )
        self._pitch = self._number(
            "piece_sound",
            "Pitch ±",
            "st",
            "pitch_spread",
            0,
            24,
            "Semitones that pitches go up or down at most.",
        )
        self._again = QPushButton(
            "New variation", objectName="link", toolTip="Other levels and pitches, by the next seed."
        )
        self._again.clicked.connect(self._draw_again)
        self.speed_sound = DropDown(
            accessibleName="Sound with the speed",
            toolTip="A sound as loud as the move is fast; it ends with it.",
        )
        self.speed_sound.activated.connect(
            lambda _: self._choose("speed_sound", SpeedSound, self.speed_sound)
        )
        self._loud = self._number(
            "speed_sound", "Gain", "dB", "gain", -120, 60, "How loud it is where the move is fastest."
        )
        rows.add("On each piece", [self.piece_sound])
        parts: dict[str, list[QWidget]] = {
            "Sounds": [self._at],
            "Levels": [self._gain, self._level],
            "Pitches": [self._pitch, self._again],
        }
        for name, box in (("piece_sound", self.piece_sound), ("speed_sound", self.speed_sound)):
            page.show_each(partial(_sound_of, name), box.show_data)
        self._struck = [w for name, fields in parts.items() for w in (rows.add(name, fields), *fields)]
        rows.add("With the speed", [self.speed_sound])
        self._rushing = [rows.add("Loud", [self._loud]), self._loud]

    def show_move(self, move: Move, media: tuple[Media, ...]) -> None:
        """Offer the project's files beside our own sounds; show the rows that the leading move has."""
        files = {item.id: item.title for item in media if item.kind == "sound" or item.has_sound}
        _fill(self.piece_sound, {"": "None"} | PIECE_SOUNDS | files)
        _fill(self.speed_sound, {"": "None"} | SPEED_SOUNDS | files)
        for widget in self._struck:
            widget.setVisible(move.piece_sound is not None)
        for widget in self._rushing:
            widget.setVisible(move.speed_sound is not None)

    def _choose(self, part: str, kind: Any, box: QComboBox) -> None:
        name = box.currentData()

        def change(move: Move) -> dict[str, Any]:
            return {part: replace(getattr(move, part) or kind(), sound=name) if name else None}

        self._page.give(f"{SOUND_NAMES[part]}: {box.currentText().lower()}", change)

    def _draw_again(self) -> None:
        def change(move: Move) -> dict[str, Any]:
            own = move.piece_sound
            return {"piece_sound": replace(own, seed=own.seed + 1)} if own else {}

        self._page.give("New variation of the sounds", change)

    def _number(
        self, part: str, name: str, unit: str, field: str, low: float, high: float, tip: str
    ) -> NumberField:
        made = NumberField(name, unit, 0.5, 1, low=low, high=high)
        made.setToolTip(f"{name}. {tip}")
        return self._page.number(
            made,
            f"{SOUND_NAMES[part]}: {name.rstrip(' ±').lower()}",
            lambda move: float(getattr(getattr(move, part), field)),
            lambda move, value: _with(move, part, **{field: value}),
        )

    def _give(self, part: str, title: str, **changes: Any) -> None:
        self._page.give(title, lambda move: _with(move, part, **changes))


def _sound_of(part: str, move: Move) -> str:
    own = getattr(move, part)
    return own.sound if own else ""


def _with(move: Move, part: str, **changes: Any) -> dict[str, Any]:
    """A sound of the move with fields changed, where it has it."""
    own = getattr(move, part)
    return {} if own is None else {part: replace(own, **changes)}


def _fill(box: QComboBox, choices: dict[str, str]) -> None:
    known = [box.itemData(n) for n in range(box.count())]
    if known != list(choices):
        box.clear()
        for value, said in choices.items():
            box.addItem(said, value)
