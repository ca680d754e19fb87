"""Thousands of clips in the timeline: bars where they are too narrow, clips where there is room."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QColor
from PySide6.QtTest import QTest

from builders import project_of, title
from rovix.desktop.clip_views import clip_role
from rovix.desktop.theme import colour
from rovix.desktop.timeline.crowds import Crowd, shown_of
from rovix.edit.tree import replace
from rovix.model import BackgroundClip, Track

CLIPS = tuple(title(f"{n}", id=f"c{n}", start=n * 50, length=45) for n in range(400))


def shown(clips, px, first=0.0, last=1e9):
    return list(shown_of(clips, px, first, last))


def test_with_room_each_clip_is_shown():
    assert shown(CLIPS, 1.0) == list(CLIPS)


def test_narrow_ones_side_by_side_are_one_bar():
    (crowd,) = shown(CLIPS, 0.02)
    assert crowd == Crowd(0, 400 * 50 - 5, clip_role(CLIPS[0]))


def test_a_gap_that_can_be_seen_parts_two_bars():
    clips = (*CLIPS[:10], *(replace(c, start=c.start + 9000) for c in CLIPS[10:20]))
    assert [one.start for one in shown(clips, 0.02)] == [0, 500 + 9000]


def test_another_kind_and_a_wide_clip_stand_by_themselves():
    ground = BackgroundClip(id="ground", start=20_000, length=40)
    wide = title("wide", id="wide", start=21_000, length=5000)
    laid = shown((*CLIPS, ground, wide), 0.02)
    assert [type(one).__name__ for one in laid] == ["Crowd", "Crowd", "TextClip"]
    assert laid[1].role == clip_role(ground)


@pytest.mark.parametrize("px", [0.02, 0.2, 1.0])
def test_of_what_lies_outside_nothing_is_shown(px):
    whole = shown(CLIPS, px)
    for first, last in ((0, 300), (5000, 5600), (19_990, 30_000)):
        wanted = [one for one in whole if one.end > first and one.start <= last]
        got = shown(CLIPS, px, first, last)
        assert [one for one in got if one.end > first] == wanted
        assert len(got) <= len(wanted) + 1


@pytest.fixture
def window(make_test_window):
    project = project_of()
    sequence = replace(project.sequence, tracks=(Track(id="t", clips=CLIPS),))
    return make_test_window(replace(project, sequences=(sequence,)))


def px_of(window, clip):
    canvas = window.timeline.canvas
    row = canvas.rows()[0]
    at = QPoint(round(canvas.scale.x(clip.start + clip.length / 2)), row.top + row.height // 2)
    return QColor(canvas.grab().toImage().pixel(at)), at


def test_zoomed_out_they_are_seen_selected_and_taken_all_the_same(window):
    canvas = window.timeline.canvas
    canvas.fit()
    assert CLIPS[0].length * canvas.scale.px < 4
    plain, at = px_of(window, CLIPS[200])
    ground = colour("ground")
    assert abs(plain.lightness() - ground.lightness()) > 10, "a bar is there"
    QTest.mouseClick(canvas, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, at)
    near = [clip.id for clip in CLIPS[198:203]]
    assert window.document.selected in near
    chosen = next(clip for clip in CLIPS if clip.id == window.document.selected)
    assert px_of(window, chosen)[0] != plain, "the selected one is seen among them"


def test_hours_fit_into_the_timeline(window):
    far = title("far", id="far", start=5 * 3600 * 30, length=300)
    window.document.do("Far", lambda p: replace(p, sequences=(replace(
        p.sequence, tracks=(replace(p.sequence.tracks[0], clips=(*CLIPS, far)),)),)))  # fmt: skip
    canvas = window.timeline.canvas
    canvas.fit()
    assert canvas.scale.x(far.end) <= canvas.width()


def test_work_is_put_into_words_bit_by_bit_while_hands_rest(window, monkeypatch):
    recovery = window.files.recovery
    made = []
    monkeypatch.setattr(
        "rovix.desktop.recovery.preparing", lambda project: iter([made.append(n) for n in range(3)])
    )
    recovery._prepared = recovery._steps = None
    recovery._bits.start(0)
    QTest.qWait(120)
    assert made == [0, 1, 2]
    assert not recovery._bits.isActive(), "nothing is left to do"


def test_keeping_work_writes_what_was_prepared(window):
    from rovix.formats import project_file

    for _ in project_file.preparing(window.document.whole):
        pass
    assert all(
        project_file._clip_texts.has(clip) for clip in window.document.project.sequence.tracks[0].clips
    )
    window.document.do("Edit", lambda p: replace(p, name="Other"))
    assert window.files.recovery.write()
