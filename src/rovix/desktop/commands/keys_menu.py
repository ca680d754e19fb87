"""Keys: setting them at the playhead, going from one to the next, and working on all of a layer's."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from rovix.desktop.commands.command import Command, Run, called, layer, on_leader
from rovix.edit.drift import drift
from rovix.edit.keys import (
    Chosen,
    all_keys,
    mirror_keys,
    move_keys,
    remove_keys,
    repeat_keys,
    reverse_keys,
    spread_keys,
    stretch_keys,
    thin_keys,
    toggle_keys,
)
from rovix.model import Project

if TYPE_CHECKING:
    from rovix.desktop.window import Window

DRIFT = 0.04
KeyEdit = Callable[[Project, str, Chosen], Project]


def _keyed(window: Window) -> bool:
    return bool(all_keys(window.document.clip))


def _on_keys(title: str, edit: KeyEdit) -> Run:
    """A command that edits all keys of the selected layer as one step."""

    def run(window: Window) -> None:
        clip = window.document.clip
        if clip is not None:
            chosen = all_keys(clip)
            window.document.do(f"{title} of {called(window)}", lambda p: edit(p, clip.id, chosen))

    return run


def _add(window: Window) -> None:
    """A key on the playhead's frame for each channel that is animated."""
    document, clip = window.document, window.document.clip
    if clip is None or document.playhead not in clip.span:
        document.problem.emit("Put the playhead inside the layer: the key goes there.")
        return
    names, frame = tuple(all_keys(clip)), document.clip_frame
    if not names:
        document.problem.emit("Nothing is animated yet: click the ring beside a row of Place to begin.")
        return
    document.do(f"Set keys of {called(window)}", lambda p: toggle_keys(p, clip.id, frame, names))


def _go(way: int) -> Run:
    def run(window: Window) -> None:
        document, clip = window.document, window.document.clip
        assert clip is not None
        frames = sorted({clip.start + frame for own in all_keys(clip).values() for frame in own})
        ahead = [f for f in frames if (f > document.playhead if way > 0 else f < document.playhead)]
        if ahead:
            document.seek(ahead[0] if way > 0 else ahead[-1])

    return run


def _stretch(window: Window) -> None:
    percent = window.ask_number(
        "Stretch the keys", "Their length, about the first of them", 100, 1, 10_000, "%"
    )
    frames = [frame for own in all_keys(window.document.clip).values() for frame in own]
    if percent is not None and frames:
        first = min(frames)
        _on_keys("Stretch the keys", lambda p, i, c: stretch_keys(p, i, c, first, percent / 100))(window)


def _repeat(window: Window) -> None:
    times = window.ask_number("Repeat the keys", "How many times in all", 2, 1, 1000, "×")
    if times is not None:
        _on_keys("Repeat the keys", lambda p, i, c: repeat_keys(p, i, c, round(times), 1))(window)


def _thin(window: Window) -> None:
    tolerance = window.ask_number(
        "Thin out the keys", "How far values may change, of the most that they do", 1, 0, 100, "%"
    )
    if tolerance is not None:
        _on_keys("Thin out the keys", lambda p, i, c: thin_keys(p, i, c, tolerance / 100))(window)


def _nudge(frames: int) -> Run:
    return _on_keys("Nudge the keys", lambda p, i, c: move_keys(p, i, c, frames))


KEYS = (
    Command("key-add", "Set or take away keys here", "Keys", "A", _add, layer),
    Command("key-next", "To the next key", "Keys", "PgDown", _go(1), _keyed),
    Command("key-previous", "To the previous key", "Keys", "PgUp", _go(-1), _keyed),
    Command("keys-earlier", "All keys a frame earlier", "Keys", "Ctrl+Alt+,", _nudge(-1), _keyed, ruled=True),
    Command("keys-later", "All keys a frame later", "Keys", "Ctrl+Alt+.", _nudge(1), _keyed),
    Command("keys-stretch", "Stretch all keys…", "Keys", "", _stretch, _keyed),
    Command("keys-reverse", "Reverse all keys in time", "Keys", "", _on_keys("Reverse the keys", reverse_keys), _keyed),
    Command("keys-mirror", "Mirror all values about rest", "Keys", "", _on_keys("Mirror the keys", mirror_keys), _keyed),
    Command("keys-repeat", "Repeat all keys…", "Keys", "", _repeat, _keyed),
    Command("keys-spread", "Space the keys evenly", "Keys", "", _on_keys("Space the keys", spread_keys), _keyed),
    Command("keys-thin", "Thin out the keys…", "Keys", "", _thin, _keyed),
    Command("drift", "Drift: grow by 4 % while it stays", "Keys", "Shift+D",
            on_leader("Let drift", lambda p, i: drift(p, i, DRIFT)), layer, ruled=True),
    Command("keys-remove", "Take all keys away", "Keys", "", _on_keys("Take the keys", remove_keys), _keyed, ruled=True),
)  # fmt: skip
