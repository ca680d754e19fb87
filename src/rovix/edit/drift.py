"""A slow change through the stay, so that the middle is not dead."""

from __future__ import annotations

from dataclasses import dataclass

from rovix.edit.address import channels_of, put_held
from rovix.edit.transform import layer_transform
from rovix.edit.tree import clip_of
from rovix.errors import RovixError
from rovix.model import Clip, Key, Keys, Project
from rovix.model.clip_kinds import is_layer
from rovix.motion import clip_spans


@dataclass(frozen=True, slots=True)
class Drift:
    """How much a layer changes while it stays: growth as a share of its size (0.04: 4 %), ways in px,
    degrees clockwise, em of tracking; and over how many seconds it gets going and comes to a stand."""

    growth: float = 0.0
    x: float = 0.0
    y: float = 0.0
    turn: float = 0.0
    spread: float = 0.0
    ramp_in: float = 0.0
    ramp_out: float = 0.0


def drift(project: Project, identity: str, way: Drift) -> Project:
    """Let a layer change evenly from where it lands to where it leaves, by keys.

    Between the ramps its speed is one. RovixError where one of the channels is animated already, the
    layer has no letters to spread, or it does not stay for two frames.
    """
    rate = project.sequence.frame_rate
    clip = clip_of(project, identity)
    layer_transform(clip)
    assert is_layer(clip)
    spans = clip_spans(clip, rate)
    first, last = spans.entrance, clip.length - 1 - spans.exit
    if last - first < 1:
        raise RovixError("It does not stay long enough to drift: make the clip longer or its moves shorter.")
    ramps = rate.frames(way.ramp_in), rate.frames(way.ramp_out)
    made = {
        address: _keyed(rest, rest + far, (first, last), ramps)
        for address, (rest, far) in _ways(clip, way).items()
    }
    return put_held(project, identity, made)


def _ways(clip: Clip, way: Drift) -> dict[str, tuple[float, float]]:
    """The channels that change: where each rests, and how far it goes."""
    far = {
        "transform.x": way.x, "transform.y": way.y, "transform.rotation_z": way.turn,
        "text.tracking": way.spread, "transform.scale_x": way.growth, "transform.scale_y": way.growth,
    }  # fmt: skip
    held = channels_of(clip)
    found: dict[str, tuple[float, float]] = {}
    for address, by in far.items():
        if by == 0:
            continue
        rest, said = held.get(address), address.rpartition(".")[2].replace("_", " ")
        if rest is None:
            raise RovixError(f"'{clip.title}' has no letters that could spread.")
        if not isinstance(rest, float):
            raise RovixError(f"Its {said} has keys already; take them away first, or change them by hand.")
        found[address] = rest, by * rest if "scale" in address else by
    return found


def _keyed(start: float, end: float, span: tuple[int, int], ramps: tuple[int, int]) -> Keys:
    """Keys from a value to another with ramps of so many frames, shortened where they do not fit."""
    first, last = span
    length = last - first
    share = min(1.0, length / max(1, sum(ramps)))
    rise, fall = (int(frames * share) for frames in ramps)
    speed = (end - start) / (length - (rise + fall) / 2)
    places = {first: (start, "linear"), last: (end, "linear")}
    if rise:
        places[first] = start, "quad-in"
        places[first + rise] = start + speed * rise / 2, "linear"
    if fall:
        before = places.get(last - fall, (end - speed * fall / 2, ""))[0]
        places[last - fall] = before, "quad-out"
    keys = sorted(places.items())
    return Keys(keys=tuple(Key(frame=frame, value=value, curve=curve) for frame, (value, curve) in keys))
