"""The facts of a file: what it is, its size, rate and length, and a digest of its content."""

from __future__ import annotations

import os
from fractions import Fraction
from hashlib import blake2b
from itertools import islice
from pathlib import Path
from typing import Any

import av
from av.container import InputContainer

from rovix.media.apart import apart
from rovix.media.containers import is_clear, opened, video_stream
from rovix.media.errors import MediaError
from rovix.media.sound import check_sound
from rovix.media.stills import MOST_PX, is_animated, still_size
from rovix.media.suffixes import STILL_SUFFIXES
from rovix.media.video import shown_size
from rovix.model import Media, new_id

_CHUNK = 1 << 20
_WITHOUT_LENGTH = frozenset(
    ["mpeg", "mpegts", "mpegvideo", "h264", "hevc", "av1", "m4v", "aac", "mp3", "ac3", "apng", "gif"]
)
_SCANNED = 1 << 30  # bytes of a file that are read through for its length
# Transfer characteristics of ITU-T H.273: SMPTE ST 2084, and ARIB STD-B67.
_TRANSFERS = {16: "PQ", 18: "HLG"}
_LOOKED_AT = 4  # pictures; a first one may say otherwise than all that follow
_SLOWEST, _FASTEST = Fraction(1, 60), Fraction(1000)


def probe(path: Path, base: Path | None = None) -> Media:
    """A file as project media, its path relative to the folder `base` (its own by default).

    It is decoded by another process. Raises MediaError, naming the reason, for what is neither picture
    nor sound.
    """
    if not path.is_file():
        if path.exists():
            raise MediaError(path, "it is a folder, a pipe or a device, not a file")
        raise MediaError(path, "there is no such file")
    if path.stat().st_size == 0:
        raise MediaError(path, "it is empty")
    facts = apart(facts_of, path, seconds=60)
    relative = os.path.relpath(path, base or path.parent)
    return Media(
        id=new_id(),
        path=Path(relative).as_posix(),
        digest=digest_of(path),
        bytes=path.stat().st_size,
        **facts,
    )


def facts_of(path: Path) -> dict[str, Any]:
    """What :func:`probe` finds by decoding a file, in this process."""
    return _still_facts(path) if _is_still(path) else _stream_facts(path)


def _length(path: Path, container: InputContainer, stream: Any) -> Fraction:
    """Seconds from the first picture, or sample, to the end."""
    if set(container.format.name.split(",")) & _WITHOUT_LENGTH and path.stat().st_size <= _SCANNED:
        return _scanned_length(path, stream.index)
    if stream.duration and stream.time_base:
        return Fraction(stream.duration * stream.time_base)
    whole = Fraction(container.duration or 0, av.time_base)
    if "matroska" in container.format.name:
        # Its duration counts from time 0, wherever the first picture is (RFC 9559, 5.1.2.10).
        return whole - Fraction(max(0, container.start_time or 0), av.time_base)
    return whole


def _scanned_length(path: Path, index: int) -> Fraction:
    """The length as its packets say: such files only guess it from their size."""
    with opened(path) as container:
        stream = container.streams[index]
        ends = [
            (packet.pts, packet.pts + (packet.duration or 0))
            for packet in container.demux(stream)
            if packet.pts is not None
        ]
        if not ends or stream.time_base is None:
            return Fraction(0)
        return (max(end for _, end in ends) - min(start for start, _ in ends)) * stream.time_base


def digest_of(path: Path) -> str:
    """`blake2b:` and 32 hexadecimal digits of the whole content."""
    digest = blake2b(digest_size=16)
    with path.open("rb") as file:
        while chunk := file.read(_CHUNK):
            digest.update(chunk)
    return f"blake2b:{digest.hexdigest()}"


def _is_still(path: Path) -> bool:
    """By its first bytes, or by its suffix where these say nothing."""
    with path.open("rb") as file:
        head = file.read(16)
    if head[4:8] == b"ftyp" or (head[:4] in (b"RIFF", b"OggS", b"fLaC") and head[8:12] != b"WEBP"):
        return False
    drawn = (b"\x89PNG", b"\xff\xd8\xff", b"II*\0", b"MM\0*", b"GIF8", b"BM")
    if head.startswith((b"\x89PNG", b"GIF8")) and is_animated(path):
        return False
    return head.startswith(drawn) or head[8:12] == b"WEBP" or path.suffix.lower() in STILL_SUFFIXES


def _still_facts(path: Path) -> dict[str, object]:
    width, height = still_size(path)
    return {"kind": "still", "width": width, "height": height}


def _stream_facts(path: Path) -> dict[str, object]:
    with opened(path) as container:
        try:
            return _facts(path, container)
        except av.FFmpegError as wrong:
            raise MediaError(path, f"it is damaged ({wrong.strerror})") from wrong


def _facts(path: Path, container: InputContainer) -> dict[str, object]:
    video, sound = video_stream(container), next(iter(container.streams.audio), None)
    stream = video or sound
    if stream is None:
        raise MediaError(path, "it holds neither picture nor sound")
    decoded = list(islice(container.decode(stream), 1 if video is None else _LOOKED_AT))
    first = decoded[0] if decoded else None
    if first is None:
        raise MediaError(path, "it holds no picture or sound that can be decoded")
    length = _length(path, container, stream)
    if sound is not None:
        check_sound(path, sound.codec_context.sample_rate, float(length))
    facts: dict[str, object] = {"length": float(length), "has_sound": sound is not None}
    if video is None:
        return facts | {"kind": "sound"}
    width, height = shown_size(first, video.sample_aspect_ratio)
    if width * height > MOST_PX:
        raise MediaError(path, f"its pictures have more than {MOST_PX // 1_000_000} million px")
    rate = video.average_rate or video.guessed_rate or Fraction(25)
    if not _SLOWEST <= rate <= _FASTEST:
        raise MediaError(path, f"it says to have {float(rate):g} pictures a second")
    transfer = _TRANSFERS.get(int(getattr(first, "color_trc", 0) or 0), "standard")
    facts |= {"alpha": is_clear(video), "interlaced": any(frame.interlaced_frame for frame in decoded)}
    facts |= {"kind": "footage", "width": width, "height": height, "rate": str(rate)}
    return facts | {"transfer": transfer}
