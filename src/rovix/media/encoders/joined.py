"""Files put together from ranges that were encoded by themselves, without encoding again."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from pathlib import Path
from typing import Any

import av

from rovix.errors import RovixError
from rovix.media.encoders.container import FileForm, OpenFile
from rovix.media.encoders.encoder import Join
from rovix.time import Rate


def joining(form: FileForm) -> Join:
    """What joins files of a form."""
    return partial(JoinedFile, form=form)


class JoinedFile(OpenFile):
    """Takes the packets of ranges over as they are; each picture's time is its number over the rate."""

    def __init__(self, path: Path, like: Path, rate: Rate, sound: bool, form: FileForm) -> None:
        super().__init__(path, form)
        self._rate, self._begun = rate, 0
        with av.open(str(like)) as source:
            found = source.streams.video[0]
            self._video: Any = self._container.add_stream_from_template(found, opaque=True)
            self._set_up = found.codec_context.extradata
            # By which a file names its codec; it is not taken over by itself.
            self._video.codec_context.codec_tag = found.codec_context.codec_tag
        self._video.time_base = 1 / rate.fraction
        self._video.metadata.update(form.picture.metadata if form.picture else {})
        self._begin_sound(sound)

    def add_range(self, path: Path) -> Iterator[None]:
        """The next range, a picture at a time. RovixError where it was set up in another way."""
        count = 0
        with av.open(str(path)) as source:
            stream = source.streams.video[0]
            if stream.codec_context.extradata != self._set_up:
                raise RovixError(
                    f"{path.name} was encoded by another version of the encoder than the others, and cannot "
                    "be joined with them. Export on machines that have the same versions."
                )
            for packet in source.demux(stream):
                if packet.size:
                    self._take(packet)
                    count += 1
                    yield
        self._begun += count

    def _take(self, packet: Any) -> None:
        # A file that counts in thousandths of a second has rounded; pictures are counted.
        fps = self._rate.fraction
        packet.pts, packet.dts = (
            self._begun + round(time * packet.time_base * fps) for time in (packet.pts, packet.dts)
        )
        packet.time_base, packet.duration, packet.stream = 1 / fps, 1, self._video
        self._container.mux_one(packet)
