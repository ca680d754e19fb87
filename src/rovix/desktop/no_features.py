"""PySide need not read our sources.

It reads the source of each module that is imported after it, ours and others', to see whether that
switches other names of Qt on (its `__feature__`). Nothing here does, and reading takes a sixth of the start.
"""

from __future__ import annotations

import sys
from typing import Any

import PySide6.QtCore  # noqa: F401  # what reads comes with it


def read_no_sources() -> None:
    """Have PySide take every module from now on for one that switches nothing."""
    found: Any = sys.modules.get("shibokensupport.feature")
    if hasattr(found, "_mod_uses_pyside"):
        found._mod_uses_pyside = lambda _module: False
