"""The treatments of layers: added, changed, put in order, taken away."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from rovix.edit.place import layer_place
from rovix.edit.tree import replace, replace_clip
from rovix.errors import RovixError
from rovix.model import Clip, Project
from rovix.model.treatment import (
    Blur,
    Cast,
    Crop,
    Echo,
    Grain,
    Halo,
    LongCast,
    Opening,
    Ride,
    Rim,
    Sweep,
    Tear,
    Tone,
    Treatment,
    Wipe,
    Wrap,
)

TREATMENTS: dict[str, type[Treatment]] = {
    "opening": Opening, "crop": Crop, "wipe": Wipe, "sweep": Sweep, "offset": Wrap, "echo": Echo,
    "blur": Blur, "glow": Halo, "shadow": Cast, "long-shadow": LongCast, "edge": Rim, "tone": Tone,
    "tear": Tear, "grain": Grain,
}  # fmt: skip
# What comes before what when it is added: edges, then what follows them, then repeats of all that.
ORDER: tuple[type[Treatment], ...] = (
    Crop, Sweep, Opening, Wipe, Tone, Rim, Halo, Cast, LongCast, Tear, Wrap, Echo, Blur, Grain,
)  # fmt: skip
# Set so that a new one can be seen to do something.
_FRESH: dict[type[Treatment], Callable[[], Treatment]] = {
    Opening: lambda: Opening(bottom=0.0),
    Crop: lambda: Crop(left=20.0, right=20.0),
    Wipe: lambda: Wipe(share=0.5),
    Wrap: lambda: Wrap(x=0.25, unit="frame"),
    Blur: lambda: Blur(across=8.0, down=8.0),
    Tone: lambda: Tone(saturation=0.0),
}


def treatment_kind(treatment: Treatment) -> str:
    """A treatment's kind as the file names it."""
    return str(type(treatment).__struct_config__.tag)


def add_treatment(project: Project, identity: str, kind: str) -> Project:
    """Give a layer one more treatment, where its kind belongs in the order."""
    struct = TREATMENTS[kind]
    made = _FRESH.get(struct, struct)()

    def change(own: tuple[Treatment, ...]) -> tuple[Treatment, ...]:
        rank = ORDER.index(struct)
        at = next((n for n, other in enumerate(own) if ORDER.index(type(other)) > rank), len(own))
        return (*own[:at], made, *own[at:])

    return _changed(project, identity, change)


def change_treatment(project: Project, identity: str, treatment: str, **changes: Any) -> Project:
    """Change fields of one treatment."""

    def change(own: tuple[Treatment, ...]) -> tuple[Treatment, ...]:
        at = _index(own, treatment)
        return (*own[:at], replace(own[at], **changes), *own[at + 1 :])

    return _changed(project, identity, change)


def remove_treatment(project: Project, identity: str, treatment: str) -> Project:
    """Take a treatment away."""

    def change(own: tuple[Treatment, ...]) -> tuple[Treatment, ...]:
        at = _index(own, treatment)
        return (*own[:at], *own[at + 1 :])

    return _changed(project, identity, change)


def move_treatment(project: Project, identity: str, treatment: str, to: int) -> Project:
    """Put a treatment at a place in the order, the first done first."""

    def change(own: tuple[Treatment, ...]) -> tuple[Treatment, ...]:
        at = _index(own, treatment)
        rest = [*own[:at], *own[at + 1 :]]
        rest.insert(min(max(0, to), len(rest)), own[at])
        return tuple(rest)

    return _changed(project, identity, change)


def ride(project: Project, identity: str, treatment: str, layer: str | None, at: str = "middle") -> Project:
    """Let a wipe's edge stay on another layer; None lets it go by its share again."""
    made = None if layer is None else Ride(layer=layer, at=at)  # type: ignore[arg-type]
    return change_treatment(project, identity, treatment, ride=made)


def _index(own: tuple[Treatment, ...], treatment: str) -> int:
    at = next((n for n, other in enumerate(own) if other.id == treatment), None)
    if at is None:
        raise RovixError(f"The layer has no treatment '{treatment}' any more.")
    return at


def _changed(
    project: Project, identity: str, change: Callable[[tuple[Treatment, ...]], tuple[Treatment, ...]]
) -> Project:
    def on_clip(clip: Clip) -> Clip:
        layer_place(clip)
        return replace(clip, treatments=change(clip.treatments))  # type: ignore[union-attr]

    return replace_clip(project, identity, on_clip)
