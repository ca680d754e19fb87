"""Captions: words with the times at which they are on screen, whatever file they come from."""

from __future__ import annotations

from dataclasses import dataclass, field
from pathlib import Path
from typing import Protocol

from rovix.errors import RovixError

MOST_BYTES = 32 << 20
MOST_CUES = 10_000
ENCODINGS = {
    "utf-8": "Unicode (UTF-8)", "utf-16": "Unicode (UTF-16)",
    "cp1252": "Western European", "cp1250": "Central European",
    "cp1251": "Cyrillic", "cp1253": "Greek", "cp1254": "Turkish", "cp1255": "Hebrew", "cp1256": "Arabic",
    "shift_jis": "Japanese", "euc_kr": "Korean", "gb18030": "Chinese",
}  # fmt: skip
"""What a file may be written in, where it does not say, and what that is called."""


@dataclass(frozen=True, slots=True)
class CueStyle:
    """How characters from `low` to `high` (not included) of a cue are set."""

    low: int
    high: int
    italic: bool = False
    bold: bool = False
    colour: str | None = None


@dataclass(frozen=True, slots=True)
class Cue:
    """Words from `start` to `end` in seconds.

    `times` are characters of the text with the seconds of the file at which they come. `across` and `down`
    are where the words stand, shares of the frame, None where that is not said; `align` is left, centre,
    right or nothing.
    """

    start: float
    end: float
    text: str
    styles: tuple[CueStyle, ...] = ()
    times: tuple[tuple[int, float], ...] = ()
    across: float | None = None
    down: float | None = None
    align: str = ""


@dataclass(frozen=True, slots=True)
class Captions:
    """What a file holds, by start, and what of it is not taken over."""

    cues: tuple[Cue, ...]
    told: tuple[str, ...] = ()
    encoding: str = "utf-8"


class CaptionError(RovixError):
    """A file that holds no captions that can be used."""


class CaptionFormat(Protocol):
    """A kind of file that holds captions."""

    suffix: str
    name: str

    def read(self, text: str) -> Captions:
        """The captions of a file's text; CaptionError with the reason where there are none."""

    def write(self, cues: tuple[Cue, ...]) -> str:
        """The text of a file with these cues."""


@dataclass(slots=True)
class Lost:
    """Counts what of a file is not taken over."""

    counts: dict[str, int] = field(default_factory=dict)

    def add(self, what: str) -> None:
        self.counts[what] = self.counts.get(what, 0) + 1

    def said(self) -> tuple[str, ...]:
        """A sentence for each kind of thing."""
        return tuple(
            f"{what} ({count} times)." if count > 1 else f"{what}." for what, count in self.counts.items()
        )


def decoded(data: bytes, encoding: str | None = None) -> tuple[str, str]:
    """The text of a file and what it is written in: as said, by its mark, UTF-8, or the likeliest.

    CaptionError where it is no text.
    """
    if len(data) > MOST_BYTES:
        raise CaptionError(f"The file is larger than {MOST_BYTES >> 20} MB; words to be read never are.")
    if encoding is not None:
        try:
            return data.decode(encoding), encoding
        except (UnicodeDecodeError, LookupError) as wrong:
            raise CaptionError(f"The file is not written in {encoding}. Choose another encoding.") from wrong
    for mark, marked in ((b"\xef\xbb\xbf", "utf-8-sig"), (b"\xff\xfe", "utf-16"), (b"\xfe\xff", "utf-16")):
        if data.startswith(mark):
            return data.decode(marked, "replace"), "utf-8" if marked == "utf-8-sig" else marked
    try:
        return data.decode("utf-8"), "utf-8"
    except UnicodeDecodeError:
        pass
    if b"\0" in data:
        raise CaptionError("The file is no text.")
    # Only a file that needs it waits for it; imported above, every start would.
    from charset_normalizer import from_bytes

    likely = from_bytes(data[:200_000], cp_isolation=[name for name in ENCODINGS if name != "utf-16"]).best()
    guessed = likely.encoding if likely is not None else "cp1252"
    return data.decode(guessed, "replace"), guessed


def read_text_file(path: Path, encoding: str | None = None) -> tuple[str, str]:
    """The text of a file, lines ended by line feeds, and what it is written in. CaptionError, naming it."""
    try:
        with path.open("rb") as file:
            data = file.read(MOST_BYTES + 1)
    except OSError as wrong:
        raise CaptionError(f"{path.name} could not be opened: {wrong.strerror}.") from wrong
    try:
        text, found = decoded(data, encoding)
    except CaptionError as wrong:
        raise CaptionError(f"{path.name}: {wrong}") from wrong
    return text.replace("\r\n", "\n").replace("\r", "\n"), found


def read_captions(path: Path, formats: dict[str, CaptionFormat], encoding: str | None = None) -> Captions:
    """The captions in a file, by its suffix. CaptionError, naming the file, with the reason."""
    known = formats.get(path.suffix.lower())
    if known is None:
        kinds = ", ".join(f"{made.name} ({suffix})" for suffix, made in formats.items())
        raise CaptionError(f"{path.name} is no file of captions that can be read here. There are {kinds}.")
    text, found = read_text_file(path, encoding)
    try:
        read = known.read(text)
    except CaptionError as wrong:
        raise CaptionError(f"{path.name}: {wrong}") from wrong
    if not read.cues:
        raise CaptionError(f"{path.name} holds no captions.")
    if len(read.cues) > MOST_CUES:
        raise CaptionError(f"{path.name} holds {len(read.cues)} captions; at most {MOST_CUES} are taken.")
    cues = tuple(sorted(read.cues, key=lambda cue: (cue.start, cue.end)))
    return Captions(cues, read.told, found)
