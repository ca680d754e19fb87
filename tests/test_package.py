"""What is installed: everything that the sources have, and what a desktop needs to know of it."""

import configparser
import subprocess
import sys
import zipfile
from pathlib import Path
from xml.etree import ElementTree

import pytest

ROOT = Path(__file__).parents[1]
NOT_SHIPPED = {".pyc"}


@pytest.fixture(scope="module")
def wheel(tmp_path_factory):
    folder = tmp_path_factory.mktemp("wheel")
    subprocess.run(
        [sys.executable, "-m", "pip", "wheel", "--quiet", "--disable-pip-version-check", "--no-deps", "--no-build-isolation",
         "--no-cache-dir", "-w", str(folder), str(copied(tmp_path_factory.mktemp("source")))],
        check=True, capture_output=True,
    )  # fmt: skip
    (path,) = folder.glob("*.whl")
    return path


def copied(folder):
    """The sources without what earlier builds left beside them."""
    for name in ("pyproject.toml", "README.md", "LICENSE", "NOTICE"):
        (folder / name).write_bytes((ROOT / name).read_bytes())
    for top in ("src/rovix", "packaging"):
        for path in (ROOT / top).rglob("*"):
            if path.is_file() and path.suffix not in NOT_SHIPPED:
                made = folder / path.relative_to(ROOT)
                made.parent.mkdir(parents=True, exist_ok=True)
                made.write_bytes(path.read_bytes())
    return folder


def test_the_wheel_holds_every_file_of_the_sources(wheel):
    with zipfile.ZipFile(wheel) as file:
        there = set(file.namelist())
    own = {
        path.relative_to(ROOT / "src").as_posix()
        for path in (ROOT / "src/rovix").rglob("*")
        if path.is_file() and path.suffix not in NOT_SHIPPED
    }
    assert own <= there
    data = {name.split(".data/data/")[1] for name in there if ".data/data/" in name}
    assert data == {
        "share/applications/rovix.desktop",
        "share/mime/packages/rovix.xml",
        "share/icons/hicolor/scalable/apps/rovix.svg",
    }


def test_it_runs_without_the_repository(wheel, tmp_path):
    """Unpacked elsewhere, over the packages that are here: it tells its version and describes the demo."""
    with zipfile.ZipFile(wheel) as file:
        file.extractall(tmp_path / "site")
    run = [sys.executable, "-c", f"import sys; sys.path.insert(0, {str(tmp_path / 'site')!r}); "
           "import rovix; assert 'site' in rovix.__file__; from rovix.cli import main; main(sys.argv[1:])"]  # fmt: skip
    said = subprocess.run([*run, "--version"], capture_output=True, text=True, check=True, cwd=tmp_path)
    assert said.stdout.startswith("rovix, version ")
    said = subprocess.run(
        [*run, "describe", "demo", "60"], capture_output=True, text=True, check=True, cwd=tmp_path
    )
    assert "Larkmoor" in said.stdout


def test_the_desktop_entry_and_its_file_type_agree():
    """Desktop Entry Specification 1.5 and Shared MIME-info Database 0.21: required keys, and the same type."""
    entry = configparser.ConfigParser(interpolation=None)
    entry.optionxform = str
    entry.read(ROOT / "packaging/rovix.desktop")
    keys = entry["Desktop Entry"]
    assert keys["Type"] == "Application"
    assert keys["Exec"].split() == ["rovix", "open", "%f"]
    kinds = ElementTree.parse(ROOT / "packaging/rovix.xml").getroot()
    space = "{http://www.freedesktop.org/standards/shared-mime-info}"
    (kind,) = kinds.findall(f"{space}mime-type")
    assert keys["MimeType"].rstrip(";") == kind.get("type")
    assert kind.find(f"{space}glob").get("pattern") == "*.rovix"
    icon = (ROOT / "packaging/rovix.svg").read_bytes()
    assert icon == (ROOT / "src/rovix/desktop/icons/rovix.svg").read_bytes()
