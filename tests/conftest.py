"""What every test can rely on."""

from __future__ import annotations

import builtins
import os
import shutil
import tempfile

os.environ["XDG_STATE_HOME"] = tempfile.mkdtemp(prefix="rovix-tests-")
# What is kept by tests is none of the user's.
os.environ["XDG_DATA_HOME"] = f"{os.environ['XDG_STATE_HOME']}/data"
os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import pytest
from hypothesis import settings

from core_tests import is_core
from rovix.demo import DATA, DEMO_PROJECT
from rovix.engine.open_project import open_project

# The machines that tests run on are throttled at times: how long an example takes says nothing.
settings.register_profile("unhurried", deadline=None)
settings.load_profile("unhurried")


def pytest_unconfigure():
    shutil.rmtree(os.environ["XDG_STATE_HOME"], ignore_errors=True)


@pytest.fixture(autouse=True)
def _no_qt_in_the_core(request, monkeypatch):
    """An import of Qt in the core's tests fails, though the tests of the window run in the same process."""
    if is_core(request.path):
        # Not by taking Qt's modules away: its own library, loaded for other tests, would crash without.
        monkeypatch.setattr(builtins, "__import__", _import_without_qt)


_import = builtins.__import__


def _import_without_qt(name, globals=None, *others, **named):
    own = (globals or {}).get("__name__", "").partition(".")[0]
    if name.partition(".")[0] in ("PySide6", "shiboken6") and own in ("rovix", "core_tests"):
        raise ModuleNotFoundError(f"{name} is blocked in the core's tests")
    return _import(name, globals, *others, **named)


@pytest.fixture
def demo():
    with open_project(DEMO_PROJECT) as project:
        yield project


@pytest.fixture
def demo_data():
    return DATA
