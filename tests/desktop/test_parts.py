"""The smaller parts of the window, each by itself."""

from itertools import combinations

import numpy as np
import pytest
from gestures import NONE, SHIFT, drag
from PySide6.QtCore import QPoint, QPointF, QRectF, Qt
from PySide6.QtTest import QTest

from builders import project_of, title
from rovix.desktop.document import Document
from rovix.desktop.messages import Messages
from rovix.desktop.sheet.curve_box import CurveBox
from rovix.desktop.sheet.motion.move_strip import Block, MoveStrip
from rovix.desktop.sheet.parts import KeyPip, Segments
from rovix.desktop.sound import SoundClock
from rovix.desktop.sound_out import SampleStream
from rovix.desktop.timeline.gestures import Aim, Gesture, part_at
from rovix.desktop.timeline.rows import content_height, row_at, rows_of
from rovix.desktop.timeline.ruler import stretches
from rovix.desktop.timeline.scale import HEADER, Scale, ruler_step
from rovix.desktop.viewer.geometry import (
    fitted_view,
    grab_at,
    handle_corners,
    polygon_of,
    scaled_by,
    stalk_handles,
    turned_by,
)
from rovix.edit import clip_by_id, set_move_length
from rovix.engine.player import Run
from rovix.engine.sample_source import SamplesAhead, SampleSource
from rovix.media.samples import Held
from rovix.model import Media, Sound, SoundClip
from rovix.motion.quads import LayerQuads, picture_quads
from rovix.motion.ready_moves import pop, rise_and_fade
from rovix.time import Rate, Span


def test_a_fitted_view_is_centred_and_goes_both_ways():
    view = fitted_view((1920, 1080), 1000, 700)
    assert view.frame.center().x() == pytest.approx(500)
    assert view.frame.center().y() == pytest.approx(350)
    assert view.to_frame(view.to_view(123, 456)) == pytest.approx((123, 456))
    assert fitted_view((1920, 1080), 20, 20).scale > 0


def test_turns_and_scales_are_measured_about_the_pivot():
    pivot = QPointF(10, 10)
    assert turned_by(pivot, QPointF(10, 0), QPointF(20, 10)) == pytest.approx(90)
    assert turned_by(pivot, QPointF(0, 10.1), QPointF(0, 9.9)) == pytest.approx(1.15, abs=0.01)
    assert scaled_by(pivot, QPointF(20, 10), QPointF(40, 10)) == pytest.approx(3)


def test_handles_are_grabbed_near_their_middle():
    quads = picture_quads(project_of(title("Kite")), 0)[0]
    view = fitted_view((640, 360), 700, 420)
    corner = view.to_view(*quads.rest[1].tolist())
    assert grab_at(view, quads, corner + QPointF(4, 4)).corner == 1
    for kind, (_, handle) in stalk_handles(view, quads).items():
        assert grab_at(view, quads, handle).kind == kind
    assert grab_at(view, quads, view.to_view(*quads.pivot.tolist()), pivots=True).kind == "pivot"
    assert grab_at(view, quads, view.to_view(320, 180)) is None


def test_zooming_keeps_the_frame_under_the_mouse():
    scale = Scale(2.0, 30.0)
    x = scale.x(77.0)
    assert scale.zoomed(3.0, x).frame(x) == pytest.approx(77)
    assert scale.zoomed(1e9, x).px == 40.0
    assert scale.frame(HEADER) == 30


@pytest.mark.parametrize(("px", "step"), [(40, 2), (10, 10), (2.0, 60), (0.5, 300), (0.02, 9000)])
def test_ruler_labels_have_room(px, step):
    found = ruler_step(Scale(px), Rate(30))
    assert found == step
    assert found * px >= 76


def test_rows_run_from_the_highest_picture_to_the_sounds():
    sound = SoundClip(id="hum", media="m")
    project = project_of(title(id="low"), sound, title(id="high"))
    rows = rows_of(project)
    assert [row.track for row in rows] == [2, 0, 1]
    assert row_at(rows, rows[1].top + 1) is rows[1]
    assert row_at(rows, 0) is None
    assert content_height(project) == rows[-1].bottom - 30
    assert rows_of(project, 10)[0].top == rows[0].top - 10


def test_runs_of_frames_are_joined():
    assert stretches([1, 2, 3, 7, 9, 10]) == [(1, 4), (7, 8), (9, 11)]
    assert stretches([]) == []


