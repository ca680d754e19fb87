"""The program itself, on a real X display."""

import os
import shutil
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest

_DIALOG = "test_nothing_to_paste_is_said_and_nothing_ticked_is_no_answer"


@pytest.fixture
def display(tmp_path):
    if shutil.which("Xvfb") is None:
        pytest.fail("Xvfb is missing; make system installs it")
    reading, writing = os.pipe()
    command = ["Xvfb", "-displayfd", str(writing), "-screen", "0", "2000x1200x24", "-nolisten", "tcp"]
    server = subprocess.Popen(command, pass_fds=[writing], stderr=subprocess.DEVNULL)
    os.close(writing)
    with os.fdopen(reading) as told:
        number = told.readline().strip()
    yield f":{number}"
    server.terminate()
    server.wait()


def descendants(pid: int) -> int:
    """How many processes a process, and those that it started, have started that still run."""
    listed = Path(f"/proc/{pid}/task/{pid}/children")
    own = [int(child) for child in listed.read_text().split()] if listed.exists() else []
    return len(own) + sum(map(descendants, own))


def test_the_demo_opens_in_a_window_and_ctrl_c_closes_it(display, tmp_path):
    home = {"XDG_CONFIG_HOME": str(tmp_path), "XDG_STATE_HOME": str(tmp_path), "DISPLAY": display}
    environment = {k: v for k, v in os.environ.items() if k != "QT_QPA_PLATFORM"} | home
    command = [sys.executable, "-m", "rovix", "demo"]
    program = subprocess.Popen(command, env=environment, cwd=tmp_path, stderr=subprocess.DEVNULL)
    # Its drawing processes start once the window is up.
    end = time.monotonic() + 90
    while descendants(program.pid) < 4 and program.poll() is None and time.monotonic() < end:
        time.sleep(0.1)
    time.sleep(3)
    assert program.poll() is None, "it ended by itself"
    program.send_signal(signal.SIGINT)
    assert program.wait(90) == 0
    assert not (tmp_path / "build").exists(), "with a display nothing is rendered"


def test_under_a_window_manager_nothing_is_cut_at_any_size_and_dialogs_wear_our_dress(display):
    if shutil.which("openbox") is None:
        pytest.fail("openbox is missing; make system installs it")
    environment = os.environ | {"DISPLAY": display, "QT_QPA_PLATFORM": "xcb"}
    manager = subprocess.Popen(["openbox"], env=environment, stderr=subprocess.DEVNULL)
    folder = Path(__file__).parent
    tests = [str(folder / "test_nothing_is_cut.py"), f"{folder / 'test_hands.py'}::{_DIALOG}"]
    command = [sys.executable, "-m", "pytest", "-q", "-x", "-p", "no:cacheprovider", "-p", "no:xdist", *tests]
    try:
        done = subprocess.run(
            command, env=environment, capture_output=True, text=True, timeout=400, check=False
        )
    finally:
        manager.terminate()
        manager.wait()
    assert done.returncode == 0, done.stdout[-3000:]


def test_without_a_display_open_says_so(tmp_path):
    environment = {
        k: v for k, v in os.environ.items() if k not in ("QT_QPA_PLATFORM", "DISPLAY", "WAYLAND_DISPLAY")
    }
    done = subprocess.run(
        [sys.executable, "-m", "rovix", "open"], env=environment, capture_output=True, text=True, check=False
    )
    assert done.returncode == 1
    assert "no display" in done.stderr
