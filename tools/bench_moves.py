"""`make bench`: moves by the piece, as ratios in one run."""

from __future__ import annotations

import numpy as np
import skia
from bench_keys import SIZE, matrices_of, median_ms
from measured import measured

from rovix.curve import easing
from rovix.model import (
    Amount,
    Beats,
    Departure,
    Fill,
    Look,
    Move,
    Plain,
    Project,
    Sequence,
    Text,
    TextClip,
    Track,
)
from rovix.motion import picture_plan
from rovix.motion.layer import LayerMotion
from rovix.paint.glyph_paths import piece_paths
from rovix.paint.painter import Painter
from rovix.time import Rate

LETTERS, DRAWN = 500, 2000
FRAME = 20.0
WAVE = {"scale_x": 0.0, "scale_y": 0.0, "rotation_z": -50.0, "opacity": 0.0}
RISE = {"y": 80.0, "slant": 20.0}
RIPPLE = {"y": -12.0}
NEUTRAL = {"scale_x": 1.0, "scale_y": 1.0, "opacity": 1.0}


def main() -> None:
    print("\nmoves by the piece, medians of one run")
    _evaluated()
    _drawn()


def _moves() -> tuple[Move, ...]:
    def departures(of: dict[str, float]) -> tuple[Departure, ...]:
        return tuple(Departure(channel=n, amount=Amount(value=v)) for n, v in of.items())  # type: ignore[arg-type]

    dealt = {"pieces": "letters", "length": 2.0}
    return (
        Move(role="entrance", at_once=200.0, piece_curve="cubic-out", channels=departures(WAVE), **dealt),
        Move(role="entrance", at_once=300.0, piece_curve="quint-out", channels=departures(RISE), **dealt),
        Move(
            role="loop", length=0.8, pieces="letters", piece_curve="sine-in-out", channels=departures(RIPPLE),
            beats=Beats(over="clip", phase=1.0),
        ),
    )  # fmt: skip


def _clip(letters: int, size: float, moves: tuple[Move, ...]) -> TextClip:
    words = Text(content=("kite " * letters)[: letters * 5 // 4], size=size, wrap=1700.0)
    look = Look(parts=(Fill(paint=Plain(colour="#ffffff")),))
    return TextClip(id="t", length=120, text=words, moves=moves, look=look)


def _evaluated() -> None:
    """One frame of three stacked moves over 500 letters, and the same arithmetic in NumPy."""
    motion = LayerMotion(_clip(LETTERS, 20.0, _moves()), SIZE, Rate("30"))
    assert len(motion.subject) == LETTERS
    frame = np.array([FRAME])
    pivots = motion.subject.pivots(motion.timings[0].move, np.zeros((1, 2)))[0]
    ours, plain = median_ms(lambda: motion.at(frame), 101), median_ms(lambda: _baseline(motion, pivots), 101)
    found, expected = motion.at(frame).local[0], _baseline(motion, pivots)
    assert np.allclose(found, expected, atol=1e-9), "the baseline does the same arithmetic"
    measured("500 letters x 3 moves, beside the same in NumPy", ours / plain, "x", 4)


def _baseline(motion: LayerMotion, pivots: np.ndarray) -> np.ndarray:
    """(n, 4, 4): shares, curves, departures, their sums and products, and the chain of matrices."""
    count = len(pivots)
    names = (
        "x",
        "y",
        "z",
        "rotation_z",
        "slant",
        "rotation_x",
        "rotation_y",
        "scale_x",
        "scale_y",
        "opacity",
    )
    values = {name: np.full(count, NEUTRAL.get(name, 0.0)) for name in names}
    for timing, away in zip(motion.timings[:2], (WAVE, RISE), strict=True):
        starts, ends = timing.times.starts, timing.times.ends
        share = np.clip((FRAME - starts) / np.maximum(ends - starts, 1e-9), 0.0, 1.0)
        gone = 1.0 - easing(timing.move.piece_curve)(share)
        _combine(values, away, np.where(share >= 1.0, 0.0, gone))
    beats = motion.timings[2].beats
    assert beats is not None
    beat = ((FRAME - beats.starts) / beats.beat) % 1.0
    active = (beats.starts < FRAME) & (beats.starts + beats.length > FRAME)
    _combine(values, RIPPLE, np.where(active, easing("sine-in-out")(1.0 - np.abs(1.0 - 2.0 * beat)), 0.0))
    return matrices_of(values, pivots)


def _combine(values: dict[str, np.ndarray], away: dict[str, float], gone: np.ndarray) -> None:
    for name, amount in away.items():
        neutral = NEUTRAL.get(name, 0.0)
        departure = neutral + (amount - neutral) * gone
        values[name] = np.maximum(values[name] * departure, 0.0) if neutral else values[name] + departure


def _drawn() -> None:
    """2,000 letters that fill the frame, in motion, and a bare fill of the same paths."""
    turned = Move(
        role="entrance", length=2.0, pieces="letters", at_once=4000.0,
        channels=(Departure(channel="rotation_z", amount=Amount(value=20.0)),),
    )  # fmt: skip
    clip = _clip(DRAWN, 34.0, (turned,))
    project = Project(
        id="p", sequences=(Sequence(id="s", size=SIZE, rate="30", tracks=(Track(id="t", clips=(clip,)),)),)
    )
    plan, painter = picture_plan(project, 20), Painter(None)  # type: ignore[arg-type]
    glyphs = plan.layers[0]
    assert len(glyphs.matrices) == DRAWN  # type: ignore[union-attr]
    paths = piece_paths(glyphs.layout, glyphs.of_glyph)  # type: ignore[union-attr]
    outlines = [paths.fill(piece) for piece in range(DRAWN)]
    rows = [tuple(map(float, matrix.reshape(9))) for matrix in glyphs.matrices]  # type: ignore[union-attr]
    matrices = [skia.Matrix.MakeAll(*row) for row in rows]
    # One after the other, so that whatever else the machine does weighs on both.
    works = (lambda: painter.paint(plan), lambda: _filled(outlines, matrices))
    pairs = np.array([[median_ms(work, 1) for work in works] for _ in range(31)])
    ratio = float(np.median(pairs[:, 0] / pairs[:, 1]))
    measured("2,000 letters drawn, beside a bare Skia fill", ratio, "x", 1.5)


def _filled(outlines: list[skia.Path], matrices: list[skia.Matrix]) -> np.ndarray:
    pixels = np.zeros((SIZE[1], SIZE[0], 4), dtype=np.uint8)
    surface = skia.Surface(pixels, colorType=skia.kBGRA_8888_ColorType)
    canvas, paint = surface.getCanvas(), skia.Paint(AntiAlias=True, Color=skia.ColorWHITE)
    canvas.clear(skia.ColorBLACK)
    for outline, matrix in zip(outlines, matrices, strict=True):
        canvas.setMatrix(matrix)
        canvas.drawPath(outline, paint)
    return pixels


if __name__ == "__main__":
    main()
