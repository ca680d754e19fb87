"""Sixty small projects, each wrong in one known way, and sixty right ones close to the limit.

Contrast and flashes: WCAG 2.2 (1.4.3, 2.3.1), safe areas: EBU R 95 and SMPTE ST 2046-1, as their numbers are
stated where they are used. Reading speeds and what judders: common practice, no source.
"""

import dataclasses
import wave
from functools import partial

import numpy as np
import pytest
from msgspec.structs import replace

from builders import project_of, title
from rovix.check.audience import AUDIENCES
from rovix.check.finding import KINDS
from rovix.check.legibility import FINDING, LEAST
from rovix.check.words import watch
from rovix.edit.check_fixes import FIXES, fixed
from rovix.engine.checking import Asked, checked
from rovix.errors import RovixError
from rovix.media.probe import probe
from rovix.model import (
    Amount,
    BackgroundClip,
    Box,
    Crossing,
    Departure,
    Fill,
    GroupClip,
    InnerKey,
    Key,
    Keys,
    Linear,
    Look,
    Move,
    Outline,
    Plain,
    Shutter,
    Sound,
    SoundClip,
    Stop,
    Track,
    Transform,
)
from rovix.model.accepted import Accepted, KeepFree
from rovix.model.consistency import inconsistencies
from rovix.model.effects.wipe import Wipe

SIZE, RATE = (640, 360), 30
LIGHT, DARK = "#f4f0e6", "#101418"
SAFE_X, SAFE_Y = 32.0, 18.0  # 5 % of each side


def words(content="Kites", seconds=4.0, size=40.0, colour=LIGHT, moves=(), family="Outfit", **fields):
    look = fields.pop("look", None) or Look(parts=(Fill(id="f", paint=Plain(colour=colour)),))
    text = {"size": size, "family": family, "weight": 700} | fields.pop("text", {})
    return title(
        content, round(seconds * RATE), id=fields.pop("id", "w"), text=text, look=look, moves=moves, **fields
    )


def over(*clips, ground=DARK, length=None, **fields):
    last = length or max(clip.start + clip.length for clip in clips)
    return project_of(
        BackgroundClip(id="g", length=last, background=Plain(colour=ground)), *clips, size=SIZE, **fields
    )


def moving(role="entrance", length=0.3, **channels):
    made = tuple(Departure(channel=name, amount=Amount(value=value)) for name, value in channels.items())
    return Move(id=f"{role}-{'-'.join(channels)}", role=role, length=length, channels=made)


def keys(*points):
    return Keys(
        id="k", keys=tuple(Key(frame=frame, value=value, curve=curve) for frame, value, curve in points)
    )


def reading(letters, share, audience="adults"):
    """Words shown for a share of the time that they need."""
    content = ("abcde " * 20)[:letters].strip()
    need = max(LEAST, FINDING + len(content) / AUDIENCES[audience].letters)
    return over(words(content, need * share + 1 / RATE, size=14.0))


def contrast(colour, ground, size=40.0, **fields):
    return over(words(colour=colour, size=size, **fields), ground=ground)


def at(x=0.0, y=0.0, **fields):
    return over(words("MMM", transform=Transform(x=x, y=y), text={"align": "centre"}, **fields))


def free(top):
    return over(words("MMM"), keep_free=(KeepFree(id="k", name="Buttons", top=top, bottom=1.0),))


def jump(px, **fields):
    shutter = fields.pop("shutter", None)
    move = Move(
        id="in", role="entrance", length=0.2, channels=(Departure(channel="x", amount=Amount(value=-px * 6)),)
    )
    return over(words("Go", moves=(move,), shutter=shutter))


def crawl(frame, **fields):
    return over(words("Run " * 8, 6.0, size=30.0, crossing=Crossing(speed=frame, counted="frame"), **fields))


def spin(turn):
    move = Move(id="spin", role="entrance", length=1.0, piece_curve="linear",
                channels=(Departure(channel="rotation_z", amount=Amount(value=turn * RATE)),))  # fmt: skip
    return over(words("Spin", moves=(move,)))


