"""A title made for each row of a table: CSV by RFC 4180, bad rows told, going on where it stopped."""

import json
import os
import shutil
import subprocess
import sys
import time

import numpy as np
import pytest
from click.testing import CliRunner
from msgspec.structs import replace

from builders import project_of, title
from made_files import png_bomb
from rovix.cli import main
from rovix.edit.titles import filled, made_title, put_title
from rovix.engine import row_lanes
from rovix.engine.bulk import REPORT, make_rows, table_rows
from rovix.engine.kept_shelf import NameTaken
from rovix.engine.titles import TitleShelf, title_for
from rovix.errors import RovixError
from rovix.media.library import MediaLibrary
from rovix.media.probe import probe
from rovix.model import Fits, Media, PieceSound, Plain, Project, Sequence, ShapeClip, StillClip
from rovix.model.delivery import Delivery
from rovix.motion import picture_plan
from rovix.motion.ready_moves import pop
from rovix.paint.painter import Painter

NAMES = ["Ada", "Søren", "Ελένη", "Иван", "שרה", "ليلى", "आशा", "สมชาย", "陳大文", "さくら", "민준", "Հայկ"]
"""Names in twelve scripts."""


@pytest.fixture(scope="module")
def name_title(tmp_path_factory):
    folder = tmp_path_factory.mktemp("title")
    words = title("Ada", 6, id="w", name="Name", text={"size": 20.0})
    project = project_of(words, size=(64, 36), rate="25", background="#102030")
    return made_title(project, ("w",), folder, "Names")


def table(tmp_path, text, encoding="utf-8", newline=""):
    path = tmp_path / "rows.csv"
    path.write_bytes(text.encode(encoding))
    return path


@pytest.mark.parametrize(
    ("text", "values"),
    [
        # By the grammar and the examples of RFC 4180, section 2.
        ("Name,Role\r\nAda,Pilot\r\n", [{"Name": "Ada", "Role": "Pilot"}]),
        ("Name,Role\nAda,Pilot", [{"Name": "Ada", "Role": "Pilot"}]),
        ('Name\n"a ""b"" c"\n"two\r\nlines"\n"1,5"\n', [{"Name": 'a "b" c'}, {"Name": "two\r\nlines"}, {"Name": "1,5"}]),
        ("\ufeffName;Role\nAda;1,5\n", [{"Name": "Ada", "Role": "1,5"}]),
        ("Name\tRole\n\nAda\tx\n", [{"Name": "Ada", "Role": "x"}]),
    ],
)  # fmt: skip
def test_tables_are_read_as_they_are_written(tmp_path, text, values):
    assert [row.values for row in table_rows(table(tmp_path, text))] == values


@pytest.mark.parametrize(
    ("text", "why"),
    [
        ("", "no head"),
        ("A,A\n1,2\n", "two columns called 'A'"),
        ('A\n"open\n', "line 2"),
        (b"A\n\xff\n", "not UTF-8"),
    ],
)
def test_what_is_no_table_is_refused(tmp_path, text, why):
    path = tmp_path / "rows.csv"
    path.write_bytes(text if isinstance(text, bytes) else text.encode())
    with pytest.raises(RovixError, match=why):
        table_rows(path)
    with pytest.raises(RovixError, match="could not be opened"):
        table_rows(tmp_path / "gone.csv")


def test_rows_in_twelve_scripts_are_made_and_bad_ones_told(tmp_path, name_title):
    lines = ["Name,length,file", *(f"{name},," for name in NAMES)]
    lines[3:3] = ["Too,long,to,many,"]
    lines += ["Bad,never,", "Ada,,"]
    rows = table_rows(table(tmp_path, "\n".join(lines)))
    made = make_rows(
        name_title, "Names", rows, tmp_path / "out", ".png", Delivery(codec="picture"), workers=1
    )
    bad = [one for one in made if one.problem]
    assert [one.row for one in bad] == [4, 15]
    assert "5 fields, the head 3" in bad[0].problem
    assert "no length" in bad[1].problem
    files = {path.name for path in (tmp_path / "out").iterdir()} - {REPORT}
    assert files == {one.file for one in made if not one.problem}
    assert {f"{name}.png" for name in NAMES} <= files
    assert "Ada-2.png" in files  # a name that is taken
    pictures = [(tmp_path / "out" / f"{name}.png").read_bytes() for name in NAMES]
    assert len(set(pictures)) == len(NAMES)
    report = json.loads((tmp_path / "out" / REPORT).read_text())
    assert [(one["row"], bool(one["problem"])) for one in report] == [
        (one.row, bool(one.problem)) for one in made
    ]


