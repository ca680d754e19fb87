"""What is read from font files, fonts beside a project, and what is forgotten when they come or go."""

from __future__ import annotations

import shutil
from contextlib import suppress

import pytest
from hypothesis import given
from hypothesis import strategies as st

from builders import title
from made_fonts import FAMILY, made_collection, made_font
from rovix.model import Text
from rovix.text import catalogue, families, lay_out, match_face
from rovix.text.catalogue import look_for_fonts_again, source_of, use_project_fonts
from rovix.text.font_changes import fonts_turn
from rovix.text.font_files import FontError, fonts_in, read_font


@pytest.fixture(autouse=True)
def _as_before(tmp_path):
    yield
    use_project_fonts(tmp_path / "none")


def test_family_weight_licence_and_leave_are_read_as_the_opentype_tables_say(tmp_path):
    # OpenType 1.9, 'name' ids 1, 2, 13 and 'OS/2' usWeightClass, fsType bit 1 (restricted licence embedding).
    font = read_font(made_font(tmp_path / "a.ttf", weight=600, restricted=True))
    (style,) = font.styles
    assert (style.family, style.low, style.high, style.italic) == (FAMILY, 600, 600, False)
    assert font.licence == "Made up for tests."
    assert font.restricted
    assert not read_font(made_font(tmp_path / "b.ttf")).restricted


def test_a_collection_gives_each_of_its_families(tmp_path):
    font = read_font(made_collection(tmp_path / "two.ttc"))
    assert font.families == ("Larkmoor One", "Larkmoor Two")
    assert [style.index for style in font.styles] == [0, 1]


@pytest.mark.parametrize("data", [b"", b"\0" * 300, b"OTTO" + b"\xff" * 400, b"ttcf\0\1\0\0\xff\xff\xff\xff"])
@pytest.mark.parametrize("suffix", [".ttf", ".ttc"])
def test_what_is_no_font_is_refused_by_name(tmp_path, data, suffix):
    path = tmp_path / f"odd{suffix}"
    path.write_bytes(data)
    with pytest.raises(FontError, match="odd"):
        read_font(path)


def test_a_missing_file_and_another_kind_say_so(tmp_path):
    with pytest.raises(FontError, match="cannot be opened"):
        read_font(tmp_path / "gone.ttf")
    with pytest.raises(FontError, match="convert it"):
        read_font(tmp_path / "web.woff2")


@given(cut=st.integers(0, 60_000), at=st.integers(0, 60_000), byte=st.integers(0, 255))
def test_damaged_fonts_are_read_or_refused_and_nothing_else(tmp_path_factory, cut, at, byte):
    folder = tmp_path_factory.mktemp("damaged")
    path = made_font(folder / "a.ttf")
    data = bytearray(path.read_bytes())
    data[at % len(data)] = byte
    path.write_bytes(data[: max(1, len(data) - cut)])
    with suppress(FontError):
        assert read_font(path).styles
    shutil.rmtree(folder)


def test_fonts_beside_a_project_can_be_set_and_go_with_it(tmp_path):
    (tmp_path / "fonts").mkdir()
    made_font(tmp_path / "fonts" / "a.ttf")
    (tmp_path / "fonts" / "broken.ttf").write_bytes(b"nothing")
    assert match_face(FAMILY).missing
    use_project_fonts(tmp_path)
    assert FAMILY in families()
    assert source_of(FAMILY) == "project"
    assert not match_face(FAMILY).missing
    use_project_fonts(tmp_path / "elsewhere")
    assert match_face(FAMILY).missing


def test_a_font_that_comes_later_is_used_by_words_that_were_laid_out_without_it(tmp_path):
    words = Text(content="Larkmoor", family=FAMILY, size=80.0)
    use_project_fonts(tmp_path)
    before, turn = lay_out(words).ink_bounds(), fonts_turn()
    (tmp_path / "fonts").mkdir()
    made_font(tmp_path / "fonts" / "a.ttf")
    look_for_fonts_again()
    after = lay_out(words).ink_bounds()
    assert fonts_turn() > turn
    assert after != before
    assert after == lay_out(Text(content="Larkmoor", family="Alfa Slab One", size=80.0)).ink_bounds()


def test_the_same_folder_again_forgets_nothing(tmp_path):
    use_project_fonts(tmp_path)
    words = title("Kite").text
    kept, turn = lay_out(words), fonts_turn()
    use_project_fonts(tmp_path)
    assert lay_out(words) is kept
    assert fonts_turn() == turn


def test_a_shipped_family_stays_ours_whatever_lies_beside_a_project(tmp_path):
    (tmp_path / "fonts").mkdir()
    made_font(tmp_path / "fonts" / "a.ttf", family="Inter")
    use_project_fonts(tmp_path)
    assert source_of("Inter") == "shipped"
    assert str(catalogue.FONTS) in match_face("Inter").face.key.path


def test_every_file_that_ships_reads_as_a_font():
    for folder in filter(lambda path: path.is_dir(), catalogue.FONTS.iterdir()):
        usable = [path for path in folder.iterdir() if path.suffix in (".ttf", ".otf")]
        assert len(fonts_in(folder)) == len(usable)
