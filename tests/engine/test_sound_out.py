"""Sound all the way into the file, measured with independent arithmetic."""

import av
import numpy as np
import pytest

from builders import project_of, title
from rovix.demo.generate import write_sound
from rovix.engine.export import export
from rovix.engine.export_job import ExportJob
from rovix.media.probe import probe
from rovix.model import FootageClip, Sound, SoundClip
from rovix.model.delivery import Delivery
from rovix.time import Span
from sounds import read_sound

RATE = 48_000


def tone(seconds: float, pitch: float = 1000.0) -> np.ndarray:
    return 0.5 * np.sin(2 * np.pi * pitch * np.arange(int(seconds * RATE)) / RATE)


def heard(path) -> np.ndarray:
    with av.open(str(path)) as container:
        return np.concatenate([frame.to_ndarray() for frame in container.decode(audio=0)], axis=1)[0]


def level(samples: np.ndarray) -> float:
    """Decibels of the root mean square, full scale 0."""
    return float(20 * np.log10(np.sqrt(np.mean(samples.astype(np.float64) ** 2)) + 1e-12))


@pytest.fixture
def beep(tmp_path):
    write_sound(tmp_path / "beep.flac", tone(2.0))
    return probe(tmp_path / "beep.flac")


def exported(folder, project, length):
    out = folder / "a.mp4"
    export(ExportJob(project, folder, out, Span(0, length), Delivery((64, 36))), 1)
    return heard(out)


def test_a_sound_is_exported_at_its_place_and_level(tmp_path, beep):
    clip = SoundClip(id="c", media=beep.id, start=30, length=30, sound=Sound(gain=-6.0))
    samples = exported(tmp_path, project_of(title(length=90), clip, media=(beep,)), 90)
    # AAC spreads a hard edge over a block of 1024 samples; a tenth of a second away it is still.
    assert level(samples[: RATE - 4800]) < -60
    assert level(samples[RATE + 4800 : 2 * RATE - 4800]) == pytest.approx(
        20 * np.log10(0.5 / np.sqrt(2)) - 6, abs=0.3
    )
    assert level(samples[2 * RATE + 4800 :]) < -60


def test_the_tone_keeps_its_pitch(tmp_path, beep):
    clip = SoundClip(id="c", media=beep.id, length=60)
    samples = exported(tmp_path, project_of(title(length=60), clip, media=(beep,)), 60)[4800 : 4800 + RATE]
    spectrum = np.abs(np.fft.rfft(samples * np.hanning(len(samples))))
    assert np.argmax(spectrum) == pytest.approx(1000, abs=1)


def test_too_loud_is_cut_off_and_not_wrapped(tmp_path, beep):
    clip = SoundClip(id="c", media=beep.id, length=30, sound=Sound(gain=30.0))
    samples = exported(tmp_path, project_of(title(length=30), clip, media=(beep,)), 30)
    assert np.abs(samples).max() < 1.5
    # Cut off, a sine is nearly a square wave, of level 0; AAC rounds its corners.
    assert level(samples[4800:-4800]) == pytest.approx(0, abs=1.0)


def test_footage_brings_its_own_sound(tmp_path, beep):
    with_sound = SoundClip(id="c", media=beep.id, length=60)
    film = tmp_path / "film.mp4"
    export(
        ExportJob(
            project_of(title(length=60), with_sound, media=(beep,)),
            tmp_path,
            film,
            Span(0, 60),
            Delivery((64, 36)),
        ),
        1,
    )
    media = probe(film)
    assert media.has_sound
    samples = read_sound(film)
    assert abs(len(samples) - 2 * RATE) <= 1024
    again = exported(
        tmp_path,
        project_of(FootageClip(id="f", media=media.id, length=60, sound=Sound(gain=-10.0)), media=(media,)),
        60,
    )
    assert level(again[9600:-9600]) == pytest.approx(20 * np.log10(0.5 / np.sqrt(2)) - 10, abs=0.5)


def test_a_stereo_file_keeps_its_sides(tmp_path):
    path = tmp_path / "sides.wav"
    with av.open(str(path), "w") as container:
        stream = container.add_stream("pcm_s16le", rate=44_100, layout="stereo")
        left = (tone(1.0, 500.0)[:44_100] * 32767).astype(np.int16)
        block = np.stack([left, np.zeros_like(left)], axis=1).reshape(1, -1)
        frame = av.AudioFrame.from_ndarray(block, format="s16", layout="stereo")
        frame.sample_rate = 44_100
        container.mux(stream.encode(frame))
        container.mux(stream.encode(None))
    samples = read_sound(path)
    assert abs(len(samples) - RATE * 44_100 // 44_100) <= 64
    assert level(samples[:, 0]) > -12
    assert level(samples[:, 1]) < -80
