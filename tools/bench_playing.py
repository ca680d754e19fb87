"""Playing's part of `make bench`: pictures that come late the first time a part is played.

The demo, and three hard projects made of it: with an echo trail of 5 and a glow on each text layer, at
60 frames a second with motion blur, and both. Each is played for six seconds in two sizes of the viewer
with nothing drawn before, with the governor and without. Percentages are medians of several runs.
"""

from __future__ import annotations

import os
import statistics
import sys
import tempfile
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from event_loop import wait
from measured import measured
from msgspec.structs import replace
from stolen import watching_others

from rovix.demo import DEMO_PROJECT
from rovix.desktop.app import load_the_rest, make_application, make_window
from rovix.desktop.window import Window
from rovix.edit.effects import add_effect, change_effect
from rovix.edit.sequences import change_rate
from rovix.edit.shutter import change_shutter
from rovix.edit.tree import clip_by_id
from rovix.formats import read_project, write_project
from rovix.model import Project
from rovix.model.clip_kinds import has_words
from rovix.time import Span

LIMITS = {"demo": 0.0, "echoes and glows": 1.0, "60 fps with blur": 1.0, "both": 2.0}
WIDTHS = (676, 1316)
SECONDS = 6
_CARDS = 9000  # ms after which the cards of the shelf are drawn, which takes a core until then


def with_echoes_and_glows(project: Project) -> Project:
    """An echo trail of 5 and a glow on each text layer."""
    for clip in [clip for track in project.sequence.tracks for clip in track.clips if has_words(clip)]:
        project = add_effect(add_effect(project, clip.id, "echo-trail"), clip.id, "glow")
        made = clip_by_id(project, clip.id)
        for effect in made.effects:
            if effect.facts.name == "Echo trail":
                project = change_effect(project, clip.id, effect.id, copies=5)
    return project


def at_sixty_with_blur(project: Project) -> Project:
    """60 frames a second, all else at the same times, with motion blur."""
    return change_shutter(change_rate(project, "60"), on=True)


HARD = {
    "demo": lambda project: project,
    "echoes and glows": with_echoes_and_glows,
    "60 fps with blur": at_sixty_with_blur,
    "both": lambda project: at_sixty_with_blur(with_echoes_and_glows(project)),
}


def main(runs: int = 5) -> None:
    make_application()
    window = make_window()
    load_the_rest(window)
    window.show()
    demo = read_project(DEMO_PROJECT)
    with tempfile.TemporaryDirectory() as folder:
        for name, change in HARD.items():
            path = Path(folder) / f"{name}.rovix"
            media = tuple(replace(m, path=str(DEMO_PROJECT.parent / m.path)) for m in demo.media)
            write_project(path, replace(change(demo), media=media))
            window.document.history.mark_saved(window.document.history.committed)
            window.files.open_path(path)
            wait(_CARDS)
            for width in WIDTHS:
                _play_often(window, name, width, runs)
    window.shut_down()


def _play_often(window: Window, name: str, width: int, runs: int) -> None:
    shares: dict[bool, list[float]] = {True: [], False: []}
    scales: list[float] = []
    stolen: list[float] = []
    for run in range(runs):
        for governed in (True, False):
            window.projector.governed = governed
            with watching_others(stolen):
                late, scale = _late(window, width + 16 * (2 * run + governed))
            shares[governed].append(late)
            scales += [scale] if governed else []
    with_, without = (statistics.median(shares[governed]) for governed in (True, False))
    said = f"{name}, {width} px"
    measured(f"late, {said}", with_, "%", LIMITS[name])
    measured(f"late, {said}, the worst run", max(shares[True]), "%")
    measured(f"late, {said}, without the governor", without, "%")
    measured(f"smallest picture, {said}", statistics.median(scales) * 100, "% of its width")
    # Above a few percent the figures above say how busy the host of this machine was.
    measured(f"taken by others meanwhile, {said}", max(stolen), "% of the processors")


def _size(width: int) -> tuple[int, int]:
    """A picture of that width, of the demo's proportions, as the viewer asks for it."""
    return width // 2 * 2, round(width * 9 / 32) * 2


def _late(window: Window, width: int) -> tuple[float, float]:
    """The share of pictures that came late in percent, and the smallest scale they were drawn at."""
    projector, rate = window.projector, float(window.document.rate.fraction)
    projector.resize(_size(width - 8))
    window.document.seek(0)
    wait(1500)  # what was drawn meanwhile tells the governor what to expect
    projector.resize(_size(width))
    scales = []
    projector.play(Span(0, min(window.document.length, round(SECONDS * rate))))
    while projector.playing:
        wait(20)
        scales.append(projector.quality.scale)
    player = projector.player
    return 100 * player.late / max(1, player.played), min(scales)


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 5)
