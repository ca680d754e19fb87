"""Every command of the window, as data: menus, shortcuts, finder and the table of F1 read this list."""

from rovix.desktop.commands.arrange_menu import ARRANGE
from rovix.desktop.commands.clip_menu import CLIP
from rovix.desktop.commands.command import Command
from rovix.desktop.commands.edit_menu import EDIT
from rovix.desktop.commands.effect_commands import effect_commands
from rovix.desktop.commands.file_menu import FILE
from rovix.desktop.commands.follow_menu import FOLLOW
from rovix.desktop.commands.insert_menu import INSERT
from rovix.desktop.commands.keys_menu import KEYS
from rovix.desktop.commands.masks_menu import MASKS
from rovix.desktop.commands.play_menu import PLAY
from rovix.desktop.commands.sequence_menu import SEQUENCE
from rovix.desktop.commands.text_menu import WORDS
from rovix.desktop.commands.titles_menu import TITLES
from rovix.desktop.commands.track_menu import TRACK
from rovix.desktop.commands.view_menu import HELP, VIEW

COMMANDS: tuple[Command, ...] = (
    *FILE, *EDIT, *INSERT, *TITLES, *CLIP, *MASKS, *FOLLOW, *WORDS, *ARRANGE, *KEYS, *TRACK, *SEQUENCE, *PLAY, *VIEW, *HELP,
)  # fmt: skip
MENUS = (
    "File",
    "Edit",
    "Insert",
    "Clip",
    "Text",
    "Arrange",
    "Keys",
    "Track",
    "Sequence",
    "Play",
    "View",
    "Help",
)
_BY_ID = {item.id: item for item in COMMANDS}


def command(identity: str) -> Command:
    """The command with that id."""
    return _BY_ID[identity]


__all__ = ["COMMANDS", "MENUS", "Command", "command", "effect_commands"]
