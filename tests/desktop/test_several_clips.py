"""The sheet, the shelf and their keys act on all that is selected."""

import pytest
from gestures import LEFT, at, drag
from PySide6.QtTest import QTest
from test_text_page import type_into

from builders import look_of, project_of, title
from rovix.desktop.clip_views import CLIP_VIEWS
from rovix.desktop.sheet.mixed import ABSENT, MIXED, common
from rovix.desktop.sheet.sheet import PAGES
from rovix.edit import change_transform, clip_by_id, move_of
from rovix.formats import read_project
from rovix.model import BackgroundClip, Keys, Outline, Plain, ShapeClip, Transform
from rovix.motion import move_spans
from rovix.motion.pace import asked_seconds
from rovix.motion.ready_moves import pop, rise_and_fade


@pytest.fixture
def window(make_test_window):
    """Words of three sizes and places, the last on a locked track, and a box."""
    ground = BackgroundClip(id="ground", name="Ground", length=90, background=Plain(colour="#335566"))
    layers = [
        title("Larkmoor", id="one", name="One", length=80, text={"size": 40.0}, transform=Transform(x=10.0),
              moves=[pop(), rise_and_fade("exit")]),
        title("Kite day", id="two", name="Two", start=20, length=50, text={"size": 60.0},
              transform=Transform(x=30.0), look=look_of("#fff8ea", Outline(id="edge")),
              moves=[rise_and_fade("exit")]),
        ShapeClip(id="box", name="Box", start=10, length=40),
        title("Shut", id="shut", name="Shut", length=80, text={"size": 40.0}),
    ]  # fmt: skip
    made = make_test_window(project_of(ground, *layers))
    made.document.do("Lock", lambda p: _locked(p, len(p.sequence.tracks) - 1))
    made.document.seek(40)
    return made


def _locked(project, number):
    from rovix.edit.tree import replace, with_sequence

    tracks = list(project.sequence.tracks)
    tracks[number] = replace(tracks[number], locked=True)
    return with_sequence(project, replace(project.sequence, tracks=tuple(tracks)))


def clip(window, identity):
    return clip_by_id(window.document.project, identity)


def opened(window, page, *identities):
    window.document.select(*identities)
    window.sheet.open_page(page)
    return window.sheet.page(page)


def told(window):
    column = window.messages._column
    return " ".join(column.itemAt(n).widget().accessibleName() for n in range(column.count()))


def test_what_differs_reads_mixed_and_a_value_goes_to_all_as_one_step(window):
    page, document = opened(window, "Transform", "one", "two"), window.document
    field = page._fields["x"]
    assert (field.text(), page._fields["y"].text()) == ("mixed", "0")
    assert "2 clips" in window.sheet._said.text()
    type_into(field, "25")
    assert [clip(window, name).transform.x for name in ("one", "two")] == [25.0, 25.0]
    assert document.history.undo_title == "Change the position X, 2 clips"
    window.run("undo")
    assert [clip(window, name).transform.x for name in ("one", "two")] == [10.0, 30.0]
    assert field.text() == "mixed"


@pytest.mark.parametrize(("typed", "made"), [("+10", [20, 40]), ("*2", [20, 60]), ("-=5", [5, 25])])
def test_a_sum_goes_on_from_what_each_has(window, typed, made):
    page = opened(window, "Transform", "one", "two")
    type_into(page._fields["x"], typed)
    assert [clip(window, name).transform.x for name in ("one", "two")] == made
    assert window.document.history.undo_title == "Change the position X, 2 clips"


def test_what_is_mixed_is_scrubbed_and_stepped_by_as_much_for_each(window):
    page = opened(window, "Transform", "one", "two")
    field = page._fields["x"]
    field.tried_each.emit(lambda value: value + 7)
    assert [clip(window, name).transform.x for name in ("one", "two")] == [17, 37]
    assert window.document.history.has_draft
    field.dropped.emit()
    assert [clip(window, name).transform.x for name in ("one", "two")] == [10, 30]
    field.setFocus()
    for _ in range(3):
        field._step_by(1)
    assert field.text() == "mixed +3"
    field.end_steps()
    assert [clip(window, name).transform.x for name in ("one", "two")] == [13, 33]
    window.run("undo")
    assert [clip(window, name).transform.x for name in ("one", "two")] == [10, 30]


