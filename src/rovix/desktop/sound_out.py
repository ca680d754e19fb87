"""Samples to the sound device through Qt."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QIODevice
from PySide6.QtMultimedia import QAudioDevice, QAudioFormat, QAudioSink, QMediaDevices

from rovix.engine.player import Run
from rovix.engine.sample_source import SamplesAhead, SampleSource
from rovix.errors import RovixError
from rovix.media.library import MediaLibrary
from rovix.media.samples import SAMPLE_RATE
from rovix.model import Project

_BYTES = 8  # two float32 samples


class SampleStream(QIODevice):
    """Hands samples to the sink as it asks for them."""

    def __init__(self, source: SamplesAhead) -> None:
        super().__init__()
        self._source = source
        self.open(QIODevice.OpenModeFlag.ReadOnly)

    def readData(self, most: int) -> bytes:
        return self._source.read(most // _BYTES).tobytes()

    def writeData(self, data: bytes | bytearray | memoryview, length: int, /) -> int:
        return -1

    def bytesAvailable(self) -> int:
        return _BYTES * SAMPLE_RATE + super().bytesAvailable()

    def isSequential(self) -> bool:
        return True


class SoundOut:
    """A run of a project's sound on its way to a device, until it is stopped."""

    def __init__(self, device: QAudioDevice, project: Project, base: Path, run: Run) -> None:
        self._ahead = SamplesAhead(_source(project, base, run))
        self._stream = SampleStream(self._ahead)
        self._sink = QAudioSink(device, _format())
        self._sink.start(self._stream)

    def seconds(self) -> float:
        """How far it was heard."""
        # What the device has taken in, less what still waits in its buffer, is what is heard.
        waiting = (self._sink.bufferSize() - self._sink.bytesFree()) / _BYTES / SAMPLE_RATE
        return max(0.0, self._sink.processedUSecs() / 1e6 - waiting)

    def stop(self) -> None:
        self._sink.stop()
        self._ahead.stop()


def device() -> QAudioDevice | None:
    """Where sound goes; None where there is nothing to hear it by."""
    found = QMediaDevices.defaultAudioOutput()
    return None if found.isNull() else found


def _source(project: Project, base: Path, run: Run) -> SampleSource:
    library = MediaLibrary(project, base)

    def sound_of(identity: str):  # type: ignore[no-untyped-def]
        try:
            return library.sound(identity)
        except RovixError:
            return None  # a sound that cannot be read is silent; the files' check names it

    return SampleSource(project.sequence, run.span, run.start, run.loop, sound_of, project.sequences)


def _format() -> QAudioFormat:
    made = QAudioFormat()
    made.setSampleRate(SAMPLE_RATE)
    made.setChannelCount(2)
    made.setSampleFormat(QAudioFormat.SampleFormat.Float)
    return made
