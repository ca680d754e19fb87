"""`make bench`: keys, pieces and motion blur, as ratios in one run."""

from __future__ import annotations

import time
from collections.abc import Callable

import numpy as np
from measured import measured
from msgspec.structs import replace

from rovix.curve import Key as TrackKey
from rovix.curve import Track
from rovix.model import (
    Amount,
    Departure,
    Fill,
    Key,
    Keys,
    Look,
    Move,
    Plain,
    Project,
    Sequence,
    Shutter,
    Text,
    TextClip,
    Transform,
)
from rovix.model import Track as Row
from rovix.motion import picture_plan
from rovix.motion import shutter as shutters
from rovix.motion.layer import LayerMotion
from rovix.paint.painter import Painter
from rovix.time import Rate

SIZE = (1920, 1080)
PIECES = 1000
CHANNELS = {
    "x": 120.0, "y": -80.0, "z": -300.0, "scale_x": 0.4, "scale_y": 0.5, "rotation_z": 90.0, "slant": 20.0,
    "rotation_x": 45.0, "rotation_y": -30.0, "opacity": 0.2,
}  # fmt: skip
LETTERS = "Thirty letters over the meadow up"


def main() -> None:
    print("\nkeys and pieces, medians of one run")
    _pieces()
    _tracks()
    _blur()


def median_ms(work: Callable[[], object], runs: int = 31) -> float:
    work()
    times = []
    for _ in range(runs):
        start = time.perf_counter()
        work()
        times.append((time.perf_counter() - start) * 1000)
    return float(np.median(times))


def _pieces() -> None:
    """One frame of a move of ten channels over a thousand pieces, and the same arithmetic in NumPy."""
    channels = tuple(
        Departure(channel=name, amount=Amount(value=value))  # type: ignore[arg-type]
        for name, value in CHANNELS.items()
    )
    move = Move(role="entrance", length=2.0, pieces="letters", at_once=200.0, channels=channels)
    clip = TextClip(length=90, text=Text(content="kite " * 250, size=20.0, wrap=1700.0), moves=(move,))
    motion = LayerMotion(clip, SIZE, Rate("30"))
    times, frame = motion.timings[0].times, np.array([20.0])
    pivots = motion.subject.pivots(move, np.zeros((1, 2)))[0]
    ours = median_ms(lambda: motion.at(frame))
    plain = median_ms(lambda: _baseline(times.starts, times.ends, pivots, 20.0))
    found, expected = motion.at(frame).local[0], _baseline(times.starts, times.ends, pivots, 20.0)
    assert len(motion.subject) == PIECES
    assert np.allclose(found, expected, atol=1e-9), "the baseline does the same arithmetic"
    measured("1,000 pieces x 10 channels, beside the same in NumPy", ours / plain, "x", 4)


def _baseline(starts: np.ndarray, ends: np.ndarray, pivots: np.ndarray, time: float) -> np.ndarray:
    """(n, 4, 4): shares, cubic-out, departures, clips, and the chain of matrices."""
    values = {}
    for name, away in CHANNELS.items():
        share = np.clip((time - starts) / np.maximum(ends - starts, 1e-9), 0.0, 1.0)
        gone = 1.0 - (1.0 - (1.0 - share) ** 3)
        neutral = 1.0 if name in ("scale_x", "scale_y", "opacity") else 0.0
        values[name] = np.where(share >= 1.0, neutral, neutral + (away - neutral) * gone)
    values["opacity"] = np.clip(values["opacity"], 0.0, 1.0)
    return matrices_of(values, pivots)


