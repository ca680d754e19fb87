"""The text of a cue: its tags become styles and times, in WebVTT (W3C, section 6.4) and as SRT has them."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass, field
from html import unescape

from rovix.exchange.captions import CueStyle, Lost

_TAG = re.compile(r"<([^<>\n]*)>")
_COLOURS = {
    "white": "#ffffff", "lime": "#00ff00", "cyan": "#00ffff", "red": "#ff0000", "yellow": "#ffff00",
    "magenta": "#ff00ff", "blue": "#0000ff", "black": "#000000",
}  # fmt: skip
"""The default classes of colour of WebVTT, section 5; as SRT's font tags name them, too."""
_TOLD = {
    "u": "Underlining is not taken over", "v": "The speaker's name is not taken over",
    "ruby": "Ruby is not taken over",
}  # fmt: skip
_HEX = re.compile(r"#[0-9a-fA-F]{6}")
_FONT = re.compile(r"""font\b.*?\bcolor\s*=\s*["']?([#\w]+)""", re.IGNORECASE)


@dataclass(slots=True)
class Parsed:
    """Plain text, styles of its characters, and characters with the times at which they come."""

    text: str = ""
    styles: list[CueStyle] = field(default_factory=list)
    times: list[tuple[int, float]] = field(default_factory=list)


@dataclass(slots=True)
class _Open:
    tag: str
    at: int
    colour: str | None = None


def parse_cue_text(raw: str, time_of: Callable[[str], float | None], lost: Lost) -> Parsed:
    """A cue's text without its tags; `time_of` reads a time tag, None where it is none."""
    made, waiting, at = Parsed(), list[_Open](), 0
    for found in _TAG.finditer(raw):
        made.text += unescape(raw[at : found.start()])
        at = found.end()
        _take(found[1].strip(), made, waiting, time_of, lost)
    made.text += unescape(raw[at:])
    for left in waiting:
        _close(left, made)
    return _stripped(made)


def _take(
    tag: str, made: Parsed, waiting: list[_Open], time_of: Callable[[str], float | None], lost: Lost
) -> None:
    """Take a tag: it opens or closes a style, says a time, or is told to be lost."""
    if tag.startswith("/"):
        name = tag[1:].split(".")[0].lower()
        match = next((opened for opened in reversed(waiting) if opened.tag == name), None)
        if match is not None:
            waiting.remove(match)
            _close(match, made)
        return
    moment = time_of(tag)
    if moment is not None:
        made.times.append((len(made.text), moment))
        return
    name, *classes = tag.split(" ")[0].split(".")
    name = name.lower()
    colour = next((_COLOURS[c] for c in classes if c in _COLOURS), None)
    if name == "font":
        shade = _FONT.match(tag)
        said = shade[1].lower() if shade else ""
        colour = said if _HEX.fullmatch(said) else _COLOURS.get(said)
    if name in ("i", "b", "c", "font"):
        if any(c not in _COLOURS for c in classes) or (name == "font" and colour is None):
            lost.add("A class or font of a style sheet is not taken over")
    else:
        lost.add(_TOLD.get(name, f"The tag <{name}> is not taken over"))
    waiting.append(_Open(name, len(made.text), colour))


def _close(opened: _Open, made: Parsed) -> None:
    end = len(made.text)
    style = CueStyle(opened.at, end, opened.tag == "i", opened.tag == "b", opened.colour)
    if end > opened.at and (style.italic or style.bold or style.colour):
        made.styles.append(style)


def _stripped(made: Parsed) -> Parsed:
    """Without blanks at both ends, styles and times moved along."""
    start = len(made.text) - len(made.text.lstrip())
    text = made.text.strip()

    def shift(index: int) -> int:
        return min(max(0, index - start), len(text))

    styles = [CueStyle(shift(s.low), shift(s.high), s.italic, s.bold, s.colour) for s in made.styles]
    times = [(shift(index), moment) for index, moment in made.times if shift(index) < len(text)]
    return Parsed(text, [style for style in styles if style.low < style.high], times)


def tagged(
    text: str, styles: tuple[CueStyle, ...], times: dict[int, str], escape: Callable[[str], str]
) -> str:
    """Text with its styles as tags, and time tags before the characters that they are of."""
    opening: dict[int, list[str]] = {}
    closing: dict[int, list[str]] = {}
    for style in sorted(styles, key=lambda style: (style.low, -style.high)):
        for on, name in ((style.italic, "i"), (style.bold, "b")):
            if on:
                opening.setdefault(style.low, []).append(f"<{name}>")
                closing.setdefault(style.high, []).insert(0, f"</{name}>")
    made = []
    for index, letter in enumerate(text):
        made += [*closing.get(index, []), times.get(index, ""), *opening.get(index, []), escape(letter)]
    return "".join([*made, *closing.get(len(text), [])])