def jolt(back, name="x"):
    """To 100 in 30 frames, on at another speed."""
    way = keys((0, 0.0, "linear"), (30, 30.0, "linear"), (60, 30.0 + back, "linear"))
    return over(words("Go", transform=Transform(**{name: way})))


def loop(off, channel="y"):
    inner = tuple(InnerKey(at=a, amount=Amount(value=v)) for a, v in ((0.0, 0.0), (0.5, 10.0), (1.0, off)))
    move = Move(id="loop", role="loop", length=1.0, channels=(Departure(channel=channel, keys=inner),))
    return over(words("Go", moves=(move,)))


def overlap(y, content="Under"):
    return over(words("Over", id="a"), words(content, id="b", transform=Transform(y=y)))


def short(entrance, leave, seconds):
    moves = (moving("entrance", entrance, opacity=0.0), moving("exit", leave, opacity=0.0))
    return over(words("Hi", seconds, moves=moves))


def flashing(hertz, low=0, high=255, width=1.0, colour=None, seconds=2):
    """A box of a share of the frame that goes on and off."""
    shade = colour or (lambda v: f"#{v:02x}{v:02x}{v:02x}")
    steps, length = [], seconds * RATE
    for number in range(int(seconds * hertz * 2)):
        first = round(number * RATE / hertz / 2)
        last = min(length, round((number + 1) * RATE / hertz / 2))
        steps.append(
            BackgroundClip(
                id=f"s{number}",
                start=first,
                length=last - first,
                background=Plain(colour=shade(high if number % 2 else low)),
                transform=Transform(scale_x=width),
            )
        )
    made = project_of(size=SIZE, background=shade(low))
    track = Track(id="flash", clips=tuple(steps))
    return replace(made, sequences=(replace(made.sequence, tracks=(track,)),))


def red(value):
    return f"#{value:02x}0000"


OUTLINED = Look(parts=(Fill(id="f", paint=Plain(colour=LIGHT)), Outline(id="o", width=4.0, colour="#000000")))
BOXED = Look(parts=(Fill(id="f", paint=Plain(colour=LIGHT)), Box(id="b", paint=Plain(colour=DARK))))
FAINT = Look(parts=(Fill(id="f", paint=Plain(colour=LIGHT)), Box(id="b", paint=Plain(colour="#e8e4da"))))
FADED = (moving("entrance", 0.2, opacity=0.0),)
TYPED = (Move(id="t", role="entrance", length=3.0, pieces="letters", at_once=0.0, before="hidden"),)

