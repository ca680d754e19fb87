"""SRT, as players read it: numbered blocks of words with times; tags of style as in HTML."""

from __future__ import annotations

import re

from rovix.exchange.captions import CaptionError, Captions, Cue, Lost
from rovix.exchange.cue_text import parse_cue_text, tagged
from rovix.exchange.vtt import clock

_TIME = r"(\d{1,3}):(\d{1,2}):(\d{1,2})[,.](\d{1,3})"
_TIMING = re.compile(rf"^\s*{_TIME}\s*-->\s*{_TIME}.*$", re.MULTILINE)
_OVERRIDE = re.compile(r"\{\\[^}]*\}")


class SubRip:
    """Reads and writes `.srt`."""

    suffix, name = ".srt", "SRT"

    def read(self, text: str) -> Captions:
        found = list(_TIMING.finditer(text.lstrip("\ufeff")))
        text = text.lstrip("\ufeff")
        if not found:
            raise CaptionError("there is no line with times such as 00:00:01,000 --> 00:00:02,500 in it.")
        lost, cues = Lost(), []
        for timing, following in zip(found, [*found[1:], None], strict=True):
            block = text[timing.end() : len(text) if following is None else following.start()]
            cue = _cue(timing, _words_of(block, following is None), lost)
            if cue is not None:
                cues.append(cue)
        return Captions(tuple(cues), lost.said())

    def write(self, cues: tuple[Cue, ...]) -> str:
        return "\n".join(_written(number, cue) for number, cue in enumerate(cues, 1))


def _words_of(block: str, last: bool) -> str:
    """The words of a block, without the number of the next one."""
    lines = block.strip("\n").split("\n")
    if not last and lines and lines[-1].strip().isdigit():
        lines.pop()
    return "\n".join(line for line in lines if line.strip())


def _cue(timing: re.Match[str], words: str, lost: Lost) -> Cue | None:
    start, end = _seconds(timing.groups()[:4]), _seconds(timing.groups()[4:])
    if _OVERRIDE.search(words):
        lost.add("An override in braces is not taken over")
    parsed = parse_cue_text(_OVERRIDE.sub("", words), lambda _: None, lost)
    if end <= start or not parsed.text:
        lost.add("A cue without words or without time is left out")
        return None
    return Cue(start, end, parsed.text, tuple(parsed.styles))


def _seconds(parts: tuple[str, ...]) -> float:
    hours, minutes, seconds, fraction = parts
    whole = int(hours) * 3600 + int(minutes) * 60 + int(seconds)
    return (1000 * whole + int(fraction.ljust(3, "0"))) / 1000


def _written(number: int, cue: Cue) -> str:
    text = re.sub(r"\n{2,}", "\n", tagged(cue.text, cue.styles, {}, lambda letter: letter))
    return f"{number}\n{clock(cue.start, ',')} --> {clock(cue.end, ',')}\n{text}\n"


FORMAT = SubRip()
