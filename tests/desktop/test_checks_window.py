"""Checks in the window: found beside editing, marked, listed, gone to, mended and accepted."""

import pytest
from PySide6.QtTest import QTest

from rovix.check.finding import KINDS
from rovix.desktop import live_checks
from rovix.desktop.dialogs import checks_window
from rovix.desktop.dialogs.checks_window import ChecksWindow
from rovix.desktop.dialogs.keep_free_window import READY, KeepFreeWindow
from rovix.edit import change_transform, clip_by_id
from rovix.edit.check_fixes import FIXES
from rovix.model.consistency import inconsistencies


def settled(checks):
    """Wait until all is looked at."""
    QTest.qWait(300)
    for _ in range(400):
        if checks.share is None and not checks._rest.isActive():
            return
        QTest.qWait(30)
    raise AssertionError("the checks do not end")


@pytest.fixture
def checks(window):
    window.document.do("Move it out", lambda p: change_transform(p, "big", 0, x=300.0))
    window.checks.begin()
    settled(window.checks)
    yield window.checks
    window.checks.close()


@pytest.fixture
def listed(window, checks):
    window.run("checks")
    return window.findChild(ChecksWindow)


def kinds(checks, layer="big"):
    return {one.kind for one in checks.findings if one.layer == layer}


def test_what_is_wrong_is_found_marked_and_counted(window, checks):
    assert "cut" in kinds(checks)
    marked = window.timeline.canvas.marked["big"]
    assert marked.is_wrong
    assert KINDS["cut"].title.lower() in marked.said
    clip = clip_by_id(window.document.project, "big")
    assert KINDS["cut"].title.lower() in window.timeline.canvas.said(clip, "move")
    badge = window.top_bar._checks
    assert badge.text() == f"Checks {len(checks.findings)}"
    assert badge.property("wrong") is True
    window.document.undo()
    settled(checks)
    assert "cut" not in kinds(checks)
    assert "big" not in window.timeline.canvas.marked or not window.timeline.canvas.marked["big"].is_wrong


def row(listed, kind):
    tree = listed.list
    for number in range(tree.topLevelItemCount()):
        item = tree.topLevelItem(number)
        if getattr(listed_data(item), "kind", "") == kind:
            return item
    raise AssertionError(kind)


def listed_data(item):
    return item.data(0, checks_window._DATA)


def test_a_row_goes_there_and_a_fix_mends_it_in_one_step(window, checks, listed):
    listed.list.setCurrentItem(row(listed, "cut"))
    assert "outside the frame" in listed._said.text()
    window.document.select("small")
    window.document.seek(0)
    listed.go()
    assert window.document.selected == "big"
    assert window.document.playhead == listed.chosen.frame
    before = window.document.whole
    listed.mend("inside")
    settled(checks)
    assert not {"cut", "safe"} & kinds(checks)
    assert clip_by_id(window.document.project, "small") == next(
        c for t in before.sequence.tracks for c in t.clips if c.id == "small"
    )
    window.document.undo()
    assert window.document.whole == before


def test_one_is_accepted_with_a_reason_that_the_file_keeps_and_looked_at_again(
    window, checks, listed, monkeypatch
):
    monkeypatch.setattr(checks_window, "asked_name", lambda *_: "It comes from there")
    listed.list.setCurrentItem(row(listed, "cut"))
    listed.accept_chosen()
    (kept,) = window.document.project.sequence.accepted
    assert (kept.kind, kept.layer, kept.reason) == ("cut", "big", "It comes from there")
    assert inconsistencies(window.document.whole) == []
    with pytest.raises(AssertionError):
        row(listed, "cut")
    listed.with_accepted.setChecked(True)
    listed.list.setCurrentItem(row(listed, "cut"))
    assert "It comes from there" in listed._said.text()
    listed.look_again()
    assert window.document.project.sequence.accepted == ()
    listed.with_accepted.setChecked(False)
    settled(checks)
    assert row(listed, "cut") is not None
    monkeypatch.setattr(checks_window, "asked_name", lambda *_: None)
    listed.list.setCurrentItem(row(listed, "cut"))
    listed.accept_chosen()
    assert window.document.project.sequence.accepted == ()


def test_an_accepted_layer_that_goes_leaves_a_sound_file(window, checks, listed, monkeypatch):
    monkeypatch.setattr(checks_window, "asked_name", lambda *_: "")
    listed.list.setCurrentItem(row(listed, "cut"))
    listed.accept_chosen()
    window.document.select("big")
    window.run("remove")
    assert clip_by_id(window.document.project, "big") is None
    assert inconsistencies(window.document.whole) == []
    settled(checks)
    assert kinds(checks) == set()


def test_buttons_are_those_of_the_kind(window, checks, listed):
    for kind in {one.kind for one in checks.findings}:
        listed.list.setCurrentItem(row(listed, kind))
        said = [button.text() for button in listed._buttons]
        fixes = [FIXES[fix][0] for fix in KINDS[kind].fixes] if listed.chosen.layer else []
        assert said == [*fixes, "Accept this one…"]


