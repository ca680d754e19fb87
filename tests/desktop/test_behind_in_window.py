"""Words behind a thing in footage, from the picture: made, corrected, kept beside the project, made again."""

from fractions import Fraction

import numpy as np
import pytest
from gestures import NONE, SHIFT, pull
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from builders import project_of, title
from made_files import video
from rovix.edit.behind import cut_out_in
from rovix.edit.paste import copied, pasted
from rovix.edit.tree import replace
from rovix.formats import read_project
from rovix.media.probe import probe
from rovix.media.video import VideoReader
from rovix.model import FootageClip, GroupClip, Project, Sequence
from rovix.model.consistency import inconsistencies
from waiting import wait_for

SIZE = (320, 180)


def frame_of_film(n):
    """A red square that goes to the right over blue."""
    picture = np.full((180, 320, 3), (70, 120, 200), np.uint8)
    picture[60:130, 60 + 4 * n : 130 + 4 * n] = (220, 60, 40)
    return picture


@pytest.fixture
def window(make_test_window, tmp_path, monkeypatch):
    monkeypatch.setattr("rovix.engine.matte_files.user_data_path", lambda *_: tmp_path / "data")
    film = video(tmp_path / "film.mkv", [frame_of_film(n) for n in range(24)], codec="ffv1", pix_fmt="bgr0")
    media = replace(probe(film, tmp_path), id="m")
    clip = FootageClip(id="film", media="m", start=2, length=20, offset=1)
    words = title("HHHH", id="words", start=0, length=18, text={"size": 90.0})
    window = make_test_window(project_of(clip, words, media=(media,), size=SIZE, rate="30"), base=tmp_path)
    window.document.select("words")
    window.document.seek(2 + 8)
    window.told = []
    window.document.problem.connect(window.told.append)
    return window


def spot(window, x, y):
    return window.viewer.view.to_view(x, y)


def square(frame):
    """The middle of the square in the sequence's picture."""
    return 95 + 4 * (frame - 2 + 1), 95


def stroke(window, modifiers=NONE, way=(20, 22)):
    x, y = square(window.document.playhead)
    pull(window.viewer, spot(window, x - way[0], y - way[1]), spot(window, x + way[0], y + way[1]), modifiers)


def put(window, modifiers=NONE):
    window.run("behind")
    stroke(window, modifiers, (20, 22) if modifiers == NONE else (45, 45))
    assert wait_for(lambda: not window.session.is_busy, 30_000)
    return window.document.clip


def test_a_stroke_is_all_it_takes(window):
    before = window.document.whole
    group = put(window)
    assert isinstance(group, GroupClip), window.told
    assert (group.start, group.length, group.offset) == (2, 16, 0)
    tracks = window.document.project.sequence.tracks
    assert [track.clips[0].id for track in tracks] == ["film", "words", group.id]
    cut_out, matte = group.tracks
    assert matte.hidden
    assert cut_out.muted
    assert cut_out.clips[0].effects[-1].through.layer == matte.clips[0].id
    assert (cut_out.clips[0].offset, matte.clips[0].offset) == (1, 1)
    item = cut_out_in(window.document.project, group.id)
    assert item.cut_out.footage == "m"
    assert (item.cut_out.first, item.cut_out.last) == (1, 16)
    assert inconsistencies(window.document.whole) == []
    assert window.document.history.undo_title == "Put behind the thing"
    window.document.undo()
    assert window.document.whole == before


def test_a_box_does_too_and_the_thing_is_in_front(window):
    group = put(window, SHIFT)
    item = cut_out_in(window.document.project, group.id)
    assert item.cut_out.box is not None
    reader = VideoReader(window.document.base / item.path)
    for n in (1, 8, 15):
        grey = reader.picture(Fraction(n, 30))[..., 0] > 127
        ys, xs = np.nonzero(grey)
        assert (xs.min(), xs.max() + 1, ys.min(), ys.max() + 1) == pytest.approx((60 + 4 * n, 130 + 4 * n, 60, 130), abs=2)  # fmt: skip
    reader.close()


