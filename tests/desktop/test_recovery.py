"""Nothing is lost: autosave, recovery, and a window that is gone without a trace."""

import os
import re
import signal
import subprocess
import sys
import threading
import time
from pathlib import Path

from PySide6.QtTest import QTest

from rovix.desktop.recovery import recovery_path, unsaved_work
from rovix.edit import change_words, clip_by_id
from rovix.formats import read_project, write_project
from waiting import wait_for

PROGRAM = """
import os, sys
os.environ["QT_QPA_PLATFORM"] = "offscreen"
from pathlib import Path
from PySide6.QtCore import QTimer
from rovix.desktop.app import make_application, make_window
from rovix.edit import change_words

if __name__ == "__main__":
    application = make_application()
    window = make_window(1)
    window.files.open_path(Path(sys.argv[1]))
    count = 0

    def edit():
        global count
        count += 1
        window.document.do("Edit", lambda p: change_words(p, "big", text=f"Edit {count}"))
        print(count, flush=True)

    timer = QTimer(interval=100)
    timer.timeout.connect(edit)
    timer.start()
    application.exec()
"""


def test_unsaved_work_is_kept_beside_and_cleared_by_saving(make_test_window, tmp_path):
    path = tmp_path / "kites.rovix"
    window = make_test_window(path=path)
    window.document.do("Change", lambda p: change_words(p, "big", text="Unsaved"))
    window.files.recovery.write()
    assert clip_by_id(unsaved_work(path), "big").words.text == "Unsaved"
    assert window.files.save()
    assert not recovery_path(path).exists()


def test_work_is_written_shortly_after_a_change(make_test_window, tmp_path):
    window = make_test_window(path=tmp_path / "kites.rovix")
    window.document.do("Change", lambda p: change_words(p, "big", text="Soon"))
    QTest.qWait(1800)
    assert recovery_path(tmp_path / "kites.rovix").exists()


def test_words_that_are_still_being_typed_are_kept_too(make_test_window, tmp_path):
    path = tmp_path / "kites.rovix"
    window = make_test_window(path=path)
    window.document.select("big")
    window.sheet.open_page("Words")
    window.sheet.page("Words")._text.setPlainText("Half a sen")
    assert window.document.history.undo_title is None
    window.files.recovery.write()
    assert clip_by_id(unsaved_work(path), "big").words.text == "Half a sen"
    assert window.files.save(), "saving keeps what is being typed"
    assert clip_by_id(read_project(path), "big").words.text == "Half a sen"
    assert window.document.history.undo_title == "Change the words"


def test_a_move_that_is_only_tried_is_neither_saved_nor_kept(make_test_window, tmp_path):
    path = tmp_path / "kites.rovix"
    window = make_test_window(path=path)
    window.document.select("small")
    window.shelf.try_on(3)
    window.files.recovery.write()
    assert unsaved_work(path) is None
    assert window.files.save()
    assert clip_by_id(read_project(path), "small").moves == ()


def test_an_offer_brings_the_work_back(make_test_window, tmp_path):
    path = tmp_path / "kites.rovix"
    first = make_test_window(path=path)
    write_project(path, first.document.project)
    first.document.do("Change", lambda p: change_words(p, "big", text="Rescued"))
    first.files.recovery.write()
    second = make_test_window()
    second.files.open_path(path)
    message = second.messages._column.itemAt(0).widget()
    assert "unsaved work" in message.accessibleName()
    message._take(next(iter([lambda: second.files._recover(unsaved_work(path), recovery_path(path))])))
    assert clip_by_id(second.document.project, "big").words.text == "Rescued"
    assert second.document.history.undo_title == "Recover unsaved work"


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
    kept = int(clip_by_id(unsaved_work(path), "big").words.text.split()[1])
    # Ten edits a second: thirty are the last three seconds.
    assert count - kept <= 30


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
        os.kill(processes[number % 2].pid, signal.SIGKILL)
        QTest.qWait(120)
    shown.clear()
    window.projector.stop()
    # An edit makes every kept picture out of date: what shows now was drawn after the last kill.
    window.document.do("Retype", lambda p: change_words(p, "big", text="Still here"))
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
    pids = [process.pid for process in window.projector._service.processes]
    assert len(pids) == 2
    # Other tests run beside this one: only the memory that this process has mapped counts.
    memory = set(re.findall(r"/dev/shm/(\S+)", Path("/proc/self/maps").read_text()))
    assert memory
    assert window.close()
    assert not memory & set(os.listdir("/dev/shm"))
    assert not any(Path(f"/proc/{pid}").exists() for pid in pids)
    assert threading.active_count() <= threads
    window.status._timer.stop()
    assert not [timer for timer in window.findChildren(QTimer) if timer.isActive()]
