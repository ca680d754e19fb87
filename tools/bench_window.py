"""The window's part of `make bench`: stalls of the event loop, late frames, edit to picture, start.

Stalls are gaps between the beats of a 1 ms timer, at their 99th percentile, against an idle loop of
the same run. Every figure is the median of several runs.
"""

from __future__ import annotations

import os
import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import av
import numpy as np
from event_loop import wait
from measured import measured
from PySide6.QtCore import QObject, QPoint, Qt, QTimer
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QWidget

from rovix.desktop.app import make_application, make_window
from rovix.desktop.viewer.line_hand import LineHand
from rovix.desktop.window import Window
from rovix.edit import change_text, change_transform
from rovix.edit.address import put_held
from rovix.edit.effects import put_effect
from rovix.formats import write_project
from rovix.model import (
    Clip,
    ContourKey,
    ContourKeys,
    Key,
    Keys,
    Media,
    Project,
    Sequence,
    ShapeClip,
    SoundClip,
    Text,
    TextClip,
    Track,
    Transform,
)
from rovix.model.effects.mask import Mask
from rovix.motion.ready_moves import READY_MOVES

RUNS = 5
BARE = (
    "import time; start = time.perf_counter()\n"
    "from PySide6.QtWidgets import QApplication, QWidget\n"
    "from PySide6.QtCore import QTimer\n"
    "app = QApplication([]); w = QWidget(); w.resize(1280, 800); w.show()\n"
    "QTimer.singleShot(0, app.quit); app.exec(); print(time.perf_counter() - start)\n"
)
OURS = (
    "import time; start = time.perf_counter()\n"
    "import rovix.collecting_later\n"
    "from rovix.processes import warm_up\n"
    "warm_up()\n"
    "from rovix.desktop.app import load_the_rest, make_application, make_window\n"
    "if __name__ == '__main__':\n"
    "    app = make_application(); w = make_window()\n"
    "    w.projector.picture_shown.connect(lambda p: p is not None and app.exit())\n"
    "    load_the_rest(w); w.show()\n"
    "    app.exec(); print(time.perf_counter() - start); w.shut_down()\n"
)


class Beat(QObject):
    """Measures how long the event loop leaves a 1 ms timer waiting."""

    def __init__(self) -> None:
        super().__init__()
        self._gaps: list[float] = []
        self._last = 0.0
        self._timer = QTimer(self, interval=1)
        self._timer.setTimerType(Qt.TimerType.PreciseTimer)
        self._timer.timeout.connect(self._hear)

    def _hear(self) -> None:
        now = time.perf_counter()
        self._gaps.append((now - self._last) * 1000)
        self._last = now

    def during(self, work: object) -> float:
        """p99 of the gaps in ms while `work()` runs the loop."""
        self._gaps, self._last = [], time.perf_counter()
        self._timer.start()
        work()  # type: ignore[operator]
        self._timer.stop()
        self._hear()
        return float(np.percentile(self._gaps, 99))


def main() -> None:
    make_application()
    window = make_window()
    window.resize(1672, 1062)
    window.show()
    _settle(window)
    view = window.viewer.view.frame
    print(f"\nwindow over the demo, picture shown at {view.width():.0f} x {view.height():.0f}")
    beat = Beat()
    idle = statistics.median(beat.during(lambda: wait(1000)) for _ in range(RUNS))
    measured("idle loop, p99 gap", idle, "ms")
    for name, work in (
        ("playing", _play),
        ("dragging a layer", _drag),
        ("filling the cache", _fill),
        ("new words on the cards", _new_cards),
    ):
        gap = statistics.median(beat.during(lambda w=work: w(window)) for _ in range(RUNS))
        measured(f"{name}, p99 gap above idle", gap - idle, "ms", 8)
    _long_mask(window, beat, idle)
    _late(window)
    _edit_to_picture(window)
    _key_to_picture(window)
    with tempfile.TemporaryDirectory() as folder:
        film = Path(folder) / "film.mp4"
        _large_film(film)
        gap = statistics.median(beat.during(lambda: _import_film(window, film)) for _ in range(RUNS))
        measured("importing a 4K film, p99 gap above idle", gap - idle, "ms", 8)
        _full_timeline(window, beat, idle, Path(folder))
        _open_thousand(window, Path(folder))
    window.shut_down()
    _start()


