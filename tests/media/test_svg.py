"""Drawings: measured by their units, drawn at the size needed, and kept from everything outside."""

import base64
import io
import os
from fractions import Fraction

import numpy as np
import pytest
from PIL import Image

from rovix.media.apart import apart
from rovix.media.errors import MediaError
from rovix.media.library import MediaLibrary
from rovix.media.probe import probe
from rovix.media.stills import read_still
from rovix.media.svg import read_svg
from rovix.model import Project

SVG = 'xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"'
RED = '<rect width="100%" height="100%" fill="#ff0000"/>'


def drawing(tmp_path, inside=RED, size='width="40" height="20"', name="a.svg"):
    path = tmp_path / name
    path.write_text(f"<svg {SVG} {size}>{inside}</svg>", encoding="utf-8")
    return path


def png(size=(8, 8), colour="#00ff00"):
    stream = io.BytesIO()
    Image.new("RGB", size, colour).save(stream, "PNG")
    return stream.getvalue()


def embedded(content, kind="png"):
    return f"data:image/{kind};base64,{base64.b64encode(content).decode()}"


@pytest.mark.parametrize(
    ("size", "px"),
    [
        ('width="40" height="20"', (40, 20)),
        ('width="40px" height="20px"', (40, 20)),
        # CSS Values and Units Level 4, section 6.2: 1in = 2.54cm = 25.4mm = 101.6Q = 72pt = 6pc = 96px.
        ('width="1in" height="2.54cm"', (96, 96)),
        ('width="25.4mm" height="101.6q"', (96, 96)),
        ('width="72pt" height="6pc"', (96, 96)),
        ('width="2em" height="4ex"', (32, 32)),
        ('viewBox="0 0 30 10"', (30, 10)),
        ('viewBox="0 0 30 10" width="60"', (60, 20)),
        ('viewBox="0,0,30,10" width="100%" height="50%"', (30, 10)),
    ],
)
def test_a_drawing_is_as_large_as_it_says_in_any_unit(tmp_path, size, px):
    height, width = read_svg(drawing(tmp_path, size=size)).shape[:2]
    assert (width, height) == px


@pytest.mark.parametrize(
    "size",
    ['width="90000em" height="2"', 'width="0" height="5"', 'width="-4" height="5"', 'viewBox="0 0 1e9 1"'],
)
def test_sizes_that_cannot_be_drawn_are_refused(tmp_path, size):
    with pytest.raises(MediaError, match="its sides do not lie from 1 to 8192 px"):
        read_svg(drawing(tmp_path, size=size))


def test_a_drawing_is_drawn_at_the_size_it_is_seen(tmp_path):
    """A circle drawn four times as large has an edge of about one px; enlarged, it would have four."""
    path = drawing(tmp_path, '<circle cx="20" cy="20" r="15" fill="#fff"/>', 'width="40" height="40"')
    media = probe(path)
    library = MediaLibrary(Project(media=(media,)), tmp_path)
    small, large = library.picture(media.id, None), library.picture(media.id, None, (150, 150))
    assert (small.shape[:2], large.shape[:2]) == ((40, 40), (160, 160))
    row = large[80, :, 3].astype(int)
    assert np.count_nonzero((row > 0) & (row < 255)) <= 4
    assert library.picture(media.id, None, (10**6, 10**6)).shape[0] <= 8192
    library.close()


@pytest.mark.parametrize(
    "inside",
    [
        '<image href="secret.png" width="40" height="20"/>',
        '<image xlink:href="file:///{folder}/secret.png" width="40" height="20"/>',
        '<image href="{folder}/secret.png" width="40" height="20"/>',
        '<filter id="f"><feImage href="secret.png"/></filter><rect width="40" height="20" filter="url(#f)"/>',
        '<rect width="40" height="20" fill="url(secret.svg#p)"/>',
        "<style>@import url(secret.css); rect {{ fill: url('secret.svg#p') }}</style>",
        '<use href="secret.svg#a"/>',
    ],
)
def test_nothing_beside_the_drawing_is_read(tmp_path, inside, monkeypatch):
    (tmp_path / "secret.png").write_bytes(png((40, 20)))
    monkeypatch.chdir(tmp_path)
    path = drawing(tmp_path, inside.format(folder=tmp_path))
    seen = read_svg(path)
    assert not np.any(seen[..., 1] > 200), "the secret is green"


