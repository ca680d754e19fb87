"""The last ten saved versions beside a project: kept, limited, read again, damaged, hostile."""

import gzip
import zipfile
from datetime import UTC, datetime, timedelta
from functools import cache

import pytest

from builders import project_of, title
from rovix.engine import earlier_versions
from rovix.engine.earlier_versions import MOST, keep_version, versions_file, versions_of
from rovix.errors import RovixError
from rovix.formats import project_bytes

START = datetime(2026, 3, 1, 9, 0, tzinfo=UTC)


@cache
def content(words):
    return project_bytes(project_of(title(words, id="a")))


@pytest.fixture
def path(tmp_path):
    made = tmp_path / "kite.rovix"
    made.write_bytes(content("Larkmoor"))
    return made


def kept(path, words, minutes=0, picture=b""):
    return keep_version(path, content(words), picture, START + timedelta(minutes=minutes))


def words_of(path):
    return [v.read(path).sequence.tracks[0].clips[0].text.content for v in versions_of(path)]


def test_the_last_ten_are_kept_the_newest_first(path):
    assert versions_of(path) == []
    for number in range(13):
        assert kept(path, f"Kite {number}", number)
    assert words_of(path) == [f"Kite {number}" for number in range(12, 2, -1)]
    assert len(versions_of(path)) == MOST
    assert versions_of(path)[0].when == START + timedelta(minutes=12)
    assert versions_file(path).name == ".kite.versions.zip"


def test_what_did_not_change_is_kept_once_and_a_second_in_one_second_takes_its_place(path):
    kept(path, "Kite")
    kept(path, "Kite", 5)
    assert len(versions_of(path)) == 1
    kept(path, "Gust", 0)
    assert words_of(path) == ["Gust"]


def test_any_zip_program_can_take_them_out(path):
    kept(path, "Kite", 3, b"\x89PNG...")
    with zipfile.ZipFile(versions_file(path)) as file:
        assert sorted(file.namelist()) == ["2026-03-01 09.03.00.png", "2026-03-01 09.03.00.rovix.gz"]
        assert gzip.decompress(file.read("2026-03-01 09.03.00.rovix.gz")) == content("Kite")
        assert file.testzip() is None
    assert versions_of(path)[0].picture == b"\x89PNG..."


def test_the_oldest_go_where_all_are_too_large_and_one_that_is_too_large_is_not_kept(path, monkeypatch):
    monkeypatch.setattr(earlier_versions, "LIMIT", 5000)
    for number in range(4):
        kept(path, f"Kite {number}", number, bytes(900))
    assert 1 < len(versions_of(path)) < 4
    assert words_of(path)[0] == "Kite 3"
    assert versions_file(path).stat().st_size < 6500
    before = versions_file(path).read_bytes()
    assert not kept(path, "Vast", 9, bytes(6000))
    assert versions_file(path).read_bytes() == before


def test_a_folder_that_cannot_be_written_is_named(path, monkeypatch):
    def refuse(_):
        raise PermissionError(13, "Permission denied")

    monkeypatch.setattr(earlier_versions, "replacing", refuse)
    with pytest.raises(RovixError, match=r"not kept beside kite\.rovix: Permission denied"):
        kept(path, "Kite")


def test_a_damaged_file_is_named_and_stays_as_it_is(path):
    versions_file(path).write_bytes(b"no zip at all")
    for work in (lambda: versions_of(path), lambda: kept(path, "Kite")):
        with pytest.raises(RovixError, match=r"\.kite\.versions\.zip cannot be read.*Move it away"):
            work()
    assert versions_file(path).read_bytes() == b"no zip at all"


def test_a_hostile_zip_is_passed_over(path, monkeypatch):
    kept(path, "Kite")
    with zipfile.ZipFile(versions_file(path), "a") as file:
        file.writestr("../../evil.rovix.gz", b"x")
        file.writestr("2026-03-01 10.00.00.rovix.gz", gzip.compress(bytes(1 << 20)), zipfile.ZIP_DEFLATED)
        file.writestr("2026-03-01 11.00.00.rovix.gz", gzip.compress(bytes(1 << 20)))
        file.writestr("2026-03-01 12.00.00.rovix.gz", b"no gzip")
    found = versions_of(path)
    assert [version.when.hour for version in found] == [12, 11, 9]
    monkeypatch.setattr(earlier_versions, "LARGEST", 1 << 16)
    with pytest.raises(RovixError, match="too large"):
        found[1].read(path)
    with pytest.raises(RovixError, match="damaged"):
        found[0].read(path)
    assert found[2].read(path).sequence.tracks[0].clips[0].text.content == "Kite"
