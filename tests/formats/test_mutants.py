"""A small seeded share of `make fuzz`: mutants are refused with a sentence, or usable."""

import random

import pytest

from mutants import mutated_bytes, mutated_json
from rovix.demo import DATA
from rovix.formats import project_bytes
from rovix.formats.look_file import SavedLook, look_bytes
from rovix.formats.move_file import MOVES, SavedMove
from rovix.model import Fill, Glow, Look, Outline
from rovix.motion.ready_moves import wave
from rovix.text.catalogue import FONTS
from tied_project import tied_project
from trials import ACCEPTED, REFUSED, trial

SEEDS = {
    "project": ("a.rovix", project_bytes(tied_project())),
    "move": ("a.json", MOVES.bytes_of(SavedMove("Wave", wave()))),
    "look": ("a.json", look_bytes(SavedLook("Lit", 90.0, Look(parts=(Fill(), Outline(), Glow()))))),
    "media": ("key-tap.flac", (DATA / "key-tap.flac").read_bytes()),
    "font": ("a.ttf", min(FONTS.rglob("*.ttf"), key=lambda path: path.stat().st_size).read_bytes()),
}


@pytest.mark.parametrize(
    ("kind", "count"), [("project", 40), ("move", 25), ("look", 25), ("media", 12), ("font", 8)]
)
def test_a_mutant_is_refused_with_a_sentence_or_can_be_used(kind, count, tmp_path):
    drawn, (name, content) = random.Random(11), SEEDS[kind]
    change = mutated_bytes if kind in ("media", "font") else mutated_json
    results = [trial(kind, name, change(content, drawn), tmp_path) for _ in range(count)]
    assert set(results) <= {REFUSED, ACCEPTED}
    assert kind in ("media", "font") or len(set(results)) == 2, "some of each, or it tries nothing"
