"""What every test can rely on."""

from __future__ import annotations

import os

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import pytest
from hypothesis import settings

from rovix.demo import DATA, DEMO_PROJECT
from rovix.engine import open_project

# The machines that tests run on are throttled at times: how long an example takes says nothing.
settings.register_profile("unhurried", deadline=None)
settings.load_profile("unhurried")


@pytest.fixture
def demo():
    with open_project(DEMO_PROJECT) as project:
        yield project


@pytest.fixture
def demo_data():
    return DATA
