"""Every form of file that is delivered, read again by PyAV and Pillow: frames, times, colours, alpha, sound."""

import json
import struct
import subprocess
from fractions import Fraction
from pathlib import Path
from shutil import which

import av
import numpy as np
import pytest
from av.codec import Codec
from msgspec.structs import replace
from PIL import Image

from builders import project_of, psnr, title
from rovix.engine.export import export, folder_of
from rovix.engine.export_job import ExportJob
from rovix.engine.open_project import OpenProject
from rovix.errors import RovixError
from rovix.media.encoders import ENCODERS, encoder_for
from rovix.media.probe import probe
from rovix.media.stills import straight
from rovix.model import BackgroundClip, Fill, FootageClip, Look, Marker, Plain, Shadow
from rovix.model.delivery import Delivery
from rovix.motion.ready_moves import rise_and_fade
from rovix.time import Span

SIZE = (320, 180)
LOOK = Look(parts=(Fill(id="f", paint=Plain(colour="#f2b13c")), Shadow(id="s", blur=8.0, colour="#203040")))
VIDEOS = [kind for kind in ENCODERS if kind.pictures and not kind.folder and not kind.single]
CLEAR = [kind for kind in ENCODERS if kind.alpha == "full" and not kind.single]
ALPHA_ERROR = {"png": 0, "apng": 0, "prores-4444": 2, "vp9": 8}
"""At most, of 255; asked of each form."""


def words(background="#00000000", rate="30", length=24):
    clip = title("Kite", length, [rise_and_fade()], look=LOOK, text={"size": 90.0})
    return project_of(clip, background=background, size=SIZE, rate=rate)


def written(kind, project, folder, span=None, workers=1):
    out = folder / f"made{kind.suffix}"
    span = span or Span(0, project.sequence.length)
    export(ExportJob(project, folder, out, span, Delivery(codec=kind.codec)), workers)
    return folder_of(out) if kind.folder else out


def frames(path):
    """Pictures with their times in seconds; VP9's alpha is decoded by its own library alone."""
    with av.open(str(path)) as container:
        stream = container.streams.video[0]
        context = stream.codec_context
        if context.name == "vp9":
            context = Codec("libvpx-vp9", "r").create()
            context.extradata = stream.codec_context.extradata
        found = []
        for packet in container.demux(stream):
            for frame in context.decode(packet if packet.size else None):
                found.append((Fraction(frame.pts) * (stream.time_base or frame.time_base), frame))
        return found


def delays(path):
    """The delays of an APNG's frame control chunks (PNG, third edition, 11.3.6.2)."""
    data, at, found = path.read_bytes(), 8, []
    while at < len(data):
        length, name = int.from_bytes(data[at : at + 4]), data[at + 4 : at + 8]
        if name == b"fcTL":
            over, under = struct.unpack(">HH", data[at + 8 + 20 : at + 8 + 24])
            found.append(Fraction(over, under or 100))
        at += 12 + length
    return found


def drawn(project, folder, frame):
    """(height, width, 4) straight BGRA."""
    with OpenProject(project, folder) as opened:
        return straight(opened.picture(frame))


@pytest.mark.parametrize("kind", VIDEOS, ids=lambda kind: kind.codec)
@pytest.mark.parametrize("rate", ["30", "24000/1001", "50"])
def test_as_many_frames_as_there_are_each_at_its_time(kind, rate, tmp_path):
    """Times to half a tick of the file, however many frames: rounding never adds up."""
    project = words("#102030", rate, length=60)
    path = written(kind, project, tmp_path)
    found = frames(path)
    assert len(found) == 60
    fps = project.sequence.frame_rate.fraction
    if kind.codec == "apng":
        # FFmpeg adds rounded delays up as it reads; what counts is what the file says.
        assert set(delays(path)) == {1 / fps}
        return
    with av.open(str(path)) as container:
        tick = Fraction(1, 100) if kind.codec == "gif" else container.streams.video[0].time_base
    for number, (time, _) in enumerate(found):
        assert abs(time - found[0][0] - number / fps) <= tick / 2, number


@pytest.mark.parametrize("kind", CLEAR, ids=lambda kind: kind.codec)
def test_alpha_comes_back_as_it_was(kind, tmp_path):
    project = words()
    path = written(kind, project, tmp_path)
    for number in (0, 8, 20):
        if kind.folder:
            got = np.asarray(Image.open(path / f"{number:06d}.png").convert("RGBA"))
        else:
            got = frames(path)[number][1].to_ndarray(format="rgba")
        asked = drawn(project, tmp_path, number)
        apart = np.abs(got[..., 3].astype(int) - asked[..., 3].astype(int))
        assert apart.max() <= ALPHA_ERROR[kind.codec], number
        solid = asked[..., 3] == 255
        if solid.any() and kind.codec in ("png", "apng"):
            assert np.array_equal(got[solid][:, :3], asked[solid][:, 2::-1])
        elif solid.any():
            assert np.abs(got[solid][:, :3].astype(int) - asked[solid][:, 2::-1].astype(int)).mean() < 6


