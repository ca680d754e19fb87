"""The menus under the mouse, from the one table of commands: by place, the likeliest first."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtWidgets import QMenu

from rovix.desktop.commands import COMMANDS, command

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame

_CLIPBOARD = "cut copy paste paste-attributes duplicate remove"
_SHOW = ">Text:Show ?reverse-entrance ?rehearse ?compare"
PLACES: dict[str, str] = {
    "clip": f"""?edit-words ?open-group split - {_CLIPBOARD} remove-gap - {_SHOW}
        - ?lanes ?key-add ?box-round >Clip:Playing >Clip:Transition - group ?ungroup rename""",
    "layer": f"""?edit-words ?open-group - {_CLIPBOARD} - >Arrange:Align >Arrange:Move_in_the_picture
        transform-reset ?follow-leader ?box-round - {_SHOW} - ?key-add ?path-make ?path-remove""",
    "picture": """add-words paste - fit zoom-100 safe ghost neighbours motion-path
        - snap guides guide-upright guide-level ?guides-clear""",
    "empty": """add-words paste import - select-all select-after - marker range-in range-out ?range-clear
        - add-pictures add-sound ?remove-empty timeline-fit""",
    "ruler": """marker ?name-marker ?remove-marker - range-in range-out ?range-clear
        - go-to timeline-fit follow""",
    "track": """?hide-track mute-track solo-track lock-track - rename-track track-up track-down taller lower
        - add-pictures add-sound ?remove-track ?remove-empty""",
    "key": """curve-pick curve-hold curve-linear curve-smooth >Keys:Curve - >Keys:Time_and_value
        - copy cut paste keys-remove - keys-all >Keys:Path >Keys:Moves_and_keys speed-line""",
    "inner key": """curve-pick curve-hold curve-linear curve-smooth curve-loose - keys-earlier keys-later
        - copy cut paste keys-remove - >Keys:Moves_and_keys""",
}
"""By place: ids of commands, `-` for a rule, `>Menu:Submenu`, and `?` before what is left out where it
cannot be run; all else is greyed then."""


def context_menu(window: Frame, place: str) -> QMenu:
    """The menu of a place, as things are now."""
    window.refresh_commands()
    menu = QMenu(window)
    for entry in PLACES[place].split():
        if entry == "-":
            menu.addSeparator()
        elif entry.startswith(">"):
            _add_submenu(window, menu, *entry[1:].replace("_", " ").split(":"))
        elif not entry.startswith("?") or command(entry[1:]).when(window):
            menu.addAction(window.action(entry.lstrip("?")))
    return menu


def _add_submenu(window: Frame, menu: QMenu, name: str, under: str) -> None:
    """A submenu of a menu, greyed where nothing in it can be run."""
    items = [item for item in COMMANDS if (item.menu, item.under) == (name, under)]
    part = menu.addMenu(under)
    for item in items:
        part.addAction(window.action(item.id))
    part.menuAction().setEnabled(any(item.when(window) for item in items))
