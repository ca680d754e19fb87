"""The files of a project, opened when asked for."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Mapping
from fractions import Fraction
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from rovix.media.errors import MediaError
from rovix.media.samples import Material
from rovix.media.sound import SoundFile
from rovix.media.stills import is_drawing, read_still
from rovix.media.video import VideoReader
from rovix.model import Media, Project

Pixels = NDArray[np.uint8]
_OPEN_VIDEOS = 8
_STILL_BYTES = 256 << 20
_LARGEST = 4096  # px of a side that a drawing is enlarged to
_OPEN_SOUNDS = 24


class MediaLibrary:
    """Pictures and sounds by media id; keeps the files used last open. Closed with :meth:`close`."""

    def __init__(self, project: Project, base: Path, proxies: Mapping[str, Path] | None = None) -> None:
        """`proxies` are files that are shown in place of footage, by the ids of media."""
        self._base, self._proxies = base, dict(proxies or {})
        self._media = {media.id: media for media in project.media}
        self._videos: OrderedDict[str, VideoReader] = OrderedDict()
        self._sounds: OrderedDict[str, SoundFile] = OrderedDict()
        self._stills: OrderedDict[tuple[str, int], Pixels] = OrderedDict()

    def path_of(self, source: str) -> Path:
        """Where a media file lies; MediaError for an id that the project does not have."""
        media = self._media.get(source)
        if media is None:
            raise MediaError(Path(source), "the project does not name it")
        return self._base / media.path

    def footage(self, source: str) -> tuple[Path, bool]:
        """The file that footage is shown from, and whether it is to be deinterlaced."""
        proxy = self._proxies.get(source)
        if proxy is not None:
            return proxy, False  # it was made so
        media = self._media.get(source)
        return self.path_of(source), media is not None and media.interlaced and media.deinterlaced

    def missing(self) -> list[Media]:
        """The media whose file is not there."""
        return [media for media in self._media.values() if not (self._base / media.path).is_file()]

    def picture(
        self, source: str, time: Fraction | None, shrunk: tuple[int, int] | None = None, about: bool = False
    ) -> Pixels:
        """Premultiplied BGRA of a still, or of a video at seconds, which may come `shrunk` to a size, or
        `about` to it.

        A drawing comes at least as large as that, a picture as it is. Not to be written to.
        """
        if time is None:
            return self._still(source, shrunk)
        try:
            return self._video(source).picture(time, shrunk, about)
        except MediaError:
            if not self._drop_proxy(source):
                raise
        return self._video(source).picture(time, shrunk, about)

    def _drop_proxy(self, source: str) -> bool:
        """Show the footage itself from now on, as its proxy went or is damaged; False where it has none."""
        if self._proxies.pop(source, None) is None:
            return False
        reader = self._videos.pop(source, None)
        if reader is not None:
            reader.close()
        return True

    def sound(self, source: str) -> Material | None:
        """A file's sound at 48 kHz, or None for footage without sound."""
        media = self._media[source]
        if not media.has_sound and media.kind != "sound":
            return None
        file = self._sounds.pop(source, None) or SoundFile(self.path_of(source))
        self._sounds[source] = file
        if len(self._sounds) > _OPEN_SOUNDS:
            self._sounds.popitem(last=False)  # which others may still read; it closes with the last of them
        return file

    def close_videos(self) -> bool:
        """Let go of the videos that are open, and say whether any was; what is asked for opens again."""
        any_open = bool(self._videos)
        for reader in self._videos.values():
            reader.close()
        self._videos.clear()
        return any_open

    def close(self) -> None:
        self.close_videos()
        for file in self._sounds.values():
            file.close()
        self._sounds.clear()

    def _video(self, source: str) -> VideoReader:
        reader = self._videos.pop(source, None) or VideoReader(*self.footage(source))
        self._videos[source] = reader
        if len(self._videos) > _OPEN_VIDEOS:
            self._videos.popitem(last=False)[1].close()
        return reader

    def _still(self, source: str, wanted: tuple[int, int] | None) -> Pixels:
        path = self.path_of(source)
        key = (source, self._scale(source, wanted) if is_drawing(path) else 1)
        pixels = self._stills.pop(key, None)
        if pixels is None:
            pixels = read_still(path, key[1])
        self._stills[key] = pixels
        while sum(kept.nbytes for kept in self._stills.values()) > _STILL_BYTES and len(self._stills) > 1:
            self._stills.popitem(last=False)
        return pixels

    def _scale(self, source: str, wanted: tuple[int, int] | None) -> int:
        """How many times as large as its own size a drawing is drawn: in doublings, to be drawn seldom."""
        media, scale = self._media[source], 1
        width, height = media.width or 1, media.height or 1
        while wanted is not None and (scale * width < wanted[0] or scale * height < wanted[1]):
            if scale * 2 * max(width, height) > _LARGEST:
                break
            scale *= 2
        return scale
