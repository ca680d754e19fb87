"""Every table by the kind of clip or of plan has every kind, and what kinds have is what the types say."""

from __future__ import annotations

from pathlib import Path
from typing import get_args

import pytest

from rovix.desktop.clip_views import CLIP_VIEWS
from rovix.errors import RovixError
from rovix.media.encoders import CODECS, ENCODERS, encoder_for
from rovix.model import PictureClip, Transform, clip_kinds, track
from rovix.model.clip_kinds import CLIP_KINDS
from rovix.model.fields import channel_fields
from rovix.model.roles import ROLES, Role
from rovix.model.transform_channels import ROWS, TRANSFORM_CHANNELS
from rovix.motion.clip_plans import PLANS
from rovix.motion.plan import LayerPlan
from rovix.motion.subject import _SUBJECTS
from rovix.paint.painter import Painter


def test_every_kind_of_clip_is_shown() -> None:
    assert set(CLIP_VIEWS) == set(CLIP_KINDS)


@pytest.mark.parametrize("table", [PLANS, _SUBJECTS])
def test_every_layer_is_evaluated(table: dict[type, object]) -> None:
    assert set(table) == set(get_args(PictureClip))


@pytest.mark.parametrize(
    ("kinds", "union"),
    [
        (clip_kinds._PLACED, track.PictureClip),
        (clip_kinds._WORDED, track.TextClip),
        (clip_kinds._PLAYED, track.TimedClip),
        (clip_kinds._HEARD, track.HeardClip),
        (clip_kinds._FITTED, track.FittedClip),
        (clip_kinds._FILLED, track.FilledClip),
        (clip_kinds._TRACKED, track.GroupClip),
        (clip_kinds._NESTING, track.NestingClip),
    ],
)
def test_what_kinds_have_is_what_their_types_say(kinds: frozenset[type], union: object) -> None:
    assert kinds == set(get_args(union) or (union,))


def test_every_kind_of_plan_is_painted() -> None:
    painters = Painter(pictures=None)._painters  # type: ignore[arg-type]
    # By name: a class with slots is made twice, and the first of them is a subclass still.
    assert {kind.__name__ for kind in painters} == {kind.__name__ for kind in LayerPlan.__subclasses__()}


def test_every_role_has_its_row() -> None:
    assert tuple(ROLES) == get_args(Role)
    assert all(ROLES[facts.reverse].reverse == role for role, facts in ROLES.items() if facts.reverse)


def test_encoders_are_found_by_their_suffix() -> None:
    assert len(set(CODECS)) == len(ENCODERS), "each is named by its codec alone"
    assert encoder_for(Path("Kites.MP4")).codec == "h264"
    assert encoder_for(Path("kites.jpeg")).codec == "jpg"
    for kind in ENCODERS:
        assert encoder_for(Path(f"kites{kind.suffix}"), kind.codec) is kind
    with pytest.raises(RovixError, match=r"kites\.txt should end in one of \.mp4, \.mov, \.webm"):
        encoder_for(Path("kites.txt"))
    with pytest.raises(RovixError, match=r"\.mp4 has no vp9; there is h264, h265"):
        encoder_for(Path("kites.mp4"), "vp9")


def test_every_channel_of_a_transform_has_its_row() -> None:
    assert set(TRANSFORM_CHANNELS) == set(channel_fields(Transform)) - {"path"}
    assert {channel.row for channel in TRANSFORM_CHANNELS.values() if not channel.pivot} == set(ROWS)