def _settle(window: Window) -> None:
    """Wait until the cache is filled as far as it goes."""
    ready = -1
    for _ in range(30):
        wait(1000)
        if len(window.projector.ready()) == ready > 1:
            return
        ready = len(window.projector.ready())


def _play(window: Window) -> None:
    window.document.seek(0)
    window.projector.play()
    wait(3000)
    window.projector.stop()


def _late(window: Window) -> None:
    shares = []
    for _ in range(RUNS):
        _play(window)
        player = window.projector.player
        shares.append(100 * player.late / max(1, player.played))
    measured("late frames", statistics.median(shares), "%", 2)


def _drag(window: Window) -> None:
    window.document.select("title")
    window.document.seek(60)
    wait(100)
    viewer = window.viewer
    _pull_about(viewer, viewer.view.to_view(700, 476).toPoint(), (60, 37))


def _pull_about(viewer: QWidget, start: QPoint, room: tuple[int, int]) -> None:
    """Drag from a point over so many px across and down, and give it up."""
    QTest.mousePress(viewer, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, start)
    for step in range(150):
        QTest.mouseMove(viewer, start + QPoint(step % room[0], step % room[1]))
        wait(8)
    QTest.keyClick(viewer, Qt.Key.Key_Escape)
    QTest.mouseRelease(viewer, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, start)


def _large_film(path: Path) -> None:
    """Ten seconds of noise over shapes that move, 3840 x 2160, H.264 in groups of 250."""
    noise = np.random.default_rng(1).integers(0, 60, (2160, 3840, 3), dtype=np.uint8)
    with av.open(str(path), "w") as out:
        stream = out.add_stream("libx264", rate=30, options={"preset": "ultrafast", "crf": "24", "g": "250"})
        stream.width, stream.height, stream.pix_fmt = 3840, 2160, "yuv420p"
        for number in range(300):
            picture = np.roll(noise, 16 * number, axis=1) if number % 10 == 0 else noise
            picture = picture.copy()
            picture[500:1500, 10 * number : 10 * number + 600] = 180
            out.mux(stream.encode(av.VideoFrame.from_ndarray(picture, format="rgb24")))
        out.mux(stream.encode(None))


def _import_film(window: Window, film: Path) -> None:
    """Import it, as far as its strip of pictures, and take it away again."""
    window.import_media([film])
    wait(6000)
    window.document.undo()


def _long_mask(window: Window, beat: Beat, idle: float) -> None:
    """Stalls while a hand drags a point of a mask of 200 points with 100 keys."""
    window.document.do("Mask", lambda p: put_effect(p, "title", _mask()))
    window.document.select("title")
    window.document.seek(60)
    window.run("mask-edit")
    _settle(window)
    gap = statistics.median(beat.during(lambda: _drag_point(window)) for _ in range(RUNS))
    measured("dragging a point of a long mask, p99 gap above idle", gap - idle, "ms", 8)
    QTest.keyClick(window.viewer, Qt.Key.Key_Escape)
    window.document.undo()


def _mask() -> Mask:
    turns = np.linspace(0, 2 * np.pi, 200, endpoint=False)
    ring = np.stack([600 * np.cos(turns), 250 * np.sin(turns)], axis=1).tolist()
    lines = [tuple((x + key, y, -6.0, 2.0, 6.0, -2.0) for x, y in ring) for key in range(100)]
    keys = tuple(ContourKey(frame=2 * number, value=line) for number, line in enumerate(lines))
    return Mask(form="drawn", contour=ContourKeys(keys=keys))


