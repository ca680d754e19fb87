"""The rings of a page's rows: they show whether channels have keys, and set keys."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Protocol

from PySide6.QtWidgets import QLabel

from rovix.desktop.sheet.parts import KeyPip, lowered
from rovix.edit.address import held_at
from rovix.edit.each import ClipEdit
from rovix.edit.keys import set_keys_at
from rovix.errors import RovixError
from rovix.model import Clip, Project
from rovix.model.fields import ANIMATED, Animated

Addresses = Callable[[], Sequence[str]]


class Keyed(Protocol):
    """The page as its rings see it: which clips they key, and at which of their frames."""

    @property
    def clip(self) -> Clip | None: ...
    @property
    def frame(self) -> int: ...
    def frame_in(self, project: Project, identity: str) -> int: ...
    def on(self, project: Project, identity: str, address: str) -> str: ...
    def _do(self, title: str, edit: ClipEdit) -> None: ...


class Pips:
    """Rings by the addresses of what they key; `note` says on which frame a change lands.

    They show the leading clip, and key all of the page's.
    """

    def __init__(self, page: Keyed) -> None:
        self._page = page
        self._pips: list[tuple[KeyPip, Addresses]] = []
        self.note = QLabel("", objectName="muted", wordWrap=True)

    def pip(self, said: str, addresses: Addresses) -> KeyPip:
        """A pip for the row of that name."""
        pip = KeyPip(lowered(said))
        pip.pressed.connect(lambda: self._press(said, addresses))
        self._pips.append((pip, addresses))
        return pip

    def of(self, address: str) -> KeyPip:
        """The pip that keys a channel."""
        return next(pip for pip, addresses in self._pips if address in addresses())

    def forget(self, gone: Callable[[KeyPip], bool]) -> None:
        """Drop the rings of rows that are no more."""
        self._pips = [(pip, addresses) for pip, addresses in self._pips if not gone(pip)]

    def _press(self, said: str, addresses: Addresses) -> None:
        """Key all clips here; where the leading one has all its keys here, take them from all."""
        page, names = self._page, tuple(addresses())
        there = not _all_here(page.clip, names, page.frame)

        def edit(project: Project, identity: str) -> Project:
            own = [page.on(project, identity, name) for name in names]
            return set_keys_at(project, identity, page.frame_in(project, identity), own, there)

        page._do(f"Set or take away a key of {lowered(said)}", edit)

    def refresh(self) -> None:
        """Show how the leading clip's channels stand at the playhead."""
        clip, frame = self._page.clip, self._page.frame
        states = [_show(pip, clip, addresses(), frame) for pip, addresses in self._pips]
        animated = any(state != "none" for state in states)
        self.note.setVisible(animated)
        self.note.setText(f"Animated rows get a key at layer frame {frame} when you change them.")


def _all_here(clip: Clip | None, addresses: Sequence[str], frame: int) -> bool:
    held = [] if clip is None else [_animated(clip, name) for name in addresses]
    return bool(held) and all(one is not None and any(k.frame == frame for k in one.keys) for one in held)


def _show(pip: KeyPip, clip: Clip | None, addresses: Sequence[str], frame: int) -> str:
    keyed = [] if clip is None else [held for name in addresses if (held := _animated(clip, name))]
    here = any(key.frame == frame for held in keyed for key in held.keys)
    state = "key" if here else "animated" if keyed else "none"
    pip.show_state(state)
    return state


def _animated(clip: Clip, address: str) -> Animated | None:
    try:
        held = held_at(clip, address)
    except RovixError:
        # A row that is hidden, of a fill of another kind for one.
        return None
    return held if isinstance(held, ANIMATED) else None
