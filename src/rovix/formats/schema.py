"""The project file's JSON Schema, made from the model's types."""

from __future__ import annotations

import json
import sys
from functools import lru_cache
from inspect import cleandoc
from pathlib import Path
from typing import Any

import msgspec

from rovix.model import Project
from rovix.model.node import EXTRA

FORMAT = "rovix-project"
VERSION = 5


@lru_cache(maxsize=1)
def project_schema() -> dict[str, Any]:
    """JSON Schema (draft 2020-12) of a `.rovix` file. Fields it does not name are let through."""
    _, definitions = msgspec.json.schema_components([Project], ref_template="#/$defs/{name}")
    for definition in definitions.values():
        without_extra(definition)
    project = definitions.pop("Project")
    head = {"format": {"const": FORMAT}, "version": {"const": VERSION}}
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Rovix project file",
        "type": "object",
        "properties": head | project["properties"],
        "required": ["format", "version", *project.get("required", [])],
        "$defs": definitions,
    }


def without_extra(value: Any) -> None:
    """`extra` is where the model keeps unknown fields; in the file they stand among the others."""
    if isinstance(value, dict):
        value.pop(EXTRA, None)
        if value.get("additionalProperties") is False:
            del value["additionalProperties"]
        if isinstance(value.get("description"), str):
            # Releases of msgspec differ in whether they take the margin off.
            value["description"] = cleandoc(value["description"])
        for inner in value.values():
            without_extra(inner)
    elif isinstance(value, list):
        for inner in value:
            without_extra(inner)


def schema_text() -> str:
    """The schema as it stands in docs/."""
    return json.dumps(project_schema(), indent=1) + "\n"


if __name__ == "__main__":
    Path(sys.argv[1]).write_text(schema_text(), encoding="utf-8")
