"""Nothing is lost: autosave, recovery, and a window that is gone without a trace."""

import errno
import os
import re
import signal
import subprocess
import sys
import threading
import time
from contextlib import suppress
from pathlib import Path

import msgspec
import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QPushButton

from rovix.desktop.dialogs.left_work_window import LeftWorkWindow
from rovix.desktop.messages import Message
from rovix.desktop.recovery import Recovery
from rovix.edit import change_text, clip_by_id
from rovix.engine.unsaved_work import left_work
from rovix.formats import read_project, write_project
from waiting import wait_for

replace = msgspec.structs.replace
PROGRAM = """
import os, sys
os.environ["QT_QPA_PLATFORM"] = "offscreen"
from pathlib import Path
from PySide6.QtCore import QTimer
from rovix.desktop.app import make_application, make_window
from rovix.edit import change_text

if __name__ == "__main__":
    application = make_application()
    window = make_window(1)
    window.files.open_path(Path(sys.argv[1]))
    count = 0

    def edit():
        global count
        count += 1
        window.document.do("Edit", lambda p: change_text(p, "big", content=f"Edit {count}"))
        print(count, flush=True)

    timer = QTimer(interval=100)
    timer.timeout.connect(edit)
    timer.start()
    application.exec()
"""


@pytest.fixture
def folder(tmp_path):
    """Where the windows of these tests keep unsaved work."""
    return tmp_path / "unsaved"


def kept(folder):
    """All work that is kept, as if its process had ended."""
    for facts in folder.glob("*.facts"):
        facts.write_text(facts.read_text().replace('"process_started": ', '"process_started": 1'))
    return left_work(folder)


def words_of(work, path):
    return clip_by_id(work.read(path.parent), "big").text.content


def crashed(make_test_window, path, text="Rescued"):
    """A window whose work is kept, and which then counts as gone."""
    window = make_test_window(path=path)
    if path is not None and not path.exists():
        write_project(path, window.document.project)
    window.document.do("Change", lambda p: change_text(p, "big", content=text))
    assert window.files.recovery.write()
    return window


def offered(window):
    """The titles of the messages over the viewer, and the labels of their choices."""
    messages = window.messages.findChildren(Message)
    return {
        message.accessibleName(): [button.text() for button in message.findChildren(QPushButton)]
        for message in messages
        if not message.isHidden()
    }


def choose(window, label):
    buttons = [
        button
        for message in window.messages.findChildren(Message)
        for button in message.findChildren(QPushButton)
        if button.text() == label and not message.isHidden()
    ]
    QTest.mouseClick(buttons[0], Qt.MouseButton.LeftButton)


def test_unsaved_work_is_kept_and_cleared_by_saving(make_test_window, tmp_path, folder):
    path = tmp_path / "kites.rovix"
    window = crashed(make_test_window, path, "Unsaved")
    assert left_work(folder) == [], "its process is at work"
    (work,) = kept(folder)
    assert words_of(work, path) == "Unsaved"
    assert (work.name, work.project) == ("kites", path)
    assert window.files.save()
    assert list(folder.iterdir()) == []


def test_work_is_written_shortly_after_a_change(make_test_window, tmp_path, folder, monkeypatch):
    monkeypatch.setattr("rovix.desktop.recovery.AFTER", 30)
    window = make_test_window(path=tmp_path / "kites.rovix")
    window.document.do("Change", lambda p: change_text(p, "big", content="Soon"))
    assert wait_for(lambda: list(folder.glob("*.rovix")), 30_000)
    assert Recovery(window.document)._timer.interval() <= 1500


def test_words_that_are_still_being_typed_are_kept_too(make_test_window, tmp_path, folder):
    path = tmp_path / "kites.rovix"
    window = make_test_window(path=path)
    window.document.select("big")
    window.sheet.open_page("Text")
    window.sheet.page("Text")._text.setPlainText("Half a sen")
    assert window.document.history.undo_title is None
    window.files.recovery.write()
    assert words_of(kept(folder)[0], path) == "Half a sen"
    assert window.files.save(), "saving keeps what is being typed"
    assert clip_by_id(read_project(path), "big").text.content == "Half a sen"
    assert window.document.history.undo_title == "Change the words"


def test_a_move_that_is_only_tried_is_neither_saved_nor_kept(make_test_window, tmp_path, folder):
    path = tmp_path / "kites.rovix"
    window = make_test_window(path=path)
    window.document.select("small")
    window.shelf.try_on(3)
    window.files.recovery.write()
    assert kept(folder) == []
    assert window.files.save()
    assert clip_by_id(read_project(path), "small").moves == ()


