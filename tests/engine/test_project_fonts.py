"""Bringing fonts in, taking them along, and pictures by other processes that are set in them."""

from __future__ import annotations

import numpy as np
import pytest

from builders import project_of, title
from listening import wanted
from made_fonts import FAMILY, made_font
from rovix.engine.open_project import OpenProject
from rovix.engine.picture_service import PictureService
from rovix.engine.project_fonts import bring_in, carry_fonts, check_font
from rovix.errors import RovixError
from rovix.text.catalogue import look_for_fonts_again, use_project_fonts
from rovix.text.font_files import FontError


@pytest.fixture(autouse=True)
def _as_before(tmp_path):
    yield
    use_project_fonts(tmp_path / "none")


def _project(family=FAMILY):
    return project_of(title("Larkmoor", length=10, text={"family": family, "size": 80.0}))


def test_a_font_is_checked_in_another_process_and_copied_whole(tmp_path):
    font = check_font(made_font(tmp_path / "a.ttf"))
    (brought,) = bring_in([font], tmp_path / "fonts")
    assert (tmp_path / "fonts" / "a.ttf").read_bytes() == (tmp_path / "a.ttf").read_bytes()
    assert brought.path == str(tmp_path / "fonts" / "a.ttf")


def test_the_same_font_twice_is_one_file_and_another_of_that_name_gets_a_number(tmp_path):
    font = check_font(made_font(tmp_path / "a.ttf"))
    bring_in([font, font], tmp_path / "fonts")
    (tmp_path / "other").mkdir()
    bring_in([check_font(made_font(tmp_path / "other" / "a.ttf", weight=700))], tmp_path / "fonts")
    assert sorted(path.name for path in (tmp_path / "fonts").iterdir()) == ["a 2.ttf", "a.ttf"]


def test_what_is_no_font_and_where_nothing_can_be_written_are_told(tmp_path):
    (tmp_path / "odd.ttf").write_bytes(b"no font")
    with pytest.raises(FontError, match="odd"):
        check_font(tmp_path / "odd.ttf")
    (tmp_path / "file").write_bytes(b"")
    with pytest.raises(RovixError, match="could not be copied"):
        bring_in([check_font(made_font(tmp_path / "a.ttf"))], tmp_path / "file" / "fonts")


def test_fonts_in_use_go_along_to_another_folder_and_others_do_not(tmp_path):
    old, new = tmp_path / "old", tmp_path / "new"
    (old / "fonts").mkdir(parents=True)
    made_font(old / "fonts" / "used.ttf")
    made_font(old / "fonts" / "idle.ttf", family="Larkmoor Idle")
    carry_fonts(_project(), old, new)
    assert [path.name for path in (new / "fonts").iterdir()] == ["used.ttf"]
    carry_fonts(_project("Inter"), old, tmp_path / "third")
    assert not (tmp_path / "third" / "fonts").exists()


def test_a_picture_is_set_in_the_fonts_beside_its_project(tmp_path):
    with OpenProject(_project(), tmp_path) as opened:
        without = opened.picture(0)
    (tmp_path / "fonts").mkdir()
    made_font(tmp_path / "fonts" / "a.ttf")
    look_for_fonts_again()
    with OpenProject(_project(), tmp_path) as opened:
        own = opened.picture(0)
    with OpenProject(_project("Alfa Slab One"), tmp_path) as opened:
        same = opened.picture(0)
    assert np.array_equal(own, same)
    assert not np.array_equal(own, without)


def test_the_service_draws_anew_when_a_font_comes(tmp_path):
    project = _project()
    service = PictureService(1, memory=16 << 20)
    try:
        use_project_fonts(tmp_path)
        service.resize((320, 180))
        service.show(project, tmp_path)
        before = wanted(service, 0).pixels.copy()
        (tmp_path / "fonts").mkdir()
        made_font(tmp_path / "fonts" / "a.ttf")
        look_for_fonts_again()
        service.show(project, tmp_path)
        after = wanted(service, 0).pixels.copy()
    finally:
        service.close()
    with OpenProject(_project("Alfa Slab One"), tmp_path) as opened:
        assert np.array_equal(after, opened.picture(0, (320, 180)))
    assert not np.array_equal(before, after)
