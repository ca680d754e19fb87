"""OpenTimelineIO: ours comes back whole, others' as far as there are words for it; checked by its own package."""

import json
import random
from fractions import Fraction

import msgspec
import numpy as np
import opentimelineio as otio
import pytest
from opentimelineio.opentime import RationalTime, TimeRange

from builders import project_of, title
from rovix.demo import DEMO_PROJECT
from rovix.edit.groups import group_clips
from rovix.edit.media_paths import with_base
from rovix.engine.open_project import OpenProject
from rovix.errors import RovixError
from rovix.formats import read_project
from rovix.formats.timeline_in import read_timeline
from rovix.formats.timeline_out import timeline_bytes
from rovix.model import (
    FootageClip,
    GroupClip,
    Marker,
    Playing,
    Sequence,
    SequenceClip,
    SoundClip,
    Track,
    Transition,
)
from rovix.motion.ready_moves import pop

replace = msgspec.structs.replace


def there_and_back(project, folder, change=lambda timeline: None):
    content, told = timeline_bytes(project)
    timeline = otio.adapters.read_from_string(content.decode(), "otio_json")
    change(timeline)
    path = folder / "cut.otio"
    otio.adapters.write_to_file(timeline, str(path))
    return *read_timeline(path), told


def clips_of(timeline, name):
    return [item for item in timeline.find_children() if getattr(item, "name", None) == name]


@pytest.fixture(scope="module")
def demo_here(tmp_path_factory):
    folder = tmp_path_factory.mktemp("cut")
    return folder, with_base(read_project(DEMO_PROJECT), DEMO_PROJECT.parent, folder)


def test_the_demo_comes_back_whole_and_plays_equal_pictures(demo_here):
    folder, project = demo_here
    back, lost, told = there_and_back(project, folder)
    assert lost == []
    assert any("Words are generators" in line for line in told)
    assert back == project
    with OpenProject(project, folder) as one, OpenProject(back, folder) as other:
        for frame in range(0, project.sequence.length, 60):
            assert np.array_equal(one.picture(frame, (320, 180)), other.picture(frame, (320, 180)))


def test_other_programs_find_clips_gaps_joins_and_what_is_played(tmp_path, demo_here):
    """By the package's own model of it."""
    _, project = demo_here
    timeline = otio.adapters.read_from_string(timeline_bytes(project)[0].decode(), "otio_json")
    sequence = project.sequence
    assert timeline.name == sequence.name
    assert [track.kind for track in timeline.tracks] == [
        "Audio" if track.kind == "sound" else "Video" for track in sequence.tracks
    ]
    assert [marker.name for marker in timeline.tracks.markers] == [marker.name for marker in sequence.markers]
    for track, ours in zip(timeline.tracks, sequence.tracks, strict=True):
        items = [item for item in track if isinstance(item, otio.schema.Clip | otio.schema.Stack)]
        starts = [track.range_of_child(item).start_time.value for item in items]
        assert starts == [clip.start for clip in ours.clips]
        assert [item.trimmed_range().duration.value for item in items] == [clip.length for clip in ours.clips]
        for item, clip in zip(items, ours.clips, strict=True):
            if isinstance(clip, FootageClip):
                assert item.media_reference.target_url.endswith(".mp4")
                assert item.trimmed_range().start_time.value == clip.offset


