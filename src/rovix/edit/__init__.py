"""Edits: pure functions from a project to a project, and the history of them."""

from rovix.edit.bring_in import bring_in
from rovix.edit.clips import (
    add_text,
    move_clip,
    remove_clip,
    remove_clip_and_gap,
    split_clip,
    trim_end,
    trim_start,
)
from rovix.edit.history import History
from rovix.edit.moves import change_move, move_of, set_move_length, take_on
from rovix.edit.place import change_place, place_value, reset_place
from rovix.edit.tree import Spot, clip_by_id, find_clip, replace_clip
from rovix.edit.words import change_words

__all__ = [
    "History",
    "Spot",
    "add_text",
    "bring_in",
    "change_move",
    "change_place",
    "change_words",
    "clip_by_id",
    "find_clip",
    "move_clip",
    "move_of",
    "place_value",
    "remove_clip",
    "remove_clip_and_gap",
    "replace_clip",
    "reset_place",
    "set_move_length",
    "split_clip",
    "take_on",
    "trim_end",
    "trim_start",
]
