"""What `rovix` runs: the command line, for a window with a start that does not wait.

The server of processes is started before anything else is imported, as it takes longest.
"""

from __future__ import annotations

import gc
import os
import sys

_WITH_WINDOW = frozenset({"open", "demo"})


def main() -> None:
    """Run the command line."""
    if opens_window(sys.argv[1:]):
        # Until the first picture is up nothing that is made goes again: `desktop.app` turns it on.
        gc.disable()
        from rovix.processes import warm_up

        warm_up()
    from rovix.cli import main as commands

    commands()


def opens_window(arguments: list[str]) -> bool:
    """Whether a command line asks for the window, and there is a screen for it."""
    return bool(arguments) and arguments[0] in _WITH_WINDOW and has_display() and "--help" not in arguments


def has_display() -> bool:
    """Whether there is a screen to open a window on."""
    return any(os.environ.get(name) for name in ("QT_QPA_PLATFORM", "DISPLAY", "WAYLAND_DISPLAY"))
