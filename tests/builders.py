"""Small projects in one line."""

from __future__ import annotations

import numpy as np

from rovix.model import (
    Fill,
    Look,
    Media,
    Outline,
    Plain,
    Project,
    Sequence,
    Sound,
    SoundClip,
    Text,
    TextClip,
    Track,
)


def title(content: str = "Kite", length: int = 60, moves=(), **fields) -> TextClip:
    """A text layer from frame 0; `text` may be given as a dict."""
    text = Text(content=content, **fields.pop("text", {}))
    return TextClip(id=fields.pop("id", "title"), length=length, text=text, moves=tuple(moves), **fields)


def project_of(*clips, size=(640, 360), rate="30", **fields) -> Project:
    """Each clip on a track of its own, the first lowest."""
    tracks = tuple(
        Track(
            id=f"track-{number}",
            kind="sound" if type(clip).__name__ == "SoundClip" else "picture",
            clips=(clip,),
        )
        for number, clip in enumerate(clips)
    )
    media = fields.pop("media", ())
    return Project(
        id="p", sequences=(Sequence(id="s", size=size, rate=rate, tracks=tracks, **fields),), media=media
    )


def loud_project(gain):
    """A second of sound, a.wav, from frame 10 at 25 frames a second, all on the left."""
    media = Media(id="m", path="a.wav", kind="sound", length=1.0)
    clip = SoundClip(id="c", media="m", start=10, length=20, sound=Sound(gain=gain, pan=-1.0))
    return project_of(clip, media=(media,), rate="25")


def look_of(colour: str = "#fff8ea", *outlines: Outline, opacity: float = 1.0) -> Look:
    """A plain fill with outlines below it, or above it where they lie inside."""
    fill = Fill(id="fill", paint=Plain(colour=colour), opacity=opacity)
    inside = [outline for outline in outlines if outline.side == "inside"]
    return Look(parts=(*reversed(inside), fill, *(o for o in outlines if o.side != "inside")))


def psnr(one, other) -> float:
    """Peak signal to noise ratio in dB, full scale 255."""
    error = np.mean((np.asarray(one, np.float64) - np.asarray(other, np.float64)) ** 2)
    return float("inf") if error == 0 else float(10 * np.log10(255**2 / error))
