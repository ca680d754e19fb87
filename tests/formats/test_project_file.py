import json
import os
import random
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import project_of, title
from rovix.demo import DEMO_PROJECT
from rovix.edit import change_text
from rovix.errors import RovixError
from rovix.formats import ProjectFileError, read_project, replacing, write_project
from rovix.formats.project_file import parse_project, project_bytes
from rovix.formats.schema import schema_text
from rovix.formats.whole_file import clear_begun
from rovix.model import Key, Keys, Transform
from rovix.motion.ready_moves import wave

ROOT = Path(__file__).parents[2]


@pytest.fixture
def data():
    return json.loads(DEMO_PROJECT.read_text(encoding="utf-8"))


def problems(tmp_path, data) -> ProjectFileError:
    path = tmp_path / "a.rovix"
    path.write_text(data if isinstance(data, str) else json.dumps(data), encoding="utf-8")
    with pytest.raises(ProjectFileError) as refused:
        read_project(path)
    return refused.value


def title_clip(data):
    return data["sequences"][0]["tracks"][4]["clips"][0]


def test_a_project_survives_the_file(tmp_path, demo):
    write_project(tmp_path / "a.rovix", demo.tree)
    assert read_project(tmp_path / "a.rovix") == demo.tree


def test_equal_projects_give_equal_bytes(tmp_path, demo):
    write_project(tmp_path / "a.rovix", demo.tree)
    assert (tmp_path / "a.rovix").read_bytes() == DEMO_PROJECT.read_bytes()


@settings(max_examples=30)
@given(st.text(max_size=40), st.floats(-1e6, 1e6), st.lists(st.integers(-100, 100), min_size=1, unique=True))
def test_any_words_and_numbers_survive(tmp_path_factory, text, x, frames):
    keys = Keys(keys=tuple(Key(frame=frame, value=x) for frame in sorted(frames)))
    project = project_of(
        title(text.encode("utf-8", "ignore").decode(), transform=Transform(x=x, y=keys), moves=[wave()])
    )
    path = tmp_path_factory.mktemp("files") / "a.rovix"
    write_project(path, project)
    assert read_project(path) == project


def test_unknown_fields_survive_within_a_version(tmp_path, data):
    data["later"] = {"extra": [1, 2]}
    title_clip(data)["text"]["shine"] = 0.5
    data["media"][0]["extra"] = "kept"
    data["sequences"][0]["tracks"][0]["clips"][0]["background"]["later"] = None
    path = tmp_path / "a.rovix"
    path.write_text(json.dumps(data), encoding="utf-8")
    write_project(path, read_project(path))
    assert json.loads(path.read_text(encoding="utf-8")) == data


def test_every_problem_is_listed_with_its_path_then_one_sentence(tmp_path, data):
    title_clip(data)["text"]["size"] = 0
    title_clip(data)["transform"]["y"] = "high"
    title_clip(data)["moves"][1]["role"] = "wander"
    data["sequences"][0]["tracks"][3]["clips"][0]["transform"]["rotation_z"]["keys"][1].pop("value")
    data["sequences"][0]["tracks"][0]["clips"][0]["background"]["fill"] = "marble"
    data["media"][0].pop("path")
    data["sequences"][0]["size"] = [1920]
    refused = problems(tmp_path, data)
    lines = str(refused).split("\n")
    assert lines[:-1] == [
        "$.media[0]: 'path' is missing",
        "$.sequences[0].size: it needs at least 2",
        "$.sequences[0].tracks[0].clips[0].background: 'marble' is no fill this version knows",
        "$.sequences[0].tracks[3].clips[0].transform.rotation_z.keys[1]: 'value' is missing",
        "$.sequences[0].tracks[4].clips[0].moves[1].role: 'wander' is none of 'entrance', 'exit', 'loop'",
        "$.sequences[0].tracks[4].clips[0].text.size: 0 is not above 0",
        "$.sequences[0].tracks[4].clips[0].transform.y: 'high' does not belong here",
    ]
    assert lines[-1] == "a.rovix has 7 problems, so it was not opened; it was left as it is."


def test_broken_links_are_listed_too(tmp_path, data):
    title_clip(data)["parent"] = "nobody"
    data["sequences"][0]["tracks"][1]["clips"][1]["start"] = 200
    assert len(problems(tmp_path, data).problems) == 2


@pytest.mark.parametrize(
    ("content", "said"),
    [
        ("", "line 1, column 1"),
        ('{"format": "rovix-project",', "line 1"),
        ("[1, 2]", "not a Rovix project"),
        ('{"format": "other"}', "not a Rovix project"),
        ('{"format": "rovix-project", "version": 6}', "newer Rovix"),
        ('{"format": "rovix-project", "version": "x"}', "$.version: 'x' should be 5"),
        ('{"format": "rovix-project", "version": 1, "name": NaN}', "NaN"),
        ("[" * 100_000, "not opened"),
    ],
)
def test_damaged_foreign_and_newer_files(tmp_path, content, said):
    assert said in str(problems(tmp_path, content))


