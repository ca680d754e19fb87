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

import numpy as np
from PySide6.QtCore import QObject, QPoint, Qt, QTimer
from PySide6.QtTest import QTest

from rovix.desktop.app import make_application, make_window
from rovix.desktop.window import Window
from rovix.edit import change_place

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
    "from rovix.desktop.app import make_application, make_window\n"
    "if __name__ == '__main__':\n"
    "    app = make_application(); w = make_window(); w.show()\n"
    "    w.projector.picture_shown.connect(lambda p: p is not None and app.quit())\n"
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
    idle = statistics.median(beat.during(lambda: QTest.qWait(1000)) for _ in range(RUNS))
    print(f"  idle loop, p99 gap        {idle:6.1f} ms")
    for name, work in (("playing", _play), ("dragging a layer", _drag), ("filling the cache", _fill)):
        gap = statistics.median(beat.during(lambda w=work: w(window)) for _ in range(RUNS))
        print(f"  {name:24}  {gap:6.1f} ms   {gap - idle:+.1f} ms above idle (at most +15 asked)")
    _late(window)
    _edit_to_picture(window)
    window.shut_down()
    _start()


def _settle(window: Window) -> None:
    """Wait until the cache is filled as far as it goes."""
    ready = -1
    for _ in range(30):
        QTest.qWait(1000)
        if len(window.projector.ready()) == ready > 1:
            return
        ready = len(window.projector.ready())


def _play(window: Window) -> None:
    window.document.seek(0)
    window.projector.play()
    QTest.qWait(3000)
    window.projector.stop()


def _late(window: Window) -> None:
    shares = []
    for _ in range(RUNS):
        _play(window)
        player = window.projector.player
        shares.append(100 * player.late / max(1, player.played))
    print(f"  late frames               {statistics.median(shares):6.2f} %   (under 2 asked)")


def _drag(window: Window) -> None:
    window.document.select("title")
    window.document.seek(60)
    QTest.qWait(100)
    viewer = window.viewer
    start = viewer.view.to_view(700, 476).toPoint()
    QTest.mousePress(viewer, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, start)
    for step in range(150):
        QTest.mouseMove(viewer, start + QPoint(step % 60, step % 37))
        QTest.qWait(8)
    QTest.keyClick(viewer, Qt.Key.Key_Escape)
    QTest.mouseRelease(viewer, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, start)


def _fill(window: Window) -> None:
    window.document.do("Edit", lambda p: change_place(p, "date", 0, x=time.monotonic() % 50))
    window.document.seek(40)
    QTest.qWait(2000)


def _edit_to_picture(window: Window) -> None:
    waits, costs = [], []
    window.document.seek(100)
    QTest.qWait(3000)
    for number in range(25):
        start = time.perf_counter()
        before = window.projector.picture
        window.document.try_on(lambda p, n=number: change_place(p, "title", 0, x=float(n)))
        while window.projector.picture is before and time.perf_counter() - start < 2:
            QTest.qWait(0)
        waits.append((time.perf_counter() - start) * 1000)
        costs.append(window.projector.picture.cost)
        QTest.qWait(30)
    window.document.drop()
    wait, cost = statistics.median(waits), statistics.median(costs)
    print(
        f"  edit to new picture       {wait:6.1f} ms   {wait / cost:.2f} x its drawing cost (under 3 asked)"
    )


def _start() -> None:
    times = {}
    with tempfile.TemporaryDirectory() as folder:
        for name, program in (("bare", BARE), ("ours", OURS)):
            path = Path(folder) / f"{name}.py"
            path.write_text(program, encoding="utf-8")
            command = [sys.executable, str(path)]
            runs = [
                float(subprocess.check_output(command, text=True, stderr=subprocess.DEVNULL))
                for _ in range(RUNS)
            ]
            times[name] = statistics.median(runs) * 1000
    ours, bare = times["ours"], times["bare"]
    print(f"  start to first picture    {ours:6.0f} ms   {ours / bare:.1f} x a bare window")


if __name__ == "__main__":
    main()