WRONG = [
    *(("reading", partial(reading, n, 0.93)) for n in (12, 24, 40, 60)),
    ("reading", lambda: over(words("Speaking " * 6, 2.4, size=20.0, moves=FADED))),
    ("reading", partial(crawl, 7.0)),
    ("contrast", partial(contrast, "#52585c", DARK, 18.0)),
    ("contrast", partial(contrast, "#5d5d5d", "#101418")),
    ("contrast", partial(contrast, LIGHT, "#e0e0e0")),
    ("contrast", partial(contrast, LIGHT, "#e0e0e0", look=FAINT)),
    ("contrast", partial(contrast, "#ff0000", "#0000ff")),
    ("contrast", partial(contrast, "#c9c9c9", "#808080")),
    ("safe", partial(at, x=270.0)), ("safe", partial(at, x=-270.0)),
    ("safe", partial(at, y=155.0)), ("safe", partial(at, y=-155.0)),
    ("safe", partial(at, y=keys((0, 0.0, "linear"), (119, 156.0, "linear")))),
    ("cut", partial(at, x=310.0)), ("cut", partial(at, x=-310.0)), ("cut", partial(at, y=178.0)),
    ("cut", partial(at, y=-178.0)), ("cut", lambda: over(words("A long line of words that is cut off", size=60.0))),
    ("keep-free", partial(free, 0.5)), ("keep-free", partial(free, 0.45)), ("keep-free", partial(free, 0.53)),
    ("jump", partial(jump, 60.0)), ("jump", partial(jump, 90.0)), ("jump", partial(crawl, 12.0)),
    ("still", partial(spin, 350.0)), ("still", partial(spin, 365.0)), ("still", partial(spin, -355.0)),
    ("jolt", partial(jolt, 60.0)), ("jolt", partial(jolt, -30.0)), ("jolt", partial(jolt, 5.0)),
    ("jolt", partial(jolt, 90.0, "rotation_z")),
    ("loop", partial(loop, 4.0)), ("loop", partial(loop, 9.0, "rotation_z")), ("loop", partial(loop, 0.5)),
    ("overlap", partial(overlap, 0.0)), ("overlap", partial(overlap, 15.0)), ("overlap", partial(overlap, -20.0)),
    ("unshown", lambda: over(words("Hi", 4.0, transform=Transform(opacity=0.0)))),
    ("unshown", lambda: over(words("Hi", 2.0, effects=(Wipe(id="x", share=0.7),)))),
    ("unshown", lambda: over(words("Hello", effects=(Wipe(id="x", share=keys((0, 0.0, "linear"), (119, 0.9, "linear"))),)))),
    ("face", lambda: over(words(family="Nowhere Sans"))),
    ("face", lambda: over(words(family="Gone Serif", size=30.0))),
    ("letters", lambda: over(words("Kites \u1c80 \ua9a0"))), ("letters", lambda: over(words("\U0001e100"))),
    ("flash", partial(flashing, 4)), ("flash", partial(flashing, 5, 0, 100)), ("flash", partial(flashing, 7.5, 120, 190)),
    ("flash", partial(flashing, 10, 0, 255, 0.12)), ("flash", partial(flashing, 5, 0, 95)),
    ("red-flash", partial(flashing, 5, 0, 255, colour=red)), ("red-flash", partial(flashing, 7.5, 60, 255, colour=red)),
    ("red-flash", partial(flashing, 5, 0, 90, colour=red)),
]  # fmt: skip

