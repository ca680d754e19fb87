"""Keys of every kind that a move knows, made a move: the same pictures."""

import numpy as np
import pytest

from builders import project_of, psnr, title
from rovix.edit import clip_by_id
from rovix.edit.address import channels_of, put_held
from rovix.edit.keys_to_move import keys_to_move
from rovix.errors import RovixError
from rovix.model import (
    Box,
    ColourKey,
    ColourKeys,
    Fill,
    Glow,
    Key,
    Keys,
    Look,
    Outline,
    Plain,
    Shadow,
    Transform,
)
from rovix.model.effects.crop import Crop
from rovix.model.effects.wipe import Wipe
from rovix.model.effects.wrap_around import WrapAround
from rovix.motion import Scene, picture_plan
from rovix.paint.painter import Painter

PARTS = (Fill(id="f", paint=Plain(colour="#f2b13c")), Outline(id="o"), Shadow(id="s"), Glow(id="g"))
WAYS = {
    "transform.blur_x": (0.0, 14.0, 6.0),
    "text.tracking": (0.0, 0.3, 0.1),
    "look.parts.f.opacity": (1.0, 0.0, 0.5),
    "look.parts.o.opacity": (0.8, 0.0, 0.4),
    "look.parts.s.opacity": (1.0, 0.1, 0.5),
    "look.parts.g.opacity": (1.0, 0.1, 0.5),
    "look.parts.f.paint.colour": ("#f2b13c", "#2050a0", "#2050a0"),
    "effects.w.x": (0.0, 900.0, 300.0),
}
PLACES = {"entrance": (0, 12, 20), "exit": (39, 50, 59), "loop": (0, 8, 14)}


def painted(project, frame):
    return Painter(None).paint(picture_plan(project, frame))


def keyed(address, role):
    """A project with one channel away from rest at one side of the clip, or back and forth."""
    rest, away, between = WAYS[address]
    values = {"entrance": (away, between, rest), "exit": (rest, between, away), "loop": (rest, away, rest)}[
        role
    ]
    effects = (WrapAround(id="w"),) if address.startswith("effects") else ()
    clip = title("Hill", look=Look(parts=PARTS), effects=effects)
    kind, key = (ColourKeys, ColourKey) if isinstance(rest, str) else (Keys, Key)
    keys = tuple(key(frame=f, value=v, curve="cubic-out") for f, v in zip(PLACES[role], values, strict=True))
    return put_held(project_of(clip), "title", {address: kind(id="k", keys=keys)})


@pytest.mark.parametrize("role", PLACES)
@pytest.mark.parametrize("address", WAYS)
def test_the_pictures_stay(address, role):
    project = keyed(address, role)
    made = keys_to_move(project, "title", {address: PLACES[role]}, role)
    clip = clip_by_id(made, "title")
    assert [move.role for move in clip.moves] == [role]
    assert channels_of(clip)[address] == WAYS[address][0]
    first, _, last = PLACES[role]
    for frame in sorted({first, first + 1, (first + last) // 2, last - 2, last}):
        assert psnr(painted(project, frame), painted(made, frame)) > 60


def refused(project, address, role="entrance"):
    with pytest.raises(RovixError) as wrong:
        keys_to_move(project, "title", {address: PLACES[role]}, role)
    return str(wrong.value)


def test_what_a_move_cannot_do_is_said():
    frames = PLACES["entrance"]
    numbers = Keys(
        id="k", keys=tuple(Key(frame=f, value=v) for f, v in zip(frames, (0.0, 0.5, 1.0), strict=True))
    )
    wiped = project_of(title("Hill", effects=(Wipe(id="e", share=numbers),)))
    assert "stay keys" in refused(wiped, "effects.e.share")
    two = project_of(title("Hill", look=Look(parts=(*PARTS, Outline(id="p", opacity=numbers)))))
    assert "more than one part of its kind" in refused(two, "look.parts.p.opacity")
    box = project_of(title("Hill", look=Look(parts=(*PARTS, Box(id="b", opacity=numbers)))))
    assert "'opacity' is no channel that a move has" in refused(box, "look.parts.b.opacity")
    wrapped = project_of(title("Hill", effects=(WrapAround(id="w", x=numbers),)))
    assert "does not rest at 0" in refused(wrapped, "effects.w.x")
    several = project_of(title("Hill", effects=(WrapAround(id="w", x=numbers), Crop(id="c"))))
    assert "other effects" in refused(several, "effects.w.x")
    there = project_of(title("Hill", transform=Transform(y=numbers)))
    with pytest.raises(RovixError, match="ends elsewhere than it begins"):
        keys_to_move(there, "title", {"transform.y": frames}, "loop")
    colours = ColourKeys(
        id="k",
        keys=tuple(
            ColourKey(frame=f, value=c)
            for f, c in zip(frames, ("#102030", "#405060", "#708090"), strict=True)
        ),
    )
    three = project_of(title("Hill", look=Look(parts=(Fill(id="f", paint=Plain(colour=colours)),))))
    assert "mixes one colour" in refused(three, "look.parts.f.paint.colour")
    sharper = project_of(title("Hill", transform=Transform(blur_x=numbers)))
    assert "not sharpen" in refused(sharper, "transform.blur_x")


def test_a_loop_of_keys_beats_on_to_the_clips_end():
    x = Keys(id="x", keys=tuple(Key(frame=f, value=v) for f, v in ((0, 0.0), (5, 40.0), (15, 0.0))))
    project = project_of(title("Hill", transform=Transform(x=x)))
    made = keys_to_move(project, "title", {"transform.x": (0, 5, 15)}, "loop")
    clip = clip_by_id(made, "title")
    ways = Scene.of(made).motion(clip).departures_of(0, np.arange(60.0))["x"][:, 0]
    once = [8.0 * f if f <= 5 else 40.0 - 4.0 * (f - 5) for f in range(15)]
    # The last frame is at rest, where every loop ends.
    assert ways == pytest.approx([*(once * 4)[:59], 0.0])
