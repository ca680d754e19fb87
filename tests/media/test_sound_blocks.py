"""Sounds are read a block at a time: what comes does not depend on what was read before."""

import threading
import time
from pathlib import Path

import av
import numpy as np
import pytest
from scipy.signal import resample_poly

from rovix.engine.sample_source import SamplesAhead, SampleSource
from rovix.media import samples as blocks
from rovix.media.errors import MediaError
from rovix.media.mix import Mixer
from rovix.media.samples import BLOCK, SAMPLE_RATE, Held, Resampled
from rovix.media.sound import SoundFile, check_sound
from rovix.model import GroupClip, Playing, Sequence, SoundClip, Track
from rovix.time import Span


def noise(count, seed=5):
    """(count, 2): noise without what lies above an eighth of the rate, so that resampling has one answer."""
    rough = np.random.default_rng(seed).normal(0, 0.1, (count // 4 + 1, 2))
    return resample_poly(rough, 4, 1, axis=0)[:count].astype(np.float32)


def written(path: Path, samples, codec, rate, sample_format="s16") -> Path:
    with av.open(str(path), "w") as container:
        stream = container.add_stream(codec, rate=rate, layout="stereo")
        for start in range(0, len(samples), 65_536):
            part = samples[start : start + 65_536]
            frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(part.T), format="fltp", layout="stereo")
            frame.sample_rate, frame.pts = rate, start
            for ready in av.AudioResampler(stream.format, "stereo", rate, frame_size=1024).resample(frame):
                container.mux(stream.encode(ready))
        container.mux(stream.encode(None))
    return path


@pytest.fixture(autouse=True)
def _own_blocks(monkeypatch):
    monkeypatch.setattr(blocks, "_blocks", blocks.BlockCache())


@pytest.mark.parametrize("rate", [44_100, 48_000, 22_050, 96_000])
def test_blocks_read_in_any_order_are_those_of_the_whole_resampled_by_scipy(rate):
    source = noise(int(rate * 28))
    material = Resampled(Held(source).read, rate, len(source))
    third, first = material.read(2 * BLOCK, 2 * BLOCK + 9000), material.read(0, 9000)
    common = np.gcd(rate, SAMPLE_RATE)
    whole = resample_poly(source, SAMPLE_RATE // common, rate // common, axis=0, window=("kaiser", 10.0))
    for low, got in ((0, first), (2 * BLOCK, third)):
        inner = slice(1000, 8000)
        wanted = whole[low : low + 9000]
        error = np.sqrt(np.mean((got[inner] - wanted[inner]) ** 2) / np.mean(wanted[inner] ** 2))
        assert 20 * np.log10(error + 1e-12) < -45
    # Nothing jumps where one block ends and the next begins.
    seam = material.read(BLOCK - 500, BLOCK + 500)
    again = np.concatenate([material.read(BLOCK - 500, BLOCK), material.read(BLOCK, BLOCK + 500)])
    assert np.array_equal(seam, again)
    assert np.abs(seam - whole[BLOCK - 500 : BLOCK + 500]).max() < 0.01


def test_samples_are_picked_in_any_order_with_silence_beyond():
    material = Resampled(Held(noise(3 * BLOCK)).read, SAMPLE_RATE, 3 * BLOCK)
    at = np.array([-5, 2 * BLOCK + 7, 0, BLOCK - 1, BLOCK, 9 * BLOCK, 0])
    whole = noise(3 * BLOCK)
    wanted = [whole[n] if 0 <= n < len(whole) else (0, 0) for n in at]
    assert np.array_equal(material.picked(at), np.array(wanted, np.float32))


@pytest.mark.parametrize(
    ("name", "codec", "rate"),
    [("a.wav", "pcm_s16le", 44_100), ("a.flac", "flac", 48_000), ("a.mp3", "libmp3lame", 44_100),
     ("a.m4a", "aac", 48_000), ("a.mka", "libopus", 48_000), ("a.ogg", "libopus", 48_000)],
)  # fmt: skip
def test_a_place_far_into_a_file_is_what_decoding_it_all_gives(tmp_path, name, codec, rate):
    path = written(tmp_path / name, noise(rate * 75), codec, rate)
    far = 62 * SAMPLE_RATE + 11
    sought = SoundFile(path)
    jumped = sought.read(far, far + 4800)
    back = sought.read(5 * SAMPLE_RATE, 5 * SAMPLE_RATE + 4800)
    straight = SoundFile(path)
    straight._decoder._seeks = False
    blocks._blocks = blocks.BlockCache()
    # AAC fills bands with noise of its own, drawn anew by each decoder (ISO/IEC 14496-3, 4.6.13).
    most = 0.1 if codec == "aac" else 0.002
    for got, low in ((jumped, far), (back, 5 * SAMPLE_RATE)):
        wanted = straight.read(low, low + 4800)
        assert np.sqrt(np.mean((got - wanted) ** 2) / np.mean(wanted**2)) < most
    assert np.abs(jumped).max() > 0.05
    for file in (sought, straight):
        file.close()


def test_memory_of_a_long_sound_has_a_bound(tmp_path):
    """Ten minutes are 230 MB as a whole; what is held are the blocks read last and the decoder's own."""
    path = written(tmp_path / "long.flac", np.tile(noise(48_000), (600, 1)), "flac", 48_000)
    file = SoundFile(path)
    for minute in range(10):
        file.read(minute * 60 * SAMPLE_RATE, minute * 60 * SAMPLE_RATE + 100)
    kept = sum(block.nbytes for _, block in blocks._blocks._kept.values())
    held = sum(part.nbytes for _, part in file._decoder._parts)
    assert kept <= 24 * BLOCK * 8
    assert held < 60 << 20
    file.close()


def test_rates_and_lengths_out_of_reason_are_refused():
    path = Path("odd.wav")
    check_sound(path, 8_000, 60.0)
    for rate in (1, 999, 768_001, 2**31):
        with pytest.raises(MediaError, match=rf"says {rate} samples a second"):
            check_sound(path, rate, 1.0)
    with pytest.raises(MediaError, match="500 hours"):
        check_sound(path, 48_000, 1_800_000.0)


def test_a_wav_that_says_one_sample_a_second_is_named(tmp_path):
    path = written(tmp_path / "a.wav", noise(4800), "pcm_s16le", 48_000)
    content = bytearray(path.read_bytes())
    content[24:28] = (1).to_bytes(4, "little")
    path.write_bytes(content)
    with pytest.raises(MediaError, match="says 1 samples a second"):
        SoundFile(path)


def test_a_group_is_mixed_as_it_is_heard_and_like_the_whole():
    hum = Held(noise(20 * SAMPLE_RATE))
    inner = Track(id="in", kind="sound", clips=(SoundClip(id="s", media="m", length=500),))
    group = GroupClip(id="g", length=250, tracks=(inner,), playing=Playing(speed=2.0))
    sequence = Sequence(id="q", rate="25", tracks=(Track(id="t", clips=(group,)),))
    mixer = Mixer(sequence, lambda _: hum)
    whole = mixer.mix(Span(0, 250))
    parts = np.concatenate([mixer.mix(Span(at, at + 25)) for at in range(0, 250, 25)])
    assert np.array_equal(parts, whole)
    assert np.abs(whole).max() > 0.05


class Slow:
    """A source that takes its time."""

    def __init__(self):
        self.given, self.threads = 0, set()

    def read(self, count):
        self.threads.add(threading.current_thread().name)
        out = np.full((count, 2), self.given, dtype=np.float32)
        self.given += 1
        return out


def test_mixing_goes_on_beside_the_one_who_plays():
    source = Slow()
    ahead = SamplesAhead(source)
    assert ahead.wait_for_some(10)
    got = np.concatenate([ahead.read(1000) for _ in range(2)])
    assert got[:2000, 0].tolist() == [0.0] * 2000
    assert source.threads == {"mixing"}
    time.sleep(0.05)
    assert source.given <= 34, "no more than a second and a half ahead"
    ahead.stop()
    assert not any(thread.name == "mixing" for thread in threading.enumerate())


def test_what_is_not_there_in_time_is_silence_and_counted():
    gate = threading.Event()

    class Stuck(SampleSource):
        def __init__(self):
            self.given = 0

        def read(self, count):
            gate.wait(20)
            self.given += count
            return np.repeat(np.arange(self.given - count, self.given, dtype=np.float32)[:, None], 2, axis=1)

    ahead = SamplesAhead(Stuck())
    assert not ahead.read(480).any()
    assert ahead.missed == 480
    gate.set()
    assert ahead.wait_for_some(10)
    assert ahead.read(480)[:, 0].tolist() == list(range(480, 960)), (
        "in step again: what was missed is left out"
    )
    ahead.stop()
