"""Which picture stands in which slot."""

from __future__ import annotations

from bisect import bisect_right
from collections import OrderedDict
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from rovix.model import Clip, Project, SoundClip
from rovix.model.consistency import layer_links, sequences_in
from rovix.motion.joins import joins_of
from rovix.motion.quads import LayerQuads


class Layers:
    """The very structs that a picture shows, and what it depends on beside them.

    Two are equal when every struct is the same object; one keeps its structs alive, so an identity
    is never taken over by a younger struct.
    """

    __slots__ = ("_hash", "_identity", "_structs")

    def __init__(self, plain: tuple[Any, ...], structs: list[Any]) -> None:
        self._structs = structs
        self._identity = (plain, tuple(map(id, structs)))
        self._hash = hash(self._identity)

    def __hash__(self) -> int:
        return self._hash

    def __eq__(self, other: object) -> bool:
        return self is other or (isinstance(other, Layers) and self._identity == other._identity)


PictureKey = tuple[int, Layers]


class PictureIndex:
    """The keys of a project's pictures; between two edges of clips all show the same layers."""

    def __init__(self, project: Project) -> None:
        sequence, rate = project.sequence, project.sequence.frame_rate
        self._tracks = [t for t in sequence.tracks if t.kind == "picture" and not t.hidden]
        self._joins = [joined for track in self._tracks for joined in joins_of(track, rate)]
        self._starts = [[clip.start for clip in track.clips] for track in self._tracks]
        clips = [clip for track in self._tracks for clip in track.clips if not isinstance(clip, SoundClip)]
        spans = [*(clip.span for clip in clips), *(joined.span for joined in self._joins)]
        self._edges = sorted({edge for span in spans for edge in (span.start, span.end)})
        # A layer may follow or hug one that is not on screen itself.
        self._linked = clips if any(layer_links(clip) for clip in clips) else None
        # What is shown in other sequences counts where one of them is shown here.
        others = project.sequences[1:] if sequences_in(sequence.tracks) else ()
        self._beside = [project.media, *others]
        self._plain = (sequence.size, sequence.rate, sequence.ground)
        self._stretches: dict[int, Layers] = {}

    def key(self, frame: int) -> PictureKey:
        """What the picture of a frame depends on: its frame, and the layers it shows."""
        stretch = bisect_right(self._edges, frame)
        layers = self._stretches.get(stretch)
        if layers is None:
            layers = self._stretches[stretch] = self._layers(frame)
        return frame, layers

    def _layers(self, frame: int) -> Layers:
        joined = [join for join in self._joins if frame in join.span]
        in_joins = [clip for join in joined for clip in (join.before, join.after)]
        shown = self._linked if self._linked is not None else [*self._under(frame), *in_joins]
        return Layers((*self._plain, bool(joined)), [*self._beside, *shown])

    def _under(self, frame: int) -> Iterator[Clip]:
        """The clips at a frame, at most one of each track."""
        for track, starts in zip(self._tracks, self._starts, strict=True):
            at = bisect_right(starts, frame) - 1
            if at >= 0 and frame < starts[at] + track.clips[at].length:
                yield track.clips[at]


@dataclass(frozen=True, slots=True, eq=False)
class Kept:
    """A picture in a slot, with its quads and what it cost in ms."""

    slot: int
    quads: tuple[LayerQuads, ...]
    cost: float


class PictureCache:
    """Slots by picture; the one used longest ago is given up first."""

    def __init__(self, slots: int) -> None:
        self._free = list(range(slots))
        self._kept: OrderedDict[PictureKey, Kept] = OrderedDict()
        self.pinned: int | None = None
        """The slot on screen: never given up."""

    def get(self, key: PictureKey) -> Kept | None:
        kept = self._kept.get(key)
        if kept is not None:
            self._kept.move_to_end(key)
        return kept

    def __contains__(self, key: PictureKey) -> bool:
        return key in self._kept

    def __len__(self) -> int:
        return len(self._kept)

    def ready(self, index: PictureIndex) -> list[int]:
        """The frames of a project whose pictures are kept, in order."""
        return sorted(frame for frame, layers in self._kept if index.key(frame)[1] == layers)

    def take_slot(self) -> int | None:
        """A slot to draw into, giving up the oldest picture if need be; None when all are in use."""
        if self._free:
            return self._free.pop()
        for key, kept in self._kept.items():
            if kept.slot != self.pinned:
                del self._kept[key]
                return kept.slot
        return None

    def put(self, key: PictureKey, kept: Kept) -> None:
        """A slot that was taken now holds a picture."""
        old = self._kept.pop(key, None)
        if old is not None and old.slot != self.pinned:
            self._free.append(old.slot)
        self._kept[key] = kept

    def give_back(self, slot: int) -> None:
        """A slot that was taken is not needed after all."""
        self._free.append(slot)
