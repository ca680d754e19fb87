"""Who reads: how fast, by whom a video is watched. All of it common practice, no source."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Audience:
    """`letters` (and blanks) a second that are read, and `words` a minute of what passes by."""

    title: str
    letters: float
    words: float


AUDIENCES: dict[str, Audience] = {
    "adults": Audience("Adults", 15.0, 180.0),
    "children": Audience("Children", 9.0, 110.0),
    "subtitles": Audience("Readers of subtitles", 17.0, 200.0),
}
USUAL = "adults"
