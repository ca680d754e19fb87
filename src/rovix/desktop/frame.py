"""The window as its parts and commands see it: what they may use of it."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Any, Protocol

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPoint, Signal
from PySide6.QtWidgets import QMainWindow

from rovix.desktop.sheet.number_field import NumberField
from rovix.model import Clip, Media

if TYPE_CHECKING:
    from PySide6.QtCore import QSettings, QUrl
    from PySide6.QtGui import QAction

    from rovix.desktop.document import Document
    from rovix.desktop.exports import Exports
    from rovix.desktop.live_checks import LiveChecks
    from rovix.desktop.messages import Message, Messages
    from rovix.desktop.places import Places
    from rovix.desktop.projector import Projector
    from rovix.desktop.session import Session
    from rovix.desktop.sheet.sheet import Sheet
    from rovix.desktop.shown_proxies import ShownProxies
    from rovix.desktop.thumbnails import Thumbnails
    from rovix.desktop.timeline import Timeline
    from rovix.desktop.viewer import Viewer

_FIRST = "times/first"


class FilesPart(Protocol):
    """Opening and saving, as others see it."""

    def import_media(self) -> None: ...
    def bring_fonts(self) -> None: ...
    def bring_captions(self) -> None: ...
    def bring_credits(self) -> None: ...
    def bring_keys(self) -> None: ...
    def write_keys(self) -> None: ...
    def write_captions(self) -> None: ...
    def open_timeline(self) -> None: ...
    def write_timeline(self) -> None: ...
    def may_leave(self) -> bool: ...
    def new(self) -> None: ...
    def open(self) -> None: ...
    def open_demo(self) -> None: ...
    def open_path(self, path: Path) -> Any: ...
    def recent(self) -> list[Path]: ...
    def save(self) -> bool: ...
    def save_as(self) -> bool: ...
    def show_left_work(self) -> None: ...
    def show_versions(self) -> None: ...


class ShelfPart(Protocol):
    """The shelf, as others see it."""

    keeping: Any
    media: Any
    audition: Any

    def open_media(self) -> None: ...
    def open_role(self, role: str) -> None: ...
    def stop_trying(self) -> None: ...
    def take_keyboard(self) -> None: ...
    def card_move(self, role: str, name: str) -> Any: ...
    def takers(self, role: str) -> list[Clip]: ...
    def apply_move(self, number: int, on_top: bool = False) -> None: ...
    @property
    def decks(self) -> dict[str, Any]: ...


class TransportPart(Protocol):
    """The bar under the picture, as others see it."""

    def begin_typing(self) -> None: ...


class Frame(QMainWindow):
    """The window; :class:`rovix.desktop.window.Window` makes it all."""

    fonts_changed = Signal()
    document: Document
    exports: Exports
    settings: QSettings
    projector: Projector
    thumbnails: Thumbnails
    viewer: Viewer
    timeline: Timeline
    transport: TransportPart
    sheet: Sheet
    shelf: ShelfPart
    files: FilesPart
    messages: Messages
    session: Session
    places: Places
    checks: LiveChecks
    proxies: ShownProxies
    ask: Callable[[str, str, dict[str, str]], str]
    ask_number: Callable[..., float | None]
    ask_folder: Callable[[str], Path | None]

    def frames_a_second(self) -> float:
        """The open sequence's rate, for fields that take times."""
        return float(self.document.rate.fraction)

    def first_of_times(self) -> str:
        """Which unit comes first in fields of times: s, f, or the one that each is kept in, empty."""
        return str(self.settings.value(_FIRST, ""))

    def prefer_times(self, first: str) -> None:
        """Show seconds or frames first in every field of times from now on."""
        self.settings.setValue(_FIRST, first)
        for field in self.findChildren(NumberField):
            field.show_times()

    def used_colours(self) -> list[str]:
        """The project's colours, those used most often first."""
        raise NotImplementedError

    def recent_colours(self) -> list[str]:
        """The colours that were chosen last, the latest first."""
        raise NotImplementedError

    def note_colour(self, text: str) -> None:
        """A colour was chosen."""
        raise NotImplementedError

    def pick_from_picture(self, take: Callable[[str | None], None]) -> None:
        """Have a colour clicked in the picture; None when that is left."""
        raise NotImplementedError

    def around_words(self) -> NDArray[np.float64] | None:
        """(N, 3) code values 0 to 1 around the selected words; None where there are none."""
        raise NotImplementedError

    def colour_space(self, chosen: str = "") -> str:
        """The space of the colour's numbers, another when one is chosen."""
        raise NotImplementedError

    def clip_at(self, point: QPoint) -> str | None:
        """The clip at a point of the screen, in the timeline or in the picture."""
        raise NotImplementedError

    def run(self, identity: str) -> None:
        raise NotImplementedError

    def shortcut_of(self, identity: str) -> str:
        raise NotImplementedError

    def set_shortcut(self, identity: str, keys: str) -> str | None:
        raise NotImplementedError

    def reset_shortcuts(self) -> None:
        raise NotImplementedError

    def action(self, identity: str) -> QAction:
        raise NotImplementedError

    def refresh_commands(self) -> None:
        raise NotImplementedError

    def finish_typing(self) -> None:
        raise NotImplementedError

    def say(self, text: str) -> None:
        raise NotImplementedError

    def offer(self, title: str, text: str, choices: dict[str, Callable[[], None]]) -> Message:
        raise NotImplementedError

    def begin_session(self) -> None:
        raise NotImplementedError

    def show_text(self, title: str, text: str) -> None:
        raise NotImplementedError

    def open_checks(self) -> None:
        raise NotImplementedError

    def open_finder(self) -> None:
        raise NotImplementedError

    def pick_font(self) -> Any:
        raise NotImplementedError

    def paste_attributes(self) -> Any:
        raise NotImplementedError

    def open_drift(self) -> Any:
        raise NotImplementedError

    def find_words(self) -> Any:
        raise NotImplementedError

    def open_shortcuts(self) -> None:
        raise NotImplementedError

    def open_guide(self, page: str = "") -> Any:
        raise NotImplementedError

    def open_credits(self) -> Any:
        raise NotImplementedError

    def pick_curve(self) -> Any:
        raise NotImplementedError

    def open_export(self) -> Any:
        raise NotImplementedError

    def open_selected(self) -> None:
        raise NotImplementedError

    def close_group(self) -> None:
        raise NotImplementedError

    def open_sequence_settings(self) -> None:
        raise NotImplementedError

    def new_sequence(self) -> None:
        raise NotImplementedError

    def open_sequences(self) -> Any:
        raise NotImplementedError

    def put_in_sequence(self, identity: str | None = None) -> None:
        raise NotImplementedError

    def missing_media(self) -> list[Media]:
        raise NotImplementedError

    def relink_missing(self) -> None:
        raise NotImplementedError

    def import_media(self, paths: list[Path]) -> None:
        raise NotImplementedError

    def bring_keys(self, path: Path) -> None:
        raise NotImplementedError

    def bring_credits(self, path: Path) -> None:
        raise NotImplementedError

    def bring_captions(self, path: Path) -> None:
        """Read a file of captions, and ask how they are to be set."""
        raise NotImplementedError

    def bring_fonts(self, paths: list[Path]) -> None:
        """Check font files, and ask where they are to go."""
        raise NotImplementedError

    def look_for_fonts(self) -> None:
        """Fonts have come or gone: whatever is set in them is laid out anew."""
        raise NotImplementedError

    def list_files(self, urls: list[QUrl]) -> None:
        raise NotImplementedError
