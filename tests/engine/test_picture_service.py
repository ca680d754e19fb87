"""The processes that draw for the window."""

import os
import signal
import time
from contextlib import suppress
from multiprocessing.connection import wait
from multiprocessing.shared_memory import SharedMemory
from pathlib import Path

import msgspec
import numpy as np
import pytest

from builders import project_of, title
from listening import wanted
from rovix.edit import change_text
from rovix.engine.delta import Known, apply_delta, make_delta
from rovix.engine.local_pictures import LocalPictures
from rovix.engine.open_project import OpenProject
from rovix.engine.picture_cache import Kept, PictureCache, PictureIndex
from rovix.engine.picture_service import PictureService
from rovix.engine.player import Player, SilentClock
from rovix.engine.sample_source import SampleSource
from rovix.media.mix import sample_at
from rovix.media.samples import SAMPLE_RATE, Held
from rovix.model import Media, SequenceClip, SoundClip, StillClip
from rovix.motion.ready_moves import pop
from rovix.time import Rate, Span

SIZE = (320, 180)
replace = msgspec.structs.replace


def heard_alive(service, seconds=90.0):
    """Take what the pipes say until every process that died has been replaced."""
    end = time.monotonic() + seconds
    while not all(process.is_alive() for process in service.processes) and time.monotonic() < end:
        for connection in wait([w.connection for w in service._workers], 0.2):
            service.receive(connection)


@pytest.fixture
def service():
    made = PictureService(workers=2, memory=16 << 20)
    made.resize(SIZE)
    yield made
    made.close()


@pytest.fixture
def project():
    return project_of(title("Larkmoor", moves=[pop()]), title("Day", id="day", start=30, length=30))


def test_pictures_are_those_of_the_painter_with_their_quads(service, project, tmp_path):
    service.show(project, tmp_path)
    picture = wanted(service, 3)
    assert np.array_equal(picture.pixels, OpenProject(project, tmp_path).picture(3, SIZE))
    assert [quads.id for quads in picture.quads] == ["title"]
    assert picture.cost > 0
    local = LocalPictures()
    local.show(project, tmp_path)
    local.resize(SIZE)
    assert np.array_equal(local.want(3).pixels, picture.pixels)


def test_an_edit_spares_the_frames_it_does_not_touch(service, project, tmp_path):
    service.show(project, tmp_path)
    for frame in (10, 40):
        wanted(service, frame)
    service.show(change_text(project, "day", content="Night"), tmp_path)
    assert service.is_cached(10)
    assert not service.is_cached(40)
    service.show(project, tmp_path)
    assert service.is_cached(40), "undo brings the kept picture back"


def test_the_cache_fills_ahead_when_nothing_is_wanted(service, project, tmp_path):
    service.show(project, tmp_path)
    wanted(service, 0)
    service.fill(range(1, 12))
    end = time.monotonic() + 90
    while not all(service.is_cached(frame) for frame in range(12)) and time.monotonic() < end:
        for connection in wait([w.connection for w in service._workers], 0.2):
            assert service.receive(connection) is None
    assert all(service.is_cached(frame) for frame in range(12))


def test_a_change_of_size_gives_pictures_of_the_new_size(service, project, tmp_path):
    service.show(project, tmp_path)
    wanted(service, 5)
    service.fill(range(20))
    service.resize((160, 90))
    assert wanted(service, 5).pixels.shape == (90, 160, 4)


def test_a_worker_killed_twenty_times_pictures_go_on(service, project, tmp_path):
    service.show(project, tmp_path)
    for round_ in range(20):
        # One that was killed two rounds ago is replaced when its pipe is heard, which may still be to come.
        with suppress(ProcessLookupError):
            os.kill(service.processes[round_ % 2].pid, signal.SIGKILL)
        project = change_text(project, "title", content=f"Larkmoor {round_}")
        service.show(project, tmp_path)
        assert wanted(service, 10).pixels is not None
    # The other process may have drawn the last picture before the pipe of the dead one closed.
    heard_alive(service)
    assert all(process.is_alive() for process in service.processes)


