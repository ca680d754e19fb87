"""The classic families against Qt's QEasingCurve, an independent implementation of the textbook."""

import numpy as np
import pytest

from rovix.curve import easing
from rovix.curve.families import FAMILIES

QtCore = pytest.importorskip("PySide6.QtCore")
MODES = {"in": "In", "out": "Out", "in-out": "InOut", "out-in": "OutIn"}
SHARES = np.linspace(0, 1, 501)
# Where Qt leaves the textbook, and by how much at most; families.py says which we follow and why.
DIFFERENT = {
    "expo-in": 0.0011,
    "expo-out": 0.0011,
    "expo-in-out": 0.0006,
    "expo-out-in": 0.0006,
    "elastic-in-out": 0.18,
    "elastic-out-in": 0.55,
    "bounce-out-in": 0.13,
}


@pytest.mark.parametrize("mode", MODES)
@pytest.mark.parametrize("name", FAMILIES)
def test_family_agrees_with_qt_but_where_qt_leaves_the_textbook(name, mode):
    kind = getattr(QtCore.QEasingCurve.Type, MODES[mode] + name.capitalize())
    curve = QtCore.QEasingCurve(kind)
    expected = np.array([curve.valueForProgress(share) for share in SHARES])
    error = np.max(np.abs(easing(f"{name}-{mode}")(SHARES) - expected))
    allowed = DIFFERENT.get(f"{name}-{mode}", 1e-8)
    assert error <= allowed
    if allowed > 1e-8:
        assert error > 1e-4, "Qt agrees after all: take the exception away"


@pytest.mark.parametrize(
    ("name", "share", "value"),
    [
        # Textbook forms, worked out by hand.
        ("quad-in", 0.5, 0.25),
        ("cubic-out", 0.5, 0.875),
        ("quart-in-out", 0.25, 0.03125),
        ("sine-in", 1 / 3, 1 - np.cos(np.pi / 6)),
        ("expo-in", 0.9, 0.5),
        ("circ-out", 0.5, np.sqrt(0.75)),
        ("back-out", 0.5, 1 + 2.70158 * -0.125 + 1.70158 * 0.25),
        ("bounce-out", 4 / 11, 1.0),
        ("bounce-out", 6 / 11, 0.75),
        ("elastic-out", 0.3, 1 + 2**-3 * np.sin((0.3 - 0.075) * 2 * np.pi / 0.3)),
    ],
)
def test_textbook_values(name, share, value):
    assert easing(name)(share) == pytest.approx(value, abs=1e-12)


def test_back_goes_a_tenth_beyond():
    assert easing("back-out")(SHARES).max() == pytest.approx(1.1, abs=1e-3)


def test_families_stay_at_their_ends_outside():
    assert easing("back-in")([-1, 2]).tolist() == [0.0, 1.0]
