"""Contrast of every text role on its ground (WCAG 2.2, success criterion 1.4.3: 4.5 to 1)."""

import re
from pathlib import Path

import pytest

import rovix.desktop
from rovix.check.safe import ACTION, TITLE, safe_rect
from rovix.desktop.theme.icons import FOLDER, icon
from rovix.desktop.theme.roles import DARK, TEXT_ON, contrast

PAIRS = [(text, ground) for text, grounds in TEXT_ON.items() for ground in grounds]


def test_the_contrast_formula_gives_the_standards_extremes():
    assert contrast("#000000", "#ffffff") == pytest.approx(21)
    assert contrast("#777777", "#777777") == 1
    # A worked value known from the standard's techniques: #767676 on white is the lightest that passes.
    assert contrast("#767676", "#ffffff") == pytest.approx(4.54, abs=0.01)


@pytest.mark.parametrize(("text", "ground"), PAIRS)
def test_every_text_role_can_be_read_on_its_ground(text, ground):
    assert contrast(getattr(DARK, text), getattr(DARK, ground)) >= 4.5


def test_no_widget_names_a_colour_of_its_own():
    folder = Path(rovix.desktop.__file__).parent
    for path in folder.rglob("*.py"):
        if path.name != "roles.py":
            literal = re.findall(r'"#[0-9a-fA-F]{6}"', path.read_text(encoding="utf-8"))
            assert not literal or path.name == "colour_plane.py", f"{path.name}: {literal}"


def test_every_icon_draws(qapp):
    for path in FOLDER.glob("*.svg"):
        image = icon(path.stem).pixmap(18, 18).toImage()
        assert any(image.pixelColor(x, y).alpha() for x in range(18) for y in range(18)), path.name


def test_safe_areas_are_those_of_the_standards():
    # EBU R 95 and SMPTE ST 2046-1: action 93 %, words 90 % of a 16:9 picture (from memory).
    assert (ACTION, TITLE) == (0.93, 0.90)
    assert safe_rect((1920, 1080), TITLE) == pytest.approx((96, 54, 1824, 1026))
    assert safe_rect((1920, 1080), ACTION) == pytest.approx((67.2, 37.8, 1852.8, 1042.2))
