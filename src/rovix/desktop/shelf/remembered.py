"""Which cards of the shelf the user likes and took last, kept in the settings."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QSettings

_RECENT = 8


class Remembered:
    """Names of cards by deck: favourites, and those taken on last, the latest first."""

    def __init__(self, settings: QSettings) -> None:
        self._settings = settings

    def favourites(self, deck: str) -> set[str]:
        """Cards with a star."""
        return set(self._names(f"shelf/{deck}/favourites"))

    def recent(self, deck: str) -> list[str]:
        """Cards taken on last, the latest first, at most eight."""
        return self._names(f"shelf/{deck}/recent")

    def toggle(self, deck: str, name: str) -> None:
        """Give a card a star, or take it away."""
        self._settings.setValue(f"shelf/{deck}/favourites", sorted(self.favourites(deck) ^ {name}))

    def folded(self, deck: str) -> set[str]:
        """Groups of cards that are folded away."""
        return set(self._names(f"shelf/{deck}/folded"))

    def toggle_fold(self, deck: str, group: str) -> None:
        """Fold a group of cards away, or show it."""
        self._settings.setValue(f"shelf/{deck}/folded", sorted(self.folded(deck) ^ {group}))

    def use(self, deck: str, name: str) -> None:
        """Note that a card was taken on."""
        latest = [name, *(other for other in self.recent(deck) if other != name)]
        self._settings.setValue(f"shelf/{deck}/recent", latest[:_RECENT])

    def _names(self, key: str) -> list[str]:
        kept: Any = self._settings.value(key, [])
        # A list of one comes back from a settings file as a text, an empty one as nothing.
        return [kept] if isinstance(kept, str) else [str(name) for name in kept or []]
