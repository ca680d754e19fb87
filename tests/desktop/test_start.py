"""What a start waits for: only what the first picture needs."""

import json
import os
import subprocess
import sys

import pytest

from rovix.desktop.loaded_later import LATER
from rovix.entry import opens_window

_PROGRAM = """
import gc, json, sys
import rovix.collecting_later
from rovix.processes import warm_up
warm_up()
from rovix.desktop import app

made = app.make_application()
window = app.make_window(1)
facts = {}

def shown(picture):
    if picture is not None and "modules" not in facts:
        facts.update(modules=sorted(sys.modules), collecting=[gc.isenabled()])
        made.exit()

window.projector.picture_shown.connect(shown)
app.load_the_rest(window)
window.show()
facts.update(made=sorted(sys.modules))
made.exec()
window.later.join(60)
facts["collecting"].append(gc.isenabled())
facts.update(later=sorted(sys.modules), feature=hasattr(sys.modules["shibokensupport.feature"], "_mod_uses_pyside"))
print(json.dumps(facts))
window.shut_down()
"""


@pytest.fixture(scope="module")
def start(tmp_path_factory):
    """What is loaded at the first picture of a start, and behind it."""
    folder = str(tmp_path_factory.mktemp("user"))
    own = {f"XDG_{kind}_HOME": folder for kind in ("STATE", "DATA", "CONFIG")}
    done = subprocess.run(
        [sys.executable, "-c", _PROGRAM], env=os.environ | own | {"QT_QPA_PLATFORM": "offscreen"},
        capture_output=True, text=True, timeout=120, check=False,
    )  # fmt: skip
    assert done.returncode == 0, done.stderr
    return json.loads(done.stdout)


@pytest.mark.parametrize("heavy", ["av", "cv2", "skia", "PIL", "rapidfuzz", "PySide6.QtMultimedia", "rich"])
def test_the_window_draws_decodes_and_searches_nothing_itself_before_its_first_picture(start, heavy):
    assert heavy not in start["modules"]


def test_words_are_cut_by_the_first_row_that_is_painted_and_by_nothing_that_makes_the_window(start):
    # Not by the first picture: on a busy machine the timeline is painted before it comes.
    assert "uniseg" not in start["made"]


def test_what_is_loaded_later_is_loaded_then_and_not_before(start):
    assert not set(LATER) & set(start["modules"])
    assert set(LATER) <= set(start["later"])


def test_the_collector_of_what_may_go_is_on_again(start):
    assert start["collecting"] == [False, True]


def test_pyside_still_reads_sources_where_it_is_told_not_to(start):
    assert start["feature"], "else `no_features` does nothing any more, and goes"


@pytest.mark.parametrize(("arguments", "expected"), [
    (["open"], True), (["open", "a.rovix"], True), (["demo"], True), ([], False), (["export", "a", "b"], False),
    (["open", "--help"], False),
])  # fmt: skip
def test_only_what_opens_a_window_starts_the_server_first(monkeypatch, arguments, expected):
    monkeypatch.setenv("DISPLAY", ":1")
    assert opens_window(arguments) is expected
    for name in ("QT_QPA_PLATFORM", "DISPLAY", "WAYLAND_DISPLAY"):
        monkeypatch.delenv(name, raising=False)
    assert not opens_window(arguments)
