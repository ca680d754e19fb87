"""An effect added in two files, and a channel in one, are in the file format, the sheet or shelf, the lanes
and the picture."""

import os
import shutil
import subprocess
import sys
from pathlib import Path

import rovix

STRUCT = '''
"""Everything darker."""

from __future__ import annotations

from rovix.model.channel import Share
from rovix.model.effects.effect import Effect
from rovix.model.effects.rows import Facts, percent


class Dusk(Effect, frozen=True, kw_only=True, tag="dusk"):
    """Takes a share of the light."""

    facts = Facts("Dusk", 55, (percent("depth", "Depth", "light taken"),), {"depth": 0.5})

    depth: Share = 0.0

    @property
    def is_neutral(self) -> bool:
        return self.depth == 0
'''

PAINTER = '''
"""Everything darker."""

import numpy as np

from rovix.model.effects.dusk import Dusk
from rovix.paint.cache import LayerPicture
from rovix.paint.effects.step_painter import StepPainter


def _darkened(step, picture, sight):
    made = picture.pixels.copy()
    made[..., :3] = np.rint(made[..., :3] * (1 - step.effect.depth))
    return LayerPicture(made, picture.left, picture.top)


PAINTERS = (StepPainter(Dusk, _darkened),)
'''

USED = """
import sys
from pathlib import Path

import numpy as np

from builders import project_of, title
from rovix.desktop.app import make_application, make_window
from rovix.desktop.channel_facts import fact_of
from rovix.edit.address import animated_of
from rovix.edit.effects import add_effect
from rovix.edit.keys import toggle_keys
from rovix.engine.open_project import OpenProject
from rovix.formats import read_project, write_project
from rovix.formats.schema import schema_text
from rovix.model.effects import EFFECTS

folder = Path(sys.argv[1])
assert list(EFFECTS).index("dusk") == list(EFFECTS).index("tone") + 1
plain = project_of(title("Kite", id="big"), size=(320, 180))
project = add_effect(plain, "big", "dusk")
effect = project.sequence.tracks[0].clips[0].effects[0]
assert effect.depth == 0.5
bright, dark = (OpenProject(p, folder).picture(5).astype(int) for p in (plain, project))
assert np.abs(dark[..., :3] - bright[..., :3] / 2).max() <= 1 and bright.max() > 200
path = folder / "dusk.rovix"
address = f"effects.{effect.id}.depth"
project = toggle_keys(project, "big", 3, [address])
write_project(path, project)
assert read_project(path) == project and '"dusk"' in schema_text()
application = make_application()
window = make_window(1)
window.files.open_path(path)
window.document.select("big")
window.sheet.open_page("Effects")
page = window.sheet.page("Effects")
card = page.card("dusk")
field = card.fields._numbers["depth"]
assert (field._low, field._high) == (0, 100)
clip = window.document.clip
assert address in animated_of(clip)
assert (fact_of(clip, address).said, fact_of(clip, address).unit) == ("Dusk light taken", "%")
canvas = window.timeline.canvas
canvas.setFixedHeight(420)
window.resize(1280, 800)
window.show()
canvas.lanes.toggle("big")
application.processEvents()
assert address in [lane.address for lane in canvas.lanes.shown()]
window.shut_down()
print("all found")
"""


ROW = """
MOVE_CHANNELS["girth"] = MoveChannel(
    "Girth", "Way", "%", "multiply", 0.0, acts_on=("scale_x",), away=(3.0, "px")
)
"""

MOVED = """
import sys
from pathlib import Path

from builders import project_of, title
from rovix.desktop.app import make_application, make_window
from rovix.desktop.sheet.motion.channel_rows import _GROUPS
from rovix.edit.departures import add_departure
from rovix.formats import read_project, write_project
from rovix.formats.schema import schema_text
from rovix.motion import describe
from rovix.motion.ready_moves import pop

path = Path(sys.argv[1]) / "girth.rovix"
move = pop()
plain = project_of(title("Kite", id="big", moves=[move], length=60))
project = add_departure(plain, "big", move.id, "girth")
write_project(path, project)
assert read_project(path) == project and '"girth"' in schema_text()
wide, usual = (describe(p, 1)["layers"][0]["pieces"][0]["scale_x"] for p in (project, plain))
assert wide > 1.5 * usual > 0
assert "girth" in _GROUPS["Way"]
application = make_application()
window = make_window(1)
window.files.open_path(path)
window.document.select("big")
window.resize(1280, 800)
window.show()
application.processEvents()
assert any(row.said == "Girth" for row in window.sheet.page("Motion").channels.rows)
canvas = window.timeline.canvas
canvas.setFixedHeight(420)
canvas.lanes.toggle("big")
application.processEvents()
canvas.lanes.set_mode("moves")
clip = window.document.clip
said = [canvas.lanes.fact(clip, lane.address).said for lane in canvas.lanes.shown() if lane.address]
assert "Pop: girth" in said, said
window.shut_down()
print("all found")
"""


def copied(tmp_path):
    """The program's own files, to be added to."""
    ignored = shutil.ignore_patterns("__pycache__")
    shutil.copytree(Path(rovix.__file__).parent, tmp_path / "rovix", ignore=ignored)
    return tmp_path / "rovix"


def run(tmp_path, program):
    (tmp_path / "used.py").write_text(program)
    path = os.pathsep.join([str(tmp_path), str(Path(__file__).parents[1])])
    environment = os.environ | {"PYTHONPATH": path, "XDG_CONFIG_HOME": str(tmp_path)}
    done = subprocess.run(
        [sys.executable, str(tmp_path / "used.py"), str(tmp_path)],
        env=environment, capture_output=True, text=True, timeout=120,
    )  # fmt: skip
    assert "all found" in done.stdout, done.stderr


def test_an_effect_is_two_files(tmp_path):
    source = copied(tmp_path)
    (source / "model" / "effects" / "dusk.py").write_text(STRUCT)
    (source / "paint" / "effects" / "dusk.py").write_text(PAINTER)
    run(tmp_path, USED)


def test_a_channel_of_moves_is_one_row(tmp_path):
    table = copied(tmp_path) / "model" / "move_channels.py"
    table.write_text(table.read_text() + ROW)
    run(tmp_path, MOVED)
