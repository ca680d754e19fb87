from itertools import pairwise

import pytest

from builders import look_of, title
from rovix.engine.card_project import SIZE, card_project
from rovix.model import BackgroundClip
from rovix.model.consistency import inconsistencies
from rovix.motion import describe
from rovix.motion.ready_moves import READY_MOVES, ready_moves
from rovix.time import Rate

RATE = Rate(30)
ENTRANCES = [None, *(make("entrance") for make in READY_MOVES.values())]
EXITS = [None, *(make("exit") for make in READY_MOVES.values())]


LOOPS = [None, *ready_moves("loop")]


@pytest.mark.parametrize("moves", [ENTRANCES, LOOPS, EXITS], ids=["entrances", "loops", "exits"])
def test_cards_are_a_sound_project_and_do_not_meet(moves):
    project, cards = card_project(title("Larkmoor"), moves, RATE)
    # Copies share the ids of their parts, which nothing here goes by; all else is in order.
    assert [problem for problem in inconsistencies(project) if not problem.path.endswith(".id")] == []
    assert len(cards) == len(moves)
    for number, card in enumerate(cards):
        shown = describe(project, card.still)["layers"]
        assert {layer["id"].split("-")[0] for layer in shown} == {str(number)}
        running = describe(project, card.start)["layers"]
        assert [layer["id"] for layer in running] == [f"{number}-run"]


def test_a_still_shows_four_exposures_the_last_at_rest():
    project, cards = card_project(title("Larkmoor"), ENTRANCES, RATE)
    layers = describe(project, cards[2].still)["layers"]  # Rise and fade
    heights = [layer["pieces"][0]["y"] for layer in layers]
    assert len(layers) == 4
    assert heights == sorted(heights, reverse=True)
    assert heights[-1] == 0
    strengths = [layer["opacity"] for layer in layers]
    assert strengths == sorted(strengths)
    assert strengths[-1] == 1.0


@pytest.mark.parametrize(
    ("colour", "pale"), [("#fff8ea", False), ("#2c2a28", True), ("#e0522a", False), ("#10203a", True)]
)
def test_dark_words_stand_on_a_light_card(colour, pale):
    project, _ = card_project(title("Larkmoor", look=look_of(colour)), ENTRANCES, RATE)
    assert (project.sequence.background == "#b9b3a6") == pale


def test_what_goes_nowhere_is_shown_once_on_its_way_and_counting_has_a_number():
    moves = [move for move in ready_moves("entrance") if move.name in ("Uncover", "Count up")]
    project, cards = card_project(title("Larkmoor"), moves, RATE)
    uncover, count = (describe(project, card.still)["layers"] for card in cards)
    assert [layer["opacity"] for layer in uncover] == [0.0, 0.0, 0.0, 1.0]
    assert 0 < uncover[-1]["pieces"][0]["wipe"] < 1
    said = "".join(piece["text"] for piece in count[-1]["pieces"])
    assert said.strip() not in ("Larkmoor", "1,250")


@pytest.mark.parametrize("text", ["", "I", "Larkmoor", "A very long line of words indeed\nand another"])
def test_words_fill_the_card_and_stay_inside(text):
    project, cards = card_project(title(text), [None], RATE)
    left, top, right, bottom = describe(project, cards[0].still)["layers"][-1]["bounds"]
    assert -SIZE[0] / 2 < left < right < SIZE[0] / 2
    assert -SIZE[1] / 2 < top < bottom < SIZE[1] / 2
    assert max((right - left) / SIZE[0], (bottom - top) / SIZE[1]) > 0.45


def test_a_loops_card_plays_beats_that_join():
    project, cards = card_project(title("Larkmoor"), LOOPS, RATE)
    card = cards[1]  # Sway
    turns = [
        describe(project, frame)["layers"][0]["pieces"][0]["rotation_z"]
        for frame in range(card.start, card.start + card.length)
    ]
    assert turns[0] == turns[-1] == 0
    assert max(turns) == pytest.approx(4)
    assert sum(a < 0 <= b for a, b in pairwise(turns)) == 2


def test_a_card_runs_its_move_from_away_to_rest():
    project, cards = card_project(title("Larkmoor"), ENTRANCES, RATE)
    card = cards[1]  # Pop
    start = describe(project, card.start)["layers"][0]["pieces"][0]
    end = describe(project, card.start + card.length - 1)["layers"][0]["pieces"][0]
    assert start["scale_x"] == pytest.approx(0.4)
    assert end["scale_x"] == 1.0
    assert not isinstance(project.sequence.tracks[0].clips[0], BackgroundClip)
