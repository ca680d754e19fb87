"""`make soak`: random work in the real window, and the memory of all its processes as it goes on.

QT_QPA_PLATFORM=offscreen PYTHONPATH=tests:tests/desktop python tools/soak.py [MINUTES]
"""

from __future__ import annotations

import os
import sys
import tempfile
import time
from pathlib import Path

from PySide6.QtTest import QTest
from PySide6.QtWidgets import QDialog, QFileDialog
from test_any_work import Deeds, settle

from rovix.desktop.app import make_application, make_window
from rovix.desktop.window import Window
from rovix.formats import write_project
from tied_project import tied_project


def proportional_mb(process: int) -> float:
    """Memory of a process and those below it, shared pages counted once between them (proc(5), Pss)."""
    total = 0.0
    try:
        for line in Path(f"/proc/{process}/smaps_rollup").read_text().splitlines():
            if line.startswith("Pss:"):
                total += int(line.split()[1]) / 1024
        children = Path(f"/proc/{process}/task/{process}/children").read_text().split()
    except OSError:
        return 0.0
    return total + sum(proportional_mb(int(child)) for child in children)


def _ask_nothing(window: Window) -> None:
    """Windows that wait for an answer are left at once: nobody is here to give one."""
    QDialog.exec = lambda self: 0  # type: ignore[method-assign]
    for name, answer in (
        ("getOpenFileName", ("", "")),
        ("getOpenFileNames", ([], "")),
        ("getSaveFileName", ("", "")),
    ):
        setattr(QFileDialog, name, staticmethod(lambda *_, answer=answer, **__: answer))
    window.ask_folder = lambda _: None
    window.shelf.keeping.ask_name = lambda *_: None


def soak(minutes: float) -> None:
    application = make_application()
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "soak.rovix"
        write_project(path, tied_project())
        window = make_window(2)
        window.show()
        window.files.open_path(path)
        _ask_nothing(window)
        deeds, begun, measured, said = Deeds(window, 1), time.monotonic(), [], 0.0
        steps = 0
        while time.monotonic() - begun < minutes * 60:
            deeds.one()
            settle(window)
            QTest.qWait(30)
            steps += 1
            if time.monotonic() - said > 15:
                said = time.monotonic()
                measured.append(((said - begun) / 60, proportional_mb(os.getpid())))
                print(f"{measured[-1][0]:5.1f} min {steps:6} steps {measured[-1][1]:8.0f} MB", flush=True)
        window.shut_down()
        application.clipboard().clear()
    half = [size for at, size in measured if at > minutes / 2]
    third = max(1, len(half) // 3)
    first, last = sum(half[:third]) / third, sum(half[-third:]) / third
    print(f"second half: from {first:.0f} to {last:.0f} MB, {100 * (last / first - 1):+.1f} %")


if __name__ == "__main__":
    soak(float(sys.argv[1]) if len(sys.argv) > 1 else 30.0)
