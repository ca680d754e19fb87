"""Interlaced footage: told by probing, and shown whole on request."""

from fractions import Fraction

import numpy as np
import pytest

from builders import project_of, psnr
from interlaced_film import COUNT, HEIGHT, WIDTH, moment, write_fields
from rovix.edit.media_list import relink, set_deinterlaced
from rovix.engine.open_project import OpenProject
from rovix.errors import RovixError
from rovix.media.library import MediaLibrary
from rovix.media.probe import probe
from rovix.media.shared_video import Gone, SharedVideo
from rovix.media.video import VideoReader
from rovix.model import FootageClip


@pytest.fixture(scope="module")
def film(tmp_path_factory):
    path = tmp_path_factory.mktemp("fields") / "fields.mpg"
    write_fields(path)
    return path


def luma(reader, number):
    return reader.picture(Fraction(number, 25))[..., 1].astype(float)


def whole(number):
    """What a picture's first field alone shows, as full-range green."""
    return np.clip((moment(2 * number).astype(float) - 16) * 255 / 219, 0, 255)


def test_it_is_told_from_what_is_not(film, demo, demo_data):
    assert probe(film).interlaced
    assert not any(media.interlaced for media in demo.tree.media)
    assert not probe(demo_data / "kite-crossing.mp4").interlaced


def test_each_picture_is_its_first_field_made_whole(film):
    combed, made = VideoReader(film), VideoReader(film, True)
    for number in range(2, COUNT - 2):
        assert psnr(luma(made, number), whole(number)) > 30
        assert psnr(luma(combed, number), whole(number)) < 24


@pytest.mark.parametrize("kind", [VideoReader, SharedVideo])
def test_the_same_picture_comes_whichever_way_it_is_come_to(film, kind):
    straight = VideoReader(film, True)
    asked = [luma(straight, number) for number in range(COUNT)]
    reader = kind(film, True)
    for number in (7, 3, 9, 0, 11, 5, 6):
        try:
            got = luma(reader, number)
        except Gone:
            continue
        assert np.array_equal(got, asked[number]), number


def test_it_is_shown_so_on_request_and_not_without(film):
    media = probe(film)
    clip = FootageClip(id="c", media=media.id, length=COUNT)
    project = project_of(clip, media=(media,), size=(WIDTH, HEIGHT), rate="25")
    asked = set_deinterlaced(project, media.id, True)
    shown = []
    for one in (project, asked, set_deinterlaced(asked, media.id, False)):
        with OpenProject(one, film.parent) as opened:
            shown.append(opened.picture(5)[..., 1].astype(float))
    assert psnr(shown[1], whole(5)) > 30
    assert np.array_equal(shown[0], shown[2])
    assert MediaLibrary(asked, film.parent).footage(media.id)[1]


def test_other_footage_refuses_and_another_file_forgets_it(film, demo_data):
    laced, plain = probe(film), probe(demo_data / "kite-crossing.mp4")
    project = project_of(media=(laced, plain))
    with pytest.raises(RovixError, match="is not interlaced"):
        set_deinterlaced(project, plain.id, True)
    asked = set_deinterlaced(project, laced.id, True)
    kept = relink(asked, {laced.id: laced}).media[0]
    gone = relink(asked, {laced.id: plain}).media[0]
    assert (kept.deinterlaced, gone.deinterlaced) == (True, False)
