"""The moves on the layer as blocks in its time: which one is tuned, how long it is, off with it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QContextMenuEvent, QHelpEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QMenu, QToolTip, QWidget

from rovix.desktop.theme import colour, font

_REACH = 6  # px within which an edge is grabbed
_STILL = 4  # px that a hand moves before a block is carried


@dataclass(frozen=True, slots=True)
class Block:
    """A move from a frame of the clip, over frames; it is set by its `edge`, "start", "end" or none."""

    id: str
    name: str
    role: str
    start: int
    length: int
    edge: str


class MoveStrip(QWidget):
    """Click a block to tune its move, drag its free edge to set its length.

    By keys: Up and Down choose, Left and Right set the length (Shift ten frames), Delete takes it off.
    """

    chosen = Signal(str)
    removed = Signal(str)
    tried = Signal(int)
    committed = Signal(int)
    stage_tried = Signal(int)
    stage_committed = Signal(int)
    """The frame of the clip at which the tuned move begins, or an exit ends, as its block is dragged."""

    def __init__(self) -> None:
        super().__init__()
        self._blocks: tuple[Block, ...] = ()
        self._lines: dict[str, int] = {}
        self._tuned, self._clip = "", 1
        self._held: Block | None = None
        self._carried: tuple[Block, float] | None = None
        self._went = False
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAccessibleName("Moves of the layer")

    @property
    def blocks(self) -> tuple[Block, ...]:
        """What is shown."""
        return self._blocks

    def sizeHint(self) -> QSize:
        return QSize(200, self._line() * (1 + max(self._lines.values(), default=0)) + 4)

    def minimumSizeHint(self) -> QSize:
        return QSize(80, self.sizeHint().height())

    def _line(self) -> int:
        return round(font().pixelSize() * 1.75)

    def show_moves(self, blocks: Sequence[Block], tuned: str, clip: int) -> None:
        """Show a layer's moves over its frames, one of them tuned."""
        lines = _lines_of(blocks)
        if lines != self._lines:
            self._lines = lines
            self.updateGeometry()
        self._blocks, self._tuned, self._clip = tuple(blocks), tuned, max(1, clip)
        self.setFixedHeight(self.sizeHint().height())
        own = self.tuned
        self.setAccessibleDescription("" if own is None else f"{own.name} is tuned, {own.length} frames")
        self.update()

    @property
    def tuned(self) -> Block | None:
        """The block of the move that is tuned."""
        return next((block for block in self._blocks if block.id == self._tuned), None)

    # Places

    def box_of(self, block: Block) -> QRectF:
        """Where a block is; at least wide enough to be clicked."""
        across = self.width() - 2
        left, width = block.start / self._clip * across, max(10.0, block.length / self._clip * across)
        left = min(left, across - width) if block.edge == "start" else left
        return QRectF(1 + left, 2 + self._lines[block.id] * self._line(), width, self._line() - 3)

    def _at(self, point: QPointF) -> Block | None:
        return next((block for block in self._blocks if self.box_of(block).contains(point)), None)

    def _edge_at(self, point: QPointF) -> Block | None:
        """The block whose free edge a hand would take; the tuned one comes first."""
        for block in sorted(self._blocks, key=lambda block: block.id != self._tuned):
            box = self.box_of(block)
            edge = {"start": box.left(), "end": box.right()}.get(block.edge)
            near = edge is not None and abs(point.x() - edge) <= _REACH
            if near and box.top() - 2 <= point.y() <= box.bottom() + 2:
                return block
        return None

    def _frames_at(self, point: QPointF) -> int:
        block = self._held
        frame = (point.x() - 1) / max(1, self.width() - 2) * self._clip
        if block is None:
            return 0
        end = block.start + block.length
        frames = end - frame if block.edge == "start" else frame - block.start
        return max(0, min(self._clip, round(frames)))

    # Painting

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("raised"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 4, 4)
        for block in self._blocks:
            self._paint_block(painter, block)
        if self.hasFocus():
            painter.setPen(QPen(colour("accent"), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 4, 4)
        painter.end()

    def _paint_block(self, painter: QPainter, block: Block) -> None:
        box, own = self.box_of(block), block.id == self._tuned
        painter.setPen(QPen(colour("text"), 1.3) if own else Qt.PenStyle.NoPen)
        painter.setBrush(colour(block.role, 0.95 if own else 0.45))
        painter.drawRoundedRect(box.adjusted(0.5, 0.5, -0.5, -0.5), 3, 3)
        painter.setFont(font(0.88))
        width = painter.fontMetrics().horizontalAdvance(block.name) + 10
        name, side = QRectF(box), Qt.AlignmentFlag.AlignHCenter
        if width > box.width():
            name, side = self._beside(block, box, width)
        painter.setPen(colour("on_accent" if own and name == box else "text"))
        text = painter.fontMetrics().elidedText(
            block.name, Qt.TextElideMode.ElideRight, int(name.width()) - 4
        )
        painter.drawText(name.adjusted(2, 0, -2, 0), side | Qt.AlignmentFlag.AlignVCenter, text)

    def _beside(self, block: Block, box: QRectF, width: float) -> tuple[QRectF, Qt.AlignmentFlag]:
        """Room for a name that does not fit into its block: next to it, as far as the next block."""
        line = [other for other in self._blocks
                if other is not block and self._lines[other.id] == self._lines[block.id]]  # fmt: skip
        align = Qt.AlignmentFlag.AlignLeft
        if block.edge == "start":
            before = [other for other in line if self.box_of(other).right() <= box.left()]
            left = max((self._shared(other, box.left(), False) for other in before), default=0.0)
            left, align = max(left, box.left() - width), Qt.AlignmentFlag.AlignRight
            return QRectF(left, box.top(), box.left() - left - 3, box.height()), align
        behind = [other for other in line if self.box_of(other).left() >= box.right()]
        right = min((self._shared(other, box.right(), True) for other in behind), default=float(self.width()))
        right = min(right, box.right() + width)
        return QRectF(box.right() + 3, box.top(), right - box.right() - 3, box.height()), align

    def _shared(self, other: Block, edge: float, to_right: bool) -> float:
        """How far a name may reach from an edge towards another block: half of the way where that one's name
        comes towards it."""
        box = self.box_of(other)
        end = box.left() if to_right else box.right()
        fits = self.fontMetrics().horizontalAdvance(other.name) + 10 <= box.width()
        meets = (other.edge == "start") == to_right
        return (edge + end) / 2 if meets and not fits else end

    # Hands

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() != Qt.MouseButton.LeftButton:
            return
        grabbed = self._edge_at(event.position())
        block = grabbed or self._at(event.position())
        if block is not None and block.id != self._tuned:
            self.chosen.emit(block.id)
        self._held = grabbed
        self._went = False
        carried = block is not None and grabbed is None and block.role in ("entrance", "exit")
        self._carried = (block, event.position().x()) if carried and block is not None else None

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held is not None:
            self.tried.emit(self._frames_at(event.position()))
            return
        if self._carried is not None:
            self._went |= abs(event.position().x() - self._carried[1]) >= _STILL
            if self._went:
                self.stage_tried.emit(self._stage_at(event.position()))
            return
        over_edge = self._edge_at(event.position()) is not None
        self.setCursor(Qt.CursorShape.SizeHorCursor if over_edge else Qt.CursorShape.PointingHandCursor)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._held is not None:
            frames = self._frames_at(event.position())
            self._held = None
            self.committed.emit(frames)
        elif self._carried is not None:
            frame, went = self._stage_at(event.position()), self._went
            self._carried, self._went = None, False
            if went:
                self.stage_committed.emit(frame)

    def _stage_at(self, point: QPointF) -> int:
        """The frame at which the carried block begins, or of an exit ends, where the hand is."""
        assert self._carried is not None
        block, press = self._carried
        edge = block.start + (block.length if block.role == "exit" else 0)
        moved = (point.x() - press) / max(1, self.width() - 2) * self._clip
        return max(0, min(self._clip - 1, round(edge + moved)))

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        block = self._at(QPointF(event.pos())) or self.tuned
        if block is None:
            return
        self.chosen.emit(block.id)
        menu = QMenu(self)
        menu.addAction(f"Take {block.name} off", lambda: self.removed.emit(block.id))
        menu.popup(event.globalPos())

    def keyPressEvent(self, event: QKeyEvent) -> None:
        own, key = self.tuned, event.key()
        steps = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}
        if key == Qt.Key.Key_Escape and (self._held is not None or self._carried is not None):
            self._held = self._carried = None
            event.ignore()  # the window drops the draft
        elif own is None:
            super().keyPressEvent(event)
        elif key in steps and own.edge:
            by = steps[Qt.Key(key)] * (10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1)
            self.committed.emit(max(0, own.length + by))
        elif key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            at = self._blocks.index(own) + (1 if key == Qt.Key.Key_Down else -1)
            self.chosen.emit(self._blocks[at % len(self._blocks)].id)
        elif key == Qt.Key.Key_Delete:
            self.removed.emit(own.id)
        else:
            super().keyPressEvent(event)

    def event(self, event: QEvent) -> bool:
        # Arrows and Delete are this strip's own while it has the focus, not shortcuts.
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent):
            own = (Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Delete)
            if event.key() in own and not event.modifiers() & Qt.KeyboardModifier.ControlModifier:
                event.accept()
                return True
        if event.type() == QEvent.Type.ToolTip and isinstance(event, QHelpEvent):
            QToolTip.showText(event.globalPos(), self._tip(QPointF(event.pos())), self)
            return True
        return super().event(event)

    def _tip(self, point: QPointF) -> str:
        block = self._at(point)
        if block is None:
            return "The moves on the layer, in its time. Click one to tune it (Up, Down)."
        drag = "Drag its free edge, or press Left and Right, to set its length. " if block.edge else ""
        drag += "" if block.role == "loop" else "Drag the block to let it begin later. "
        return f"{block.name}: {block.length} frames. {drag}Delete takes it off."


def _lines_of(blocks: Sequence[Block]) -> dict[str, int]:
    """The line of each block, the first on which it lies over no other."""
    lines: dict[str, int] = {}
    for block in blocks:
        taken = {
            lines[other.id] for other in blocks if other.id in lines and _overlap(block, other)
        }  # fmt: skip
        lines[block.id] = next(line for line in range(len(blocks)) if line not in taken)
    return lines


def _overlap(one: Block, other: Block) -> bool:
    return one.start < other.start + other.length and other.start < one.start + one.length