def test_another_audience_reads_at_another_pace(window, checks, listed):
    at = [listed.audience.itemData(n) for n in range(listed.audience.count())]
    assert set(at) == {"adults", "children", "subtitles"}
    listed.audience.show_data("children")
    checks.choose_audience("children")
    settled(checks)
    assert checks.audience == "children"
    assert window.settings.value("checks/audience") == "children"
    window.settings.setValue("checks/audience", "nobody")
    assert checks.audience == "adults"


def test_areas_are_kept_free_by_numbers_by_hand_and_as_kept(window, checks, listed):
    listed.keep_free()
    dialog = next(d for d in window.findChildren(KeepFreeWindow))
    dialog.ready.setCurrentIndex(list(READY).index("Lower fifth"))
    dialog.add_ready()
    (area,) = window.document.project.sequence.keep_free
    assert (area.name, area.top, area.bottom) == ("Lower fifth", 0.8, 1.0)
    dialog._set_side(area, "top", 70.0)
    assert window.document.project.sequence.keep_free[0].top == 0.7
    dialog.draw()
    hand = window.viewer.hand
    hand._take((0.0, 0.0, 64.0, 36.0))
    drawn = window.document.project.sequence.keep_free[1]
    assert (drawn.right, drawn.bottom) == (0.1, 0.1)
    dialog.keep()
    assert "Drawn" in [dialog.ready.itemText(n) for n in range(dialog.ready.count())]
    window.settings.setValue("checks/kept-free", "no such thing")
    dialog._fill_ready()
    assert dialog.ready.count() == len(READY)
    window.viewer.take_up(None)
    window.document.undo()
    assert len(window.document.project.sequence.keep_free) == 1
    window.viewer.grab()
    dialog.close()


def test_nothing_is_looked_at_while_playing_and_it_goes_on_afterwards(window, checks):
    window.document.do("Move", lambda p: change_transform(p, "big", 0, x=290.0))
    QTest.qWait(270)
    window.run("play")
    assert window.document.playing
    assert checks.share is None
    QTest.qWait(400)
    assert checks.share is None
    window.run("play")
    settled(checks)
    assert "cut" in kinds(checks)


def test_drafts_start_nothing_and_another_document_forgets_all(window, checks):
    window.document.try_on(lambda p: change_transform(p, "big", 0, x=10.0))
    QTest.qWait(400)
    assert checks.share is None
    window.document.drop()
    assert checks.findings
    document = window.document
    document.show(document.whole, document.base, None)
    assert checks.findings == []


def test_closed_while_it_looks_no_process_is_left(window, checks):
    window.document.do("Move", lambda p: change_transform(p, "big", 0, x=280.0))
    QTest.qWait(280)
    job = checks._checker
    checks.close()
    assert not job.is_at_work
    QTest.qWait(100)
    assert job._process is None


def test_inside_a_group_the_list_leads_out_again(window, checks, listed):
    window.document.select("big", "small")
    window.run("group")
    settled(checks)
    group = window.document.selected
    window.run("open-group")
    assert window.document.level.groups
    listed.refresh()
    item = next(
        listed.list.topLevelItem(n)
        for n in range(listed.list.topLevelItemCount())
        if listed_data(listed.list.topLevelItem(n)).layer == group
    )
    listed.list.setCurrentItem(item)
    listed.go()
    assert not window.document.level.groups
    assert window.document.selected == group


def test_the_contrast_of_the_selected_words_is_shown_at_the_playhead(window):
    marks = window.viewer.contrast
    window.document.select("big")
    window.document.seek(40)
    window.run("contrast")
    assert window.action("contrast").isChecked()
    for _ in range(300):
        if marks._found is not None:
            break
        QTest.qWait(30)
    found = marks._found
    assert found is not None
    assert len(found.letters) == len(found.boxes) >= len("Larkmoor") - 1
    assert found.tenth >= 1.0
    window.viewer.grab()
    window.document.select()
    assert marks._found is None
    window.run("contrast")
    assert not marks.on
    marks.close()


def test_the_status_line_says_reading_time_against_time_shown(window):
    window.document.select("big")
    window.status._look()
    assert "read in" in window.status._facts.text()
    window.document.select()
    window.status._look()
    assert "read in" not in window.status._facts.text()


def test_of_a_long_sequence_what_is_near_the_playhead_is_looked_at(window, monkeypatch):
    monkeypatch.setattr(live_checks, "_LONG", 1.0)
    monkeypatch.setattr(live_checks, "_NEAR", 0.5)
    window.document.do("Move it out", lambda p: change_transform(p, "big", 0, x=300.0))
    window.document.seek(0)
    checks = window.checks
    asked = []
    ask = checks._checker.ask
    monkeypatch.setattr(checks._checker, "ask", lambda *said: asked.append(said[2].within) or ask(*said))
    checks.begin()
    settled(checks)
    assert asked == [(-15, 30)]
    assert "cut" in kinds(checks)
    window.document.seek(14)
    QTest.qWait(350)
    assert len(asked) == 1  # still in the part that was looked at
    window.document.seek(50)
    settled(checks)
    assert asked[-1] == (30, 75)
    window.run("checks")
    assert "near the playhead" in window.findChild(ChecksWindow)._heading.text()
    checks.close()
