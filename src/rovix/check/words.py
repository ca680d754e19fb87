"""Checks of words by themselves: time to read them, all of them there, in the frame, not over each other."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field

import numpy as np
from msgspec.structs import replace
from shapely import Polygon

from rovix.check.audience import AUDIENCES, USUAL, Audience
from rovix.check.finding import Finding
from rovix.check.legibility import is_read, reading
from rovix.check.safe import TITLE, safe_rect
from rovix.check.seen_words import SeenWords, words_at
from rovix.model import Clip, Project, Sequence, TextClip, Track
from rovix.model.clip_kinds import has_words
from rovix.model.on_track import every_clip
from rovix.motion.crossing import counted_speed
from rovix.motion.layer import layer_motion
from rovix.motion.pace import clip_spans
from rovix.motion.scene import Scene
from rovix.text import lay_out, missing_families

LOOKS = 0.2
"""Seconds between two frames at which words are looked at, at most."""
_HALF = 0.5  # px that may be over an edge: nobody sees it
_OVER = 0.12  # of the smaller one's area
Box = tuple[float, float, float, float]


@dataclass(eq=False)
class Watched:
    """A text layer at the frames where it was looked at."""

    clip: TextClip
    owner: str
    seen: list[tuple[int, SeenWords]] = field(default_factory=list)

    @property
    def stay(self) -> list[tuple[int, SeenWords]]:
        """Where it stands whole, between entrances and exits."""
        return [(frame, seen) for frame, seen in self.seen if seen.resting and seen.whole]


def looked_at(sequence: Sequence) -> list[int]:
    """The frames of a sequence at which its words are looked at."""
    rate, found = sequence.frame_rate, set[int]()
    step = max(1, rate.frames(LOOKS))
    for track in sequence.tracks:
        for clip in track.clips:
            if track.kind != "picture" or not any(has_words(c) for c in every_clip((_only(track, clip),))):
                continue
            found |= set(range(clip.start, clip.end, step)) | {clip.end - 1}
            if has_words(clip):
                spans = clip_spans(clip, rate)
                stay = clip.start + spans.entrance, clip.end - 1 - spans.exit
                found |= {at for at in (*stay, sum(stay) // 2) if at in clip.span}
    return sorted(found)


def _only(track: Track, clip: Clip) -> Track:
    return replace(track, clips=(clip,))


def watch(project: Project, frames: list[int] | None = None) -> list[Watched]:
    """Every text layer with what is seen of it at frames, all that :func:`looked_at` gives by default."""
    found: dict[str, Watched] = {}
    for frame in looked_at(project.sequence) if frames is None else frames:
        scene = Scene.of(project)
        for seen in words_at(project, frame, scene):
            known = found.setdefault(seen.clip.id, Watched(seen.clip, seen.owner))
            known.seen.append((frame, seen))
    return list(found.values())


def word_findings(
    project: Project, watched: list[Watched] | None = None, audience: str = USUAL
) -> Iterator[Finding]:
    """All that words by themselves have wrong."""
    sequence, reads = project.sequence, AUDIENCES[audience]
    every = watch(project) if watched is None else watched
    for one in every:
        if one.clip.text.content.strip():
            yield from _of_time(one, sequence, reads)
            yield from _of_place(one, sequence)
            yield from _of_letters(one)
    yield from _of_overlaps(every)


def _found(kind: str, one: Watched, frame: int, said: str, amount: float, limit: float) -> Finding:
    return Finding(kind, one.owner, one.clip.title, frame, said, amount, limit)


def _of_time(one: Watched, sequence: Sequence, reads: Audience) -> Iterator[Finding]:
    clip, rate = one.clip, sequence.frame_rate
    first = one.seen[0][0]
    if clip.crossing is not None:
        yield from _of_crossing(one, sequence, reads)
        return
    if not any(seen.whole for _, seen in one.seen):
        yield _found("unshown", one, first, "No frame shows all of it, unmoved and opaque.", 0.0, 1.0)
        return
    found = reading(clip, rate, reads.letters)
    if is_read(clip) and found.is_short:
        had = found.coming + found.shown
        pace = found.letters / had if had > 0 else float("inf")
        said = f"There for {had:.1f} s, read in {found.needed:.1f} s: {pace:.0f} letters a second."
        yield _found("reading", one, first + clip_spans(clip, rate).entrance, said, had, found.needed)


def _of_crossing(one: Watched, sequence: Sequence, reads: Audience) -> Iterator[Finding]:
    rate = sequence.frame_rate
    way = layer_motion(one.clip, sequence.size, rate).crossing
    words = None if way is None else counted_speed(way, "words", rate)
    if words is not None and words > reads.words:
        said = f"It passes at {words:.0f} words a minute; {reads.words:.0f} can be read."
        yield _found("reading", one, one.seen[0][0], said, words, reads.words)


def _of_place(one: Watched, sequence: Sequence) -> Iterator[Finding]:
    size, crossing = sequence.size, one.clip.crossing
    stay = one.stay if crossing is None else one.seen
    if not stay:
        return
    # What crawls across is outside on its way, what rolls above and below.
    counted = (0, 1, 2, 3) if crossing is None else (1, 3) if crossing.across else (0, 2)
    boxes = [(frame, box) for frame, seen in stay if (box := seen.box) is not None]
    frame, out = _worst(boxes, (0.0, 0.0, float(size[0]), float(size[1])), counted)
    if out > _HALF:
        yield _found("cut", one, frame, f"{out:.0f} px of it are outside the frame.", out, 0.0)
    else:
        frame, out = _worst(boxes, safe_rect(size, TITLE), counted)
        if out > _HALF:
            said = f"{out:.0f} px of it are outside the safe area of {TITLE * 100:.0f} %."
            yield _found("safe", one, frame, said, out, 0.0)
    for free in sequence.keep_free:
        area = free.left * size[0], free.top * size[1], free.right * size[0], free.bottom * size[1]
        frame, depth = max(
            ((f, _depth(box, area)) for f, box in boxes), key=lambda it: it[1], default=(0, 0.0)
        )
        if depth > _HALF:
            yield _found("keep-free", one, frame, f"{depth:.0f} px of it are in '{free.name}'.", depth, 0.0)


def _worst(boxes: list[tuple[int, Box]], within: Box, counted: tuple[int, ...]) -> tuple[int, float]:
    """The frame at which a box is farthest out of another, and by how many px."""
    worst = (0, 0.0)
    for frame, box in boxes:
        out = max((within[n] - box[n]) if n < 2 else (box[n] - within[n]) for n in counted)
        worst = max(worst, (frame, out), key=lambda it: it[1])
    return worst


def _depth(box: Box, area: Box) -> float:
    """px by which a box reaches into an area, on the side where that is least."""
    across = min(box[2], area[2]) - max(box[0], area[0])
    down = min(box[3], area[3]) - max(box[1], area[1])
    return max(0.0, min(across, down))


def _of_letters(one: Watched) -> Iterator[Finding]:
    text, frame = one.clip.text, one.seen[0][0]
    families = [text.family, *(style.family for style in text.styles if style.family)]
    gone = missing_families(families)
    if gone:
        yield _found("face", one, frame, f"{', '.join(gone)}: another is drawn.", float(len(gone)), 0.0)
    layout = lay_out(text)
    lacking = sorted({layout.text[at] for at in layout.cluster[layout.glyph == 0].tolist()})
    lacking = [letter for letter in lacking if letter.isprintable() and not letter.isspace()]
    if lacking:
        shown = " ".join(lacking[:8])
        yield _found("letters", one, frame, f"No typeface here has {shown}", float(len(lacking)), 0.0)


def _of_overlaps(every: list[Watched]) -> Iterator[Finding]:
    """Words that stand over others, each pair once, at the first frame where it is so."""
    at: dict[int, list[tuple[Watched, SeenWords]]] = {}
    for one in every:
        for frame, seen in one.stay:
            at.setdefault(frame, []).append((one, seen))
    told: set[frozenset[str]] = set()
    for frame in sorted(at):
        for number, (one, seen) in enumerate(at[frame]):
            for other, below in at[frame][:number]:
                pair = frozenset((one.clip.id, other.clip.id))
                if pair in told or _same(one.clip, other.clip):
                    continue
                share = _covered(seen, below)
                if share > _OVER:
                    told.add(pair)
                    said = f"{share * 100:.0f} % of it lies over '{other.clip.title}'."
                    yield _found("overlap", one, frame, said, share, _OVER)


def _same(one: TextClip, other: TextClip) -> bool:
    """Copies of the same words over each other are meant to be."""
    return one.text.content.strip() == other.text.content.strip() or not other.text.content.strip()


def _covered(one: SeenWords, other: SeenWords) -> float:
    """The share of the smaller one's box at rest that both have."""
    if not (np.isfinite(one.rest).all() and np.isfinite(other.rest).all()):
        return 0.0
    a, b = Polygon(one.rest).convex_hull, Polygon(other.rest).convex_hull
    smaller = min(a.area, b.area)
    return float(a.intersection(b).area / smaller) if smaller > 0 else 0.0