def test_started_again_it_makes_only_what_is_not_there(tmp_path, name_title):
    rows = table_rows(table(tmp_path, "Name\nAda\nBea\nCleo\n"))
    how, out = Delivery(codec="picture"), tmp_path / "out"
    make_rows(name_title, "Names", rows, out, ".png", how, workers=1)
    old = {path.name: path.stat().st_mtime_ns for path in out.glob("*.png")}
    (out / "Bea.png").unlink()
    rows = table_rows(table(tmp_path, "Name\nAda\nBea\nCleopatra\n"))
    make_rows(name_title, "Names", rows, out, ".png", how, workers=1)
    new = {path.name: path.stat().st_mtime_ns for path in out.glob("*.png")}
    assert new["Ada.png"] == old["Ada.png"]
    assert {"Bea.png", "Cleopatra.png"} <= set(new)
    # Another form is made anew.
    make_rows(name_title, "Names", rows, out, ".png", Delivery(size=(32, 18), codec="picture"), workers=1)
    assert (out / "Ada.png").stat().st_mtime_ns != old["Ada.png"]


@pytest.fixture
def kept(tmp_path, monkeypatch, name_title):
    """The title Names, kept, with a logo that lies beside it."""
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    logo = tmp_path / "logo.png"
    logo.write_bytes(png_bomb(8))
    still = StillClip(id="logo", media="m", length=6)
    words = title("Ada", 6, id="w", name="Name", text={"size": 20.0})
    media = Media(id="m", path="logo.png", kind="still", width=8, height=8, digest=probe(logo).digest)
    project = project_of(still, words, size=(64, 36), rate="25", media=(media,))
    TitleShelf().keep("Names", made_title(project, ("w", "logo"), tmp_path), tmp_path)
    return tmp_path


def test_a_kept_title_has_its_files_beside_it(kept):
    item = TitleShelf().named("names")
    (media,) = item.saved.title.media
    assert (item.path.parent / media.path).exists()
    (kept / "logo.png").unlink()
    (found,) = title_for(item, kept).media
    assert (kept / found.path).exists()
    with pytest.raises(RovixError, match=r"There are .*'Names'"):
        TitleShelf().named("Nobody")


def test_by_the_command_line(kept):
    def run(*arguments):
        return CliRunner().invoke(main, [str(argument) for argument in arguments])

    facts = json.loads(run("titles", "--json").stdout)
    own = next(one for one in facts if one["name"] == "Names")
    assert own["settings"][0]["name"] == "Name"
    assert "Names: Name" in run("titles").stdout
    assert run("new", kept / "a.rovix", "--title", "Names", "--set", "Name=Grace").exit_code == 0
    assert "Grace" in (kept / "a.rovix").read_text()
    assert run("check-file", kept / "a.rovix").exit_code == 0
    assert run("new", kept / "b.rovix", "--title", "Names", "--set", "Name").exit_code == 2
    rows = table(kept, "Name,length\nAda,\nBea,x\n")
    done = run("make", "Names", rows, kept / "out", "--as", "png:picture")
    assert done.exit_code == 1
    assert "Row 3: 'x' is no length" in done.stderr
    assert (kept / "out" / "Ada.png").exists()
    again = run("make", "Names", table(kept, "Name\nAda\n"), kept / "out", "--as", "png:picture", "--json")
    assert again.exit_code == 0
    assert json.loads(again.stdout)[0]["problem"] == ""


def test_killed_in_the_middle_it_goes_on(kept):
    names = [f"Name {number:03}" for number in range(40)]
    rows = table(kept, "\n".join(["Name", *names]))
    command = [
        sys.executable,
        "-m",
        "rovix",
        "make",
        "Names",
        str(rows),
        str(kept / "out"),
        "--as",
        "png:picture",
    ]
    first = subprocess.Popen(command, env=os.environ | {"XDG_DATA_HOME": str(kept / "data")})
    report = kept / "out" / REPORT
    for _ in range(600):
        if report.exists() and len(json.loads(report.read_text())) >= 5:
            break
        time.sleep(0.05)
    first.kill()
    first.wait()
    made = {path.name: path.stat().st_mtime_ns for path in (kept / "out").glob("*.png")}
    told = {one["file"] for one in json.loads(report.read_text())}
    assert 5 <= len(told) < 40
    subprocess.run(command, env=os.environ | {"XDG_DATA_HOME": str(kept / "data")}, check=True)
    now = {path.name: path.stat().st_mtime_ns for path in (kept / "out").glob("*.png")}
    assert len(now) == 40
    assert all(now[name] == made[name] for name in told)


