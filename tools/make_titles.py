"""`make titles`: the ready titles, written as files, and pictures of them for docs/titles.md."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import cv2
import numpy as np
from title_designs import endings, names, openers, speech

from rovix.edit.titles import filled
from rovix.edit.tree import replace
from rovix.engine.titles import READY
from rovix.formats.title_file import TITLES, SavedTitle
from rovix.model.title import Title
from rovix.motion import picture_plan
from rovix.paint.painter import Painter

DOCS = Path(__file__).parents[1] / "docs"
DESIGNS = names.DESIGNS | openers.DESIGNS | speech.DESIGNS | endings.DESIGNS
AT_REST = 0.6
"""Of a title's length: where its picture is taken."""
_ACROSS, _WIDTH = 5, 320
_GROUND = "#3c4a50"


def main() -> None:
    """Write every design, and a sheet of them at rest."""
    READY.mkdir(exist_ok=True)
    for old in READY.glob("*.json"):
        old.unlink()
    made = {name: design() for name, design in DESIGNS.items()}
    for name, title in made.items():
        stem = name.lower().replace(",", "").replace(" ", "-")
        TITLES.write(READY / f"{stem}.json", SavedTitle(name, title))
    pictures = [shown(title) for title in made.values()]
    pictures += [np.zeros_like(pictures[0])] * (-len(pictures) % _ACROSS)
    rows = [np.hstack(pictures[n : n + _ACROSS]) for n in range(0, len(pictures), _ACROSS)]
    cv2.imwrite(str(DOCS / "titles.png"), np.vstack(rows))
    (DOCS / "titles.md").write_text(_page(made), encoding="utf-8")


def shown(
    title: Title, like: tuple[int, int] | None = None, ground: str = _GROUND, at: float = AT_REST
) -> Any:
    """(h, w, 3) uint8: a title at a share of its length over a ground, as wide as a picture of the sheet."""
    fitted = filled(title, {}, like=like)
    sequence = replace(fitted.sequence, background=ground)
    plan = picture_plan(replace(fitted.project, sequences=(sequence,)), round(at * (sequence.length - 1)))
    painted = Painter(_NoPictures()).paint(plan)[..., :3]
    height = round(_WIDTH * painted.shape[0] / painted.shape[1])
    small = cv2.resize(painted, (_WIDTH, height), interpolation=cv2.INTER_AREA)
    return cv2.copyMakeBorder(small, 3, 3, 3, 3, cv2.BORDER_CONSTANT, value=(26, 26, 27))


def _page(made: dict[str, Title]) -> str:
    groups: dict[str, list[str]] = {}
    for name, title in made.items():
        groups.setdefault(title.group, []).append(name)
    listed = "\n".join(f"- {group}: {', '.join(found)}." for group, found in groups.items())
    return f"""# The ready titles

{len(made)} titles, from left to right and top to bottom as they stand here. Made by `make titles`
(designed in `tools/title_designs`), shown at rest over a plain grey, with the words they come with.

{listed}

![The titles at rest](titles.png)
"""


class _NoPictures:
    """None of the titles shows a file."""

    def picture(self, *_: Any, **__: Any) -> Any:
        raise AssertionError("a ready title shows no file")


if __name__ == "__main__":
    main()
