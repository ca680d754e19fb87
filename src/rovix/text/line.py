"""One line of words, shaped from left to right."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import uharfbuzz as hb
from numpy.typing import NDArray

from rovix.text.bidi import visual_order
from rovix.text.face import Face
from rovix.text.runs import Run, runs_of

# Their letters join; CSS Text says tracking must not tear them apart.
_CURSIVE = frozenset({"Arab", "Syrc", "Mong", "Nkoo", "Mand", "Phag", "Adlm", "Rohg"})


@dataclass(frozen=True, slots=True, eq=False)
class Line:
    """Glyphs of one line in visual order, px, pen starting at x = 0, baseline at y = 0, y down.

    `cluster` is the first character (in the line) behind each glyph; `rising` says for each glyph
    whether its run goes left to right.
    """

    faces: tuple[Face, ...]
    face: NDArray[np.int32]
    glyph: NDArray[np.uint32]
    x: NDArray[np.float64]
    y: NDArray[np.float64]
    advance: NDArray[np.float64]
    cluster: NDArray[np.int64]
    rising: NDArray[np.bool_]

    @property
    def width(self) -> float:
        """The sum of advances; nothing is added behind the last letter."""
        return float(self.advance.sum())


@dataclass(frozen=True, slots=True)
class Setting:
    """What shaping needs to know beside the words."""

    face: Face
    weight: int
    italic: bool
    size: float
    tracking: float
    ligatures: bool


def shape_line(text: str, setting: Setting) -> Line:
    """Shape a line's characters (no line feeds) at a size in px."""
    runs = runs_of(text, setting.face, setting.weight, setting.italic)
    ordered = [runs[index] for index in visual_order([run.level for run in runs])]
    shaped = [_shape_run(text, run, setting) for run in ordered]
    faces = tuple(dict.fromkeys(run.face for run in ordered))
    counts = [len(part[0]) for part in shaped]
    columns = [np.concatenate([part[column] for part in shaped]) if shaped else _EMPTY for column in range(5)]
    glyph, cluster, advance, x_offset, y_offset = columns
    if len(advance):
        advance[-1] -= _tracking(ordered[-1], setting)
    pen = np.concatenate([[0.0], np.cumsum(advance)])[: len(advance)]
    return Line(
        faces,
        np.repeat([faces.index(run.face) for run in ordered], counts).astype(np.int32),
        glyph.astype(np.uint32),
        pen + x_offset,
        -y_offset,
        advance,
        cluster.astype(np.int64),
        np.repeat([run.level % 2 == 0 for run in ordered], counts).astype(np.bool_),
    )


_EMPTY = np.zeros(0)


def _shape_run(text: str, run: Run, setting: Setting) -> tuple[NDArray[np.float64], ...]:
    """Glyph, cluster, advance, x and y offset columns of a run, px, y up."""
    buffer = hb.Buffer()
    # The whole line goes in as context, so that joining letters see their neighbours.
    buffer.add_codepoints([_shaped_as(c) for c in text], run.start, run.end - run.start)
    buffer.direction = "rtl" if run.level % 2 else "ltr"
    buffer.script = run.script
    buffer.language = "und"
    hb.shape(run.face.hb_font, buffer, _features(setting))
    infos, positions = buffer.glyph_infos, buffer.glyph_positions
    scale = setting.size / run.face.upem
    glyph = np.array([info.codepoint for info in infos], dtype=np.float64)
    cluster = np.array([info.cluster for info in infos], dtype=np.float64)
    place = np.array([(p.x_advance, p.x_offset, p.y_offset) for p in positions], dtype=np.float64)
    place = place.reshape(-1, 3) * scale
    # A tracked letter is a cluster: base and marks part from the next letter, not from each other.
    last = np.append(cluster[1:] != cluster[:-1], True) if len(cluster) else np.zeros(0, bool)
    place[:, 0] += last * _tracking(run, setting)
    return glyph, cluster, place[:, 0], place[:, 1], place[:, 2]


def _shaped_as(character: str) -> int:
    return 0x20 if character == "\t" else ord(character)


def _features(setting: Setting) -> dict[str, bool]:
    # Letters that part must not be drawn as one glyph.
    return {} if setting.ligatures and not setting.tracking else {"liga": False, "clig": False}


def _tracking(run: Run, setting: Setting) -> float:
    return 0.0 if run.script in _CURSIVE else setting.tracking * setting.size