def test_a_single_picture_is_the_frame_and_nothing_else(tmp_path):
    project = words()
    job = ExportJob(project, tmp_path, tmp_path / "a.png", Span(8, 9), Delivery(codec="picture"))
    export(job, 1)
    got = np.asarray(Image.open(tmp_path / "a.png"))
    assert np.array_equal(got, drawn(project, tmp_path, 8)[..., [2, 1, 0, 3]])
    with pytest.raises(RovixError, match="takes one frame, not 2"):
        export(ExportJob(project, tmp_path, tmp_path / "b.png", Span(8, 10), Delivery(codec="picture")), 1)
    assert [path.name for path in tmp_path.iterdir()] == ["a.png"]


def test_pictures_too_narrow_for_h265_are_refused(tmp_path):
    job = ExportJob(words("#102030"), tmp_path, tmp_path / "a.mp4", Span(0, 6), Delivery((48, 28), "h265"))
    with pytest.raises(RovixError, match="a width of 64 px or more, not 48"):
        export(job, 1)


def test_a_gif_is_clear_or_not_and_its_colours_are_near(tmp_path):
    project = words()
    path = written(encoder_for(Path("a.gif")), project, tmp_path)
    with Image.open(path) as image:
        image.seek(20)
        got = np.asarray(image.convert("RGBA")).astype(int)
    asked = drawn(project, tmp_path, 20).astype(int)
    assert set(np.unique(got[..., 3])) == {0, 255}
    sure = (asked[..., 3] > 140) | (asked[..., 3] < 110)
    assert np.array_equal(got[sure][:, 3] == 255, asked[sure][:, 3] >= 128)
    solid = asked[..., 3] == 255
    assert np.abs(got[solid][:, :3] - asked[solid][:, 2::-1]).mean() < 8
    with pytest.raises(RovixError, match="at most 50 pictures a second, not 60"):
        written(encoder_for(Path("a.gif")), words(rate="60"), tmp_path)


@pytest.mark.parametrize("kind", [k for k in VIDEOS if k.alpha == "none"], ids=lambda kind: kind.codec)
def test_what_is_clear_is_over_black_where_no_alpha_is_kept(kind, tmp_path):
    path = written(kind, words(), tmp_path)
    got = frames(path)[0][1].to_ndarray(format="rgb24")
    assert got.mean() < 3


@pytest.mark.parametrize(
    ("codec", "suffix"),
    [("h265", ".mp4"), ("prores-422", ".mov"), ("prores-4444", ".mov"), ("vp9", ".webm"), ("av1", ".webm")],
)
def test_colours_are_tagged_bt709_and_names_are_those_that_players_ask_for(codec, suffix, tmp_path):
    path = written(encoder_for(Path(f"a{suffix}"), codec), words("#804020"), tmp_path)
    with av.open(str(path)) as container:
        context = container.streams.video[0].codec_context
        # ITU-T H.273: 1 is BT.709 for primaries, transfer and matrix; range 1 is limited.
        assert (context.colorspace, context.color_range) == (1, 1)
        tags = {"h265": "hvc1", "prores-422": "apch", "prores-4444": "ap4h"}
        assert context.codec_tag == tags.get(codec, context.codec_tag)


def test_sound_is_to_the_sample_where_it_is_lossless(tmp_path, demo):
    """WAV and MOV against the mix itself; 16 bits are half a step off at most."""
    from rovix.media.library import MediaLibrary
    from rovix.media.mix import Mixer

    span = Span(30, 75)
    mixer = Mixer(demo.tree.sequence, MediaLibrary(demo.tree, demo.base).sound, demo.tree.sequences)
    asked = np.clip(np.concatenate([mixer.mix(Span(f, f + 1)) for f in range(span.start, span.end)]), -1, 1)
    for kind in (encoder_for(Path("a.wav")), encoder_for(Path("a.mov"), "prores-422")):
        out = tmp_path / f"a{kind.suffix}"
        export(ExportJob(demo.tree, demo.base, out, span, Delivery((64, 36), kind.codec)), 1)
        with av.open(str(out)) as container:
            got = np.concatenate([f.to_ndarray().reshape(-1, 2) for f in container.decode(audio=0)])
        assert len(got) == len(asked) == 72_000
        assert np.abs(got / 32767 - asked).max() <= 0.5 / 32767 + 1e-6


def test_numbered_pictures_replace_older_ones_and_nothing_else(tmp_path):
    kind = encoder_for(Path("a.jpg"))
    project = words("#405060")
    folder = written(kind, project, tmp_path)
    assert [item.name for item in sorted(folder.iterdir())] == [f"{n:06d}.jpg" for n in range(24)]
    written(kind, project, tmp_path, Span(0, 5))
    assert len(list(folder.iterdir())) == 5
    (folder / "000002.png").write_text("another's")
    with pytest.raises(RovixError, match=r"holds other files, such as 000002\.png"):
        written(kind, project, tmp_path)
    (folder / "000002.png").unlink()
    (folder / "notes.txt").write_text("mine")
    with pytest.raises(RovixError, match=r"holds other files, such as notes\.txt"):
        written(kind, project, tmp_path)
    assert (folder / "notes.txt").read_text() == "mine"
    assert len(list(folder.iterdir())) == 6
    assert [item.name for item in tmp_path.iterdir()] == ["made"]


