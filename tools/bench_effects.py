"""`make bench`: what each effect costs at 1080p, against one source-over of the same region."""

from __future__ import annotations

import numpy as np
from bench_keys import median_ms
from measured import measured

from rovix.edit.effects import add_effect
from rovix.model import Key, Keys, Outline, Project, Sequence, Text, TextClip, Track, Transform
from rovix.model.effects import EFFECTS
from rovix.model.look import Fill, Look
from rovix.motion import picture_plan
from rovix.paint.canvas import Canvas
from rovix.paint.painter import Painter

SIZE = (1920, 1080)
WORDS = "Thirty letters over the meadow up"


def main() -> None:
    clip = TextClip(
        id="t", length=60, text=Text(content=WORDS, size=90.0),
        look=Look(parts=(Fill(), Outline(width=5.0))),
    )  # fmt: skip
    plain = _project(clip)
    painter = Painter(None)  # type: ignore[arg-type]
    own = painter._layer(picture_plan(plain, 20).layers[0], np.eye(3), SIZE)
    assert own is not None
    below = Canvas(*SIZE)
    over = median_ms(lambda: below.draw_pixels(own.pixels, own.left, own.top, 0.9))
    bare = median_ms(lambda: painter.paint(picture_plan(plain, 20)), 9)
    across, down = own.pixels.shape[1], own.pixels.shape[0]
    print("\neffects of 30 letters at 1080p, beside drawing them")
    measured(f"one source-over of their {across} x {down} px", over, "ms")
    for kind in EFFECTS:
        _one(plain, kind, painter, bare, over)
    _still_echo(clip, painter, bare)


def _one(plain: Project, kind: str, painter: Painter, bare: float, over: float) -> None:
    made = add_effect(plain, "t", kind)
    cost = median_ms(lambda: painter.paint(picture_plan(made, 20)), 9) - bare
    measured(f"{kind}, beside one source-over", cost / over, "x")


def _still_echo(clip: TextClip, painter: Painter, bare: float) -> None:
    """Echoes of what stands still against those of what moves."""
    moving = Transform(x=Keys(keys=(Key(frame=0, value=-300.0), Key(frame=59, value=300.0))))
    for said, place in (("a still", Transform()), ("a moving", moving)):
        layer = TextClip(id="t", length=60, text=clip.text, look=clip.look, transform=place)
        made = add_effect(_project(layer), "t", "echo-trail")
        cost = median_ms(lambda p=made: painter.paint(picture_plan(p, 20)), 9) - bare
        measured(f"4 echoes of {said} layer, on top of the layer", cost, "ms")


def _project(clip: TextClip) -> Project:
    return Project(sequences=(Sequence(size=SIZE, rate="30", tracks=(Track(clips=(clip,)),)),))


if __name__ == "__main__":
    main()
