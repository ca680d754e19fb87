"""Edits: pure functions from a project to a project, and the history of them."""

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
from rovix.edit.importing import import_media
from rovix.edit.moves import apply_move, change_move, move_of, set_move_length
from rovix.edit.text import change_text
from rovix.edit.transform import change_transform, reset_transform, transform_value
from rovix.edit.tree import Spot, clip_by_id, find_clip, replace_clip

__all__ = [
    "History",
    "Spot",
    "add_text",
    "apply_move",
    "change_move",
    "change_text",
    "change_transform",
    "clip_by_id",
    "find_clip",
    "import_media",
    "move_clip",
    "move_of",
    "remove_clip",
    "remove_clip_and_gap",
    "replace_clip",
    "reset_transform",
    "set_move_length",
    "split_clip",
    "transform_value",
    "trim_end",
    "trim_start",
]
