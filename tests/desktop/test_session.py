"""What belongs to one document ends with it: jobs and offers never reach the next one."""

import threading

from PySide6.QtTest import QTest

from builders import project_of, title
from rovix.formats import write_project
from rovix.model import Media
from waiting import wait_for


def other_project(tmp_path):
    path = tmp_path / "other.rovix"
    write_project(path, project_of(title("Other", id="other")))
    return path


def test_importing_ends_with_the_project_that_it_was_for(window, tmp_path, demo_data, monkeypatch):
    at_work, go_on = threading.Event(), threading.Event()

    def slow(path, base):
        at_work.set()
        go_on.wait(30)
        return Media(id="m", path="hill.mp4", kind="footage", length=3.0, width=64, height=36, rate="30")

    monkeypatch.setattr("rovix.media.probe.probe", slow)
    window.import_media([demo_data / "hill-morning.mp4"])
    assert wait_for(at_work.is_set, 30_000)
    window.files.open_path(other_project(tmp_path))
    go_on.set()
    assert wait_for(lambda: not any(session.is_busy for session in window._ended_sessions), 30_000)
    QTest.qWait(20)
    assert window.document.project.media == ()
    assert [c.id for track in window.document.project.sequence.tracks for c in track.clips] == ["other"]
    assert window.document.history.undo_title is None


def test_a_search_for_files_ends_with_its_project_too(window, tmp_path, monkeypatch):
    at_work, go_on = threading.Event(), threading.Event()

    def slow(missing, folder, base, stopped):
        at_work.set()
        go_on.wait(30)
        return {"m": Media(id="m", path="found.mp4", kind="footage")}

    lost = Media(id="m", path="lost.mp4", kind="footage")
    monkeypatch.setattr("rovix.media.relink.find_media", slow)
    window.document.do("List", lambda p: project_of(title("A", id="a"), media=(lost,)))
    window.ask_folder = lambda _: tmp_path
    window.relink_missing()
    assert wait_for(at_work.is_set, 30_000)
    path = tmp_path / "same-ids.rovix"
    write_project(path, project_of(title("B", id="b"), media=(lost,)))
    window.ask.answers.append("leave")
    assert window.files.may_leave()
    window.files.open_path(path)
    go_on.set()
    assert wait_for(lambda: not any(session.is_busy for session in window._ended_sessions), 30_000)
    QTest.qWait(20)
    assert window.document.project.media[0].path == "lost.mp4"


def test_what_is_kept_of_a_documents_files_goes_with_it(window, tmp_path):
    thumbnails = window.thumbnails
    thumbnails.waveform(Media(id="m", path="hum.flac", kind="sound"))
    assert thumbnails._asked
    window.files.open_path(other_project(tmp_path))
    assert not any(key[0] == "waveform" for key in thumbnails._asked)
