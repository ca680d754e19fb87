"""What the picture of a frame depends on: said where pictures are evaluated, for all who keep them."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterator

from rovix.model import Clip, Node, Project
from rovix.model.clip_kinds import is_layer
from rovix.model.dependencies import Dependencies, beside, named_by
from rovix.model.on_track import clip_at, clip_named, edges_on
from rovix.motion.transitions import transitions_of


class PictureDependencies:
    """Of the first sequence, as it is drawn while editing.

    Between two edges of clips all frames show the same layers, so they share what they depend on.
    """

    def __init__(self, project: Project) -> None:
        self._project = project
        sequence, rate = project.sequence, project.sequence.frame_rate
        self._tracks = [t for t in sequence.tracks if t.kind == "picture" and not t.hidden]
        self._joins = [joined for track in self._tracks for joined in transitions_of(track, rate)]
        joints = {edge for joined in self._joins for edge in (joined.span.start, joined.span.end)}
        # By track: of thousands of clips an edit changes those of one.
        self._edges = [*map(edges_on, self._tracks), sorted(joints)]
        self._plain = (
            sequence.size, sequence.rate, sequence.background, sequence.blur_while_editing, sequence.by_depth,
        )  # fmt: skip
        self._stretches: dict[tuple[int, ...], Dependencies] = {}

    def at(self, frame: int) -> Dependencies:
        """What the picture of a frame depends on, but for the frame's number."""
        stretch = tuple([bisect_right(edges, frame) for edges in self._edges])
        found = self._stretches.get(stretch)
        if found is None:
            found = self._stretches[stretch] = self._found(frame)
        return found

    def _found(self, frame: int) -> Dependencies:
        joined = [join for join in self._joins if frame in join.span]
        shown: list[Clip] = [*self._under(frame)]
        shown += [clip for join in joined for clip in (join.before, join.after)]
        layers = [*shown, *self._tied(shown)]
        files = beside(self._project, layers, heard=False)
        return Dependencies((*self._plain, len(joined)), [self._project.sequence.shutter, *layers, *files])

    def _under(self, frame: int) -> Iterator[Clip]:
        """The clips at a frame, at most one of each track."""
        return (clip for clip in (clip_at(track, frame) for track in self._tracks) if clip is not None)

    def _tied(self, shown: list[Clip]) -> Iterator[Clip]:
        """The layers that those shown name, through others too, wherever they are and shown or not."""
        waiting: list[Node] = [*shown]
        seen = {clip.id for clip in shown}
        while waiting:
            for named in named_by(waiting.pop()):
                if named.reference.kind != "layer" or named.target in seen:
                    continue
                found = clip_named(self._project.sequence.tracks, named.target)
                if is_layer(found):
                    seen.add(named.target)
                    waiting.append(found)
                    yield found
