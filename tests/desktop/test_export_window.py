"""Export: the form and the name go together; selected layers alone, over nothing."""

import numpy as np
import pytest
from PIL import Image

from rovix.media.encoders import ENCODERS
from rovix.time import Span
from waiting import wait_for


@pytest.fixture
def export(window, tmp_path):
    window.document.select("big")
    made = window.open_export()
    made.out.setText(str(tmp_path / "kites.mp4"))
    return made


def choose(export, codec):
    number = next(n for n, kind in enumerate(ENCODERS) if kind.codec == codec)
    export.form.setCurrentIndex(export.form.findData(number))
    export.form.activated.emit(export.form.currentIndex())


@pytest.mark.parametrize("kind", ENCODERS, ids=lambda kind: kind.codec)
def test_the_name_ends_as_the_form_does_and_what_it_keeps_is_said(export, tmp_path, kind):
    choose(export, kind.codec)
    assert export.out.text() == str(tmp_path / f"kites{kind.suffix}")
    said = export.said.text()
    assert ("With transparency" in said) == (kind.alpha == "full")
    assert ("Without sound" in said) == (not kind.sound)
    assert ("folder" in said) == kind.folder


def test_a_name_that_is_typed_chooses_its_form_and_keeps_a_fitting_one(export, tmp_path):
    export.out.setText(str(tmp_path / "a.webm"))
    export.out.editingFinished.emit()
    assert export.kind.codec == "vp9"
    choose(export, "av1")
    export.out.setText(str(tmp_path / "b.webm"))
    export.out.editingFinished.emit()
    assert export.kind.codec == "av1"


def test_selected_layers_are_written_alone_as_pictures_with_alpha(export, tmp_path, window):
    choose(export, "png")
    export.alone.setChecked(True)
    export.start()
    assert wait_for(lambda: not export.is_running, 120_000)
    assert "is ready" in export.said.text()
    pictures = sorted((tmp_path / "kites").iterdir())
    assert len(pictures) == window.document.project.sequence.length
    alpha = np.asarray(Image.open(pictures[40]))[..., 3]
    assert alpha.min() == 0
    assert alpha.max() == 255


def test_without_a_layer_selected_there_is_nothing_to_deliver_alone(window):
    window.document.select()
    assert not window.open_export().alone.isEnabled()


@pytest.mark.parametrize("kind", ENCODERS, ids=lambda kind: kind.codec)
def test_the_qualities_are_those_of_the_form_with_their_numbers(export, kind):
    choose(export, kind.codec)
    offered = {
        export.quality.itemData(row): export.quality.itemText(row) for row in range(export.quality.count())
    }
    assert set(offered) == {quality.name for quality in kind.qualities}
    assert all(quality.said.lower() in offered[quality.name].lower() for quality in kind.qualities)
    assert export.quality.currentData() == kind.quality().name
    assert export.quality.isEnabled() == (len(kind.qualities) > 1)


def test_the_size_is_said_once_choices_rest_and_follows_them(export, window):
    document = window.document
    document.set_range(Span(0, 12))
    export.only_range.setEnabled(True)
    export.only_range.setChecked(True)
    assert wait_for(lambda: export.left.text().startswith("About "), 60_000)
    first = export.left.text()
    export.quality.show_data("small")
    export.quality.activated.emit(export.quality.currentIndex())
    assert export.left.text() == ""
    assert wait_for(lambda: export.left.text().startswith("About "), 60_000)
    assert export.left.text() != first


def test_a_window_that_is_put_away_leaves_nothing_running(export):
    assert wait_for(lambda: export.left.text() == "Finding the size…", 20_000)
    process = export.weight._process
    export.close()
    assert export.left.text() == ""
    assert wait_for(lambda: process not in export.weight._leaving, 20_000)
    assert export.weight._process is None


def test_the_export_itself_is_not_held_up_by_finding_the_size(export, tmp_path, window):
    window.document.set_range(Span(0, 6))
    export.only_range.setEnabled(True)
    export.only_range.setChecked(True)
    assert wait_for(lambda: export.left.text() == "Finding the size…", 20_000)
    export.start()
    assert export.weight._process is None
    assert wait_for(lambda: not export.is_running, 120_000)
    assert (tmp_path / "kites.mp4").is_file()
