"""What the parts of `make bench` measured: printed as it comes, and kept in build/bench.json.

Each figure has a name, a value, a unit, and the limit that was set for it, if there is one; the parts of one
run are put together by name, so that two runs can be compared by a program.
"""

from __future__ import annotations

import json
from pathlib import Path

KEPT = Path("build/bench.json")


def measured(name: str, value: float, unit: str, limit: float | None = None) -> None:
    """Say a figure and keep it; `limit` is the most that it may be."""
    asked = "" if limit is None else f"   (at most {limit:g} asked)"
    print(f"  {name:58} {value:10.2f} {unit}{asked}", flush=True)
    figures = [figure for figure in _kept() if figure["name"] != name]
    figures.append({"name": name, "value": value, "unit": unit, "limit": limit})
    KEPT.parent.mkdir(exist_ok=True)
    KEPT.write_text(json.dumps(figures, indent=1) + "\n", encoding="utf-8")


def _kept() -> list[dict[str, object]]:
    try:
        return list(json.loads(KEPT.read_text(encoding="utf-8")))
    except (OSError, ValueError):
        return []
