"""Whose work comes with Rovix is said as its creators say it, and wherever licences ask for it."""

import tomllib
from pathlib import Path

import pytest

from rovix.credits import EMOJI, credits, font_notice
from rovix.text.catalogue import shipped

ROOT = Path(__file__).parents[1]
NOTICE = (ROOT / "NOTICE").read_text(encoding="utf-8")


@pytest.mark.parametrize("family", shipped())
def test_each_family_has_its_licence_and_its_fonts_own_notice(family):
    for style in shipped()[family]:
        text = (Path(style.path).parent / "OFL.txt").read_text(encoding="utf-8")
        assert "SIL OPEN FONT LICENSE" in text.upper()
        notice = font_notice(style.path)
        if notice:
            assert text.startswith(notice + "\n")
            assert family in {credit.name for credit in credits() if credit.notice == notice}
        else:
            assert all(word in text for credit in EMOJI for word in (credit.name, credit.notice, credit.link))


def test_the_notice_names_all_that_comes_along():
    for credit in credits():
        if credit.kind != "packages":
            assert f"{credit.name}\n  {credit.notice}\n  {credit.licence}: {credit.link}\n" in NOTICE
    assert "GNU General Public License" in NOTICE


def test_each_package_that_is_needed_is_credited():
    needed = tomllib.loads((ROOT / "pyproject.toml").read_text())["project"]["dependencies"]
    named = [credit.name.split()[0] for credit in credits() if credit.kind == "packages"]
    assert len(named) == len(needed)
    assert all(any(entry.startswith(name) for entry in needed) for name in named)


def test_the_licence_of_unicodes_files_lies_beside_them():
    folder = ROOT / "tests" / "data"
    text = (folder / "UNICODE-LICENSE.txt").read_text(encoding="utf-8")
    assert text.startswith("UNICODE LICENSE V3")
    assert list(folder.glob("*BreakTest*"))