def test_a_picture_that_cannot_be_drawn_comes_as_its_reason(service, tmp_path):
    media = Media(id="gone", path="gone.png", kind="still", width=10, height=10)
    service.show(project_of(StillClip(id="c", media="gone", length=5), media=(media,)), tmp_path)
    picture = wanted(service, 0)
    assert picture.pixels is None
    assert "gone.png could not be read" in picture.error


def test_closing_leaves_no_process_and_no_shared_memory(project, tmp_path, monkeypatch):
    # By name, since tests and programs beside this one make and leave memory of theirs meanwhile.
    ours = []

    class Noted(SharedMemory):
        def __init__(self, name=None, create=False, size=0):
            super().__init__(name, create, size)
            ours.append(self.name)

    monkeypatch.setattr("rovix.engine.ring.SharedMemory", Noted)
    made = PictureService(workers=2, memory=4 << 20)
    made.resize(SIZE)
    made.show(project, tmp_path)
    wanted(made, 5)
    pids = [process.pid for process in made.processes]
    assert ours
    assert set(ours) <= set(os.listdir("/dev/shm"))
    made.close()
    assert not set(ours) & set(os.listdir("/dev/shm"))
    for pid in pids:
        assert not Path(f"/proc/{pid}").exists()


def test_a_delta_carries_only_what_changed():
    project = project_of(title(id="a"), title(id="b"))
    known, far = Known(), Known()
    first = make_delta(project, known)
    assert len(first.sequences[0].changed) == 2
    received = apply_delta(first, far)
    assert received == project
    changed = change_text(project, "b", content="Other")
    second = make_delta(changed, known)
    assert list(second.sequences[0].changed) == ["b"]
    after = apply_delta(second, far)
    assert after == changed
    assert after.sequence.tracks[0].clips[0] is received.sequence.tracks[0].clips[0]
    assert after.sequence.tracks[1].clips[0].look is received.sequence.tracks[1].clips[0].look


def test_a_delta_carries_every_sequence_and_names_those_that_did_not_change():
    inner = replace(project_of(title("Kite", id="a")).sequence, id="inner")
    shown = SequenceClip(id="shown", sequence="inner", length=60)
    project = project_of(shown)
    project = replace(project, sequences=(*project.sequences, inner))
    known, far = Known(), Known()
    received = apply_delta(make_delta(project, known), far)
    assert received == project
    changed = replace(project, sequences=(replace(project.sequence, background="#112233"), inner))
    second = make_delta(changed, known)
    assert second.sequences[1] == "inner"
    after = apply_delta(second, far)
    assert after == changed
    assert after.sequences[1] is received.sequences[1]
    alone = apply_delta(make_delta(project_of(title(id="x")), known), far)
    assert [sequence.id for sequence in alone.sequences] == ["s"]
    assert set(far.sequences) == {"s"}


def test_the_service_draws_a_sequence_within_a_sequence(tmp_path):
    inner = replace(project_of(title("HHHH", text={"size": 300.0}), size=SIZE).sequence, id="inner")
    project = project_of(SequenceClip(id="shown", sequence="inner", length=60), size=SIZE)
    project = replace(project, sequences=(*project.sequences, inner))
    made = PictureService(workers=1, memory=4 << 20)
    try:
        made.resize(SIZE)
        made.show(project, tmp_path)
        assert wanted(made, 5).pixels[..., :3].max() > 200
    finally:
        made.close()


def test_a_key_goes_by_the_very_layers_of_its_frame():
    project = project_of(title(id="a", length=10), title(id="b", start=20, length=10))
    other = change_text(project, "b", content="x")
    assert PictureIndex(project).key(5) == PictureIndex(other).key(5)
    assert PictureIndex(project).key(25) != PictureIndex(other).key(25)
    linked = project_of(title(id="a", length=10, parent="b"), title(id="b", start=20, length=10))
    assert PictureIndex(linked).key(5) != PictureIndex(change_text(linked, "b", content="x")).key(5)
    muted = msgspec.structs.replace(project, name="Other name")
    assert PictureIndex(project).key(5) == PictureIndex(muted).key(5)


