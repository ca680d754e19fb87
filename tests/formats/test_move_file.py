"""Moves as files, and the shelf that keeps them."""

import json

import jsonschema
import msgspec
import pytest

from rovix.engine.kept_shelf import MoveShelf, NameTaken
from rovix.errors import RovixError
from rovix.formats.move_file import MOVES, SavedMove, read_move, write_move
from rovix.model import Amount, Beats, Departure, InnerKey, Move
from rovix.motion.ready_moves import pop, ready_moves

replace = msgspec.structs.replace
EVERY = [move for role in ("entrance", "loop", "exit") for move in ready_moves(role)]


@pytest.mark.parametrize("move", EVERY, ids=lambda move: f"{move.role} {move.name}")
def test_a_move_comes_back_from_its_file_and_the_file_meets_its_schema(move, tmp_path):
    write_move(tmp_path / "m.json", SavedMove(move.name, move))
    assert read_move(tmp_path / "m.json") == SavedMove(move.name, move)
    # The jsonschema package, another reader of the same schema.
    jsonschema.validate(json.loads((tmp_path / "m.json").read_text(encoding="utf-8")), MOVES.schema())


def damaged(**changes):
    move = Move(id="m", role="loop", beats=Beats(), channels=(
        Departure(channel="rotation_z", keys=(InnerKey(at=0.0, amount=Amount(value=0.0)),
                                        InnerKey(at=1.0, amount=Amount(value=9.0)))),
    ))  # fmt: skip
    data = json.loads(MOVES.bytes_of(SavedMove("Own", move)))
    for path, value in changes.items():
        *way, last = path.split("__")
        spot = data
        for step in way:
            spot = spot[int(step) if step.isdigit() else step]
        spot[last] = value
    return json.dumps(data).encode()


@pytest.mark.parametrize(
    ("changes", "said"),
    [
        ({"format": "rovix-look"}, "its format is not 'rovix-move'"),
        ({"version": 9}, "newer Rovix"),
        ({"name": ""}, r"\$\.name"),
        ({"move__role": "wander"}, r"\$\.move\.role: 'wander' is none of"),
        ({"move__piece_curve": "swift"}, "'swift' is no easing"),
        ({"move__beats__phase": -1}, r"\$\.move\.beats\.phase"),
        ({"move__channels__0__keys__0__at": 1}, r"\$\.move\.channels\[0\].*at"),
        ({"move__channels__0__channel": "smell"}, "'smell' is none of"),
        (
            {"move__channels__0__keys__1__amount__unit": "off-frame"},
            "'off-frame' is a unit of x and y, not of rotation_z",
        ),
        ({"move__typing": {"rhythm": "tapped", "taps": [0.0, 0.4, 0.3]}}, r"taps.*do not rise"),
        ({"move__piece_sound": {"sound": ""}}, r"\$\.move\.piece_sound\.sound"),
    ],
)
def test_a_file_that_is_no_move_is_refused_with_the_reason(changes, said):
    with pytest.raises(RovixError, match=said):
        MOVES.parse("own.json", damaged(**changes))


def test_what_is_no_json_is_refused_by_name(tmp_path):
    (tmp_path / "a.json").write_text("{", encoding="utf-8")
    with pytest.raises(RovixError, match=r"a\.json is damaged or is no move"):
        read_move(tmp_path / "a.json")
    with pytest.raises(RovixError, match=r"b\.json could not be opened"):
        read_move(tmp_path / "b.json")


def test_fields_of_a_later_version_survive(tmp_path):
    content = damaged(move__shimmer=3)
    again = json.loads(MOVES.bytes_of(MOVES.parse("m.json", content)))
    assert again["move"]["shimmer"] == 3


def test_the_shelf_keeps_moves_by_role_and_asks_about_names(tmp_path):
    shelf = MoveShelf(tmp_path / "moves")
    assert shelf.all() == []
    sway, fade = ready_moves("loop")[0], ready_moves("exit")[4]
    shelf.save(SavedMove("Mine", sway))
    shelf.save(SavedMove("Out", fade))
    assert [item.saved.name for item in shelf.of_role("loop")] == ["Mine"]
    assert [item.saved.name for item in shelf.of_role("entrance")] == []
    with pytest.raises(NameTaken, match="There is already a move 'mine'"):
        shelf.save(SavedMove("mine", fade))
    (tmp_path / "moves" / "bad.json").write_text("[]", encoding="utf-8")
    assert len(shelf.all()) == 2
    assert "bad.json" in shelf.problems[0]


def test_a_whole_number_written_as_another_is_named():
    content = MOVES.bytes_of(SavedMove("Pop", pop())).replace(b'"count": 0', b'"count": 2.5', 1)
    with pytest.raises(RovixError, match="is no move that can be used here"):
        MOVES.parse("a.json", content)
    content = content.replace(b'"count": 2.5', b'"count": 2.0', 1)
    with pytest.raises(RovixError, match="is no move that can be used here"):
        MOVES.parse("a.json", content)


def test_a_move_under_a_very_long_name_is_kept(tmp_path):
    shelf = MoveShelf(tmp_path)
    path = shelf.save(SavedMove("Kite " * 60, pop()))
    assert len(path.name) < 100
    assert shelf.all()[0].saved.name == ("Kite " * 60).strip()