def test_pictures_in_the_text_itself_and_fragments_are_drawn(tmp_path):
    inside = f'<image href="{embedded(png((40, 20)))}" width="40" height="20"/>'
    assert read_svg(drawing(tmp_path, inside))[10, 20].tolist() == [0, 255, 0, 255]
    twice = '<defs><rect id="r" width="40" height="20" fill="#00ff00"/></defs><use href="#r"/>'
    assert read_svg(drawing(tmp_path, twice))[10, 20].tolist() == [0, 255, 0, 255]


HOSTILE = {
    "deep": "<g>" * 300 + RED + "</g>" * 300,
    "very deep": "<g>" * 20_000 + "</g>" * 20_000,
    "wide pattern": '<pattern id="p" width="100000" height="100000" patternUnits="userSpaceOnUse">'
    '<rect width="99999" height="99999" fill="red"/></pattern><rect width="40" height="20" fill="url(#p)"/>',
    "octaves": '<filter id="f"><feTurbulence numOctaves="2000000000"/></filter>'
    '<rect width="40" height="20" filter="url(#f)"/>',
    "large blur": '<filter id="f"><feGaussianBlur stdDeviation="1e9"/></filter>'
    '<rect width="40" height="20" filter="url(#f)"/>',
    "nested use": '<g id="a0"><rect width="1" height="1"/></g>'
    + "".join(f'<g id="a{n}">' + f'<use href="#a{n - 1}"/>' * 10 + "</g>" for n in range(1, 9)),
    "itself": '<g id="a"><use href="#a"/></g>',
    "damaged picture": f'<image href="{embedded(b"no picture")}" width="4" height="4"/>',
    "drawing in itself": f'<image href="{embedded(b"<svg/>", "svg+xml")}" width="4" height="4"/>',
}


@pytest.mark.parametrize("name", HOSTILE)
def test_a_hostile_drawing_costs_one_sentence_at_most(tmp_path, name):
    path = drawing(tmp_path, HOSTILE[name])
    result = outcome(path)
    if isinstance(result, str):
        assert result.startswith("a.svg could not be read: ")
        assert "\n" not in result
    else:
        assert result.shape == (20, 40, 4)


def outcome(path):
    """The pixels, or the sentence."""
    try:
        return apart(read_svg, path, seconds=10)
    except MediaError as wrong:
        return str(wrong)


def test_a_picture_inside_that_is_too_large_is_named(tmp_path):
    inside = f'<image href="{embedded(png((20_000, 3_000)))}" width="4" height="4"/>'
    with pytest.raises(MediaError, match="a picture inside it"):
        read_svg(drawing(tmp_path, inside))


@pytest.mark.parametrize("kind", ["pipe", "device", "folder"])
def test_only_files_are_opened(tmp_path, kind):
    path = tmp_path / "a.svg"
    if kind == "pipe":
        os.mkfifo(path)
    elif kind == "device":
        path.symlink_to("/dev/zero")
    else:
        path.mkdir()
    for read in (probe, read_still, read_svg):
        with pytest.raises(MediaError):
            read(path)
    project = Project(media=(probe(drawing(tmp_path, name="b.svg"), tmp_path),))
    film = project.media[0]
    library = MediaLibrary(project, tmp_path)
    (tmp_path / "b.svg").unlink()
    os.mkfifo(tmp_path / "b.svg")
    for time in (None, Fraction(0)):
        with pytest.raises(MediaError):
            library.picture(film.id, time)
    library.close()


def hang(path):
    while True:
        pass


def die(path):
    os.abort()


def eat(path):
    return len(bytearray(8 << 30))


def test_what_hangs_dies_or_eats_memory_is_one_sentence(tmp_path):
    path = tmp_path / "bad.png"
    with pytest.raises(MediaError, match="it took longer than 1 s, and was given up"):
        apart(hang, path, seconds=1)
    with pytest.raises(MediaError, match="it ended its reader"):
        apart(die, path)
    with pytest.raises(MediaError, match="it needs more than 2 GB"):
        apart(eat, path)
