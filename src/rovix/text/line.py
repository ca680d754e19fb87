"""One line of words, shaped from left to right."""

from __future__ import annotations

import unicodedata
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import groupby

import numpy as np
import uharfbuzz as hb
from numpy.typing import NDArray

from rovix.text.bidi import visual_order
from rovix.text.casing import cased
from rovix.text.face import Face
from rovix.text.runs import Run, runs_of
from rovix.text.setting import Setting

CURSIVE = frozenset({"Arab", "Syrc", "Mong", "Nkoo", "Mand", "Phag", "Adlm", "Rohg"})
"""Scripts whose letters join; CSS Text says tracking must not tear them apart."""
Spans = tuple[tuple[int, Setting], ...]


@dataclass(frozen=True, slots=True, eq=False)
class Line:
    """Glyphs of one line in visual order, px, pen starting at x = 0, baseline at y = 0, y down.

    `cluster` is the first character (in the line) behind each glyph; `size` the px of its em;
    `rising` says for each glyph whether its run goes left to right. `cap` is the height of the
    largest capitals, `em` the largest size, both also where the line is empty; `trail` is the tracking
    that another letter on its right would add.
    """

    faces: tuple[Face, ...]
    face: NDArray[np.int32]
    glyph: NDArray[np.uint32]
    x: NDArray[np.float64]
    y: NDArray[np.float64]
    advance: NDArray[np.float64]
    cluster: NDArray[np.int64]
    size: NDArray[np.float64]
    rising: NDArray[np.bool_]
    cap: float
    em: float
    trail: float

    @property
    def width(self) -> float:
        """The sum of advances; nothing is added behind the last letter."""
        return float(self.advance.sum())


def shape_line(text: str, settings: Sequence[Setting], case: str = "as-typed") -> Line:
    """Shape a line's characters (no line feeds), each with its setting; one more setting stands
    behind the last, which an empty line has its height from."""
    return _shaped(text, spans_of(settings[: max(1, len(text))]), case)


def spans_of(settings: Sequence[Setting]) -> Spans:
    """Settings as (how many characters, setting)."""
    return tuple((sum(1 for _ in group), setting) for setting, group in groupby(settings))


# Typing changes one line of many; the others are here again.
@lru_cache(maxsize=2048)
def _shaped(text: str, spans: Spans, case: str) -> Line:
    settings = [setting for count, setting in spans for _ in range(count)]
    shown, source = cased(text, case)
    runs = runs_of(shown, [settings[at] for at in source])
    ordered = [runs[index] for index in visual_order([run.level for run in runs])]
    shaped = [_shape_run(shown, run) for run in ordered]
    faces = tuple(dict.fromkeys(run.face for run in ordered))
    counts = [len(part[0]) for part in shaped]
    columns = [np.concatenate([part[column] for part in shaped]) if shaped else _EMPTY for column in range(5)]
    glyph, cluster, advance, x_offset, y_offset = columns
    trail = _tracking(ordered[-1]) if len(advance) else 0.0
    if len(advance):
        advance[-1] -= trail
    pen = np.concatenate([[0.0], np.cumsum(advance)])[: len(advance)]
    return Line(
        faces,
        np.repeat([faces.index(run.face) for run in ordered], counts).astype(np.int32),
        glyph.astype(np.uint32),
        pen + x_offset,
        -y_offset,
        advance,
        np.array(source, dtype=np.int64)[cluster.astype(np.int64)] if len(cluster) else _NONE,
        np.repeat([run.setting.size for run in ordered], counts).astype(np.float64),
        np.repeat([run.level % 2 == 0 for run in ordered], counts).astype(np.bool_),
        max(setting.face.cap_height * setting.size for _, setting in spans),
        max(setting.size for _, setting in spans),
        trail,
    )


def unit_advances(text: str, settings: Sequence[Setting], case: str) -> tuple[float, ...]:
    """px of each character of a part of a line, set by itself with more to follow."""
    return _advances(text, spans_of(settings[: len(text)]), case)


@lru_cache(maxsize=16384)
def _advances(text: str, spans: Spans, case: str) -> tuple[float, ...]:
    line = _shaped(text, spans, case)
    sums = np.zeros(len(text))
    np.add.at(sums, line.cluster, line.advance)
    if len(line.cluster):
        sums[line.cluster[-1]] += line.trail
    return tuple(sums.tolist())


