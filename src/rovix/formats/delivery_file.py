"""Presets, which say how files are delivered, as open JSON files."""

from __future__ import annotations

from dataclasses import dataclass

from rovix.errors import RovixError
from rovix.formats.kept_file import Kind
from rovix.model.delivery import Delivery


@dataclass(frozen=True, slots=True)
class SavedPreset:
    """How to deliver, by name."""

    name: str
    how: Delivery


def _wrong(saved: SavedPreset) -> list[str]:
    """A codec or a quality that there is not."""
    from rovix.media.encoders import ENCODERS  # the window starts without them

    how = saved.how
    kind = next((kind for kind in ENCODERS if kind.codec == how.codec), None)
    if kind is None:
        return [f"codec: there is no {how.codec}; there is {', '.join(kind.codec for kind in ENCODERS)}"]
    try:
        kind.quality(how.quality)
    except RovixError as wrong:
        return [str(wrong).rstrip(".")]
    return []


PRESETS: Kind[SavedPreset] = Kind(
    noun="preset", struct=Delivery, made=SavedPreset, content=lambda saved: (saved.how, {}), wrong=_wrong
)