RIGHT = [
    *(("reading", partial(reading, n, 1.05)) for n in (12, 24, 40, 60)),
    ("reading", lambda: over(words("Speaking " * 6, 6.0, size=20.0, moves=FADED))),
    ("reading", lambda: over(words("Typed as it is read", 6.0, size=30.0, moves=TYPED))),
    ("contrast", partial(contrast, "#8b8b8b", DARK, 30.0)),
    ("contrast", partial(contrast, "#6a6a6a", "#101418")),
    ("contrast", partial(contrast, LIGHT, "#e0e0e0", look=OUTLINED)),
    ("contrast", partial(contrast, LIGHT, "#e0e0e0", look=BOXED)),
    ("contrast", partial(contrast, "#ffff00", "#0000ff")),
    ("contrast", partial(contrast, "#101418", "#808080")),
    ("safe", partial(at, x=228.0)), ("safe", partial(at, x=-228.0)),
    ("safe", partial(at, y=145.0)), ("safe", partial(at, y=-145.0)),
    ("safe", partial(at, moves=(moving("entrance", 0.4, y=300.0),), shutter=Shutter(on=True))),
    ("safe", lambda: over(words("Crawls over all of it", 12.0, size=24.0, crossing=Crossing()))),
    ("cut", partial(at, x=228.0)), ("cut", lambda: over(words("Roll", 6.0, crossing=Crossing(way="up")))),
    ("cut", lambda: over(words("A line that is not cut", size=44.0))),
    ("keep-free", partial(free, 0.55)), ("keep-free", partial(free, 0.7)), ("keep-free", partial(free, 0.9)),
    ("jump", partial(jump, 9.0)), ("jump", partial(jump, 90.0, shutter=Shutter(on=True))),
    ("jump", lambda: over(words("Run now", 8.0, size=30.0, crossing=Crossing(speed=2.6, counted="frame")))),
    ("still", partial(spin, 20.0)), ("still", partial(spin, 45.0)), ("still", partial(spin, 180.0)),
    ("jolt", partial(jolt, 30.0)), ("jolt", partial(jolt, 31.0)), ("jolt", partial(jolt, 30.0, "rotation_z")),
    ("jolt", lambda: over(words("Go", transform=Transform(x=keys((0, 0.0, "smooth"), (30, 20.0, "smooth"), (60, 60.0, "smooth")))))),
    ("loop", partial(loop, 0.0)), ("loop", partial(loop, 360.0, "rotation_z")),
    ("loop", lambda: over(words("Go", moves=(Move(id="l", role="loop", length=1.0, channels=(
        Departure(channel="opacity", keys=(InnerKey(at=0.0, amount=Amount(value=1.0), curve="hold"),
                                           InnerKey(at=1.0, amount=Amount(value=0.0)))),)),)))),
    ("overlap", partial(overlap, 60.0)), ("overlap", partial(overlap, -44.0)), ("overlap", partial(overlap, 0.0, "Over")),
    ("overlap", lambda: over(words("First", id="a"), words("Then", id="b", start=4 * RATE))),
    ("unshown", lambda: over(words("Hi", 4.0, transform=Transform(opacity=0.9)))),
    ("unshown", lambda: over(words("Hi", 6.0, moves=TYPED))),
    ("unshown", partial(short, 0.5, 0.5, 3.0)),
    ("face", lambda: over(words(family="Oswald"))), ("face", lambda: over(words(family="Caveat"))),
    ("letters", lambda: over(words("Ωmega, ля, ש, 風"))), ("letters", lambda: over(words("One\ttab\nand a line"))),
    ("flash", partial(flashing, 3)), ("flash", partial(flashing, 10, 0, 88)), ("flash", partial(flashing, 10, 232, 255)),
    ("flash", partial(flashing, 10, 0, 255, 0.07)), ("flash", partial(flashing, 1)),
    ("red-flash", partial(flashing, 3, 0, 255, colour=red)), ("red-flash", partial(flashing, 5, 0, 70, colour=red)),
    ("red-flash", partial(flashing, 7.5, 40, 80, colour=red)),
]  # fmt: skip


def found(made, base, **asked):
    return {one.kind for one in checked(made, base, Asked(**asked))}


def needs(kind):
    return {"pictures": kind in ("contrast", "busy"), "flashes": "flash" in kind, "sound": False}


@pytest.mark.parametrize(("kind", "made"), WRONG, ids=[f"{kind}-{n}" for n, (kind, _) in enumerate(WRONG)])
def test_what_is_wrong_is_found(kind, made, tmp_path):
    assert kind in found(made(), tmp_path, **needs(kind))


@pytest.mark.parametrize(("kind", "made"), RIGHT, ids=[f"{kind}-{n}" for n, (kind, _) in enumerate(RIGHT)])
def test_what_is_right_and_close_to_the_limit_is_not(kind, made, tmp_path):
    assert found(made(), tmp_path, **needs(kind)) == set()


def tone(path, peak):
    with wave.open(str(path), "wb") as file:
        file.setnchannels(1)
        file.setsampwidth(2)
        file.setframerate(48000)
        samples = np.sin(np.arange(24000) * 2 * np.pi * 480 / 48000) * peak * 32767
        file.writeframes(samples.astype("<i2").tobytes())


@pytest.mark.parametrize(("gain", "wrong"), [(9.0, True), (6.5, True), (5.5, False), (0.0, False)])
def test_sound_beyond_full_scale_is_found_where_it_is(gain, wrong, tmp_path):
    tone(tmp_path / "a.wav", 0.5)
    media = replace(probe(tmp_path / "a.wav", tmp_path), id="m", path="a.wav")
    clip = SoundClip(id="c", media="m", start=20, length=15, sound=Sound(gain=gain))
    made = over(words("Hello", 4.0), clip, media=(media,))
    told = [
        one for one in checked(made, tmp_path, Asked(pictures=False, flashes=False)) if one.kind == "clipping"
    ]
    assert bool(told) == wrong
    if wrong:
        assert 20 <= told[0].frame < 35
        assert told[0].amount == pytest.approx(gain - 6.02, abs=0.2)


