"""`make fuzz`: files changed at random, each tried in another process within 10 s and 2 GB.

    PYTHONPATH=tests python tools/fuzz.py [COUNT] [SEED]

Prints how many were tried, refused, accepted and failed; failed ones are kept in build/fuzz/.
"""

from __future__ import annotations

import random
import sys
import tempfile
import time
from collections import Counter
from pathlib import Path

from mutants import mutated_bytes, mutated_json
from rovix.demo import DATA, DEMO_PROJECT
from rovix.formats import project_bytes
from rovix.formats.move_file import MOVES, SavedMove
from rovix.motion.ready_moves import ready_moves
from rovix.processes import Limits, started
from rovix.text.catalogue import FONTS
from tied_project import tied_project
from trials import ACCEPTED, REFUSED, work

ROOT = Path(__file__).parents[1]
_FILMS = (("a.mp4", "libx264", "mp4"), ("a.mkv", "ffv1", "matroska"), ("a.ts", "mpeg2video", "mpegts"))
SECONDS, MEMORY = 10, 2 << 30
_SHARES = {"project": 6, "move": 2, "look": 1, "media": 2, "font": 0.5}


def seeds() -> dict[str, list[tuple[str, bytes]]]:
    """Whole files of each kind, by name."""
    moves = [
        MOVES.bytes_of(SavedMove(move.name, move))
        for role in ("entrance", "loop", "exit")
        for move in ready_moves(role)
    ]
    thumbnails = sorted((ROOT / "src/rovix/engine/ready_looks").glob("*.json"))
    media = [path for path in DATA.iterdir() if path.suffix in (".flac", ".png")]
    media += sorted((ROOT / "src/rovix/desktop/icons").glob("r*.svg"))
    fonts = sorted(FONTS.rglob("*.ttf"), key=lambda path: path.stat().st_size)[:6]
    return {
        "project": [("a.rovix", project_bytes(tied_project())), ("demo.rovix", DEMO_PROJECT.read_bytes())],
        "move": [("a.json", content) for content in moves],
        "look": [("a.json", path.read_bytes()) for path in thumbnails],
        "media": [(path.name, path.read_bytes()) for path in media] + small_films(),
        "font": [(path.name, path.read_bytes()) for path in fonts],
    }


def small_films() -> list[tuple[str, bytes]]:
    """Some seconds of grey in several containers."""
    import av
    import numpy as np

    made = []
    for name, codec, form in _FILMS:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / name
            with av.open(str(path), "w", format=form) as container:
                stream = container.add_stream(codec, rate=25)
                stream.width, stream.height, stream.pix_fmt = 64, 36, "yuv420p"
                for shade in range(50):
                    picture = np.full((36, 64, 3), shade * 5, np.uint8)
                    container.mux(stream.encode(av.VideoFrame.from_ndarray(picture, "rgb24")))
                container.mux(stream.encode(None))
            made.append((name, path.read_bytes()))
    return made


class Tester:
    """A process that tries one mutant after the other; a new one when it dies or hangs."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._begin()

    def _begin(self) -> None:
        self._process, self._connection = started(work, self._folder, limits=Limits(memory=MEMORY))

    def end(self) -> None:
        self._connection.close()
        self._process.kill()
        self._process.join()

    def outcome(self, kind: str, name: str, content: bytes) -> str:
        self._connection.send((kind, name, content))
        # Media are read by processes of their own, which have time limits of their own.
        if not self._connection.poll(SECONDS + (20 if kind == "media" else 0)):
            return self._anew("time-out")
        try:
            return str(self._connection.recv())
        except EOFError:
            return self._anew("crash")

    def _anew(self, why: str) -> str:
        self.end()
        self._begin()
        return why


def fuzz(count: int, seed: int) -> int:
    drawn, sources = random.Random(seed), seeds()
    kinds = list(_SHARES)
    results: dict[str, Counter[str]] = {kind: Counter() for kind in kinds}
    begun, kept = time.monotonic(), ROOT / "build" / "fuzz"
    with tempfile.TemporaryDirectory() as folder:
        tester = Tester(Path(folder))
        for number in range(count):
            kind = drawn.choices(kinds, [_SHARES[k] for k in kinds])[0]
            name, content = drawn.choice(sources[kind])
            textual = kind in ("project", "move", "look")
            mutant = (mutated_json if textual else mutated_bytes)(content, drawn)
            outcome = tester.outcome(kind, name, mutant)
            results[kind][outcome if outcome in (REFUSED, ACCEPTED) else "failed"] += 1
            if outcome not in (REFUSED, ACCEPTED):
                kept.mkdir(parents=True, exist_ok=True)
                (kept / f"{seed}-{number}-{kind}-{name}").write_bytes(mutant)
                print(f"{seed}-{number} {kind} {name}: {outcome[:300]}", flush=True)
        tester.end()
    print(f"\n{count} mutants of seed {seed} in {time.monotonic() - begun:.0f} s")
    for kind, counts in results.items():
        said = ", ".join(f"{counts[name]} {name}" for name in (REFUSED, ACCEPTED, "failed"))
        print(f"  {kind:8} {sum(counts.values())} tried: {said}")
    return sum(counts["failed"] for counts in results.values())


if __name__ == "__main__":
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 10_000
    seed = int(sys.argv[2]) if len(sys.argv) > 2 else 1
    sys.exit(1 if fuzz(count, seed) else 0)
