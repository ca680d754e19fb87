"""Sound out through Qt, as the clock that pictures follow."""

from __future__ import annotations

from PySide6.QtCore import QIODevice
from PySide6.QtMultimedia import QAudioFormat, QAudioSink, QMediaDevices

from rovix.desktop.document import Document
from rovix.engine.player import Run, SilentClock
from rovix.engine.sample_source import SamplesAhead, SampleSource
from rovix.errors import RovixError
from rovix.media import SAMPLE_RATE, MediaLibrary

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


class SoundClock(SilentClock):
    """Plays the mix at true speed; where there is no device, or at other speeds, it is silent."""

    def __init__(self, document: Document) -> None:
        super().__init__()
        self._document = document
        self._sink: QAudioSink | None = None
        self._stream: SampleStream | None = None
        self._ahead: SamplesAhead | None = None

    def start(self, run: Run) -> None:
        super().start(run)
        device = QMediaDevices.defaultAudioOutput()
        if run.speed != 1.0 or device.isNull():
            return
        self._ahead = SamplesAhead(self._source(run))
        self._stream = SampleStream(self._ahead)
        self._sink = QAudioSink(device, _format())
        self._sink.start(self._stream)

    def stop(self) -> None:
        if self._sink is not None:
            self._sink.stop()
        if self._ahead is not None:
            self._ahead.stop()
        self._sink = self._stream = self._ahead = None

    def seconds(self) -> float:
        if self._sink is None:
            return super().seconds()
        # What the device has taken in, less what still waits in its buffer, is what is heard.
        waiting = (self._sink.bufferSize() - self._sink.bytesFree()) / _BYTES / SAMPLE_RATE
        return max(0.0, self._sink.processedUSecs() / 1e6 - waiting)

    def _source(self, run: Run) -> SampleSource:
        project = self._document.project
        library = MediaLibrary(project, self._document.base)

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
