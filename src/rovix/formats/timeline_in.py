"""An OpenTimelineIO timeline as a project: one of our own whole, any other as far as we have words for it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterator
from fractions import Fraction
from pathlib import Path
from typing import Any
from urllib.parse import unquote, urlsplit

import opentimelineio as otio

from rovix.errors import RovixError
from rovix.files import read_regular
from rovix.formats.json_text import parsed, written
from rovix.formats.project_file import FORMAT, VERSION, ProjectFileError, parse_project
from rovix.formats.structs import plain
from rovix.formats.timeline_out import OWN
from rovix.media.errors import MediaError
from rovix.media.probe import probe
from rovix.media.suffixes import STILL_SUFFIXES
from rovix.model import Project, new_id

_MOST = 64 << 20
Data = dict[str, Any]
Looked = Callable[[Path], Data]


def read_timeline(path: Path) -> tuple[Project, list[str]]:
    """The project of a timeline, its media paths counted from the timeline's folder; and what of it could not
    be taken over, in sentences. RovixError for a file that holds no timeline."""
    reader, root = _Reader(path), _root(path)
    try:
        return parse_project(path, written(reader.project(root))), reader.told
    except (TypeError, ValueError, AttributeError, OverflowError) as wrong:
        # Of what others have made of our metadata, the types are anything.
        raise RovixError(f"{path.name} holds data of ours that was changed: {wrong}.") from wrong
    except ProjectFileError as wrong:
        reasons = "; ".join(str(problem) for problem in wrong.problems[:3])
        raise RovixError(f"{path.name} makes no project that can be opened: {reasons}.") from wrong


def _root(path: Path) -> otio.schema.Timeline:
    """The first timeline in a file."""
    try:
        content = read_regular(path, _MOST)
        parsed(content)  # what the library is given is sound JSON, and not nested without end
        found = otio.adapters.read_from_string(content.decode(), "otio_json")
    except OSError as wrong:
        raise RovixError(f"{path.name} could not be opened: {wrong.strerror or wrong}.") from wrong
    except (ValueError, TypeError, RuntimeError, otio.exceptions.OTIOError) as wrong:
        raise RovixError(f"{path.name} is no timeline that can be read: {wrong}.") from wrong
    if isinstance(found, otio.schema.SerializableCollection):
        found = next((item for item in found if isinstance(item, otio.schema.Timeline)), None)
    if isinstance(found, otio.schema.Timeline):
        return found
    raise RovixError(f"{path.name} holds no timeline.")


class _Reader:
    def __init__(self, path: Path) -> None:
        self._folder = path.parent
        self._name = path.stem
        self._media: dict[str, Data] = {}
        self._ids: set[str] = set()
        self._skipped: Counter[str] = Counter()
        self._missing: list[str] = []
        self._rate = 30.0

    @property
    def told(self) -> list[str]:
        """What was left out, and how often."""
        lost = [f"{count} {what} left out." for what, count in self._skipped.items()]
        return [f"Not found, to be found again: {name}." for name in self._missing] + lost

    def project(self, timeline: otio.schema.Timeline) -> Data:
        """The data of a project file."""
        kept = _own(timeline).get("project")
        data = kept if isinstance(kept, dict) and kept.get("sequences") else self._fresh(timeline)
        sequence = data["sequences"][0]
        self._rate = _number_of(str(sequence.get("rate", "30")))
        sequence["tracks"] = list(self._tracks(timeline.tracks))
        self._read_markers(timeline, sequence)
        _let_go_of_the_lost(sequence["tracks"])
        data["media"] = [*data.get("media", ()), *self._media.values()]
        return data

    def _fresh(self, timeline: otio.schema.Timeline) -> Data:
        name = timeline.name or self._name
        rate = _rate_of(timeline)
        sequence = {"id": new_id(), "name": name, "rate": rate, "size": [1920, 1080]}
        self._rate = _number_of(rate)
        self._size_by(timeline, sequence)
        return {"format": FORMAT, "version": VERSION, "id": new_id(), "name": name, "sequences": [sequence]}

    def _size_by(self, timeline: otio.schema.Timeline, sequence: Data) -> None:
        """As large as the first footage that is there: a timeline says no size."""
        for clip in timeline.find_clips():
            path = self._path_of(clip)
            media = None if path is None else self._file(path, "Video")
            if media is not None and media["kind"] == "footage" and media.get("width"):
                sequence["size"] = [media["width"], media["height"]]
                return

    def _tracks(self, stack: Any) -> Iterator[Data]:
        for item in stack:
            if isinstance(item, otio.schema.Track):
                yield self._track(item)
            else:
                alone = otio.schema.Track(kind=otio.schema.TrackKind.Video)
                alone.append(item.deepcopy())
                yield self._track(alone)

    def _track(self, track: otio.schema.Track) -> Data:
        sounds = track.kind == otio.schema.TrackKind.Audio
        found = _own(track).get("track")
        own = found if isinstance(found, dict) else {"name": track.name or ""}
        own["id"] = self._free(str(own.get("id") or new_id()))
        own["kind"] = "sound" if sounds else "picture"
        if not isinstance(found, dict):
            own["muted" if sounds else "hidden"] = not track.enabled
        own["clips"] = list(self._clips(track, sounds))
        return own

    def _clips(self, track: otio.schema.Track, sounds: bool) -> Iterator[Data]:
        join: Data | None = None
        at = Fraction(0)
        for item in track:
            if isinstance(item, otio.schema.Transition):
                join = self._join(item)
                continue
            played = item.trimmed_range()
            start, end = self._frame(at), self._frame(at + _seconds(played.duration))
            at += _seconds(played.duration)
            made = None if end <= start else self._clip(item, sounds)
            if made is not None:
                made |= {"start": start, "length": end - start}
                if "offset" in made or made["kind"] in ("footage", "sound", "group", "sequence"):
                    made["offset"] = max(0, self._frame(_seconds(played.start_time)))
                if join is not None and not sounds:
                    made["transition"] = join
                yield made
            join = None

    def _clip(self, item: Any, sounds: bool) -> Data | None:
        kept = _own(item).get("clip")
        own = self._renewed(kept) if isinstance(kept, dict) and isinstance(kept.get("kind"), str) else None
        if isinstance(item, otio.schema.Gap):
            return None
        if isinstance(item, otio.schema.Clip):
            return own or self._foreign(item, sounds)
        if own is not None and own["kind"] == "sequence":
            return own
        if sounds:
            self._skipped["nested sounds"] += 1
            return None
        inner = [item] if isinstance(item, otio.schema.Track) else item
        return (own or self._new("group", item)) | {"tracks": list(self._tracks(inner))}

    def _foreign(self, clip: otio.schema.Clip, sounds: bool) -> Data | None:
        path = self._path_of(clip)
        if path is None:
            self._skipped["clips that are no files, such as titles of other programs"] += 1
            return None
        media = self._file(path, "Audio" if sounds else "Video", clip)
        if media is None:
            return None
        if not sounds and media["kind"] == "sound":
            self._skipped["sounds on tracks of pictures"] += 1
            return None
        made = self._new("sound" if sounds else media["kind"], clip) | {"media": media["id"]}
        if media["kind"] != "still":
            made["playing"] = self._playing(clip)
        else:
            made["fit"] = "fit"
        return made

    def _new(self, kind: str, item: Any) -> Data:
        return {"kind": kind, "id": self._free(new_id()), "name": (item.name or "")[:200]}

    def _playing(self, clip: otio.schema.Clip) -> Data:
        speed = 1.0
        for effect in clip.effects:
            if isinstance(effect, otio.schema.FreezeFrame):
                speed = 0.0
            elif isinstance(effect, otio.schema.LinearTimeWarp):
                speed *= effect.time_scalar
            else:
                self._skipped["effects"] += 1
        return {"speed": min(abs(speed), 100.0), "backwards": speed < 0}

    def _join(self, item: otio.schema.Transition) -> Data:
        length = float(_seconds(item.in_offset) + _seconds(item.out_offset))
        kept = _own(item).get("transition")
        if not isinstance(kept, dict):
            if item.transition_type != otio.schema.TransitionTypes.SMPTE_Dissolve:
                self._skipped["joins that are no dissolves (they dissolve now), with their own look"] += 1
            kept = {"kind": "dissolve", "id": new_id()}
        # A length that was not changed stays as exact as it was.
        same = abs(kept.get("length", 0.0) - length) < 0.5 / self._rate
        return kept if same else kept | {"length": max(length, 1 / self._rate)}

    def _read_markers(self, timeline: otio.schema.Timeline, sequence: Data) -> None:
        """Those of the whole, in the place of ours; those of clips and tracks, where they stand."""
        found = [(self._frame(_seconds(m.marked_range.start_time)), m) for m in timeline.tracks.markers]
        for track in timeline.tracks:
            clips = track.find_children(descended_from_type=otio.schema.Clip, shallow_search=True)
            for item in (track, *clips):
                for marker in item.markers:
                    moment = item.transformed_time(marker.marked_range.start_time, timeline.tracks)
                    found.append((max(0, self._frame(_seconds(moment))), marker))
        found.sort(key=lambda one: one[0])
        sequence["markers"] = [
            {"id": self._free(str(_own(marker).get("marker") or new_id())), "frame": frame,
             "name": marker.name[:200]}
            for frame, marker in found
        ]  # fmt: skip

    def _path_of(self, clip: otio.schema.Clip) -> Path | None:
        reference = clip.media_reference
        if not isinstance(reference, otio.schema.ExternalReference) or not reference.target_url:
            return None
        address = urlsplit(reference.target_url)
        if address.scheme not in ("", "file"):
            return None
        return self._folder / unquote(address.path)

    def _file(self, path: Path, kind: str, clip: otio.schema.Clip | None = None) -> Data | None:
        """The facts of a file, each looked at once; of one that is not there as much as the timeline says."""
        key = str(path)
        if key not in self._media:
            try:
                self._media[key] = plain(probe(path, self._folder))
            except MediaError as wrong:
                if path.is_file():
                    self._skipped[f"clips of {path.name}, which {wrong.reason},"] += 1
                    return None
                if clip is None:
                    return None
                self._missing.append(path.name)
                self._media[key] = self._unseen(path, kind, clip)
        return self._media[key]

    def _unseen(self, path: Path, kind: str, clip: otio.schema.Clip) -> Data:
        named = "still" if path.suffix.lower() in STILL_SUFFIXES else "footage"
        whole = clip.media_reference.available_range
        length = None if whole is None else float(_seconds(whole.duration))
        rest = {} if length is None else {"length": length}
        return {"id": new_id(), "path": str(path.name if path.parent == self._folder else path),
                "kind": "sound" if kind == "Audio" else named, **rest}  # fmt: skip

    def _renewed(self, clip: Data) -> Data:
        """A clip of ours; of one that another program has doubled, the second as one of its own."""
        if clip.get("id") in self._ids:
            renamed = {identity: new_id() for identity in _ids_in(clip)}
            clip = _with(clip, renamed)
        self._ids.add(str(clip.get("id")))
        return clip

    def _free(self, identity: str) -> str:
        free = new_id() if identity in self._ids else identity
        self._ids.add(free)
        return free

    def _frame(self, seconds: Fraction) -> int:
        return round(seconds * Fraction(self._rate))


def _own(item: Any) -> Data:
    found = _as_plain(item.metadata.get(OWN, {}))
    return found if isinstance(found, dict) else {}


def _as_plain(value: Any) -> Any:
    """The library's own dictionaries and vectors as dicts and lists."""
    if isinstance(value, otio._otio.AnyDictionary | dict):
        return {str(key): _as_plain(item) for key, item in value.items()}
    if isinstance(value, otio._otio.AnyVector | list):
        return [_as_plain(item) for item in value]
    return value


