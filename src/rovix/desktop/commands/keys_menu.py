"""Keys: setting them, going from one to the next, and working on the selected ones, or all of a layer's."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from math import floor
from typing import TYPE_CHECKING

from rovix.desktop import clipboard
from rovix.desktop.commands.command import Command, Run, called, done, layer, on_each, selected
from rovix.desktop.commands.inner_keys import (
    add_inner,
    has_way,
    nudge_inner,
    or_inner,
    remove_inner,
    shape_inner,
    when_inner,
)
from rovix.desktop.commands.key_steps import (
    by_all_layers,
    go_to_key,
    has_keys_to_go_by,
    turn_all_layers,
    turn_snap_to_keys,
)
from rovix.edit.drift import Drift, drift
from rovix.edit.each import ClipEdit
from rovix.edit.inner_keys import all_inner_keys
from rovix.edit.keys import (
    Chosen,
    align_keys,
    all_keys,
    hold_keys,
    mirror_keys,
    move_keys,
    remove_keys,
    repeat_keys,
    reverse_keys,
    set_curves,
    spread_keys,
    stagger_keys,
    stretch_keys,
    thin_keys,
    toggle_keys,
)
from rovix.edit.keys_to_move import keys_to_move
from rovix.edit.moves_and_keys import move_to_keys
from rovix.edit.paths import bend, make_path, path_to_keys, remove_path, set_along, straighten
from rovix.edit.tangents import even_speed, set_joined, to_tangents
from rovix.edit.tree import clip_by_id, clip_of
from rovix.model import Clip, Project
from rovix.model.clip_kinds import is_layer
from rovix.model.move import Role
from rovix.model.transform import Transform

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame

DRIFT = 0.04  # of the size
KeyEdit = Callable[[Project, str, Chosen], Project]


def chosen_keys(window: Frame) -> dict[str, Chosen]:
    """By clip, the selected keys; where none are, all of the selected layer."""
    keys, clip = window.document.keys, window.document.clip
    if keys:
        return {identity: keys.of(identity) for identity in keys.clips()}
    found = all_keys(clip)
    return {clip.id: found} if clip is not None and found else {}


def _keyed(window: Frame) -> bool:
    return bool(chosen_keys(window))


def on_keys(title: str, edit: KeyEdit, step: int = 0, to: Callable[[str, int], int] | None = None) -> Run:
    """A command that edits the chosen keys as one step.

    Where it moves them, `step` is by how many frames, or `to` gives the new frame of one of a clip:
    the selection goes along, and what then lies behind a clip's end is told.
    """
    moved = to or ((lambda _, frame: frame + step) if step else None)

    def run(window: Frame) -> None:
        chosen, keys = chosen_keys(window), window.document.keys
        before = list(keys)

        def edited(project: Project) -> Project:
            for identity, own in chosen.items():
                project = edit(project, identity, own)
            return project

        if window.document.do(f"{title} of {called(window)}", edited) and moved is not None:
            keys.set((clip, address, moved(clip, frame)) for clip, address, frame in before)
            _say_beyond(window, {i: max(map(partial(moved, i), _frames(own))) for i, own in chosen.items()})

    return run


def _frames(chosen: Chosen) -> list[int]:
    return [frame for own in chosen.values() for frame in own]


def _say_beyond(window: Frame, last: dict[str, int]) -> None:
    """Say of which clips the last of the moved keys lies behind the end."""
    clips = {identity: clip_by_id(window.document.project, identity) for identity in last}
    beyond = [clip.title for i, clip in clips.items() if clip is not None and last[i] >= clip.length]
    if beyond:
        window.document.told.emit(f"Keys lie behind the end of {', '.join(beyond)} now; they are kept.")


def _add(window: Frame) -> None:
    """A key on the playhead's frame for each channel that is animated."""
    document, clip = window.document, window.document.clip
    if clip is None or document.playhead not in clip.span:
        document.problem.emit("Put the playhead inside the layer: the key goes there.")
        return
    names, frame = tuple(all_keys(clip)), document.clip_frame
    if not names:
        document.problem.emit("Nothing is animated yet: click the pip beside a row of Transform to begin.")
        return
    document.do(f"Set keys of {called(window)}", lambda p: toggle_keys(p, clip.id, frame, names))


