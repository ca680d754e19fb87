"""The controls of a move's sounds: a strike on each piece, a rush that follows the speed."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QComboBox, QPushButton, QWidget

from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.parts import Rows, Segments
from rovix.edit.tree import replace
from rovix.media.own_sounds import PIECE_SOUNDS, SPEED_SOUNDS
from rovix.model import Media, Move, PieceSound, SpeedSound

_AT = {"start": "As it starts", "landing": "As it lands"}


SOUND_NAMES = {"piece_sound": "Sound on each piece", "speed_sound": "Sound with the speed"}
"""What the sounds of a move are called, by its field."""


class SoundControls(QObject):
    """Rows that show how a move sounds and say what that is to become."""

    tried = Signal(object)
    committed = Signal(str, object)
    dropped = Signal()

    def __init__(self, rows: Rows) -> None:
        # Long: the controls in the order in which they stand, a statement or two each.
        super().__init__(rows)
        self._move: Move | None = None
        self.piece_sound = DropDown(
            accessibleName="Sound on each piece", toolTip="A sound on each piece of the move."
        )
        self.piece_sound.activated.connect(
            lambda _: self._choose("piece_sound", PieceSound, self.piece_sound)
        )
        self._at = Segments(_AT, "Sounds")
        self._at.chosen.connect(lambda value: self._give("piece_sound", "Change when it sounds", at=value))
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
        self._struck = [w for name, fields in parts.items() for w in (rows.add(name, fields), *fields)]
        rows.add("With the speed", [self.speed_sound])
        self._rushing = [rows.add("Loud", [self._loud]), self._loud]

    def show_move(self, move: Move, media: tuple[Media, ...]) -> None:
        """Show a move's sounds, with the project's files to choose from."""
        self._move = move
        files = {item.id: item.title for item in media if item.kind == "sound" or item.has_sound}
        _fill(
            self.piece_sound,
            {"": "None"} | PIECE_SOUNDS | files,
            move.piece_sound.sound if move.piece_sound else "",
        )
        _fill(
            self.speed_sound,
            {"": "None"} | SPEED_SOUNDS | files,
            move.speed_sound.sound if move.speed_sound else "",
        )
        for widget in self._struck:
            widget.setVisible(move.piece_sound is not None)
        for widget in self._rushing:
            widget.setVisible(move.speed_sound is not None)
        if move.piece_sound is not None:
            self._at.show_choice(move.piece_sound.at)
            self._gain.show_value(move.piece_sound.gain)
            self._level.show_value(move.piece_sound.level_spread)
            self._pitch.show_value(move.piece_sound.pitch_spread)
        if move.speed_sound is not None:
            self._loud.show_value(move.speed_sound.gain)

    def _choose(self, part: str, kind: Any, box: QComboBox) -> None:
        name = box.currentData()
        own = getattr(self._move, part) or kind()
        made = replace(own, sound=name) if name else None
        self.committed.emit(f"{SOUND_NAMES[part]}: {box.currentText().lower()}", {part: made})

    def _draw_again(self) -> None:
        if self._move is not None and self._move.piece_sound is not None:
            self._give("piece_sound", "New variation of the sounds", seed=self._move.piece_sound.seed + 1)

    def _number(
        self, part: str, name: str, unit: str, field: str, low: float, high: float, tip: str
    ) -> NumberField:
        made = NumberField(name, unit, 0.5, 1, low=low, high=high)
        made.setToolTip(f"{name}. {tip}")
        made.tried.connect(lambda value: self.tried.emit(self._with(part, **{field: value})))
        made.committed.connect(
            lambda value: self._give(
                part, f"{SOUND_NAMES[part]}: {name.rstrip(' ±').lower()}", **{field: value}
            )
        )
        made.dropped.connect(self.dropped)
        return made

    def _with(self, part: str, **changes: Any) -> dict[str, Any]:
        return {part: replace(getattr(self._move, part), **changes)}

    def _give(self, part: str, title: str, **changes: Any) -> None:
        self.committed.emit(title, self._with(part, **changes))


def _fill(box: QComboBox, choices: dict[str, str], chosen: str) -> None:
    known = [box.itemData(n) for n in range(box.count())]
    if known != list(choices):
        box.clear()
        for value, said in choices.items():
            box.addItem(said, value)
    box.setCurrentIndex(box.findData(chosen))
