"""Whether the words can be read, and how fast they go, beside their moves."""

from __future__ import annotations

from PySide6.QtWidgets import QLabel

from rovix.check.legibility import FINDING, LETTERS_A_SECOND, Legibility, legibility
from rovix.desktop.document import Document
from rovix.model import Clip
from rovix.model.clip_kinds import has_words

_FAST = 10.0  # px a frame from which the speed is worth a word


class ReadsNote(QLabel):
    """One line on the leading layer's words; hidden for what has none, and for what crosses."""

    def __init__(self, document: Document) -> None:
        super().__init__("", objectName="muted", wordWrap=True)
        self._document = document
        self._meant = (
            f"From the end of the entrance to the start of the exit, beside what reading takes: "
            f"{LETTERS_A_SECOND:.0f} letters a second and {FINDING:.1f} s to find them (common practice). "
            "The fastest piece in px of the frame a frame, as far as it can be seen."
        )

    def show_clip(self, clip: Clip) -> None:
        """Show a layer's words; what a hand drags is looked at when it lets go."""
        if self._document.history.has_draft:
            return
        # What crawls or rolls never stands.
        there = has_words(clip) and bool(clip.text.content.strip()) and clip.crossing is None
        self.setVisible(there)
        if there and has_words(clip):
            project = self._document.project
            reads = legibility(clip, project.sequence.size, self._document.rate)
            self.setText(said_of(reads))
            pace = (
                f" While they stand that is {reads.words_a_minute:.0f} words a minute." if reads.shown else ""
            )
            self.setToolTip(self._meant + pace)


def said_of(reads: Legibility) -> str:
    """Time to stand and to read, the fastest piece, and what is wrong with it."""
    said = f"Stands {reads.shown:.1f} s, read in {reads.needed:.1f} s"
    if reads.is_short:
        said = f"Too short to read: stands {reads.shown:.1f} s, read in {reads.needed:.1f} s"
    if reads.fastest is not None and reads.fastest >= _FAST:
        said += f" · {reads.fastest:.0f} px a frame"
    if reads.seems_still:
        said += f". It turns {reads.turning:.0f}° a frame, nearly whole turns: it seems to stand still."
    return said
