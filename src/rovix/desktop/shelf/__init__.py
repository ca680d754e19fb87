"""The shelf: ready moves, shown on the selected words."""

from rovix.desktop.shelf.shelf import Shelf

__all__ = ["Shelf"]
