"""What the window knows of colours: those in use, those chosen last, those of the picture."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from rovix.desktop.frame import Frame
from rovix.desktop.viewer.line_hand import LineHand
from rovix.desktop.viewer.lined import MaskLine
from rovix.model.colours_used import used_colours

_RECENT, _SPACE = "colours/recent", "colours/space"
_MOST = 9


class WindowColours(Frame):
    """Serves the colour picker."""

    def used_colours(self) -> list[str]:
        return used_colours(self.document.whole)

    def recent_colours(self) -> list[str]:
        kept = self.settings.value(_RECENT, [])
        return [str(text) for text in kept] if isinstance(kept, list) else [str(kept)]

    def note_colour(self, text: str) -> None:
        others = (other for other in self.recent_colours() if other != text)
        self.settings.setValue(_RECENT, [text, *others][:_MOST])

    def pick_from_picture(self, take: Callable[[str | None], None]) -> None:
        self.say("Click a colour in the picture; Escape leaves.")
        self.viewer.begin_dropper(take)

    def draw_line(self, effect: str) -> None:
        """Edit the line of the selected layer's mask in the picture."""
        clip = self.document.clip
        if clip is not None:
            self.document.seek(min(max(self.document.playhead, clip.start), clip.end - 1))
            self.viewer.take_up(LineHand(self.document, clip.id, MaskLine(self.document, clip.id, effect)))

    def around_words(self) -> NDArray[np.float64] | None:
        return self.viewer.around_words()

    def colour_space(self, chosen: str = "") -> str:
        if chosen:
            self.settings.setValue(_SPACE, chosen)
        kept = str(self.settings.value(_SPACE, "hsv"))
        return kept if kept in ("hsv", "oklch") else "hsv"
