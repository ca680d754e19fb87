"""What can be done at once about what a check has found; each changes its layer and nothing else."""

from __future__ import annotations

from collections.abc import Callable
from math import ceil

import numpy as np

from rovix.check.edges import RING
from rovix.check.finding import Finding
from rovix.check.legibility import LEAST, legibility, reading
from rovix.check.moving import apart
from rovix.check.safe import TITLE, safe_rect
from rovix.check.words import watch
from rovix.curve.colour_spaces import luminance
from rovix.edit.clips import trim_end
from rovix.edit.look import add_part_like, scaled_look
from rovix.edit.pacing import each_move, faster
from rovix.edit.sequences import by_value
from rovix.edit.tangents import even_speed
from rovix.edit.tree import clip_by_id, clip_of, replace, replace_clip, title_of
from rovix.errors import RovixError
from rovix.model import (
    Box,
    Clip,
    Departure,
    Fill,
    Keys,
    Move,
    Outline,
    Plain,
    Project,
    TextClip,
    bgra,
    new_id,
)
from rovix.model.clip_kinds import has_words, is_layer
from rovix.motion.pace import clip_spans
from rovix.motion.reading import reading as reading_of_keys
from rovix.text.catalogue import weights_of

Fix = Callable[[Project, Finding], Project]
_MARGIN = 1.15  # times the ratio that is asked for: edges are soft
_SPARE = 2  # frames more than needed
_TRIES = 12
_BOLDER, _BOLD = 300, 700
_PADDING = 0.35  # of the words' size


def _words(project: Project, finding: Finding) -> TextClip:
    clip = clip_of(project, finding.layer)
    if not has_words(clip):
        raise RovixError(
            f"'{title_of(clip)}' is no text layer by itself; open it and change the words there."
        )
    return clip


def _longer(project: Project, finding: Finding) -> Project:
    """Let it stay as much longer as is missing."""
    clip, rate = _words(project, finding), project.sequence.frame_rate
    spans = clip_spans(clip, rate)
    needed = finding.limit if finding.kind == "reading" else reading(clip, rate).needed
    missing = needed - finding.amount if finding.kind == "reading" else 0.0
    frames = ceil(missing * float(rate.fraction))
    if spans.shrunk:
        frames = spans.needed + 1 + ceil(needed * float(rate.fraction)) - clip.length
    more = max(1, frames) + _SPARE
    longer = trim_end(project, clip.id, clip.end + more)
    if clip_of(longer, clip.id).length < clip.length + more - _SPARE:
        raise RovixError(f"There is no room for a longer '{title_of(clip)}'. Move the clip behind it first.")
    return longer


def _quicker(project: Project, finding: Finding) -> Project:
    """Let entrances and exits take as much less time as is missing."""
    clip, rate = _words(project, finding), project.sequence.frame_rate
    spans = clip_spans(clip, rate)
    room = clip.length - 1
    needed = ceil(max(finding.limit, LEAST) * float(rate.fraction)) + _SPARE
    if not spans.needed or needed >= room:
        raise RovixError(f"'{title_of(clip)}' is too short even without its moves; let it stay longer.")
    share = min(1.0, (room - needed) / spans.needed)
    return each_move(project, clip.id, lambda move: faster(move, share))


def _bolder(project: Project, finding: Finding) -> Project:
    """The next weights that the typeface has."""
    clip = _words(project, finding)
    wished = min(900, max(_BOLD, clip.text.weight + _BOLDER))
    fixed = [weight for weight in weights_of(clip.text.family) if weight > clip.text.weight]
    if fixed:
        wished = min(fixed, key=lambda weight: abs(weight - wished))
    if wished <= clip.text.weight:
        raise RovixError(f"'{title_of(clip)}' is as bold as its typeface gets; take another one.")
    return replace_clip(project, clip.id, lambda c: replace(c, text=replace(c.text, weight=wished)))  # type: ignore[union-attr]


def _outline(project: Project, finding: Finding) -> Project:
    """An outline as wide as the ring that is looked at, of the least strength that reaches the ratio."""
    clip = _words(project, finding)
    scale = max(1e-3, _scale(project, clip))
    width = (project.sequence.size[1] * RING + 2) / scale
    part = Outline(id=new_id(), width=float(round(min(2000.0, width), 1)), colour=_against(clip, finding))
    return add_part_like(project, clip.id, part)


