"""WebVTT (W3C Candidate Recommendation, 4 April 2019): cues with settings, styles and times of words."""

from __future__ import annotations

import re

from rovix.exchange.captions import CaptionError, Captions, Cue, Lost
from rovix.exchange.cue_text import parse_cue_text, tagged

_TIME = r"(?:(\d{2,}):)?([0-5]\d):([0-5]\d)\.(\d{3})"
_TIMING = re.compile(rf"^\s*{_TIME}\s+-->\s+{_TIME}(.*)$")
_MOMENT = re.compile(_TIME)
_ALIGNS = {
    "start": "left",
    "left": "left",
    "center": "centre",
    "middle": "centre",
    "end": "right",
    "right": "right",
}
_LINES = 15
"""A line of WebVTT is about a fifteenth of the frame's height, section 4.3."""


class WebVtt:
    """Reads and writes `.vtt`."""

    suffix, name = ".vtt", "WebVTT"

    def read(self, text: str) -> Captions:
        if not re.match(r"\ufeff?WEBVTT(?:[ \t\n]|$)", text):
            raise CaptionError("a WebVTT file begins with the word WEBVTT, and this one does not.")
        lost, cues = Lost(), []
        for block in re.split(r"\n{2,}", text.split("\n", 1)[1] if "\n" in text else ""):
            lines = block.strip("\n").split("\n")
            head = lines[0].split()[0] if lines[0].split() else ""
            if head in ("STYLE", "REGION"):
                lost.add(f"A block {head} is not taken over")
            elif head != "NOTE":
                cue = _cue(lines, lost)
                if cue is not None:
                    cues.append(cue)
        return Captions(tuple(cues), lost.said())

    def write(self, cues: tuple[Cue, ...]) -> str:
        return "\n\n".join(["WEBVTT", *map(_written, cues)]) + "\n"


def _cue(lines: list[str], lost: Lost) -> Cue | None:
    """The cue of a block; its first line may be a name."""
    at = next((n for n, line in enumerate(lines[:2]) if "-->" in line), None)
    if at is None:
        if lines[0].strip():
            lost.add("A block without times is left out")
        return None
    timing = _TIMING.match(lines[at])
    if timing is None:
        lost.add("A cue whose times cannot be read is left out")
        return None
    start, end = _seconds(timing.groups()[:4]), _seconds(timing.groups()[4:8])
    parsed = parse_cue_text("\n".join(lines[at + 1 :]), _moment, lost)
    if end <= start or not parsed.text:
        lost.add("A cue without words or without time is left out")
        return None
    place = _settings(timing[9], lost)
    times = tuple((index, moment) for index, moment in parsed.times if start <= moment <= end)
    return Cue(start, end, parsed.text, tuple(parsed.styles), times, **place)  # type: ignore[arg-type]


def _settings(text: str, lost: Lost) -> dict[str, object]:
    """Where the words stand, by the settings of the cue."""
    found: dict[str, object] = {}
    for setting in text.split():
        name, _, value = setting.partition(":")
        value = value.split(",")[0]
        if name == "align" and value in _ALIGNS:
            found["align"] = _ALIGNS[value]
        elif name in ("position", "line") and re.fullmatch(r"\d+(\.\d+)?%", value):
            found["across" if name == "position" else "down"] = min(1.0, float(value[:-1]) / 100)
        elif name == "line" and re.fullmatch(r"-?\d+", value):
            number = int(value)
            found["down"] = min(
                max((number + 0.5 if number >= 0 else _LINES + number + 0.5) / _LINES, 0.0), 1.0
            )
        elif name in ("vertical", "region"):
            lost.add(f"The setting {name} is not taken over")
    return found


def _moment(tag: str) -> float | None:
    found = _MOMENT.fullmatch(tag)
    return None if found is None else _seconds(found.groups())


def _seconds(parts: tuple[str | None, ...]) -> float:
    hours, minutes, seconds, thousandths = (int(part or 0) for part in parts)
    return (1000 * (hours * 3600 + minutes * 60 + seconds) + thousandths) / 1000


def clock(seconds: float, point: str = ".") -> str:
    """`01:02:03.456`."""
    whole = round(seconds * 1000)
    return (
        f"{whole // 3_600_000:02}:{whole // 60_000 % 60:02}:{whole // 1000 % 60:02}{point}{whole % 1000:03}"
    )


def _written(cue: Cue) -> str:
    settings = []
    if cue.down is not None:
        settings.append(f"line:{cue.down * 100:.4g}%")
    if cue.across is not None:
        settings.append(f"position:{cue.across * 100:.4g}%")
    if cue.align in ("left", "right"):
        settings.append(f"align:{cue.align}")
    times = {index: f"<{clock(moment)}>" for index, moment in cue.times}
    # A blank line would end the cue.
    text = re.sub(r"\n{2,}", "\n", tagged(cue.text, cue.styles, times, _escaped))
    return " ".join([f"{clock(cue.start)} --> {clock(cue.end)}", *settings]) + f"\n{text}"


def _escaped(letter: str) -> str:
    return {"&": "&amp;", "<": "&lt;", ">": "&gt;"}.get(letter, letter)


FORMAT = WebVtt()
