"""The line-up: variants of a move side by side in the viewer, until one is kept."""

from __future__ import annotations

from PySide6.QtCore import QObject, QPointF, Signal

from rovix.desktop.document import Document
from rovix.desktop.viewer.geometry import View
from rovix.edit import clip_by_id, move_of
from rovix.edit.comparing import MOST, Variant, cells, lined_up, proposed, varied
from rovix.errors import RovixError
from rovix.model import Project

KINDS = {"curves": "Curves", "moves": "Moves", "lengths": "Lengths", "staggers": "Staggers"}


class Comparison(QObject):
    """What is lined up, and in place of what; `changed` when it begins, changes or ends."""

    changed = Signal()

    def __init__(self, document: Document) -> None:
        super().__init__(document)
        self._document = document
        self.kind, self.count = "curves", 4
        self.variants: list[Variant] = []
        self.identity, self.which = "", ""
        document.project_changed.connect(self._project_changed)
        document.selection_changed.connect(self._selection_changed)
        # A project opened anew may have the same layers; what was lined up is gone all the same.
        document.opened.connect(self.end)

    @property
    def on(self) -> bool:
        """Whether variants stand in the viewer."""
        return bool(self.variants)

    def begin(self, which: str, kind: str | None = None, count: int | None = None) -> bool:
        """Line up variants of the selected layer's move; False where that cannot be, with a message."""
        kind, count = kind or self.kind, max(2, min(MOST, count or self.count))
        identity = self.identity if self.on else self._document.selected or ""
        try:
            variants = proposed(self._document.committed, identity, which, kind, count)
        except RovixError as wrong:
            self._document.problem.emit(str(wrong))
            return False
        self.kind, self.count, self.variants = kind, count, variants
        self.identity, self.which = identity, which
        self._show()
        return True

    def put(self, number: int, variant: Variant) -> None:
        """Another variant in one of the places."""
        self.variants[number] = variant
        self._show()

    def keep(self, number: int) -> None:
        """Give the layer one of them, as a step, and end."""
        variant, identity, which = self.variants[number], self.identity, self.which
        self.end()
        if number or variant.move or variant.changes:
            self._document.do(f"Keep {variant.name}", lambda p: varied(p, identity, which, variant))

    def end(self) -> None:
        """Show the sequence as it is."""
        if self.on:
            self.variants = []
            self._document.show_instead(None)
            self.changed.emit()

    def at(self, view: View, point: QPointF) -> int | None:
        """The number of the picture under a point of the viewer."""
        x, y = view.to_frame(point)
        for number, (left, top, width, height) in enumerate(cells(view.size, len(self.variants))):
            if left <= x <= left + width and top <= y <= top + height:
                return number
        return None

    def _show(self) -> None:
        variants, identity, which = tuple(self.variants), self.identity, self.which

        def made(project: Project) -> Project:
            if move_of(clip_by_id(project, identity), which) is None:
                return project
            return lined_up(project, identity, which, variants)

        self._document.show_instead(made)
        self.changed.emit()

    def _selection_changed(self) -> None:
        # Whoever takes something else up is done with comparing.
        if self.on and self.identity not in self._document.selection:
            self.end()

    def _project_changed(self) -> None:
        # Undo, or another hand, may have taken the move away that all of this is about.
        if self.on and move_of(clip_by_id(self._document.committed, self.identity), self.which) is None:
            self.end()
