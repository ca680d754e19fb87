"""Which tests are the core's: those without an interface."""

from __future__ import annotations

from pathlib import Path

CORE = (
    "time",
    "curve",
    "model",
    "exchange",
    "text",
    "motion",
    "check",
    "edit",
    "paint",
    "media",
    "vision",
    "formats",
    "engine",
)
"""The folders of tests whose code has no interface; Qt is blocked while they run."""
_TESTS = Path(__file__).parent


def is_core(path: Path) -> bool:
    """Whether a test's file is one of the core's."""
    return path.is_relative_to(_TESTS) and path.relative_to(_TESTS).parts[0] in CORE


def import_qt() -> None:
    """What no module of the core may do."""
    import PySide6.QtCore  # noqa: F401
