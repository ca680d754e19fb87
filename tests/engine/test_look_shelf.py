import json

import numpy as np
import pytest

from builders import title
from rovix.engine.card_project import look_project
from rovix.engine.kept_shelf import LookShelf, NameTaken
from rovix.errors import RovixError
from rovix.formats.look_file import SavedLook, read_look, write_look
from rovix.model import Fill, Glow, Look, Plain
from rovix.model.consistency import inconsistencies
from rovix.motion import picture_plan
from rovix.paint.painter import Painter
from rovix.time import Rate

LOOK = Look(parts=(Fill(id="f", paint=Plain(colour="#123456")), Glow(id="g", size=30.0)))


@pytest.fixture
def shelf(tmp_path):
    return LookShelf(tmp_path / "looks")


def own(shelf):
    return [look for look in shelf.all() if look.own]


def test_ready_looks_are_there_and_sound(shelf):
    ready = shelf.all()
    assert len(ready) >= 12
    assert not any(look.own for look in ready)
    assert shelf.problems == []
    project, cards = look_project(title("Larkmoor"), [(r.saved.look, r.saved.size) for r in ready], Rate(30))
    assert inconsistencies(project) == []
    pictures = [Painter(None).paint(picture_plan(project, card.still)) for card in cards]
    assert all(picture.any() for picture in pictures)
    assert len({picture.tobytes() for picture in pictures}) == len(ready), "no two look alike"


def test_a_look_is_kept_renamed_and_removed(shelf):
    path = shelf.save(SavedLook("Münster 9", 90.0, LOOK))
    assert path.name == "munster-9.json"
    (kept,) = own(shelf)
    assert kept.saved == SavedLook("Münster 9", 90.0, LOOK)
    shelf.rename(kept, "Harbour")
    assert [look.saved.name for look in own(shelf)] == ["Harbour"]
    shelf.remove(own(shelf)[0])
    assert own(shelf) == []


def test_a_name_that_is_taken_is_not_taken_over_unasked(shelf):
    shelf.save(SavedLook("Harbour", 90.0, LOOK))
    other = SavedLook("harbour", 60.0, Look(parts=()))
    with pytest.raises(NameTaken, match="'harbour'"):
        shelf.save(other)
    assert own(shelf)[0].saved.look == LOOK
    shelf.save(other, replacing=True)
    assert [look.saved for look in own(shelf)] == [other]
    shelf.save(SavedLook("風", 90.0, LOOK))
    shelf.save(SavedLook("波", 90.0, LOOK))
    assert sorted(look.path.name for look in own(shelf)) == ["harbour.json", "look-2.json", "look.json"]
    with pytest.raises(NameTaken):
        shelf.rename(own(shelf)[0], "風")
    with pytest.raises(RovixError, match="needs a name"):
        shelf.save(SavedLook("  ", 90.0, LOOK))


def test_a_damaged_look_is_passed_over_and_named(shelf, tmp_path):
    shelf.save(SavedLook("Good", 90.0, LOOK))
    (shelf.folder / "bad.json").write_text("{")
    (shelf.folder / "newer.json").write_text(json.dumps({"format": "rovix-look", "version": 7}))
    (shelf.folder / "wrong.json").write_text(
        json.dumps(
            {
                "format": "rovix-look",
                "version": 1,
                "name": "x",
                "size": 0,
                "look": {"parts": [{"part": "steam"}]},
            }
        )
    )
    assert [look.saved.name for look in own(shelf)] == ["Good"]
    said = "\n".join(shelf.problems)
    assert "bad.json" in said
    assert "newer Rovix" in said
    assert "$.size: 0 is not above 0" in said
    assert "$.look.parts[0]: 'steam' is no part this version knows" in said


def test_unknown_fields_of_a_look_survive(tmp_path):
    path = tmp_path / "a.json"
    write_look(path, SavedLook("A", 90.0, LOOK))
    data = json.loads(path.read_text(encoding="utf-8"))
    data["look"]["parts"][1]["shimmer"] = 3
    path.write_text(json.dumps(data), encoding="utf-8")
    write_look(path, read_look(path))
    assert json.loads(path.read_text(encoding="utf-8"))["look"]["parts"][1]["shimmer"] == 3


def test_cards_show_looks_at_the_size_of_the_cards_words():
    small, large = (
        look_project(title("Kite", text={"size": size}), [(LOOK, 120.0)], Rate(30))[0]
        for size in (40.0, 160.0)
    )
    one, other = (Painter(None).paint(picture_plan(project, 0)).astype(int) for project in (small, large))
    assert np.abs(one - other).max() <= 2
