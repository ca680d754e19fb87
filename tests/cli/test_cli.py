"""The command line as a user meets it."""

import json
import subprocess
import sys

import av
import numpy as np
import pytest
from click.testing import CliRunner
from PIL import Image

from made_shots import film_of, shot
from rovix.cli import main
from rovix.demo import DATA, DEMO_PROJECT
from rovix.edit import change_transform
from rovix.edit.media_paths import with_base
from rovix.formats import read_project, write_project
from rovix.formats.move_file import SavedMove, write_move
from rovix.motion.ready_moves import ready_moves
from rovix.vision.alignment import similarity


def run(*arguments: object):
    return CliRunner().invoke(main, [str(argument) for argument in arguments])


def test_still_writes_a_png_of_the_size(tmp_path):
    assert run("picture", "demo", 110, tmp_path / "a.png", "--size", "480x270").exit_code == 0
    with Image.open(tmp_path / "a.png") as image:
        assert (image.size, image.mode) == ((480, 270), "RGBA")


def test_still_has_straight_alpha(tmp_path):
    run("new", tmp_path / "p.rovix", "--size", "320x180")
    data = json.loads((tmp_path / "p.rovix").read_text())
    data["sequences"][0]["background"] = "#00000000"
    data["sequences"][0]["tracks"] = [{"id": "t", "clips": [{"kind": "background", "id": "g", "length": 3, "background": {
        "fill": "plain", "colour": "#ff8040"}, "transform": {"opacity": 0.5}}]}]  # fmt: skip
    (tmp_path / "p.rovix").write_text(json.dumps(data))
    assert run("picture", tmp_path / "p.rovix", 0, tmp_path / "a.png").exit_code == 0
    pixel = np.asarray(Image.open(tmp_path / "a.png"))[90, 160].astype(int)
    assert np.abs(pixel - [255, 128, 64, 128]).max() <= 1


def test_describe_gives_json_and_a_readable_page():
    facts = json.loads(run("describe", "demo", 110, "--json").output)
    assert (facts["frame"], facts["rate"], facts["size"]) == (110, "30", [1920, 1080])
    assert {layer["kind"] for layer in facts["layers"]} == {"footage", "still", "text"}
    assert "Larkmoor" in run("describe", "demo", 110).output
    reading = next(
        layer["reading"] for layer in facts["layers"] if layer["name"] == "Larkmoor" or "reading" in layer
    )
    assert reading["stands"] > reading["needs"]
    assert reading["short"] is False
    assert reading["px_a_frame"] > 0


def test_moves_lists_the_ready_ones_and_ones_own(tmp_path, monkeypatch):
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path))
    folder = tmp_path / "rovix" / "moves"
    folder.mkdir(parents=True)
    write_move(folder / "own.json", SavedMove("Harbour", ready_moves("loop")[0]))
    (folder / "bad.json").write_text("{}", encoding="utf-8")
    result = run("moves", "--json")
    found = json.loads(result.stdout)
    ready = [move.name for role in ("entrance", "loop", "exit") for move in ready_moves(role)]
    assert [move["name"] for move in found if not move["own"]] == ready
    assert [(move["name"], move["role"]) for move in found if move["own"]] == [("Harbour", "loop")]
    assert "bad.json" in result.stderr
    lines = run("moves", "--role", "loop").stdout.splitlines()
    assert len(lines) == len(ready_moves("loop")) + 1
    assert lines[-1].startswith("loop      Harbour")
    assert lines[-1].endswith("your own")
    assert run("moves", "--role", "wander").exit_code == 2
    # The same from run to run.
    assert run("moves", "--json").stdout == result.stdout


def test_export_takes_both_ends_of_a_range(tmp_path):
    import av

    result = run(
        "export", "demo", tmp_path / "a.mp4", "--from", 10, "--to", 14, "--size", "320x180", "--workers", 1
    )
    assert result.exit_code == 0, result.output
    with av.open(str(tmp_path / "a.mp4")) as container:
        assert sum(1 for _ in container.decode(video=0)) == 5