def test_two_hundred_rows_three_of_them_bad_are_told_exactly(tmp_path, name_title):
    """By the processes that do it, two here, each row after another: none is begun anew for a row."""
    bad = {17: "never", 90: "0", 163: "-2"}
    lines = [f"{NAMES[n % 12]} {n},{bad.get(n, '')}" for n in range(200)]
    rows = table_rows(table(tmp_path, "\n".join(["Name,length", *lines])))
    far = []
    made = make_rows(
        name_title, "Names", rows, tmp_path / "out", ".png", Delivery(codec="picture"),
        lambda done, total: far.append((done, total)), workers=2,
    )  # fmt: skip
    assert [one.row for one in made if one.problem] == [n + 2 for n in sorted(bad)]
    assert len(list((tmp_path / "out").glob("*.png"))) == 197
    assert far[0] == (0, 200)
    assert far[-1] == (200, 200)
    assert far == sorted(far)
    report = json.loads((tmp_path / "out" / REPORT).read_text())
    assert [one["row"] for one in report] == list(range(2, 202))


def test_a_process_that_dies_costs_its_row_one_more_try(tmp_path, name_title, monkeypatch):
    """Rows are made in processes of their own; killed at a row, another tries it, then it is told."""
    begun = []
    own = row_lanes.RowLanes._begin

    def begin(lanes):
        own(lanes)
        begun.append(lanes._lanes[-1])
        if len(begun) <= 3:
            lanes._lanes[-1].process.kill()
            lanes._lanes[-1].process.join()

    monkeypatch.setattr(row_lanes.RowLanes, "_begin", begin)
    rows = table_rows(table(tmp_path, "Name\nAda\nBea\n"))
    made = make_rows(
        name_title, "Names", rows, tmp_path / "out", ".png", Delivery(codec="picture"), workers=1
    )
    assert [bool(one.problem) for one in made] == [True, False]
    assert "ended or stood still, 2 times" in made[0].problem


def test_given_up_half_way_no_process_is_left(tmp_path, name_title):
    class Enough(Exception):
        pass

    def told(done, total):
        if done >= 3:
            raise Enough

    rows = table_rows(table(tmp_path, "\n".join(["Name", *(f"N{n}" for n in range(50))])))
    with pytest.raises(Enough):
        make_rows(name_title, "Names", rows, tmp_path / "out", ".png", Delivery(codec="picture"), told, 2)
    count = len(list((tmp_path / "out").glob("*.png")))
    time.sleep(0.4)
    assert len(list((tmp_path / "out").glob("*.png"))) == count < 50


def test_a_title_made_here_is_the_same_in_another_folder_on_another_machine(kept, tmp_path, monkeypatch):
    """Kept, taken out, brought in elsewhere, its first files gone: put into a project the pictures are equal.

    Three layers, a box that fits the words, a sound on them, a logo beside them."""
    words = title("Ada", 30, id="w", name="Name", text={"size": 60.0}, moves=[sounding()])
    box = ShapeClip(id="b", length=30, fits=Fits(layer="w"), fill=Plain(colour="#224466"))
    still = StillClip(id="l", media="m", length=30)
    media = Media(
        id="m", path="logo.png", kind="still", width=8, height=8, digest=probe(kept / "logo.png").digest
    )
    project = project_of(still, box, words, size=(320, 180), rate="25", media=(media,))
    here = TitleShelf(tmp_path / "here")
    here.keep("Whole", made_title(project, ("w", "b", "l"), kept), kept)
    item = here.all()[-1]
    out = tmp_path / "stick" / "whole.json"
    out.parent.mkdir()
    here.take_out(item.saved, out, item.path.parent)
    expected = put(item, tmp_path)
    (kept / "logo.png").unlink()
    shutil.rmtree(tmp_path / "here")
    there = TitleShelf(tmp_path / "there")
    there.bring_in(out)
    shutil.rmtree(out.parent)
    found = put(there.all()[-1], tmp_path)
    assert np.array_equal(found, expected)
    assert found.any()
    (move,) = there.all()[-1].saved.title.sequence.tracks[-1].clips[0].moves
    assert move.piece_sound.sound == "tick"
    with pytest.raises(NameTaken):
        there.keep("whole", item.saved.title, tmp_path / "there")


def sounding():
    return replace(pop(), piece_sound=PieceSound(sound="tick"))


def put(item, base):
    """The picture of a title in a project of another shape, saying forty letters."""
    project = Project(id="p", sequences=(Sequence(id="s", size=(180, 180), rate="25"),))
    long = "Ada of Larkmoor and of the western hills"
    wanted = filled(title_for(item, base), {"Name": long}, like=(180, 180))
    project, _ = put_title(project, "Whole", wanted, 0)
    library = MediaLibrary(project, base)
    try:
        return Painter(library).paint(picture_plan(project, 20)).copy()
    finally:
        library.close()