def _box(project: Project, finding: Finding) -> Project:
    """A box behind the words, of the least strength that reaches the ratio; where there are some, in their
    place."""
    clip = _words(project, finding)
    boxes = [part for part in clip.look.parts if isinstance(part, Box)]
    if boxes:
        paint = Plain(colour=_against(clip, finding))
        parts = tuple(
            replace(part, paint=paint, shown=True, opacity=1.0) if isinstance(part, Box) else part
            for part in clip.look.parts
        )
        return replace_clip(project, clip.id, lambda c: replace(c, look=replace(clip.look, parts=parts)))
    padding = float(round(clip.text.size * _PADDING))
    part = Box(
        id=new_id(), paint=Plain(colour=_against(clip, finding)), padding_x=padding, padding_y=padding,
        radius=float(round(clip.text.size * 0.15)),
    )  # fmt: skip
    return add_part_like(project, clip.id, part)


def _scale(project: Project, clip: TextClip) -> float:
    place = clip.transform
    at = place.scale_y.keys[0].value if isinstance(place.scale_y, Keys) else place.scale_y
    return abs(float(at))


def _against(clip: TextClip, finding: Finding) -> str:
    """The grey nearest to the letters' lightness that has the ratio to it, on the side with room for it."""
    light = _lightness(clip)
    ratio = (finding.limit if finding.kind == "contrast" else 4.5) * _MARGIN
    below, above = (light + 0.05) / ratio - 0.05, (light + 0.05) * ratio - 0.05
    wished = below if below >= 0 else above if above <= 1 else (0.0 if light > 0.18 else 1.0)
    grey = next(
        n for n in (range(255, -1, -1) if wished < light else range(256)) if _reaches(n, wished, light)
    )
    return f"#{grey:02x}{grey:02x}{grey:02x}"


def _reaches(grey: int, wished: float, light: float) -> bool:
    own = float(luminance(np.full(3, grey / 255.0)))
    return own <= wished if wished < light else own >= wished


def _lightness(clip: TextClip) -> float:
    """The relative luminance of the letters' faces; of a gradient that of its stops in the mean."""
    fill = clip.look.fill or Fill()
    paint = fill.paint
    colours = [paint.colour] if isinstance(paint, Plain) else [stop.colour for stop in paint.stops]
    plain = [colour if isinstance(colour, str) else colour.keys[0].value for colour in colours]
    return float(np.mean([luminance(np.array(bgra(colour)[2::-1]) / 255) for colour in plain]))


def _inside(project: Project, finding: Finding) -> Project:
    """Moved into the safe area for all of its stay; smaller where that is not enough."""
    clip = clip_of(project, finding.layer)
    if not is_layer(clip):
        raise RovixError(f"'{title_of(clip)}' is no layer.")
    area = safe_rect(project.sequence.size, TITLE)
    for _ in range(8):
        box = _stay_box(project, clip.id)
        if box is None:
            return project
        share = min(1.0, (area[2] - area[0]) / (box[2] - box[0]), (area[3] - area[1]) / (box[3] - box[1]))
        if share < 1:
            project = replace_clip(project, clip.id, lambda c, s=share: _smaller(c, s * 0.99))  # type: ignore[misc]
            continue
        dx = max(0.0, area[0] - box[0]) - max(0.0, box[2] - area[2])
        dy = max(0.0, area[1] - box[1]) - max(0.0, box[3] - area[3])
        if not dx and not dy:
            return project
        project = replace_clip(project, clip.id, lambda c, by=(dx, dy): _moved(c, by))  # type: ignore[misc]
    return project


def _stay_box(project: Project, identity: str) -> tuple[float, float, float, float] | None:
    boxes = [
        box for one in watch(project) if one.owner == identity
        for _, seen in (one.stay if one.clip.crossing is None else one.seen) if (box := seen.box) is not None
    ]  # fmt: skip
    if not boxes:
        return None
    low, high = np.array(boxes)[:, :2].min(axis=0), np.array(boxes)[:, 2:].max(axis=0)
    return float(low[0]), float(low[1]), float(high[0]), float(high[1])


