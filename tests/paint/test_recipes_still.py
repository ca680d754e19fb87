"""Layouts of the recipes that stand still, checked in their pictures. All words are made up."""

import numpy as np

from builders import project_of, title
from rovix.edit.look import set_look
from rovix.engine.kept_shelf import READY
from rovix.formats.look_file import read_look
from rovix.model import (
    BackgroundClip,
    Box,
    Fill,
    Glow,
    Linear,
    LongShadow,
    Look,
    Outline,
    Plain,
    Shadow,
    Stop,
    Transform,
)
from rovix.motion import picture_plan
from rovix.paint.blend import blend
from rovix.paint.painter import Painter

SIZE = (640, 360)
RAMP = Linear(angle=0, stops=(Stop(at=0, colour="#103050"), Stop(at=1, colour="#f0c080")))


def paint(*clips):
    return Painter(None).paint(picture_plan(project_of(*clips), 0))


def ground(paint_=RAMP):
    return BackgroundClip(id="ground", length=60, background=paint_)


def filled(colour, *parts):
    return Look(parts=(Fill(id="f", paint=Plain(colour=colour)), *parts))


def test_glowing_shadowed_outlined_words_over_a_picture():
    look = filled("#ffffff", Outline(id="o", width=4.0, colour="#202020"), Glow(id="g", size=10.0, colour="#ffb060"),
                  Shadow(id="s", x=8.0, y=8.0, blur=3.0))  # fmt: skip
    words = title("Wind", look=look, text={"size": 150.0})
    bare, dressed = paint(ground()), paint(ground(), words)
    changed = np.abs(dressed.astype(int) - bare.astype(int)).max(axis=-1) > 2
    plain = paint(ground(), title("Wind", look=filled("#ffffff"), text={"size": 150.0}))
    inked = np.abs(plain.astype(int) - bare.astype(int)).max(axis=-1) > 2
    assert changed.sum() > 2 * inked.sum()
    assert (changed & inked).sum() == inked.sum()


def test_difference_words_are_the_difference():
    words = title("Wind", look=filled("#ffffff"), text={"size": 200.0}, blend="difference")
    alone = Painter(None).paint(picture_plan(project_of(words, background="#00000000"), 0))
    expected = blend(paint(ground()), alone, "difference").astype(int)
    assert np.abs(paint(ground(), words).astype(int) - expected).max() <= 2


def test_a_long_shadow_runs_to_the_frames_edge_at_any_angle_and_colour():
    for angle, edge in (
        (0.0, np.s_[:, -1]),
        (90.0, np.s_[-1, :]),
        (180.0, np.s_[:, 0]),
        (270.0, np.s_[0, :]),
    ):
        look = filled("#ffffff", LongShadow(id="l", angle=angle, colour="#00ff00"))
        picture = paint(ground(Plain(colour="#000000")), title("Wind", look=look, text={"size": 150.0}))
        assert (picture[edge][:, 1] == 255).sum() > 60
        assert (picture[edge][:, 2] == 0).all(), "and nothing else is there"


def test_a_crawl_is_one_long_line_on_a_box():
    box = Box(id="b", paint=Plain(colour="#101820"), padding_x=400.0, padding_y=12.0, radius=0.0)
    line = "Gates 9:00 · first flights 10:00 · kite building for all · grand launch 15:00 · tea at the mill"
    words = title(
        line,
        look=filled("#ffffff", box),
        text={"size": 34.0, "align": "left"},
        transform=Transform(x=-300.0, y=140.0),
    )
    picture = paint(ground(Plain(colour="#405060")), words)
    row = picture[SIZE[1] // 2 + 140 + 22]  # below the letters, within the box
    assert (row[:, :3] == row[0, :3]).all(), "the box runs from edge to edge"
    assert tuple(row[0, :3]) == (0x20, 0x18, 0x10)


def test_a_page_of_many_lines_is_set_once_in_its_box():
    text = "The wind comes over the hill at nine. By ten the first kites stand.\n\nBring a coat."
    page = title(
        text,
        look=filled("#2c2a28"),
        text={"size": 24.0, "wrap": 420.0, "align": "left", "family": "Courier Prime", "paragraph": 0.4},
    )
    layout = picture_plan(project_of(page), 0).layers[0].layout
    assert len(layout.lines) >= 5
    assert max(line.width for line in layout.lines) <= 420


def test_a_loading_bar_is_a_framed_row_of_bars():
    look = Look(
        parts=(
            Fill(id="f", paint=Plain(colour="#ffd060")),
            Box(id="b", paint=Plain(colour="#182024"), padding_x=14.0, padding_y=12.0),
        )
    )
    picture = paint(
        ground(Plain(colour="#000000")), title("▮" * 18, look=look, text={"size": 30.0, "tracking": 0.05})
    )
    row = (picture[SIZE[1] // 2, :, 2] > 200).astype(int)
    assert (np.diff(row) == 1).sum() == 18


def test_a_ready_look_is_laid_on_words_of_any_size():
    saved = read_look(READY / "lit-window.json")
    project = set_look(project_of(title("Tea", text={"size": 60.0})), "title", saved.look, saved.size)
    glows = [part.size for part in project.sequence.tracks[0].clips[0].look.parts if isinstance(part, Glow)]
    assert glows == [part.size / 2 for part in saved.look.parts if isinstance(part, Glow)]
