"""The estimate of an export beside the window: size first, then how loud its sound is."""

import time

import numpy as np
import pytest

from builders import project_of, title
from rovix.engine.estimate_process import EstimateProcess
from rovix.engine.export_job import ExportJob
from rovix.media.encoders.wav import ENCODERS as WAV
from rovix.media.probe import probe
from rovix.model import SoundClip
from rovix.model.delivery import Delivery
from rovix.time import Rate, Span


@pytest.fixture
def job(tmp_path):
    at = np.arange(48_000 * 3) / 48_000
    wave = (10 ** (-23 / 20) * np.sin(2 * np.pi * 997 * at)).astype(np.float32)
    writer = WAV[0].quality().begin(tmp_path / "tone.wav", (64, 36), Rate("30"), True)
    writer.add_sound(np.stack([wave, wave], axis=1))
    writer.close()
    tone = probe(tmp_path / "tone.wav")
    project = project_of(title("Wind", length=60), SoundClip(id="t", media=tone.id, length=60), media=(tone,),
                         size=(64, 36), rate="20")  # fmt: skip

    def make(name="a.mp4", codec=None):
        return ExportJob(project, tmp_path, tmp_path / name, Span(0, 60), Delivery(codec=codec))

    return make


def ended(process, seconds=60):
    end = time.monotonic() + seconds
    while process.is_alive and time.monotonic() < end:
        time.sleep(0.02)
    found = process.found()
    process.close()
    return found


def test_size_and_loudness_are_found(job):
    found = ended(EstimateProcess(job()))
    assert found.size > 1000
    # A sine of -23 dBFS peak on both sides has -23 LUFS (EBU Tech 3341, signal 1).
    assert found.loudness.integrated == pytest.approx(-23, abs=0.2)
    assert found.loudness.peak == pytest.approx(-23, abs=0.3)


def test_a_form_without_sound_has_no_loudness(job):
    found = ended(EstimateProcess(job("a.gif")))
    assert found.size > 0
    assert found.loudness is None


def test_what_cannot_be_done_is_not_known_and_a_stop_ends_it(job, tmp_path):
    assert ended(EstimateProcess(job("a.avi"))) is None
    process = EstimateProcess(job())
    process.cancel()  # long before the first picture is drawn
    assert ended(process) is None
    assert not list(tmp_path.glob("*.mp4"))
