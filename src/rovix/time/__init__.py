"""Time as whole frames on an exact rate; seconds only at the edges."""

from rovix.time.playback import pass_length, played
from rovix.time.rate import Rate
from rovix.time.span import Span
from rovix.time.timecode import frame_of, timecode

__all__ = ["Rate", "Span", "frame_of", "pass_length", "played", "timecode"]
