"""Which clips are opened into lanes, and where each lane stands."""

from __future__ import annotations

from dataclasses import dataclass

from rovix.edit.address import animated_of, channels_of
from rovix.edit.tree import clip_by_id
from rovix.model import Clip, Project
from rovix.model.clip_kinds import is_layer
from rovix.model.fields import ANIMATED

HEAD = 26
LANE = 62
LOWEST, TALLEST = 30, 360
MOVES = "moves."
"""What the addresses of a move's channels begin with."""
MODES = {
    "animated": "animated channels", "all": "all channels", "pinned": "pinned channels",
    "moves": "the moves",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class Lane:
    """A channel of a clip from `top` for `height` px; an `address` of None is the clip's own head."""

    clip: str
    address: str | None
    top: int
    height: int

    @property
    def bottom(self) -> int:
        return self.top + self.height


def move_addresses(clip: Clip) -> list[str]:
    """A lane for each channel of each move of a clip."""
    moves = clip.moves if is_layer(clip) else ()
    return [f"{MOVES}{move.id}.{number}" for move in moves for number in range(len(move.channels))]


class LaneState:
    """What is open and how tall; kept while the window is."""

    def __init__(self) -> None:
        self.open: list[str] = []
        self.mode = "animated"
        self.pinned: set[str] = set()
        self.heights: dict[tuple[str, str], int] = {}
        self.speed = False

    def toggle(self, identity: str) -> None:
        """Open a clip, or close it."""
        if identity in self.open:
            self.open.remove(identity)
        else:
            self.open.append(identity)

    def addresses(self, clip: Clip) -> list[str]:
        """The channels of a clip that have lanes."""
        if self.mode == "animated":
            return list(animated_of(clip))
        if self.mode == "moves":
            return move_addresses(clip)
        known = list(channels_of(clip))
        return known if self.mode == "all" else [address for address in known if address in self.pinned]

    def below(self, project: Project, track: int, top: int) -> list[Lane]:
        """The lanes under a track's row, from a y on."""
        found = []
        for identity in self.open:
            clip = clip_by_id(project, identity)
            if clip is None or clip not in project.sequence.tracks[track].clips:
                continue
            found.append(Lane(identity, None, top, HEAD))
            top += HEAD
            for address in self.addresses(clip):
                height = self.heights.get((identity, address), LANE)
                found.append(Lane(identity, address, top, height))
                top += height
        return found

    def room(self, project: Project, track: int) -> int:
        """Px that the lanes under a track need."""
        lanes = self.below(project, track, 0)
        return lanes[-1].bottom if lanes else 0

    def set_height(self, clip: str, address: str, height: float) -> None:
        self.heights[(clip, address)] = round(min(max(height, LOWEST), TALLEST))


def ring_state(held: object, frame: int) -> str:
    """Whether a channel has a key on a frame: none, animated or key."""
    if not isinstance(held, ANIMATED):
        return "none"
    return "key" if any(key.frame == frame for key in held.keys) else "animated"
