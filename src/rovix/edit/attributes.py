"""What a clip has, given to another by the heads of the sheet: pasted, or put back to what a new one has."""

from __future__ import annotations

from collections.abc import Callable, Container, Iterable
from typing import Any

from rovix.edit.fresh import fresh_ids
from rovix.edit.look import scaled_look
from rovix.edit.tree import replace, replace_clip, title_of
from rovix.errors import RovixError
from rovix.model import Amount, Clip, Departure, Move, Project, Text
from rovix.model.clip_kinds import has_words
from rovix.model.move_channels import MOVE_CHANNELS
from rovix.model.reference import Reference
from rovix.model.references import let_go

_OWN_TEXT = frozenset({"content", "styles", "extra"})
"""What words keep when they take a style on."""
FIELDS: dict[str, tuple[str, ...]] = {
    "Text": ("text",),
    "Look": ("look",),
    "Shape": ("form", "width", "height", "radius", "fill", "fill_opacity", "outline", "background"),
    "Transform": ("transform", "blend"),
    "Motion": ("moves", "crossing"),
    "Effects": ("effects",),
    "Clip": ("fit", "crop", "cut", "shutter"),
    "Sound": ("sound",),
}
"""By the head of the sheet: the fields of clips that go with it. A clip keeps its name, time and ties."""


def attributes_of(clip: Clip) -> tuple[str, ...]:
    """The heads under which a clip has something to give."""
    return tuple(name for name, fields in FIELDS.items() if any(hasattr(clip, field) for field in fields))


def give_attributes(
    project: Project, identity: str, source: Clip, names: Container[str], share: float | None = None
) -> Project:
    """Give a clip what another has under some heads, with ids of its own and no ties to what is not here.

    With a `share`, px of the look and of the moves become so many times as large; None: as many times as
    the words are larger than those of the source, where both have words. RovixError where the clip takes
    none of it.
    """

    def change(clip: Clip) -> Clip:
        times = _share(source, clip, names) if share is None else share
        made: dict[str, Any] = {}
        for name, fields in FIELDS.items():
            if name in names:
                made |= {f: _given(source, clip, f, times) for f in fields if _both(source, clip, f)}
        if not made:
            raise RovixError(f"'{title_of(clip)}' has nothing of that kind.")
        here = _targets(project, identity)
        return replace(clip, **{field: _freed(value, here) for field, value in made.items()})

    return replace_clip(project, identity, change)


def reset_attributes(project: Project, identity: str, names: Container[str]) -> Project:
    """Put what a clip has under some heads back to what a new one of its kind has."""

    def change(clip: Clip) -> Clip:
        fresh = _fresh(clip)
        fields = [field for name in FIELDS if name in names for field in FIELDS[name] if hasattr(clip, field)]
        return replace(clip, **{field: _given(fresh, clip, field, 1.0) for field in fields})

    return replace_clip(project, identity, change)


def _fresh(clip: Clip) -> Clip:
    """A new clip of a kind, which shows the same file or sequence."""
    kept = {
        name: getattr(clip, name) for name in ("id", "length", "media", "sequence") if hasattr(clip, name)
    }
    return type(clip)(**kept)


def _both(source: Clip, clip: Clip, field: str) -> bool:
    return hasattr(source, field) and hasattr(clip, field)


def _share(source: Clip, clip: Clip, names: Container[str]) -> float:
    """How much larger a clip's words will be than those of the source."""
    if "Text" in names or not (has_words(source) and has_words(clip)):
        return 1.0
    return clip.text.size / source.text.size


def _given(source: Clip, clip: Clip, field: str, share: float) -> Any:
    make: Callable[[Clip, Any, float], Any] | None = _GIVEN.get(field)
    value = getattr(source, field)
    return fresh_ids(value) if make is None else make(clip, value, share)


def _text(clip: Clip, style: Text, _share: float) -> Text:
    assert has_words(clip)
    names = [name for name in style.__struct_fields__ if name not in _OWN_TEXT]
    return replace(clip.text, **{name: getattr(style, name) for name in names})


def _moves(clip: Clip, moves: tuple[Move, ...], share: float) -> tuple[Move, ...]:
    fresh: tuple[Move, ...] = fresh_ids(moves)
    if share == 1:
        return fresh
    return tuple(
        replace(move, channels=tuple(_scaled(departure, share) for departure in move.channels))
        for move in fresh
    )


def _scaled(departure: Departure, share: float) -> Departure:
    amount = departure.amount
    if amount.unit != "px" or MOVE_CHANNELS[departure.channel].unit != "px":
        return departure
    return replace(departure, amount=Amount(value=round(amount.value * share, 4), unit="px"))


_GIVEN: dict[str, Callable[[Clip, Any, float], Any]] = {
    "text": _text,
    "look": lambda _clip, look, share: fresh_ids(scaled_look(look, share)),
    "moves": _moves,
}


def _targets(project: Project, identity: str) -> dict[str, set[str]]:
    """What there is for a clip to name, by its kind; not itself."""
    clips: Iterable[Clip] = (clip for track in project.sequence.tracks for clip in track.clips)
    return {"layer": {clip.id for clip in clips} - {identity}, "media": {media.id for media in project.media}}


def _freed(value: Any, here: dict[str, set[str]]) -> Any:
    """A value without ties to layers and files that are not here."""
    if not isinstance(value, tuple) and not hasattr(value, "__struct_fields__"):
        return value

    def gone(reference: Reference, target: str) -> bool:
        return reference.kind in here and target not in here[reference.kind]

    freed = let_go(value, gone)
    return () if freed is None and isinstance(value, tuple) else freed