def matrices_of(values: dict[str, np.ndarray], pivots: np.ndarray) -> np.ndarray:
    """(n, 4, 4): the chain of matrices, as plain NumPy."""
    matrix = (
        _turn(values["rotation_z"], 0, 1)
        @ _turn(values["rotation_y"], 2, 0)
        @ _turn(values["rotation_x"], 1, 2)
    )
    slant, scale = _eyes(len(pivots)), _eyes(len(pivots))
    slant[:, 0, 1] = -np.tan(np.radians(values["slant"]))
    scale[:, 0, 0], scale[:, 1, 1] = values["scale_x"], values["scale_y"]
    matrix = matrix @ slant @ scale
    centre = np.zeros((len(pivots), 4, 1))
    centre[:, :2, 0] = pivots
    shift = centre - matrix @ centre
    for axis, name in enumerate(("x", "y", "z")):
        matrix[:, axis, 3] = shift[:, axis, 0] + values[name]
    return matrix


def _eyes(count: int) -> np.ndarray:
    return np.broadcast_to(np.eye(4), (count, 4, 4)).copy()


def _turn(degrees: np.ndarray, first: int, second: int) -> np.ndarray:
    matrix, angle = _eyes(len(degrees)), np.radians(degrees)
    cosine, sine = np.cos(angle), np.sin(angle)
    matrix[:, first, first] = matrix[:, second, second] = cosine
    matrix[:, first, second], matrix[:, second, first] = -sine, sine
    return matrix


def _tracks() -> None:
    """A picture's and a whole lane's values from a track of few keys and of many."""
    rng = np.random.default_rng(7)

    def track(count: int) -> Track:
        places = np.linspace(0, 20_000, count).tolist()
        pairs = zip(places, rng.uniform(-100, 100, count).tolist(), strict=True)
        return Track(TrackKey(place, value, "cubic-out") for place, value in pairs)

    few, many = track(10), track(10_000)
    for said, frames in (("one frame", np.array([7654.3])), ("700 frames", np.linspace(0, 20_000, 700))):
        ratio = median_ms(lambda f=frames: many(f), 201) / median_ms(lambda f=frames: few(f), 201)
        measured(f"10,000 keys against 10, {said}", ratio, "x", 1.5)


def _blur() -> None:
    """Thirty letters that go 20 px a frame, adaptively blurred, and against 256 moments."""
    x = Keys(keys=(Key(frame=0, value=-400.0), Key(frame=40, value=400.0)))
    clip = TextClip(
        id="t", length=41, text=Text(content=LETTERS, size=90.0), transform=Transform(x=x),
        look=Look(parts=(Fill(paint=Plain(colour="#ffffff")),)),
    )  # fmt: skip
    still = _project(clip, Shutter())
    blurred = _project(clip, Shutter(on=True))
    painter = Painter(None)  # type: ignore[arg-type]
    draw = lambda project: painter.paint(picture_plan(project, 10))  # noqa: E731
    bare = median_ms(lambda: draw(replace_layers(still)), 15)
    plain, adaptive = (median_ms(lambda p=p: draw(p), 15) for p in (still, blurred))
    exact = _with_moments(256, lambda: draw(_project(clip, Shutter(on=True, samples=256))).astype(float))
    error = np.abs(draw(blurred).astype(float) - exact)
    touched = (exact > 0).any(axis=2)
    ratio = (adaptive - bare) / max(plain - bare, 1e-3)
    measured("30 letters, 20 px a frame, beside the layer unblurred", ratio, "x", 10)
    percent = error[touched].mean() / 2.55
    measured("against 256 moments, mean where words are", percent, "% of full scale", 1)


def _with_moments(count: int, work: Callable[[], np.ndarray]) -> np.ndarray:
    step = shutters.STEP
    shutters.STEP = 10.0 / count
    try:
        return work()
    finally:
        shutters.STEP = step


def replace_layers(project: Project) -> Project:
    """The project without its layer: what an empty picture costs."""
    sequence = project.sequence
    return replace(project, sequences=(replace(sequence, tracks=()),))


def _project(clip: TextClip, shutter: Shutter) -> Project:
    sequence = Sequence(size=SIZE, rate="30", shutter=shutter, tracks=(Row(clips=(clip,)),))
    return Project(sequences=(sequence,))


if __name__ == "__main__":
    main()
