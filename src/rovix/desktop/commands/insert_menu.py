"""Insert: words, grounds, shapes, other sequences."""

from __future__ import annotations

from typing import TYPE_CHECKING

from rovix.desktop.commands.command import Command, Run, layer
from rovix.desktop.new_text import styled
from rovix.edit import add_text
from rovix.edit.shapes import add_background, add_shape
from rovix.model import Project, Text, TextClip, new_id

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame

WORDS_SECONDS = 4.0
BACKGROUND_SECONDS = 8.0


def _add_words(window: Frame) -> None:
    document = window.document
    rate = document.rate
    plain = TextClip(id=new_id(), text=Text(content="New words"))
    clip = styled(window.settings, plain)
    length = rate.length(WORDS_SECONDS)
    start = document.playhead
    if document.do("Put words at the playhead", lambda p: add_text(p, start, length, clip)):
        document.select(clip.id)
        window.projector.stop()
        window.viewer.edit_words()


def _made(window: Frame, title: str, edit: object) -> None:
    made: list[str] = []

    def edited(project: Project) -> Project:
        project, identity = edit(project)  # type: ignore[operator]
        made.append(identity)
        return project

    if window.document.do(title, edited):
        window.document.select(made[-1])


def _background(kind: str, said: str) -> Run:
    def run(window: Frame) -> None:
        document = window.document
        # A ground lies under everything that is there, or it is as long as a first one should be.
        length = max(
            document.project.sequence.length - document.playhead, document.rate.length(BACKGROUND_SECONDS)
        )
        _made(window, f"Insert {said}", lambda p: add_background(p, kind, document.playhead, length))

    return run


def _shape(form: str, said: str) -> Run:
    def run(window: Frame) -> None:
        document = window.document
        length = document.rate.length(WORDS_SECONDS)
        _made(window, f"Insert {said}", lambda p: add_shape(p, form, document.playhead, length))

    return run


def _fitting(window: Frame) -> None:
    identity = window.document.selected
    _made(window, "Put a box round the layer", lambda p: add_shape(p, "rounded", 0, 1, identity))


def _line_under(window: Frame) -> None:
    identity = window.document.selected
    _made(window, "Put a line under the layer", lambda p: add_shape(p, "line", 0, 1, identity, "under"))


INSERT = (
    Command("add-words", "Words at the playhead", "Insert", "T", _add_words),
    Command("add-credits", "Credits from a text file…", "Insert", "", lambda w: w.files.bring_credits()),
    Command("background-plain", "Plain background", "Insert", "", _background("plain", "a plain background"), ruled=True),
    Command("background-linear", "Gradient background", "Insert", "", _background("linear", "a gradient")),
    Command("background-radial", "Round gradient background", "Insert", "", _background("radial", "a round gradient")),
    Command("background-paper", "Paper background", "Insert", "", _background("paper", "paper")),
    Command("shape-box", "Box", "Insert", "", _shape("box", "a box"), ruled=True),
    Command("shape-rounded", "Rounded box", "Insert", "", _shape("rounded", "a rounded box")),
    Command("shape-ellipse", "Ellipse", "Insert", "", _shape("ellipse", "an ellipse")),
    Command("shape-line", "Line", "Insert", "", _shape("line", "a line")),
    Command("box-round", "Box round the layer", "Insert", "B", _fitting, layer),
    Command("line-under", "Line under the layer", "Insert", "Shift+B", _line_under, layer),
    Command("put-in-sequence", "Another sequence…", "Insert", "", lambda w: w.put_in_sequence(),
            lambda w: len(w.document.whole.sequences) > 1, ruled=True),
)  # fmt: skip
