"""The sheet's Motion page: the moves on the layer, and all that the chosen one is tuned by.

Length, pieces, order, stagger, at once, curves, pivot; what moves, typing and sound fold away below.
"""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QToolButton, QVBoxLayout, QWidget

from rovix.desktop.document import Document
from rovix.desktop.sheet.curve_box import CurveBox
from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.mixed import ABSENT
from rovix.desktop.sheet.motion.beat_controls import BeatControls
from rovix.desktop.sheet.motion.channel_rows import ChannelRows
from rovix.desktop.sheet.motion.crossing_controls import CrossingControls
from rovix.desktop.sheet.motion.fold import Fold
from rovix.desktop.sheet.motion.move_page import MovePage
from rovix.desktop.sheet.motion.move_strip import Block, MoveStrip
from rovix.desktop.sheet.motion.pace_controls import PaceControls, ShortNote
from rovix.desktop.sheet.motion.reads_note import ReadsNote
from rovix.desktop.sheet.motion.sound_controls import SOUND_NAMES, SoundControls
from rovix.desktop.sheet.motion.typing_controls import TypingControls
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.parts import Rows, Segments, Tick
from rovix.desktop.theme import icon
from rovix.edit import set_move_length
from rovix.edit.moves import change_move, drop_move
from rovix.edit.stages import set_stage
from rovix.edit.tree import clip_of
from rovix.model import Clip, Move, PictureClip, Project
from rovix.model.clip_kinds import has_words, is_layer
from rovix.model.roles import ROLES
from rovix.motion import Scene
from rovix.motion.order import BY_PLACE, move_ranks
from rovix.motion.pace import asked_seconds, clip_spans
from rovix.motion.subject import subject_of

_PIECES = {"whole": "Whole", "lines": "Lines", "words": "Words", "letters": "Letters"}
_ORDERS = {
    "reading": "Reading", "reversed": "Reversed", "centre-out": "Centre out", "ends-in": "Ends in",
    "shuffled": "Shuffled", "from-point": "From a point", "to-point": "Towards a point",
}  # fmt: skip
_PIVOTS = {"piece": "Piece", "letter": "Letter", "line": "Line", "block": "Block"}
_EDGES = {"start": "end", "between": "", "end": "start"}
"""By the side of the clip that a role takes: which edge of its moves is free."""