def test_edges_and_grips_are_told_apart():
    clip = title(length=60, moves=[pop(), rise_and_fade("exit")])
    project = project_of(clip)

    def part(frame, height, of=clip, chosen=True):
        return part_at(of, project, frame, height, 5.0, chosen, None)

    assert part(0.5, 0.9) == "start"
    assert part(59.8, 0.9) == "end"
    assert part(6.2, 0.9) == "entrance"
    assert part(6.2, 0.3) == "move"
    assert part(41.0, 0.9) == "exit"
    assert part(25, 0.9) == "move"
    assert part(0.5, 0.9, of=title(length=1)) in ("move", "end")
    hum = SoundClip(id="hum", media="m", length=60, sound=Sound(fade_in=10, fade_out=20))
    assert part(10.4, 0.1, of=hum) == "fade_in"
    assert part(39.8, 0.1, of=hum) == "fade_out"
    assert part(10.4, 0.1, of=hum, chosen=False) == "move"


def test_an_exit_grip_sets_the_exits_length():
    project = project_of(title(length=60, moves=[rise_and_fade("exit")]))
    dragged = Gesture("exit", "title", ("title",), 41.0, 0).edited(project, Aim(49.0, 0, [], 0.0))
    assert dragged == set_move_length(project, "title", "exit", 10)
    caught = Gesture("start", "title", ("title",), 0.4, 0).edited(project, Aim(9.0, 0, [10], 2.0))
    assert clip_by_id(caught, "title").start == 10, "the start caught on the playhead"


def test_a_curve_box_takes_css_and_refuses_what_is_none(qapp):
    box, heard = CurveBox("Piece curve"), []
    box.chosen.connect(lambda text: heard.append(("chosen", text)))
    box.refused.connect(lambda text: heard.append(("refused", text)))
    box.show_curve("cubic-out")
    box._box.setCurrentText("cubic-bezier(0.2, 0, 0, 1)")
    box._take()
    box._box.setCurrentText("cubic-sideways")
    box._take()
    assert heard[0] == ("chosen", "cubic-bezier(0.2, 0, 0, 1)")
    assert heard[1][0] == "refused"
    assert box._box.currentText() == "cubic-out"
    box._picture.show_curve("back-out")
    assert "10 % beyond" in box._picture.toolTip()
    box.deleteLater()


def strip_of(*blocks, tuned="in", clip=100):
    strip = MoveStrip()
    strip.show_moves(blocks, tuned, clip)
    strip.resize(202, strip.sizeHint().height())
    return strip


ENTERS = Block("in", "Pop", "entrance", 0, 20, "end")
LEAVES = Block("out", "Fade", "exit", 79, 20, "start")
BEATS = Block("beat", "Sway", "loop", 20, 59, "")


def test_moves_are_chosen_in_their_strip_and_their_length_dragged_and_stepped(qapp):
    strip, chosen, tried, heard, off = strip_of(ENTERS, BEATS, LEAVES), [], [], [], []
    strip.chosen.connect(chosen.append)
    strip.tried.connect(tried.append)
    strip.committed.connect(heard.append)
    strip.removed.connect(off.append)
    middle = strip.height() // 2
    QTest.mouseClick(strip, Qt.MouseButton.LeftButton, pos=QPoint(100, middle))
    assert (chosen, heard) == (["beat"], []), "a click beside an edge sets no length"
    drag(strip, QPoint(41, middle), QPoint(101, middle))
    assert (tried[-1], heard) == (50, [50])
    drag(strip, QPoint(158, middle), QPoint(101, middle))
    assert chosen == ["beat", "out"], "the edge of another move chooses it, too"
    assert heard[1] == pytest.approx(49, abs=1), "an exit's free edge is its start"
    for key, modifiers in ((Qt.Key.Key_Right, NONE), (Qt.Key.Key_Left, SHIFT)):
        QTest.keyClick(strip, key, modifiers)
    assert heard[2:] == [21, 10]
    QTest.keyClick(strip, Qt.Key.Key_Down)
    QTest.keyClick(strip, Qt.Key.Key_Up)
    assert chosen[2:] == ["beat", "out"], "up from the first goes round to the last"
    QTest.keyClick(strip, Qt.Key.Key_Delete)
    assert off == ["in"]
    strip.show_moves([ENTERS, BEATS, LEAVES], "beat", 100)
    QTest.keyClick(strip, Qt.Key.Key_Right)
    assert len(heard) == 4, "a loop has no length to be dragged"
    strip.deleteLater()


def test_moves_that_lie_over_each_other_stand_below_each_other(qapp):
    other = Block("two", "Whirl", "entrance", 0, 40, "end")
    strip = strip_of(ENTERS, other, LEAVES)
    tops = [strip.box_of(block).top() for block in strip.blocks]
    assert tops[0] == tops[2] < tops[1]
    assert strip.height() > strip_of(ENTERS, LEAVES).height()
    assert "20 frames" in strip.accessibleDescription()