def test_new_writes_an_empty_project_and_never_over_another(tmp_path):
    path = tmp_path / "a.rovix"
    assert run("new", path, "--size", "1080x1920", "--rate", "29.97").exit_code == 0
    project = read_project(path)
    assert (project.sequence.size, project.sequence.rate, project.name) == ((1080, 1920), "30000/1001", "a")
    before = path.read_bytes()
    assert run("new", path).exit_code == 1
    assert path.read_bytes() == before


def test_check_file_names_missing_media_and_fonts(tmp_path, demo):
    assert run("check-file", "demo").output == "demo is sound: 480 frames at 30 fps.\n"
    data = json.loads((demo.base / "larkmoor-kite-day.rovix").read_text())
    data["sequences"][0]["tracks"][4]["clips"][0]["text"]["family"] = "Larkmoor Grotesk"
    (tmp_path / "a.rovix").write_text(json.dumps(data))
    result = run("check-file", tmp_path / "a.rovix")
    assert result.exit_code == 1
    assert "Media not found: logo.png." in result.stderr
    assert "Font not here: Larkmoor Grotesk." in result.stderr


@pytest.mark.parametrize(
    ("arguments", "status", "said"),
    [
        (["picture", "demo", "999", "a.png"], 1, "frames 0 to 479"),
        (["picture", "gone.rovix", "0", "a.png"], 1, "could not be opened"),
        (["export", "demo", "a.avi"], 1, ".mp4"),
        (["picture", "demo", "0", "a.jpg"], 2, ".png"),
        (["picture", "demo", "0", "a.png", "--size", "wide"], 2, "1280x720"),
        (["picture", "demo", "0", "a.png", "--size", "8x8"], 2, "no size"),
        (["export", "demo", "a.mp4", "--from", "9", "--to", "3"], 2, "nothing from frame 9 to 3"),
        (["new", "a.rovix", "--rate", "fast"], 2, "29.97"),
        (["new", "a.txt"], 2, ".rovix"),
        (["fly"], 2, "fly"),
    ],
)
def test_errors_are_sentences_with_a_status(tmp_path, monkeypatch, arguments, status, said):
    monkeypatch.chdir(tmp_path)
    result = run(*arguments)
    assert result.exit_code == status
    assert said in result.stderr
    assert "Traceback" not in result.stderr
    assert list(tmp_path.iterdir()) == []


def test_it_runs_as_a_module():
    told = subprocess.run(
        [sys.executable, "-m", "rovix", "--version"], capture_output=True, text=True, check=True
    )
    assert told.stdout.startswith("rovix, version")


def test_ctrl_c_stops_an_export_without_a_trace(tmp_path):
    import signal
    import time

    out = tmp_path / "a.mp4"
    command = [sys.executable, "-m", "rovix", "export", "demo", str(out), "--workers", "1"]
    process = subprocess.Popen(command, stderr=subprocess.PIPE, start_new_session=True)
    end = time.monotonic() + 30
    while not list(tmp_path.iterdir()) and time.monotonic() < end:
        time.sleep(0.05)
    time.sleep(1.0)
    process.send_signal(signal.SIGINT)
    _, said = process.communicate(timeout=30)
    assert process.returncode == 130
    assert b"nothing was written" in said
    assert b"Traceback" not in said
    assert list(tmp_path.iterdir()) == []


def test_a_sequence_is_chosen_by_its_name(tmp_path):
    from builders import project_of, title
    from rovix.edit.sequences import add_sequence
    from rovix.formats import write_project
    from rovix.model import Sequence, Track

    tall = Sequence(id="tall", name="Tall", size=(36, 64), tracks=(Track(id="t", clips=(title(id="x"),)),))
    path = tmp_path / "two.rovix"
    write_project(path, add_sequence(project_of(title(id="a")), tall))
    facts = json.loads(run("describe", str(path), "0", "--json", "--sequence", "Tall").output)
    assert (facts["size"], facts["layers"][0]["id"]) == ([36, 64], "x")
    refused = run("describe", str(path), "0", "--sequence", "Wide")
    assert refused.exit_code == 1
    assert "'Sequence', 'Tall'" in refused.output


