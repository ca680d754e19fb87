"""Opening video and sound files: only kinds that hold their media themselves."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import av
from av.codec import Codec
from av.container import InputContainer
from av.stream import Disposition

from rovix.files import check_regular
from rovix.media.errors import MediaError

# Play lists and scripts would have FFmpeg read other files, or the network.
_FORMATS = {
    *("mov", "mp4", "m4a", "3gp", "3g2", "mj2", "matroska", "webm", "avi", "mpeg", "mpegts", "mpegvideo"),
    *("m4v", "h264", "hevc", "av1", "ivf", "dv", "mxf", "asf", "flv", "nut", "gif", "apng"),
    *("ogg", "wav", "w64", "flac", "mp3", "aac", "aiff", "caf", "ac3", "amr", "au", "opus"),
}


def opened(path: Path) -> InputContainer:
    """The file, open; a context manager. MediaError, naming the reason, when it is no such file."""
    try:
        check_regular(path)
        container = av.open(f"file:{path}", options={"protocol_whitelist": "file"})
    except av.FFmpegError as wrong:
        raise MediaError(path, f"it holds neither picture nor sound ({wrong.strerror})") from wrong
    except (OSError, ValueError) as wrong:
        raise MediaError(
            path, f"it cannot be opened ({getattr(wrong, 'strerror', None) or wrong})"
        ) from wrong
    if not set(container.format.name.split(",")) & _FORMATS:
        name = container.format.long_name or container.format.name
        container.close()
        raise MediaError(path, f"it is no video or sound file ({name})")
    return container


def is_clear(stream: Any) -> bool:
    """Whether the pictures of a stream may be seen through. VP9 keeps alpha in a picture of its own, and
    says so beside the stream."""
    if _says_alpha(stream):
        return True
    form = stream.codec_context.format
    return form is not None and any(part.is_alpha for part in form.components)


def decoder_of(stream: Any) -> Any:
    """What decodes a stream: its own, but for transparent VP8 and VP9, whose usual one drops alpha."""
    context = stream.codec_context
    other = _CLEAR_DECODERS.get(context.name)
    if other is None or not _says_alpha(stream):
        return context
    made = Codec(other, "r").create()
    made.extradata = context.extradata
    return made


def _says_alpha(stream: Any) -> bool:
    return any(name.lower() == "alpha_mode" and value == "1" for name, value in stream.metadata.items())


_CLEAR_DECODERS = {"vp8": "libvpx", "vp9": "libvpx-vp9"}


def video_stream(container: InputContainer) -> Any:
    """The moving picture of a file, or None; a sound's cover is none."""
    for stream in container.streams.video:
        if not stream.disposition & Disposition.attached_pic:
            return stream
    return None
