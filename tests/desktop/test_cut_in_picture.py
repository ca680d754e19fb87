"""Pictures cut to a form by the sheet, placed within it by hand, their line edited in the picture."""

import numpy as np
import pytest
from gestures import SHIFT, pull
from PySide6.QtCore import QPointF, Qt
from PySide6.QtTest import QTest

from builders import project_of
from made_files import video
from rovix.desktop.dialogs.sequence_settings import SequenceSettings
from rovix.edit import clip_by_id
from rovix.edit.tree import replace
from rovix.media.probe import probe
from rovix.model import Cut, FootageClip


@pytest.fixture
def window(make_test_window, tmp_path):
    pictures = [np.full((90, 160, 3), (40 + n, 90, 160), np.uint8) for n in range(10)]
    film = video(tmp_path / "film.mkv", pictures, codec="ffv1", pix_fmt="bgr0", rate=25)
    media = replace(probe(film, tmp_path), id="m")
    clip = FootageClip(id="film", media="m", length=10)
    window = make_test_window(project_of(clip, media=(media,), rate="25"), base=tmp_path)
    window.document.select("film")
    return window


def cut(window):
    return clip_by_id(window.document.project, "film").cut


def choose(window, form):
    window.sheet.open_page("Clip")
    forms = window.sheet.page("Clip")
    box = forms._parts[1]._cut._forms
    box.setCurrentIndex(box.findData(form))
    box.activated.emit(box.currentIndex())
    return forms._parts[1]._cut


def test_a_form_is_chosen_and_sized_by_the_sheet(window):
    part = choose(window, "ellipse")
    assert cut(window) == Cut(form="ellipse")
    assert part._size.isVisibleTo(part)
    assert not part._corners.isVisibleTo(part)
    hidden = [part._forms.view().isRowHidden(n) for n in range(part._forms.count())]
    assert hidden == [False, True, True, False, False, False]  # square and round are stills'
    choose(window, "none")
    assert cut(window) is None
    window.document.undo()
    assert cut(window).form == "ellipse"


def test_the_picture_is_dragged_and_grown_within_it(window):
    choose(window, "box")
    window.run("cut-place")
    viewer = window.viewer
    middle, scale = viewer.view.to_view(320, 180), viewer.view.scale
    pull(viewer, middle, middle + QPointF(40 * scale, -20 * scale))
    assert (cut(window).x, cut(window).y) == pytest.approx((40, -20), abs=0.5)
    assert window.document.history.undo_title == "Place the picture within its form"
    pull(viewer, middle, middle + QPointF(0, -50), SHIFT)
    assert cut(window).zoom > 1.1
    window.document.undo()
    assert cut(window).zoom == 1.0
    QTest.keyClick(viewer, Qt.Key.Key_Escape)
    assert viewer.hand is None


def test_a_drawn_form_has_its_line_in_the_picture(window):
    choose(window, "drawn")
    before = cut(window).contour
    window.run("cut-edit")
    viewer = window.viewer
    pull(viewer, viewer.view.to_view(320, 180), viewer.view.to_view(330, 180))
    assert [p[0] for p in cut(window).contour] == pytest.approx([p[0] + 10 for p in before], abs=1)
    assert window.document.history.undo_title == "Move the form's line"
    choose(window, "box")
    assert viewer.hand is None  # there is no line any more


def test_a_locked_layer_is_told_and_left(window):
    choose(window, "box")
    window.run("lock-track")
    said = []
    window.document.problem.connect(said.append)
    window.run("cut-place")
    middle = window.viewer.view.to_view(320, 180)
    pull(window.viewer, middle, middle + QPointF(30, 0))
    assert cut(window).x == 0
    assert "locked" in said[-1]


def test_the_sequences_settings_say_whether_layers_lie_by_depth(window):
    settings = SequenceSettings(window.document.project.sequence, "Settings", "Take")
    assert not settings.by_depth.isChecked()
    settings.by_depth.setChecked(True)
    assert settings.edited(window.document.project).sequence.by_depth
