"""The controls of the layer's move: length, pieces, order, stagger, at once, curves, pivot; what moves,
typing and sound fold away below."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QCheckBox, QComboBox, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from rovix.desktop.document import Document
from rovix.desktop.sheet.curve_box import CurveBox
from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.parts import Rows, Segments
from rovix.desktop.shelf.beat_controls import BeatControls
from rovix.desktop.shelf.channel_rows import ChannelRows
from rovix.desktop.shelf.fold import Fold
from rovix.desktop.shelf.sound_controls import SOUND_NAMES, SoundControls
from rovix.desktop.shelf.stack_row import StackRow
from rovix.desktop.shelf.typing_controls import TypingControls
from rovix.desktop.theme import colour
from rovix.edit import change_move, move_of, set_move_length
from rovix.edit.arrange import last_line_to_mid_height
from rovix.edit.moves import drop_move, moves_of
from rovix.model import Clip, Move, PictureClip
from rovix.model.clip_kinds import has_words, is_layer
from rovix.motion import Scene
from rovix.motion.order import BY_PLACE, move_ranks
from rovix.motion.spans import move_spans
from rovix.motion.subject import subject_of

_PIECES = {"whole": "Whole", "lines": "Lines", "words": "Words", "letters": "Letters"}
_ORDERS = {
    "reading": "Reading", "reversed": "Reversed", "centre-out": "Centre out", "ends-in": "Ends in",
    "shuffled": "Shuffled", "from-point": "From a point", "to-point": "Towards a point",
}  # fmt: skip
_PIVOTS = {"piece": "Piece", "letter": "Letter", "line": "Line", "block": "Block"}


class LengthBar(QWidget):
    """A move's length drawn against its clip; drag to set it."""

    tried = Signal(int)
    committed = Signal(int)

    def __init__(self) -> None:
        super().__init__()
        self._frames, self._clip, self._role = 0, 1, "entrance"
        self._held = False
        self.setFixedHeight(16)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.SizeHorCursor)
        self.setAccessibleName("Length against the clip")
        self.setToolTip(
            "The move's length in frames, drawn against the whole clip. Drag, or use the arrow keys."
        )

    def sizeHint(self) -> QSize:
        return QSize(200, 16)

    def show_length(self, frames: int, clip: int, role: str) -> None:
        self._frames, self._clip, self._role = frames, max(1, clip), role
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(Qt.PenStyle.NoPen)
        bar = QRectF(self.rect()).adjusted(5, 4, -5, -4)
        painter.setBrush(colour("lifted"))
        painter.drawRoundedRect(bar, 4, 4)
        width = bar.width() * min(1.0, self._frames / self._clip)
        left = bar.right() - width if self._role == "exit" else bar.left()
        painter.setBrush(colour(self._role))
        painter.drawRoundedRect(QRectF(left, bar.top(), width, bar.height()), 4, 4)
        painter.setBrush(colour("accent" if self.hasFocus() else "text"))
        edge = left if self._role == "exit" else left + width
        painter.drawEllipse(QRectF(edge - 5, bar.center().y() - 5, 10, 10))
        painter.end()

    def _frames_at(self, event: QMouseEvent) -> int:
        share = (event.position().x() - 5) / max(1, self.width() - 10)
        share = 1 - share if self._role == "exit" else share
        return max(0, round(min(1.0, share) * self._clip))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._held = True
        self.tried.emit(self._frames_at(event))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held:
            self.tried.emit(self._frames_at(event))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        held, self._held = self._held, False
        if held:
            self.committed.emit(self._frames_at(event))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        steps = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1, Qt.Key.Key_Down: -1, Qt.Key.Key_Up: 1}
        if event.key() in steps:
            self.committed.emit(max(0, self._frames + steps[Qt.Key(event.key())]))
        elif event.key() == Qt.Key.Key_Escape:
            self._held = False
            event.ignore()  # the window drops the draft
        else:
            super().keyPressEvent(event)


