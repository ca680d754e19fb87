"""Colours, type and icons by their role."""

from rovix.desktop.theme.icons import icon
from rovix.desktop.theme.roles import DARK, Roles, colour
from rovix.desktop.theme.style import apply_theme, font, give_sheet

__all__ = ["DARK", "Roles", "apply_theme", "colour", "font", "give_sheet", "icon"]
