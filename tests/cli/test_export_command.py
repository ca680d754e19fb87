"""rovix export: presets, loudness, every sequence, ranges that are kept, a cluster."""

import av
import msgspec
import numpy as np
import pytest
from click.testing import CliRunner

from builders import project_of, title
from rovix.cli import main
from rovix.engine import export as engine_export
from rovix.engine.kept_shelf import PresetShelf
from rovix.formats import write_project
from rovix.formats.delivery_file import PRESETS, SavedPreset
from rovix.media.encoders.wav import ENCODERS as WAV
from rovix.media.loudness import measured
from rovix.media.probe import probe
from rovix.model import SoundClip
from rovix.model.delivery import Delivery
from rovix.time import Rate

replace = msgspec.structs.replace
SIZE = (64, 36)


def run(*arguments: object):
    return CliRunner().invoke(main, [str(argument) for argument in arguments])


@pytest.fixture
def project(tmp_path, monkeypatch):
    """Words and a quiet tone of three seconds, in two sequences."""
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    at = np.arange(48_000 * 3) / 48_000
    wave = (0.1 * np.sin(2 * np.pi * 997 * at)).astype(np.float32)
    writer = WAV[0].quality().begin(tmp_path / "tone.wav", SIZE, Rate("30"), True)
    writer.add_sound(np.stack([wave, wave], axis=1))
    writer.close()
    tone = probe(tmp_path / "tone.wav")
    made = project_of(title("Wind", length=30), SoundClip(id="t", media=tone.id, length=30), media=(tone,),
                      size=SIZE, rate="10")  # fmt: skip
    other = project_of(title("Kite", id="kite", length=6), size=SIZE, rate="10").sequence
    other = replace(other, id="two", name="Short cut", tracks=(replace(other.tracks[0], id="over"),))
    path = tmp_path / "p.rovix"
    write_project(path, replace(made, sequences=(*made.sequences, other)))
    return path


def loudness_of(path):
    with av.open(str(path)) as container:
        parts = [frame.to_ndarray() for frame in container.decode(audio=0)]
    samples = np.concatenate([part.reshape(-1, 2) for part in parts]).astype(np.float32)
    return measured([samples / (32768 if parts[0].dtype == np.int16 else 1)])


def test_sound_is_brought_to_a_loudness_and_said(project, tmp_path):
    result = run("export", project, tmp_path / "a.wav", "--loudness", -23)
    assert result.exit_code == 0
    assert "Sound now −23.0 LUFS" in result.stderr
    assert loudness_of(tmp_path / "a.wav").integrated == pytest.approx(-23, abs=0.1)


def test_peaks_stay_under_the_ceiling_and_that_is_said(project, tmp_path):
    result = run("export", project, tmp_path / "a.wav", "--loudness", -5)
    found = loudness_of(tmp_path / "a.wav")
    assert found.peak <= -0.9
    assert "not brought to −5.0 LUFS" in result.stderr or found.integrated == pytest.approx(-5, abs=0.1)


def test_a_preset_is_taken_by_name_or_file_and_what_is_given_goes_over_it(project, tmp_path):
    PresetShelf(tmp_path / "data" / "rovix" / "presets").save(
        SavedPreset("Tiny", Delivery((32, 18), "h264", "small"))
    )
    PRESETS.write(tmp_path / "other.json", SavedPreset("Other", Delivery((80, 46), "h265")))
    asked = {"a": ["--preset", "tiny"], "b": ["--preset", "tiny", "--codec", "h265", "--size", "96x54"],
             "c": ["--preset", tmp_path / "other.json"]}  # fmt: skip
    found = {}
    for name, options in asked.items():
        out = tmp_path / f"{name}.mp4"
        assert run("export", project, out, "--to", 2, *options).exit_code == 0
        with av.open(str(out)) as container:
            context = container.streams.video[0].codec_context
            found[name] = (context.name, context.width, context.height)
    assert found == {"a": ("h264", 32, 18), "b": ("hevc", 96, 54), "c": ("hevc", 80, 46)}
    result = run("export", project, tmp_path / "d.mp4", "--preset", "gone")
    assert result.exit_code == 1
    assert "'For the web'" in result.stderr
    assert "'Tiny'" in result.stderr


@pytest.mark.parametrize(
    ("how", "said"),
    [
        ({"codec": "divx"}, "there is no divx"),
        ({"codec": "png", "quality": "small"}, "one quality only"),
        ({"codec": "h264", "loudness": 3}, "loudness"),
        ({"codec": "h264", "size": [0, 18]}, "size"),
    ],
)
def test_a_preset_that_cannot_be_is_refused_by_field(project, tmp_path, how, said):
    data = {"format": "rovix-preset", "version": 2, "name": "Bad", "preset": how}
    (tmp_path / "bad.json").write_bytes(msgspec.json.encode(data))
    result = run("export", project, tmp_path / "a.mp4", "--preset", tmp_path / "bad.json")
    assert result.exit_code == 1
    assert said in result.stderr
    assert not (tmp_path / "a.mp4").exists()


def test_the_ready_presets_are_all_sound(tmp_path):
    shelf = PresetShelf(tmp_path / "none")
    assert len(shelf.all()) >= 4
    assert shelf.problems == []


def test_every_sequence_is_a_file(project, tmp_path):
    assert run("export", project, tmp_path / "kites.gif", "--every-sequence").exit_code == 0
    made = sorted(path.name for path in tmp_path.glob("*.gif"))
    assert made == ["kites-sequence.gif", "kites-short-cut.gif"]


def test_ranges_are_kept_in_a_folder_until_all_are_done(project, tmp_path, monkeypatch):
    kept = tmp_path / "kept"
    join, seen = engine_export._put_together, []

    def noted(job, ranges, progress):
        seen.extend(wanted.path for wanted in ranges if wanted.is_there)
        return join(job, ranges, progress)

    monkeypatch.setattr(engine_export, "_put_together", noted)
    assert run("export", project, tmp_path / "a.mp4", "--keep", kept).exit_code == 0
    assert [path.parent for path in seen] == [kept]
    assert not kept.exists()


def test_a_cluster_that_is_not_there_is_a_sentence(project, tmp_path, monkeypatch):
    monkeypatch.setattr("rovix.engine.cluster._SECONDS", 1)
    result = run("export", project, tmp_path / "a.mp4", "--scheduler", "tcp://127.0.0.1:9")
    assert result.exit_code == 1
    assert "No scheduler answers" in result.stderr
