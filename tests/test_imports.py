"""No module needs one that needs it: what imports what, read from the sources."""

from __future__ import annotations

import ast
from collections.abc import Iterator
from pathlib import Path

SOURCES = Path(__file__).parents[1] / "src"


def modules() -> dict[str, Path]:
    """Every module of ours by its name."""
    found = {}
    for path in SOURCES.rglob("*.py"):
        name = ".".join(path.relative_to(SOURCES).with_suffix("").parts)
        found[name.removesuffix(".__init__")] = path
    return found


def imported(node: ast.AST, known: set[str], typed: bool) -> Iterator[str]:
    """What is imported where a module is; with `typed` also what only its types name."""
    for child in ast.iter_child_nodes(node):
        if isinstance(child, ast.FunctionDef | ast.AsyncFunctionDef):
            continue
        if isinstance(child, ast.If) and "TYPE_CHECKING" in ast.dump(child.test) and not typed:
            continue
        if isinstance(child, ast.ImportFrom) and child.module:
            for name in child.names:
                inner = f"{child.module}.{name.name}"
                yield inner if inner in known else child.module
        elif isinstance(child, ast.Import):
            yield from (name.name for name in child.names)
        yield from imported(child, known, typed)


def reached(start: str, direct: dict[str, set[str]]) -> set[str]:
    found, waiting = set(), list(direct[start])
    while waiting:
        name = waiting.pop()
        if name not in found:
            found.add(name)
            waiting += direct[name]
    return found


def circles(typed: bool) -> set[frozenset[str]]:
    """Modules that all need each other."""
    paths = modules()
    assert len(paths) > 300
    known = set(paths)
    direct = {
        name: (set(imported(ast.parse(path.read_text(encoding="utf-8")), known, typed)) & known) - {name}
        for name, path in paths.items()
    }
    whole = {name: reached(name, direct) for name in direct}
    return {
        frozenset(other for other in whole[name] if name in whole[other])
        for name in whole
        if name in whole[name]
    }


def test_no_modules_import_each_other():
    assert circles(typed=False) == set()


def test_types_alone_make_hardly_a_circle_and_none_of_more_than_two():
    found = circles(typed=True)
    assert len(found) <= 2, found
    assert all(len(circle) == 2 for circle in found), found