class MotionPage(MovePage):
    """Tunes one of the selected layers' moves."""

    name = "Motion"
    rests_for = frozenset({"transform", "effects", "look"})
    tapping = Signal(str)

    def __init__(self, document: Document) -> None:
        super().__init__(document)
        self.strip = MoveStrip()
        self.strip.chosen.connect(document.tune)
        self.strip.removed.connect(self._take_off)
        self.strip.tried.connect(lambda frames: self._try(self._length_edit(frames)))
        self.strip.committed.connect(lambda frames: self._do("Change the length", self._length_edit(frames)))
        stage = lambda frame: self.of_move(lambda p, clip, move: set_stage(p, clip, move.id, frame))  # noqa: E731
        self.strip.stage_tried.connect(lambda frame: self._try(stage(frame)))
        self.strip.stage_committed.connect(lambda frame: self._do("Move a stage", stage(frame)))
        self._none = QLabel(
            "Nothing moves yet. Take an entrance, a loop or an exit from the cards on the right.",
            objectName="muted", wordWrap=True,
        )  # fmt: skip
        self._column.addWidget(self._none)
        self._column.addWidget(self._head())
        self._column.addWidget(self.strip)
        self.short = ShortNote(self)
        self._column.addWidget(self.short)
        self.reads = ReadsNote(document)
        self._column.addWidget(self.reads)
        self._tuning = QWidget()
        self._build(self._tuning)
        self._column.addWidget(self._tuning)
        self.crossing = CrossingControls(self)
        tip = "Through the whole frame at one speed: a crawl sideways, a roll up or down, as credits do."
        self.crossed = Fold("Crawl and roll", self.crossing, tip)
        self._column.addWidget(self.crossed)
        document.tuned_changed.connect(self.refresh)

    def _head(self) -> QWidget:
        """What the tuned move is called, how long it is, and off with it."""
        self._name, self._said = QLabel("", objectName="heading"), QLabel("", objectName="muted")
        self._off = QToolButton(
            objectName="small", toolTip="Take this move off the layer (Delete in the strip)."
        )
        self._off.setIcon(icon("close", "muted", 14))
        self._off.setAccessibleName("Take this move off")
        self._off.clicked.connect(lambda: self._take_off(self.tuned.id if self.tuned else ""))
        self._titles = QWidget()
        row = QHBoxLayout(self._titles)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self._name)
        row.addStretch(1)
        row.addWidget(self._said)
        row.addWidget(self._off)
        return self._titles

    def _build(self, whole: QWidget) -> None:
        # Long: the controls in the order in which they stand, a statement or two each.
        column = QVBoxLayout(whole)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(7)
        self._pieces = Segments(_PIECES, "Pieces")
        self._pieces.chosen.connect(lambda value: self._set("Change the pieces", pieces=value))
        self.show_each(lambda move: move.pieces, self._pieces.show_choice)
        column.addWidget(self._pieces)
        rows = Rows()
        self.pace = PaceControls(self, rows)
        self._length = self._bind(
            NumberField("Length", "s", 0.05, 2, low=0, high=3600), "Change the length", self._to_length,
            self.reading(lambda clip, move: self._length_of(clip, move)),
        )  # fmt: skip
        self._length_label = rows.add("Length", [self._length])
        self._beats = BeatControls(self, rows)
        self.pace.add_starts(rows, lambda: self.tapping.emit(self.tuned.id if self.tuned else ""))
        self.pace.add_stage(rows)
        self._order = self._combo("Order", "order", _ORDERS)
        self._seed = QPushButton("Again", objectName="link", toolTip="Shuffle again: another shuffled order.")
        self._seed.clicked.connect(
            lambda: self.give("Shuffle again", lambda move: {"order": "shuffled", "seed": move.seed + 2})
        )
        rows.add("Order", [self._order, self._seed])
        self._point = [self._point_field("Point across", 0), self._point_field("Point down", 1)]
        self._point_row = [rows.add("Point", list(self._point)), *self._point]
        self._stagger, self._at_once = self._dealing_fields()
        label = rows.add("Stagger", [self._stagger, self._at_once])
        self._dealing = [label, self._stagger, self._at_once]
        self._piece_curve = self._curve("Piece curve", "piece_curve")
        self._sequence_curve = self._curve("Order curve", "order_curve")
        rows.add("Piece", [self._piece_curve])
        rows.add("Order curve", [self._sequence_curve])
        self._pivot = self._combo("Pivot", "pivot", _PIVOTS)
        rows.add("Pivot", [self._pivot])
        tip = "A piece is not shown until it starts, or once it is done; off, it waits away."
        self._before = Tick("Hidden before it starts", tip)
        self._before.clicked.connect(
            lambda on: self._set("Change what waits", before="hidden" if on else "away")
        )
        self.show_each(lambda move: move.before == "hidden", self._before.show_ticked)
        rows.add("", [self._before])
        column.addWidget(rows)
        self._folds(column)

    def _folds(self, column: QVBoxLayout) -> None:
        self.channels = ChannelRows(self)
        typing, sounds = Rows(), Rows()
        self.typing = TypingControls(self, typing)
        self.typing.tap.clicked.connect(lambda: self.tapping.emit(self.tuned.id if self.tuned else ""))
        self.sound = SoundControls(self, sounds)
        tip = "The channels that the move changes on the way, and how far."
        self.moving = Fold("What moves", self.channels, tip)
        self.typed = Fold("Typing", typing, "Pieces in a rhythm, with a caret.")
        self.sounding = Fold("Sound", sounds, "A strike on each piece; a rush with the speed.")
        for fold in (self.moving, self.typed, self.sounding):
            fold.head.toggled.connect(lambda there: self.refresh() if there else None)
            column.addWidget(fold)

    def _combo(self, name: str, field: str, choices: dict[str, str]) -> DropDown:
        box = DropDown(accessibleName=name, toolTip=f"{name} of the pieces.")
        for value, text in choices.items():
            box.addItem(text, value)
        box.activated.connect(lambda _: self._set(f"Change the {name.lower()}", **{field: box.currentData()}))
        self.show_each(lambda move: getattr(move, field), box.show_data)
        return box

    def _curve(self, name: str, field: str) -> CurveBox:
        box = CurveBox(name)
        box.chosen.connect(lambda text: self._set(f"Change the {name.lower()}", **{field: text}))
        box.refused.connect(self._document.problem)
        box.text = lambda: self.clip
        self.show_each(lambda move: getattr(move, field), box.show_curve)
        return box

    def _point_field(self, name: str, axis: int) -> NumberField:
        field = NumberField(name, "%", 1, 1, factor=100)
        field.setToolTip(f"{name}, in % of the layer's block; what is nearest to the point sets off first.")

        def change(move: Move, value: float) -> dict[str, Any]:
            point = list(move.point)
            point[axis] = value
            return {"point": (point[0], point[1])}

        return self.number(field, "Change the point", lambda move: move.point[axis], change)

    def _dealing_fields(self) -> tuple[NumberField, NumberField]:
        """Stagger and at once: two ways to say how the pieces share the length."""
        rate = lambda: self._document.rate  # noqa: E731
        stagger = NumberField("Stagger", "f", 0.1, 1, low=0)
        at_once = NumberField("At once", "at once", 0.1, 1, low=0, high=100000)
        self._bind(
            stagger,
            "Change the stagger",
            lambda p, clip, value: self.changing(
                lambda _: {"stagger": float(value / rate().fraction)}
            )(p, clip),
            self.reading(lambda clip, move: self._dealt(clip, move)[0]),
        )  # fmt: skip
        self._bind(
            at_once,
            "Change how many move at once",
            lambda p, clip, value: self.changing(lambda _: {"at_once": value, "stagger": None})(p, clip),
            self.reading(lambda clip, move: self._dealt(clip, move)[1]),
        )
        return stagger, at_once

    def open_crossing(self) -> None:
        """Show how the layers cross the frame."""
        self.crossed.open()

    # Changing

    def _length_of(self, clip: Clip, move: Move) -> Any:
        return asked_seconds(clip, move, self._document.rate) if is_layer(clip) else ABSENT

    def _to_length(self, project: Project, identity: str, value: float) -> Project:
        """Set a length in seconds: a move by pace goes as much faster or slower."""
        move = self.move_in(clip_of(project, identity))
        if move.pace is None or move.beats_on:
            return change_move(project, identity, move.id, length=value)
        return set_move_length(project, identity, move.id, project.sequence.frame_rate.frames(value))

    def _set(self, title: str, **changes: Any) -> None:
        self.give(title, lambda _: changes)

    def _length_edit(self, frames: int) -> Any:
        return self.of_move(lambda project, clip, move: set_move_length(project, clip, move.id, frames))

    def _take_off(self, identity: str) -> None:
        self._document.tune(identity)
        self._do("Take a move off", self.of_move(_without))

    # Showing

    def show_clip(self, clip: Clip) -> None:
        self.reads.show_clip(clip)
        if is_layer(clip):
            self.crossing.show_clip(clip)
            self.crossed.say(self.crossing.summary(clip.crossing))
        move = self.tuned
        self._none.setVisible(move is None)
        for widget in (self._titles, self.strip, self._tuning):
            widget.setVisible(move is not None)
        if move is None or not is_layer(clip):
            self.short.hide()
            return
        self._name.setText(move.name or move.role.capitalize())
        self._said.setText(said_of(self._document, clip, move))
        self.short.show_clip(clip)
        self.strip.show_moves(self._blocks(clip), move.id, clip.length)
        self._show_rows(clip, move)
        self._show_folds(clip, move)

    def _blocks(self, clip: PictureClip) -> list[Block]:
        rate = self._document.rate
        spans = clip_spans(clip, rate)
        return [
            Block(move.id, move.name or move.role.capitalize(), move.role, spans.start(move, rate),
                  spans.frames(move, rate), _EDGES[ROLES[move.role].side])
            for move in sorted(clip.moves, key=lambda move: list(ROLES).index(move.role))
        ]  # fmt: skip

    def _show_rows(self, clip: PictureClip, move: Move) -> None:
        looping = move.beats_on
        self._pieces.set_role(move.role)
        self._length_label.setText("One beat" if looping else "Length")
        self._beats.setVisible(looping)
        self._beats.show_beats(move.beats)
        # A loop's pieces follow by their phase.
        self._before.setVisible(not looping and move.typing is None)
        for widget in self._dealing:
            widget.setVisible(not looping and move.typing is None and move.pace is None)
        self.pace.show_move(clip, move)
        self._seed.setVisible(move.order == "shuffled")
        for widget in self._point_row:
            widget.setVisible(move.order in BY_PLACE)
        several = move.pieces != "whole" and has_words(clip)
        for widget in (self._stagger, self._at_once, self._order, self._sequence_curve, self._beats.phase):
            widget.setEnabled(several)

    def _show_folds(self, clip: PictureClip, move: Move) -> None:
        self.channels.show_move(move)
        count = len(move.channels)
        self.moving.say(f"{count} channel{'' if count == 1 else 's'}" if count else "nothing")
        self.typed.setVisible(not move.beats_on and has_words(clip))
        self.typing.show_typing(move.typing, move.pieces != "whole")
        self.typed.say(move.typing.rhythm if move.typing else "off")
        self.sound.show_move(move, self._document.whole.media)
        sounds = [
            said.lower().removeprefix("sound ") for field, said in SOUND_NAMES.items() if getattr(move, field)
        ]
        self.sounding.say(", ".join(sounds) or "silent")

    def _dealt(self, clip: Clip, move: Move) -> tuple[Any, Any]:
        """Frames from one piece to the next, and how many are in motion at once."""
        if not is_layer(clip) or move.beats_on:
            return ABSENT, ABSENT
        rate, last = self._document.rate, 0
        frames = clip_spans(clip, rate).frames(move, rate)
        if has_words(clip):
            subject = subject_of(clip, self._document.project.sequence.size)
            order = move_ranks(move, subject.owners(move.pieces)[1], subject.places(move))
            last = int(order.max(initial=0))
        if move.stagger is None:
            stagger = frames / (last + move.at_once) if last + move.at_once else 0.0
            return round(stagger, 3), round(move.at_once, 3)
        stagger = float(rate.position(move.stagger))
        return round(stagger, 3), round(max(0.0, frames / stagger - last) if stagger else 0.0, 3)


def _without(project: Project, clip: str, move: Move) -> Project:
    return drop_move(project, clip, move.id)


def said_of(document: Document, clip: PictureClip, move: Move) -> str:
    """How long a move is; of a loop how many beats of which length."""
    rate = document.rate
    if move.beats_on:
        beats = Scene.of(document.project).motion(clip).timings[clip.moves.index(move)].beats
        assert beats is not None
        number, seconds = beats.length / beats.beat, beats.beat / float(rate.fraction)
        return f"{number:.{0 if move.beats.fitted else 1}f} × {seconds:.2f} s"
    spans = clip_spans(clip, rate)
    frames = spans.frames(move, rate)
    shrunk = ", cut to fit" if spans.shrunk else ""
    return f"{float(rate.seconds(frames)):.2f} s · {frames} f{shrunk}"