def _smaller(clip: Clip, share: float) -> Clip:
    if has_words(clip):
        text = replace(clip.text, size=clip.text.size * share, wrap=clip.text.wrap and clip.text.wrap * share)
        return replace(clip, text=text, look=scaled_look(clip.look, share))
    assert is_layer(clip)
    scales = {n: by_value(getattr(clip.transform, n), share.__mul__) for n in ("scale_x", "scale_y")}
    return replace(clip, transform=replace(clip.transform, **scales))


def _moved(clip: Clip, by: tuple[float, float]) -> Clip:
    assert is_layer(clip)
    place = clip.transform
    x, y = by_value(place.x, by[0].__add__), by_value(place.y, by[1].__add__)
    return replace(clip, transform=replace(place, x=x, y=y))


def _blur(project: Project, finding: Finding) -> Project:
    """Motion blur for this layer."""
    clip = clip_of(project, finding.layer)
    if not is_layer(clip):
        raise RovixError(f"'{title_of(clip)}' is no layer.")
    own = clip.shutter or project.sequence.shutter
    return replace_clip(project, clip.id, lambda c: replace(c, shutter=replace(own, on=True)))


def _slower(project: Project, finding: Finding) -> Project:
    """Entrances and exits that take as much longer as they are too fast."""
    clip = _words(project, finding)
    if clip.crossing is not None:
        raise RovixError(f"'{title_of(clip)}' goes as fast as its way is long; let it stay longer.")
    share = finding.amount / finding.limit
    for _ in range(_TRIES):
        slow = each_move(project, clip.id, lambda move, s=share: faster(move, s))  # type: ignore[misc]
        spans = clip_spans(_text(slow, clip.id), project.sequence.frame_rate)
        if spans.shrunk:
            raise RovixError(f"'{title_of(clip)}' has no room for slower moves; let it stay longer first.")
        fastest = legibility(_text(slow, clip.id), project.sequence.size, project.sequence.frame_rate).fastest
        if fastest is None or fastest <= finding.limit:
            break
        share *= 1.1
    return slow


def _text(project: Project, identity: str) -> TextClip:
    clip = clip_of(project, identity)
    assert has_words(clip)
    return clip


def _smooth(project: Project, finding: Finding) -> Project:
    """Every key of its place at which the speed breaks, passed at one speed."""
    clip = clip_of(project, finding.layer)
    assert is_layer(clip)
    held = {n: getattr(clip.transform, n) for n in clip.transform.__struct_fields__}
    broken = {
        f"transform.{name}": reading_of_keys(value).breaks
        for name, value in held.items() if isinstance(value, Keys) and reading_of_keys(value).breaks
    }  # fmt: skip
    if not broken:
        raise RovixError(f"The path of '{title_of(clip)}' is evened by hand: open its lanes, Keys > Curve.")
    return even_speed(project, clip.id, broken)


def _join(project: Project, finding: Finding) -> Project:
    """The last inner key of what does not join as its first."""

    def changed(move: Move) -> Move:
        if not move.beats_on:
            return move
        return replace(move, channels=tuple(joined(d) if apart(d) > 0 else d for d in move.channels))

    def joined(departure: Departure) -> Departure:
        first, last = departure.keys[0], departure.keys[-1]
        return replace(departure, keys=(*departure.keys[:-1], replace(last, amount=first.amount)))

    return each_move(project, finding.layer, changed)


FIXES: dict[str, tuple[str, Fix]] = {
    "longer": ("Let it stay longer", _longer),
    "quicker": ("Quicker in and out", _quicker),
    "outline": ("Give it an outline", _outline),
    "box": ("Put a box behind it", _box),
    "bolder": ("Make it bolder", _bolder),
    "inside": ("Move it into the safe area", _inside),
    "blur": ("Turn motion blur on for it", _blur),
    "slower": ("Slower in and out", _slower),
    "smooth": ("Even the speed out", _smooth),
    "join": ("Join the loop", _join),
}
"""By id: what a fix is called, and what it does. RovixError where it cannot be."""


def fixed(project: Project, finding: Finding, fix: str) -> Project:
    """The project with one of the fixes for what was found. RovixError where it can do nothing."""
    if clip_by_id(project, finding.layer) is None:
        raise RovixError(f"'{finding.name}' is not there any more.")
    made = FIXES[fix][1](project, finding)
    if made == project:
        raise RovixError(f"That does not help '{finding.name}'; change it by hand.")
    return made