@pytest.mark.parametrize("rate", ["24000/1001", "25", "30000/1001", "60", "12.5"])
def test_rates_nesting_speeds_and_joins_come_back(tmp_path, rate):
    inner = [title("One", id="one", length=40), title("Two", id="two", start=50, length=20)]
    project = project_of(*inner, title("Three", id="three", start=30, length=10), rate=rate)
    project, _ = group_clips(project, ["one", "two"])
    joined = [
        replace(title("Four", id="four", length=11)),
        replace(title("Five", id="five", start=11, length=30, moves=[pop()]),
                transition=Transition(id="j", kind="wipe", length=0.37)),
    ]  # fmt: skip
    shown = SequenceClip(id="shown", sequence="other", start=60, length=33, offset=5,
                         playing=Playing(speed=0.5, backwards=True, span=20))  # fmt: skip
    other = Sequence(id="other", name="Other", rate=rate, tracks=(Track(id="o", clips=tuple(joined)),))
    sequence = project.sequence
    tracks = (*sequence.tracks, Track(id="last", name="Last", hidden=True, clips=(shown,)))
    marked = replace(
        sequence, tracks=tracks, markers=(Marker(id="m", frame=7, name="Here"), Marker(id="n", frame=7))
    )
    project = replace(project, sequences=(marked, other))
    back, lost, told = there_and_back(project, tmp_path)
    assert lost == []
    assert back == project
    assert any("There and back" in line for line in told)
    # And the other way round, with the joins on the first sequence.
    turned = replace(project, sequences=(other,))
    assert there_and_back(turned, tmp_path)[0] == turned


def test_what_another_program_moves_trims_and_takes_away_comes_back_so(tmp_path):
    follower = replace(title("Two", id="two", length=20), parent="one")
    project = project_of(title("One", id="one", length=40, moves=[pop()]), follower)
    moves = project.sequence.tracks[0].clips[0].moves

    def cut(timeline):
        first, second = timeline.tracks
        first.insert(0, otio.schema.Gap(duration=RationalTime(15, 30)))
        first[1].source_range = TimeRange(RationalTime(0, 30), RationalTime(25, 30))
        second.append(second[0].deepcopy())

    back, lost, _ = there_and_back(project, tmp_path, cut)
    assert lost == []
    one, two, doubled = [clip for track in back.sequence.tracks for clip in track.clips]
    assert (one.start, one.length, one.moves, one.text.content) == (15, 25, moves, "One")
    assert (two.id, two.parent, two.start) == ("two", "one", 0)
    assert doubled.id != "two"
    assert (doubled.start, doubled.text.content) == (20, "Two")

    back, _, _ = there_and_back(project, tmp_path, lambda timeline: timeline.tracks.pop(0))
    (alone,) = [clip for track in back.sequence.tracks for clip in track.clips]
    assert (alone.id, alone.parent) == ("two", None)


@pytest.fixture
def foreign(demo_data, tmp_path):
    """A timeline as another program would write it, at 29.97, over the demo's files."""
    rate = 30000 / 1001
    clip = lambda name, start, length, path: otio.schema.Clip(  # noqa: E731
        name,
        otio.schema.ExternalReference(target_url=path),
        TimeRange(RationalTime(start, rate), RationalTime(length, rate)),
    )
    film = (demo_data / "hill-morning.mp4").as_uri()
    timeline = otio.schema.Timeline("Harbour cut", global_start_time=RationalTime(107892, rate))
    video = otio.schema.Track("V1", kind="Video")
    video.extend([clip("Hill", 10, 50, film), clip("Kites", 0, 40, str(demo_data / "kite-crossing.mp4"))])
    video.insert(
        1, otio.schema.Transition("d", "SMPTE_Dissolve", RationalTime(5, rate), RationalTime(7, rate))
    )
    video.append(otio.schema.Gap(duration=RationalTime(20, rate)))
    slow = clip("Slow", 0, 30, film)
    slow.effects.append(otio.schema.LinearTimeWarp(time_scalar=-0.5))
    video.append(slow)
    nested = otio.schema.Stack(
        "Nested", source_range=TimeRange(RationalTime(2, rate), RationalTime(20, rate))
    )
    nested.append(otio.schema.Track("Inner", [clip("Deep", 0, 30, film)], kind="Video"))
    video.append(nested)
    title_ = otio.schema.Clip("Their title", otio.schema.GeneratorReference(generator_kind="text"),
                              TimeRange(RationalTime(0, rate), RationalTime(9, rate)))  # fmt: skip
    gone = clip("Gone", 3, 12, "gone%20away.mov")
    sounds = otio.schema.Track("A1", [clip("Sound", 0, 90, film)], kind="Audio")
    timeline.tracks.extend([video, otio.schema.Track("V2", [title_, gone], kind="Video"), sounds])
    timeline.tracks.markers.append(
        otio.schema.Marker("Cut", TimeRange(RationalTime(33, rate), RationalTime(1, rate)))
    )
    video[0].markers.append(
        otio.schema.Marker("In the clip", TimeRange(RationalTime(22, rate), RationalTime(0, rate)))
    )
    path = tmp_path / "harbour.otio"
    otio.adapters.write_to_file(timeline, str(path))
    return path


