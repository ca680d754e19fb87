"""The program itself, on a real X display."""

import os
import shutil
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest


@pytest.fixture
def display(tmp_path):
    if shutil.which("Xvfb") is None:
        pytest.fail("Xvfb is missing; make system installs it")
    reading, writing = os.pipe()
    command = ["Xvfb", "-displayfd", str(writing), "-screen", "0", "1280x800x24", "-nolisten", "tcp"]
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


def test_without_a_display_open_says_so(tmp_path):
    environment = {
        k: v for k, v in os.environ.items() if k not in ("QT_QPA_PLATFORM", "DISPLAY", "WAYLAND_DISPLAY")
    }
    done = subprocess.run(
        [sys.executable, "-m", "rovix", "open"], env=environment, capture_output=True, text=True, check=False
    )
    assert done.returncode == 1
    assert "no display" in done.stderr