_EMPTY = np.zeros(0)
_NONE = np.zeros(0, dtype=np.int64)


def justified(line: Line, text: str, width: float) -> Line:
    """A line whose blanks are made wider so that it is as wide as that; one without stays as it is."""
    blank = np.array([text[at].isspace() for at in line.cluster.tolist()], dtype=bool)
    missing = width - line.width
    if missing <= 0 or not blank.any():
        return line
    added = blank * (missing / blank.sum())
    return replace(line, x=line.x + np.cumsum(added) - added, advance=line.advance + added)


def columned(line: Line, text: str, gap: float) -> tuple[Line, float | None]:
    """A line whose first tab is `gap` px wide, and px from its left to the middle of that; None without."""
    tab = text.find("\t")
    found = np.flatnonzero(line.cluster == tab) if tab >= 0 else _NONE
    if not len(found):
        return line, None
    at = int(found[0])
    added = np.zeros(len(line.advance))
    added[at] = gap - line.advance[at]
    moved = replace(line, x=line.x + np.cumsum(added) - added, advance=line.advance + added)
    return moved, float(moved.advance[:at].sum()) + gap / 2


def _shape_run(text: str, run: Run) -> tuple[NDArray[np.float64], ...]:
    """Glyph, cluster, advance, x and y offset columns of a run, px, y up."""
    buffer = hb.Buffer()
    # The whole line goes in as context, so that joining letters see their neighbours.
    buffer.add_codepoints([_shaped_as(c) for c in text], run.start, run.end - run.start)
    buffer.direction = "rtl" if run.level % 2 else "ltr"
    buffer.script = run.script
    buffer.language = "und"
    hb.shape(run.face.hb_font, buffer, features_of(run.setting))
    infos, positions = buffer.glyph_infos, buffer.glyph_positions
    scale = run.setting.size / run.face.upem
    glyph = np.array([info.codepoint for info in infos], dtype=np.float64)
    cluster = np.array([info.cluster for info in infos], dtype=np.float64)
    place = np.array([(p.x_advance, p.x_offset, p.y_offset) for p in positions], dtype=np.float64)
    place = place.reshape(-1, 3) * scale
    if run.setting.fixed_figures:
        _fix_figures(place, [text[int(at)] for at in cluster], run)
    # A tracked letter is a cluster: base and marks part from the next letter, not from each other.
    last = np.append(cluster[1:] != cluster[:-1], True) if len(cluster) else np.zeros(0, bool)
    place[:, 0] += last * _tracking(run)
    return glyph, cluster, place[:, 0], place[:, 1], place[:, 2]


def _shaped_as(character: str) -> int:
    return 0x20 if character == "\t" else ord(character)


def features_of(setting: Setting) -> dict[str, int]:
    """The OpenType features that words are shaped with, beside those that are always on."""
    # Letters that part must not be drawn as one glyph.
    parted = {} if setting.ligatures and not setting.tracking else {"liga": 0, "clig": 0}
    figures = {"tnum": 1} if setting.fixed_figures else {}
    return figures | dict(setting.features) | parted


def _fix_figures(place: NDArray[np.float64], characters: list[str], run: Run) -> None:
    """Give all figures the width of the widest, each in the middle of it."""
    widest = _widest_figure(run.face, tuple(features_of(run.setting).items())) * run.setting.size
    for number, character in enumerate(characters):
        if unicodedata.decimal(character, None) is not None and place[number, 0] > 0:
            place[number, 1] += (widest - place[number, 0]) / 2
            place[number, 0] = widest  # kerning with it, which would move the figures apart


@lru_cache(maxsize=256)
def _widest_figure(face: Face, features: tuple[tuple[str, int], ...]) -> float:
    """The widest of 0 to 9 in em."""
    buffer = hb.Buffer()
    buffer.add_str("0123456789")
    buffer.guess_segment_properties()
    # Kerning must not count: a figure's width is its own.
    hb.shape(face.hb_font, buffer, dict(features) | {"kern": 0})
    return max(position.x_advance for position in buffer.glyph_positions) / face.upem


def _tracking(run: Run) -> float:
    return 0.0 if run.script in CURSIVE else run.setting.tracking * run.setting.size
