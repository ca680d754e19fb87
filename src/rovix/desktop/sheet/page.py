"""What every page of the sheet has: the clips that it is of, and fields bound to all of them."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from operator import is_
from typing import Any, ClassVar

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QVBoxLayout, QWidget

from rovix.desktop.clip_views import pages_of
from rovix.desktop.document import Document
from rovix.desktop.sheet.colour_button import ColourButton
from rovix.desktop.sheet.mixed import ABSENT, MIXED, common
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.pips import Pips
from rovix.edit import clip_by_id
from rovix.edit.address import held_at
from rovix.edit.channels import value_at
from rovix.edit.counterparts import address_on
from rovix.edit.each import ClipEdit
from rovix.edit.tree import clip_of
from rovix.edit.values import reset_channels, set_channels
from rovix.errors import RovixError
from rovix.model import Clip, Project

NumberEdit = Callable[[Project, str, float], Project]
"""An edit of the clip with an id to a number."""
Read = Callable[[Clip], Any]
"""What a clip has for a row, `ABSENT` for nothing."""
Show = Callable[[Any], None]


class Page(QWidget):
    """A column of parts, of those selected clips that have this page; the last of them leads.

    `name` is the page's in :data:`rovix.desktop.clip_views.CLIP_VIEWS`.
    """

    name: ClassVar[str]
    rests_for: ClassVar[frozenset[str]] = frozenset()
    """Fields of a clip that are shown nowhere here: while they alone are dragged, it rests."""

    def __init__(self, document: Document) -> None:
        super().__init__()
        self._document = document
        self._watched: list[tuple[Read, Show]] = []
        self._seen: tuple[Any, ...] = ()
        self._held: list[Clip] | None = None
        """While all rows are shown: the clips, which each of them would look up again."""
        self.pips = Pips(self)
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(12, 4, 8, 10)
        self._column.setSpacing(8)

    # The clips

    def clips(self) -> list[Clip]:
        """The selected clips that have this page, in the order in which they were selected."""
        if self._held is not None:
            return self._held
        found = (clip_by_id(self._document.project, identity) for identity in self._document.selection)
        return [clip for clip in found if self.name in pages_of(clip) and clip is not None]

    @property
    def clip(self) -> Clip | None:
        """The one of them that leads: whose parts are shown."""
        clips = self.clips()
        return clips[-1] if clips else None

    @property
    def frame(self) -> int:
        """The playhead as a frame of the leading clip, kept inside it."""
        return self._document.frame_of(self.clip)

    @property
    def document(self) -> Document:
        return self._document

    # Changing them

    def _targets(self) -> list[str]:
        return [clip.id for clip in self.clips()]

    def _try(self, edit: ClipEdit) -> None:
        self._document.try_each(self._targets(), edit)

    def _do(self, title: str, edit: ClipEdit) -> None:
        self._document.do_each(title, self._targets(), edit)

    def frame_in(self, project: Project, identity: str) -> int:
        """The playhead as a frame of a clip."""
        return self._document.frame_of(clip_of(project, identity))

    def on(self, project: Project, identity: str, address: str) -> str:
        """A channel of the leading clip as it is in the one with an id; RovixError where that has none."""
        lead = self.clip
        return address if lead is None else address_on(lead, address, clip_of(project, identity))

    def set(self, title: str, values: Mapping[str, Any]) -> None:
        """One step that sets channels of the clips, at the playhead where they are animated."""
        self._do(title, self.setting(values))

    def setting(self, values: Mapping[str, Any]) -> ClipEdit:
        """The edit that sets channels by their addresses in the leading clip."""

        def edit(project: Project, identity: str) -> Project:
            own = {self.on(project, identity, address): value for address, value in values.items()}
            return set_channels(project, identity, self.frame_in(project, identity), own)

        return edit

    def resetting(self, title: str, addresses: Callable[[], Sequence[str]]) -> Callable[[], None]:
        """What puts channels back, for the double-click on a row's name."""

        def edit(project: Project, identity: str) -> Project:
            own = [self.on(project, identity, address) for address in addresses()]
            return reset_channels(project, identity, own)

        return lambda: self._do(title, edit)

    # Fields

    def watch(self, read: Read, show: Show) -> None:
        """Show what the clips have in common, or `MIXED`, whenever the page is shown anew."""
        self._watched.append((read, show))

    def forget(self, gone: QWidget) -> None:
        """Watch no longer for what stands in a widget that goes, and drop its rings."""
        self.pips.forget(gone.isAncestorOf)
        self._watched = [(read, show) for read, show in self._watched if not _stands_in(show, gone)]

    def _bind(self, field: NumberField, title: str, edit: NumberEdit, read: Read) -> NumberField:
        """Bind a field to all clips: tried while it moves, one step when let go.

        Where they differ, what is scrubbed or worked out (`+10`) goes by what each had at the last step.
        """

        def to(value: float) -> ClipEdit:
            return lambda project, identity: edit(project, identity, value)

        def by(change: Callable[[float], float]) -> ClipEdit:
            def changed(project: Project, identity: str) -> Project:
                old = read(clip_of(self._document.committed, identity))
                return project if old is ABSENT else edit(project, identity, change(float(old)))

            return changed

        field.tried.connect(lambda value: self._try(to(value)))
        field.committed.connect(lambda value: self._do(title, to(value)))
        field.tried_each.connect(lambda change: self._try(by(change)))
        field.committed_each.connect(lambda change: self._do(title, by(change)))
        field.dropped.connect(self._document.drop)
        self.watch(read, field.show_value)
        return field

    def colour(self, button: ColourButton, title: str, edit: Callable[[str], ClipEdit]) -> ColourButton:
        """Bind a button to all clips: tried while a colour is looked for, one step when it is chosen."""
        button.tried.connect(lambda text: self._try(edit(text)))
        button.chosen.connect(lambda text: self._do(title, edit(text)))
        button.dropped.connect(self._document.drop)
        return button

    def channel(
        self, field: NumberField, title: str, address: Callable[[], str], edit: NumberEdit | None = None
    ) -> NumberField:
        """Bind a field to a channel of the clips; `edit` where setting it does more."""

        def setting(project: Project, identity: str, value: float) -> Project:
            return self.setting({address(): value})(project, identity)

        field.allow_reset()
        reset = f"Reset the {title.removeprefix('Change the ')}"
        field.reset.connect(self.resetting(reset, lambda: [address()]))
        return self._bind(field, title, edit or setting, lambda clip: self.value_in(clip, address()))

    def value_in(self, clip: Clip, address: str) -> Any:
        """What a clip has at the playhead in a channel of the leading one; `ABSENT` without one."""
        lead = self.clip
        try:
            own = address if lead is None else address_on(lead, address, clip)
            value = value_at(held_at(clip, own), self._document.frame_of(clip))
        except RovixError:
            return ABSENT
        return ABSENT if value is None else value

    # Showing

    def refresh(self) -> None:
        """Show the clips: the leading one's parts, and in each row what all have in common."""
        clips = self.clips()
        if not clips or self._rests(clips):
            return
        self._held = clips
        try:
            self._show_all(clips)
        finally:
            self._held = None

    def _rests(self, clips: list[Clip]) -> bool:
        if not self.rests_for:
            return False
        document = self._document
        before, self._seen = self._seen, (document.playhead, document.tuned, *self._fields_of(clips))
        same = len(before) == len(self._seen) and all(map(is_, before, self._seen))
        return same and document.history.has_draft

    def _fields_of(self, clips: list[Clip]) -> Iterator[Any]:
        for clip in clips:
            fields = (name for name in clip.__struct_fields__ if name not in self.rests_for)
            yield from (getattr(clip, name) for name in fields)

    def _show_all(self, clips: list[Clip]) -> None:
        self.show_clip(clips[-1])
        for read, show in tuple(self._watched):
            if not self._is_shown(show):
                continue
            value = common(read(one) for one in clips)
            if value is not ABSENT:
                show(value)
        self.pips.refresh()

    def _is_shown(self, show: Show) -> bool:
        """Whether there is a row to be shown: folded cards, and rows that do not apply, have none."""
        widget = getattr(show, "__self__", None)
        while isinstance(widget, QWidget) and widget is not self:
            # What was only just put in is not shown yet, but not hidden by anybody either.
            if widget.isHidden() and widget.testAttribute(Qt.WidgetAttribute.WA_WState_ExplicitShowHide):
                return False
            widget = widget.parentWidget()
        return True

    def show_clip(self, clip: Clip) -> None:
        """Show what goes by the leading clip alone: which rows there are."""


def _stands_in(show: Show, widget: QWidget) -> bool:
    owner = getattr(show, "__self__", None)
    return isinstance(owner, QWidget) and widget.isAncestorOf(owner)


def plain(read: Callable[[Any], Any]) -> Read:
    """A reading that finds nothing where a clip, or a part of it, has no such field."""

    def found(clip: Clip) -> Any:
        try:
            return read(clip)
        except (AttributeError, RovixError):
            return ABSENT

    return found


__all__ = ["ABSENT", "MIXED", "ClipEdit", "NumberEdit", "Page", "plain"]