class MoveControls(QWidget):
    """Tunes one of the selected layer's moves of a role: the last, or the one chosen among several."""

    tapping = Signal(str)

    def __init__(self, document: Document) -> None:
        # Long: the controls in the order in which they stand, a statement or two each.
        super().__init__()
        self._document, self._role = document, "entrance"
        self.which = "entrance"
        self.stack = StackRow()
        self.stack.chosen.connect(self._tune)
        self.stack.removed.connect(self._take_off)
        self.channels = ChannelRows(document)
        self._name = QLabel("", objectName="heading")
        self._said = QLabel("", objectName="muted")
        self._bar = LengthBar()
        self._bar.tried.connect(lambda n: self._document.try_on(self._length_edit(n)))
        self._bar.committed.connect(lambda n: self._document.do("Change the length", self._length_edit(n)))
        self._length = NumberField("Length", "s", 0.05, 2, low=0, high=3600)
        self._connect(self._length, "Change the length", "length")
        self._pieces = Segments(_PIECES, "Pieces")
        self._pieces.chosen.connect(lambda value: self._set("Change the pieces", pieces=value))
        self._order = _combo("Order", _ORDERS, lambda value: self._set("Change the order", order=value))
        self._pivot = _combo("Pivot", _PIVOTS, lambda value: self._set("Change the pivot", pivot=value))
        self._stagger = NumberField("Stagger", "f", 0.1, 1, low=0)
        self._stagger.tried.connect(lambda v: self._document.try_on(self._stagger_edit(v)))
        self._stagger.committed.connect(
            lambda v: self._document.do("Change the stagger", self._stagger_edit(v))
        )
        self._at_once = NumberField("At once", "", 0.1, 1, low=0, high=100000)
        self._at_once.tried.connect(lambda v: self._document.try_on(self._edit(at_once=v, stagger=None)))
        self._at_once.committed.connect(
            lambda v: self._set("Change how many move at once", at_once=v, stagger=None)
        )
        self._seed = QPushButton("Shuffle again", objectName="link", toolTip="Another shuffled order.")
        self._seed.clicked.connect(self._shuffle)
        self._point = [self._point_field("Point across", 0), self._point_field("Point down", 1)]
        self._piece_curve = CurveBox("Piece curve")
        self._piece_curve.chosen.connect(lambda text: self._set("Change the piece curve", piece_curve=text))
        self._sequence_curve = CurveBox("Order curve")
        self._sequence_curve.chosen.connect(
            lambda text: self._set("Change the order curve", order_curve=text)
        )
        for box in (self._piece_curve, self._sequence_curve):
            box.refused.connect(document.problem)
            box.text = lambda: document.clip
        self._build()

    def _build(self) -> None:
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(7)
        head = QHBoxLayout()
        head.addWidget(self._name)
        head.addStretch(1)
        head.addWidget(self._said)
        column.addLayout(head)
        column.addWidget(self.stack)
        column.addWidget(self._bar)
        column.addWidget(self._pieces)
        rows = Rows()
        self._length_label = rows.add("Length", [self._length])
        self._beats = self._beats_in(rows)
        rows.add("Order", [self._order, self._seed])
        self._point_row = [rows.add("Point", list(self._point)), *self._point]
        stagger, at_once = rows.add("Stagger", [self._stagger]), rows.add("At once", [self._at_once])
        self._dealing = [stagger, self._stagger, at_once, self._at_once]
        rows.add("Piece", [self._piece_curve])
        rows.add("Order curve", [self._sequence_curve])
        rows.add("Pivot", [self._pivot])
        self._before = QCheckBox("Hidden before it starts")
        self._before.setToolTip(
            "A piece is not shown until it starts, or once it is done; off, it waits away."
        )
        self._before.clicked.connect(
            lambda on: self._set("Change what waits", before="hidden" if on else "away")
        )
        rows.add("", [self._before])
        column.addWidget(rows)
        tip = "The channels that the move changes on the way, and how far."
        self.moving = Fold("What moves", self.channels, tip)
        self.typed = Fold("Typing", self._typing_rows(), "Pieces in a rhythm, with a caret.")
        self.sounding = Fold("Sound", self._sound_rows(), "A strike on each piece; a rush with the speed.")
        for fold in (self.moving, self.typed, self.sounding):
            column.addWidget(fold)

    def _typing_rows(self) -> Rows:
        rows = Rows()
        self.typing = TypingControls(rows)
        self.typing.tried.connect(lambda made: self._document.try_on(self._edit(typing=made)))
        self.typing.committed.connect(lambda title, made: self._set(title, typing=made))
        self.typing.dropped.connect(self._document.drop)
        self.typing.tapping.connect(lambda: self.tapping.emit(self.which))
        self.typing.drawn_again.connect(self._draw_gaps_again)
        self.typing.to_middle.connect(self._to_mid_height)
        return rows

    def _sound_rows(self) -> Rows:
        rows = Rows()
        self.sound = SoundControls(rows)
        self.sound.tried.connect(lambda changes: self._document.try_on(self._edit(**changes)))
        self.sound.committed.connect(lambda title, changes: self._set(title, **changes))
        self.sound.dropped.connect(self._document.drop)
        return rows

    def _draw_gaps_again(self) -> None:
        move = move_of(self._document.clip, self.which)
        if move is not None:
            self._set("Draw the gaps again", seed=move.seed + 2)

    def _to_mid_height(self) -> None:
        identity = self._document.selected or ""
        self._document.do("Last line to mid height", lambda p: last_line_to_mid_height(p, identity))

    def _tune(self, identity: str) -> None:
        """Show another of several moves."""
        self.which = identity
        self.refresh(self._role)

    def _take_off(self, identity: str) -> None:
        selected = self._document.selected or ""
        self._document.do("Take a move off", lambda project: drop_move(project, selected, identity))

    def _beats_in(self, rows: Rows) -> BeatControls:
        beats = BeatControls(rows)
        beats.tried.connect(lambda made: self._document.try_on(self._edit(beats=made)))
        beats.committed.connect(lambda title, made: self._set(title, beats=made))
        beats.dropped.connect(self._document.drop)
        return beats

    def _connect(self, field: NumberField, title: str, name: str) -> None:
        field.tried.connect(lambda value: self._document.try_on(self._edit(**{name: value})))
        field.committed.connect(lambda value: self._set(title, **{name: value}))
        field.dropped.connect(self._document.drop)

    def _edit(self, **changes: Any) -> Any:
        identity, which = self._document.selected or "", self.which
        return lambda project: change_move(project, identity, which, **changes)

    def _set(self, title: str, **changes: Any) -> None:
        self._document.do(title, self._edit(**changes))

    def _length_edit(self, frames: int) -> Any:
        identity, which = self._document.selected or "", self.which
        return lambda project: set_move_length(project, identity, which, frames)

    def _stagger_edit(self, frames: float) -> Any:
        return self._edit(stagger=float(frames / self._document.rate.fraction))

    def _point_field(self, name: str, axis: int) -> NumberField:
        field = NumberField(name, "%", 1, 1, factor=100)
        field.setToolTip(f"{name}, in % of the layer's block; what is nearest to the point sets off first.")
        field.tried.connect(lambda value: self._document.try_on(self._point_edit(axis, value)))
        field.committed.connect(lambda v: self._document.do("Change the point", self._point_edit(axis, v)))
        field.dropped.connect(self._document.drop)
        return field

    def _point_edit(self, axis: int, value: float) -> Any:
        move = move_of(self._document.clip, self.which)
        point = list(move.point) if move else [0.5, 0.5]
        point[axis] = value
        return self._edit(point=(point[0], point[1]))

    def _shuffle(self) -> None:
        move = move_of(self._document.clip, self.which)
        if move is not None:
            self._set("Shuffle again", order="shuffled", seed=move.seed + 2)

    def refresh(self, role: str) -> None:
        """Show the selected layer's move of a role, or hide."""
        # Long: each control shows its own field, one line a control.
        self._role = role
        clip = self._document.clip
        stacked = moves_of(clip, role)
        if self.which not in {move.id for move in stacked}:
            self.which = role
        move = move_of(clip, self.which)
        self.setVisible(move is not None)
        if move is None or not is_layer(clip):
            return
        spans = move_spans(clip.moves, clip.length, self._document.rate)
        rate = self._document.rate
        looping = move.beats_on
        frames = rate.length(move.length) if looping else spans.frames(move, rate)
        shrunk = ", shortened to fit" if spans.shrunk else ""
        self.which = move.id
        self._name.setText(move.name or role.capitalize())
        self.stack.show_moves(stacked, move.id, role)
        said = f"{float(rate.seconds(frames)):.2f} s · {frames} frames{shrunk}"
        self._said.setText(self._beats_said(clip, move) if looping else said)
        self._beats.setVisible(looping)
        self._length_label.setText("One beat" if looping else "Length")
        # A loop's pieces follow by their phase.
        for widget in self._dealing:
            widget.setVisible(not looping and move.typing is None)
        self._beats.show_beats(move.beats)
        self._bar.show_length(frames, clip.length, role)
        self._length.show_value(move.length)
        self._pieces.show_choice(move.pieces)
        self._pieces.set_role(role)
        self._order.setCurrentIndex(self._order.findData(move.order))
        self._seed.setVisible(move.order == "shuffled")
        for widget in self._point_row:
            widget.setVisible(move.order in BY_PLACE)
        for field, share in zip(self._point, move.point, strict=True):
            field.show_value(share)
        self._pivot.setCurrentIndex(self._pivot.findData(move.pivot))
        self._show_stagger(clip, move, frames)
        self._piece_curve.show_curve(move.piece_curve)
        self._sequence_curve.show_curve(move.order_curve)
        self._before.setChecked(move.before == "hidden")
        self._before.setVisible(not looping and move.typing is None)
        self._show_folds(clip, move)

    def _show_folds(self, clip: PictureClip, move: Move) -> None:
        self.channels.show_move(clip, move)
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

    def _beats_said(self, clip: PictureClip, move: Move) -> str:
        document = self._document
        beats = Scene.of(document.project).motion(clip).timings[clip.moves.index(move)].beats
        assert beats is not None
        number, seconds = beats.length / beats.beat, beats.beat / float(document.rate.fraction)
        return f"{number:.{0 if move.beats.fitted else 1}f} × {seconds:.2f} s"

    def _show_stagger(self, clip: Clip, move: Move, frames: int) -> None:
        several = move.pieces != "whole" and has_words(clip)
        for widget in (self._stagger, self._at_once, self._order, self._sequence_curve, self._beats.phase):
            widget.setEnabled(several)
        last = 0
        if has_words(clip):
            subject = subject_of(clip, self._document.project.sequence.size)
            order = move_ranks(move, subject.owners(move.pieces)[1], subject.places(move))
            last = int(order.max(initial=0))
        if move.stagger is not None:
            stagger = float(self._document.rate.position(move.stagger))
            at_once = max(0.0, frames / stagger - last) if stagger else 0.0
        else:
            at_once = move.at_once
            stagger = frames / (last + at_once) if last + at_once else 0.0
        self._stagger.show_value(round(stagger, 3))
        self._at_once.show_value(round(at_once, 3))


def _combo(name: str, choices: dict[str, str], take: Any) -> QComboBox:
    box = DropDown(accessibleName=name, toolTip=f"{name} of the pieces.")
    for value, text in choices.items():
        box.addItem(text, value)
    box.activated.connect(lambda _: take(box.currentData()))
    return box
