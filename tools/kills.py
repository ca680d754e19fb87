"""`make kills`: processes killed at random moments of saving, exporting and editing; what is left then.

PYTHONPATH=tests:tests/desktop python tools/kills.py [SAVES] [EXPORTS] [EDITS]
"""

from __future__ import annotations

import os
import random
import signal
import subprocess
import sys
import tempfile
import time
from pathlib import Path

import av
from test_recovery import PROGRAM

from builders import project_of, title
from killed import exporting_away, numbered, save_on_and_on
from rovix.edit import clip_by_id
from rovix.engine.unsaved_work import left_work, tidy
from rovix.formats import read_project, write_project
from rovix.formats.whole_file import clear_begun
from rovix.processes import started


def killed_after(process: object, seconds: float) -> None:
    time.sleep(seconds)
    process.kill()  # type: ignore[attr-defined]
    process.join()  # type: ignore[attr-defined]


def saving(count: int, folder: Path, drawn: random.Random) -> None:
    path, broken, older, left = folder / "a.rovix", 0, 0, 0
    write_project(path, numbered(0))
    for _ in range(count):
        process, connection = started(save_on_and_on, path)
        connection.recv()
        killed_after(process, drawn.uniform(0, 0.06))
        last = -1
        while connection.poll():
            try:
                last = connection.recv()
            except EOFError:
                break
        connection.close()
        try:
            text = read_project(path).sequence.tracks[0].clips[0].text.content
            older += int(text.split()[1]) < last
        except Exception:
            broken += 1
        clear_begun()
        left += len(list(folder.glob(".*.part")))
    print(f"saving: {count} kills, {broken} broken, {older} older than the last save, {left} files left over")


def exporting(count: int, folder: Path, drawn: random.Random) -> None:
    out, broken, left, whole = folder / "a.mp4", 0, 0, 0
    for _ in range(count):
        out.unlink(missing_ok=True)
        process, connection = started(exporting_away, out)
        connection.recv()
        killed_after(process, drawn.uniform(0, 1.0))
        connection.close()
        if out.exists():
            with av.open(str(out)) as container:
                frames = sum(1 for _ in container.decode(video=0))
            whole, broken = whole + (frames == 60), broken + (frames != 60)
        time.sleep(0.05)
        clear_begun()
        left += len(list(folder.glob(".*.part")))
    print(f"exporting: {count} kills, {whole} whole, {broken} broken, {left} files left over")


def editing(count: int, folder: Path, drawn: random.Random) -> None:
    path, script, lost, worst, offered = folder / "kites.rovix", folder / "editing.py", 0, 0.0, 0
    project = project_of(title("Larkmoor", id="big"))
    write_project(path, project)
    script.write_text(PROGRAM)
    environment = os.environ | {"XDG_STATE_HOME": str(folder), "XDG_CONFIG_HOME": str(folder)}
    work = folder / "rovix" / "unsaved"
    for _ in range(count):
        command = [sys.executable, str(script), str(path)]
        with subprocess.Popen(
            command, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, env=environment, text=True
        ) as editing:
            assert editing.stdout is not None
            number, end = 0, time.monotonic() + drawn.uniform(1.7, 4.0)
            number = int(editing.stdout.readline())
            begun = time.monotonic()
            end = begun + drawn.uniform(1.7, 4.0)
            while time.monotonic() < end:
                number = int(editing.stdout.readline())
            editing.send_signal(signal.SIGKILL)
            ended = time.monotonic()
        pace = number / (ended - begun)
        tidy(work)
        left = left_work(work)
        offered += len(left) == 1
        if not left:
            lost += 1
        for item in left:
            kept = int(clip_by_id(item.read(folder), "big").text.content.split()[1])  # type: ignore[union-attr]
            worst = max(worst, (number - kept) / pace)
            item.discard()
        assert not list(work.glob(".*.part"))
    print(f"editing: {count} kills, {offered} offered, {lost} lost, at most {worst:.2f} s of work gone")


def main() -> None:
    saves, exports, edits = (int(given) for given in [*sys.argv[1:], "1000", "100", "100"][:3])
    drawn = random.Random(3)
    state = tempfile.TemporaryDirectory()
    os.environ["XDG_STATE_HOME"] = state.name  # before the first process is there
    for work, count in ((saving, saves), (exporting, exports), (editing, edits)):
        with tempfile.TemporaryDirectory() as folder:
            begun = time.monotonic()
            work(count, Path(folder), drawn)
            print(f"  {time.monotonic() - begun:.0f} s", flush=True)


if __name__ == "__main__":
    main()