@pytest.mark.parametrize("there", [False, True])
def test_a_file_that_is_gone_is_found_and_named(there, tmp_path):
    path = tmp_path / "a.wav"
    tone(path, 0.5)
    media = replace(probe(path, tmp_path), id="m", path="a.wav")
    if not there:
        path.unlink()
    made = over(words("Hello", 4.0), SoundClip(id="c", media="m", length=15), media=(media,))
    told = [one for one in checked(made, tmp_path) if one.kind == "media"]
    assert [one.said for one in told] == ([] if there else ["a.wav is not there."])


def test_busy_ground_behind_thin_strokes_is_told_with_a_figure(tmp_path):
    made = striped(weight=200)
    told = [one for one in checked(made, tmp_path, Asked(flashes=False, sound=False)) if one.kind == "busy"]
    assert len(told) == 1
    assert "varies by" in told[0].said
    assert "busy" not in found(striped(weight=900), tmp_path, flashes=False, sound=False)


def striped(weight):
    """Dark words on stripes."""
    stops = tuple(
        Stop(at=min(1.0, (n + half) / 40), colour=("#f0f0f0", "#707070")[n % 2])
        for n in range(40)
        for half in (0, 1)
    )
    made = over(words("Kites fly", size=64.0, colour="#000000", text={"weight": weight}))
    ground = BackgroundClip(id="g", length=120, background=Linear(angle=0.0, stops=stops))
    tracks = (replace(made.sequence.tracks[0], clips=(ground,)), *made.sequence.tracks[1:])
    return replace(made, sequences=(replace(made.sequence, tracks=tracks),))


def test_what_was_accepted_is_left_out_and_only_that(tmp_path):
    made = at(x=310.0)
    (one,) = checked(made, tmp_path, Asked(pictures=False, flashes=False))
    sequence = replace(made.sequence, accepted=(Accepted(kind=one.kind, layer=one.layer, reason="Meant so"),))
    assert checked(replace(made, sequences=(sequence,)), tmp_path, Asked(pictures=False, flashes=False)) == []
    other = replace(made.sequence, accepted=(Accepted(kind="safe", layer=one.layer),))
    assert checked(replace(made, sequences=(other,)), tmp_path, Asked(pictures=False, flashes=False)) == [one]


def test_words_in_a_group_are_looked_at_where_they_are_seen(tmp_path):
    inner = words("MMM", id="inner")
    group = GroupClip(
        id="group", length=120, tracks=(Track(id="t", clips=(inner,)),), transform=Transform(x=310.0)
    )
    told = checked(over(group), tmp_path, Asked(pictures=False, flashes=False))
    assert [(one.kind, one.layer) for one in told] == [("cut", "group")]


def test_audiences_read_at_their_own_pace(tmp_path):
    made = reading(40, 1.05)
    assert found(made, tmp_path, pictures=False, flashes=False) == set()
    assert found(made, tmp_path, pictures=False, flashes=False, audience="children") == {"reading"}


def test_nothing_is_found_in_nothing_and_steps_are_told(tmp_path):
    assert checked(project_of(size=SIZE), tmp_path) == []
    far, parts = [], []
    told = checked(at(x=310.0), tmp_path, None, lambda done, total: far.append((done, total)), parts.append)
    assert far[-1][0] == far[-1][1]
    assert [one for part in parts for one in part.found] == told
    assert frozenset().union(*(part.kinds for part in parts)) == set(KINDS)

    class Enough(Exception):
        pass

    def stop(done, total):
        if done > 2:
            raise Enough

    with pytest.raises(Enough):
        checked(at(), tmp_path, None, stop)
    with pytest.raises(KeyError):
        checked(at(), tmp_path, Asked(audience="nobody"))


