"""Finding files that went elsewhere."""

import shutil

import pytest

from rovix.media.probe import probe
from rovix.media.relink import find_media


@pytest.fixture
def moved(tmp_path, demo_data):
    """Two files known at one place, now in folders of another."""
    here, there = tmp_path / "here", tmp_path / "there" / "deep" / "down"
    here.mkdir()
    there.mkdir(parents=True)
    for name in ("logo.png", "thump.flac"):
        shutil.copy(demo_data / name, here / name)
    known = [probe(here / name, tmp_path) for name in ("logo.png", "thump.flac")]
    shutil.move(here / "logo.png", there / "renamed.png")
    shutil.move(here / "thump.flac", there / "THUMP.flac")
    return known, tmp_path


def test_by_digest_whatever_it_is_called_and_in_folders_below(moved):
    known, base = moved
    found = find_media(known, base / "there", base)
    assert found[known[0].id].path == "there/deep/down/renamed.png"
    assert found[known[1].id].path == "there/deep/down/THUMP.flac"
    assert found[known[0].id].digest == known[0].digest


def test_by_name_where_the_content_has_changed(moved, demo_data):
    known, base = moved
    folder = base / "again"
    folder.mkdir()
    shutil.copy(demo_data / "whoosh.flac", folder / "thump.flac")
    (folder / "logo.png").write_text("no picture")
    found = find_media(known, folder, base)
    assert set(found) == {known[1].id}, "what is no picture is not the logo"
    assert found[known[1].id].digest != known[1].digest


def test_a_search_can_be_stopped_and_may_find_nothing(moved, tmp_path):
    known, base = moved
    assert find_media(known, base / "there", base, lambda: True) == {}
    assert find_media(known, base / "here", base) == {}