def _seconds(time: otio.opentime.RationalTime) -> Fraction:
    """A time whose rate, as 29.97002997, may stand for a fraction."""
    return Fraction(time.value) / _exact(time.rate)


def _exact(rate: float) -> Fraction:
    whole = round(rate)
    ntsc = Fraction(round(rate * 1.001) * 1000, 1001)
    if abs(rate - whole) < 1e-3:
        return Fraction(whole)
    return ntsc if abs(rate - float(ntsc)) < 5e-3 else Fraction(rate).limit_denominator(100_000)


def _rate_of(timeline: otio.schema.Timeline) -> str:
    """The rate that a timeline says, or else most of its clips."""
    rates = Counter(_exact(clip.trimmed_range().duration.rate) for clip in timeline.find_clips())
    if timeline.global_start_time is not None:
        rates[_exact(timeline.global_start_time.rate)] += len(rates) + sum(rates.values())
    return str(rates.most_common(1)[0][0]) if rates else "30"


def _number_of(rate: str) -> Any:
    try:
        return Fraction(rate)
    except (ValueError, ZeroDivisionError):
        return Fraction(30)


def _ids_in(value: Any) -> Iterator[str]:
    if isinstance(value, dict):
        if isinstance(value.get("id"), str):
            yield value["id"]
        for item in value.values():
            yield from _ids_in(item)
    elif isinstance(value, list):
        for item in value:
            yield from _ids_in(item)


def _with(value: Any, renamed: dict[str, str]) -> Any:
    if isinstance(value, dict):
        return {key: _with(item, renamed) for key, item in value.items()}
    if isinstance(value, list):
        return [_with(item, renamed) for item in value]
    return renamed.get(value, value) if isinstance(value, str) else value


def _let_go_of_the_lost(tracks: list[Data]) -> None:
    """Layers that followed one which another program has taken out stand by themselves."""
    here = {clip.get("id") for track in tracks for clip in track["clips"]}
    for track in tracks:
        for clip in track["clips"]:
            if clip.get("parent") not in here:
                clip.pop("parent", None)
            if isinstance(clip.get("tracks"), list):
                _let_go_of_the_lost(clip["tracks"])