def test_an_offer_brings_the_work_back_as_a_step_and_it_stays_kept(make_test_window, tmp_path, folder):
    path = tmp_path / "kites.rovix"
    crashed(make_test_window, path)
    kept(folder)
    window = make_test_window()
    assert window.files.open_path(path)
    (name, labels), *_ = offered(window).items()
    assert name.startswith("There is unsaved work on kites")
    assert labels == ["Recover it", "Discard it", "Later"]
    choose(window, "Recover it")
    assert clip_by_id(window.document.project, "big").text.content == "Rescued"
    assert window.document.history.undo_title == "Recover unsaved work"
    (work,) = kept(folder)
    assert words_of(work, path) == "Rescued", "until it is saved"
    window.run("undo")
    assert clip_by_id(window.document.project, "big").text.content == "Larkmoor"


def test_an_offer_left_unanswered_is_made_again_and_closing_the_window_keeps_the_work(
    make_test_window, tmp_path, folder
):
    path = tmp_path / "kites.rovix"
    crashed(make_test_window, path)
    kept(folder)
    for _ in range(3):
        window = make_test_window()
        window.files.open_path(path)
        assert any("unsaved work on kites" in name for name in offered(window))
        assert window.close()
    assert len(kept(folder)) == 1


def test_an_offer_goes_with_its_document_and_never_reaches_another(make_test_window, tmp_path, folder):
    one, other = tmp_path / "one.rovix", tmp_path / "other.rovix"
    crashed(make_test_window, one)
    kept(folder)
    window = make_test_window()
    write_project(other, window.document.project)
    window.files.open_path(one)
    assert offered(window)
    window.files.open_path(other)
    assert not any("unsaved" in name for name in offered(window))
    assert clip_by_id(window.document.project, "big").text.content == "Larkmoor"
    assert len(kept(folder)) == 1


def test_a_plain_start_offers_work_on_a_project_with_a_file(make_test_window, tmp_path, folder):
    path = tmp_path / "kites.rovix"
    crashed(make_test_window, path)
    kept(folder)
    window = make_test_window()
    window.files.offer_left_work()
    assert any(name.startswith("There is unsaved work on kites") for name in offered(window))
    choose(window, "Recover it")
    assert window.document.path == path
    assert clip_by_id(window.document.project, "big").text.content == "Rescued"


def test_work_without_a_file_keeps_its_own_name_and_is_no_other_projects(make_test_window, folder):
    crashed(make_test_window, None)
    kept(folder)
    window = make_test_window()
    window.files.offer_left_work()
    assert any(name.startswith("There is unsaved work on Untitled") for name in offered(window))
    choose(window, "Recover it")
    assert window.document.path is None
    assert window.document.name == "Untitled, recovered"
    assert window.document.history.is_changed
    assert clip_by_id(window.document.project, "big").text.content == "Rescued"


def test_several_pieces_of_work_are_listed_the_newest_first(make_test_window, tmp_path, folder):
    path = tmp_path / "kites.rovix"
    for number, text in enumerate(("First", "Second", "Third")):
        crashed(make_test_window, path, text)
        for work in kept(folder):
            if words_of(work, path) == text:
                os.utime(work.kept, (1_700_000_000 + 600 * number,) * 2)
    works = kept(folder)
    assert [words_of(work, path) for work in works] == ["Third", "Second", "First"]
    window = make_test_window()
    window.files.open_path(path)
    assert ["Recover it", "Show all 3…", "Later"] in offered(window).values()
    shown = LeftWorkWindow(works, window.files.recover, window)
    assert shown.list.count() == 3
    assert "14 November 2023" in shown.list.item(0).text()
    shown.list.setCurrentRow(1)
    shown.recover_chosen()
    assert clip_by_id(window.document.project, "big").text.content == "Second"
    assert len(kept(folder)) == 3, "the others stay, and what was recovered is kept as new work"


def test_damaged_work_is_kept_and_said_so_with_its_reason(make_test_window, tmp_path, folder):
    path = tmp_path / "kites.rovix"
    crashed(make_test_window, path)
    (work,) = kept(folder)
    work.kept.write_bytes(work.kept.read_bytes()[:400])
    window = make_test_window()
    window.files.open_path(path)
    ((name, labels),) = offered(window).items()
    assert "It cannot be read" in name
    assert "Recover it" not in labels
    shown = LeftWorkWindow(kept(folder), window.files.recover, window)
    assert "It cannot be read, and is kept" in shown.list.item(0).text()
    assert not shown.recover_button.isEnabled()
    shown.recover_chosen()
    assert work.kept.exists()
    shown.discard_chosen()
    assert list(folder.glob("*.rovix")) == []


def test_work_that_an_earlier_version_kept_beside_its_project_is_offered(make_test_window, tmp_path):
    path = tmp_path / "kites.rovix"
    window = make_test_window()
    write_project(path, window.document.project)
    older = change_text(window.document.project, "big", content="Older")
    write_project(tmp_path / ".kites.rovix.recovery", older)
    window.files.open_path(path)
    choose(window, "Recover it")
    assert clip_by_id(window.document.project, "big").text.content == "Older"
    assert not (tmp_path / ".kites.rovix.recovery").exists()


