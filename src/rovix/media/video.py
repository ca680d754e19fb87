"""Video files as pictures at any time."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import cv2
import numpy as np
from av import VideoFrame
from av.video.reformatter import ColorRange, Colorspace, Interpolation, VideoReformatter
from numpy.typing import NDArray

from rovix.media.containers import decoder_of, is_clear, opened, video_stream
from rovix.media.deinterlace import deinterlaced
from rovix.media.errors import MediaError
from rovix.media.stills import premultiplied

Pixels = NDArray[np.uint8]
Size = tuple[int, int]
_MUCH_SMALLER = 0.75  # of its own size; pictures are averaged down before they are laid between px
_NEAR = Fraction(3, 2)  # seconds ahead that are sooner decoded through than sought
_TAIL = 1  # second: an index counts by when pictures are decoded, the last before they are shown
_BACK = (0, 1, 4, 12)  # seconds
# Where there is no index, times just behind where a seek lands are guessed, half a picture off.
_WITHOUT_INDEX = frozenset({"mpeg", "mpegts", "mpegvideo"})
_BACK_BLINDLY = (1, 4, 12)
_HIGH_DEFINITION = 720  # lines from which an untagged file is taken to be BT.709


class VideoReader:
    """One open video file. Pictures in rising order are decoded straight through. They may be
    deinterlaced."""

    converted = 1
    """How many pictures are kept as pixels: several frames of a sequence may show the same one."""

    def __init__(self, path: Path, deinterlace: bool = False) -> None:
        self.path, self._deinterlace = path, deinterlace
        self._shown: VideoFrame | None = None
        self._ahead: VideoFrame | None = None
        self._open()
        self._pixels: OrderedDict[tuple[int, Size], Pixels] = OrderedDict()
        self._reformatter = VideoReformatter()

    def picture(self, time: Fraction, shrunk: Size | None = None, about: bool = False) -> Pixels:
        """(height, width, 4) premultiplied BGRA of the frame shown at a time in seconds from the first.

        Before the first frame its picture, after the last its picture. `shrunk` (width, height), if
        it is smaller than the file's own size, is the size it comes in; `about` so, only where it is
        much smaller, as it is laid down between px then. Not to be written to.
        """
        try:
            frame = self._frame_at(self._tick(time))
        except av.FFmpegError as wrong:
            raise MediaError(self.path, f"it is damaged ({wrong.strerror})") from wrong
        return self._pixels_of(frame, shrunk, about)

    def _tick(self, time: Fraction) -> int:
        # Half a tick of slack: files round their time stamps to their time base.
        return self._start + int((max(time, Fraction(0)) / self._base) + Fraction(1, 2))

    def _pixels_of(self, frame: VideoFrame, shrunk: Size | None, about: bool) -> Pixels:
        whole = self._size_of(frame)
        most = _MUCH_SMALLER if about else 1.0
        smaller = shrunk is not None and shrunk[0] <= most * whole[0] and shrunk[1] <= most * whole[1]
        size = shrunk if smaller and shrunk is not None else whole
        key = (frame.pts, size)
        if key not in self._pixels:
            self._pixels[key] = self._converted(frame, size, self._reformatter)
            if len(self._pixels) > self.converted:
                self._pixels.popitem(last=False)
        return self._pixels[key]

    def _size_of(self, frame: VideoFrame) -> Size:
        return shown_size(frame, self._stream.sample_aspect_ratio)

    def _converted(self, frame: VideoFrame, size: Size, reformatter: VideoReformatter) -> Pixels:
        return (clear_bgra_of if self._clear else bgra_of)(frame, size, reformatter)

    @property
    def is_clear(self) -> bool:
        """Whether its pictures may be seen through."""
        return self._clear

    @property
    def base(self) -> Fraction:
        """Seconds of a tick."""
        return Fraction(self._base)

    def pictures(self, size: Size) -> Iterator[tuple[int, Pixels]]:
        """All pictures from the first on, at a size, with the ticks from the start at which they stand.

        As :meth:`picture` gives them. MediaError where the file is damaged before its end.
        """
        try:
            for frame in self._frames:
                yield frame.pts - self._start, self._converted(frame, size, self._reformatter)
        except av.FFmpegError as wrong:
            raise MediaError(self.path, f"it is damaged ({wrong.strerror})") from wrong

    def close(self) -> None:
        self._container.close()

    def _frame_at(self, tick: int) -> VideoFrame:
        if self._is_elsewhere(tick):
            self._seek(tick)
        while not self._is_at(tick) and self._advance():
            pass
        if self._shown is None:
            raise MediaError(self.path, "it holds no picture")
        return self._shown

    def _is_elsewhere(self, tick: int) -> bool:
        """Whether a picture is sooner come to by seeking than by decoding on."""
        shown = self._shown
        if shown is None or tick < shown.pts:
            return True
        return (tick - shown.pts) * self._base > _NEAR and not self._is_in_group(shown.pts, tick)

    def _is_in_group(self, shown: int, tick: int) -> bool:
        """Whether nothing begins between two times that can be decoded by itself, as far as the file's index
        says: seeking would lead back."""
        index: Any = self._stream.index_entries
        if not len(index) or (tick - index[len(index) - 1].timestamp) * self._base > _TAIL:
            return False  # it has none, or knows only what was read so far
        last = index.search_timestamp(tick, backward=True)
        return last >= 0 and index[last].timestamp <= shown

    def _is_at(self, tick: int) -> bool:
        return self._ahead is not None and self._ahead.pts > tick

    def _advance(self) -> bool:
        """Decode one picture; False where it is the last one."""
        following = self._ahead or next(self._frames, None)
        if following is None:
            return False
        self._shown, self._ahead = following, next(self._frames, None)
        self._passed()
        return self._ahead is not None

    def _passed(self) -> None:
        """Another frame is shown from now on."""

    def _open(self) -> None:
        """The file from its first picture on."""
        self._container = opened(self.path)
        self._stream = video_stream(self._container)
        if self._stream is None:
            self._container.close()
            raise MediaError(self.path, "it holds no video")
        self._stream.thread_type = "AUTO"
        self._decoder = decoder_of(self._stream)
        self._clear = is_clear(self._stream)
        self._base = self._stream.time_base
        self._start = self._stream.start_time or 0
        self._frames = self._whole()

    def _with_times(self) -> Iterator[VideoFrame]:
        """The pictures to come; such as say no time follow the one before."""
        rate = self._stream.average_rate or self._stream.guessed_rate or 25
        step = max(1, round(1 / (rate * self._base)))
        last = self._start - step
        for frame in self._decoded():
            if frame.pts is None:
                frame.pts = last + step
            last = frame.pts
            yield frame

    def _whole(self) -> Iterator[VideoFrame]:
        """The pictures to come, as they are shown."""
        frames = self._with_times()
        return deinterlaced(frames, self._base) if self._deinterlace else frames

    def _decoded(self) -> Iterator[VideoFrame]:
        if self._decoder is self._stream.codec_context:
            yield from self._container.decode(self._stream)
            return
        # A decoder of another library than FFmpeg's own takes the packets by hand.
        self._decoder.flush_buffers()
        for packet in self._container.demux(self._stream):
            yield from self._decoder.decode(packet if packet.size else None)

    def _seek(self, tick: int) -> None:
        """Go to a picture at or before a tick."""
        blind = self._container.format.name in _WITHOUT_INDEX
        if self._deinterlace and tick > self._start:
            tick -= 1  # the picture before has a part in it
        near = (tick - self._start) * self._base <= _NEAR
        for back in (() if near else _BACK_BLINDLY) if blind else _BACK:
            # It lands somewhere near: ever farther back until it is not too late.
            target = max(self._start, tick - int(back / self._base))
            try:
                self._container.seek(target, stream=self._stream, backward=True)
            except av.FFmpegError:
                break  # bare streams of a codec cannot be sought
            self._frames = self._whole()
            self._shown, self._ahead = None, next(self._frames, None)
            if self._ahead is not None and self._ahead.pts <= tick:
                return
        self._container.close()
        self._open()
        self._shown, self._ahead = None, next(self._frames, None)


def shown_size(frame: VideoFrame, aspect: Fraction | None) -> Size:
    """Width and height in px at which a frame is shown: px that are not square widened, and upright."""
    width = round(frame.width * aspect) if aspect and aspect > 0 else frame.width
    return (frame.height, width) if _quarters(frame) % 2 else (width, frame.height)


def _quarters(frame: VideoFrame) -> int:
    """By how many quarter turns, anticlockwise, the file asks for the frame to be turned."""
    return round(frame.rotation / 90) % 4


def clear_bgra_of(frame: VideoFrame, size: Size, reformatter: VideoReformatter) -> Pixels:
    """(height, width, 4) premultiplied BGRA of a frame that may be seen through.

    It is averaged down when colours and alpha are multiplied: what is clear has no colour to give.
    """
    whole = bgra_of(frame, shown_size(frame, None), reformatter)
    pixels = premultiplied(whole)
    if size != (pixels.shape[1], pixels.shape[0]):
        pixels = cv2.resize(pixels, size, interpolation=cv2.INTER_AREA)
    pixels.setflags(write=False)
    return pixels


def bgra_of(frame: VideoFrame, size: Size, reformatter: VideoReformatter) -> Pixels:
    """(height, width, 4) opaque BGRA of a frame, averaged down to a size and turned upright.

    A reformatter that is used again for frames alike takes less than half the time: setting one up costs
    more than a picture.
    """
    # Converting and averaging down in one pass costs a fifth of doing one after the other.
    tagged = frame.colorspace in (Colorspace.ITU709, Colorspace.ITU601, Colorspace.SMPTE170M)
    guess = Colorspace.ITU709 if frame.height >= _HIGH_DEFINITION else Colorspace.ITU601
    turns = _quarters(frame)
    width, height = size if turns % 2 == 0 else size[::-1]
    converted = reformatter.reformat(
        frame,
        width=width,
        height=height,
        interpolation=Interpolation.AREA,
        format="bgra",
        src_colorspace=frame.colorspace if tagged else guess,
        src_color_range=ColorRange.JPEG if frame.color_range == ColorRange.JPEG else ColorRange.MPEG,
        dst_color_range=ColorRange.JPEG,
        # As many as the process may use; 0 would take all cores in each.
        threads=cv2.getNumThreads(),
    )
    pixels: Pixels = converted.to_ndarray()  # type: ignore[assignment]  # BGRA comes as uint8 alone
    if turns:
        pixels = np.ascontiguousarray(np.rot90(pixels, turns))
    pixels.setflags(write=False)
    return pixels