def _stretch(window: Frame) -> None:
    percent = window.ask_number(
        "Stretch the keys", "Their length, about the first of them", 100, 1, 10_000, "%"
    )
    if percent is not None:
        firsts = {clip: _first(own) for clip, own in chosen_keys(window).items()}
        share = percent / 100
        on_keys(
            "Stretch the keys",
            lambda p, i, c: stretch_keys(p, i, c, firsts[i], share),
            to=lambda i, frame: firsts[i] + floor((frame - firsts[i]) * share + 0.5),
        )(window)


def _first(chosen: Chosen) -> int:
    return min(_frames(chosen))


def _repeat(window: Frame) -> None:
    times = window.ask_number("Repeat the keys", "How many times in all", 2, 1, 1000, "×")
    if times is None:
        return
    gap = window.ask_number(
        "Repeat the keys", "Frames from the end of one to the start of the next", 1, 1, 100_000, "f"
    )
    if gap is not None:
        on_keys("Repeat the keys", lambda p, i, c: repeat_keys(p, i, c, round(times), round(gap)))(window)


def _thin(window: Frame) -> None:
    said = "How far values may change, of the most that they do"
    tolerance = window.ask_number("Thin out the keys", said, 1, 0, 100, "%")
    if tolerance is not None:
        on_keys("Thin out the keys", lambda p, i, c: thin_keys(p, i, c, tolerance / 100))(window)


def _stagger(window: Frame) -> None:
    frames = window.ask_number(
        "Shift channels", "Frames that each channel comes after the one above it", 2, -10_000, 10_000, "f"
    )
    if frames is not None:
        on_keys("Shift the channels", lambda p, i, c: stagger_keys(p, i, c, round(frames)))(window)


def _align(window: Frame) -> None:
    """Move the keys so that the first of each channel is under the playhead."""
    document = window.document

    def edit(project: Project, identity: str, chosen: Chosen) -> Project:
        clip = clip_by_id(project, identity)
        assert clip is not None
        return align_keys(project, identity, chosen, document.playhead - clip.start)

    on_keys("Align the keys to the playhead", edit)(window)


def _ways(title: str, curve: str) -> Run:
    keys = on_keys(title, lambda p, i, c: set_curves(p, i, c, curve))
    return or_inner(shape_inner(title, curve), keys)


_any_keyed = when_inner(_keyed)


def _lanes(window: Frame) -> None:
    for identity in window.document.selection:
        window.timeline.canvas.lanes.toggle(identity)


def _in_lanes(window: Frame) -> bool:
    return (
        bool(window.document.selection)
        and window.document.selected in window.timeline.canvas.lanes.state.open
    )


def _select_all(window: Frame) -> None:
    if window.document.clip is not None:
        window.timeline.canvas.lanes.select_all(window.document.clip)


def _has_all_keys(window: Frame) -> bool:
    return bool(all_keys(window.document.clip) or all_inner_keys(window.document.clip))


def _select_here(window: Frame) -> None:
    """Select the keys of the layer on the playhead's frame."""
    document, clip = window.document, window.document.clip
    assert clip is not None
    frame = document.playhead - clip.start
    document.keys.set((clip.id, name, frame) for name, own in all_keys(clip).items() if frame in own)


def _moved(role: Role) -> Callable[[Frame], bool]:
    def when(window: Frame) -> bool:
        clip = window.document.clip
        return is_layer(clip) and any(move.role == role for move in clip.moves)

    return when


def _write_out(role: Role) -> Run:
    def run(window: Frame) -> None:
        clip = window.document.clip
        assert is_layer(clip)
        move = next(move for move in clip.moves if move.role == role)
        title = f"Turn the {role} of {called(window)} into keys"
        window.document.do(title, lambda p: move_to_keys(p, clip.id, move.id))

    return run


def _make_move(role: Role) -> Run:
    def edit(project: Project, identity: str, chosen: Chosen) -> Project:
        return keys_to_move(project, identity, {a: tuple(f) for a, f in chosen.items()}, role)

    return on_keys(f"Make {'a' if role == 'loop' else 'an'} {role} of the keys", edit)


def _place(window: Frame) -> Transform | None:
    clip = window.document.clip
    return clip.transform if is_layer(clip) else None


def _has_path(window: Frame) -> bool:
    place = _place(window)
    return place is not None and place.path is not None


def _has_no_path(window: Frame) -> bool:
    return layer(window) and not _has_path(window)