def test_a_timeline_of_another_program_is_taken_over_as_far_as_there_are_words(foreign, demo_data):
    project, told = read_timeline(foreign)
    sequence = project.sequence
    assert (project.name, sequence.frame_rate.fraction) == ("Harbour cut", Fraction(30000, 1001))
    assert sequence.size == (project.media[0].width, project.media[0].height)
    hill, kites, slow, group = sequence.tracks[0].clips
    assert (hill.start, hill.length, hill.offset) == (0, 50, 10)
    assert (kites.start, kites.transition.kind) == (50, "dissolve")
    assert kites.transition.length == pytest.approx(12 * 1001 / 30000)
    assert (slow.start, slow.playing) == (110, Playing(speed=0.5, backwards=True))
    assert isinstance(group, GroupClip)
    assert (group.start, group.length, group.offset) == (140, 20, 2)
    assert group.tracks[0].clips[0].name == "Deep"
    (gone,) = sequence.tracks[1].clips
    assert (gone.start, gone.length, gone.offset) == (9, 12, 3)
    (sound,) = sequence.tracks[2].clips
    assert isinstance(sound, SoundClip)
    assert [(marker.frame, marker.name) for marker in sequence.markers] == [(12, "In the clip"), (33, "Cut")]
    paths = {media.path.rsplit("/", 1)[-1] for media in project.media}
    assert paths == {"hill-morning.mp4", "kite-crossing.mp4", "gone away.mov"}
    assert any("gone away.mov" in line for line in told)
    assert any("titles of other programs left out" in line for line in told)
    with OpenProject(project, foreign.parent) as opened:
        assert opened.picture(30, (320, 180)).any()


@pytest.mark.parametrize(
    "content",
    [b"", b"{", b"[]", b"\xff\xfe", b'{"OTIO_SCHEMA": "Clip.1"}', b'{"OTIO_SCHEMA": "Timeline.1", "tracks": 3}',
     b'{"OTIO_SCHEMA": "Timeline.1"', b"[" * 5000, b'{"OTIO_SCHEMA": "None.99"}', b"null"],
)  # fmt: skip
def test_what_is_no_timeline_is_a_sentence(tmp_path, content):
    path = tmp_path / "bad.otio"
    path.write_bytes(content)
    with pytest.raises(RovixError, match=r"bad\.otio"):
        read_timeline(path)
    with pytest.raises(RovixError, match="could not be opened"):
        read_timeline(tmp_path / "none.otio")


def refusal_of(path):
    try:
        read_timeline(path)
    except RovixError as wrong:
        return str(wrong)
    return None


def test_a_timeline_with_anything_changed_in_it_opens_or_is_refused_by_name(tmp_path):
    """Values of ours replaced by others at random: a project that can be opened, or a sentence."""
    chance = random.Random(4)
    project = project_of(
        title("One", id="one", length=40, moves=[pop()]), title("Two", id="two", start=3, length=9)
    )
    whole = json.loads(timeline_bytes(project)[0])
    path = tmp_path / "odd.otio"
    refused = 0
    for _ in range(150):
        data = json.loads(json.dumps(whole))
        at = data
        while isinstance(at, dict | list) and at:
            key = chance.choice(list(at)) if isinstance(at, dict) else chance.randrange(len(at))
            if chance.random() < 0.25 or not isinstance(at[key], dict | list) or not at[key]:
                at[key] = chance.choice([None, -1, 1e30, "", "x" * 50, [], {}, True, [1], {"id": 3}])
                break
            at = at[key]
        path.write_text(json.dumps(data))
        said = refusal_of(path)
        refused += said is not None
        assert said is None or "odd.otio" in said
    assert 0 < refused < 150