def _drag_point(window: Window) -> None:
    viewer, hand = window.viewer, window.viewer.hand
    assert isinstance(hand, LineHand)
    start = hand._to_view(viewer.view, np.array([hand.line[50][:2]]))[0].toPoint()
    _pull_about(viewer, start, (40, 23))


def _new_cards(window: Window) -> None:
    """Other words, so that every card of the shelf is drawn anew."""
    window.document.select("title")
    window.document.do("Retype", lambda p: change_text(p, "title", content="Larkmoor again"))
    wait(5000)
    window.document.undo()


def _fill(window: Window) -> None:
    window.document.do("Edit", lambda p: change_transform(p, "date", 0, x=time.monotonic() % 50))
    window.document.seek(40)
    wait(2000)


def _full_timeline(window: Window, beat: Beat, idle: float, folder: Path) -> None:
    """Stalls over 300 clips on 40 tracks while a hand scrolls, zooms, drags."""
    path = folder / "full.rovix"
    write_project(path, full_project(300, 40))
    window.document.history.mark_saved(window.document.history.committed)
    window.files.open_path(path)
    _settle(window)
    print("\n300 clips on 40 tracks")
    idle = statistics.median(beat.during(lambda: wait(1000)) for _ in range(RUNS))
    measured("idle loop over 300 clips, p99 gap", idle, "ms")
    for name, work in (("scrolling", _scroll), ("zooming", _zoom), ("dragging a clip", _drag_clip)):
        gap = statistics.median(beat.during(lambda w=work: w(window)) for _ in range(RUNS))
        measured(f"{name} over 300 clips, p99 gap above idle", gap - idle, "ms", 15)


def _scroll(window: Window) -> None:
    for step in range(120):
        window.timeline.canvas.lift(14 if step % 40 < 20 else -14)
        wait(8)


def _zoom(window: Window) -> None:
    canvas = window.timeline.canvas
    for step in range(120):
        canvas.set_scale(canvas.scale.zoomed(1.06 if step % 40 < 20 else 1 / 1.06, 700))
        wait(8)


