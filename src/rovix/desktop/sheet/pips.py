"""The rings of a page's rows: they show whether channels have keys, and set keys."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtWidgets import QLabel

from rovix.desktop.document import Document
from rovix.desktop.sheet.parts import KeyPip, lowered
from rovix.edit.address import held_at
from rovix.edit.keys import toggle_keys
from rovix.errors import RovixError
from rovix.model import Clip
from rovix.model.fields import ANIMATED, Animated

Addresses = Callable[[], Sequence[str]]


class Pips:
    """Rings by the addresses of what they key; `note` says on which frame a change lands."""

    def __init__(self, document: Document) -> None:
        self._document = document
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
        frame, identity, names = self._document.clip_frame, self._document.selected or "", addresses()
        title = f"Set or take away a key of {lowered(said)}"
        self._document.do(title, lambda project: toggle_keys(project, identity, frame, names))

    def refresh(self) -> None:
        """Show how the selected clip's channels stand at the playhead."""
        clip, frame = self._document.clip, self._document.clip_frame
        states = [_show(pip, clip, addresses(), frame) for pip, addresses in self._pips]
        animated = any(state != "none" for state in states)
        self.note.setVisible(animated)
        self.note.setText(f"Animated rows get a key at layer frame {frame} when you change them.")


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