def test_a_truncated_file_is_named_at_any_length(tmp_path):
    whole = DEMO_PROJECT.read_text(encoding="utf-8")
    for length in range(0, len(whole) - 2, 1517):
        assert "not opened" in str(problems(tmp_path, whole[:length]))


def test_bytes_that_are_no_text(tmp_path):
    (tmp_path / "a.rovix").write_bytes(b"\xff\xfe\x00")
    with pytest.raises(ProjectFileError, match="byte 0"):
        read_project(tmp_path / "a.rovix")


def test_a_file_that_is_not_there(tmp_path):
    with pytest.raises(RovixError, match="could not be opened"):
        read_project(tmp_path / "gone.rovix")


def test_the_committed_schema_is_the_codes():
    assert (ROOT / "docs" / "rovix-project.schema.json").read_text(encoding="utf-8") == schema_text()


def test_a_failed_save_leaves_the_old_file_and_nothing_else(tmp_path):
    path = tmp_path / "a.rovix"
    path.write_bytes(b"old")
    with pytest.raises(ZeroDivisionError), replacing(path) as part:
        part.write_bytes(b"half")
        1 / 0  # noqa: B018
    assert path.read_bytes() == b"old"
    assert os.listdir(tmp_path) == ["a.rovix"]


def test_saving_keeps_the_files_mode_and_its_link(tmp_path, demo):
    real, link = tmp_path / "real.rovix", tmp_path / "link.rovix"
    real.write_bytes(b"old")
    real.chmod(0o640)
    link.symlink_to(real)
    write_project(link, demo.tree)
    assert link.is_symlink()
    assert real.stat().st_mode & 0o777 == 0o640
    assert read_project(real) == demo.tree


def test_a_folder_that_is_not_there_is_a_sentence(tmp_path, demo):
    with pytest.raises(RovixError, match="could not be saved"):
        write_project(tmp_path / "no" / "a.rovix", demo.tree)


SAVER = """
import sys
from pathlib import Path
import msgspec
from rovix.formats import read_project, write_project
path = Path(sys.argv[1])
project = read_project(path)
print("ready", flush=True)
number = 0
while True:
    number += 1
    write_project(path, msgspec.structs.replace(project, name=f"save {number}" + "x" * 200_000))
"""


def test_killed_while_saving_the_last_good_project_is_there(tmp_path, demo):
    path, chance = tmp_path / "a.rovix", random.Random(4)
    write_project(path, demo.tree)
    for _ in range(20):
        with subprocess.Popen([sys.executable, "-c", SAVER, str(path)], stdout=subprocess.PIPE) as saver:
            saver.stdout.readline()
            time.sleep(chance.uniform(0, 0.15))
            saver.send_signal(signal.SIGKILL)
        assert read_project(path).sequences == demo.tree.sequences
    # What killed saves left behind is cleared by the next start of the application.
    clear_begun()
    assert os.listdir(tmp_path) == ["a.rovix"]


def test_the_next_save_clears_what_a_killed_one_of_its_name_left(tmp_path, demo):
    gone = subprocess.Popen(["true"])
    gone.wait()
    ours, other, running = (
        tmp_path / f".{name}.rovix.{process}-0123abcd.part"
        for name, process in (("a", gone.pid), ("b", gone.pid), ("a", os.getpid()))
    )
    for part in (ours, other, running):
        part.touch()
    write_project(tmp_path / "a.rovix", demo.tree)
    assert [part.exists() for part in (ours, other, running)] == [False, True, True]


def test_a_save_goes_on_where_nothing_can_be_noted_about_it(tmp_path, demo, monkeypatch):
    (tmp_path / "state").touch()
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path / "state"))
    write_project(tmp_path / "a.rovix", demo.tree)
    clear_begun()
    assert read_project(tmp_path / "a.rovix").sequences == demo.tree.sequences


def test_a_field_called_as_the_unknown_ones_are_kept_is_unknown_like_any_other(tmp_path, data):
    title_clip(data)["(extra)"] = {"kind": "shape"}
    path = tmp_path / "a.rovix"
    path.write_text(json.dumps(data), encoding="utf-8")
    project = read_project(path)
    write_project(path, project)
    assert read_project(path) == project
    assert json.loads(path.read_text(encoding="utf-8")) == data


def test_a_changed_clip_is_written_anew_and_the_others_as_they_were():
    project = project_of(*(title(f"Kite {n}", id=f"c{n}", start=n * 70) for n in range(5)))
    before = project_bytes(project)
    changed = change_text(project, "c2", content="Larkmoor")
    after = project_bytes(changed)
    assert after == before.replace(b"Kite 2", b"Larkmoor")
    assert parse_project(Path("a.rovix"), after) == changed
    assert project_bytes(project) == before