def test_every_kind_of_check_has_a_wrong_one_here():
    told = {kind for kind, _ in WRONG} | {"clipping", "media", "busy"}
    assert told == set(KINDS)
    assert len(WRONG) + 4 >= 60
    assert len(RIGHT) + 4 >= 60


def fixable():
    """Every wrong project above whose kind has fixes, with each of them."""
    busy = ("busy", partial(striped, 200))
    return [
        (kind, made, fix, number)
        for number, (kind, made) in enumerate([*WRONG, busy])
        for fix in KINDS[kind].fixes
    ]


# What no such fix can help: words that no frame shows whole whatever their moves, and a crawl that is too fast.
BEYOND = {
    ("jump-crawl", "slower"),
    ("unshown", "longer"),
    ("unshown", "quicker"),
    ("reading-crawl", "longer"),
    ("reading-crawl", "quicker"),
}


@pytest.mark.parametrize(
    ("kind", "made", "fix", "number"), fixable(), ids=lambda v: v if isinstance(v, str) else ""
)
def test_a_fix_clears_its_check_and_changes_its_layer_alone(kind, made, fix, number, tmp_path):
    before = made()
    told = [one for one in checked(before, tmp_path, Asked(**needs(kind))) if one.kind == kind]
    crawls = any(getattr(c, "crossing", None) for t in before.sequence.tracks for c in t.clips)
    if (f"{kind}-crawl" if crawls else kind, fix) in BEYOND:
        return
    if kind == "reading" and fix == "quicker" and not spans_of(before):
        with pytest.raises(RovixError, match="even without its moves"):
            fixed(before, told[0], fix)
        return
    after = fixed(before, told[0], fix)
    assert inconsistencies(after) == []
    left = {one.kind for one in checked(after, tmp_path, Asked(**needs(kind)))}
    assert kind not in left, (fix, left)
    clips = [[c for t in p.sequence.tracks for c in t.clips] for p in (before, after)]
    changed = [a.id for a, b in zip(*clips, strict=True) if a != b]
    assert changed == [told[0].layer]
    rest = replace(after.sequence, tracks=before.sequence.tracks)
    assert replace(after, sequences=(rest,)) == before


def spans_of(made):
    """Whether its moves take time that can be spared."""
    clip = next(c for t in made.sequence.tracks for c in t.clips if c.id == "w")
    return clip.moves and clip.length > 80


def test_words_whose_moves_take_all_their_time_are_helped_either_way(tmp_path):
    made = over(
        words("Hello there", 2.0, moves=(moving("entrance", 1.5, opacity=0.0), moving("exit", 1.5, y=50.0)))
    )
    (one,) = [f for f in checked(made, tmp_path, Asked(pictures=False, flashes=False)) if f.kind == "reading"]
    for fix in ("longer", "quicker"):
        after = fixed(made, one, fix)
        assert checked(after, tmp_path, Asked(pictures=False, flashes=False)) == []


def test_a_fix_that_cannot_be_says_why(tmp_path):
    blocked = over(words("Speaking " * 6, 2.4, size=20.0))
    after = words("Next", id="next", start=73)
    tracks = tuple(
        replace(t, clips=(*t.clips, after)) if t.clips[0].id == "w" else t for t in blocked.sequence.tracks
    )
    made = replace(blocked, sequences=(replace(blocked.sequence, tracks=tracks),))
    (one,) = [f for f in checked(made, tmp_path, Asked(pictures=False, flashes=False)) if f.kind == "reading"]
    with pytest.raises(RovixError, match="no room"):
        fixed(made, one, "longer")
    with pytest.raises(RovixError, match="not there any more"):
        fixed(made, replace_layer(one, "gone"), "longer")
    assert {fix for kind in KINDS.values() for fix in kind.fixes} == set(FIXES)


def replace_layer(finding, layer):
    return dataclasses.replace(finding, layer=layer)


