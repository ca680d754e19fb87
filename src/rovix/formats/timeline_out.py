"""A project's first sequence as an OpenTimelineIO timeline, for other programs, and whole again for us.

What OpenTimelineIO has words for is said in them: tracks, clips and what they play, gaps, joins, markers,
nesting. All else, such as words, moves and effects, travels as metadata called `rovix`.
"""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Iterator
from typing import Any
from urllib.parse import quote

import opentimelineio as otio

from rovix.formats.project_file import project_bytes
from rovix.model import Clip, Project, Track
from rovix.model.clip_kinds import holds_tracks, is_layer
from rovix.model.track import SequenceClip, TextClip
from rovix.model.transform import Transform

OWN = "rovix"
"""What our metadata is called."""
_JOINS = {"dissolve": otio.schema.TransitionTypes.SMPTE_Dissolve}
Data = dict[str, Any]


def timeline_bytes(project: Project) -> tuple[bytes, list[str]]:
    """The timeline as UTF-8 JSON, its media as addresses relative to its own folder; and what other programs
    will not make of it what we do, in sentences. Media paths of the project count from that folder."""
    writer = _Writer(project)
    timeline = writer.timeline()
    return otio.adapters.write_to_string(timeline, "otio_json").encode() + b"\n", writer.told()


class _Writer:
    def __init__(self, project: Project) -> None:
        self._project = project
        self._rate = float(project.sequence.frame_rate.fraction)
        self._media = {media.id: media for media in project.media}
        self._data: Data = json.loads(project_bytes(project))
        self._unsaid: Counter[str] = Counter()

    def timeline(self) -> otio.schema.Timeline:
        sequence, data = self._project.sequence, self._data["sequences"][0]
        made = otio.schema.Timeline(sequence.name, global_start_time=self._time(0))
        tracks = data.pop("tracks")
        made.metadata[OWN] = {"project": self._data}
        made.tracks.extend(self._tracks(sequence.tracks, tracks))
        for marker in sequence.markers:
            place = otio.opentime.TimeRange(self._time(marker.frame), self._time(1))
            own = {OWN: {"marker": marker.id}}
            made.tracks.markers.append(otio.schema.Marker(marker.name, place, metadata=own))
        return made

    def told(self) -> list[str]:
        """What is kept for us alone."""
        said = {
            "text": "Words are generators, which other programs do not draw; layers",
            "drawn": "Backgrounds and shapes are generators, which other programs do not draw; layers",
            "moved": "Moves, keys, effects and blending are left out by other programs; layers",
            "looped": "There and back, or several times, is played once by other programs; clips",
            "joined": "Joins that are no dissolves may be others in other programs; joins",
        }
        return [f"{words}: {self._unsaid[kind]}." for kind, words in said.items() if self._unsaid[kind]]

    def _tracks(self, tracks: tuple[Track, ...], data: list[Data]) -> Iterator[otio.schema.Track]:
        for track, own in zip(tracks, data, strict=True):
            kind = otio.schema.TrackKind.Audio if track.kind == "sound" else otio.schema.TrackKind.Video
            made = otio.schema.Track(track.name or f"{track.kind} {track.id}", kind=kind)
            clips = own.pop("clips")
            made.metadata[OWN] = {"track": own}
            made.enabled = not (track.muted if track.kind == "sound" else track.hidden)
            made.extend(self._items(track, clips))
            yield made

    def _items(self, track: Track, data: list[Data]) -> Iterator[Any]:
        at = 0
        for clip, own in zip(track.clips, data, strict=True):
            if clip.start > at:
                yield otio.schema.Gap(duration=self._time(clip.start - at))
            elif at and own.get("transition"):
                yield self._join(own.pop("transition"))
            yield self._item(clip, own)
            at = clip.end

    def _join(self, data: Data) -> otio.schema.Transition:
        kind = _JOINS.get(data["kind"])
        self._unsaid["joined"] += kind is None
        half = otio.opentime.RationalTime(data["length"] * self._rate / 2, self._rate)
        made = otio.schema.Transition(
            data["kind"], kind or otio.schema.TransitionTypes.Custom, in_offset=half, out_offset=half
        )
        made.metadata[OWN] = {"transition": data}
        return made

    def _item(self, clip: Clip, data: Data) -> Any:
        self._count(clip)
        played = otio.opentime.TimeRange(self._time(data.get("offset", 0)), self._time(clip.length))
        if holds_tracks(clip):
            made = otio.schema.Stack(clip.title, source_range=played)
            made.extend(self._tracks(clip.tracks, data.pop("tracks")))
        elif isinstance(clip, SequenceClip):
            made = otio.schema.Stack(clip.title, source_range=played)
            made.extend(self._shown(clip.sequence))
        else:
            made = otio.schema.Clip(clip.title, self._reference(clip, data), played)
        self._add_speed(made, data)
        made.metadata[OWN] = {"clip": data}
        return made

    def _shown(self, identity: str) -> Iterator[otio.schema.Track]:
        """The tracks of another sequence, as others see them; ours comes back from the metadata."""
        for sequence, data in zip(self._project.sequences, self._data["sequences"], strict=True):
            if sequence.id == identity and "tracks" in data:
                yield from self._tracks(sequence.tracks, json.loads(json.dumps(data["tracks"])))

    def _reference(self, clip: Clip, data: Data) -> otio.core.MediaReference:
        media = self._media.get(data.get("media", ""))
        if media is None:
            words = {"text": clip.text.content} if isinstance(clip, TextClip) else {}
            return otio.schema.GeneratorReference(generator_kind=data["kind"], parameters=words)
        made = otio.schema.ExternalReference(target_url=quote(media.path))
        if media.length is not None:
            frames = round(media.length * self._rate)
            made.available_range = otio.opentime.TimeRange(self._time(0), self._time(frames))
        return made

    def _add_speed(self, item: Any, data: Data) -> None:
        playing = data.get("playing")
        if playing is None:
            return
        speed = playing["speed"] * (-1 if playing["backwards"] else 1)
        if speed == 0:
            item.effects.append(otio.schema.FreezeFrame())
        elif speed != 1:
            item.effects.append(otio.schema.LinearTimeWarp(time_scalar=speed))

    def _count(self, clip: Clip) -> None:
        count = self._unsaid
        if isinstance(clip, TextClip):
            count["text"] += 1
        elif not hasattr(clip, "media") and not holds_tracks(clip) and not isinstance(clip, SequenceClip):
            count["drawn"] += 1
        if is_layer(clip):
            alone = clip.blend == "normal" and clip.parent is None and clip.crossing is None
            count["moved"] += bool(clip.moves or clip.effects or not alone or clip.transform != Transform())
        playing = getattr(clip, "playing", None)
        count["looped"] += playing is not None and (playing.span is not None or playing.and_back)

    def _time(self, frames: int) -> otio.opentime.RationalTime:
        return otio.opentime.RationalTime(frames, self._rate)