def test_what_is_mixed_and_stepped_back_again_leaves_no_draft(window):
    field = opened(window, "Transform", "one", "two")._fields["x"]
    field.setFocus()
    field._step_by(1)
    assert window.document.history.has_draft
    field._step_by(-1)
    field.end_steps()
    assert not window.document.history.has_draft
    assert [clip(window, name).transform.x for name in ("one", "two")] == [10, 30]


def test_nothing_typed_over_what_differs_changes_nothing(window):
    page = opened(window, "Transform", "one", "two")
    before = window.document.project
    type_into(page._fields["x"], "")
    assert window.document.project is before
    assert page._fields["x"].problem == ""


def test_words_are_set_together_and_each_keeps_its_own(window):
    page = opened(window, "Text", "one", "box", "two")
    assert page._size.text() == "mixed"
    page.set_style("Change the family", family="Oswald")
    page._align.chosen.emit("left")
    page._italic.click()
    texts = [clip(window, name).text for name in ("one", "two")]
    assert [(t.family, t.align, t.italic) for t in texts] == [("Oswald", "left", True)] * 2
    assert [t.content for t in texts] == ["Larkmoor", "Kite day"]
    assert [t.size for t in texts] == [40.0, 60.0]
    page._text.setPlainText("Kites")
    page._text.left.emit()
    assert [clip(window, name).text.content for name in ("one", "two")] == ["Larkmoor", "Kites"]


def test_a_locked_layer_stays_and_is_named(window):
    page = opened(window, "Text", "shut", "one")
    type_into(page._size, "99")
    assert [clip(window, name).text.size for name in ("shut", "one")] == [40.0, 99.0]
    assert "Left as it was: Shut" in told(window)
    window.document.select("shut")
    before = window.document.project
    type_into(page._size, "77")
    assert window.document.project is before
    assert "locked" in told(window)


def test_parts_of_looks_stand_for_each_other_by_kind(window):
    page = opened(window, "Look", "one", "two")
    page.add("glow")
    assert [[type(p).__name__ for p in clip(window, n).look.parts].count("Glow") for n in ("one", "two")] == [
        1,
        1,
    ]
    ids = [
        next(p.id for p in clip(window, n).look.parts if type(p).__name__ == "Glow") for n in ("one", "two")
    ]
    assert ids[0] != ids[1]
    type_into(page.card("glow").fields._numbers["size"], "33")
    assert [_part(window, n, "Glow").size for n in ("one", "two")] == [33.0, 33.0]
    type_into(page.card("outline").fields._numbers["width"], "5")
    assert _part(window, "two", "Outline").width == 5.0
    assert "'One' has no such outline" in told(window)
    page.card("glow").head.removed.emit()
    assert all(_part(window, n, "Glow") is None for n in ("one", "two"))


def _part(window, identity, kind):
    return next((p for p in clip(window, identity).look.parts if type(p).__name__ == kind), None)


def test_effects_go_to_all_layers_and_are_keyed_in_each_at_its_own_frame(window):
    page = opened(window, "Effects", "one", "two")
    page.add("wipe")
    type_into(page.card("wipe").fields._numbers["share"], "40")
    first = clip(window, "two").effects[0]
    page.pips.of(f"effects.{first.id}.share").pressed.emit()
    held = [clip(window, n).effects[0].share for n in ("one", "two")]
    assert all(isinstance(one, Keys) for one in held)
    assert [one.keys[0].frame for one in held] == [40, 20], "each at the playhead, in its own frames"
    page.pips.of(f"effects.{first.id}.share").pressed.emit()
    assert [clip(window, n).effects[0].share for n in ("one", "two")] == [0.4, 0.4]