def test_words_of_one_group_are_told_together_whichever_is_asked_for_first(tmp_path):
    pale = words("Pale", id="pale", transform=Transform(y=-60.0))
    other = words("Paler", id="paler", transform=Transform(y=60.0))
    group = GroupClip(
        id="group", length=120, tracks=(Track(id="a", clips=(pale,)), Track(id="b", clips=(other,)))
    )
    made = over(group, ground="#e8e6e0")
    for first in ("", "group"):
        steps = []
        told = checked(made, tmp_path, Asked(first=first, flashes=False, sound=False), None, steps.append)
        assert [(one.kind, one.layer, one.name) for one in told] == [
            ("contrast", "group", "Pale"), ("contrast", "group", "Paler"),
        ]  # fmt: skip
        own = [step for step in steps if step.layer == "group"]
        assert [len(step.found) for step in own] == [2] * (2 if first else 1)


@pytest.mark.parametrize("speed", [8.5, 12.0, 20.0])
def test_the_speed_of_a_crawl_is_told_as_it_is(speed, tmp_path):
    told = [
        one
        for one in checked(crawl(speed), tmp_path, Asked(pictures=False, flashes=False))
        if one.kind == "jump"
    ]
    assert told[0].amount == pytest.approx(speed)
    assert told[0].limit == pytest.approx(0.012 * SIZE[0])


def test_the_speed_of_an_entrance_is_that_of_its_curve(tmp_path):
    """Linear over 6 frames from 540 px away: 90 px a frame."""
    move = Move(
        id="in", role="entrance", length=0.2, piece_curve="linear",
        channels=(Departure(channel="x", amount=Amount(value=-720.0)),),
    )  # fmt: skip
    made = over(words("Go", moves=(move,)))
    (one,) = [f for f in checked(made, tmp_path, Asked(pictures=False, flashes=False)) if f.kind == "jump"]
    assert one.amount == pytest.approx(720.0 / 6)
    slower = fixed(made, one, "slower")
    assert checked(slower, tmp_path, Asked(pictures=False, flashes=False)) == []


@pytest.mark.parametrize("px", [1.0, 13.0, 60.0])
def test_how_far_words_are_outside_is_told_to_a_px(px, tmp_path):
    """Safe: 5 % of each side (EBU R 95, graphics)."""
    right = at()
    box = max(box[2] for box in boxes_of(right))
    x = SIZE[0] - SAFE_X - box + px
    (one,) = checked(at(x=x), tmp_path, Asked(pictures=False, flashes=False))
    assert one.kind == ("safe" if px <= SAFE_X else "cut")
    assert one.amount == pytest.approx(px if px <= SAFE_X else px - SAFE_X, abs=0.1)


def boxes_of(made):
    return [seen.box for one in watch(made) for _, seen in one.stay]


def test_of_a_long_sequence_a_part_is_looked_at_and_frames_are_those_of_the_whole(tmp_path):
    out = {"align": "centre"}
    made = over(
        words("MMM", id="early", transform=Transform(x=310.0), text=out),
        words("MMM", id="late", start=300, transform=Transform(x=310.0), text=out),
    )
    told = checked(made, tmp_path, Asked(within=(290, 10_000), flashes=False, sound=False))
    assert [(one.kind, one.layer) for one in told] == [("cut", "late")]
    assert 300 <= told[0].frame < 420
    flashes = flashing(5, seconds=4)
    late = replace(
        flashes, sequences=(replace(flashes.sequence, tracks=(moved(flashes.sequence.tracks[0], 90),)),)
    )
    (one,) = checked(late, tmp_path, Asked(within=(80, 210), pictures=False, sound=False))
    assert one.kind == "flash"
    assert 100 <= one.frame < 210
    assert checked(late, tmp_path, Asked(within=(0, 88), sound=False)) == []
    assert checked(late, tmp_path, Asked(within=(5_000, 6_000))) == []


def moved(track, frames):
    return replace(track, clips=tuple(replace(clip, start=clip.start + frames) for clip in track.clips))
