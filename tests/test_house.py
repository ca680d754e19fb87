"""Rules of the house that no linter checks."""

import ast
import pkgutil
import re
import subprocess
import sys
from collections import Counter
from pathlib import Path

import pytest

import rovix
from core_tests import CORE, is_core

ROOT = Path(__file__).parents[1]
SOURCES = ROOT / "src"
WITHOUT_QT = """
import importlib, sys

class Blocked:
    def find_spec(self, name, path=None, target=None):
        if name.partition(".")[0] in ("PySide6", "shiboken6"):
            raise ModuleNotFoundError(f"{name} is blocked")

sys.meta_path.insert(0, Blocked())
"""


def core_modules() -> list[str]:
    names = [module.name for module in pkgutil.walk_packages(rovix.__path__, "rovix.")]
    return [name for name in names if not name.startswith("rovix.desktop") and not name.endswith("__main__")]


def test_every_core_module_imports_with_qt_blocked():
    names = core_modules()
    assert len(names) > 60
    program = WITHOUT_QT + f"for name in {names!r}: importlib.import_module(name)"
    subprocess.run([sys.executable, "-c", program], check=True)


def test_the_cores_own_tests_run_with_qt_blocked(request):
    """What conftest says of this very test, which is none of the core's, and of one that is."""
    assert not is_core(request.path)
    assert is_core(ROOT / "tests" / "paint" / "test_blend.py")
    folders = {path.name for path in (ROOT / "tests").iterdir() if any(path.glob("test_*.py"))}
    assert folders == {*CORE, "desktop", "cli"}, "every folder is the core's or the window's"
    assert {path.name for path in (ROOT / "src" / "rovix").iterdir() if (path / "__init__.py").exists()} == {
        *CORE, "desktop", "demo", "cli",
    }  # fmt: skip


def test_no_two_files_of_tests_have_one_name():
    """They are modules without packages: of two with one name, the whole run collects neither."""
    names = Counter(path.name for path in (ROOT / "tests").rglob("test_*.py"))
    assert [name for name, times in names.items() if times > 1] == []


@pytest.mark.parametrize("path", sorted((ROOT / "src" / "rovix").rglob("*.py")), ids=lambda path: path.name)
def test_every_module_says_what_it_is_for(path):
    assert path.read_text(encoding="utf-8").startswith('"""')


def test_the_demo_uses_every_file_it_ships_and_stays_small(demo, demo_data):
    shipped = {path.name for path in demo_data.iterdir() if path.suffix != ".rovix"}
    assert shipped == {media.path for media in demo.tree.media}
    used = {
        clip.media for track in demo.tree.sequence.tracks for clip in track.clips if hasattr(clip, "media")
    }
    assert used == {media.id for media in demo.tree.media}
    assert sum(path.stat().st_size for path in demo_data.iterdir()) < 12_000_000


def test_the_readme_links_to_pictures_that_are_there_and_few():
    shots = {path.name for path in (ROOT / "docs" / "screenshots").glob("*.png")}
    linked = set(
        re.findall(r"docs/screenshots/([\w-]+\.png)", (ROOT / "README.md").read_text(encoding="utf-8"))
    )
    assert shots == linked
    assert len(shots) < 20


def test_the_makefile_has_every_word_that_the_docs_name():
    words = set(re.findall(r"^([a-z]+):", (ROOT / "Makefile").read_text(encoding="utf-8"), re.MULTILINE))
    for page in ("README.md", "CONTRIBUTING.md"):
        named = set(re.findall(r"make ([a-z]+)", (ROOT / page).read_text(encoding="utf-8")))
        assert named <= words, f"{page}: {named - words}"


def test_every_family_ships_with_its_licence_and_is_listed():
    import json

    fonts = ROOT / "src" / "rovix" / "text" / "fonts"
    manifest = json.loads((fonts / "manifest.json").read_text(encoding="utf-8"))
    listed = {style["file"] for entry in manifest["families"] for style in entry["styles"]}
    assert listed == {path.relative_to(fonts).as_posix() for path in fonts.rglob("*.ttf")}
    for folder in {fonts / name.split("/")[0] for name in listed}:
        assert "sil open font license" in (folder / "OFL.txt").read_text(encoding="utf-8").lower()


def test_the_schema_is_a_valid_schema_and_the_demo_keeps_to_it(demo_data):
    import json

    from jsonschema import Draft202012Validator

    schema = json.loads((ROOT / "docs" / "rovix-project.schema.json").read_text(encoding="utf-8"))
    Draft202012Validator.check_schema(schema)
    demo = json.loads((demo_data / "larkmoor-kite-day.rovix").read_text(encoding="utf-8"))
    assert list(Draft202012Validator(schema).iter_errors(demo)) == []


def test_commands_know_a_narrow_context_and_not_the_window():
    for path in (ROOT / "src" / "rovix" / "desktop" / "commands").glob("*.py"):
        assert "desktop.window" not in path.read_text(encoding="utf-8"), path.name


def test_a_long_function_says_why_it_is_long():
    silent = []
    for path in sorted(SOURCES.rglob("*.py")):
        text = path.read_text(encoding="utf-8")
        lines = text.splitlines()
        for node in ast.walk(ast.parse(text)):
            if isinstance(node, ast.FunctionDef) and node.end_lineno - node.lineno >= 40:
                inside = lines[node.lineno - 1 : node.body[0].end_lineno + 1]
                if not any(line.strip().startswith("# Long: ") for line in inside):
                    silent.append(f"{path.name}: {node.name}")
    assert not silent