def test_the_picture_cache_gives_up_the_oldest_but_never_the_one_on_screen():
    project = project_of(title(length=90))
    cache = PictureCache(3)
    for frame in range(3):
        cache.put(PictureIndex(project).key(frame), Kept(cache.take_slot(), (), 0.0))
    cache.pinned = cache.get(PictureIndex(project).key(0)).slot
    cache.get(PictureIndex(project).key(1))
    slot = cache.take_slot()
    assert slot != cache.pinned
    assert cache.has(PictureIndex(project).key(0))
    assert not cache.has(PictureIndex(project).key(2))


class Hands(SilentClock):
    """A clock moved by hand."""

    def __init__(self):
        self.now = 0.0
        super().__init__(lambda: self.now)


def test_true_speed_is_a_matter_of_the_clock():
    clock = Hands()
    player = Player(clock)
    player.start(10, Span(0, 100), Rate("30000/1001"))
    clock.now = 1.001
    assert player.due() == 40
    clock.now = 99
    assert player.due() == 99
    assert not player.playing


def test_late_frames_are_those_not_shown_in_their_time():
    clock = Hands()
    player = Player(clock)
    player.start(0, Span(0, 100), Rate(10))
    player.note_shown(0)
    clock.now = 0.1
    assert player.due() == 1
    assert (player.late, player.played) == (0, 1)
    clock.now = 0.45  # frame 1 never showed, 2 and 3 were leapt over
    assert player.due() == 4
    assert (player.late, player.played) == (3, 4)


def test_playing_backwards_and_in_a_loop():
    clock = Hands()
    player = Player(clock)
    player.start(5, Span(0, 100), Rate(10), speed=-2.0)
    clock.now = 0.2
    assert player.due() == 1
    player.start(8, Span(4, 10), Rate(10), loop=True)
    clock.now += 0.5
    assert player.due() == 7


@pytest.mark.parametrize(("rate", "length"), [("60000/1001", 61), ("24000/1001", 13), ("30", 40)])
def test_a_day_of_rounds_keeps_sound_and_picture_within_half_a_frame(rate, length):
    rate = Rate(rate)
    span = Span(10, 10 + length)
    source = SampleSource(project_of(title(), rate=str(rate)).sequence, span, 10, True, lambda _: None)
    clock = Hands()
    player = Player(clock)
    player.start(10, span, rate, loop=True)
    mixed = sample_at(rate, span.end) - sample_at(rate, span.start)
    silence = np.broadcast_to(np.float32(0), (mixed, 2))
    heard, rounds, worst = 0, 0, 0.0
    while heard < 24 * 3600 * SAMPLE_RATE:
        heard, rounds = heard + len(source._in_step(silence, length)), rounds + 1
        worst = max(worst, abs(heard / SAMPLE_RATE * float(rate.fraction) - rounds * length))
    assert worst <= 0.01, "frames, where half of one is asked"
    for frame in (0, 1, length - 1):
        clock.now = heard / SAMPLE_RATE + (frame + 0.5) / float(rate.fraction)
        assert player.due() == 10 + frame


def test_samples_run_on_over_the_loops_seam():
    ramp = np.repeat(np.linspace(-1, 1, 4800, dtype=np.float32)[:, None], 2, axis=1)
    media = Media(id="m", path="m.wav", kind="sound")
    sequence = project_of(SoundClip(id="c", media="m", length=3), media=(media,)).sequence
    source = SampleSource(sequence, Span(0, 3), 1, loop=True, sound_of=lambda _: Held(ramp))
    got = np.concatenate([source.read(1000) for _ in range(12)])[:, 0]
    expected = np.concatenate([ramp[1600:], ramp, ramp])[:12000, 0]
    assert np.array_equal(got, expected)
    once = SampleSource(sequence, Span(0, 3), 0, loop=False, sound_of=lambda _: Held(ramp))
    assert not once.read(9600)[4800:].any()
