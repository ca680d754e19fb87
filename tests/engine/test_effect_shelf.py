"""Effects in the shelf: cards that show what each does, and files of the user's own."""

from __future__ import annotations

import json

import pytest

from builders import project_of, title
from rovix.edit.effects import add_effects, loose_effects, new_effect
from rovix.edit.tree import clip_of
from rovix.engine.card_project import effect_project
from rovix.engine.kept_shelf import EffectShelf
from rovix.errors import RovixError
from rovix.formats.effect_file import EFFECT_FILES, SavedEffects
from rovix.model.consistency import inconsistencies
from rovix.model.effect_chain import EffectChain
from rovix.model.effects import EFFECTS
from rovix.model.effects.wipe import Follow, Wipe
from rovix.motion import picture_plan
from rovix.paint.painter import Painter
from rovix.time import Rate


def test_every_kind_has_a_card_that_shows_what_it_does():
    chains = [(), *((new_effect(kind),) for kind in EFFECTS)]
    project, cards = effect_project(title("Larkmoor"), chains, Rate(30))
    assert inconsistencies(project) == []
    plain, *pictures = [Painter(None).paint(picture_plan(project, card.still)).tobytes() for card in cards]
    same = {kind for kind, picture in zip(EFFECTS, pictures, strict=True) if picture == plain}
    assert same <= {"crop", "light-key", "matte", "reveal-box", "tone"}, (
        "these change nothing until they are set"
    )


def test_effects_are_kept_found_again_and_put_on_other_layers_with_ids_of_their_own(tmp_path):
    shelf = EffectShelf(tmp_path)
    chain = EffectChain(effects=(new_effect("blur"), new_effect("glow")))
    path = shelf.save(SavedEffects("Haze", chain))
    assert json.loads(path.read_text())["format"] == "rovix-effects"
    (found,) = EffectShelf(tmp_path).all()
    assert found.saved == SavedEffects("Haze", chain)
    project = project_of(title("Kite"), title("Wind", id="other"))
    for identity in ("title", "other"):
        project = add_effects(project, identity, found.saved.chain.effects)
    made = [effect for name in ("title", "other") for effect in clip_of(project, name).effects]
    assert len({effect.id for effect in made}) == 4
    assert inconsistencies(project) == []
    order = [EFFECTS[kind].facts.order for kind in ("blur", "glow")]
    assert [type(e).facts.order for e in clip_of(project, "title").effects] == sorted(order)


def test_what_is_kept_is_tied_to_no_layer():
    tied = Wipe(follows=Follow(layer="somewhere"))
    (loose,) = loose_effects((tied,))
    assert loose.follows is None


@pytest.mark.parametrize("chain", [{"effects": []}, {"effects": [{"effect": "spell"}]}, {}])
def test_a_file_that_holds_no_effects_is_refused(tmp_path, chain):
    path = tmp_path / "odd.json"
    path.write_text(json.dumps({"format": "rovix-effects", "version": 2, "name": "Odd", "effects": chain}))
    with pytest.raises(RovixError, match=r"odd\.json"):
        EFFECT_FILES.read(path)