def test_a_full_disk_is_said_once_and_nothing_is_taken_for_kept(make_test_window, tmp_path, monkeypatch):
    window = make_test_window(path=tmp_path / "kites.rovix")
    said = []
    window.document.problem.connect(said.append)

    def full(*_):
        raise OSError(errno.ENOSPC, os.strerror(errno.ENOSPC))

    with monkeypatch.context() as patched:
        patched.setattr("rovix.formats.whole_file.os.fsync", full)
        for text in ("One", "Two"):
            window.document.do("Change", lambda p, t=text: change_text(p, "big", content=t))
            assert not window.files.recovery.write()
    assert len(said) == 1
    assert "No space left on device" in said[0]
    assert window.files.recovery.write(), "there is room again"


def test_work_that_would_not_open_again_is_kept_all_the_same(make_test_window, tmp_path, folder):
    """Better kept and mended by hand than lost: only saving refuses it."""
    path = tmp_path / "kites.rovix"
    window = make_test_window(path=path)
    broken = change_text(window.document.project, "big", content="Broken")
    tracks = broken.sequence.tracks
    twice = replace(tracks[1], clips=(replace(tracks[1].clips[0], id="ground"),))
    sequence = replace(broken.sequence, tracks=(tracks[0], twice, *tracks[2:]))
    window.document.do("Break", lambda p: replace(p, sequences=(sequence,)))
    assert window.files.recovery.write()
    (work,) = kept(folder)
    assert b"Broken" in work.kept.read_bytes()
    assert not window.files.save()
    assert not path.exists()


def test_killed_after_edits_the_offered_work_is_at_most_a_few_seconds_old(make_test_window, tmp_path):
    path = tmp_path / "kites.rovix"
    write_project(path, make_test_window().document.project)
    script = tmp_path / "editing.py"
    script.write_text(PROGRAM)
    environment = os.environ | {"XDG_STATE_HOME": str(tmp_path), "XDG_CONFIG_HOME": str(tmp_path)}
    with subprocess.Popen(
        [sys.executable, str(script), str(path)], stdout=subprocess.PIPE, env=environment, text=True
    ) as editing:
        count, end = 0, time.monotonic() + 60
        while count < 50 and time.monotonic() < end:
            count = int(editing.stdout.readline())
        editing.send_signal(signal.SIGKILL)
    (work,) = left_work(tmp_path / "rovix" / "unsaved")
    # Ten edits a second: twenty are the last two seconds.
    assert count - int(words_of(work, path).split()[1]) <= 20


def test_workers_killed_twenty_times_while_playing_pictures_go_on(make_test_window):
    window = make_test_window(workers=2)
    assert wait_for(lambda: window.viewer._picture is not None, 60_000)
    window.run("play")
    shown = []
    window.projector.picture_shown.connect(lambda picture: shown.append(picture))
    for number in range(20):
        if not window.projector.playing:
            window.document.seek(0)
            window.run("play")
        processes = window.projector._service.processes
        with suppress(ProcessLookupError):  # it may be dead already and not replaced yet
            os.kill(processes[number % 2].pid, signal.SIGKILL)
        QTest.qWait(120)
    shown.clear()
    window.projector.stop()
    # An edit makes every kept picture out of date: what shows now was drawn after the last kill.
    window.document.do("Retype", lambda p: change_text(p, "big", content="Still here"))
    assert wait_for(
        lambda: any(picture is not None and picture.pixels is not None for picture in shown), 60_000
    )
    # A dead process is replaced when its pipe is heard, which may be after the picture.
    service = window.projector._service
    assert wait_for(lambda: all(process.is_alive() for process in service.processes), 60_000)


def test_a_closed_window_leaves_no_process_thread_timer_or_memory(make_test_window, qapp):
    from PySide6.QtCore import QTimer

    threads = threading.active_count()
    window = make_test_window(workers=2)
    window.document.seek(30)
    QTest.qWait(300)
    window.run("play")
    QTest.qWait(300)
    # Whatever waits to be done soon is waiting at the moment of closing.
    for timer in window.findChildren(QTimer):
        timer.start()
    pids = [process.pid for process in window.projector._service.processes]
    assert len(pids) == 2
    # Other tests run beside this one: only the memory that this process has mapped counts.
    memory = set(re.findall(r"/dev/shm/(\S+)", Path("/proc/self/maps").read_text()))
    assert memory
    assert window.close()
    assert not memory & set(os.listdir("/dev/shm"))
    assert not any(Path(f"/proc/{pid}").exists() for pid in pids)
    assert threading.active_count() <= threads
    assert not [timer for timer in window.findChildren(QTimer) if timer.isActive()]
