"""Exported files, reread with PyAV."""

import hashlib
import os
import random
import signal
import subprocess
import sys
import time
from fractions import Fraction

import av
import msgspec
import numpy as np
import pytest
from av.video.reformatter import VideoReformatter
from PIL import Image

from builders import project_of, psnr, title
from rovix.demo import DEMO_PROJECT
from rovix.engine.export import export
from rovix.engine.export_job import ExportJob
from rovix.engine.open_project import OpenProject, open_project
from rovix.engine.unsaved_work import tidy
from rovix.errors import RovixError
from rovix.formats import write_project
from rovix.media.encoders.container import as_coded
from rovix.model import FootageClip, Media, StillClip
from rovix.model.delivery import Delivery
from rovix.motion.ready_moves import wave
from rovix.time import Span

replace = msgspec.structs.replace
SMALL = (320, 180)


def file_digest(path) -> str:
    return hashlib.blake2b(path.read_bytes()).hexdigest()


@pytest.fixture(scope="module")
def whole_demo(tmp_path_factory):
    """`rovix export demo`, as a user would run it."""
    out = tmp_path_factory.mktemp("export") / "demo.mp4"
    command = [sys.executable, "-m", "rovix", "export", "demo", str(out), "--size", "960x540"]
    subprocess.run(command, check=True)
    return out


def test_the_demo_is_exported_whole_with_its_tags(whole_demo):
    with av.open(str(whole_demo)) as container:
        video, sound = container.streams.video[0], container.streams.audio[0]
        assert (video.codec_context.name, sound.codec_context.name) == ("h264", "aac")
        assert (video.width, video.height, video.average_rate) == (960, 540, 30)
        context = video.codec_context
        assert (context.colorspace, context.color_primaries, context.color_trc, context.color_range) == (
            1,
            1,
            1,
            1,
        )
        assert sum(1 for _ in container.decode(video)) == 480
    with av.open(str(whole_demo)) as container:
        samples = sum(frame.samples for frame in container.decode(audio=0))
        # Within one AAC frame of 1024 samples of the picture's 16 s.
        assert abs(samples - 16 * 48_000) <= 1024


def test_the_demo_looks_like_its_stills_sent_the_same_way(whole_demo, demo, tmp_path):
    """At every tenth frame: the still as a file, through the same 4:2:0 round trip, at 38 dB."""
    worst, worst_luma = 99.0, 99.0
    with av.open(str(whole_demo)) as container:
        for number, frame in enumerate(container.decode(video=0)):
            if number % 10:
                continue
            demo.save_picture(number, tmp_path / "s.png", (960, 540))
            rgba = np.asarray(Image.open(tmp_path / "s.png").convert("RGBA"))
            expected = as_coded(rgba[..., [2, 1, 0, 3]], "yuv420p", VideoReformatter())
            luma = [plane_of(picture) for picture in (frame, expected)]
            worst_luma = min(worst_luma, psnr(*luma))
            worst = min(worst, psnr(frame.to_ndarray(format="rgb24"), expected.to_ndarray(format="rgb24")))
    assert worst >= 38
    assert worst_luma >= 42


def plane_of(frame):
    plane = frame.planes[0]
    return np.frombuffer(plane, np.uint8).reshape(plane.height, plane.line_size)[:, : plane.width]


@pytest.mark.parametrize("rate", ["24000/1001", "25", "60"])
def test_rate_size_range_and_sound_are_what_was_asked(tmp_path, rate, demo):
    tree = demo.tree
    tree = replace(tree, sequences=(replace(tree.sequence, rate=rate),))
    out = tmp_path / "a.mp4"
    export(ExportJob(tree, DEMO_PROJECT.parent, out, Span(10, 21), Delivery(SMALL)), workers=2)
    with av.open(str(out)) as container:
        video = container.streams.video[0]
        assert video.average_rate == Fraction(rate)
        assert (video.width, video.height) == SMALL
        times = [frame.pts * frame.time_base for frame in container.decode(video)]
        assert times == [pytest.approx(n / Fraction(rate), abs=1e-4) for n in range(11)]
    with av.open(str(out)) as container:
        samples = sum(frame.samples for frame in container.decode(audio=0))
        assert abs(samples - 11 / Fraction(rate) * 48_000) <= 1024


def test_the_file_does_not_depend_on_the_number_of_workers(tmp_path, demo):
    files = []
    for workers in (1, 2, 3):
        out = tmp_path / f"{workers}.mp4"
        export(ExportJob(demo.tree, demo.base, out, Span(12, 40), Delivery(SMALL)), workers)
        files.append(file_digest(out))
    assert len(set(files)) == 1


def test_the_same_picture_is_the_same_bytes_again_and_in_another_process(demo):
    program = (
        "import hashlib; from rovix import open_project; from rovix.demo import DEMO_PROJECT\n"
        "project = open_project(DEMO_PROJECT)\n"
        "for frame in (20, 130, 236, 410):\n"
        "    print(hashlib.blake2b(project.picture(frame, (640, 360)).tobytes()).hexdigest())\n"
    )
    told = subprocess.run(
        [sys.executable, "-c", program], capture_output=True, text=True, check=True
    ).stdout.split()
    for _ in range(2):
        here = [
            hashlib.blake2b(demo.picture(f, (640, 360)).tobytes()).hexdigest() for f in (20, 130, 236, 410)
        ]
        assert here == told


