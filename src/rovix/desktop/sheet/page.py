"""What every page of the sheet has."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any

from PySide6.QtWidgets import QVBoxLayout, QWidget

from rovix.desktop.document import Document, Edit
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.pips import Pips
from rovix.edit.values import reset_channels, set_channels
from rovix.model import Project

ChannelEdit = Callable[[Project, float], Project]


class Page(QWidget):
    """What every page has: the document, and a column of parts."""

    def __init__(self, document: Document) -> None:
        super().__init__()
        self._document = document
        self.pips = Pips(document)
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(12, 8, 8, 8)
        self._column.setSpacing(8)

    def _try(self, edit: Edit) -> None:
        self._document.try_on(edit)

    def _do(self, title: str, edit: Edit) -> None:
        self._document.do(title, edit)

    @property
    def _id(self) -> str:
        return self._document.selected or ""

    def _bind(self, field: NumberField, title: str, edit: Any) -> NumberField:
        """Connect a field to `edit(project, value)`: tried while it moves, one step when let go."""
        field.tried.connect(lambda value: self._try(lambda project: edit(project, value)))
        field.committed.connect(lambda value: self._do(title, lambda project: edit(project, value)))
        field.dropped.connect(self._document.drop)
        return field

    def channel(
        self, field: NumberField, title: str, address: Callable[[], str], edit: ChannelEdit | None = None
    ) -> NumberField:
        """Connect a field to a channel of the selected clip; `edit` where setting it does more."""

        def setting(project: Project, value: float) -> Project:
            return set_channels(project, self._id, self._document.clip_frame, {address(): value})

        field.allow_reset()
        reset = f"Reset the {title.removeprefix('Change the ')}"
        field.reset.connect(self.resetting(reset, lambda: [address()]))

        return self._bind(field, title, edit or setting)

    def set(self, title: str, values: Mapping[str, Any]) -> None:
        """One step that sets channels of the selected clip, at the playhead where they are animated."""
        frame = self._document.clip_frame
        self._do(title, lambda project: set_channels(project, self._id, frame, values))

    def resetting(self, title: str, addresses: Callable[[], Sequence[str]]) -> Callable[[], None]:
        """What puts channels back, for the double-click on a row's name."""
        return lambda: self._do(title, lambda project: reset_channels(project, self._id, addresses()))
