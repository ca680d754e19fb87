"""The cards of crawls and rolls."""

from __future__ import annotations

from rovix.edit.crossing import give_crossing
from rovix.edit.each import ClipEdit
from rovix.engine.card_project import Card, crossing_project
from rovix.model import Clip, Project, TextClip
from rovix.model.clip_kinds import is_layer
from rovix.motion.ready_crossings import READY_CROSSINGS
from rovix.time import Rate


class CrossingDeck:
    """None, and the ready crawls and rolls."""

    title = "Crawl"
    hint = "Select a layer to let it crawl or roll through the frame."

    def __init__(self) -> None:
        self._ready = [None, *READY_CROSSINGS.values()]

    def read(self) -> None:
        """There are none of the user's own."""

    def names(self) -> list[str]:
        return ["None", *READY_CROSSINGS]

    def about(self, number: int) -> str:
        crossing = self._ready[number]
        said = "none stands" if crossing is None else f"{crossing.way} ticker credits crawl roll"
        return f"{self.names()[number]} {said}".lower()

    def is_own(self, number: int) -> bool:
        return False

    def family(self, number: int) -> str:
        crossing = self._ready[number]
        return "" if crossing is None else "Crawls" if crossing.across else "Rolls"

    def removing(self) -> tuple[str, ClipEdit] | None:
        return "Stand still", lambda project, clip: give_crossing(project, clip, None)

    def usable(self, clip: Clip | None) -> bool:
        return is_layer(clip)

    def chosen(self, clip: Clip | None) -> int | None:
        worn = clip.crossing if is_layer(clip) else None
        return self._ready.index(worn) if self.usable(clip) and worn in self._ready else None

    def trying(self, number: int) -> ClipEdit:
        return lambda project, clip: give_crossing(project, clip, self._ready[number])

    def taking(self, number: int) -> tuple[str, ClipEdit]:
        return f"Apply {self.names()[number].lower()}", self.trying(number)

    def stacking(self, number: int) -> tuple[str, ClipEdit] | None:
        return None

    def drawn(self, clip: TextClip, rate: Rate) -> tuple[Project, list[Card]]:
        return crossing_project(clip, self._ready, rate)