def test_stopping_leaves_nothing_under_the_final_name(tmp_path, demo):
    out = tmp_path / "a.mp4"
    out.write_bytes(b"before")

    def stop(done, total):
        if done == 5:
            raise KeyboardInterrupt

    with pytest.raises(KeyboardInterrupt):
        export(ExportJob(demo.tree, demo.base, out, Span(0, 60), Delivery(SMALL)), 2, stop)
    assert out.read_bytes() == b"before"
    assert os.listdir(tmp_path) == ["a.mp4"]


def test_progress_counts_every_picture(tmp_path, demo):
    seen = []
    job = ExportJob(demo.tree, demo.base, tmp_path / "a.mp4", Span(0, 6), Delivery(SMALL))
    export(job, 2, lambda done, total: seen.append((done, total)))
    assert seen == sorted(seen)
    assert sorted(set(seen)) == [(n, 6) for n in range(7)]


@pytest.mark.parametrize(
    ("changes", "said"),
    [
        ({"span": Span(0, 481)}, "frames 0 to 479"),
        ({"span": Span(5, 5)}, "nothing to export"),
        ({"out": "a.avi"}, "should end in one of .mp4"),
        ({"out": "no/a.mp4"}, "does not exist"),
        ({"size": (321, 180)}, "take 322 x 180"),
        ({"base": "elsewhere"}, r"Media not found: hill-morning.mp4, kite-crossing.mp4"),
    ],
)
def test_what_cannot_be_exported_is_said_in_a_sentence(tmp_path, demo, changes, said):
    fields = {"out": "a.mp4", "base": str(demo.base), "span": Span(0, 5), "size": SMALL} | changes
    job = ExportJob(
        demo.tree,
        tmp_path / fields["base"],
        tmp_path / fields["out"],
        fields["span"],
        Delivery(fields["size"]),
    )
    with pytest.raises(RovixError, match=said):
        export(job, 1)
    assert os.listdir(tmp_path) == []


def test_footage_of_high_dynamic_range_is_refused_where_it_is_used(tmp_path):
    (tmp_path / "sun.mov").write_bytes(b"never opened")
    media = Media(id="m", path="sun.mov", kind="footage", width=64, height=36, length=1.0, transfer="HLG")
    project = project_of(FootageClip(id="c", media="m", length=5), media=(media,))
    with pytest.raises(RovixError, match=r"high dynamic range .*sun\.mov \(HLG\)\. Convert it"):
        export(ExportJob(project, tmp_path, tmp_path / "a.mp4", Span(0, 5), Delivery(SMALL)), 1)
    export(
        ExportJob(project_of(title(length=2), media=(media,)), tmp_path, tmp_path / "a.mp4", Span(0, 2)), 1
    )


def test_a_picture_that_cannot_be_read_stops_the_export_by_name(tmp_path):
    (tmp_path / "bad.png").write_bytes(b"no picture")
    media = Media(id="bad", path="bad.png", kind="still", width=10, height=10)
    project = project_of(StillClip(id="c", media="bad", length=5), media=(media,))
    with pytest.raises(RovixError, match=r"Frame 0 could not be drawn. bad\.png"):
        export(ExportJob(project, tmp_path, tmp_path / "a.mp4", Span(0, 5), Delivery(SMALL)), 1)


def test_a_project_without_sound_gives_a_file_without_sound(tmp_path):
    export(
        ExportJob(project_of(title(length=3)), tmp_path, tmp_path / "a.mp4", Span(0, 3), Delivery(SMALL)), 1
    )
    with av.open(str(tmp_path / "a.mp4")) as container:
        assert len(container.streams.audio) == 0


def test_killed_while_exporting_nothing_broken_has_the_final_name(tmp_path):
    """Twenty exports killed at random moments; the file under the name is the last whole one."""
    chance = random.Random(9)
    project, out = tmp_path / "p.rovix", tmp_path / "a.mp4"
    write_project(project, project_of(title("Larkmoor", length=240, moves=[wave()])))
    with open_project(project) as opened:
        opened.export(out, Span(0, 4), SMALL, 1)
    good = file_digest(out)
    command = [
        sys.executable,
        "-m",
        "rovix",
        "export",
        str(project),
        str(out),
        "--size",
        "640x360",
        "--workers",
        "1",
    ]
    for _ in range(20):
        process = subprocess.Popen(command, stderr=subprocess.DEVNULL, start_new_session=True)
        time.sleep(chance.uniform(0.3, 2.2))
        if process.poll() is None:
            process.send_signal(signal.SIGKILL)
        process.wait()
        with av.open(str(out)) as container:
            count = sum(1 for _ in container.decode(video=0))
        assert (count == 4 and file_digest(out) == good) or count == 240
    # The next start clears what was half written, without a further export of that name.
    tidy(tmp_path / "none")
    assert sorted(os.listdir(tmp_path)) == ["a.mp4", "p.rovix"]


def test_frames_outside_of_the_sequence_are_refused(demo, tmp_path):
    with pytest.raises(RovixError, match="frames 0 to 479"):
        demo.picture(480)
    empty = OpenProject(project_of(), tmp_path)
    with pytest.raises(RovixError, match="empty"):
        empty.picture(0)