def test_a_ring_keys_those_that_have_no_key_and_takes_none_away(window):
    page = opened(window, "Transform", "one")
    page.pips.of("transform.z").pressed.emit()
    window.document.select("one", "two")
    page.pips.of("transform.z").pressed.emit()
    assert all(isinstance(clip(window, n).transform.z, Keys) for n in ("one", "two"))


def test_a_card_goes_to_all_layers_and_what_tunes_it_too(window):
    window.document.select("one", "box", "two")
    window.shelf.open_role("entrance")
    number = window.shelf.deck.names().index("Wave")
    window.shelf.try_on(number)
    assert {move_of(clip(window, n), "entrance").name for n in ("one", "box", "two")} == {"Wave"}
    window.shelf.stop_trying()
    assert move_of(clip(window, "two"), "entrance") is None
    window.shelf.apply_move(number)
    moves = [move_of(clip(window, n), "entrance") for n in ("one", "box", "two")]
    assert {move.name for move in moves} == {"Wave"}
    assert len({move.id for move in moves}) == 3
    page = window.sheet.page("Motion")
    page._pieces.chosen.emit("words")
    type_into(page._length, "0.5")
    page.channels.add("blur")
    moves = [move_of(clip(window, n), "entrance") for n in ("one", "box", "two")]
    assert {m.pieces for m in moves} == {"words"}
    lengths = [
        asked_seconds(clip(window, n), m, window.document.rate)
        for n, m in zip(("one", "box", "two"), moves, strict=True)
    ]
    assert lengths == pytest.approx([0.5] * 3), "each at a pace of its own"
    assert all(any(d.channel == "blur" for d in m.channels) for m in moves)
    QTest.mouseClick(page._off, LEFT)
    assert all(move_of(clip(window, n), "entrance") is None for n in ("one", "box", "two"))


def test_moves_that_differ_read_mixed_and_are_tuned_by_what_each_has(window):
    window.document.select("one", "two")
    window.document.tune("exit")
    page = window.sheet.page("Motion")
    page._length.committed.emit(0.4)
    window.document.select("two")
    page._length.committed.emit(0.8)
    window.document.select("one", "two")
    assert page._length.text() == "mixed"
    type_into(page._length, "*0.5")
    assert [move_of(clip(window, n), "exit").length for n in ("one", "two")] == [0.2, 0.4]
    row = next(row for row in page.channels.rows if row.said == "Opacity")
    row.amount.committed.emit(0.25)
    for name in ("one", "two"):
        exit_ = move_of(clip(window, name), "exit")
        assert next(d.amount.value for d in exit_.channels if d.channel == "opacity") == 0.25


def test_a_layer_without_such_a_move_is_left_and_named(window):
    window.document.select("two", "one")
    window.document.tune("entrance")
    page = window.sheet.page("Motion")
    type_into(page._length, "0.3")
    assert move_of(clip(window, "one"), "entrance").length == 0.3
    assert "Left as it was: Two" in told(window)


def test_none_selected_and_another_kind_only(window, tmp_path):
    page = opened(window, "Transform", "one", "two")
    window.document.select()
    assert page.clips() == []
    page._do("Nothing", lambda project, identity: pytest.fail("nothing is selected"))
    page.refresh()
    window.document.select("ground", "box")
    assert window.sheet.section("Text").isHidden()
    assert not window.sheet.section("Shape").isHidden()
    shape = opened(window, "Shape", "ground", "box")
    shape._fill._paint._colour.chosen.emit("#112233")
    assert clip(window, "box").fill.colour == "#112233"
    window.document.save(tmp_path / "t.rovix")
    assert read_project(tmp_path / "t.rovix").sequence == window.document.project.sequence


def test_all_steps_of_several_are_undone_to_the_first(window):
    start = window.document.project
    page = opened(window, "Transform", "one", "two", "box")
    for name in ("y", "rotation_z", "opacity"):
        type_into(page._fields[name], "12")
    page._blend.setCurrentIndex(page._blend.findData("screen"))
    page._set_blend()
    assert {clip(window, n).blend for n in ("one", "two", "box")} == {"screen"}
    for _ in range(4):
        window.run("undo")
    assert window.document.project == start