def test_a_stopped_export_leaves_the_older_pictures(tmp_path):
    kind = encoder_for(Path("a.png"))
    folder = written(kind, words(), tmp_path)
    before = {item.name: item.read_bytes() for item in folder.iterdir()}

    def stop(done, total):
        if done == 3:
            raise KeyboardInterrupt

    with pytest.raises(KeyboardInterrupt):
        export(
            ExportJob(words("#ffffff"), tmp_path, tmp_path / "made.png", Span(0, 24), Delivery(codec="png")),
            1,
            stop,
        )
    assert {item.name: item.read_bytes() for item in folder.iterdir()} == before
    assert [item.name for item in tmp_path.iterdir()] == ["made"]


def test_layers_are_delivered_alone_over_nothing(tmp_path):
    ground = BackgroundClip(id="ground", name="Hill", length=24, background=Plain(colour="#204020"))
    clip = title("Kite", 24, look=LOOK, text={"size": 90.0}, name="Name")
    project = project_of(ground, clip, size=SIZE)
    only = project_of(clip, size=SIZE, background="#00000000")
    with OpenProject(project, tmp_path) as opened:
        opened.export(tmp_path / "a.png", codec="png", workers=1, layers=("Name",))
        with pytest.raises(RovixError, match=r"There is no layer 'Nobody'\. There are 'Hill', 'Name'"):
            opened.export(tmp_path / "b.png", layers=("Nobody",))
    got = np.asarray(Image.open(tmp_path / "a" / "000010.png").convert("RGBA"))[..., [2, 1, 0, 3]]
    assert np.array_equal(got, drawn(only, tmp_path, 10))


@pytest.mark.skipif(which("ffprobe") is None, reason="Debian's ffprobe is not here")
@pytest.mark.parametrize("kind", VIDEOS, ids=lambda kind: kind.codec)
def test_another_reader_counts_the_same_frames(kind, tmp_path):
    path = written(kind, words("#405060"), tmp_path)
    said = subprocess.run(
        ["ffprobe", "-v", "error", "-count_frames", "-select_streams", "v:0", "-show_entries",
         "stream=nb_read_frames,codec_name", "-of", "json", str(path)],
        capture_output=True, check=True,
    )  # fmt: skip
    assert json.loads(said.stdout)["streams"][0]["nb_read_frames"] == "24"


@pytest.mark.parametrize(
    "kind", [*CLEAR[:2], *[k for k in ENCODERS if k.codec in ("apng", "gif")]], ids=lambda kind: kind.codec
)
def test_what_was_delivered_comes_in_again_as_it_was(kind, tmp_path):
    """Brought in, over a ground it looks as the words themselves do over it, at every frame."""
    project = words()
    path = written(kind, project, tmp_path)
    media = probe(path, tmp_path)
    assert (media.kind, media.alpha) == ("footage", True)
    assert Fraction(media.rate) == pytest.approx(30, rel=0.2), "of a GIF it is guessed"
    assert media.length == pytest.approx(24 / 30, abs=0.02)
    ground = BackgroundClip(id="ground", length=24, background=Plain(colour="#3060a0"))
    clip = FootageClip(id="made", media=media.id, length=24)
    again = project_of(ground, clip, size=SIZE, media=(media,))
    plain = project_of(
        ground, title("Kite", 24, [rise_and_fade()], look=LOOK, text={"size": 90.0}), size=SIZE
    )
    least = {"gif": 24, "apng": 50, "prores-4444": 38, "vp9": 34}[kind.codec]
    for number in (0, 3, 12, 23):
        with OpenProject(again, tmp_path) as opened:
            got = opened.picture(number)
        with OpenProject(plain, tmp_path) as opened:
            asked = opened.picture(number)
        assert psnr(got[..., :3], asked[..., :3]) > least, number


@pytest.mark.parametrize("codec", ["h264", "prores-422", "vp9"])
def test_markers_are_chapters(codec, tmp_path):
    kind = next(kind for kind in ENCODERS if kind.codec == codec)
    markers = (
        Marker(frame=2),
        Marker(frame=10, name="Wind"),
        Marker(frame=20, name="Kites"),
        Marker(frame=55),
    )
    project = words("#405060", length=60)
    project = replace(project, sequences=(replace(project.sequence, markers=markers),))
    path = written(kind, project, tmp_path, Span(10, 50))
    with av.open(str(path)) as container:
        found = [
            (part["metadata"]["title"], part["start"] * part["time_base"], part["end"] * part["time_base"])
            for part in container.chapters()
        ]
    assert [name for name, _, _ in found] == ["Wind", "Kites"]
    times = [[float(start), float(end)] for _, start, end in found]
    assert times == [pytest.approx([0, 1 / 3], abs=0.001), pytest.approx([1 / 3, 4 / 3], abs=0.001)]