def test_a_move_of_no_length_can_still_be_taken_hold_of(qapp):
    strip = strip_of(Block("in", "Cut", "entrance", 0, 0, "end"), Block("out", "Cut", "exit", 99, 0, "start"))
    for block in strip.blocks:
        box = strip.box_of(block)
        assert box.width() >= 10
        assert QRectF(strip.rect()).contains(box)


def test_segments_and_pips_say_what_they_are(qapp):
    segments, heard = Segments({"a": "One", "b": "Two"}, "Choice"), []
    segments.chosen.connect(heard.append)
    segments._buttons["b"].click()
    segments.show_choice("a")
    assert heard == ["b"]
    assert segments._buttons["a"].isChecked()
    pip = KeyPip()
    pip.show_state("key")
    assert pip.toolTip() == "A key on this frame."
    segments.deleteLater()
    pip.deleteLater()


def test_messages_stack_and_go_when_answered(qapp):
    from PySide6.QtWidgets import QWidget

    parent = QWidget()
    parent.resize(800, 500)
    messages, taken = Messages(parent), []
    for number in range(4):
        messages.problem(f"reason {number}\nThing {number} could not be read.")
    assert messages._column.count() == 3
    message = messages.offer("Unsaved work", "It was not saved.", {"Recover": lambda: taken.append(1)})
    assert message.accessibleName() == "Unsaved work. It was not saved."
    message._take(lambda: taken.append(2))
    assert taken == [2]
    parent.deleteLater()


def test_sound_is_handed_to_the_device_as_it_asks(qapp):
    steady = np.full((48_000, 2), 0.25, dtype=np.float32)
    media = Media(id="m", path="m.wav", kind="sound")
    sequence = project_of(SoundClip(id="c", media="m", length=30), media=(media,)).sequence
    ahead = SamplesAhead(SampleSource(sequence, Span(0, 30), 0, False, lambda _: Held(steady)))
    stream = SampleStream(ahead)
    assert ahead.wait_for_some(20)
    first = np.frombuffer(stream.readData(800), dtype=np.float32).reshape(-1, 2)
    assert first.shape == (100, 2)
    assert (first == 0.25).all()
    assert stream.isSequential()
    stream.close()
    ahead.stop()


def test_without_a_device_the_clock_is_silent_but_runs(qapp, tmp_path):
    clock = SoundClock(Document(project_of(title()), tmp_path))
    clock.start(Run(Span(0, 30), 0, 1.0, False))
    QTest.qWait(30)
    assert 0.02 < clock.seconds() < 5
    clock.stop()


def test_a_document_names_its_steps_and_keeps_the_playhead_inside(tmp_path):
    document = Document(project_of(title(length=30)), tmp_path)
    seen = []
    document.playhead_moved.connect(seen.append)
    document.seek(99)
    document.seek(-5)
    assert seen == [29, 0]
    document.problem.connect(lambda text: seen.append(text))
    assert not document.do("Nothing", lambda project: set_move_length(project, "title", "exit", 5))
    assert "no exit to change" in seen[-1]
    document.select("title")
    document.do("Shorten", lambda p: p)
    assert document.history.undo_title is None


@pytest.mark.parametrize(("width", "height"), [(300.0, 60.0), (90.0, 8.0), (0.0, 0.0)])
@pytest.mark.parametrize("turn", [0.0, 30.0, 90.0])
def test_handles_of_small_words_stand_apart_and_leave_them_free(width, height, turn):
    view = fitted_view((640, 360), 664, 384)
    box = np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]]) * [width / 2, height / 2]
    turned = np.radians(turn)
    rest = box @ [[np.cos(turned), np.sin(turned)], [-np.sin(turned), np.cos(turned)]] + [320, 180]
    quads = LayerQuads("a", rest, rest[None], np.array([320.0, 180.0]), rest)
    handles = handle_corners(view, quads)
    for one, other in combinations(handles, 2):
        assert (one - other).manhattanLength() >= 39
    assert grab_at(view, quads, view.to_view(320, 180)) is None, "the words themselves can be taken"
    if height >= 60:
        assert all(
            (h - view.to_view(*c)).manhattanLength() < 1e-6 for h, c in zip(handles, rest, strict=True)
        )


@pytest.mark.parametrize("count", [0, 1, 500])
def test_a_polygon_of_many_points_has_each_of_them(count):
    points = np.random.default_rng(3).normal(0, 1e4, (count, 2))
    assert [point.toTuple() for point in polygon_of(points)] == list(map(tuple, points.tolist()))
