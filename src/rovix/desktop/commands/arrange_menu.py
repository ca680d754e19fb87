"""Place: aligning, spacing, guides, what layers are caught on, following."""

from __future__ import annotations

from typing import TYPE_CHECKING

from rovix.desktop.commands.command import Command, Run, called, done, layer, on_each
from rovix.edit.arrange import align_layers, distribute_layers, move_in_frame
from rovix.edit.carried_reveal import carry_reveal
from rovix.edit.following import follow
from rovix.edit.guides import add_guide, clear_guides
from rovix.edit.tree import clip_by_id, clip_of
from rovix.edit.values import reset_channels
from rovix.model import Project, Transform
from rovix.model.clip_kinds import has_words, is_layer
from rovix.model.fields import channel_fields

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame


def _align(side: str) -> Run:
    def run(window: Frame) -> None:
        document = window.document
        chosen, frame = document.selection, document.playhead
        document.do(f"Align {called(window)}", lambda p: align_layers(p, chosen, frame, side))

    return run


_WAYS = {"left": (-1, 0), "right": (1, 0), "up": (0, -1), "down": (0, 1)}


def _moved(way: str, far: int) -> Run:
    def run(window: Frame) -> None:
        across, down = (step * far for step in _WAYS[way])
        frame = window.document.playhead
        on_each("Move", lambda p, i: move_in_frame(p, i, frame, across, down))(window)

    return run


def _space(axis: int, by: str) -> Run:
    def run(window: Frame) -> None:
        document = window.document
        chosen, frame = document.selection, document.playhead
        document.do(f"Space {called(window)}", lambda p: distribute_layers(p, chosen, frame, axis, by))

    return run


def _guide(upright: bool) -> Run:
    def run(window: Frame) -> None:
        side = window.document.project.sequence.size[0 if upright else 1]
        way = "from the left" if upright else "from the top"
        at = window.ask_number("Add a guide", f"px {way}", side / 2, 0, side, "px")
        if at is not None:
            window.viewer.show_guides = True
            window.document.do("Add a guide", lambda p: add_guide(p, upright, at - side / 2))

    return run


def _has_guides(window: Frame) -> bool:
    return bool(window.document.project.sequence.guides)


def _follow_leader(window: Frame) -> None:
    """Let all selected layers but the last follow the last."""
    document = window.document
    *others, leader = document.selection
    frame = document.playhead

    def edit(project):  # type: ignore[no-untyped-def]
        for identity in others:
            project = follow(project, identity, leader, frame)
        return project

    document.do("Follow the last selected", edit)


def _reset(window: Frame) -> None:
    """Put every channel of the place of all selected layers back, without keys or a path."""
    chosen = window.document.selection
    names = [f"transform.{name}" for name in channel_fields(Transform)]

    def edit(project: Project) -> Project:
        for identity in chosen:
            project = reset_channels(project, identity, names)
        return project

    window.document.do(f"Reset the place of {called(window)}", edit)


def _toggle(name: str) -> Run:
    def run(window: Frame) -> None:
        setattr(window.viewer, name, not getattr(window.viewer, name))
        window.viewer.update()

    return run


def _several(window: Frame) -> bool:
    return len(window.document.selection) > 1 and layer(window)


def _three(window: Frame) -> bool:
    return len(window.document.selection) > 2 and layer(window)


def _roll_over(window: Frame) -> None:
    """The other selected layer rolls over the words."""
    document = window.document
    clips = [clip_of(document.project, identity) for identity in document.selection]
    words = next(clip.id for clip in clips if has_words(clip))
    wheel = next(clip.id for clip in clips if clip.id != words)
    document.do("Roll over the words", lambda p: carry_reveal(p, words, wheel))


def _words_and_one(window: Frame) -> bool:
    """Whether words and one other layer are selected."""
    clips = [clip_by_id(window.document.project, identity) for identity in window.document.selection]
    return len(clips) == 2 and all(map(is_layer, clips)) and any(map(has_words, clips))


ARRANGE = (
    Command("align-left", "Align left", "Arrange", "Ctrl+Alt+Left", _align("left"), layer, under="Align"),
    Command("align-centre", "Align in the middle across", "Arrange", "Ctrl+Alt+H", _align("centre"), layer, under="Align"),
    Command("align-right", "Align right", "Arrange", "Ctrl+Alt+Right", _align("right"), layer, under="Align"),
    Command("align-top", "Align top", "Arrange", "Ctrl+Alt+Up", _align("top"), layer, ruled=True, under="Align"),
    Command("align-middle", "Align in the middle down", "Arrange", "Ctrl+Alt+M", _align("middle"), layer, under="Align"),
    Command("align-bottom", "Align bottom", "Arrange", "Ctrl+Alt+Down", _align("bottom"), layer, under="Align"),
    Command("space-across", "Even gaps across", "Arrange", "", _space(0, "gaps"), _three, under="Space out"),
    Command("space-down", "Even gaps down", "Arrange", "", _space(1, "gaps"), _three, under="Space out"),
    Command("middles-across", "Even middles across", "Arrange", "", _space(0, "middles"), _three, under="Space out"),
    Command("middles-down", "Even middles down", "Arrange", "", _space(1, "middles"), _three, under="Space out"),
    *(Command(f"layer-{way}{far}", f"Move {way} by {far} px", "Arrange", f"{keys}{way.capitalize()}",
              _moved(way, far), layer, under="Move in the picture")
      for far, keys in ((1, "Alt+"), (10, "Alt+Shift+")) for way in _WAYS),
    Command("transform-reset", "Reset the whole transform", "Arrange", "", _reset, layer, ruled=True),
    Command("follow-leader", "Follow the last selected", "Arrange", "", _follow_leader, _several, ruled=True),
    Command("roll-over", "Roll over the words, uncovering them", "Arrange", "", _roll_over, _words_and_one),
    Command("snap", "Snap to lines and layers", "Arrange", "Shift+N", _toggle("snaps"),
            checked=lambda w: w.viewer.snaps, ruled=True),
    Command("guides", "Show the guides", "Arrange", "Shift+U", _toggle("show_guides"), checked=lambda w: w.viewer.show_guides, under="Guides"),
    Command("guide-upright", "Add an upright guide…", "Arrange", "", _guide(True), under="Guides"),
    Command("guide-level", "Add a level guide…", "Arrange", "", _guide(False), under="Guides"),
    Command("guides-clear", "Take all guides away", "Arrange", "",
            lambda w: done(w.document.do("Take all guides away", clear_guides)), _has_guides, under="Guides"),
)  # fmt: skip