def test_it_is_corrected_by_strokes_in_any_frame(window):
    group = put(window)
    old = cut_out_in(window.document.project, group.id)
    window.document.seek(2 + 12)
    window.run("behind-correct")
    assert window.viewer.hand is not None
    # The upper half of the square is not to count.
    x, y = square(window.document.playhead)
    pull(window.viewer, spot(window, x - 28, y - 25), spot(window, x + 28, y - 25), SHIFT)
    stroke(window, NONE, (25, -25))
    QTest.keyClick(window.viewer, Qt.Key.Key_Backspace)
    QTest.keyClick(window.viewer, Qt.Key.Key_Return)
    assert wait_for(lambda: not window.session.is_busy, 30_000)
    new = cut_out_in(window.document.project, group.id)
    assert new.path != old.path
    assert [s.belongs for s in new.cut_out.strokes] == [True, False]
    assert new.cut_out.strokes[1].frame == 13
    assert window.document.history.undo_title == "Correct the matte"
    window.document.undo()
    assert cut_out_in(window.document.project, group.id) == old


def test_the_matte_goes_along_when_the_project_gets_a_folder(window, tmp_path):
    group = put(window)
    item = cut_out_in(window.document.project, group.id)
    waiting = (window.document.base / item.path).resolve()
    assert waiting.parent == (tmp_path / "data" / "mattes").resolve()
    (tmp_path / "work").mkdir()
    assert window.document.save(tmp_path / "work" / "a.rovix")
    moved = cut_out_in(window.document.project, group.id)
    assert moved.path == f"mattes/{waiting.name}"
    assert (tmp_path / "work" / moved.path).read_bytes() == waiting.read_bytes()
    assert cut_out_in(read_project(tmp_path / "work" / "a.rovix"), group.id).path == moved.path
    # Undone and done again it is still found there.
    window.document.undo()
    window.document.redo()
    assert cut_out_in(window.document.project, group.id).path == moved.path


def test_a_matte_that_is_gone_is_made_again_without_a_question(window, tmp_path, make_test_window):
    put(window)
    (tmp_path / "work").mkdir()
    assert window.document.save(tmp_path / "work" / "a.rovix")
    (file,) = (tmp_path / "work" / "mattes").iterdir()
    whole = file.read_bytes()
    file.unlink()
    again = make_test_window(read_project(tmp_path / "work" / "a.rovix"), base=tmp_path / "work")
    again.document.opened.emit()
    assert wait_for(lambda: file.exists() and not again.session.is_busy, 30_000)
    assert file.read_bytes() == whole
    assert not again.document.history.is_changed


def test_a_group_with_a_matte_is_pasted_with_its_footage(window, tmp_path):
    group = put(window)
    small = copied(window.document.project, [group.id], window.document.base)
    other = Project(id="o", sequences=(Sequence(id="s"),))
    made, (identity,) = pasted(other, small, 0, tmp_path)
    assert inconsistencies(made) == []
    assert len(made.media) == 2
    assert cut_out_in(made, identity).cut_out.footage in {m.id for m in made.media}


def test_what_cannot_be_is_told(window):
    window.document.select("words")
    window.document.seek(0)
    window.run("behind")
    assert "footage" in window.told[-1]
    assert window.viewer.hand is None
    window.document.seek(10)
    window.run("behind")
    QTest.keyClick(window.viewer, Qt.Key.Key_Escape)
    assert window.viewer.hand is None
    assert not window.session.is_busy


def test_cancel_leaves_nothing(window, tmp_path):
    before = window.document.whole
    window.run("behind")
    stroke(window)
    assert window.viewer.shade is not None
    window.session.end()
    assert not window.session.is_busy
    assert window.viewer.shade is None
    assert window.document.whole == before
    assert not list((tmp_path / "data").rglob("*.mkv"))


def test_the_outline_goes_with_the_strokes_and_a_frame_beside_the_footage_is_told(window):
    put(window)
    window.run("behind-correct")
    assert window.viewer.shade is not None
    QTest.keyClick(window.viewer, Qt.Key.Key_Escape)
    assert window.viewer.hand is None
    assert window.viewer.shade is None
    window.document.select("words")
    window.document.seek(10)
    window.run("behind")
    window.document.seek(1)  # before the film begins
    stroke(window)
    assert "not seen at the playhead" in window.told[-1]
    assert not window.session.is_busy