def test_captions_go_in_and_come_out(tmp_path):
    captions, made = tmp_path / "kites.srt", tmp_path / "made.rovix"
    captions.write_text(
        "1\n00:00:01,000 --> 00:00:02,000\nKites rise\n\n2\n00:00:03,000 --> 00:00:04,000\nat noon\n"
    )
    done = run("captions-in", "demo", str(captions), str(made), "--like", "Larkmoor")
    assert done.exit_code == 0, done.output
    assert "2 text layers from 2 captions" in done.output
    out = tmp_path / "all.srt"
    assert run("captions-out", str(made), str(out)).exit_code == 0
    assert "00:00:01,000 --> 00:00:02,000\nKites rise" in out.read_text()
    assert run("captions-in", "demo", str(captions), str(made), "--like", "nobody").exit_code == 1
    assert run("captions-in", "demo", str(tmp_path / "gone.srt"), str(made)).exit_code == 1
    assert run("captions-out", "demo", str(tmp_path / "a.txt")).exit_code == 2


def test_a_timeline_goes_out_and_comes_in_whole(tmp_path):
    out = run("timeline-out", "demo", tmp_path / "cut.otio")
    assert out.exit_code == 0
    assert "generators" in out.stderr
    assert run("timeline-in", tmp_path / "cut.otio", tmp_path / "b.rovix").exit_code == 0
    back = read_project(tmp_path / "b.rovix")
    assert back.sequence.length == 480
    assert run("check-file", tmp_path / "b.rovix").exit_code == 0
    again = run("timeline-in", tmp_path / "cut.otio", tmp_path / "b.rovix")
    assert again.exit_code == 1
    assert "exists already" in again.stderr
    assert run("timeline-out", "demo", tmp_path / "cut.xml").exit_code == 2


@pytest.fixture
def film(tmp_path):
    """Ten frames of a thing that goes 2 px to the right with each."""
    return film_of(tmp_path / "film.mkv", shot(lambda n: similarity(100 + 2 * n, 110))[:10])


def test_follow_gives_a_line_or_an_object_for_each_frame(film):
    found = json.loads(run("follow", film, 4, "78,80,60,60", "--rotation", "--json").stdout)
    assert [row["frame"] for row in found] == list(range(10))
    assert set(found[0]) == {"frame", "x", "y", "scale", "rotation", "confidence"}
    assert (found[4]["x"], found[4]["y"], found[4]["confidence"]) == (108.0, 110.0, 1.0)
    assert [row["x"] for row in found] == pytest.approx([100 + 2 * n for n in range(10)], abs=0.3)
    assert all(row["scale"] == pytest.approx(1.0) for row in found)
    assert len(run("follow", film, 4, "78,80,60,60").stdout.splitlines()) == 10
    assert run("follow", film, 4, "78,80,60").exit_code == 2
    assert run("follow", film, 40, "78,80,60,60").exit_code == 1


def test_matte_writes_a_grey_film_and_says_what_it_cannot(film, tmp_path):
    assert run("matte", film, 4, "60,65,96,96", tmp_path / "matte.mkv").exit_code == 0
    with av.open(str(tmp_path / "matte.mkv")) as container:
        assert sum(1 for _ in container.decode(video=0)) == 10
    refused = run("matte", film, 4, "60,65,96,96", tmp_path / "matte.mp4")
    assert refused.exit_code == 1
    assert "should end in .mkv" in refused.stderr


def test_check_ends_with_status_one_when_something_stands(tmp_path):
    """Exit 1 for what is wrong, 0 with hints alone, and everything by its kind as JSON."""
    hints = run("check", "demo", "--quick")
    assert hints.exit_code == 0
    assert "hint" in hints.stdout
    assert run("check", "demo", "--quick", "--fail-on", "anything").exit_code == 1
    assert run("check", "demo", "--quick", "--fail-on", "overlap").exit_code == 0
    project = read_project(DEMO_PROJECT)
    moved = change_transform(project, "title", 0, x=900.0)
    write_project(tmp_path / "off.rovix", with_base(moved, DATA, tmp_path))
    wrong = run("check", tmp_path / "off.rovix", "--quick", "--json")
    assert wrong.exit_code == 1
    told = json.loads(wrong.stdout)
    (cut,) = [one for one in told if one["kind"] == "cut"]
    assert (cut["layer"], cut["hint"]) == ("title", False)
    assert cut["way_on"]
    assert run("check", "demo", "--audience", "nobody").exit_code == 2
