"""The sheet: the selected layer's settings in working order."""

from rovix.desktop.sheet.sheet import Sheet

__all__ = ["Sheet"]