def _drag_clip(window: Window) -> None:
    canvas = window.timeline.canvas
    canvas.lift(-10_000)
    row = canvas.rows()[3]
    clip = window.document.project.sequence.tracks[row.track].clips[2]
    start = QPoint(round(canvas.scale.x(clip.start + clip.length / 2)), row.top + row.height // 3)
    button, none = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    QTest.mousePress(canvas, button, none, start)
    for step in range(120):
        QTest.mouseMove(canvas, start + QPoint(step % 50, step % 9))
        wait(8)
    QTest.keyClick(canvas, Qt.Key.Key_Escape)
    QTest.mouseRelease(canvas, button, none, start)


def _open_thousand(window: Window, folder: Path) -> None:
    path = folder / "thousand.rovix"
    write_project(path, full_project(1000, 50))
    times = []
    for _ in range(RUNS):
        start = time.perf_counter()
        window.files.open_path(path)
        while window.projector.picture is None or window.projector.picture.quads == ():
            wait(0)
        times.append(time.perf_counter() - start)
        window.files.open_demo()
        wait(500)
    measured("1,000 clips open", statistics.median(times) * 1000, "ms", 2000)


def full_project(clips: int, tracks: int) -> Project:
    """Words with moves, shapes, grounds and silence spread evenly over tracks."""
    each = clips // tracks
    made = []
    for number in range(tracks):
        sound = number >= tracks * 3 // 4
        row = tuple(_clip(number, place, sound) for place in range(each))
        made.append(Track(name=f"Track {number + 1}", kind="sound" if sound else "picture", clips=row))
    media = (Media(id="silence", path="silence.wav", kind="sound", length=60.0),)
    return Project(sequences=(Sequence(tracks=tuple(made)),), media=media)


def _clip(number: int, place: int, sound: bool) -> Clip:
    start, length = place * 70 + number % 9, 60
    if sound:
        return SoundClip(name=f"Sound {place}", media="silence", start=start, length=length)
    if number % 3 == 2:
        return ShapeClip(
            name=f"Box {place}", start=start, length=length, transform=Transform(y=number * 9.0 - 300)
        )
    words = Text(content=f"Kite {number}.{place}", size=60.0)
    moves = (READY_MOVES["Pop"]("entrance"), READY_MOVES["Rise and fade"]("exit"))
    return TextClip(name=words.content, start=start, length=length, text=words, moves=moves)


def _edit_to_picture(window: Window) -> None:
    waits, costs = [], []
    window.document.seek(100)
    wait(3000)
    for number in range(25):
        start = time.perf_counter()
        before = window.projector.picture
        window.document.try_on(lambda p, n=number: change_transform(p, "title", 0, x=float(n)))
        while window.projector.picture is before and time.perf_counter() - start < 2:
            wait(0)
        waits.append((time.perf_counter() - start) * 1000)
        costs.append(window.projector.picture.cost)
        wait(30)
    window.document.drop()
    waited, cost = statistics.median(waits), statistics.median(costs)
    measured("edit to new picture, beside its drawing", waited / cost, "x", 3)


def _key_to_picture(window: Window) -> None:
    """A key and a handle dragged in an opened lane: from the hand's move to the new picture."""
    made = tuple(
        Key(frame=frame, value=value, curve="tangents", after=(8.0, 20.0), before=(8.0, -20.0))
        for frame, value in ((0, -300.0), (60, 0.0), (170, 300.0))
    )
    window.document.select("title")
    window.document.do("Key", lambda p: put_held(p, "title", {"transform.x": Keys(keys=made)}))
    window.document.seek(60)
    canvas = window.timeline.canvas
    canvas.lanes.toggle("title")
    wait(3000)
    window.document.keys.set([("title", "transform.x", 60)])
    lane = next(lane for lane in canvas.lanes.shown() if lane.address == "transform.x")
    for said in ("a key", "a handle"):
        curve = canvas.lanes.curve(lane)
        start = curve.point(curve.keys[1]) if said == "a key" else curve.handles()[1][2]
        measured(
            f"drag {said} to picture, beside its drawing", _dragged(window, canvas, start.toPoint()), "x", 3
        )
    canvas.lanes.toggle("title")
    window.document.undo()


def _dragged(window: Window, canvas: QWidget, start: QPoint) -> float:
    """The wait for a new picture as a multiple of its cost, medians of a drag's steps."""
    waits, costs = [], []
    QTest.mousePress(canvas, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, start)
    for step in range(25):
        before, began = window.projector.picture, time.perf_counter()
        QTest.mouseMove(canvas, start + QPoint(6 + step % 5, 5 + step))
        while window.projector.picture is before and time.perf_counter() - began < 2:
            wait(0)
        waits.append((time.perf_counter() - began) * 1000)
        costs.append(window.projector.picture.cost)
        wait(30)
    QTest.keyClick(canvas, Qt.Key.Key_Escape)
    QTest.mouseRelease(canvas, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, start)
    return statistics.median(waits) / statistics.median(costs)


def _start() -> None:
    times = {}
    with tempfile.TemporaryDirectory() as folder:
        for name, program in (("bare", BARE), ("ours", OURS)):
            path = Path(folder) / f"{name}.py"
            path.write_text(program, encoding="utf-8")
            command = [sys.executable, str(path)]
            # As installed programs have it: what was compiled once is kept.
            kept = {k: v for k, v in os.environ.items() if k != "PYTHONDONTWRITEBYTECODE"}
            kept["PYTHONPYCACHEPREFIX"] = str(Path(folder) / "compiled")
            runs = [
                float(subprocess.check_output(command, text=True, stderr=subprocess.DEVNULL, env=kept))
                for _ in range(RUNS + 1)
            ][1:]
            times[name] = statistics.median(runs) * 1000
    ours, bare = times["ours"], times["bare"]
    measured("start to first picture", ours, "ms", 1500)
    measured("start to first picture, beside a bare window", ours / bare, "x")


if __name__ == "__main__":
    main()
