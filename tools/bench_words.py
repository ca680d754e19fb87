"""The words' part of `make bench`: each part of a look, and typing into a long text."""

from __future__ import annotations

import os
import time
from itertools import cycle

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import numpy as np
from bench import median_ms
from measured import measured
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from rovix.desktop.app import make_application, make_window
from rovix.edit import change_text
from rovix.model import (
    Box,
    Fill,
    Glow,
    Linear,
    LongShadow,
    Look,
    LookPart,
    Outline,
    Plain,
    Project,
    Sequence,
    Shadow,
    Text,
    TextClip,
    Track,
    Transform,
)
from rovix.motion import picture_plan
from rovix.paint.canvas import Canvas
from rovix.paint.glyph_paths import piece_paths
from rovix.paint.painter import Painter

THIRTY = "Kites over Larkmoor\nfly on Sunday"
PARTS: dict[str, LookPart] = {
    "fill, gradient": Fill(id="p", paint=Linear()),
    "fill, by letter": Fill(id="p", paint=Linear(), over="letter"),
    "outline": Outline(id="p", width=8.0),
    "outline, inside": Outline(id="p", width=4.0, side="inside"),
    "shadow, 6 px": Shadow(id="p"),
    "shadow, sharp": Shadow(id="p", blur=0.0),
    "glow, 8 px": Glow(id="p", size=8.0),
    "glow, 40 px": Glow(id="p", size=40.0),
    "long shadow": LongShadow(id="p", angle=40.0),
    "box": Box(id="p"),
}
LETTERS = 5000


def main() -> None:
    _parts()
    _typing()
    _typing_in_the_window()


def _project(text: str, look: Look, **words: object) -> Project:
    place = Transform(blur_x=float(words.pop("blur", 0.0)), blur_y=0.0)  # type: ignore[arg-type]
    clip = TextClip(id="t", length=60, text=Text(content=text, **words), look=look, transform=place)  # type: ignore[arg-type]
    sequence = Sequence(id="s", tracks=(Track(id="track", clips=(clip,)),))
    return Project(id="p", sequences=(sequence,))


def _cost(project: Project) -> float:
    plan, painter = picture_plan(project, 0), Painter(None)  # type: ignore[arg-type]
    return median_ms(lambda: painter.paint(plan))


def _parts() -> None:
    plain = Look(parts=(Fill(id="f", paint=Plain(colour="#ffffff")),))
    project = _project(THIRTY, plain, size=190.0)
    layer = picture_plan(project, 0).layers[0]
    path = piece_paths(layer.layout, layer.of_glyph).fill(0)  # type: ignore[union-attr]
    matrix = layer.matrices[0]  # type: ignore[union-attr]
    canvas = Canvas(1920, 1080)
    bare = median_ms(lambda: canvas.draw_path(path, matrix, (255, 255, 255, 255)), 15)
    alone = _cost(project)
    print(f"parts of a look, 30 letters at 1920 x 1080; bare Skia fill of the same paths {bare:.2f} ms = 1")
    measured("plain fill, the whole picture, beside the bare fill", alone / bare, "x")
    for name, part in PARTS.items():
        parts = (part,) if isinstance(part, Fill) else (*plain.parts, part)
        # An outline inside is seen only above the fill.
        parts = parts[::-1] if name == "outline, inside" else parts
        cost = _cost(_project(THIRTY, Look(parts=parts), size=190.0)) - (
            0 if isinstance(part, Fill) else alone
        )
        measured(
            f"{name}, {'' if isinstance(part, Fill) else 'on top, '}beside the bare fill", cost / bare, "x"
        )
    cost = _cost(_project(THIRTY, plain, size=190.0, blur=12.0)) - alone
    measured("blur across, 12 px, on top, beside the bare fill", cost / bare, "x")


def _long_text() -> str:
    sentence = "Bring a long string, a coat and a friend who can run; the wind does the rest. "
    return (sentence * (LETTERS // len(sentence) + 1))[:LETTERS]


def _typing() -> None:
    text = _long_text()
    lines = "\n".join(text[at : at + 60] for at in range(0, LETTERS, 60))
    _type_into("one long paragraph in a box", text, 1800.0)
    _type_into("a line feed each 60 letters", lines, None)


def _type_into(name: str, text: str, wrap: float | None) -> None:
    look = Look(parts=(Fill(id="f", paint=Plain(colour="#ffffff")),))
    project = _project(text, look, size=22.0, wrap=wrap)
    painter = Painter(None)  # type: ignore[arg-type]
    plan = picture_plan(project, 0)
    picture = median_ms(lambda: painter.paint(plan))
    letters = cycle("abcdefghijklmnopqrstuvwxyz")

    def type_one() -> None:
        changed = text[:2500] + next(letters) + text[2500:]
        painter.paint(picture_plan(change_text(project, "t", content=changed), 0))

    cost = median_ms(type_one, 15)
    measured(f"a letter typed into {LETTERS}, {name}, beside its picture", cost / picture, "x", 3)


def _typing_in_the_window() -> None:
    make_application()
    window = make_window()
    window.resize(1672, 1062)
    window.show()
    look = Look(parts=(Fill(id="f", paint=Plain(colour="#ffffff")),))
    window.document.show(_project(_long_text(), look, size=22.0, wrap=1800.0), window.document.base, None)
    window.document.select("t")
    QTest.qWait(3000)
    shown: list[float] = []
    window.projector.picture_shown.connect(lambda p: p is not None and shown.append(time.perf_counter()))
    window.viewer.edit_words()
    QTest.keyClick(window.viewer, Qt.Key.Key_Home)
    QTest.qWait(1500)
    times = []
    for letter in "larkmoor":
        shown.clear()
        start = time.perf_counter()
        QTest.keyClick(window.viewer, Qt.Key(ord(letter.upper())), Qt.KeyboardModifier.NoModifier)
        while not shown and time.perf_counter() - start < 10:
            QTest.qWait(1)
        times.append((shown[0] if shown else time.perf_counter()) - start)
        QTest.qWait(400)
    plan, painter = picture_plan(window.document.picture_project, 0), Painter(None)  # type: ignore[arg-type]
    size = window.viewer._picture.pixels.shape[1::-1]
    picture = median_ms(lambda: painter.paint(plan, size))
    waited = float(np.median(times)) * 1000
    measured("in the window, from the key to the picture, beside its picture", waited / picture, "x", 3)
    window.viewer.finish_words()
    window.shut_down()


if __name__ == "__main__":
    main()
