"""Tracked areas: made of what was followed in footage, mended by hand, made smooth."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

import numpy as np

from rovix.edit.address import put_held
from rovix.edit.clips import has_room
from rovix.edit.tree import clip_of, in_order, replace, spot_of, with_sequence, with_track
from rovix.errors import RovixError
from rovix.model import AreaClip, FootageClip, Key, Keys, Project, Track, new_id
from rovix.motion.rest import channel_at
from rovix.motion.seen import Spot

SMOOTHED = ("transform.x", "transform.y", "transform.scale_x", "transform.scale_y", "transform.rotation_z")
_TRACK = "Tracked areas"


def add_area(
    project: Project, footage: str, size: tuple[float, float], picked: int,
    found: Mapping[int, tuple[Spot, float]], grows: bool, turns: bool,
) -> tuple[Project, str]:  # fmt: skip
    """Put an area above the footage that it was followed in, by its places and confidence on frames of that
    clip; and its id.

    `size` is its own in px of the frame at the picked frame.
    """
    clip = clip_of(project, footage)
    assert isinstance(clip, FootageClip)
    first, last = min(found), max(found)
    made = AreaClip(
        id=new_id(), name=_name(project), start=clip.start + first, length=last - first + 1, seen_in=footage,
        width=max(1.0, round(size[0], 2)), height=max(1.0, round(size[1], 2)), grows=grows, turns=turns,
    )  # fmt: skip
    made = _with_places(made, {n - first: found[n] for n in sorted(found)}, found[picked][0])
    return _put(project, spot_of(project, footage).track, made), made.id


def follow_on(
    project: Project, area: str, found: Mapping[int, tuple[Spot, float]], picked: int, way: str
) -> Project:
    """Let what was followed anew, by frames of the area, take the place of all keys that way from the picked
    frame on; its size and turn go on from those it has there."""
    clip = area_of(project, area)
    base = found[picked][0]
    scale, turn = (_at(getattr(clip.transform, name), picked) for name in ("scale_x", "rotation_z"))
    # Against the first of these places, which stands for what the area has there.
    start = Spot(base.x, base.y, base.size / max(scale, 1e-6), base.turn - turn)
    gone = (lambda frame: frame >= picked) if way == "forwards" else (lambda frame: frame <= picked)
    fresh = _with_places(clip, {n: found[n] for n in sorted(found) if 0 <= n < clip.length}, start)
    made: dict[str, Any] = {}
    for address in (*SMOOTHED, "confidence"):
        old, new = _held(clip, address), _held(fresh, address)
        if not isinstance(new, Keys):
            continue
        kept = [key for key in old.keys if not gone(key.frame)] if isinstance(old, Keys) else []
        made[address] = Keys(keys=tuple(sorted([*kept, *new.keys], key=lambda key: key.frame)))
    return put_held(project, area, made)


def smooth_area(project: Project, area: str, window: int) -> Project:
    """Let each frame's place, size and turn be the mean of those of `window` frames about it (1 or more, even
    ones counting one more), fewer at the ends, so that they stay where they are."""
    if window < 1:
        raise RovixError("A way is smoothed over at least one frame.")
    clip = area_of(project, area)
    frames = np.arange(clip.length, dtype=np.float64)
    made: dict[str, Any] = {}
    for address in SMOOTHED:
        held = _held(clip, address)
        if isinstance(held, Keys):
            own = frames[held.keys[0].frame : held.keys[-1].frame + 1]
            values = _mean(channel_at(held, own), window // 2)
            keys = (
                Key(frame=int(f), value=round(v, 4))
                for f, v in zip(own.tolist(), values.tolist(), strict=True)
            )
            made[address] = replace(held, keys=tuple(keys))
    if not made:
        raise RovixError(f"'{clip.title}' stands still: there is nothing to smooth.")
    return put_held(project, area, made)


def area_of(project: Project, identity: str) -> AreaClip:
    """A tracked area by its id; RovixError where it is none."""
    clip = clip_of(project, identity)
    if not isinstance(clip, AreaClip):
        raise RovixError(f"'{clip.title}' is no tracked area; select one.")
    return clip


def _mean(values: np.ndarray, reach: int) -> np.ndarray:
    """Over as many frames on either side as there are on both."""
    sums = np.concatenate([[0.0], np.cumsum(values)])
    at = np.arange(len(values))
    near = np.minimum(reach, np.minimum(at, len(values) - 1 - at))
    found: np.ndarray = (sums[at + near + 1] - sums[at - near]) / (2 * near + 1)
    return found


def _with_places(clip: AreaClip, found: Mapping[int, tuple[Spot, float]], base: Spot) -> AreaClip:
    """The area with a key on each frame; sizes and turns against those of a place."""
    spots = {frame: spot for frame, (spot, _) in found.items()}
    turns = np.unwrap([spot.turn - base.turn for spot in spots.values()], period=360.0)
    sizes = [spot.size / base.size for spot in spots.values()]
    frames = list(spots)
    changes: dict[str, Any] = {
        "x": _keys(frames, (spot.x for spot in spots.values()), 3),
        "y": _keys(frames, (spot.y for spot in spots.values()), 3),
    }
    if np.ptp(sizes) > 1e-4:
        changes |= {name: _keys(frames, sizes, 5) for name in ("scale_x", "scale_y")}
    if np.ptp(turns) > 1e-3:
        changes["rotation_z"] = _keys(frames, turns.tolist(), 4)
    sure = _keys(frames, (sureness for _, sureness in found.values()), 2)
    return replace(clip, transform=replace(clip.transform, **changes), confidence=sure)


def _keys(frames: list[int], values: Iterable[float], decimals: int) -> Keys:
    pairs = zip(frames, values, strict=True)
    return Keys(keys=tuple(Key(frame=frame, value=round(float(v), decimals)) for frame, v in pairs))


def _held(clip: AreaClip, address: str) -> Any:
    owner: Any = clip.transform if address.startswith("transform.") else clip
    return getattr(owner, address.rpartition(".")[2])


def _at(channel: Any, frame: int) -> float:
    return float(channel_at(channel, np.array([float(frame)]))[0])


def _name(project: Project) -> str:
    clips = (clip for track in project.sequence.tracks for clip in track.clips)
    return f"Area {sum(isinstance(clip, AreaClip) for clip in clips) + 1}"


def _put(project: Project, number: int, clip: AreaClip) -> Project:
    """On a track of areas alone that has room, else on a new one right above the footage's."""
    tracks = project.sequence.tracks
    for at, track in enumerate(tracks):
        areas = track.clips and all(isinstance(other, AreaClip) for other in track.clips)
        if areas and not track.locked and has_room(track, clip):
            return with_track(project, at, replace(track, clips=in_order((*track.clips, clip))))
    track = Track(id=new_id(), name=_TRACK, clips=(clip,))
    tracks = (*tracks[: number + 1], track, *tracks[number + 1 :])
    return with_sequence(project, replace(project.sequence, tracks=tracks))
