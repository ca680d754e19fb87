"""A title made for each row of a table: CSV by RFC 4180, bad rows told, going on where it stopped."""

import json
import os
import subprocess
import sys
import time

import pytest
from click.testing import CliRunner

from builders import project_of, title
from made_files import png_bomb
from rovix.cli import main
from rovix.edit.titles import made_title
from rovix.engine.bulk import REPORT, make_rows, table_rows
from rovix.engine.titles import TitleShelf, title_for
from rovix.errors import RovixError
from rovix.media.probe import probe
from rovix.model import Media, StillClip
from rovix.model.delivery import Delivery

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