def _on_path(title: str, edit: ClipEdit) -> Run:
    def run(window: Frame) -> None:
        window.viewer.show_path = True
        on_each(f"{title} of", edit)(window)

    return run


def _points(window: Frame, clip: Clip) -> tuple[int, ...]:
    """The frames of the selected points of a clip's path, or of all."""
    path = clip.transform.path if is_layer(clip) else None
    if path is None:
        return ()
    chosen = window.document.keys.of(clip.id).get("transform.path", ())
    return chosen or tuple(key.frame for key in path.keys)


def _turn_along(window: Frame) -> None:
    along = not _is_along(window)
    _on_path("Turn along the path", lambda p, i: set_along(p, i, along))(window)


def _is_along(window: Frame) -> bool:
    place = _place(window)
    return place is not None and place.path is not None and place.path.along


def _shaped(title: str, edit: Callable[[Project, str, tuple[int, ...]], Project]) -> Run:
    def run(window: Frame) -> None:
        _on_path(title, lambda p, i: edit(p, i, _points(window, clip_of(p, i))))(window)

    return run


def _off_path(window: Frame) -> None:
    document = window.document
    _on_path("Take away the path", lambda p, i: remove_path(p, i, document.frame_of(clip_of(p, i))))(window)


KEYS = (
    Command("key-add", "Set or take away keys here", "Keys", "A", _add, layer),
    Command("lanes", "Open into lanes, or close", "Keys", "Shift+A", _lanes, selected, checked=_in_lanes),
    Command("key-next", "To the next key", "Keys", "PgDown", go_to_key(1), has_keys_to_go_by),
    Command("key-previous", "To the previous key", "Keys", "PgUp", go_to_key(-1), has_keys_to_go_by),
    Command("key-of-all", "Go by the keys of all layers", "Keys", "", turn_all_layers, checked=by_all_layers, under="Which keys"),
    Command("key-snap", "Catch on keys while dragging", "Keys", "", turn_snap_to_keys,
            checked=lambda w: w.timeline.canvas.snaps_to_keys, under="Which keys"),
    Command("keys-all", "Select all keys", "Keys", "Ctrl+Alt+A", _select_all, _has_all_keys, under="Select"),
    Command("keys-here", "Select the keys at the playhead", "Keys", "Ctrl+Alt+K", _select_here, lambda w: bool(all_keys(w.document.clip)), under="Select"),
    Command("keys-earlier", "Keys a frame earlier", "Keys", "Ctrl+Alt+,",
            or_inner(nudge_inner(-1), on_keys("Nudge the keys", lambda p, i, c: move_keys(p, i, c, -1), -1)), _any_keyed, under="Time and value"),
    Command("keys-later", "Keys a frame later", "Keys", "Ctrl+Alt+.",
            or_inner(nudge_inner(1), on_keys("Nudge the keys", lambda p, i, c: move_keys(p, i, c, 1), 1)), _any_keyed, under="Time and value"),
    Command("keys-align", "First keys to the playhead", "Keys", "", _align, _keyed, under="Time and value"),
    Command("keys-stretch", "Stretch the keys…", "Keys", "", _stretch, _keyed, under="Time and value"),
    Command("keys-spread", "Space the keys evenly", "Keys", "", on_keys("Space the keys", spread_keys), _keyed, under="Time and value"),
    Command("keys-stagger", "Shift channels against each other…", "Keys", "", _stagger, _keyed, under="Time and value"),
    Command("keys-repeat", "Repeat the keys…", "Keys", "", _repeat, _keyed, under="Time and value"),
    Command("keys-reverse", "Reverse the keys in time", "Keys", "", on_keys("Reverse the keys", reverse_keys), _keyed, under="Time and value"),
    Command("keys-mirror", "Mirror the values about rest", "Keys", "", on_keys("Mirror the keys", mirror_keys), _keyed, under="Time and value"),
    Command("keys-thin", "Thin out the keys…", "Keys", "", _thin, _keyed, under="Time and value"),
    Command("keys-paste-back", "Paste the keys reversed", "Keys", "Ctrl+Alt+R",
            lambda w: clipboard.paste_keys(w.document, back=True), selected, under="Time and value"),
    Command("curve-pick", "Choose the curve…", "Keys", "Shift+C", lambda w: done(w.pick_curve()), _any_keyed, under="Curve"),
    Command("curve-hold", "Hold until the next key", "Keys", "", _ways("Hold the keys", "hold"), _any_keyed, under="Curve"),
    Command("curve-steps", "Make steps of the keys", "Keys", "", on_keys("Make steps of the keys", hold_keys), _keyed, under="Curve"),
    Command("curve-linear", "Straight to the next key", "Keys", "", _ways("Straighten the ways", "linear"), _any_keyed, under="Curve"),
    Command("curve-smooth", "Smooth, never beyond the keys", "Keys", "", _ways("Smooth the ways", "smooth"), _any_keyed, under="Curve"),
    Command("curve-loose", "Smooth, free to swing beyond", "Keys", "", _ways("Smooth the ways loosely", "smooth-loose"), _any_keyed, under="Curve"),
    Command("curve-tangents", "Along tangents", "Keys", "",
            on_keys("Give tangents to the keys", lambda p, i, c: to_tangents(p, i, {a: tuple(f) for a, f in c.items()})), _keyed, under="Curve"),
    Command("tangents-join", "Join tangents into one line", "Keys", "",
            on_keys("Join the tangents", lambda p, i, c: set_joined(p, i, {a: tuple(f) for a, f in c.items()}, True)), _keyed, under="Curve"),
    Command("tangents-break", "Break tangents apart", "Keys", "",
            on_keys("Break the tangents", lambda p, i, c: set_joined(p, i, {a: tuple(f) for a, f in c.items()}, False)), _keyed, under="Curve"),
    Command("keys-even", "Even out the speed across keys", "Keys", "",
            on_keys("Even out the speed", lambda p, i, c: even_speed(p, i, {a: tuple(f) for a, f in c.items()})), _keyed, under="Curve"),
    Command("path-make", "Move along a path", "Keys", "", _on_path("Make a path", make_path), _has_no_path, under="Path"),
    Command("path-along", "Turn along the path", "Keys", "", _turn_along, _has_path, checked=_is_along, under="Path"),
    Command("path-bend", "Bend the path through its points", "Keys", "", _shaped("Bend the path", bend), _has_path, under="Path"),
    Command("path-straighten", "Straighten the path", "Keys", "", _shaped("Straighten the path", straighten), _has_path, under="Path"),
    Command("path-keys", "Path into keys of x and y", "Keys", "", _on_path("Turn the path into keys", path_to_keys), _has_path, under="Path"),
    Command("path-remove", "Take the path away", "Keys", "", _off_path, _has_path, under="Path"),
    Command("inner-add", "Set or take away inner keys here", "Keys", "Ctrl+Alt+I", add_inner, has_way, under="Moves and keys"),
    Command("keys-csv-out", "Write keys as CSV…", "Keys", "", lambda w: w.files.write_keys(), _keyed, under="Moves and keys"),
    Command("keys-csv-in", "Bring in keys from CSV…", "Keys", "", lambda w: w.files.bring_keys(), selected, under="Moves and keys"),
    Command("entrance-keys", "Entrance into keys", "Keys", "", _write_out("entrance"), _moved("entrance"), under="Moves and keys"),
    Command("loop-keys", "Loop into keys", "Keys", "", _write_out("loop"), _moved("loop"), under="Moves and keys"),
    Command("exit-keys", "Exit into keys", "Keys", "", _write_out("exit"), _moved("exit"), under="Moves and keys"),
    Command("keys-entrance", "Keys into an entrance", "Keys", "", _make_move("entrance"), _keyed, under="Moves and keys"),
    Command("keys-exit", "Keys into an exit", "Keys", "", _make_move("exit"), _keyed, under="Moves and keys"),
    Command("keys-loop", "Keys into a loop", "Keys", "", _make_move("loop"), _keyed, under="Moves and keys"),
    Command("drift", "Drift: grow by 4 % while it stays", "Keys", "Shift+D", on_each("Let drift", lambda p, i: drift(p, i, Drift(growth=DRIFT))), layer, ruled=True),
    Command("drift-more", "Drift: slide, turn, grow, spread…", "Keys", "", lambda w: done(w.open_drift()), layer),
    Command("speed-line", "Draw the speed in lanes", "Keys", "", lambda w: w.timeline.canvas.lanes.toggle_speed(),
            checked=lambda w: w.timeline.canvas.lanes.state.speed),
    Command("keys-remove", "Remove the keys", "Keys", "", or_inner(remove_inner, on_keys("Remove the keys", remove_keys)), _any_keyed, ruled=True),
)  # fmt: skip
