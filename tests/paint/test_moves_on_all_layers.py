"""Moves work on footage, stills, logos, shapes, grounds, groups and sequences as on words."""

from fractions import Fraction

import msgspec
import numpy as np
import pytest

from builders import project_of, title
from rovix.model import (
    Amount,
    BackgroundClip,
    Departure,
    FootageClip,
    GroupClip,
    Media,
    Move,
    Plain,
    SequenceClip,
    ShapeClip,
    StillClip,
    Track,
)
from rovix.motion import describe, picture_plan, plan_key
from rovix.motion.ready_moves import ready_moves
from rovix.paint.painter import Painter

replace = msgspec.structs.replace
SIZE = (320, 180)
STILL = Media(id="still", path="a.png", kind="still", width=120, height=80)
FOOTAGE = Media(id="film", path="a.mp4", kind="footage", width=120, height=80, length=4.0, rate="30")


class Given:
    """Every picture is one of blue above and green below."""

    def picture(self, source, time: Fraction | None, shrunk=None, about=False):
        pixels = np.full((80, 120, 4), 255, np.uint8)
        pixels[:40, :, 1:3] = 0
        pixels[40:, :, [0, 2]] = 0
        return pixels


def layers():
    words = title("HH", id="inside", text={"size": 80.0})
    group = GroupClip(id="it", length=90, tracks=(Track(id="inner", clips=(words,)),))
    return {
        "still": StillClip(id="it", media="still", length=90, fit="as-is"),
        "logo": StillClip(id="it", media="still", length=90, crop="round", fit="as-is"),
        "footage": FootageClip(id="it", media="film", length=90, fit="as-is"),
        "shape": ShapeClip(id="it", length=90, width=120.0, height=80.0, fill=Plain(colour="#ffffff")),
        "ground": BackgroundClip(id="it", length=90, background=Plain(colour="#ffffff")),
        "group": group,
        "sequence": SequenceClip(id="it", sequence="other", length=90),
    }  # fmt: skip


def project_with(clip, *moves):
    project = project_of(replace(clip, moves=moves), size=SIZE, media=(STILL, FOOTAGE))
    other = replace(
        project_of(title("HH", id="o", length=90, text={"size": 80.0}), size=SIZE).sequence, id="other"
    )
    return replace(project, sequences=(*project.sequences, other))


def painted(project, frame):
    return Painter(Given()).paint(picture_plan(project, frame)).astype(int)


CHANNELS = {
    "x": Amount(value=90.0), "scale": Amount(value=0.5), "rotation_z": Amount(value=30.0), "opacity": Amount(value=0.2),
    "rotation_x": Amount(value=60.0), "blur": Amount(value=9.0), "colour": Amount(value=1.0), "wipe": Amount(value=0.2),
    "open_left": Amount(value=0.6, unit="piece"), "offset_x": Amount(value=0.4, unit="frame"),
}  # fmt: skip


@pytest.mark.parametrize("channel", CHANNELS)
@pytest.mark.parametrize("kind", layers())
def test_every_channel_shows_and_ends_exactly_at_rest(kind, channel):
    clip = layers()[kind]
    move = Move(role="entrance", length=1.0, piece_curve="linear", pivot="block",
                channels=(Departure(channel=channel, amount=CHANNELS[channel]),))  # fmt: skip
    moved, still = project_with(clip, move), project_with(clip)
    if (kind, channel) != ("ground", "offset_x"):  # one colour all over looks the same, wrapped round
        assert np.abs(painted(moved, 8) - painted(still, 8)).max() > 20
    assert plan_key(picture_plan(moved, 30)) == plan_key(picture_plan(still, 30))
    assert (painted(moved, 30) == painted(still, 30)).all()


# A ground covers the frame, and so what trails behind it.
@pytest.mark.parametrize("kind", [kind for kind in layers() if kind != "ground"])
def test_an_echo_trails_every_kind_of_layer(kind):
    clip = layers()[kind]
    slide = Departure(channel="x", amount=Amount(value=-200.0))
    trail = Departure(channel="echo", amount=Amount(value=0.7), curve="hold")
    plain = project_with(clip, Move(role="entrance", length=1.0, piece_curve="linear", channels=(slide,)))
    trailed = project_with(
        clip, Move(role="entrance", length=1.0, piece_curve="linear", channels=(slide, trail))
    )
    assert len(describe(trailed, 20)["layers"][0]["echoes"]) == 4
    assert painted(trailed, 20)[..., :3].sum() > painted(plain, 20)[..., :3].sum()
    assert (painted(trailed, 30) == painted(plain, 30)).all()


@pytest.mark.parametrize("role", ["entrance", "loop", "exit"])
def test_all_ready_moves_go_on_a_picture_whatever_their_pieces(role):
    clip = layers()["still"]
    still = painted(project_with(clip), 0)
    for move in ready_moves(role):
        project = project_with(clip, move)
        at_rest = {"entrance": 89, "exit": 0, "loop": 0}[role]
        assert (painted(project, at_rest) == still).all(), move.name
