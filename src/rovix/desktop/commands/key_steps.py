"""From one key to the next, and which keys count."""

from __future__ import annotations

from typing import TYPE_CHECKING

from rovix.desktop.commands.command import Run
from rovix.edit.snapping import key_frames
from rovix.edit.tree import clip_by_id
from rovix.model import Clip

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame

_ALL_LAYERS, SNAP_TO_KEYS = "keys/all-layers", "keys/snap"


def by_all_layers(window: Frame) -> bool:
    """Whether the keys of all layers are gone by, not only those of the selected ones."""
    return window.settings.value(_ALL_LAYERS, False, bool) is True


def turn_all_layers(window: Frame) -> None:
    window.settings.setValue(_ALL_LAYERS, not by_all_layers(window))
    window.refresh_commands()


def turn_snap_to_keys(window: Frame) -> None:
    """Have what is dragged in the timeline catch on keys, or no longer; it is remembered."""
    canvas = window.timeline.canvas
    canvas.snaps_to_keys = not canvas.snaps_to_keys
    window.settings.setValue(SNAP_TO_KEYS, canvas.snaps_to_keys)
    window.refresh_commands()


def has_keys_to_go_by(window: Frame) -> bool:
    """Asked for each refresh of the menus, so all layers are not looked through."""
    return by_all_layers(window) or any(key_frames(clip) for clip in _selected(window))


def go_to_key(way: int) -> Run:
    """The playhead to the nearest key after it (1) or before it (-1), of channels, effects and moves alike."""

    def run(window: Frame) -> None:
        document, frames = window.document, _key_frames(window)
        ahead = [f for f in frames if (f > document.playhead if way > 0 else f < document.playhead)]
        if ahead:
            document.seek(ahead[0] if way > 0 else ahead[-1])
        else:
            window.say("There is no key further on." if way > 0 else "There is no key before.")

    return run


def _key_frames(window: Frame) -> list[int]:
    """The frames of the sequence with keys that are seen, sorted."""
    tracks = window.document.project.sequence.tracks
    everything = [clip for track in tracks for clip in track.clips]
    clips = everything if by_all_layers(window) else _selected(window)
    return sorted({clip.start + f for clip in clips for f in key_frames(clip) if 0 <= f < clip.length})


def _selected(window: Frame) -> list[Clip]:
    document = window.document
    found = (clip_by_id(document.project, identity) for identity in document.selection)
    return [clip for clip in found if clip is not None]