def test_each_page_of_a_clip_is_in_the_sheet_and_says_what_is_inside(window):
    assert {name for view in CLIP_VIEWS.values() for name in view.pages} == {page.name for page in PAGES}
    window.document.select("two")
    heads = {name: window.sheet.section(name).head for name in ("Look", "Motion", "Transform", "Effects")}
    assert heads["Look"].said == "fill, outline"
    assert heads["Motion"].said == "Rise and fade"
    assert heads["Transform"].said == "position x, y"
    assert heads["Effects"].said == "none"
    window.document.select("one", "two")
    assert heads["Look"].said == "mixed"


def test_heads_fold_several_are_open_and_what_is_open_is_remembered(window, make_test_window):
    window.document.select("two")
    assert window.sheet.opened == ["Motion"]
    QTest.mouseClick(window.sheet.section("Look").head, LEFT)
    assert window.sheet.opened == ["Look", "Motion"]
    QTest.mouseClick(window.sheet.section("Motion").head, LEFT)
    assert window.sheet.opened == ["Look"]
    other = make_test_window()
    other.document.select("small")
    assert other.sheet.opened == ["Look"]
    assert not other.sheet.section("Clip").is_made, "a page is built when it is first shown"
    other.sheet.close_page("Look")
    other.document.select("big")
    assert other.sheet.opened == [], "all folded stays so"


def test_common_values():
    assert common([]) is ABSENT
    assert common([ABSENT, 2.0, 2]) == 2
    assert common([1, 2]) is MIXED
    assert common([None, None]) is None


def test_a_grip_pulled_in_the_timeline_goes_as_far_on_all_that_have_one(window):
    canvas, document = window.timeline.canvas, window.document
    document.select("shut", "box", "two", "one")
    lengths = {name: frames_of_exit(window, name) for name in ("one", "two")}
    edge = clip(window, "one").span.end - 1 - lengths["one"]
    drag(canvas, at(window, "one", edge, 0.8), at(window, "one", edge - 6, 0.8))
    assert {name: frames_of_exit(window, name) for name in lengths} == {
        name: frames + 6 for name, frames in lengths.items()
    }
    assert document.history.undo_title.endswith("4 clips")
    assert "Box" in told(window)
    document.undo()
    assert {name: frames_of_exit(window, name) for name in lengths} == lengths
    assert document.history.undo_title == "Lock"


def test_a_grip_of_what_is_not_selected_pulls_it_alone(window):
    window.document.select("two")
    before = frames_of_exit(window, "two")
    edge = clip(window, "one").span.end - 1 - frames_of_exit(window, "one")
    drag(window.timeline.canvas, at(window, "one", edge, 0.8), at(window, "one", edge - 5, 0.8))
    assert frames_of_exit(window, "two") == before
    assert window.document.selection == ("one",)


def test_a_corner_pulled_in_the_picture_scales_all_in_proportion(window):
    document, viewer = window.document, window.viewer
    window.document.select("two", "one")
    document.do("Scale", lambda p: change_transform(p, "two", 20, scale_x=2.0, scale_y=2.0))
    QTest.qWait(30)
    quads = next(q for q in viewer._picture.quads if q.id == "one")
    pivot, corner = viewer.view.to_view(*quads.pivot), viewer.view.to_view(*quads.rest[2])
    drag(viewer, corner.toPoint(), (pivot + (corner - pivot) * 1.5).toPoint())
    one, two = clip(window, "one").transform, clip(window, "two").transform
    assert one.scale_x == pytest.approx(1.5, abs=0.05)
    assert two.scale_x / 2 == pytest.approx(one.scale_x, abs=1e-3)
    document.undo()
    assert clip(window, "two").transform.scale_x == 2.0


def frames_of_exit(window, identity):
    made = clip(window, identity)
    return move_spans(made.moves, made.length, window.document.rate).exit
